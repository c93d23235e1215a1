/**
 * The cost model: each rule has a name, words for it, and a price. Prices are judgements; the unit is
 * a thousandth of a plain string crossing's scale, whole numbers, so that sums are exact.
 * Movement costs grow as the time for the movement shrinks. Reasons: docs/adr/0009-fingering-prices.md.
 */
import type { Seconds, Semitones } from '../music/index.ts';
import { HOME_BASE, type Frame } from './vocabulary.ts';
import type { HandModel } from './hands/index.ts';
import type { RuleName, Weights } from './ruleNames.ts';
import type { HandState, Stop } from './state.ts';

/** Thousandths of the list's unit; what belongs to one instrument's hand stands with that hand. */
export const PRICES = {
  /** In higher positions the hand is round over the string, and the finger no longer weak. */
  fourthHigh: 200,
  /** Put down high above an open string, with no finger beside it. */
  fourthLeap: 1050,
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
  /** A low first and a high third, one right after the other. */
  spread: 150,
  /** Places lie closer, the hand reaches more easily: in II and III, and above. */
  extendedFourthMiddle: 900,
  extendedFourthHigh: 600,
  /** Holding the hand open. */
  extension: 120,
  /** Opening or closing it. */
  reach: 750,
  /** Moving an open hand along. */
  openShift: 600,
  squeeze: 350,
  spelling: 1000,
  /** In first position a home finger is found whatever the note is called; it only reads otherwise. */
  spellingHome: 250,
  skip: 600,
  slurCrossing: 200,
  hop: 500,
  slide: 900,
  block: 100,
  /** Another finger than the first moving along with the hand, and for each unit of haste beyond the ordinary. */
  sameShift: 150,
  sameShiftHaste: 700,
  stringShift: 250,
  /** Each semitone beyond the near ones: the place has to be found. */
  shiftFar: 80,
  slurShift: 500,
  glide: 300,
  /** An open string cannot be slid into at all. */
  glideOpen: 3000,
  openTone: 350,
  openToneLong: 300,
  ring: 450,
  /** A pedal that is stopped, and one that is damped by a note which the next string has. */
  pedal: 1600,
  pedalDamped: 900,
  /** Quick, or not where the hand is: the octave harmonic is for notes that have time to ring. */
  harmonicQuick: 900,
  harmonicAway: 700,
  double: 500,
  /** Each semitone that a double stop spans beyond the easy ones. */
  doubleSpan: 300,
  usual: 150,
} as const;

/** Parts of a price, 1 is all of it. */
export const SHARES = {
  /** Of a crossing between two open strings. */
  bothOpenCrossing: 0.3,
  /** Of a shift while an open string sounds, over a rest, and at a phrase join. */
  freeHand: 0.4,
  overRest: 0.3,
  atJoin: 0.5,
  /** The octave harmonic is found by ear and by eye. */
  toHarmonic: 0.7,
  /** However much time there is, a shift has to be found. */
  leastShift: 0.85,
  /** Of an open string that stands out, where the line rests on it as its lowest note. */
  bottomTone: 0.25,
  /** Of any movement, with all the time in the world and with none. */
  leastHaste: 0.5,
  mostHaste: 2,
} as const;

/** Semitones. */
export const DISTANCES = {
  /** A fourth finger so far above an open string has no finger beside it. */
  fourthLeap: 5,
  /** A shift of a third: the fingers feel where they come from. */
  near: 4,
  /** A shift so far is surest that leaves from the first finger or lands on it; as far again, it leads nobody. */
  lead: 3,
  /** From the first finger to the next one on the way. */
  onTheWay: 3,
  /** A slide goes at most so far. */
  glide: 4,
  /** What a double stop spans at no extra price. */
  easySpan: 4,
} as const;

/** Seconds. */
const TIMES = {
  /** A movement that has this long costs its list price. */
  ordinary: 0.3,
  /** A long note, for the weak finger and for an open string that stands out. */
  long: 0.8,
} as const;

/**
 * Effort by time: falls with the square root of the time there is, within bounds.
 * @example haste(0.3) // 1
 */
export function haste(available: Seconds): number {
  return Math.min(SHARES.mostHaste, Math.max(SHARES.leastHaste, Math.sqrt(TIMES.ordinary / Math.max(available, 1e-6))));
}

/** An open string that sounds again and again between other notes. */
export interface Pedal {
  readonly string: number;
  /** From there to the next string. */
  readonly reach: Semitones;
  /** The pedal, and not a note that moves against it. */
  readonly itself: boolean;
}

