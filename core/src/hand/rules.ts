/**
 * The cost model: each rule has a name, words for it, and a price. Prices are judgements; the unit is
 * a thousandth of a plain string crossing's scale, whole numbers, so that sums are exact.
 * Movement costs grow as the time for the movement shrinks. Reasons: docs/adr/0009-fingering-prices.md.
 */
import type { Seconds, Semitones } from '../music/index.ts';
import type { InstrumentId } from '../instrument/index.ts';
import { HOME_BASE, type Frame } from './frames.ts';
import type { HandState, Stop } from './state.ts';

export const RULES = {
  fourth: { one: 'fourth finger', many: 'fourth fingers' },
  lowFirst: { one: 'low first finger', many: 'low first fingers' },
  moved: { one: 'low or high finger', many: 'low or high fingers' },
  extension: { one: 'extension', many: 'extensions' },
  squeeze: { one: 'note in a contracted hand', many: 'notes in a contracted hand' },
  reach: { one: 'change between closed and open hand', many: 'changes between closed and open hand' },
  spelling: { one: 'finger that does not fit the note’s letter', many: 'fingers that do not fit the note’s letter' },
  position: { one: 'note away from first position', many: 'notes away from first position' },
  crossing: { one: 'string crossing', many: 'string crossings' },
  skip: { one: 'skipped string', many: 'skipped strings' },
  slurCrossing: { one: 'crossing inside a slur', many: 'crossings inside a slur' },
  hop: { one: 'hop of one finger to another string', many: 'hops of one finger to another string' },
  slide: { one: 'finger sliding between low and high', many: 'fingers sliding between low and high' },
  block: { one: 'finger across two strings', many: 'fingers across two strings' },
  shift: { one: 'shift', many: 'shifts' },
  sameShift: { one: 'quick shift on one finger', many: 'quick shifts on one finger' },
  stringShift: { one: 'shift to another string', many: 'shifts to another string' },
  slurShift: { one: 'shift inside a slur', many: 'shifts inside a slur' },
  glide: { one: 'slide that changes the finger', many: 'slides that change the finger' },
  openTone: { one: 'open string that stands out', many: 'open strings that stand out' },
  ring: { one: 'stopped note where an open string would ring', many: 'stopped notes where an open string would ring' },
  harmonic: { one: 'octave harmonic', many: 'octave harmonics' },
  double: { one: 'double stop', many: 'double stops' },
  usual: { one: 'note unlike the same phrase elsewhere', many: 'notes unlike the same phrase elsewhere' },
} as const;
export type RuleName = keyof typeof RULES;
export const RULE_NAMES = Object.keys(RULES) as readonly RuleName[];

/** How much a rule counts for a teacher: 1 as listed, 0 not at all. */
export type Weights = Readonly<Record<RuleName, number>>;

/** What some players want and others not: counts only where a preset asks for it. */
const ON_REQUEST: readonly RuleName[] = ['openTone', 'ring'];
export const PLAIN_WEIGHTS = Object.fromEntries(
  RULE_NAMES.map((name) => [name, ON_REQUEST.includes(name) ? 0 : 1]),
) as Weights;

