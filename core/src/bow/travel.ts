/**
 * The travel stage: where on the hair each stroke lies. Two paths: if nothing is done, and planned, which keeps the
 * bow on the hair with as little as possible that sticks out. Section 5 of the domain.
 */
import {
  isNote,
  seconds,
  type BowMark,
  type Bpm,
  type Dynamic,
  type Note,
  type Seconds,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import type { Instrument, Millimetres } from '../instrument/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';
import { bowSlice, type BowDecisions, type Region } from './slice.ts';
import type { Bowing, Stroke } from './strokes.ts';

/** Millimetres a second by dynamic. Source: section 5 of the domain; what is softer or louder is as the outermost. */
const SPEED: Readonly<Record<Dynamic, number>> = {
  pppp: 120,
  ppp: 120,
  pp: 120,
  p: 180,
  mp: 240,
  mf: 320,
  f: 450,
  ff: 600,
  fff: 600,
  ffff: 600,
  sfz: 600,
};
const USUAL: Dynamic = 'mf';
/** Down-bows are a little longer, so that long runs of separate bows drift towards the tip. Share. */
const DOWN_SURPLUS = 1.04;
/** An accent begins faster: a stroke with one is longer. Share; a judgement. */
const ACCENT = 1.15;
/** Where the bow is set down if nothing is done: so far from the frog with a down-bow, from the tip with an up-bow. */
const BEGIN: Millimetres = 100;
/** Places on the hair that the plan knows lie so far apart. */
const STEP: Millimetres = 5;
/** What each millimetre outside the wished region costs the plan: more than any stroke that sticks out. */
const OUTSIDE = 1;

/** Of plans that are equally good the one nearer to the middle of the hair: too little to weigh against anything else. */
const CENTRING = 1e-7;

/** Strokes that are so many times faster or slower than natural stick out. */
export const STICKS_OUT = 1.5;

/** Where one stroke lies; places are millimetres from the frog. */
export interface Travel {
  readonly duration: Seconds;
  /** Natural length: speed × time. */
  readonly natural: Millimetres;
  readonly start: Millimetres;
  readonly end: Millimetres;
  readonly length: Millimetres;
  /** Planned length over the natural one. */
  readonly strain: number;
  /** Millimetres a second. */
  readonly speed: number;
  /** If nothing is done; it may leave the hair. */
  readonly drift: { readonly start: Millimetres; readonly end: Millimetres };
}

/** A stroke that a player has to know of. */
export interface TravelFlag {
  /** The bow would leave the hair if nothing is done; or the plan asks for a stroke unlike the others. */
  readonly kind: 'out-of-bow' | 'sticks-out';
  readonly note: string;
  readonly time: number;
}

export interface Travelling {
  readonly hair: Millimetres;
  /** One for each stroke, in their order. */
  readonly strokes: readonly Travel[];
  /** The part of the hair that each phrase takes, the first time round. */
  readonly regions: ReadonlyMap<string, Region>;
  readonly flags: readonly TravelFlag[];
}

/** What of the decisions says where on the hair the bow is, and how far it goes. */
export type TravelDecisions = Pick<BowDecisions, 'regions' | 'lengths'>;

/** @example travelOf(bowTune(reel, form), reel, form, 120, INSTRUMENT.violin).strokes[0].natural // 166.4 */
export function travelOf(
  bowing: Pick<Bowing, 'strokes' | 'accents'>,
  tune: Tune,
  form: Form,
  tempo: Bpm,
  { hair }: Pick<Instrument, 'hair'>,
  decided: TravelDecisions = bowSlice.first,
): Travelling {
  const { strokes } = bowing;
  const natural = naturalLengths(bowing, tune, tempo, decided);
  const drift = drifting(strokes, natural, hair);
  const places = planned(strokes, natural, boundsOf(strokes, tune, hair, decided), hair);
  const all = strokes.map(({ duration }, index): Travel => {
    const [start, end] = places[index]!;
    const length = Math.abs(end - start);
    const time = seconds(duration, tempo);
    return {
      duration: time,
      natural: natural[index]!,
      start,
      end,
      length,
      strain: length / natural[index]!,
      speed: length / time,
      drift: drift[index]!,
    };
  });
  return { hair, strokes: all, regions: regionsOf(form, strokes, all, hair), flags: flagsOf(strokes, all, hair) };
}

/**
 * Natural lengths of strokes: speed by dynamic and accent, longer down-bows, and how long the teacher wants them.
 * @example naturalLengths(facts.bowing, reel, 120)[1] // 80
 */
export function naturalLengths(
  { strokes, accents }: Pick<Bowing, 'strokes' | 'accents'>,
  tune: Tune,
  tempo: Bpm,
  decided: Pick<BowDecisions, 'lengths'> = bowSlice.first,
): readonly Millimetres[] {
  const natural = naturalLength(tune, accents, tempo, decided);
  return strokes.map(({ notes, direction, duration }) => natural(notes[0]!, direction, duration));
}

/**
 * How long a stroke naturally is that begins with a note, goes one way and lasts so many ticks.
 * @example naturalLength(reel, new Set(), 120)('n1', 'up', 1680) // 80
 */
export function naturalLength(
  tune: Tune,
  accents: ReadonlySet<string>,
  tempo: Bpm,
  { lengths }: Pick<BowDecisions, 'lengths'> = bowSlice.first,
): (first: string, direction: BowMark, duration: Ticks) => Millimetres {
  const speeds = speedsOf(tune, accents);
  const share = sharesOf(tune, lengths);
  return (first, direction, duration) => {
    const surplus = direction === 'down' ? DOWN_SURPLUS : 1;
    return (speeds.get(first) ?? SPEED[USUAL]) * surplus * share(first) * seconds(duration, tempo);
  };
}

/** Where the bow goes if every stroke has its natural length. @example driftOf(facts.bowing, reel, 120, 650)[0].start // 100 */
export function driftOf(
  bowing: Pick<Bowing, 'strokes' | 'accents'>,
  tune: Tune,
  tempo: Bpm,
  hair: Millimetres,
  decided?: Pick<BowDecisions, 'lengths'>,
): readonly Travel['drift'][] {
  return drifting(bowing.strokes, naturalLengths(bowing, tune, tempo, decided), hair);
}

/** Numbers of the notes in written order. */
const orderOf = (tune: Tune): ReadonlyMap<string, number> =>
  new Map(tune.bars.flatMap(({ events }) => events.filter(isNote)).map(({ id }, index) => [id, index]));

function sharesOf(tune: Tune, lengths: BowDecisions['lengths']): (note: string) => number {
  if (lengths.length === 0) return () => 1;
  const order = orderOf(tune);
  return (note) => {
    const at = order.get(note)!;
    return lengths.findLast(({ from, to }) => at >= order.get(from)! && at <= order.get(to)!)?.share ?? 1;
  };
}

type Bounds = readonly [lowest: Millimetres, highest: Millimetres];

/** Shares of the hair that the names of regions mean. */
export const REGION_BOUNDS: Readonly<Record<Region, readonly [number, number]>> = {
  'lower half': [0, 0.5],
  middle: [0.25, 0.75],
  'upper half': [0.5, 1],
  whole: [0, 1],
};

/** The part of the hair on which each stroke is wished. */
function boundsOf(
  strokes: readonly Stroke[],
  tune: Tune,
  hair: Millimetres,
  { regions }: Pick<BowDecisions, 'regions'>,
): readonly Bounds[] {
  const wished = regionWishes(tune, regions);
  return strokes.map(({ notes }) => {
    const [low, high] = REGION_BOUNDS[wished(notes[0]!)];
    return [low * hair, high * hair];
  });
}

/**
 * The region that the teacher wishes at a note: each holds until the next.
 * @example regionWishes(reel, { n5: 'middle' })('n6') // 'middle'
 */
export function regionWishes(tune: Tune, regions: BowDecisions['regions']): (note: string) => Region {
  if (Object.keys(regions).length === 0) return () => 'whole';
  let region: Region = 'whole';
  const wished = new Map<string, Region>();
  for (const id of orderOf(tune).keys()) {
    region = regions[id] ?? region;
    wished.set(id, region);
  }
  return (note) => wished.get(note) ?? 'whole';
}

/** The natural speed of each note: a dynamic holds until the next. */
function speedsOf(tune: Tune, accents: ReadonlySet<string>): ReadonlyMap<string, number> {
  const speeds = new Map<string, number>();
  let dynamic = USUAL;
  const read = (note: Note): void => {
    if (note.dynamic && note.dynamic !== 'sfz') ({ dynamic } = note);
    const own = note.dynamic === 'sfz' ? 'sfz' : dynamic;
    const accented =
      accents.has(note.id) || (note.decorations?.some((sign) => sign === 'accent' || sign === 'marcato') ?? false);
    speeds.set(note.id, SPEED[own] * (accented ? ACCENT : 1));
  };
  for (const { events } of tune.bars) events.filter(isNote).forEach(read);
  return speeds;
}

const sign = (direction: BowMark) => (direction === 'down' ? 1 : -1);

/** Where the bow goes if every stroke has its natural length. */
function drifting(
  strokes: readonly Stroke[],
  natural: readonly Millimetres[],
  hair: Millimetres,
): readonly Travel['drift'][] {
  let place = 0;
  return strokes.map(({ direction, retake }, index) => {
    if (index === 0 || retake) place = direction === 'down' ? BEGIN : hair - BEGIN;
    const start = place;
    place += sign(direction) * natural[index]!;
    return { start, end: place };
  });
}

/**
 * The planned path: of all paths over the places of the hair the one with the smallest sum of squared logarithms of
 * planned over natural length. A retake sets the bow down anywhere, so that what lies between two is planned by itself.
 */
function planned(
  strokes: readonly Stroke[],
  natural: readonly Millimetres[],
  bounds: readonly Bounds[],
  hair: Millimetres,
): readonly (readonly [Millimetres, Millimetres])[] {
  // Even the shortest strokes, one way all of them, come to the end of the hair: then the bow is set down anew.
  const most = Math.floor(hair / STEP);
  let streak = 0;
  const begins = strokes.flatMap(({ retake, direction }, index) => {
    streak = direction === strokes[index - 1]?.direction ? streak + 1 : 1;
    const begin = index === 0 || retake || streak > most;
    if (begin) streak = 1;
    return begin ? [index] : [];
  });
  return begins.flatMap((begin, run) => {
    const end = begins[run + 1] ?? strokes.length;
    const directions = strokes.slice(begin, end).map(({ direction }) => direction);
    return plannedRun(directions, natural.slice(begin, end), bounds.slice(begin, end), hair);
  });
}

/**
 * Strokes that follow each other on the hair: dynamic programming over its places, exact on them. The price of a length
 * is convex up to e times the natural one, so that the best origin of a place moves one way with the place, and few have
 * to be tried. Beyond that the price is continued by its tangent, which is nowhere dearer: a path that does not go
 * there is the best of all. For the rare one that does, every origin is tried.
 */
function plannedRun(
  directions: readonly BowMark[],
  natural: readonly Millimetres[],
  bounds: readonly Bounds[],
  hair: Millimetres,
): readonly (readonly [Millimetres, Millimetres])[] {
  const run: Run = { directions, natural, bounds, count: Math.floor(hair / STEP) + 1 };
  const path = searched(run, bestOrigins);
  const goesBeyond = path.some(([start, end], index) => Math.abs(end - start) > Math.E * natural[index]!);
  return goesBeyond ? searched(run, allOrigins) : path;
}

interface Run {
  readonly directions: readonly BowMark[];
  readonly natural: readonly Millimetres[];
  readonly bounds: readonly Bounds[];
  /** Places on the hair. */
  readonly count: number;
}

/** What it costs to be at each place before a stroke away from place 0, and how long the stroke naturally is, in steps. */
interface StrokeStep {
  readonly costs: Float64Array;
  readonly steps: number;
  /** Prices by length in steps, with the tangent beyond. */
  readonly prices?: Float64Array;
}
/** Fills in for each place the cheapest cost to end there, and where the stroke began. */
type Search = (step: StrokeStep, next: Float64Array, origin: Int16Array) => void;

/** Every origin for every place. */
const allOrigins: Search = ({ costs, steps }, next, origin) => {
  for (let place = 0; place < costs.length; place += 1) {
    for (let to = place + 1; to < costs.length; to += 1) {
      const cost = costs[place]! + Math.log((to - place) / steps) ** 2;
      if (cost < next[to]!) {
        next[to] = cost;
        origin[to] = place;
      }
    }
  }
};

/** By halves: the best origin of a place lies between those of the places around it. */
const bestOrigins: Search = ({ costs, prices }, next, origin) => {
  const price = prices!;
  const halve = (low: number, high: number, first: number, last: number): void => {
    if (low > high) return;
    const to = (low + high) >> 1;
    let best = first;
    for (let place = first; place <= Math.min(last, to - 1); place += 1) {
      const cost = costs[place]! + price[to - place]!;
      if (cost < next[to]!) {
        next[to] = cost;
        origin[to] = place;
        best = place;
      }
    }
    halve(low, to - 1, first, best);
    halve(to + 1, high, best, last);
  };
  halve(1, costs.length - 1, 0, costs.length - 1);
};

function searched({ directions, natural, bounds, count }: Run, search: Search): [Millimetres, Millimetres][] {
  // A tune has few different lengths: each is priced once.
  const known = new Map<number, Float64Array>();
  const pricesFor = (steps: number): Float64Array => {
    const turn = Math.E * steps;
    const price = (size: number) => (size > turn ? 1 + (2 / turn) * (size - turn) : Math.log(size / steps) ** 2);
    const prices = known.get(steps) ?? Float64Array.from({ length: count }, (_, size) => price(size));
    known.set(steps, prices);
    return prices;
  };
  const outside = (place: number, [low, high]: Bounds): number => {
    const off = (2 * place) / (count - 1) - 1;
    return OUTSIDE * Math.max(0, low - place * STEP, place * STEP - high) + CENTRING * off * off;
  };
  let costs = Float64Array.from({ length: count }, (_, place) => outside(place, bounds[0]!));
  const origins = directions.map((direction, index) => {
    const origin = new Int16Array(count).fill(-1);
    const next = new Float64Array(count).fill(Infinity);
    const steps = natural[index]! / STEP;
    // An up-bow is a down-bow on a hair that is turned round.
    const turned = direction === 'up';
    search({ costs: turned ? costs.toReversed() : costs, steps, prices: pricesFor(steps) }, next, origin);
    if (turned) {
      next.reverse();
      origin.reverse();
      for (let place = 0; place < count; place += 1)
        if (origin[place]! >= 0) origin[place] = count - 1 - origin[place]!;
    }
    for (let place = 0; place < count; place += 1) next[place]! += outside(place, bounds[index]!);
    costs = next;
    return origin;
  });
  const path: [Millimetres, Millimetres][] = [];
  let place = costs.indexOf(Math.min(...costs));
  for (let index = directions.length - 1; index >= 0; index -= 1) {
    const begin = origins[index]![place]!;
    path.push([begin * STEP, place * STEP]);
    place = begin;
  }
  return path.reverse();
}

/** Shares of the hair within which a phrase is said to stay in a half or in the middle. */
const HALF = 0.55;
const MARGIN = 0.2;

function regionsOf(
  form: Form,
  strokes: readonly Stroke[],
  travel: readonly Travel[],
  hair: Millimetres,
): ReadonlyMap<string, Region> {
  const first = new Map<string, number>();
  strokes.forEach(({ notes, time }, index) => {
    if (time === 1) for (const note of notes) if (!first.has(note)) first.set(note, index);
  });
  return new Map(
    phrasesOf(form).flatMap(({ id, notes }): [string, Region][] => {
      const own = [...new Set(notes.map((note) => first.get(note)))].flatMap((at) => (at === undefined ? [] : [at]));
      if (own.length === 0) return [];
      const ends = own.flatMap((at) => [travel[at]!.start, travel[at]!.end]);
      return [[id, regionOf(Math.min(...ends) / hair, Math.max(...ends) / hair)]];
    }),
  );
}

function regionOf(low: number, high: number): Region {
  if (high <= HALF) return 'lower half';
  if (low >= 1 - HALF) return 'upper half';
  return low >= MARGIN && high <= 1 - MARGIN ? 'middle' : 'whole';
}

function flagsOf(strokes: readonly Stroke[], travel: readonly Travel[], hair: Millimetres): readonly TravelFlag[] {
  const flags: TravelFlag[] = [];
  let off = false;
  strokes.forEach(({ notes, time, retake }, index) => {
    const { drift, strain } = travel[index]!;
    if (retake) off = false;
    const leaves = drift.end < 0 || drift.end > hair;
    // Said once, where it happens first.
    if (leaves && !off) flags.push({ kind: 'out-of-bow', note: notes[0]!, time });
    off ||= leaves;
    if (strain > STICKS_OUT || strain < 1 / STICKS_OUT) flags.push({ kind: 'sticks-out', note: notes[0]!, time });
  });
  return flags;
}
