/**
 * The cost model: each rule has a name, words for it, and a price. Prices are judgements; the unit is
 * a thousandth of a plain string crossing's scale, whole numbers, so that sums are exact.
 * Movement costs grow as the time for the movement shrinks.
 */
import type { Seconds } from '../music/index.ts';
import type { InstrumentId } from '../instrument/index.ts';
import type { Frame } from './frames.ts';
import type { HandState, Stop } from './state.ts';

export const RULES = {
  fourth: { one: 'fourth finger', many: 'fourth fingers' },
  lowFirst: { one: 'low first finger', many: 'low first fingers' },
  moved: { one: 'low or high finger', many: 'low or high fingers' },
  extension: { one: 'extension', many: 'extensions' },
  reach: { one: 'change between closed and extended hand', many: 'changes between closed and extended hand' },
  spelling: { one: 'finger that does not fit the note’s letter', many: 'fingers that do not fit the note’s letter' },
  position: { one: 'note away from first position', many: 'notes away from first position' },
  crossing: { one: 'string crossing', many: 'string crossings' },
  skip: { one: 'skipped string', many: 'skipped strings' },
  slurCrossing: { one: 'crossing inside a slur', many: 'crossings inside a slur' },
  hop: { one: 'hop of one finger to another string', many: 'hops of one finger to another string' },
  slide: { one: 'finger sliding between low and high', many: 'fingers sliding between low and high' },
  block: { one: 'finger across two strings', many: 'fingers across two strings' },
  shift: { one: 'shift', many: 'shifts' },
  slurShift: { one: 'shift inside a slur', many: 'shifts inside a slur' },
  double: { one: 'double stop', many: 'double stops' },
} as const;
export type RuleName = keyof typeof RULES;

/** Thousandths; see each rule's name for what one of it costs at an ordinary pace. */
export const PRICES = {
  /** The weak finger: less than one crossing at quick tempo, more than one at slow. */
  fourth: { violin: 550, viola: 600, cello: 150, bass: 150 },
  /** A long note on the weak finger tires it. */
  fourthLong: 250,
  lowFirst: 250,
  lowSecond: 50,
  highThird: 150,
  lowFourth: 200,
  extendedFourth: 1600,
  /** Holding the hand open. */
  extension: 80,
  /** Opening or closing it. */
  reach: 500,
  spelling: 800,
  position: 120,
  crossing: 700,
  skip: 900,
  slurCrossing: 200,
  hop: 500,
  slide: 900,
  block: 100,
  shift: 800,
  shiftEach: 150,
  slurShift: 500,
  double: 500,
  /** Each semitone that a double stop spans beyond four. */
  doubleSpan: 300,
} as const;

/** A movement that has this long costs its list price. */
const ORDINARY: Seconds = 0.3;
const LEAST_FACTOR = 0.5;
const GREATEST_FACTOR = 2;
/** What counts as a long note for the weak finger. */
const LONG: Seconds = 0.8;
/** Shifts while an open string sounds, over a rest, and at a phrase join: share of the price. */
const FREE_HAND = 0.4;
const OVER_REST = 0.3;
const AT_JOIN = 0.5;

/** Effort by time: falls with the square root of the time there is, within bounds. */
export function haste(available: Seconds): number {
  return Math.min(GREATEST_FACTOR, Math.max(LEAST_FACTOR, Math.sqrt(ORDINARY / Math.max(available, 1e-6))));
}

/** What the model needs to know of a note beside its pitches. */
export interface StepContext {
  readonly instrument: InstrumentId;
  /** How long the note sounds. */
  readonly duration: Seconds;
  /** From the onset before to this one. */
  readonly available: Seconds;
  /** Silence before the note. */
  readonly rest: Seconds;
  /** On the same stroke as the note before. */
  readonly slurred: boolean;
  readonly phraseStart: boolean;
}

export type Charge = (rule: RuleName, price: number) => void;