/** Thousandths; see each rule's name for what one of it costs at an ordinary pace. */
export const PRICES = {
  /** The weak finger: less than one crossing at quick tempo, more than one at slow. */
  fourth: { violin: 550, viola: 600, cello: 120, bass: 20 },
  /** In higher positions the hand is round over the string, and the finger no longer weak. */
  fourthHigh: 350,
  /** Put down so many semitones above an open string, with no finger beside it. */
  fourthLeap: 1050,
  fourthLeapFrom: 5,
  /** A long note on the weak finger tires it. */
  fourthLong: 250,
  lowFirst: 250,
  /** The first finger reaching back out of a higher position. */
  lowFirstHigh: 600,
  lowSecond: 50,
  /** Close by a low first finger. */
  deepSecond: 150,
  lowThird: 150,
  highThird: 150,
  lowFourth: 200,
  /** Low and high fingers in higher positions: the hand has no home there that they leave. */
  movedHigh: 40,
  extendedFourth: 1400,
  /** Places lie closer, the hand reaches more easily: in II and III, and above. */
  extendedFourthMiddle: 900,
  extendedFourthHigh: 600,
  /** Holding the hand open. */
  extension: 120,
  /** Opening or closing it. */
  reach: 750,
  squeeze: 350,
  spelling: 1000,
  /** In first position a home finger is found whatever the note is called; it only reads otherwise. */
  spellingHome: 250,
  /** Each stopped note, by the first finger’s semitone: half position, first position, and on; dearer beyond the cello’s neck. */
  position: {
    violin: [0, 300, 0, 480, 450, 390, 550, 600, 680, 640, 760, 740, 820, 950],
    viola: [0, 330, 0, 520, 490, 410, 590, 640, 730, 690, 820, 800, 880, 1000],
    cello: [0, 200, 0, 220, 220, 220, 240, 220, 650, 630, 700, 750, 750],
    bass: [0, 100, 0, 180, 200, 220, 260, 250, 300, 320, 340],
  },
  /** Times so much where the phrase as a whole lies in first position; cello and bass have no such home. */
  noNeed: { violin: 2, viola: 2, cello: 1, bass: 1 },
  /** Beginning anywhere but in first position. */
  start: { violin: 420, viola: 420, cello: 200, bass: 300 },
  crossing: { violin: 700, viola: 700, cello: 650, bass: 600 },
  /** Share of a crossing from or to an open string: the bow moves, no finger with it. */
  openCrossing: { violin: 0.75, viola: 0.75, cello: 0.5, bass: 0.5 },
  /** The same between two open strings. */
  bothOpenCrossing: 0.3,
  skip: 900,
  slurCrossing: 200,
  hop: 500,
  slide: 900,
  block: 100,
  shift: { violin: 850, viola: 900, cello: 800, bass: 700 },
  /** Each semitone of the way. */
  shiftEach: { violin: 110, viola: 110, cello: 70, bass: 60 },
  /** Another finger than the first moving along with the hand, and for each unit of haste beyond the ordinary. */
  sameShift: 150,
  sameShiftHaste: 700,
  stringShift: 250,
  slurShift: 500,
  glide: 300,
  /** An open string cannot be slid into at all. */
  glideOpen: 3000,
  openTone: 350,
  openToneLong: 300,
  ring: 450,
  harmonic: { violin: 150, viola: 150, cello: 40, bass: 0 },
  double: 500,
  /** Each semitone that a double stop spans beyond four. */
  doubleSpan: 300,
  usual: 150,
} as const;

/** A movement that has this long costs its list price. */
const ORDINARY: Seconds = 0.3;
const LEAST_FACTOR = 0.5;
const GREATEST_FACTOR = 2;
/** What counts as a long note for the weak finger, and for an open string that stands out. */
export const LONG: Seconds = 0.8;
/** Shifts while an open string sounds, over a rest, and at a phrase join: share of the price. */
const FREE_HAND = 0.4;
const OVER_REST = 0.3;
const AT_JOIN = 0.5;
/** The octave harmonic is found by ear and by eye. */
const TO_HARMONIC = 0.7;
/** The first finger carries the hand: shifts that leave from it or land on it are surer, from so many semitones on. */
const LED_BY_FIRST = { violin: 0.6, viola: 0.6, cello: 0.6, bass: 1 };
const LEAD: Semitones = 3;
/** However much time there is, a shift has to be found. */
const LEAST_SHIFT = 0.85;
/** A slide goes at most this far. */
export const GLIDE: Semitones = 4;

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
  /** The player slides into the note. */
  readonly glide: boolean;
  /** An open string of this tuning has the note's pitch. */
  readonly openAtHand: boolean;
  /** The phrase has notes beyond first position, so that the hand has reason to be elsewhere. */
  readonly high: boolean;
  /** Nothing comes before: the hand is in first position, where it rests. */
  readonly first: boolean;
  readonly weights: Weights;
}

export type Charge = (rule: RuleName, price: number) => void;

/** Whole thousandths, so that the order of adding never matters. */
function pay(charge: Charge, { weights }: StepContext, rule: RuleName, price: number): void {
  const weighed = Math.round(price * weights[rule]);
  if (weighed !== 0) charge(rule, weighed);
}

