/**
 * The exactly cheapest way through the tune: dynamic programming over hand states, forward and
 * backward, so that every state of every note knows the cheapest whole fingering that passes through it.
 * Linear in the notes, quadratic in the states of a note. Prices come from a table that remembers what it
 * has priced: a tune has few different pairs of neighbouring notes.
 */
import {
  chargeMove,
  chargeState,
  moveCircumstances,
  PRICES,
  stateCircumstances,
  type Charge,
  type MoveCircumstances,
  type StateCircumstances,
  type StepContext,
} from './rules.ts';
import type { RuleName } from './ruleNames.ts';
import type { HandState } from './state.ts';

/** The hand moves; it stays; or, before a decided move, it does not move already while an open string sounds. */
export type Gate = 'moves' | 'stays' | 'waits';

/** A note to be fingered, with everything the hand may do there; at least one state. */
export interface HandStep {
  readonly states: readonly HandState[];
  readonly context: StepContext;
  /** How the same place of the same phrase is fingered elsewhere, as a `stopsKey`: other ways cost something. */
  readonly usual?: string;
  /** What was decided about the way into this note. */
  readonly gate?: Gate;
}

export interface Solution {
  /** Cost of the cheapest fingering, in thousandths. */
  readonly cost: number;
  /** Index of the chosen state at each step. */
  readonly path: readonly number[];
  /** For each step and state: cost of the cheapest whole fingering through it. */
  readonly through: readonly Float64Array[];
  /** For each step and state: cheapest cost up to and with it, and of everything after it. */
  readonly forward: readonly Float64Array[];
  readonly backward: readonly Float64Array[];
  /** Best state before, and best state after, for following such a fingering outwards. */
  readonly before: readonly Int32Array[];
  readonly after: readonly Int32Array[];
}

/** What breaking a decision costs: more than any tune. */
export const FORBIDDEN = 1e9;

const sum = (run: (charge: Charge) => void): number => {
  let total = 0;
  run((_, price) => (total += price));
  return total;
};

/**
 * What a state costs by itself, in thousandths.
 * @example stateCost(hand.chosen(0), hand.steps[0].context) // 0
 */
export const stateCost = (state: HandState, context: StepContext) => stateIn(state, stateCircumstances(context));
/**
 * What it costs to come from one state to the next, in thousandths.
 * @example moveCost(hand.chosen(0), hand.chosen(0), hand.steps[1].context) // 0
 */
export const moveCost = (from: HandState, to: HandState, context: StepContext) =>
  moveIn(from, to, moveCircumstances(context));

const stateIn = (state: HandState, circumstances: StateCircumstances) =>
  sum((charge) => chargeState(state, circumstances, charge));
const moveIn = (from: HandState, to: HandState, circumstances: MoveCircumstances) =>
  sum((charge) => chargeMove(from, to, circumstances, charge));

export function gateCost(from: HandState, to: HandState, gate: Gate | undefined): number {
  if (gate === undefined) return 0;
  const moves = from.frame.base !== to.frame.base;
  if (gate === 'moves') return moves ? 0 : FORBIDDEN;
  const bound = gate === 'stays' || to.stops.every(({ finger }) => finger === 0);
  return moves && bound ? FORBIDDEN : 0;
}

/** What leaving the phrase's usual fingers costs at a step, in thousandths. */
export function usualCost(state: HandState, { usual, context }: Pick<HandStep, 'usual' | 'context'>): number {
  return usual === undefined || state.key === usual ? 0 : Math.round(PRICES.usual * context.weights.usual);
}

type States = readonly HandState[];

/** Prices of states and of moves, each worked out once for the same states in the same circumstances. */
export class PriceTable {
  readonly #own = new WeakMap<States, Map<string, Float64Array>>();
  readonly #moves = new WeakMap<States, WeakMap<States, Map<string, Float64Array>>>();
  readonly #choices = new WeakMap<States, ReadonlyMap<string, readonly number[]>>();
  readonly #ids = new WeakMap<object, number>();
  #known = 0;

