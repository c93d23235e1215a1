/** What is printed in how many lines, what is only named, what the legend tells, and the lines for a lesson. */
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, decided } from '../arrange/index.ts';
import { phrasesOf } from '../form/index.ts';
import { lockOf } from '../hand/index.ts';
import { SHEET_PRESETS, USUAL_STYLE, type SheetStyle } from '../paper/index.ts';
import { tuneOf } from '../test/testing.ts';
import { cutsOf, printedLines, roomsOf, sheetPages } from './index.ts';
import { dayText, practiceTempos } from './lessonHead.ts';
import { legendOf } from './legend.ts';
import { signsOf } from './lanes/index.ts';
import { shownFacts } from './sheetFacts.ts';

const of = (abc: string, key = 'D') => arrange(tuneOf(abc, { key }));
const FOLDED: SheetStyle = { ...USUAL_STYLE, folded: true };
const AABA =
  'D2FA d2cd | e2dc B2A2 | B2cd e2dc | d8 | D2FA d2cd | e2dc B2A2 | B2cd e2dc | d8 | ' +
  'f2ed c2BA | B2AG F2ED | E2FG A2Bc | e8 | D2FA d2cd | e2dc B2A2 | B2cd e2dc | d8 |]';

describe('phrases that come again', () => {
  const tune = of(AABA);
  const [first] = phrasesOf(tune.form);

  it('are named where they are printed sign by sign as one before', () => {
    const lines = printedLines(tune, FOLDED);
    const named = lines.filter(({ as }) => as !== null);
    expect(named.length).toBeGreaterThan(0);
    for (const { as } of named) expect(as!.label).toBe(first!.label);
  });

  it('are printed where that is wished, and always on a card', () => {
    expect(printedLines(tune, USUAL_STYLE).every(({ as }) => as === null)).toBe(true);
    expect(printedLines(tune, { ...FOLDED, layout: 'cue' }).every(({ as }) => as === null)).toBe(true);
  });

  it('are printed where a finger is another one', () => {
    const again = phrasesOf(tune.form).find(({ id }) =>
      printedLines(tune, FOLDED).some((line) => line.as && line.phrase.id === id),
    )!;
    const note = tune.fingering.notes.find(
      ({ of: id, alternatives }) => again.notes.includes(id) && alternatives.length > 0,
    )!;
    const [other] = note.alternatives;
    const locks = { [note.id]: lockOf(other!, 'violin') };
    const locked = arrange(tune.tune, decided(FIRST_DECISIONS, { hand: { locks } }));
    expect(locked.fingering.notes.find(({ id }) => id === note.id)!.stops).not.toEqual(note.stops);
    expect(printedLines(locked, FOLDED).find(({ phrase }) => phrase.notes.includes(note.of))!.as).toBeNull();
  });

  it('say so where they are played on the other bow, and how they begin', () => {
    // Seven strokes to the phrase: it begins down, then up.
    const half = 'd4 e4 | f4 e4 | d4 f4 | d8 |';
    const odd = of(`${half} ${half}]`);
    const begins = odd.bowing.phrases.map(({ startsWith }) => startsWith);
    const named = printedLines(odd, FOLDED).map(({ as }) => as);
    expect(begins).toEqual(['down', 'up']);
    expect(named).toEqual([null, { label: 'A1', begins: 'up' }]);
  });
});

describe('a phrase that is too wide', () => {
  it('is cut into as many lines as it needs, more where it is set larger', () => {
    const cuts = (width: number, some: Partial<SheetStyle> = {}) =>
      cutsOf(new Map([['p', width]]), { ...USUAL_STYLE, ...some }).get('p') ?? 1;
    expect(cuts(80)).toBe(1);
    expect(cuts(200)).toBe(2);
    expect(cuts(80, { layout: 'big' })).toBe(2);
    expect(cuts(80, { size: 'largest' })).toBe(2);
    expect(cuts(80, { landscape: true, layout: 'big' })).toBe(1);
  });
});

describe('room for what stands on the lanes', () => {
  const tune = tuneOf('B B B B | c c c c |', { key: 'G', unit: '1/4' });

  it('is asked for where a word is wider than notes stand apart', () => {
    const sung = {
      ...tune,
      bars: tune.bars.map((bar) => ({
        ...bar,
        events: bar.events.map((event) =>
          event.kind === 'note' ? { ...event, words: [{ text: 'strengthened' }] } : event,
        ),
      })),
    };
    const arrangement = arrange(sung);
    const [phrase] = phrasesOf(arrangement.form);
    const rooms = roomsOf(arrangement, phrase!, USUAL_STYLE).flat();
    expect(Math.max(...rooms.map(({ width }) => width))).toBeGreaterThan(8);
  });
});

describe('the legend', () => {
  const legend = (abc: string, some: Partial<SheetStyle> = {}) => {
    const style: SheetStyle = { ...USUAL_STYLE, ...some };
    return legendOf(signsOf(shownFacts(of(abc), style), style.lanes)).map(({ text }) => text);
  };
  it.each([
    ['(3ABc d2 e4 |', SHEET_PRESETS.tab, 'three in the time of two'],
    ['(5:4:5ABcde d4 |', SHEET_PRESETS.tab, 'five in the time of four'],
    ['{A}d4 e4 |', {}, 'small: quickly, before its note'],
    ['|: d4 e4 :|', {}, 'from dots to dots again'],
    ['|: d4 e4 |1 f8 :|2 d8 |]', {}, 'how it ends each time'],
    ["g''8 |", {}, 'not on this instrument: leave it out'],
  ] as const)('%s', (abc, style, text) => {
    expect(legend(abc, style)).toContain(text);
    expect(legend('d4 e4 |', style)).not.toContain(text);
  });
});

describe('the lines for a lesson', () => {
  it('say five tempos in the unit of the metre, and the day', () => {
    expect(practiceTempos({ beats: 6, unit: 8 }, 150)).toEqual(['dotted quarter = 60', '70', '80', '90', '100']);
    expect(dayText('2026-03-04')).toBe('4 March 2026');
  });

  it('stand at the top, with the learner’s name and what is to be done', () => {
    const tune = of('d4 e4 | f8 |]');
    const decisions = decided(FIRST_DECISIONS, {
      hand: { learner: { name: 'Ida', limits: {} } },
      sheet: { lesson: { date: '2026-03-04', next: 'Second part without slurs.' } },
    });
    const page = (style: SheetStyle) =>
      sheetPages([{ arrangement: { ...tune, decisions }, engraved: { lines: [] } }], style)[0]!;
    for (const text of ['Ida', '4 March 2026', 'Second part without slurs.', 'quarter = 58']) {
      expect(page({ ...USUAL_STYLE, lesson: true })).toContain(text);
      expect(page(USUAL_STYLE)).not.toContain(text);
    }
  });
});
