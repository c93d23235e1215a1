/** Patterns as data, the short value that prevails, and where they suit. */
import { describe, expect, it } from 'vitest';
import { analyseForm } from '../form/index.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import {
  PATTERNS,
  PATTERN_IDS,
  bowSlice,
  bowTune,
  patternOf,
  prevailingShort,
  recordedPattern,
  spanOf,
  suits,
  usualPatterns,
  type BowDecisions,
} from './index.ts';

const FOUR = { beats: 4, unit: 4 } as const;
const SIX = { beats: 6, unit: 8 } as const;
const EIGHTH = 1680;

function bowed(music: string, decided: Partial<BowDecisions>, header: Header = {}) {
  const tune = tuneOf(music, header);
  return bowTune(tune, analyseForm(tune), { ...bowSlice.first, ...decided });
}
const sizes = (music: string, decided: Partial<BowDecisions>, header?: Header) =>
  bowed(music, decided, header).strokes.map(({ notes }) => notes.length);

describe('the short value that prevails', () => {
  const short = (durations: readonly number[], metre: { beats: number; unit: 2 | 4 | 8 } = FOUR) =>
    prevailingShort(durations.map((duration) => ({ duration, metre })));
  it.each([
    ['the most frequent part of a beat', [3360, 1680, 1680, 840], 1680],
    ['of equals the longer', [1680, 840], 1680],
    ['long and short of three to one as two even ones', [2520, 840, 2520, 840], 1680],
    ['long and short of a swung triplet too', [2240, 1120], 1680],
    ['the beat where nothing is shorter', [3360, 6720], 3360],
    ['the beat where there is nothing', [], 3360],
  ])('is %s', (_, durations, expected) => expect(short(durations)).toBe(expected));

  it('is an eighth in a jig, whatever its quarters', () => {
    expect(short([3360, 1680, 3360, 1680], { beats: 6, unit: 8 })).toBe(1680);
  });
});

describe('patterns', () => {
  it('have the ids that the command line and files know', () => {
    expect(PATTERN_IDS).toEqual(expect.arrayContaining(['separate', 'pairs', 'one-and-three', 'by-syllable']));
    expect(new Set(PATTERN_IDS).size).toBe(PATTERN_IDS.length);
    for (const { id, groups } of PATTERNS) expect(spanOf({ groups }), id).toBeGreaterThan(0);
  });

  it.each([
    ['pairs', FOUR, true],
    ['pairs', SIX, false],
    ['two-and-one', SIX, true],
    ['two-and-one', FOUR, false],
    ['across-threes', { beats: 3, unit: 4 }, false],
    ['one-and-three', { beats: 2, unit: 4 }, true],
    ['separate', SIX, true],
  ] as const)('%s in %o: %s', (id, metre, expected) => {
    expect(suits(patternOf(id)!, metre, EIGHTH)).toBe(expected);
  });

  it('say where they do not suit, and what cuts them', () => {
    const kinds = (music: string, decided: Partial<BowDecisions>, header?: Header) =>
      bowed(music, decided, header).exceptions.map(({ kind, note }) => `${kind} ${note}`);
    expect(kinds('ABc def | g6 |', { pattern: 'pairs' }, { metre: '6/8' })).toEqual(['metre n1']);
    expect(kinds('ABBd efga |', { pattern: 'one-and-three' })).toEqual(['repeated-pitch n3']);
    expect(kinds('ABzd efga |', { pattern: 'one-and-three' })).toEqual(['rest n4']);
    expect(kinds('A(Bc)d efga |', { pattern: 'pairs' })).toEqual(['kept-slur n2', 'kept-slur n3', 'kept-slur n4']);
    expect(kinds('(ABcd) e4 |', { maxSlur: 2 })).toEqual(['limit n3']);
    expect(kinds('A2 z2 c4 |', { slurs: { n3: 'joined' } })).toEqual(['own-rest n3']);
  });

  it('are laid over a stretch, and over the second half of its bars; the later wins', () => {
    const whole = { from: 'n1', to: 'n16' };
    expect(sizes('ABcd efga | ABcd efga |', { laid: [{ from: 'n1', to: 'n8', pattern: 'pairs' }] })).toEqual([
      2, 2, 2, 2, 1, 1, 1, 1, 1, 1, 1, 1,
    ]);
    expect(
      sizes('ABcd efga | ABcd efga |', { laid: [{ ...whole, pattern: 'one-and-three', secondHalf: true }] }),
    ).toEqual([1, 1, 1, 1, 1, 3, 1, 1, 1, 1, 1, 3]);
    const both = [
      { ...whole, pattern: 'pairs' },
      { from: 'n9', to: 'n16', pattern: null },
    ];
    expect(sizes('ABcd efga | ABcd efga |', { laid: both })).toEqual([2, 2, 2, 2, 1, 1, 1, 1, 1, 1, 1, 1]);
  });

  it('moved over the beat go on over the bar line, and not into the next phrase', () => {
    expect(sizes('ABcd efga | ABcd efga |', { pattern: 'pairs-across' })).toEqual([1, 2, 2, 2, 2, 2, 2, 2, 1]);
  });

  it('of the teacher’s own are as good as others', () => {
    const own = [{ id: 'own-1', name: 'Three and five', groups: [3, 5], suits: 'any' as const }];
    expect(sizes('ABcd efga |', { own, pattern: 'own-1' })).toEqual([3, 5]);
    // A pattern that nobody knows any more plays separate.
    expect(sizes('ABcd efga |', { pattern: 'own-9' })).toEqual([1, 1, 1, 1, 1, 1, 1, 1]);
  });

  it('leave parts their own school', () => {
    const { strokes } = bowed('|: A4 B2 c2 | A4 G2 F2 :|: e4 f2 g2 | a4 f2 d2 :|', {
      schools: { B: 'down-on-the-beat' },
    });
    const inB = strokes.filter(({ notes }) => Number(notes[0]!.slice(1)) > 6);
    expect(inB.every(({ notes }) => notes.length <= 2) && inB.some(({ notes }) => notes.length === 2)).toBe(true);
    expect(strokes.slice(0, 6).every(({ notes }) => notes.length === 1)).toBe(true);
  });

  it('are recorded from strokes, by the short value and from their place in the bar', () => {
    const record = (music: string, decided: Partial<BowDecisions>, from: number, to: number, header?: Header) => {
      const tune = tuneOf(music, header);
      const { strokes } = bowTune(tune, analyseForm(tune), { ...bowSlice.first, ...decided });
      return recordedPattern(tune, strokes.slice(from, to));
    };
    expect(record('A(Bcd) efga |', {}, 0, 2)).toEqual({ groups: [1, 3], suits: 'simple' });
    // A quarter is two short values, whatever is tied.
    expect(record('A2 (Bc) d-d ef |', {}, 0, 3)).toEqual({ groups: [2, 2, 2], suits: 'simple' });
    expect(record('ABcd efga |', { pattern: 'pairs-across' }, 1, 3)).toEqual({
      groups: [2, 2],
      offset: 1,
      suits: 'simple',
    });
    expect(record('(AB)c !accent!def |', {}, 0, 3, { metre: '6/8' })).toEqual({
      groups: [2, 1, 1],
      accents: [3],
      suits: 'compound',
    });
    expect(record('A8 |', {}, 0, 0)).toBeNull();
  });

  it('are known for styles', () => {
    expect(usualPatterns('Reel')).toEqual(['one-and-three', 'pairs-across']);
    expect(usualPatterns('something else')).toEqual([]);
  });
});