  /** All that a price depends on, whatever it is: objects by who they are. */
  #key(circumstances: object): string {
    let key = '';
    for (const value of Object.values(circumstances) as unknown[])
      key += ` ${typeof value === 'object' && value !== null ? this.#idOf(value) : String(value)}`;
    return key;
  }

  #idOf(value: object): number {
    let id = this.#ids.get(value);
    if (id === undefined) this.#ids.set(value, (id = this.#known += 1));
    return id;
  }

  /** The states of each choice of strings and fingers, by `stopsKey`. */
  choices(states: States): ReadonlyMap<string, readonly number[]> {
    return remembered(this.#choices, states, () => {
      const groups = new Map<string, number[]>();
      states.forEach(({ key }, index) => {
        const group = groups.get(key);
        if (group) group.push(index);
        else groups.set(key, [index]);
      });
      return groups;
    });
  }

  /** One price for each state; not to be changed. */
  own(states: States, context: StepContext): Float64Array {
    const circumstances = stateCircumstances(context);
    const key = this.#key(circumstances);
    const known = remembered(this.#own, states, () => new Map<string, Float64Array>());
    let prices = known.get(key);
    if (!prices) known.set(key, (prices = Float64Array.from(states, (state) => stateIn(state, circumstances))));
    return prices;
  }

  /** Row by row, a row for each state before; not to be changed. */
  moves(before: States, states: States, context: StepContext): Float64Array {
    const circumstances = moveCircumstances(context);
    const key = this.#key(circumstances);
    const from = remembered(this.#moves, before, () => new WeakMap<States, Map<string, Float64Array>>());
    const known = remembered(from, states, () => new Map<string, Float64Array>());
    let prices = known.get(key);
    if (!prices) {
      prices = new Float64Array(before.length * states.length);
      let cell = 0;
      for (const a of before) for (const b of states) prices[cell++] = moveIn(a, b, circumstances);
      known.set(key, prices);
    }
    return prices;
  }
}

function remembered<Key extends object, Value>(
  map: { get(key: Key): Value | undefined; set(key: Key, value: Value): unknown },
  key: Key,
  make: () => Value,
): Value {
  let value = map.get(key);
  if (value === undefined) map.set(key, (value = make()));
  return value;
}

/** Prices of the ways into a step, decisions about them included. */
export function movesInto(step: HandStep, before: HandStep, table: PriceTable): Float64Array {
  const prices = table.moves(before.states, step.states, step.context);
  if (step.gate === undefined) return prices;
  const width = step.states.length;
  return prices.map(
    (price, cell) => price + gateCost(before.states[Math.floor(cell / width)]!, step.states[cell % width]!, step.gate),
  );
}

function ownPrices(step: HandStep, table: PriceTable): Float64Array {
  const prices = table.own(step.states, step.context);
  if (step.usual === undefined) return prices;
  const leaving = Math.round(PRICES.usual * step.context.weights.usual);
  const result = prices.slice();
  step.states.forEach(({ key }, index) => (result[index]! += key === step.usual ? 0 : leaving));
  return result;
}

/**
 * Ties go to the state that comes first, so that the same music gets the same fingers.
 * @example solve([]).cost // 0
 */
export function solve(steps: readonly HandStep[], table = new PriceTable()): Solution {
  const own = steps.map((step) => ownPrices(step, table));
  const moves = steps.map((step, index) =>
    index === 0 ? new Float64Array(0) : movesInto(step, steps[index - 1]!, table),
  );
  const { forward, before } = solveForward(own, moves);
  const { backward, after } = solveBackward(own, moves);
  const through = forward.map((costs, index) => {
    const whole = costs.slice();
    const rest = backward[index]!;
    for (let state = 0; state < whole.length; state += 1) whole[state]! += rest[state]!;
    return whole;
  });
  const path = choosePath(forward, before);
  return {
    cost: path.length > 0 ? forward.at(-1)![path.at(-1)!]! : 0,
    path,
    through,
    forward,
    backward,
    before,
    after,
  };
}

/** Only the cheapest way itself, in half the time. */
export function cheapestPath(steps: readonly HandStep[], table = new PriceTable()): readonly number[] {
  const own = steps.map((step) => ownPrices(step, table));
  const moves = steps.map((step, index) =>
    index === 0 ? new Float64Array(0) : movesInto(step, steps[index - 1]!, table),
  );
  const { forward, before } = solveForward(own, moves);
  return choosePath(forward, before);
}

/** For each state: cheapest cost up to it. */
function solveForward(own: readonly Float64Array[], moves: readonly Float64Array[]) {
  const forward: Float64Array[] = [];
  const before: Int32Array[] = [];
  own.forEach((prices, index) => {
    const costs = prices.slice();
    const back = new Int32Array(prices.length);
    if (index > 0) relaxForward(forward[index - 1]!, moves[index]!, costs, back);
    forward.push(costs);
    before.push(back);
  });
  return { forward, before };
}

/** Adds to each state's own price the cheapest way into it. */
function relaxForward(last: Float64Array, way: Float64Array, costs: Float64Array, back: Int32Array): void {
  const width = costs.length;
  const best = new Float64Array(width).fill(Infinity);
  let cell = 0;
  for (let from = 0; from < last.length; from += 1) {
    const base = last[from]!;
    for (let to = 0; to < width; to += 1, cell += 1) {
      const cost = base + way[cell]!;
      if (cost < best[to]!) {
        best[to] = cost;
        back[to] = from;
      }
    }
  }
  for (let to = 0; to < width; to += 1) costs[to]! += best[to]!;
}

/** For each state: cheapest cost of everything after it. */
function solveBackward(own: readonly Float64Array[], moves: readonly Float64Array[]) {
  const backward = own.map(({ length }) => new Float64Array(length));
  const after = own.map(({ length }) => new Int32Array(length));
  for (let index = own.length - 2; index >= 0; index -= 1) {
    const rest = own[index + 1]!.slice();
    const later = backward[index + 1]!;
    for (let to = 0; to < rest.length; to += 1) rest[to]! += later[to]!;
    relaxBackward(rest, moves[index + 1]!, backward[index]!, after[index]!);
  }
  return { backward, after };
}

function relaxBackward(rest: Float64Array, way: Float64Array, costs: Float64Array, after: Int32Array): void {
  let cell = 0;
  for (let from = 0; from < costs.length; from += 1) {
    let best = Infinity;
    let at = 0;
    for (let to = 0; to < rest.length; to += 1, cell += 1) {
      const cost = way[cell]! + rest[to]!;
      if (cost < best) {
        best = cost;
        at = to;
      }
    }
    costs[from] = best;
    after[from] = at;
  }
}

function choosePath(forward: readonly Float64Array[], before: readonly Int32Array[]): readonly number[] {
  const last = forward.at(-1);
  if (!last) return [];
  const path = new Array<number>(forward.length);
  let at = last.indexOf(Math.min(...last));
  for (let index = forward.length - 1; index >= 0; index -= 1) {
    path[index] = at;
    at = before[index]![at]!;
  }
  return path;
}

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
      last.forEach((cost, from) => {
        const whole = cost + into[from * states.length + to]!;
        if (whole < best) [best, before[to]] = [whole, from];
      });
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
        const whole = out[from * next.states.length + to]! + own[to]! + rest[to]!;
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
    before = solution.before[index]![before]!;
    from = index;
  }
  let after = links.after;
  for (let index = at + 1; index < steps.length && solution.path[index] !== after; index += 1) {
    states.push(steps[index]!.states[after]!);
    after = solution.after[index]![after]!;
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
