/**
 * The exactly cheapest way through the tune: dynamic programming over hand states, forward and
 * backward, so that every state of every note knows the cheapest whole fingering that passes through it.
 * Linear in the notes, quadratic in the states of a note. What is
 * priced stands in `prices.ts`.
 */
import { movesInto, ownPrices, PriceTable, type HandStep } from './prices.ts';

/**
 * Cheapest costs at a step, one for each state: of all that comes up to it, or of all that follows. Kept relative to
 * the least of them, so that a column which only became dearer or cheaper as a whole is the same column. All columns
 * of a solution lie in one piece of memory, this one from `at` on.
 */
export interface Column {
  readonly costs: Float64Array;
  /** For each state the best one at the step before, or after. */
  readonly link: Int32Array;
  readonly at: number;
  readonly size: number;
  /** Added to each of the costs. */
  readonly base: number;
}

export interface Solution {
  /** Cost of the cheapest fingering, in thousandths. */
  readonly cost: number;
  /** Index of the chosen state at each step. */
  readonly path: readonly number[];
  /** Up to each step and with it, and after it. */
  readonly forward: readonly Column[];
  readonly backward: readonly Column[];
}

/**
 * For each state of a step: cost of the cheapest whole fingering through it, in thousandths.
 * @example throughStep(hand.solution, 0).length === hand.steps[0].states.length // true
 */
export function throughStep(solution: Pick<Solution, 'forward' | 'backward'>, step: number): Float64Array {
  const through = new Float64Array(solution.forward[step]!.size);
  for (let state = 0; state < through.length; state += 1) through[state] = throughState(solution, step, state);
  return through;
}

/** The same for one state. @example throughState(hand.solution, 0, 0) === throughStep(hand.solution, 0)[0] // true */
export function throughState(
  { forward, backward }: Pick<Solution, 'forward' | 'backward'>,
  step: number,
  state: number,
): number {
  const [up, down] = [forward[step]!, backward[step]!];
  return up.costs[up.at + state]! + down.costs[down.at + state]! + up.base + down.base;
}

/** What was worked out before under other decisions; what has not changed is taken over. */
export interface Earlier {
  readonly steps: readonly HandStep[];
  readonly solution: Solution;
}

/**
 * Ties go to the state that comes first, so that the same music gets the same fingers.
 * @param earlier an earlier solution with the same prices: only what differs is worked out again, exactly
 * @example solve([]).cost // 0
 */
export function solve(steps: readonly HandStep[], table = new PriceTable(), earlier?: Earlier): Solution {
  const [first, last] = earlier ? changedBetween(steps, earlier.steps, table) : [0, steps.length - 1];
  if (earlier && first > last) return earlier.solution;
  const old = earlier?.solution;
  const prices = new Prices(steps, table);
  const forward = forwardColumns(prices, first, last, old?.forward);
  const backward = backwardColumns(prices, first, last, old?.backward);
  const path = choosePath(forward);
  const end = forward.at(-1);
  return { cost: end ? costAt(end, path.at(-1)!) : 0, path, forward, backward };
}

/** Only the cheapest way itself, in half the time. */
export function cheapestPath(steps: readonly HandStep[], table = new PriceTable()): readonly number[] {
  return choosePath(forwardColumns(new Prices(steps, table), 0, steps.length - 1, undefined));
}

/** The prices of a tune's steps, each looked up once. */
class Prices {
  readonly #own: Float64Array[] = [];
  readonly #into: Float64Array[] = [];

  constructor(
    readonly steps: readonly HandStep[],
    readonly table: PriceTable,
  ) {}

