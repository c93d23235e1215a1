/** The bow on its hair: natural lengths, the drift, and the plan, against the formulas and an independent search. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { analyseForm } from '../form/index.ts';
import { INSTRUMENT, LIKE_USUAL, madeInstrument, type InstrumentId } from '../instrument/index.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { tuneOf } from '../test/testing.ts';
import { bowSlice, bowTune, travelOf, type BowDecisions } from './index.ts';

function travel(
  music: string,
  { tempo = 120, instrument = 'violin' as InstrumentId, header = {}, decided = {} as Partial<BowDecisions> } = {},
) {
  const tune = tuneOf(music, header);
  const form = analyseForm(tune);
  const bowing = bowTune(tune, form, { ...bowSlice.first, ...decided }, tempo);
  return { ...travelOf(bowing, tune, form, tempo, INSTRUMENT[instrument]), bowing, form };
}

describe('natural strokes', () => {
  it.each([
    // A quarter at 120 lasts half a second: 320 mm a second, down-bows four in a hundred longer.
    ['mezzo-forte, a quarter down and one up', 'A2 B2 c4 |', [166.4, 160]],
    ['piano', '!p!A2 B2 c4 |', [93.6, 90]],
    ['fortissimo, from the second note on', 'A2 !ff!B2 c4 |', [166.4, 300]],
    ['an accent', '!accent!A2 B2 c4 |', [191.36, 160]],
  ])('%s', (_, music, expected) => {
    const { strokes } = travel(music);
    expected.forEach((length, index) => expect(strokes[index]!.natural).toBeCloseTo(length, 6));
  });

  it('take all notes of their slur, and less time at a quicker tempo', () => {
    expect(travel('(A2 B2) c4 |').strokes[0]!.natural).toBeCloseTo(332.8, 6);
    expect(travel('A2 B2 c4 |', { tempo: 240 }).strokes[0]!.natural).toBeCloseTo(83.2, 6);
  });
});

describe('if nothing is done', () => {
  it('begins 100 mm from the frog with a down-bow, from the tip with an up-bow', () => {
    expect(travel('A2 B2 c4 |').strokes[0]!.drift.start).toBe(100);
    expect(travel('A2 B2 c4 |', { decided: { start: 'up' } }).strokes[0]!.drift.start).toBe(550);
  });

  it('an even run of separate bows drifts by the surplus of its down-bows, and by nothing else', () => {
    const { strokes } = travel('ABcd ABcd | ABcd ABcd |');
    // 80 mm a stroke, 83.2 down: 3.2 for each pair.
    strokes.forEach(({ drift }, index) => {
      if (index % 2 === 0) expect(drift.start).toBeCloseTo(100 + (index / 2) * 3.2, 6);
    });
  });

  it('runs out where the hair ends, said once', () => {
    const { flags, strokes } = travel(`(${'A8 | '.repeat(3)}A8) | B2 c2 d4 |`);
    expect(flags[0]).toMatchObject({ kind: 'out-of-bow', note: 'n1' });
    expect(strokes[0]!.drift.end).toBeGreaterThan(650);
    expect(flags.filter(({ kind }) => kind === 'out-of-bow')).toHaveLength(1);
  });

  it('a long and a short slur in turn move towards the tip', () => {
    const { strokes } = travel('(AB)c (AB)c AB | (cd)e (cd)e cd |');
    expect(strokes.at(-1)!.drift.end).toBeGreaterThan(strokes[0]!.drift.start + 200);
  });
});

describe('the plan', () => {
  it('leaves even strokes their natural length', () => {
    const { strokes } = travel('A2 B2 c2 d2 | A2 B2 c2 d2 |');
    expect(strokes.every(({ strain }) => strain > 0.94 && strain < 1.06)).toBe(true);
  });

  it('never leaves the hair, and each stroke begins where the last ended unless it is set down anew', () => {
    fc.assert(
      fc.property(arbitraryTune(), fc.integer({ min: 40, max: 220 }), (tune, tempo) => {
        const form = analyseForm(tune);
        const bowing = bowTune(tune, form, bowSlice.first, tempo);
        const { strokes, hair } = travelOf(bowing, tune, form, tempo, INSTRUMENT.cello);
        strokes.forEach(({ start, end, length }, index) => {
          expect(Math.min(start, end)).toBeGreaterThanOrEqual(0);
          expect(Math.max(start, end)).toBeLessThanOrEqual(hair);
          expect(length).toBeGreaterThan(0);
          expect(end > start).toBe(bowing.strokes[index]!.direction === 'down');
          if (index > 0 && !bowing.strokes[index]!.retake) expect(start).toBe(strokes[index - 1]!.end);
        });
      }),
      { numRuns: 60 },
    );
  });

  it('is the cheapest of all paths, tried one by one on a short hair', () => {
    const HAIR = 40;
    const places = Array.from({ length: HAIR / 5 + 1 }, (_, index) => index * 5);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 8 }), { minLength: 2, maxLength: 4 }), (lengths) => {
        const music = lengths.map((eighths, index) => `${'ABcd'[index]!}${eighths}`).join(' ');
        const tune = tuneOf(`${music} |`, { metre: `${lengths.reduce((sum, one) => sum + one)}/8` });
        const form = analyseForm(tune);
        const bowing = bowTune(tune, form, bowSlice.first, 600);
        const { strokes } = travelOf(bowing, tune, form, 600, { hair: HAIR });
        const price = (start: number, end: number, index: number) =>
          Math.log(Math.abs(end - start) / strokes[index]!.natural) ** 2;
        const cheapest = (index: number, place: number): number => {
          if (index === strokes.length) return 0;
          const down = bowing.strokes[index]!.direction === 'down';
          const ends = places.filter((end) => (down ? end > place : end < place));
          return Math.min(Infinity, ...ends.map((end) => price(place, end, index) + cheapest(index + 1, end)));
        };
        const best = Math.min(...places.map((place) => cheapest(0, place)));
        const found = strokes.reduce((sum, { start, end }, index) => sum + price(start, end, index), 0);
        expect(found).toBeCloseTo(best, 9);
      }),
      { numRuns: 60 },
    );
  });

  it('says which strokes stick out', () => {
    const { flags, strokes } = travel('(A8 | B8 | c8 | d8) | ef ef ef ef |', { tempo: 60 });
    expect(strokes[0]!.strain).toBeLessThan(1 / 1.5);
    expect(flags).toContainEqual({ kind: 'sticks-out', note: 'n1', time: 1 });
  });

  it('names the part of the hair that a phrase takes', () => {
    expect([...travel('AB cd ef ga | AB cd ef ga |').regions.values()][0]).not.toBe('whole');
    expect([...travel('A8 | B8 |', { tempo: 60 }).regions.values()][0]).toBe('whole');
  });
});

describe('the hair', () => {
  it.each([
    ['violin', 650],
    ['viola', 640],
    ['cello', 600],
    ['bass', 550],
  ] as const)('of the %s', (instrument, hair) => {
    expect(travel('A8 |', { instrument }).hair).toBe(hair);
  });

  it('is shorter on a smaller instrument', () => {
    expect(madeInstrument('violin', { ...LIKE_USUAL, name: 'Half', length: 270 }).hair).toBe(535);
  });
});