/**
 * What an open string would be to the line: its lowest note for a while; the turn of a line that stays on the string
 * below; or something else.
 */
export type OpenRole = 'bottom' | 'turn' | 'between';

/** What the model needs to know of a note beside its pitches. */
export interface StepContext {
  readonly hand: HandModel;
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
  readonly open: OpenRole | null;
  /** The phrase has notes beyond first position, so that the hand has reason to be elsewhere. */
  readonly high: boolean;
  /** The note is a pedal, or moves against one. */
  readonly pedal: Pedal | null;
  /** Nothing comes before: the hand is in first position, where it rests. */
  readonly first: boolean;
  readonly weights: Weights;
}

/** All that a note's own price depends on, so that it can be remembered by this. */
export interface StateCircumstances extends Pick<
  StepContext,
  'hand' | 'open' | 'glide' | 'first' | 'high' | 'pedal' | 'weights'
> {
  readonly long: boolean;
  readonly haste: number;
}

/** All that the price of the way into a note depends on. */
export interface MoveCircumstances extends Pick<StepContext, 'hand' | 'slurred' | 'phraseStart' | 'glide' | 'weights'> {
  readonly rested: boolean;
  readonly haste: number;
}

export function stateCircumstances(context: StepContext): StateCircumstances {
  const { hand, open, glide, first, high, pedal, weights } = context;
  const long = context.duration >= TIMES.long;
  return { hand, open, glide, first, high, pedal, weights, long, haste: haste(context.available) };
}

export function moveCircumstances(context: StepContext): MoveCircumstances {
  const { hand, slurred, phraseStart, glide, weights } = context;
  return { hand, slurred, phraseStart, glide, weights, rested: context.rest > 0, haste: haste(context.available) };
}

export type Charge = (rule: RuleName, price: number) => void;

/** Whole thousandths, so that the order of adding never matters. */
function pay(charge: Charge, { weights }: Pick<StepContext, 'weights'>, rule: RuleName, price: number): void {
  const weighed = Math.round(price * weights[rule]);
  if (weighed !== 0) charge(rule, weighed);
}

/** What a state costs by itself. */
export function chargeState(state: HandState, context: StateCircumstances, charge: Charge): void {
  const { frame, stops } = state;
  for (const stop of stops) chargeStop(stop, frame, context, stops.length === 1, charge);
  const stopped = stops.some(({ finger }) => finger > 0);
  if (frame.shape === 'forward' || frame.shape === 'backward') pay(charge, context, 'extension', PRICES.extension);
  if (frame.shape === 'contracted') pay(charge, context, 'squeeze', PRICES.squeeze);
  const fingers = stops.reduce((count, { finger }) => count + Number(finger > 0), 0);
  const start =
    context.first && frame.base > HOME_BASE
      ? context.hand.prices.start + PRICES.shiftFar * Math.max(0, frame.base - HOME_BASE - DISTANCES.near)
      : 0;
  const need = context.high ? 1 : context.hand.shares.noNeed;
  pay(charge, context, 'position', context.hand.prices.position[frame.base]! * fingers * need + start);
  if (stopped && context.open && stops.length === 1) pay(charge, context, 'ring', PRICES.ring);
  if (context.pedal) chargePedal(stops, context.pedal, context, charge);
  if (context.glide && !stopped) pay(charge, context, 'glide', PRICES.glideOpen);
  if (stops.length > 1) {
    const places = stops.filter(({ finger }) => finger > 0).map(({ semitones }) => semitones);
    const span = places.length > 1 ? Math.max(...places) - Math.min(...places) : 0;
    pay(charge, context, 'double', PRICES.double * (stops.length - 1));
    pay(charge, context, 'wideDouble', PRICES.doubleSpan * Math.max(0, span - DISTANCES.easySpan));
    if (stops.some((a) => stops.some((b) => areSpread(a, b)))) pay(charge, context, 'spread', PRICES.spread);
  }
}

/** A pedal rings on its open string, and goes on ringing while what moves against it is on another one. */
function chargePedal(
  stops: readonly Stop[],
  { string, reach, itself }: Pedal,
  context: StateCircumstances,
  charge: Charge,
): void {
  if (itself && stops.some(({ finger }) => finger > 0)) pay(charge, context, 'pedal', PRICES.pedal);
  if (!itself && stops.some((stop) => stop.string === string && stop.semitones >= reach))
    pay(charge, context, 'pedal', PRICES.pedalDamped);
}

