import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { INSTRUMENTS, standardTuning, type InstrumentId } from '../instrument/index.ts';
import { midi, pitch, type Pitch } from '../music/index.ts';
import {
  PLAIN_WEIGHTS,
  framesFor,
  haste,
  moveCost,
  solve,
  stateCost,
  statesFor,
  type Step,
  type StepContext,
} from './index.ts';

/** Independent of the solver: tries every way through. */
function bruteForce(steps: readonly Step[]): { cost: number; through: number[][] } {
  const through = steps.map(({ states }) => states.map(() => Infinity));
  let cost = Infinity;
  const walk = (path: number[]) => {
    const index = path.length;
    if (index === steps.length) {
      const total = path.reduce((sum, at, step) => {
        const { states, context } = steps[step]!;
        const move = step === 0 ? 0 : moveCost(steps[step - 1]!.states[path[step - 1]!]!, states[at]!, context);
        return sum + stateCost(states[at]!, context) + move;
      }, 0);
      cost = Math.min(cost, total);
      path.forEach((at, step) => (through[step]![at] = Math.min(through[step]![at]!, total)));
      return;
    }
    steps[index]!.states.forEach((_, at) => walk([...path, at]));
  };
  walk([]);
  return { cost, through };
}

const LETTERS = ['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const;
const RANGES: Readonly<Record<InstrumentId, readonly [number, number]>> = {
  violin: [3, 5],
  viola: [3, 5],
  cello: [2, 3],
  bass: [1, 2],
};

const arbitraryPitch = (instrument: InstrumentId): fc.Arbitrary<Pitch> =>
  fc
    .tuple(
      fc.constantFrom(...LETTERS),
      fc.constantFrom('', '#', 'b'),
      fc.integer({ min: RANGES[instrument][0], max: RANGES[instrument][1] }),
    )
    .map(([letter, sign, octave]) => pitch(`${letter}${sign}${octave}`));

const arbitrarySteps = fc.constantFrom(...INSTRUMENTS).chain((instrument) => {
  const note = fc.record({
    heads: fc.oneof(
      { weight: 4, arbitrary: fc.tuple(arbitraryPitch(instrument)) },
      { weight: 1, arbitrary: fc.tuple(arbitraryPitch(instrument), arbitraryPitch(instrument)) },
    ),
    duration: fc.constantFrom(0.1, 0.2, 0.35, 0.9),
    rest: fc.constantFrom(0, 0, 0.4),
    slurred: fc.boolean(),
    phraseStart: fc.boolean(),
  });
  return fc
    .record({
      notes: fc.array(note, { minLength: 1, maxLength: 6 }),
      noFourth: fc.boolean(),
      bassSchool: fc.constantFrom('three' as const, 'four' as const),
    })
    .map(({ notes, noFourth, bassSchool }) => {
      const frames = framesFor(instrument, { noFourth, bassSchool });
      const { pitches } = standardTuning(instrument);
      return notes
        .map(({ heads, duration, rest, slurred, phraseStart }, index): Step => {
          const sorted = [...heads].sort((a, b) => midi(a) - midi(b));
          const context: StepContext = {
            instrument,
            duration,
            available: notes[index - 1]?.duration ?? Infinity,
            rest,
            slurred,
            phraseStart,
            glide: false,
            openAtHand: false,
            first: false,
            high: true,
            weights: PLAIN_WEIGHTS,
          };
          return { states: statesFor(sorted, pitches, frames), context };
        })
        .filter(({ states }) => states.length > 0 && states.length < 12);
    });
});

describe('solve', () => {
  it('is exact: the same cost as trying every way, for the whole and through every state', () => {
    fc.assert(
      fc.property(arbitrarySteps, (steps) => {
        fc.pre(steps.length > 0 && steps.reduce((ways, { states }) => ways * states.length, 1) < 20_000);
        const solution = solve(steps);
        const brute = bruteForce(steps);
        expect(solution.cost).toBe(brute.cost);
        expect(solution.through.map((costs) => [...costs])).toEqual(brute.through);
      }),
      { numRuns: 600 },
    );
  });

  it('never costs less for a stricter learner', () => {
    fc.assert(
      fc.property(arbitrarySteps, (steps) => {
        const stricter = steps.map((step) => ({
          ...step,
          states: step.states.filter(({ stops }) => stops.every(({ finger }) => finger !== 4)),
        }));
        fc.pre(steps.length > 0 && stricter.every(({ states }) => states.length > 0));
        expect(solve(stricter).cost).toBeGreaterThanOrEqual(solve(steps).cost);
      }),
      { numRuns: 200 },
    );
  });

  it('solves nothing as nothing', () => {
    expect(solve([])).toMatchObject({ cost: 0, path: [] });
  });
});

it('asks less effort the more time there is, within bounds', () => {
  expect(haste(0.3)).toBe(1);
  fc.assert(
    fc.property(
      fc.double({ min: 0.01, max: 10, noNaN: true }),
      fc.double({ min: 0.01, max: 10, noNaN: true }),
      (a, b) => {
        expect(haste(Math.max(a, b))).toBeLessThanOrEqual(haste(Math.min(a, b)));
      },
    ),
  );
  expect(haste(100)).toBe(0.5);
  expect(haste(0)).toBe(2);
});
