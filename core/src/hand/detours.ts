/** Whole fingerings through another state than the chosen one, what they cost, and where that comes from. */
import { movesInto, ownPrices, usualCost, type HandStep, type PriceTable, type States } from './prices.ts';
import { chargeMove, chargeState, moveCircumstances, stateCircumstances, type Charge } from './rules.ts';
import type { RuleName } from './ruleNames.ts';
import { costAt, linkOf, type Solution } from './solver.ts';
import type { HandState } from './state.ts';

/** A whole fingering that goes through a given state of one step: where it leaves the chosen one. */
export interface Detour {
  /** Cost of the whole fingering, in thousandths. */
  readonly cost: number;
  /** First step that is not as chosen, and its states from there on. */
  readonly from: number;
  readonly states: readonly HandState[];
}

/**
 * The cheapest whole fingering through each of these states of a step, whether or not the step as solved
 * allows them: what comes before and after does not depend on it.
 */
export function throughEach(
  steps: readonly HandStep[],
  solution: Solution,
  at: number,
  states: States,
  table: PriceTable,
): { readonly costs: Float64Array; readonly before: Int32Array; readonly after: Int32Array } {
  const free: HandStep = { ...steps[at]!, states };
  const costs = ownPrices(free, table).slice();
  const before = new Int32Array(states.length);
  const after = new Int32Array(states.length);
  if (at > 0) {
    const into = movesInto(free, steps[at - 1]!, table);
    const last = solution.forward[at - 1]!;
    states.forEach((_, to) => {
      let best = Infinity;
      for (let from = 0; from < last.size; from += 1) {
        const whole = costAt(last, from) + into[from * states.length + to]!;
        if (whole < best) [best, before[to]] = [whole, from];
      }
      costs[to]! += best;
    });
  }
  const next = steps[at + 1];
  if (next) {
    const out = movesInto(next, free, table);
    const own = ownPrices(next, table);
    const rest = solution.backward[at + 1]!;
    states.forEach((_, from) => {
      let best = Infinity;
      for (let to = 0; to < next.states.length; to += 1) {
        const whole = out[from * next.states.length + to]! + own[to]! + costAt(rest, to);
        if (whole < best) [best, after[from]] = [whole, to];
      }
      costs[from]! += best;
    });
  }
  return { costs, before, after };
}

/** Follows a fingering outwards from one of its states, as far as it is not the chosen one. */
export function detour(
  steps: readonly HandStep[],
  solution: Solution,
  at: number,
  state: HandState,
  links: { readonly cost: number; readonly before: number; readonly after: number },
): Detour {
  const states = [state];
  let from = at;
  let before = links.before;
  for (let index = at - 1; index >= 0 && solution.path[index] !== before; index -= 1) {
    states.unshift(steps[index]!.states[before]!);
    before = linkOf(solution.forward[index]!, before);
    from = index;
  }
  let after = links.after;
  for (let index = at + 1; index < steps.length && solution.path[index] !== after; index += 1) {
    states.push(steps[index]!.states[after]!);
    after = linkOf(solution.backward[index]!, after);
  }
  return { cost: links.cost, from, states };
}

export interface RuleDifference {
  readonly rule: RuleName;
  /** More of them, or fewer if negative. */
  readonly count: number;
  readonly price: number;
}

/** What makes another fingering of a stretch differ from the chosen one, rule by rule, dearest first. */
export function explainDetour(
  steps: readonly HandStep[],
  solution: Solution,
  { from, states }: Detour,
): readonly RuleDifference[] {
  const chosen = (index: number) => steps[index]!.states[solution.path[index]!]!;
  const other = (index: number) => states[index - from] ?? chosen(index);
  return differences(steps, from, from + states.length, chosen, other);
}

/** The same between two whole fingerings of a stretch; `to` is exclusive. */
export function differences(
  steps: readonly HandStep[],
  from: number,
  to: number,
  chosen: (index: number) => HandState,
  other: (index: number) => HandState,
): readonly RuleDifference[] {
  const totals = new Map<RuleName, { count: number; price: number }>();
  const add = (sign: 1 | -1, pick: (index: number) => HandState) => {
    const charge: Charge = (rule, price) => {
      const total = totals.get(rule);
      if (total) {
        total.count += sign;
        total.price += sign * price;
      } else totals.set(rule, { count: sign, price: sign * price });
    };
    for (let index = from; index <= Math.min(to, steps.length - 1); index += 1) {
      const step = steps[index]!;
      const state = pick(index);
      if (index < to) {
        chargeState(state, stateCircumstances(step.context), charge);
        const unusual = usualCost(state, step);
        if (unusual !== 0) charge('usual', unusual);
      }
      if (index > 0) {
        const before = index > from ? pick(index - 1) : chosen(index - 1);
        chargeMove(before, state, moveCircumstances(step.context), charge);
      }
    }
  };
  add(1, other);
  add(-1, chosen);
  return [...totals]
    .map(([rule, { count, price }]) => ({ rule, count, price }))
    .filter(({ count, price }) => count !== 0 || price !== 0)
    .sort((a, b) => Math.abs(b.price) - Math.abs(a.price));
}
