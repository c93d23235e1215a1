/**
 * Strokes for a stretch of sounds, chosen freely: how many share a bow, which way each goes, how it follows the one
 * before, and where on the hair it lies. One search over all of it, exact over places on the hair.
 */
import type { BowMark } from '../music/index.ts';
import type { Millimetres } from '../instrument/index.ts';

/** How a stroke follows the one before: it turns, stops and goes on, or is set down anew. */
export const FOLLOWS = ['turn', 'stop', 'lift'] as const;
export type Follows = (typeof FOLLOWS)[number];

/** What is to be bowed, told by prices; Infinity forbids. */
export interface StretchProblem {
  /** Sounds. */
  readonly count: number;
  /** Most sounds to a stroke. */
  readonly most: number;
  /** A stroke over the sounds from one to before another. */
  stroke(from: number, to: number, direction: BowMark): number;
  /** How the stroke that begins with a sound follows the one before. */
  follows(at: number, how: Follows): number;
  /** Natural length of such a stroke. */
  natural(from: number, to: number, direction: BowMark): Millimetres;
  /** Price of a stroke by planned over natural length. */
  strain(ratio: number): number;
  /** Places on the hair, and how far they lie apart. */
  readonly places: number;
  readonly step: Millimetres;
  /** What it costs that a stroke begins or ends at a place. */
  outside(at: number, place: number): number;
  /** The stroke before the first sound, and where it ended; null where nothing comes before. */
  readonly before: { readonly direction: BowMark; readonly place: number } | null;
  /** Which way the first stroke goes, where nothing comes before. */
  readonly first: BowMark;
  /** What it costs to end with a direction. */
  after(direction: BowMark): number;
}

export interface StretchStroke {
  readonly from: number;
  readonly to: number;
  readonly direction: BowMark;
  readonly follows: Follows;
  readonly start: number;
  readonly end: number;
}

export interface StretchPlan {
  readonly cost: number;
  readonly strokes: readonly StretchStroke[];
}

const DIRECTIONS = ['down', 'up'] as const;
const other = (direction: BowMark): BowMark => (direction === 'down' ? 'up' : 'down');

/** Cheapest ways to have played the sounds before one: by direction of the last stroke, and its place. */
interface Reached {
  readonly cost: Record<BowMark, Float64Array>;
  readonly last: Record<BowMark, (StretchStroke | null)[]>;
}

/**
 * The cheapest strokes of a stretch.
 * @returns null where none is allowed
 * @example cheapestStretch({ count: 0 } as StretchProblem)?.strokes // []
 */
export function cheapestStretch(problem: StretchProblem): StretchPlan | null {
  const { count, places, most } = problem;
  if (count === 0) return { cost: 0, strokes: [] };
  const reached = Array.from({ length: count + 1 }, (): Reached => ({
    cost: { down: new Float64Array(places).fill(Infinity), up: new Float64Array(places).fill(Infinity) },
    last: { down: new Array<null>(places).fill(null), up: new Array<null>(places).fill(null) },
  }));
  for (let at = 0; at < count; at += 1) {
    for (const direction of DIRECTIONS) {
      const begins = beginningsOf(problem, reached[at]!, at, direction);
      if (begins.every(({ cost }) => cost === Infinity)) continue;
      for (let to = at + 1; to <= Math.min(count, at + most); to += 1) {
        const price = problem.stroke(at, to, direction);
        if (price < Infinity) draw(problem, begins, reached[to]!, { from: at, to, direction }, price);
      }
    }
  }
  let best: { cost: number; direction: BowMark; place: number } | null = null;
  for (const direction of DIRECTIONS) {
    for (let place = 0; place < places; place += 1) {
      const cost = reached[count]!.cost[direction][place]! + problem.after(direction);
      if (cost < (best?.cost ?? Infinity)) best = { cost, direction, place };
    }
  }
  return best && { cost: best.cost, strokes: pathTo(problem, reached, best) };
}

interface Beginning {
  readonly cost: number;
  readonly follows: Follows;
}

/** For each place: what it costs to begin a stroke there, and how it then follows. */
function beginningsOf(problem: StretchProblem, { cost }: Reached, at: number, direction: BowMark): Beginning[] {
  const { places, before, first } = problem;
  const options = Array.from({ length: places }, (): Beginning => ({ cost: Infinity, follows: 'turn' }));
  const offer = (place: number, price: number, follows: Follows): void => {
    const all = price + problem.outside(at, place);
    if (all < options[place]!.cost) options[place] = { cost: all, follows };
  };
  const anywhere = (price: number, follows: Follows): void => {
    if (price < Infinity) for (let place = 0; place < places; place += 1) offer(place, price, follows);
  };
  if (at === 0) {
    if (!before) {
      if (direction === first) anywhere(0, 'turn');
    } else {
      const follows = before.direction === direction ? 'stop' : 'turn';
      offer(before.place, problem.follows(0, follows), follows);
      if (follows === 'stop') anywhere(problem.follows(0, 'lift'), 'lift');
    }
    return options;
  }
  const turn = problem.follows(at, 'turn');
  const stop = problem.follows(at, 'stop');
  for (let place = 0; place < places; place += 1) {
    offer(place, cost[other(direction)][place]! + turn, 'turn');
    offer(place, cost[direction][place]! + stop, 'stop');
  }
  anywhere(Math.min(...cost[direction]) + problem.follows(at, 'lift'), 'lift');
  return options;
}

/** Draws a stroke from everywhere to everywhere that it can end. */
function draw(
  problem: StretchProblem,
  begins: readonly Beginning[],
  { cost, last }: Reached,
  stroke: { readonly from: number; readonly to: number; readonly direction: BowMark },
  price: number,
): void {
  const { places, step } = problem;
  const natural = problem.natural(stroke.from, stroke.to, stroke.direction);
  const strains = Float64Array.from({ length: places }, (_, size) =>
    size === 0 ? Infinity : problem.strain((size * step) / natural),
  );
  const sign = stroke.direction === 'down' ? 1 : -1;
  const [costs, lasts] = [cost[stroke.direction], last[stroke.direction]];
  for (let start = 0; start < places; start += 1) {
    const begin = begins[start]!;
    if (begin.cost === Infinity) continue;
    for (let end = start + sign; end >= 0 && end < places; end += sign) {
      const all = begin.cost + price + strains[Math.abs(end - start)]! + problem.outside(stroke.from, end);
      if (all < costs[end]! - 1e-12) {
        costs[end] = all;
        lasts[end] = { ...stroke, follows: begin.follows, start, end };
      }
    }
  }
}

function pathTo(
  { places, count }: StretchProblem,
  reached: readonly Reached[],
  best: { readonly direction: BowMark; readonly place: number },
): readonly StretchStroke[] {
  const strokes: StretchStroke[] = [];
  let [at, direction, place] = [count, best.direction, best.place];
  while (at > 0) {
    const stroke = reached[at]!.last[direction][place]!;
    strokes.unshift(stroke);
    at = stroke.from;
    direction = stroke.follows === 'turn' ? other(stroke.direction) : stroke.direction;
    place = stroke.start;
    if (stroke.follows === 'lift') {
      // Set down anew: the one before ended where that was cheapest.
      const costs = reached[at]!.cost[direction];
      place = 0;
      for (let index = 1; index < places; index += 1) if (costs[index]! < costs[place]!) place = index;
    }
  }
  return strokes;
}