/** What a state costs by itself. */
export function chargeState(state: HandState, context: StepContext, charge: Charge): void {
  const { frame, stops } = state;
  for (const stop of stops) chargeStop(stop, frame, context, stops.length === 1, charge);
  const stopped = stops.some(({ finger }) => finger > 0);
  if (frame.shape === 'forward' || frame.shape === 'backward') pay(charge, context, 'extension', PRICES.extension);
  if (frame.shape === 'contracted') pay(charge, context, 'squeeze', PRICES.squeeze);
  const fingers = stops.reduce((count, { finger }) => count + Number(finger > 0), 0);
  const start = context.first && frame.base !== HOME_BASE ? PRICES.start[context.instrument] : 0;
  const need = context.high ? 1 : PRICES.noNeed[context.instrument];
  pay(charge, context, 'position', PRICES.position[context.instrument][frame.base]! * fingers * need + start);
  if (stopped && context.openAtHand && stops.length === 1) pay(charge, context, 'ring', PRICES.ring);
  if (context.glide && !stopped) pay(charge, context, 'glide', PRICES.glideOpen);
  if (stops.length > 1) {
    const places = stops.filter(({ finger }) => finger > 0).map(({ semitones }) => semitones);
    const span = places.length > 1 ? Math.max(...places) - Math.min(...places) : 0;
    pay(charge, context, 'double', PRICES.double * (stops.length - 1) + PRICES.doubleSpan * Math.max(0, span - 4));
  }
}

function chargeStop(stop: Stop, frame: Frame, context: StepContext, alone: boolean, charge: Charge): void {
  const { finger, sign } = stop;
  const { instrument, duration } = context;
  const upper = instrument === 'violin' || instrument === 'viola';
  if (finger === 0) pay(charge, context, 'openTone', PRICES.openTone + (duration >= LONG ? PRICES.openToneLong : 0));
  if (sign === 'harmonic') return pay(charge, context, 'harmonic', PRICES.harmonic[instrument]);
  if (finger === 4) pay(charge, context, 'fourth', fourthPrice(frame, context, alone));
  if (stop.misspelled) {
    const atHome = frame.base <= HOME_BASE && sign === 'home';
    pay(charge, context, 'spelling', atHome ? PRICES.spellingHome : PRICES.spelling);
  }
  if (!upper) {
    // Beyond the neck an extended third finger is a stretch of its own.
    if (sign === 'extended' && frame.shape === 'closed') pay(charge, context, 'extension', PRICES.extendedFourthHigh);
    return;
  }
  const first = frame.level <= 1;
  if (finger === 1 && sign === 'low') pay(charge, context, 'lowFirst', first ? PRICES.lowFirst : PRICES.lowFirstHigh);
  else if (sign === 'low' || sign === 'high') {
    const home = movedPrice(stop, frame);
    if (frame.shape !== 'contracted') pay(charge, context, 'moved', first ? home : Math.min(home, PRICES.movedHigh));
  }
  if (sign === 'extended') pay(charge, context, 'extension', extendedPrice(frame) * haste(context.available));
}

/** A low second, third or fourth finger, or a high third, in first position. */
function movedPrice({ finger, sign, semitones }: Stop, { base }: Frame): number {
  if (finger === 4) return PRICES.lowFourth;
  if (finger === 3) return sign === 'low' ? PRICES.lowThird : PRICES.highThird;
  return base === HOME_BASE && semitones === HOME_BASE ? PRICES.deepSecond : PRICES.lowSecond;
}

function fourthPrice({ level }: Frame, { instrument, duration }: StepContext, alone: boolean): number {
  if (instrument === 'cello' || instrument === 'bass') return PRICES.fourth[instrument];
  const tires = alone && duration >= LONG ? PRICES.fourthLong : 0;
  return (level >= 2 ? PRICES.fourthHigh : PRICES.fourth[instrument]) + tires;
}

function extendedPrice({ level }: Frame): number {
  if (level <= 1) return PRICES.extendedFourth;
  return level <= 3 ? PRICES.extendedFourthMiddle : PRICES.extendedFourthHigh;
}