  own(step: number): Float64Array {
    return (this.#own[step] ??= ownPrices(this.steps[step]!, this.table));
  }

  into(step: number): Float64Array {
    return (this.#into[step] ??= movesInto(this.steps[step]!, this.steps[step - 1]!, this.table));
  }
}

/** Memory for columns, one after the other. */
class Room {
  readonly costs: Float64Array;
  readonly link: Int32Array;
  #at = 0;

  constructor(steps: readonly HandStep[], from: number, to: number) {
    let size = 0;
    for (let step = from; step <= to; step += 1) size += steps[step]!.states.length;
    this.costs = new Float64Array(size);
    this.link = new Int32Array(size);
  }

  /** Room for so many states; gives where it begins. */
  take(size: number): number {
    const at = this.#at;
    this.#at += size;
    return at;
  }
}

function forwardColumns(
  prices: Prices,
  first: number,
  last: number,
  old: readonly Column[] | undefined,
): readonly Column[] {
  const { steps } = prices;
  const columns: Column[] = old ? old.slice(0, first) : [];
  const room = new Room(steps, first, steps.length - 1);
  for (let step = first; step < steps.length; step += 1) {
    const column =
      step === 0
        ? endColumn(room, prices.own(0))
        : forwardColumn(room, columns[step - 1]!, prices.into(step), prices.own(step));
    columns[step] = column;
    const known = step > last ? old?.[step] : undefined;
    if (known && sameCosts(column, known)) {
      takeOver(columns, old!, step + 1, 1, column.base - known.base);
      break;
    }
  }
  return columns;
}

function backwardColumns(
  prices: Prices,
  first: number,
  last: number,
  old: readonly Column[] | undefined,
): readonly Column[] {
  const { steps } = prices;
  const columns = new Array<Column>(steps.length);
  if (old) for (let step = last + 1; step < steps.length; step += 1) columns[step] = old[step]!;
  const from = last;
  const room = new Room(steps, 0, from);
  for (let step = from; step >= 0; step -= 1) {
    const size = steps[step]!.states.length;
    const column =
      step === steps.length - 1
        ? endColumn(room, new Float64Array(size))
        : backwardColumn(room, columns[step + 1]!, prices.into(step + 1), prices.own(step + 1), size);
    columns[step] = column;
    const known = step < first ? old?.[step] : undefined;
    if (known && sameCosts(column, known)) {
      takeOver(columns, old!, step - 1, -1, column.base - known.base);
      break;
    }
  }
  return columns;
}

/** From one step on, or back, all columns are as they were, but for what was added to each. */
function takeOver(columns: Column[], known: readonly Column[], from: number, by: 1 | -1, more: number): void {
  for (let step = from; step >= 0 && step < known.length; step += by) {
    const column = known[step]!;
    columns[step] = more === 0 ? column : { ...column, base: column.base + more };
  }
}

/** First and last step that differ, or whose way into them does; the first beyond the last where none does. */
function changedBetween(
  steps: readonly HandStep[],
  others: readonly HandStep[],
  table: PriceTable,
): readonly [first: number, last: number] {
  if (steps.length !== others.length) return [0, steps.length - 1];
  let first = 0;
  while (first < steps.length && sameStep(steps[first]!, others[first]!, table)) first += 1;
  let last = steps.length - 1;
  while (last > first && sameStep(steps[last]!, others[last]!, table)) last -= 1;
  return first === steps.length ? [1, 0] : [first, last];
}

/** Whether all steps allow the same, at the same prices. */
export function sameSteps(steps: readonly HandStep[], others: readonly HandStep[], table: PriceTable): boolean {
  return steps.length === others.length && steps.every((step, index) => sameStep(step, others[index]!, table));
}

function sameStep(a: HandStep, b: HandStep, table: PriceTable): boolean {
  if (a === b) return true;
  if (a.states !== b.states || a.usual !== b.usual || a.gate !== b.gate) return false;
  const [one, other] = [table.numbersOf(a.context), table.numbersOf(b.context)];
  return one.own === other.own && one.move === other.move;
}

/** One that was taken over, however much dearer or cheaper as a whole. */
export const sameColumn = (a: Column, b: Column): boolean => a.costs === b.costs && a.at === b.at;

function sameCosts(a: Column, b: Column): boolean {
  if (a.size !== b.size) return false;
  for (let state = 0; state < a.size; state += 1) if (a.costs[a.at + state] !== b.costs[b.at + state]) return false;
  return true;
}

/** Nothing comes before it, or after it. */
function endColumn(room: Room, own: Float64Array): Column {
  const at = room.take(own.length);
  room.costs.set(own, at);
  return relative(room, at, own.length, 0);
}

/** With the least of the costs as the base. */
function relative({ costs, link }: Room, at: number, size: number, base: number): Column {
  let least = Infinity;
  for (let cell = at; cell < at + size; cell += 1) if (costs[cell]! < least) least = costs[cell]!;
  for (let cell = at; cell < at + size; cell += 1) costs[cell]! -= least;
  return { costs, link, at, size, base: base + least };
}

/** Room for what both kinds of column need on the way, as long as the widest step. */
let sums = new Float64Array(64);
let order = new Int32Array(64);

/** How many are in order; the next time as many are likely to be so again, for most part. */
let ordered = 0;

/** The first `size` of `sums`, cheapest first, as indices in `order`. */
function sortSums(size: number): void {
  const [values, indices] = [sums, order];
  if (ordered !== size) for (let index = 0; index < size; index += 1) indices[index] = index;
  ordered = size;
  for (let index = 1; index < size; index += 1) {
    const state = indices[index]!;
    const sum = values[state]!;
    let place = index;
    while (place > 0) {
      const other = indices[place - 1]!;
      if (values[other]! <= sum) break;
      indices[place] = other;
      place -= 1;
    }
    indices[place] = state;
  }
}

function roomFor(size: number): void {
  if (sums.length >= size) return;
  [sums, order] = [new Float64Array(2 * size), new Int32Array(2 * size)];
  ordered = 0;
}

/**
 * The cheapest sum of `sums` and a way for each of so many states, into a new column; of equals the first. Ways cost
 * nothing or more, so that once the sums alone are dearer than what was found there is no need to go on.
 * @param each cells of the table of ways from one of these states to the next; @param by from one of the others
 */
function cheapest(
  { costs, link }: Room,
  at: number,
  states: number,
  others: number,
  way: Float64Array,
  each: number,
  by: number,
): void {
  const [values, indices] = [sums, order];
  for (let state = 0, from = 0; state < states; state += 1, from += each) {
    let choice = indices[0]!;
    let best = values[choice]! + way[from + choice * by]!;
    for (let index = 1; index < others; index += 1) {
      const other = indices[index]!;
      const sum = values[other]!;
      if (sum > best) break;
      const cost = sum + way[from + other * by]!;
      if (cost < best) {
        best = cost;
        choice = other;
      } else if (cost === best && other < choice) choice = other;
    }
    costs[at + state] = best;
    link[at + state] = choice;
  }
}

/** Each state's own price and the cheapest way into it. */
function forwardColumn(room: Room, before: Column, way: Float64Array, own: Float64Array): Column {
  const width = own.length;
  const { size } = before;
  const at = room.take(width);
  roomFor(size);
  sums.set(before.costs.subarray(before.at, before.at + size));
  sortSums(size);
  cheapest(room, at, width, size, way, 1, width);
  const { costs } = room;
  for (let to = 0; to < width; to += 1) costs[at + to]! += own[to]!;
  return relative(room, at, width, before.base);
}

/** For each state the cheapest cost of everything after it. */
function backwardColumn(room: Room, after: Column, way: Float64Array, own: Float64Array, size: number): Column {
  const width = own.length;
  const at = room.take(size);
  roomFor(width);
  const values = sums;
  for (let to = 0; to < width; to += 1) values[to] = own[to]! + after.costs[after.at + to]!;
  sortSums(width);
  cheapest(room, at, size, width, way, width, 1);
  return relative(room, at, size, after.base);
}

/** The best state before, or after, for following a fingering outwards. */
export const linkOf = ({ link, at }: Column, state: number): number => link[at + state]!;

export const costAt = ({ costs, at, base }: Column, state: number): number => costs[at + state]! + base;

function choosePath(forward: readonly Column[]): readonly number[] {
  const last = forward.at(-1);
  if (!last) return [];
  const path = new Array<number>(forward.length);
  // The least is the base of its column.
  let state = last.costs.indexOf(0, last.at) - last.at;
  for (let index = forward.length - 1; index >= 0; index -= 1) {
    path[index] = state;
    state = linkOf(forward[index]!, state);
  }
  return path;
}
