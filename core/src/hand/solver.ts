/**
 * The exactly cheapest way through the tune: dynamic programming over hand states, forward and
 * backward, so that every state of every note knows the cheapest whole fingering that passes through it.
 * Linear in the notes, quadratic in the states of a note (a handful).
 */
import { chargeMove, chargeState, type Charge, type RuleName, type StepContext } from './rules.ts';
import type { HandState } from './state.ts';

/** A note to be fingered, with everything the hand may do there; at least one state. */
export interface Step {
  readonly states: readonly HandState[];
  readonly context: StepContext;
}

export interface Solution {
  /** Cost of the cheapest fingering, in thousandths. */
  readonly cost: number;
  /** Index of the chosen state at each step. */
  readonly path: readonly number[];
  /** For each step and state: cost of the cheapest whole fingering through it. */
  readonly through: readonly Float64Array[];
  /** Best state before, and best state after, for following such a fingering outwards. */
  readonly before: readonly Int32Array[];
  readonly after: readonly Int32Array[];
}

const sum = (run: (charge: Charge) => void): number => {
  let total = 0;
  run((_, price) => (total += price));
  return total;
};

export const stateCost = (state: HandState, context: StepContext) =>
  sum((charge) => chargeState(state, context, charge));
export const moveCost = (from: HandState, to: HandState, context: StepContext) =>
  sum((charge) => chargeMove(from, to, context, charge));

/** Ties go to the state that comes first, so that the same music gets the same fingers. */
export function solve(steps: readonly Step[]): Solution {
  const forward: Float64Array[] = [];
  const before: Int32Array[] = [];
  const own = steps.map(({ states, context }) => Float64Array.from(states, (state) => stateCost(state, context)));
  const moves = steps.map(({ states, context }, index) => {
    const previous = steps[index - 1]?.states ?? [];
    return Float64Array.from({ length: previous.length * states.length }, (_, cell) =>
      moveCost(previous[Math.floor(cell / states.length)]!, states[cell % states.length]!, context),
    );
  });
  steps.forEach(({ states }, index) => {
    const costs = Float64Array.from(own[index]!);
    const back = new Int32Array(states.length);
    const last = forward[index - 1];
    if (last) {
      for (let to = 0; to < states.length; to += 1) {
        let best = Infinity;
        for (let from = 0; from < last.length; from += 1) {
          const cost = last[from]! + moves[index]![from * states.length + to]!;
          if (cost < best) [best, back[to]] = [cost, from];
        }
        costs[to]! += best;
      }
    }
    forward.push(costs);
    before.push(back);
  });
  const { backward, after } = solveBackward(steps, own, moves);
  const through = forward.map((costs, index) => costs.map((cost, state) => cost + backward[index]![state]!));
  const path = choosePath(forward, before);
  return { cost: path.length > 0 ? forward.at(-1)![path.at(-1)!]! : 0, path, through, before, after };
}

/** For each state: cheapest cost of everything after it. */
function solveBackward(steps: readonly Step[], own: readonly Float64Array[], moves: readonly Float64Array[]) {
  const backward = steps.map(({ states }) => new Float64Array(states.length));
  const after = steps.map(({ states }) => new Int32Array(states.length));
  for (let index = steps.length - 2; index >= 0; index -= 1) {
    const next = steps[index + 1]!.states.length;
    for (let from = 0; from < steps[index]!.states.length; from += 1) {
      let best = Infinity;
      for (let to = 0; to < next; to += 1) {
        const cost = moves[index + 1]![from * next + to]! + own[index + 1]![to]! + backward[index + 1]![to]!;
        if (cost < best) [best, after[index]![from]] = [cost, to];
      }
      backward[index]![from] = best;
    }
  }
  return { backward, after };
}

function choosePath(forward: readonly Float64Array[], before: readonly Int32Array[]): readonly number[] {
  const last = forward.at(-1);
  if (!last) return [];
  const path = [last.indexOf(Math.min(...last))];
  for (let index = forward.length - 1; index > 0; index -= 1) path.unshift(before[index]![path[0]!]!);
  return path;
}

export interface RuleDifference {
  readonly rule: RuleName;
  /** More of them, or fewer if negative. */
  readonly count: number;
  readonly price: number;
}

/**
 * What makes the cheapest fingering through one state differ from the chosen one, rule by rule.
 * Follows both outwards only as far as they differ.
 */
export function explainDifference(
  steps: readonly Step[],
  solution: Solution,
  step: number,
  state: number,
): readonly RuleDifference[] {
  const other = new Map<number, number>([[step, state]]);
  const follow = (direction: 1 | -1) => {
    const pointers = direction === 1 ? solution.after : solution.before;
    let [index, at] = [step, state];
    while (index + direction >= 0 && index + direction < steps.length) {
      at = pointers[index]![at]!;
      index += direction;
      if (solution.path[index] === at) return;
      other.set(index, at);
    }
  };
  follow(1);
  follow(-1);
  const from = Math.min(...other.keys());
  const to = Math.max(...other.keys());
  const totals = new Map<RuleName, { count: number; price: number }>();
  const add = (sign: 1 | -1, pick: (index: number) => number) => {
    const charge: Charge = (rule, price) => {
      const total = totals.get(rule) ?? { count: 0, price: 0 };
      totals.set(rule, { count: total.count + sign, price: total.price + sign * price });
    };
    for (let index = from; index <= Math.min(to + 1, steps.length - 1); index += 1) {
      const { states, context } = steps[index]!;
      if (index <= to) chargeState(states[pick(index)]!, context, charge);
      if (index > 0) chargeMove(steps[index - 1]!.states[pick(index - 1)]!, states[pick(index)]!, context, charge);
    }
  };
  add(1, (index) => other.get(index) ?? solution.path[index]!);
  add(-1, (index) => solution.path[index]!);
  return [...totals]
    .map(([rule, { count, price }]) => ({ rule, count, price }))
    .filter(({ count, price }) => count !== 0 || price !== 0)
    .sort((a, b) => Math.abs(b.price) - Math.abs(a.price));
}