/** What it costs to come from one state to the next. */
export function chargeMove(from: HandState, to: HandState, context: StepContext, charge: Charge): void {
  const factor = haste(context.available);
  const moved = stringsBetween(from, to);
  if (moved > 0) {
    const open = Number(from.stops.every(isOpen)) + Number(to.stops.every(isOpen));
    const ease = open === 2 ? PRICES.bothOpenCrossing : open === 1 ? PRICES.openCrossing[context.instrument] : 1;
    pay(charge, context, 'crossing', PRICES.crossing[context.instrument] * ease * factor);
    if (context.slurred) pay(charge, context, 'slurCrossing', PRICES.slurCrossing);
    for (let skipped = 1; skipped < moved; skipped += 1) pay(charge, context, 'skip', PRICES.skip * factor);
  }
  if (from.frame !== to.frame) chargeFrame(from, to, context, factor, moved, charge);
  for (const a of from.stops) {
    for (const b of to.stops) chargeFinger(a, b, to.frame.base - from.frame.base, context, factor, charge);
  }
}

const isHarmonic = ({ sign }: Stop) => sign === 'harmonic';
const led = ({ stops }: HandState) => stops.length === 1 && stops[0]!.finger === 1;
const isOpen = ({ finger }: Stop) => finger === 0;

function stringsBetween(from: HandState, to: HandState): number {
  let least = Infinity;
  for (const a of from.stops) for (const b of to.stops) least = Math.min(least, Math.abs(a.string - b.string));
  return least;
}

function chargeFrame(
  from: HandState,
  to: HandState,
  context: StepContext,
  factor: number,
  crossed: number,
  charge: Charge,
): void {
  const free = !from.stops.some(({ finger }) => finger > 0) || !to.stops.some(({ finger }) => finger > 0);
  const distance = Math.abs(from.frame.base - to.frame.base);
  const ease = Math.min(free ? FREE_HAND : 1, context.rest > 0 ? OVER_REST : 1, context.phraseStart ? AT_JOIN : 1);
  const kind =
    (to.stops.some(isHarmonic) ? TO_HARMONIC : 1) *
    (!free && distance >= LEAD && led(from) !== led(to) ? LED_BY_FIRST[context.instrument] : 1);
  if (distance > 0) {
    const { instrument } = context;
    const way = PRICES.shift[instrument] + PRICES.shiftEach[instrument] * distance;
    pay(charge, context, 'shift', way * ease * kind * Math.max(factor, LEAST_SHIFT));
    if (context.slurred && !free && !context.glide) pay(charge, context, 'slurShift', PRICES.slurShift);
    if (crossed > 0 && !free) pay(charge, context, 'stringShift', PRICES.stringShift * ease);
  }
  if (from.frame.shape !== to.frame.shape)
    pay(charge, context, 'reach', PRICES.reach * ease * shapeSteps(from.frame, to.frame) * factor);
}

/** Forward to backward passes through the closed hand. */
function shapeSteps(from: Frame, to: Frame): number {
  return from.shape !== 'closed' && to.shape !== 'closed' ? 2 : 1;
}

function chargeFinger(a: Stop, b: Stop, shift: Semitones, context: StepContext, factor: number, charge: Charge): void {
  const strings = Math.abs(a.string - b.string);
  const upper = context.instrument === 'violin' || context.instrument === 'viola';
  if (upper && strings === 0 && b.finger === 4 && a.finger === 0 && b.semitones >= PRICES.fourthLeapFrom)
    pay(charge, context, 'fourth', PRICES.fourthLeap * factor);
  if (a.finger === 0 || b.finger === 0) return;
  const way = b.semitones - a.semitones;
  if (context.glide && strings === 0 && way > 0 && way <= GLIDE) {
    // Sliding from the note before: one finger does it best, another has to be named.
    if (a.finger !== b.finger) pay(charge, context, 'glide', PRICES.glide);
    return;
  }
  if (a.finger !== b.finger) return;
  if (shift !== 0) {
    // The hand that goes along by a semitone makes it no less of a slide.
    if (upper && strings === 0 && way !== 0 && Math.abs(shift) === 1)
      pay(charge, context, 'slide', PRICES.slide * factor);
    const hop = (a.finger > 1 ? PRICES.sameShift : 0) + PRICES.sameShiftHaste * Math.max(0, factor - 1);
    if (way !== 0) pay(charge, context, 'sameShift', hop);
  } else if (strings === 0) {
    if (way !== 0) pay(charge, context, 'slide', PRICES.slide * factor);
  } else if (way !== 0) {
    pay(charge, context, 'hop', PRICES.hop * factor);
  } else if (strings === 1) {
    pay(charge, context, 'block', PRICES.block * factor);
  }
}
