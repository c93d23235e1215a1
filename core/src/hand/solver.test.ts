import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { INSTRUMENT, INSTRUMENTS, standardTuning, type InstrumentId } from '../instrument/index.ts';
import { midi, pitch, type Pitch } from '../music/index.ts';
import {
  HANDS,
  POSITIONS,
  PRESET_IDS,
  PRICES,
  framesFor,
  haste,
  moveCost,
  solve,
  stateCost,
  statesFor,
  type HandStep,
} from './index.ts';
import { profileFor } from '../test/setups.ts';
import { FORBIDDEN, PriceTable } from './prices.ts';
import { throughStep } from './solver.ts';

/** Independent of the solver: tries every way through. */
function bruteForce(steps: readonly HandStep[]): { cost: number; through: number[][] } {
  const through = steps.map(({ states }) => states.map(() => Infinity));
  let cost = Infinity;
  const walk = (path: number[], sofar: number) => {
    const index = path.length;
    if (index === steps.length) {
      cost = Math.min(cost, sofar);
      path.forEach((at, step) => (through[step]![at] = Math.min(through[step]![at]!, sofar)));
      return;
    }
    const { states, context, usual, gate } = steps[index]!;
    states.forEach((state, at) => {
      const before = index > 0 ? steps[index - 1]!.states[path[index - 1]!]! : null;
      const moved = before ? before.frame.base !== state.frame.base : false;
      const open = state.stops.every(({ finger }) => finger === 0);
      const broken =
        before !== null &&
        ((gate === 'moves' && !moved) || (gate === 'stays' && moved) || (gate === 'waits' && moved && open));
      const unusual = usual !== undefined && state.key !== usual ? Math.round(PRICES.usual * context.weights.usual) : 0;
      const move = before ? moveCost(before, state, context) : 0;
      walk([...path, at], sofar + stateCost(state, context) + unusual + move + (broken ? FORBIDDEN : 0));
    });
  };
  walk([], 0);
  return { cost, through };
}

const LETTERS = ['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const;
const RANGES: Readonly<Record<InstrumentId, readonly [number, number]>> = {
  violin: [3, 6],
  viola: [3, 5],
  cello: [2, 4],
  bass: [1, 3],
};
/** More states than these at a note are thinned out by chance: trying every way has its limits. */
const MOST_STATES = 5;

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
    glide: fc.oneof({ weight: 5, arbitrary: fc.constant(false) }, { weight: 1, arbitrary: fc.constant(true) }),
    high: fc.boolean(),
    role: fc.constantFrom('bottom' as const, 'turn' as const, 'between' as const),
    pedal: fc.option(fc.record({ string: fc.nat(3), reach: fc.constantFrom(5, 7), itself: fc.boolean() }), {
      nil: null,
    }),
    gate: fc.constantFrom(undefined, undefined, undefined, 'moves' as const, 'stays' as const, 'waits' as const),
    /** Which states remain, and which of them is the usual one: as by decisions, by chance. */
    pick: fc.infiniteStream(fc.nat()).map((stream) => [...stream.take(MOST_STATES)]),
    usual: fc.option(fc.nat(), { nil: undefined }),
  });
  return fc
    .record({
      notes: fc.array(note, { minLength: 1, maxLength: 5 }),
      noFourth: fc.boolean(),
      bassSchool: fc.constantFrom('three' as const, 'four' as const),
      celloSchool: fc.constantFrom('shift' as const, 'extend' as const),
      maxPosition: fc.constantFrom(...POSITIONS),
      preset: fc.constantFrom(...PRESET_IDS),
    })
    .map(({ notes, noFourth, bassSchool, celloSchool, maxPosition, preset }) => {
      const { limits, weights } = profileFor(
        instrument,
        { preset },
        { noFourth, bassSchool, celloSchool, maxPosition },
      );
      const frames = framesFor(HANDS[instrument], limits);
      const { pitches } = standardTuning(INSTRUMENT[instrument]);
      return notes
        .map(({ heads, pick, usual, gate, role, ...context }, index): HandStep => {
          const sorted = [...heads].sort((a, b) => midi(a) - midi(b));
          const all = statesFor(sorted, pitches, frames);
          const kept = [...new Set(pick.map((at) => at % Math.max(1, all.length)))];
          const states = all.length <= MOST_STATES ? all : kept.map((at) => all[at]!);
          return {
            states,
            context: {
              ...context,
              hand: HANDS[instrument],
              available: notes[index - 1]?.duration ?? Infinity,
              open: sorted.length === 1 && pitches.some((open) => midi(open) === midi(sorted[0]!)) ? role : null,
              first: index === 0,
              weights,
            },
            ...(usual !== undefined && states.length > 0 && { usual: states[usual % states.length]!.key }),
            ...(gate && index > 0 && { gate }),
          };
        })
        .filter(({ states }) => states.length > 0);
    });
});

describe('solve', () => {
  it('is exact: the same cost as trying every way, for the whole and through every state', () => {
    fc.assert(
      fc.property(arbitrarySteps, (steps) => {
        fc.pre(steps.length > 0);
        const solution = solve(steps);
        const brute = bruteForce(steps);
        expect(solution.cost).toBe(brute.cost);
        expect(steps.map((_, step) => [...throughStep(solution, step)])).toEqual(brute.through);
      }),
      { numRuns: 3000 },
    );
  });

  it('is the same when only what changed is worked out again', () => {
    fc.assert(
      fc.property(arbitrarySteps, (steps) => {
        fc.pre(steps.length > 0);
        const table = new PriceTable();
        const earlier = { steps, solution: solve(steps, table) };
        const changed = (at: number, narrow: boolean) => (step: HandStep, index: number) => {
          const state = step.states[(at + index) % step.states.length]!;
          if (index === at) return narrow ? { ...step, states: [state] } : { ...step, usual: state.key };
          return step;
        };
        for (const at of steps.keys()) {
          const one = steps.map(changed(at, true));
          for (const later of [one, steps.map(changed(at, false)), one.map(changed((at + 2) % steps.length, false))]) {
            const again = solve(later, table, earlier);
            const anew = solve(later);
            expect(again.cost).toBe(anew.cost);
            expect(again.path).toEqual(anew.path);
            later.forEach((_, step) => expect(throughStep(again, step)).toEqual(throughStep(anew, step)));
          }
        }
      }),
      { numRuns: 400 },
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
      { numRuns: 300 },
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