function chargeStop(stop: Stop, frame: Frame, context: StateCircumstances, alone: boolean, charge: Charge): void {
  const { finger, sign } = stop;
  const { hand, long } = context;
  if (finger === 0) {
    const share = context.open === 'bottom' ? SHARES.bottomTone : 1;
    pay(charge, context, 'openTone', share * (PRICES.openTone + (long ? PRICES.openToneLong : 0)));
    if (context.open === 'turn' && alone) pay(charge, context, 'openTurn', hand.prices.openTurn * context.haste);
  }
  if (sign === 'harmonic')
    return pay(charge, context, 'harmonic', hand.prices.harmonic + (long ? 0 : PRICES.harmonicQuick));
  if (finger === 4) {
    pay(charge, context, 'fourth', fourthPrice(frame, context));
    if (hand.weakFourth && alone && long) pay(charge, context, 'longFourth', PRICES.fourthLong);
  }
  if (stop.misspelled) {
    const atHome = frame.base <= HOME_BASE && sign === 'home';
    pay(charge, context, 'spelling', atHome ? PRICES.spellingHome : PRICES.spelling);
  }
  if (!hand.lettersDecide) {
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
  if (sign === 'extended') pay(charge, context, 'extension', extendedPrice(frame) * context.haste);
}

/** A low second, third or fourth finger, or a high third, in first position. */
function movedPrice({ finger, sign, semitones }: Stop, { base }: Frame): number {
  if (finger === 4) return PRICES.lowFourth;
  if (finger === 3) return sign === 'low' ? PRICES.lowThird : PRICES.highThird;
  return base === HOME_BASE && semitones === HOME_BASE ? PRICES.deepSecond : PRICES.lowSecond;
}

function fourthPrice({ level }: Frame, { hand }: StateCircumstances): number {
  return hand.weakFourth && level >= 2 ? PRICES.fourthHigh : hand.prices.fourth;
}

/** A low first finger and a high third beside each other: the hand is spread. */
function areSpread(a: Stop, b: Stop): boolean {
  return a.finger === 1 && a.sign === 'low' && b.finger === 3 && b.sign === 'high';
}

function extendedPrice({ level }: Frame): number {
  if (level <= 1) return PRICES.extendedFourth;
  return level <= 3 ? PRICES.extendedFourthMiddle : PRICES.extendedFourthHigh;
}

/** What it costs to come from one state to the next. */
export function chargeMove(from: HandState, to: HandState, context: MoveCircumstances, charge: Charge): void {
  const factor = context.haste;
  const moved = stringsBetween(from, to);
  if (moved > 0) {
    const open = Number(from.stops.every(isOpen)) + Number(to.stops.every(isOpen));
    const ease = open === 2 ? SHARES.bothOpenCrossing : open === 1 ? context.hand.shares.openCrossing : 1;
    pay(charge, context, 'crossing', context.hand.prices.crossing * ease * factor);
    if (context.slurred) pay(charge, context, 'slurCrossing', PRICES.slurCrossing);
    for (let skipped = 1; skipped < moved; skipped += 1) pay(charge, context, 'skip', PRICES.skip * ease * factor);
  }
  if (from.frame !== to.frame) chargeFrame(from, to, context, factor, moved, charge);
  if (from.frame.base === to.frame.base && isAwayFromHarmonic(from, to))
    pay(charge, context, 'harmonic', PRICES.harmonicAway);
  for (const a of from.stops) {
    for (const b of to.stops) chargeFinger(a, b, to.frame.base - from.frame.base, context, factor, charge);
  }
}

const isHarmonic = ({ sign }: Stop) => sign === 'harmonic';
const led = ({ stops }: HandState) => stops.length === 1 && stops[0]!.finger === 1;

/** What remains of a shift's price: least where the first finger leads over a third, all of it at twice as far. */
function ledShare(distance: Semitones, least: number): number {
  return Math.min(1, least + ((1 - least) * Math.abs(distance - DISTANCES.lead)) / DISTANCES.lead);
}

/** The first finger stays on its string and shows the way. */
const isGuided = (from: HandState, to: HandState) =>
  led(from) && led(to) && from.stops[0]!.string === to.stops[0]!.string;

/** To the next finger, in the direction that the hand goes: up from the first to the second, down the other way. */
function isOnTheWay(from: HandState, to: HandState): boolean {
  const [a, b] = [from.stops[0]!, to.stops[0]!];
  if (from.stops.length > 1 || to.stops.length > 1 || a.string !== b.string || a.finger * b.finger !== 2) return false;
  const way = b.semitones - a.semitones;
  return Math.abs(way) <= DISTANCES.onTheWay && way * (b.finger - a.finger) > 0;
}

/**
 * The hand is not where the harmonic is: only open strings sounded, or a finger that would have to pass under one
 * that is higher up.
 */
function isAwayFromHarmonic(from: HandState, to: HandState): boolean {
  const harmonic = to.stops.find(isHarmonic);
  if (!harmonic || from.stops.some(isHarmonic)) return false;
  return from.stops.every(
    ({ finger, string }) => finger === 0 || (string === harmonic.string && finger > harmonic.finger),
  );
}
const isOpen = ({ finger }: Stop) => finger === 0;

function stringsBetween(from: HandState, to: HandState): number {
  let least = Infinity;
  for (const a of from.stops) for (const b of to.stops) least = Math.min(least, Math.abs(a.string - b.string));
  return least;
}

function chargeFrame(
  from: HandState,
  to: HandState,
  context: MoveCircumstances,
  factor: number,
  crossed: number,
  charge: Charge,
): void {
  const free = !from.stops.some(({ finger }) => finger > 0) || !to.stops.some(({ finger }) => finger > 0);
  const distance = Math.abs(from.frame.base - to.frame.base);
  const ease = Math.min(
    free ? SHARES.freeHand : 1,
    context.rested ? SHARES.overRest : 1,
    context.phraseStart ? SHARES.atJoin : 1,
  );
  const onTheWay = isOnTheWay(from, to);
  const kind =
    (to.stops.some(isHarmonic) ? SHARES.toHarmonic : 1) *
    (Math.max(from.frame.base, to.frame.base) <= HOME_BASE ? context.hand.shares.toHalf : 1) *
    (!free && (led(from) || led(to)) ? ledShare(distance, context.hand.shares.ledByFirst) : 1) *
    (isGuided(from, to) ? context.hand.shares.guided : 1) *
    (onTheWay ? context.hand.shares.onTheWay : 1);
  if (distance > 0) {
    const { shift, shiftEach } = context.hand.prices;
    pay(
      charge,
      context,
      'shift',
      // The way is no shorter while an open string sounds.
      ((shift + shiftEach * distance) * ease + PRICES.shiftFar * Math.max(0, distance - DISTANCES.near)) *
        kind *
        // A shift that only goes on to the next finger is no worse for being quick.
        Math.max(onTheWay ? Math.min(1, factor) : factor, SHARES.leastShift),
    );
    if (context.slurred && !free && !context.glide) pay(charge, context, 'slurShift', PRICES.slurShift);
    if (crossed > 0 && !free) pay(charge, context, 'stringShift', PRICES.stringShift * ease);
  }
  // A hand travels closed: it opens again where it lands.
  if (distance > 0 && isOpenHand(from.frame) && isOpenHand(to.frame))
    pay(charge, context, 'reach', PRICES.openShift * ease);
  if (from.frame.shape !== to.frame.shape)
    pay(charge, context, 'reach', PRICES.reach * ease * shapeSteps(from.frame, to.frame) * factor);
}

const isOpenHand = ({ shape }: Frame) => shape === 'forward' || shape === 'backward';

/** Forward to backward passes through the closed hand. */
function shapeSteps(from: Frame, to: Frame): number {
  return from.shape !== 'closed' && to.shape !== 'closed' ? 2 : 1;
}

function chargeFinger(
  a: Stop,
  b: Stop,
  shift: Semitones,
  context: MoveCircumstances,
  factor: number,
  charge: Charge,
): void {
  const strings = Math.abs(a.string - b.string);
  const { weakFourth, lettersDecide } = context.hand;
  if (weakFourth && strings === 0 && b.finger === 4 && a.finger === 0 && b.semitones >= DISTANCES.fourthLeap)
    pay(charge, context, 'fourth', PRICES.fourthLeap * factor);
  if (a.finger === 0 || b.finger === 0) return;
  if (shift === 0 && (areSpread(a, b) || areSpread(b, a))) pay(charge, context, 'spread', PRICES.spread);
  const way = b.semitones - a.semitones;
  if (context.glide && strings === 0 && way > 0 && way <= DISTANCES.glide) {
    // Sliding from the note before: one finger does it best, another has to be named.
    if (a.finger !== b.finger) pay(charge, context, 'glide', PRICES.glide);
    return;
  }
  if (a.finger !== b.finger) return;
  if (shift !== 0) {
    // The hand that goes along by a semitone makes it no less of a slide.
    if (lettersDecide && strings === 0 && way !== 0 && Math.abs(shift) === 1)
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
