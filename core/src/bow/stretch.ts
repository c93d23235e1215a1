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

/** Cheapest ways to have played the sounds before one: by direction of the last stroke, and the place where it ended. */
interface Reached {
  readonly cost: Readonly<Record<BowMark, Float64Array>>;
  /** Where that stroke began: its first sound, its place, and how it followed. */
  readonly from: Readonly<Record<BowMark, Int32Array>>;
  readonly start: Readonly<Record<BowMark, Int16Array>>;
  readonly follows: Readonly<Record<BowMark, Int8Array>>;
}

const each = <Value>(make: () => Value): Readonly<Record<BowMark, Value>> => ({ down: make(), up: make() });

const unreached = (places: number): Reached => ({
  cost: each(() => new Float64Array(places).fill(Infinity)),
  from: each(() => new Int32Array(places)),
  start: each(() => new Int16Array(places)),
  follows: each(() => new Int8Array(places)),
});

/**
 * The cheapest strokes of a stretch.
 * @returns null where none is allowed
 * @example cheapestStretch({ count: 0 }).strokes // []
 */
export function cheapestStretch(problem: StretchProblem): StretchPlan | null {
  const { count, places, most } = problem;
  if (count === 0) return { cost: 0, strokes: [] };
  const reached = Array.from({ length: count + 1 }, () => unreached(places));
  const strainsOf = pricedStrains(problem);
  for (let at = 0; at < count; at += 1) {
    for (const direction of DIRECTIONS) {
      const begins = beginningsOf(problem, reached[at]!, at, direction);
      if (!begins) continue;
      for (let to = at + 1; to <= Math.min(count, at + most); to += 1) {
        const price = problem.stroke(at, to, direction);
        if (price === Infinity) continue;
        const strains = strainsOf(problem.natural(at, to, direction));
        draw(begins, strains, price, reached[to]!, { from: at, direction });
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

/** Prices of a stroke by its length in places; a tune has few different natural lengths. */
function pricedStrains({ places, step, strain }: StretchProblem): (natural: Millimetres) => Float64Array {
  const known = new Map<Millimetres, Float64Array>();
  return (natural) => {
    const prices =
      known.get(natural) ??
      Float64Array.from({ length: places }, (_, size) => (size === 0 ? Infinity : strain((size * step) / natural)));
    known.set(natural, prices);
    return prices;
  };
}

/** For each place: what it costs to begin a stroke there, how it then follows, and what it costs to end there. */
interface Beginnings {
  readonly cost: Float64Array;
  readonly follows: Int8Array;
  readonly outside: Float64Array;
}

function beginningsOf(problem: StretchProblem, { cost }: Reached, at: number, direction: BowMark): Beginnings | null {
  const { places, before, first } = problem;
  const begins: Beginnings = {
    cost: new Float64Array(places).fill(Infinity),
    follows: new Int8Array(places),
    outside: Float64Array.from({ length: places }, (_, place) => problem.outside(at, place)),
  };
  let any = false;
  const offer = (place: number, price: number, how: Follows): void => {
    const all = price + begins.outside[place]!;
    if (!(all < begins.cost[place]!)) return;
    begins.cost[place] = all;
    begins.follows[place] = FOLLOWS.indexOf(how);
    any = true;
  };
  const anywhere = (price: number, how: Follows): void => {
    if (price < Infinity) for (let place = 0; place < places; place += 1) offer(place, price, how);
  };
  if (at === 0 && !before) {
    if (direction === first) anywhere(0, 'turn');
  } else if (at === 0) {
    const how = before!.direction === direction ? 'stop' : 'turn';
    offer(before!.place, problem.follows(0, how), how);
    if (how === 'stop') anywhere(problem.follows(0, 'lift'), 'lift');
  } else {
    const [turn, stop] = [problem.follows(at, 'turn'), problem.follows(at, 'stop')];
    const [turned, same] = [cost[other(direction)], cost[direction]];
    for (let place = 0; place < places; place += 1) {
      offer(place, turned[place]! + turn, 'turn');
      offer(place, same[place]! + stop, 'stop');
    }
    anywhere(Math.min(...same) + problem.follows(at, 'lift'), 'lift');
  }
  return any ? begins : null;
}

/** Draws a stroke from everywhere to everywhere that it can end. */
function draw(
  { cost: begin, follows: how, outside }: Beginnings,
  strains: Float64Array,
  price: number,
  { cost, from, start, follows }: Reached,
  stroke: { readonly from: number; readonly direction: BowMark },
): void {
  const { direction } = stroke;
  const sign = direction === 'down' ? 1 : -1;
  const [costs, froms, starts, hows] = [cost[direction], from[direction], start[direction], follows[direction]];
  for (let place = 0; place < begin.length; place += 1) {
    if (begin[place] === Infinity) continue;
    for (let end = place + sign; end >= 0 && end < begin.length; end += sign) {
      const all = begin[place]! + price + strains[Math.abs(end - place)]! + outside[end]!;
      if (all < costs[end]! - 1e-12) {
        costs[end] = all;
        froms[end] = stroke.from;
        starts[end] = place;
        hows[end] = how[place]!;
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
  let [to, direction, end] = [count, best.direction, best.place];
  while (to > 0) {
    const known = reached[to]!;
    const from = known.from[direction][end]!;
    const start = known.start[direction][end]!;
    const follows = FOLLOWS[known.follows[direction][end]!]!;
    strokes.unshift({ from, to, direction, follows, start, end });
    to = from;
    if (follows === 'turn') direction = other(direction);
    end = start;
    if (follows === 'lift') {
      // Set down anew: the one before ended where that was cheapest.
      const costs = reached[to]!.cost[direction];
      end = 0;
      for (let place = 1; place < places; place += 1) if (costs[place]! < costs[end]!) end = place;
    }
  }
  return strokes;
}
