/** The rhythm under the tab, read back from what is drawn: it adds up to the bars. */
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { arrange } from '../arrange/index.ts';
import { TICKS_PER_QUARTER, playedOrder, type Tune } from '../music/index.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { tuneOf } from '../test/testing.ts';
import { barMarksIn, lanesOf, sheetFacts, signsOf, writtenIn, type Shape } from './index.ts';

/** Every event at a place of its own, forty apart. */
function drawn(tune: Tune, lane: 'rhythm' | 'tab' = 'rhythm', barlines: readonly number[] = []) {
  const facts = sheetFacts(arrange(tune));
  const all = { from: 0, to: Infinity };
  const written = writtenIn(tune, all);
  const places = new Map(written.map(({ id }, index) => [id, 40 * (index + 1)]));
  const input = {
    ...facts,
    written,
    bars: barMarksIn(tune, all),
    x: (id: string) => places.get(id),
    width: 9999,
    barlines,
  };
  const [own] = lanesOf(input, [lane]);
  return { shapes: own!.shapes, written, places };
}

/** How long the signs at a note say that it is, in quarters; tuplets not counted. */
function lengthAt(shapes: readonly Shape[], id: string, x: number): number {
  const own = (role: Shape['role']) =>
    shapes.filter((shape) => 'note' in shape && shape.note === id && shape.role === role).length;
  const stem = shapes.find((shape) => shape.kind === 'line' && shape.role === 'stem' && shape.x1 === x);
  const heads = own('note-head');
  // Beams that touch the stem, told apart by their height.
  const beams = new Set(
    shapes.flatMap((shape) =>
      shape.kind === 'line' && shape.role === 'beam' && shape.x1 <= x && shape.x2 >= x ? [shape.y1] : [],
    ),
  ).size;
  const base = heads === 2 ? 8 : heads === 1 ? (stem ? 2 : 4) : 1 / 2 ** Math.max(beams, own('flag'));
  const dots = own('rhythm-dot');
  return base * (2 - 1 / 2 ** dots);
}

describe('rhythm', () => {
  it('tells every note’s length, whatever is written', () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const { shapes, written, places } = drawn(tune);
        const events = new Map(tune.bars.flatMap(({ events: own }) => own.map((event) => [event.id, event])));
        for (const { id, rest, tuplet } of written) {
          if (rest) continue;
          const told = lengthAt(shapes, id, places.get(id)!) * (tuplet ? tuplet.normal / tuplet.actual : 1);
          expect(told * TICKS_PER_QUARTER).toBeCloseTo(events.get(id)!.duration, 3);
        }
      }),
      { numRuns: 150 },
    );
  });

  it('beams by the beat, and a rest ends a beam', () => {
    const { shapes } = drawn(tuneOf('ABcd efzg |', { metre: '4/4' }));
    const beams = shapes.filter(
      (shape): shape is Shape & { kind: 'line' } => shape.kind === 'line' && shape.role === 'beam',
    );
    expect(beams.map(({ x1, x2 }) => [x1, x2])).toEqual([
      [40, 80],
      [120, 160],
      [200, 240],
    ]);
    expect(shapes.filter(({ role }) => role === 'flag')).toHaveLength(1);
  });

  it('beams a jig in threes', () => {
    const { shapes } = drawn(tuneOf('ABc def |', { metre: '6/8' }));
    expect(shapes.filter(({ role }) => role === 'beam')).toHaveLength(4);
  });

  it('joins rests in a row, and numbers triplets', () => {
    const { shapes } = drawn(tuneOf('(3ABc z2 z2 z2 |', { metre: '4/4' }));
    expect(shapes.flatMap((shape) => (shape.kind === 'text' && shape.role === 'tuplet' ? [shape.text] : []))).toEqual([
      '3',
    ]);
    const rests = shapes.filter(({ role }) => role === 'rest-bar');
    expect(rests).toHaveLength(1);
  });

  it('ties what is held, and tells in the legend just what is there', () => {
    const tune = tuneOf('A4- A2 z2 | (3Bcd e3/2f/2 G4 |', { metre: '4/4' });
    const { shapes } = drawn(tune);
    expect(shapes.filter(({ role }) => role === 'tie').length).toBeGreaterThan(0);
    expect(signsOf(sheetFacts(arrange(tune)), ['rhythm'])).toEqual(
      expect.arrayContaining(['half', 'quarter', 'eighth', 'sixteenth', 'dotted', 'rest', 'tie', 'tuplet3']),
    );
    expect(signsOf(sheetFacts(arrange(tuneOf('A4 B4 |'))), ['rhythm'])).toEqual(['half']);
  });
});

