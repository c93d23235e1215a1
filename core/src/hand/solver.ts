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
export function throughStep({ forward, backward }: Pick<Solution, 'forward' | 'backward'>, step: number): Float64Array {
  const through = new Float64Array(forward[step]!.size);
  throughInto({ forward, backward }, step, through);
  return through;
}

/** The same into memory that is there; what lies behind the last state is left as it is. */
export function throughInto(
  { forward, backward }: Pick<Solution, 'forward' | 'backward'>,
  step: number,
  through: Float64Array,
): void {
  const up = forward[step]!;
  const down = backward[step]!;
  const base = up.base + down.base;
  for (let state = 0; state < up.size; state += 1)
    through[state] = up.costs[up.at + state]! + down.costs[down.at + state]! + base;
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

/** What was worked out before under other decisions, all of it or forward only; what has not changed is taken over. */
export interface Earlier {
  readonly steps: readonly HandStep[];
  readonly solution: Pick<Solution, 'forward'> & Partial<Solution>;
}

/**
 * Ties go to the state that comes first, so that the same music gets the same fingers.
 * @param earlier an earlier solution with the same prices: only what differs is worked out again, exactly
 * @example solve([]).cost // 0
 */
export function solve(steps: readonly HandStep[], table = new PriceTable(), earlier?: Earlier): Solution {
  const known = earlier && earlier.steps.length === steps.length ? earlier : undefined;
  const same = known ? steps.map((step, index) => sameStep(step, known.steps[index]!, table)) : null;
  if (same?.every(Boolean) && isWhole(known!.solution)) return known!.solution;
  const prices = new Prices(steps, table);
  const unchanged = same ? { steps: known!.steps, same, ...known!.solution } : undefined;
  const forward = forwardColumns(prices, unchanged);
  const backward = backwardColumns(prices, unchanged);
  const path = choosePath(forward);
  const end = forward.at(-1);
  return { cost: end ? costAt(end, path.at(-1)!) : 0, path, forward, backward };
}

const isWhole = (solution: Earlier['solution']): solution is Solution => solution.backward !== undefined;

/** Only the cheapest way itself and what comes up to each step, in half the time. */
export function solveForward(steps: readonly HandStep[], table = new PriceTable()): Pick<Solution, 'path' | 'forward'> {
  const forward = forwardColumns(new Prices(steps, table), undefined);
  return { path: choosePath(forward), forward };
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

/** Memory for columns, one after the other, in pieces that are made when they are needed. */
class Room {
  costs = new Float64Array(0);
  link = new Int32Array(0);
  #at = 0;

  /** Room for so many states; gives where it begins. */
  take(size: number): number {
    if (this.#at + size > this.costs.length) {
      const piece = Math.max(ROOM, size);
      [this.costs, this.link] = [new Float64Array(piece), new Int32Array(piece)];
      this.#at = 0;
    }
    const at = this.#at;
    this.#at += size;
    return at;
  }
}
/** States in one piece. */
const ROOM = 4096;

/** Columns of an earlier solution, and for each step whether it is as it was. */
interface Unchanged extends Pick<Earlier, 'steps'> {
  readonly same: readonly boolean[];
  readonly forward: readonly Column[];
  readonly backward?: readonly Column[];
}

/** Where what comes up to a step costs what it did, and the step is as it was, its column is too. */
function forwardColumns(prices: Prices, old: Unchanged | undefined): readonly Column[] {
  const { steps } = prices;
  const columns = new Array<Column>(steps.length);
  const room = new Room();
  let agrees = true;
  for (let step = 0; step < steps.length; step += 1) {
    const before = columns[step - 1];
    const known = old?.forward[step];
    if (known && agrees && old!.same[step]) {
      columns[step] = dearer(known, before ? before.base - old!.forward[step - 1]!.base : 0);
      continue;
    }
    const own = prices.own(step);
    const column = before ? forwardColumn(room, before, prices.into(step), own) : endColumn(room, own);
    columns[step] = column;
    agrees = known !== undefined && steps[step]!.states === old!.steps[step]!.states && sameCosts(column, known);
  }
  return columns;
}

/** The same for what follows a step, which is priced with the way into it. */
function backwardColumns(prices: Prices, old: Unchanged | undefined): readonly Column[] {
  const { steps } = prices;
  const columns = new Array<Column>(steps.length);
  const room = new Room();
  let agrees = true;
  for (let step = steps.length - 1; step >= 0; step -= 1) {
    const after = columns[step + 1];
    const known = old?.backward?.[step];
    const { states } = steps[step]!;
    const sameStates = known !== undefined && states === old!.steps[step]!.states;
    if (sameStates && agrees && (!after || old!.same[step + 1])) {
      columns[step] = dearer(known, after ? after.base - old!.backward![step + 1]!.base : 0);
      continue;
    }
    const column = after
      ? backwardColumn(room, after, prices.into(step + 1), prices.own(step + 1), states.length)
      : endColumn(room, new Float64Array(states.length));
    columns[step] = column;
    agrees = sameStates && sameCosts(column, known);
  }
  return columns;
}

/** A column as it was, but for what was added to each of its costs. */
const dearer = (column: Column, more: number): Column =>
  more === 0
    ? column
    : { costs: column.costs, link: column.link, at: column.at, size: column.size, base: column.base + more };

/** Whether all steps allow the same, at the same prices. */
export function sameSteps(steps: readonly HandStep[], others: readonly HandStep[], table: PriceTable): boolean {
  return steps.length === others.length && steps.every((step, index) => sameStep(step, others[index]!, table));
}

function sameStep(a: HandStep, b: HandStep, table: PriceTable): boolean {
  if (a === b) return true;
  if (a.states !== b.states || a.usual !== b.usual || a.gate !== b.gate) return false;
  if (a.context === b.context) return true;
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
  const { costs: above, at: from } = before;
  // A loop: for so few values a copy by the library costs more than the search itself.
  for (let state = 0; state < size; state += 1) sums[state] = above[from + state]!;
  sortSums(size);
  cheapest(room, at, width, size, way, 1, width);
  const { costs } = room;
  let least = Infinity;
  for (let to = 0; to < width; to += 1) {
    const cost = costs[at + to]! + own[to]!;
    costs[at + to] = cost;
    if (cost < least) least = cost;
  }
  for (let cell = at; cell < at + width; cell += 1) costs[cell]! -= least;
  return { costs, link: room.link, at, size: width, base: before.base + least };
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
