import { describe, expect, it } from 'vitest';
import { XMLValidator } from 'fast-xml-parser';
import { FIRST_DECISIONS, arrange, markedTune, bestOctave, type Arrangement } from '../arrange/index.ts';
import { phrasesOf } from '../form/index.ts';
import { barStarts } from '../music/index.ts';
import { warmUpsOf } from '../warmup/index.ts';
import { deciding } from '../test/setups.ts';
import { tuneOf } from '../test/testing.ts';
import {
  PAPER_SIZE,
  SHEET_PRESETS,
  sheetLines,
  type Cuts,
  writtenIn,
  type SheetStyle,
  USUAL_STYLE,
  lanesOf,
  sheetFacts,
  sheetPages,
  signsOf,
  type EngravedLineOfSheet,
  type EngravedSheet,
  type Shape,
} from './index.ts';

const pagesOf = (arrangement: Arrangement, engraved: EngravedSheet, style?: SheetStyle) =>
  sheetPages([{ arrangement, engraved }], style);

const tune = tuneOf('|: (G2BG) dGBG | ABcA BGAB | c2ec B2dB | ABAG F2D2 :|', { key: 'G', tempo: '1/4=120' });
const arrangement = arrange(tune, deciding({ bow: { everyMark: true } }));
const [phrase] = phrasesOf(arrangement.form);

/** A stand-in for the engraver: notes in a row, two staff spaces apart. */
function engraved(ids: readonly string[], lineId = phrase!.id): EngravedLineOfSheet {
  const heads = Object.fromEntries(ids.map((id, index) => [id, { x: 6 + 2 * index, y: 3 }]));
  return {
    lineId,
    markup: '<g><text><tspan font-size="405px">B♭ &amp; c</tspan></text></g>',
    viewBox: `0 0 ${(8 + 2 * ids.length) * 180} 1800`,
    width: 8 + 2 * ids.length,
    height: 10,
    heads,
    barlines: [20, 40],
  };
}

function lanes() {
  const staff = engraved(phrase!.notes);
  return lanesOf({
    ...sheetFacts(arrangement),
    x: (id) => staff.heads[id]?.x,
    width: 100,
    barlines: [],
  });
}

describe('lanes', () => {
  it('puts every finger on its string, under its note', () => {
    const tab = lanes().find(({ id }) => id === 'tab')!;
    const fingers = tab.shapes.filter(
      (shape): shape is Shape & { kind: 'text' } => shape.kind === 'text' && shape.role === 'finger',
    );
    expect(fingers.map(({ text }) => Number(text))).toEqual(
      arrangement.fingering.notes.map(({ stops }) => stops[0]!.finger),
    );
    const rows = new Set(fingers.map(({ y }) => y));
    expect(rows.size).toBe(new Set(arrangement.fingering.notes.map(({ stops }) => stops[0]!.string)).size);
    const high = fingers.find(
      ({ note }) => arrangement.fingering.notes.find(({ id }) => id === note)!.stops[0]!.string === 2,
    )!;
    const low = fingers.find(
      ({ note }) => arrangement.fingering.notes.find(({ id }) => id === note)!.stops[0]!.string === 1,
    )!;
    expect(high.y).toBeLessThan(low.y);
  });

  it('dots a low finger below and shows one bow sign for each stroke', () => {
    const [bow, tab] = lanes();
    const low = tab!.shapes.filter(({ kind, role }) => kind === 'dot' && role === 'finger-dot');
    expect(low).toHaveLength(arrangement.fingering.notes.filter(({ stops }) => stops[0]!.sign === 'low').length);
    expect(bow!.shapes.filter(({ role }) => role === 'bow')).toHaveLength(arrangement.bowing.starts.size);
    expect(bow!.shapes.filter(({ role }) => role === 'stroke')).toHaveLength(1);
  });
});

it('lists exactly the signs that are used', () => {
  const signs = signsOf(sheetFacts(arrangement));
  expect(signs).toEqual(expect.arrayContaining(['down', 'up', 'slur', 'open', 'low', 'position']));
  expect(signs).not.toContain('high');
  expect(signs).not.toContain('retake');
});