/** What a state costs by itself. */
export function chargeState(state: HandState, context: StepContext, charge: Charge): void {
  for (const stop of state.stops) chargeStop(stop, context, charge);
  if (state.frame.shape !== 'closed') charge('extension', PRICES.extension);
  if (state.frame.position !== 'I') charge('position', PRICES.position);
  if (state.stops.length > 1) {
    charge('double', PRICES.double * (state.stops.length - 1));
    const places = state.stops.filter(({ finger }) => finger > 0).map(({ semitones }) => semitones);
    const span = places.length > 1 ? Math.max(...places) - Math.min(...places) : 0;
    if (span > 4) charge('double', PRICES.doubleSpan * (span - 4));
  }
}

function chargeStop(stop: Stop, context: StepContext, charge: Charge): void {
  const { finger, sign } = stop;
  const upper = context.instrument === 'violin' || context.instrument === 'viola';
  if (finger === 4)
    charge('fourth', PRICES.fourth[context.instrument] + (upper && context.duration >= LONG ? PRICES.fourthLong : 0));
  if (stop.misspelled) charge('spelling', PRICES.spelling);
  if (!upper) return;
  if (finger === 1 && sign === 'low') charge('lowFirst', PRICES.lowFirst);
  if (finger === 2 && sign === 'low') charge('moved', PRICES.lowSecond);
  if (finger === 3 && sign === 'high') charge('moved', PRICES.highThird);
  if (finger === 4 && sign === 'low') charge('moved', PRICES.lowFourth);
  if (sign === 'extended') charge('extension', PRICES.extendedFourth);
}

/** What it costs to come from one state to the next. */
export function chargeMove(from: HandState, to: HandState, context: StepContext, charge: Charge): void {
  const factor = haste(context.available);
  const moved = Math.min(...from.stops.flatMap((a) => to.stops.map((b) => Math.abs(a.string - b.string))));
  if (moved > 0) charge('crossing', price(PRICES.crossing, factor));
  for (let skipped = 1; skipped < moved; skipped += 1) charge('skip', price(PRICES.skip, factor));
  if (moved > 0 && context.slurred) charge('slurCrossing', PRICES.slurCrossing);
  chargeFrame(from, to, context, factor, charge);
  const shifted = from.frame.position !== to.frame.position;
  for (const a of from.stops) {
    for (const b of to.stops) chargeFinger(a, b, shifted, factor, charge);
  }
}

function chargeFrame(from: HandState, to: HandState, context: StepContext, factor: number, charge: Charge): void {
  if (from.frame === to.frame) return;
  const free = from.stops.every(({ finger }) => finger === 0) || to.stops.every(({ finger }) => finger === 0);
  const ease = Math.min(free ? FREE_HAND : 1, context.rest > 0 ? OVER_REST : 1, context.phraseStart ? AT_JOIN : 1);
  if (from.frame.position !== to.frame.position) {
    const distance = Math.abs(from.frame.base - to.frame.base);
    charge('shift', price((PRICES.shift + PRICES.shiftEach * distance) * ease, factor));
    if (context.slurred && !free) charge('slurShift', PRICES.slurShift);
  }
  if (from.frame.shape !== to.frame.shape)
    charge('reach', price(PRICES.reach * ease * shapeSteps(from.frame, to.frame), factor));
}

/** Forward to backward passes through the closed hand. */
function shapeSteps(from: Frame, to: Frame): number {
  return from.shape !== 'closed' && to.shape !== 'closed' ? 2 : 1;
}

function chargeFinger(a: Stop, b: Stop, shifted: boolean, factor: number, charge: Charge): void {
  if (a.finger === 0 || a.finger !== b.finger) return;
  const strings = Math.abs(a.string - b.string);
  if (strings === 0) {
    if (a.semitones !== b.semitones && !shifted) charge('slide', price(PRICES.slide, factor));
  } else if (a.semitones !== b.semitones) {
    charge('hop', price(PRICES.hop, factor));
  } else if (strings === 1) {
    charge('block', price(PRICES.block, factor));
  }
}

const price = (base: number, factor: number) => Math.round(base * factor);
