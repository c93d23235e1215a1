/**
 * What states and moves cost, from a table that remembers what it has priced: a tune has few different pairs of
 * neighbouring notes.
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

export type States = readonly HandState[];

/** Numbers for whatever prices depend on, so that they are found by number: 1, 2, … in the order they come. */
class Numbers<Key> {
  readonly #known: { get(key: Key): number | undefined; set(key: Key, value: number): unknown };
  #last = 0;

  constructor(known: { get(key: Key): number | undefined; set(key: Key, value: number): unknown }) {
    this.#known = known;
  }

  of(key: Key): number {
    let number = this.#known.get(key);
    if (number === undefined) this.#known.set(key, (number = this.#last += 1));
    return number;
  }
}

/** The states that make one choice of strings and fingers. */
export interface Choice {
  /** A `stopsKey`. */
  readonly key: string;
  readonly states: readonly number[];
}

/** Prices of states and of moves, each worked out once for the same states in the same circumstances. */
export class PriceTable {
  readonly #objects = new Numbers<object>(new WeakMap());
  readonly #lists = new Numbers<States>(new WeakMap());
  readonly #circumstances = new Numbers<string>(new Map());
  readonly #contexts = new WeakMap<StepContext, { readonly own: number; readonly move: number }>();
  /** By list of states and circumstances. */
  readonly #own: (Float64Array | undefined)[][] = [];
  /** By the list before, the list, and circumstances. */
  readonly #moves: ((Float64Array | undefined)[] | undefined)[][] = [];
  readonly #choices = new WeakMap<States, readonly Choice[]>();

  /** What the prices of a note and of the way into it depend on: the same number for the same. */
  numbersOf(context: StepContext): { readonly own: number; readonly move: number } {
    let numbers = this.#contexts.get(context);
    if (!numbers) {
      const own = this.#circumstances.of(this.#text(stateCircumstances(context)));
      const move = this.#circumstances.of(this.#text(moveCircumstances(context)));
      this.#contexts.set(context, (numbers = { own, move }));
    }
    return numbers;
  }

  /** All that a price depends on, whatever it is: objects by who they are. */
  #text(circumstances: object): string {
    let text = '';
    for (const value of Object.values(circumstances) as unknown[])
      text += ` ${typeof value === 'object' && value !== null ? this.#objects.of(value) : String(value)}`;
    return text;
  }

  choices(states: States): readonly Choice[] {
    let choices = this.#choices.get(states);
    if (!choices) {
      const groups = new Map<string, number[]>();
      states.forEach(({ key }, index) => {
        const group = groups.get(key);
        if (group) group.push(index);
        else groups.set(key, [index]);
      });
      choices = [...groups].map(([key, indices]) => ({ key, states: indices }));
      this.#choices.set(states, choices);
    }
    return choices;
  }

  /**
   * One price for each state; not to be changed.
   * @param usual how the same place is fingered elsewhere
   */
  own(states: States, context: StepContext, usual?: string): Float64Array {
    const { own } = this.numbersOf(context);
    const number = usual === undefined ? own : this.#circumstances.of(`${own} as ${usual}`);
    const known = (this.#own[this.#lists.of(states)] ??= []);
    let prices = known[number];
    if (!prices) {
      const circumstances = stateCircumstances(context);
      prices = Float64Array.from(states, (state) => stateIn(state, circumstances));
      if (usual !== undefined) states.forEach((state, at) => (prices![at]! += usualCost(state, { usual, context })));
      known[number] = prices;
    }
    return prices;
  }

  /** Row by row, a row for each state before; not to be changed. */
  moves(before: States, states: States, context: StepContext): Float64Array {
    const { move } = this.numbersOf(context);
    const from = (this.#moves[this.#lists.of(before)] ??= []);
    const known = (from[this.#lists.of(states)] ??= []);
    let prices = known[move];
    if (!prices) {
      const circumstances = moveCircumstances(context);
      prices = new Float64Array(before.length * states.length);
      let cell = 0;
      for (const a of before) for (const b of states) prices[cell++] = moveIn(a, b, circumstances);
      known[move] = prices;
    }
    return prices;
  }
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

export function ownPrices({ states, context, usual }: HandStep, table: PriceTable): Float64Array {
  return table.own(states, context, usual);
}