describe('bar lines in the tab', () => {
  /** Heavy and thin lines, dots and endings as they stand, and notes by their names: left to right. */
  function drawnBars(music: string, barlines: readonly number[]): string {
    const { shapes, written, places } = drawn(tuneOf(music), 'tab', barlines);
    const signs = shapes.flatMap((shape): readonly (readonly [number, string])[] => {
      if (shape.kind === 'line' && shape.role === 'repeat') return [[shape.x1, '#']];
      if (shape.kind === 'line' && shape.role === 'barline') return [[shape.x1, '|']];
      if (shape.kind === 'dot' && shape.role === 'repeat') return [[shape.x, ':']];
      if (shape.kind === 'text' && shape.role === 'metre') return [[shape.x, shape.text]];
      if (shape.kind === 'text' && shape.role === 'ending') return [[shape.x, shape.text]];
      return [];
    });
    const notes = written.map(({ id, rest, pitches }): readonly [number, string] => [
      places.get(id)!,
      rest ? 'z' : pitches[0]!.letter,
    ]);
    return [...signs, ...notes]
      .sort(([one], [other]) => one - other)
      .map(([, sign]) => sign)
      .join(' ')
      .replaceAll(': :', ':');
  }

  it('stand where bars end, with endings told', () => {
    expect(playedOrder(tuneOf('|: A8 |1 B8 :|2 c8 |]').bars)).toHaveLength(4);
    expect(drawnBars('|: A8 |1 B8 :|2 c8 |]', [60, 100, 140])).toBe('# | : A | 1. B : | # 2. C | #');
  });

  it('open a repeat after a pickup, where the engraver has no line', () => {
    // The engraver draws that line as the next bar's: it knows of two here, not of three.
    expect(drawnBars('D2 |: A8 | B8 :|', [100, 140])).toBe('D # | : A | B : | #');
    expect(drawnBars('D2 |: A8 | B6 :|: c2 | d8 :|', [100, 140, 180, 220])).toBe(
      'D # | : A | B : | # # | : C | D : | #',
    );
  });

  it('are followed by another metre where it changes', () => {
    expect(drawnBars('A8 | [M:3/4] B6 | c6 | [M:2/4] d4 |]', [60, 100, 140, 180])).toBe('A | 3 4 B | C | 2 4 D | #');
  });

  it('are one where a bar ends, two where a part ends, thin and heavy at the end', () => {
    expect(drawnBars('A8 | B8 || c8 |]', [60, 100, 140])).toBe('A | B | | C | #');
    expect(drawnBars('A8 | B8 |', [60, 100])).toBe('A | B |');
  });
});

describe('fingers one over the other', () => {
  it('have each its dot beside it, and under no other number', () => {
    // Low seconds and firsts in double stops, on neighbouring strings.
    const tune = tuneOf('[G4B4][Bbe]4 | [EB]4[cg]4 | [_Be]4 [=Fc]4 |', { key: 'F' });
    const facts = sheetFacts(arrange(tune));
    const [tab] = lanesOf(
      { ...facts, x: (id) => 40 * (1 + facts.notes.findIndex((note) => note.id === id)), width: 400, barlines: [] },
      ['tab'],
    );
    const stacked = facts.notes.filter(({ stops }) => stops.length > 1).map(({ id }) => id);
    expect(stacked.length).toBeGreaterThan(3);
    const at = (id: string) => 40 * (1 + facts.notes.findIndex((note) => note.id === id));
    const numbers = tab!.shapes.flatMap((shape) => (shape.kind === 'text' && shape.role === 'finger' ? [shape] : []));
    const dots = tab!.shapes.flatMap((shape, index) =>
      shape.kind === 'dot' && shape.role === 'finger-dot' && stacked.includes(shape.note ?? '')
        ? [{ ...shape, index }]
        : [],
    );
    expect(dots.length).toBeGreaterThan(1);
    for (const dot of dots) {
      const near = numbers
        .filter(({ note }) => note === dot.note)
        .map(({ y }) => Math.abs(y - dot.y))
        .sort((a, b) => a - b);
      // Clearly nearer to its own number than to any other.
      expect(near[1]! - near[0]!).toBeGreaterThan(4);
      expect(dot.x - at(dot.note!)).toBeGreaterThan(5.5);
      const covers = tab!.shapes
        .slice(dot.index + 1)
        .some(
          (shape) =>
            shape.kind === 'patch' &&
            dot.x > shape.x &&
            dot.x < shape.x + shape.width &&
            dot.y > shape.y &&
            dot.y < shape.y + shape.height,
        );
      expect(covers).toBe(false);
    }
  });
});