describe('pages', () => {
  it('are well-formed SVG of the paper’s size, with title and every phrase', () => {
    const [page] = pagesOf(
      { ...arrangement, tune: { ...arrangement.tune, title: 'Łódź & Çeşme <live>' } },
      { lines: [engraved(phrase!.notes)] },
      { ...USUAL_STYLE, paper: 'letter' },
    );
    expect(XMLValidator.validate(page!)).toBe(true);
    expect(page).toContain(`width="${PAPER_SIZE.letter.width}"`);
    expect(page).toContain('Łódź &amp; Çeşme &lt;live&gt;');
    expect(page).toContain('>A1<');
  });

  it('sets words with letters that the text fonts lack whole in the fallback font, and signs alone', () => {
    const [page] = pagesOf(
      { ...arrangement, tune: { ...arrangement.tune, title: 'An ḟear ♭' } },
      {
        lines: [engraved(phrase!.notes)],
      },
    );
    expect(page).toContain(
      'An <tspan font-family="DejaVu Sans">ḟear</tspan> <tspan font-family="DejaVu Sans">♭</tspan>',
    );
  });

  it('go on over as many pages as the tune needs', () => {
    const long = arrange(tuneOf('G8 | A8 | B8 | c8 | '.repeat(16)), FIRST_DECISIONS);
    const staves = phrasesOf(long.form).map(({ id, notes }) => engraved(notes, id));
    const pages = pagesOf(long, { lines: staves });
    expect(pages.length).toBeGreaterThan(1);
    expect(pages.at(-1)).toContain(`${pages.length} of ${pages.length}`);
  });
});

describe('bar numbers', () => {
  const tune = tuneOf('D2 |: G8 | A8 | BcBA G4 | c4 B2 D2 | G8 | A8 | B8 | G6 :|', { key: 'G' });
  const own = arrange(tune, FIRST_DECISIONS);
  const lines = phrasesOf(own.form).map(({ id, notes }) => engraved(notes, id));
  const said = (barNumbers: SheetStyle['barNumbers']) =>
    [
      ...pagesOf(own, { lines }, { ...USUAL_STYLE, barNumbers })
        .join('')
        .matchAll(/>((?:bar )?\d+)<\/text>/g),
    ]
      .map(([, text]) => text!)
      .filter((text) => text.startsWith('bar ') || Number(text) > 4);

  it('stand at the beginning of each line, or over each bar, or nowhere', () => {
    expect(said('lines')).toEqual(['bar 1', 'bar 5']);
    expect(said('bars')).toEqual(['5', '6', '7', '8']);
    expect(said('none')).toEqual([]);
  });
});

describe('layouts', () => {
  const long = arrange(
    tuneOf('D2 |: G8 | A8 | BcBA G4 | c4 B2 D2 | G8 | A8 | B8 | G6 :|', { key: 'G' }),
    FIRST_DECISIONS,
  );
  const phrases = phrasesOf(long.form);
  const lines = (layout: SheetStyle['layout'], phrase: string | null = null, cuts?: Cuts) =>
    sheetLines(long.tune, long.form, { layout, phrase }, cuts);
  const staves = (layout: SheetStyle['layout']) =>
    lines(layout).map(({ id, from, to }) =>
      engraved(
        writtenIn(long.tune, { from, to }).map((one) => one.id),
        id,
      ),
    );

  it('cut phrases at bar lines where they are set large, the pickup with its bar, and lose nothing', () => {
    // Four bars each, wide enough for two lines.
    const big = lines('big', null, new Map(phrases.map(({ id }) => [id, 2])));
    expect(big.map(({ from }) => from)).toEqual(big.map(({ from }) => from).sort((a, b) => a - b));
    expect(big[0]!.from).toBe(phrases[0]!.from);
    expect(big.at(-1)!.to).toBe(phrases.at(-1)!.to);
    big.slice(1).forEach(({ from }, index) => expect(from).toBe(big[index]!.to));
    const starts = barStarts(long.tune.bars);
    const begins = new Set(phrases.map(({ from }) => from));
    for (const { from } of big) expect(begins.has(from) || starts.includes(from)).toBe(true);
    // Two bars a line, and the pickup: never the pickup alone.
    for (const { from, to } of big) expect(to - from).toBeLessThanOrEqual(2 * 13440 + 3360);
    for (const { from, to } of big) expect(to - from).toBeGreaterThan(3360);
  });

  it('put one phrase on a card, and only its signs into the legend', () => {
    expect(new Set(lines('cue', phrases[1]!.id).map(({ phrase }) => phrase.id))).toEqual(new Set([phrases[1]!.id]));
    expect(lines('cue', 'nowhere')[0]!.phrase.id).toBe(phrases[0]!.id);
    const style = { ...USUAL_STYLE, ...SHEET_PRESETS.cue, phrase: phrases[1]!.id };
    const [page] = pagesOf(long, { lines: staves('phrases') }, style);
    expect(page).not.toContain('half a quarter');
  });

  it('stand as many phrases on a line as fit', () => {
    const one = pagesOf(long, { lines: staves('phrases') }, { ...USUAL_STYLE, layout: 'phrases' }).join('');
    const wide = pagesOf(long, { lines: staves('width') }, { ...USUAL_STYLE, layout: 'width', landscape: true }).join(
      '',
    );
    const tops = (svg: string) =>
      new Set([...svg.matchAll(/<text x="[\d.]+" y="([\d.]+)"[^>]*>[AB]\d</g)].map(([, y]) => y));
    expect(tops(one).size).toBe(phrases.length);
    expect(tops(wide).size).toBeLessThan(phrases.length);
  });

  it('say under a phrase what is said of it, in lines that stay on the paper', () => {
    const said = new Map([[phrases[0]!.id, 'Rock the bow like a boat. '.repeat(12).trim()]]);
    const [page] = pagesOf(long, { lines: staves('phrases'), said }, { ...USUAL_STYLE, talk: true });
    const told = [...page!.matchAll(/>(Rock[^<]*|[^<]*boat[^<]*)</g)].map(([, text]) => text!);
    expect(told.join(' ')).toBe(said.get(phrases[0]!.id));
    expect(told.length).toBeGreaterThan(1);
  });
});

