/** What a teacher does to parts and phrases, and what stays of it. */
import { describe, expect, it } from 'vitest';
import { changeBetween, applyChange, deleteBars, invertChange } from '../edit/index.ts';
import { transposeTune, type Tune } from '../music/index.ts';
import { partingText } from '../words/index.ts';
import { tuneOf } from '../test/testing.ts';
import {
  analyseForm,
  forgetParting,
  freePhrase,
  holdPhrase,
  joinPhrases,
  markPart,
  moveBoundary,
  namePhrase,
  nudgeBoundary,
  phrasesOf,
  splitPhrase,
  type PartingResult,
} from './index.ts';

const REEL = tuneOf(
  'D2 |: G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG FDEF | G2BG dGBG | ABcA BGAB | c2ec B2dB | AFDF G2D2 :|\n|: d2gd Bdgd | e2ge cege | d2gd BdAc | BAGB A4 | d2gd Bdgd | e2gf edcB | c2ec BdAc | BAGF G4 :|',
  { key: 'G' },
);

const phrases = (tune: Tune) => phrasesOf(analyseForm(tune));
const shape = (tune: Tune) =>
  phrases(tune).map(({ label, start, held }) => `${label} ${start.bar}.${start.beat}${held ? ' held' : ''}`);
const noteAt = (tune: Tune, bar: number, index: number) => tune.bars[bar]!.events[index]!.id;

function must(result: PartingResult): Tune {
  if (!result.ok) throw new Error(result.why);
  return result.tune;
}
const why = (result: PartingResult) => (result.ok ? '' : partingText(result.why));

describe('boundaries', () => {
  it('move to any note, and hold the phrases on both sides', () => {
    const [, second] = phrases(REEL);
    const moved = must(moveBoundary(REEL, second!.from, noteAt(REEL, 5, 2)));
    expect(shape(moved)).toEqual(['A1 0.4 held', 'A2 5.2.5 held', 'B1 9.1', 'B2 13.1']);
  });

  it('step note by note, over slurs and ties to where a phrase can begin', () => {
    const slurred = tuneOf('G8 | A8 | B8 | A2 (Bcd) e3 | G8 | A8 | B8 | G8 |]');
    const [, second] = phrases(slurred);
    const earlier = must(nudgeBoundary(slurred, second!.from, -1));
    expect(shape(earlier)[1]).toBe('A2 4.3.5 held');
    // Before the slur, not inside it.
    const before = must(nudgeBoundary(earlier, phrases(earlier)[1]!.from, -1));
    expect(shape(before)[1]).toBe('A2 4.2 held');
  });

  it('split where a note is, and join again', () => {
    const split = must(splitPhrase(REEL, noteAt(REEL, 3, 0)));
    expect(shape(split).slice(0, 3)).toEqual(['A1 0.4 held', 'A2 3.1 held', 'A3 4.4']);
    const joined = must(joinPhrases(split, phrases(split)[1]!.from));
    expect(shape(joined).slice(0, 2)).toEqual(['A1 0.4 held', 'A2 4.4']);
  });

  it('take the beginning of their part along', () => {
    const form = analyseForm(REEL);
    const start = form.parts[1]!.phrases[0]!;
    const moved = must(moveBoundary(REEL, start.from, noteAt(REEL, 8, 4)));
    const [a, b] = analyseForm(moved).parts;
    expect([a!.label, b!.label]).toEqual(['A', 'B']);
    expect(b!.phrases[0]!.start).toEqual({ bar: 8, beat: 3 });
  });

  it('say why not', () => {
    const tied = tuneOf('G8 | A4 B4- | B4 c4 | d8 | G8 | A8 | B8 | G8 |]');
    const [first, second] = phrases(REEL);
    expect(why(moveBoundary(REEL, first!.from, noteAt(REEL, 2, 0)))).toBe(
      'The tune begins here; this place cannot be moved.',
    );
    expect(why(moveBoundary(REEL, second!.from, noteAt(REEL, 12, 0)))).toBe('A phrase needs at least one note.');
    expect(why(splitPhrase(REEL, second!.notes[0]!))).toBe('A phrase begins here already.');
    expect(why(splitPhrase(tied, noteAt(tied, 2, 0)))).toContain('inside a tie');
    expect(why(splitPhrase(tuneOf('(G4 A4) | B8 |'), 'n2'))).toContain('under a slur');
    expect(why(joinPhrases(REEL, 0))).toBe('There is no phrase before this one.');
    expect(why(markPart(REEL, 0, false))).toContain('so does its first part');
    expect(why(splitPhrase(REEL, 'gone'))).toBe('There is no such note.');
  });
});

describe('names, parts and holding', () => {
  it('name a phrase, and take the name away again', () => {
    const named = must(namePhrase(REEL, 0, ' The climb '));
    expect(phrases(named)[0]).toMatchObject({ label: 'The climb', named: true, held: true });
    expect(phrases(must(namePhrase(named, 0, '')))[0]!.label).toBe('A1');
  });

  it('begin a part with a phrase and name it; a name may come twice', () => {
    const second = phrases(REEL)[1]!;
    const marked = must(markPart(REEL, second.from, true, 'Turn'));
    expect(analyseForm(marked).parts.map(({ label }) => label)).toEqual(['A', 'Turn', 'B']);
    expect(phrases(marked).map(({ label }) => label)).toEqual(['A1', 'Turn', 'B1', 'B2']);
    expect(analyseForm(must(markPart(marked, second.from, false))).parts).toHaveLength(2);
  });

  it('hold a phrase and free it', () => {
    const held = must(holdPhrase(REEL, 0));
    expect(phrases(held)[0]!.held).toBe(true);
    const free = must(freePhrase(held, 0));
    expect(free.parting).toBeNull();
    expect(shape(free)).toEqual(shape(REEL));
  });

  it('let go of everything', () => {
    const changed = must(namePhrase(must(splitPhrase(REEL, noteAt(REEL, 3, 0))), 0, 'One'));
    expect(shape(forgetParting(changed))).toEqual(shape(REEL));
  });
});

describe('what was decided', () => {
  const split = must(splitPhrase(REEL, noteAt(REEL, 3, 0)));

  it('goes along into another key', () => {
    expect(shape(transposeTune(split, 5))).toEqual(shape(split));
  });

  it('keeps its place by the bar when its note is gone, and rests when the bar is', () => {
    const bars = split.bars.map((bar, index) =>
      index === 3 ? { ...bar, events: bar.events.map((event) => ({ ...event, id: `${event.id}x` })) } : bar,
    );
    expect(shape({ ...split, bars }).slice(0, 2)).toEqual(shape(split).slice(0, 2));
    const without = deleteBars(split, { from: 3, to: 3 });
    expect(phrases(without).flatMap(({ notes }) => notes)).toEqual(
      without.bars.flatMap(({ events }) => events.map(({ id }) => id)),
    );
  });

  it('is a step of the tune’s history that can be taken back', () => {
    const change = changeBetween(REEL, split)!;
    expect(Object.keys(change)).toEqual(['fields']);
    const stored = JSON.parse(JSON.stringify(change)) as typeof change;
    expect(shape(applyChange(REEL, stored))).toEqual(shape(split));
    expect(shape(applyChange(split, invertChange(stored)))).toEqual(shape(REEL));
  });
});