describe('kinds of pages', () => {
  const only = (pages: SheetStyle['pages'], more: Partial<SheetStyle> = {}) =>
    pagesOf(
      arrangement,
      {
        lines: [engraved(phrase!.notes)],
        first: engraved(phrase!.notes),
        warmUps: warmUpsOf(arrangement).map((warmUp) => ({
          warmUp,
          staff: engraved(
            warmUp.arrangement.tune.bars.flatMap(({ events }) => events.map(({ id }) => id)),
            warmUp.id,
          ),
        })),
      },
      { ...USUAL_STYLE, pages, ...more },
    );

  it('tell how the tab is read, from the first phrase', () => {
    const page = only(['how']).join('');
    expect(page).toContain('How to read this');
    expect(page).toContain('E is on top');
    expect(page).toContain('Here you begin: 3 on the D string. It sounds G.');
    expect(page).toContain('each bar has 4 beats');
    expect(page).toMatch(/Low finger: here first on C in bar \d/);
  });

  it('hold the warm-ups, each with its name and its tempo', () => {
    const page = only(['warmups']).join('');
    for (const { title } of warmUpsOf(arrangement)) expect(page).toContain(`>${title}<`);
  });

  it('show what is new of the tune, and in which order it is learned', () => {
    const page = only(['weave']).join('');
    const { newBars, totalBars } = arrangement.form.learn;
    expect(page).toContain(`Learn ${newBars} bars, play ${totalBars}`);
    expect([...page.matchAll(/<rect [^>]*rx="7"/g)]).toHaveLength(arrangement.form.bars.length);
    expect(page).toContain(`then you play ${totalBars} of ${totalBars}`);
  });

  it('are empty tab lines to write on', () => {
    const [page, ...others] = only(['blank']);
    expect(others).toEqual([]);
    expect([...page!.matchAll(/>E</g)].length).toBeGreaterThan(4);
  });

  it('come in one order, numbered through', () => {
    const pages = only(['blank', 'tune', 'how']);
    expect(pages[0]).toContain('>A1<');
    expect(pages[1]).toContain('How to read this');
    expect(pages[2]).toContain('3 of 3');
  });

  it('have a fingerboard beside each phrase, with its notes and the tapes', () => {
    const page = only(['tune'], { fingerboard: true }).join('');
    const places = new Set(
      arrangement.fingering.notes.flatMap(({ stops }) =>
        stops.map(({ string, semitones }) => `${string} ${semitones}`),
      ),
    );
    expect([...page.matchAll(/<circle [^>]*fill="#ffffff"/g)]).toHaveLength(places.size);
    expect(page.match(/stroke-width="3"\/>/g)).toHaveLength(4);
    const own = only(['tune'], { fingerboard: true, tapes: [{ semitones: 3, colour: '#123456' }] }).join('');
    expect(own).toContain('stroke="#123456"');
  });
});

describe('arrangements', () => {
  it('write fingers, strings and bows into the tune for files', () => {
    const first = markedTune(arrangement).bars[0]!.events[0]!;
    expect(first).toMatchObject({ bow: 'down', heads: [{ finger: '3', string: 3 }] });
  });

  it('find the octave in which an instrument reaches most', () => {
    // An octave down its E would lie a semitone above the cello's extended first position.
    expect(bestOctave(tune, deciding({ instrument: 'cello' }))).toBe(-24);
    expect(bestOctave(tune, FIRST_DECISIONS)).toBe(0);
  });
});
