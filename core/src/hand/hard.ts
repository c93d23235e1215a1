/**
 * Where the left hand has most to do at the working tempo: what makes it hard, and what would help. Other
 * fingers and shifts are tried out with the solver before they are offered; tempo and bow are reckoned from
 * the fingering as it stands.
 */
import type { Bpm, Seconds } from '../music/index.ts';
import { stateOf, wayOf, waysOfShift, type Way } from './explore.ts';
import type { Hand } from './hand.ts';
import {
  chargeMove,
  chargeState,
  moveCircumstances,
  stateCircumstances,
  type Charge,
  type StepContext,
} from './rules.ts';
import type { RuleName } from './ruleNames.ts';
import type { HandStep } from './prices.ts';
import type { Detour } from './detours.ts';
import type { HandState } from './state.ts';

export interface HardPlace {
  /** Notes from the first to the last movement. */
  readonly notes: readonly string[];
  /** Price of the movements, in units of the price list. */
  readonly cost: number;
  /** What costs most, dearest first. */
  readonly causes: readonly { readonly rule: RuleName; readonly count: number }[];
  /** How long all of it lasts; null where that cannot be told. */
  readonly seconds: Seconds | null;
  readonly helps: readonly Help[];
}

/** What would help: another fingering, another bowing, or a slower tempo. */
export type Help =
  /** The way does it with a shift at another note, without the shift, or with other fingers. */
  | { readonly kind: 'shift-elsewhere' | 'no-shift' | 'other-fingers'; readonly way: Way }
  | { readonly kind: 'separate' }
  | { readonly kind: 'slur'; readonly strokes: number; readonly notes: number }
  /** The tempo at which the place asks no more in a second than the rest of the tune. */
  | { readonly kind: 'slower'; readonly bpm: Bpm };

/** Notes that are looked at together: about what a hand plans at once. */
const WINDOW = 4;
const MOST = 3;
/** A place has to cost so much, in thousandths, to be called hard: about two quick crossings with a shift. */
const HARD = 2200;
/** In a tune that is easy otherwise less is hard: so much, and so many times the middle place's. */
const STANDS_OUT = { least: 1500, times: 1.25 } as const;
/** What costs movement; the rest is where fingers lie. */
const MOVEMENTS: ReadonlySet<RuleName> = new Set([
  'crossing',
  'skip',
  'slurCrossing',
  'hop',
  'slide',
  'shift',
  'sameShift',
  'stringShift',
  'slurShift',
  'reach',
  'extension',
  'fourth',
  'double',
]);
/** Another way is worth offering where it takes off so much of the cost. */
const WORTH = 0.15;
/** Other ways tried at each note of a place. */
const TRIED = 3;
/** Shares of the tempo; slower than the last is another piece. */
const SLOWER: readonly number[] = [0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.65, 0.6, 0.55, 0.5];
/** Notes at least so quick are many strokes for the bow: five in a second. */
const QUICK: Seconds = 0.2;

/**
 * The hardest places, hardest first; none where nothing is hard.
 * @example hardPlaces(hand).length // 2
 */
export function hardPlaces(hand: Hand): readonly HardPlace[] {
  const costs = hand.steps.map((_, step) => movementAt(hand, step, hand.steps[step]!.context));
  const all = costs.map((_, at) => ({ at, cost: sum(costs.slice(at, at + WINDOW)) }));
  const least = threshold(all);
  const windows = all.filter(({ cost }) => cost >= least).sort((a, b) => b.cost - a.cost || a.at - b.at);
  const chosen: { at: number; cost: number }[] = [];
  const told = new Set<string>();
  for (const window of windows) {
    if (chosen.length === MOST) break;
    if (chosen.some(({ at }) => Math.abs(at - window.at) < WINDOW)) continue;
    // The same figure again is the same spot.
    const key = hand.steps
      .slice(window.at, window.at + WINDOW)
      .map((_, index) => hand.chosen(window.at + index).key)
      .join('|');
    if (told.has(key)) continue;
    told.add(key);
    chosen.push(window);
  }
  // The most that any place asks which is not hard.
  const easy = all.filter(({ cost }) => cost < least);
  const rest = Math.max(0, ...easy.map(({ at, cost }) => cost / timeOf(hand, at, at + WINDOW)));
  return chosen.map(({ at, cost }) => place(hand, at, Math.min(at + WINDOW, hand.steps.length), cost, rest));
}

/** What a place has to cost in this tune to be called hard. */
function threshold(windows: readonly { readonly cost: number }[]): number {
  return Math.min(HARD, Math.max(STANDS_OUT.least, STANDS_OUT.times * middle(windows.map(({ cost }) => cost))));
}

function middle(numbers: readonly number[]): number {
  return [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)] ?? 0;
}

const timeOf = (hand: Hand, from: number, to: number): Seconds =>
  sum(hand.steps.slice(from, to).map(({ context }) => context.duration));

/**
 * What the shifts of a fingering cost in these circumstances, in thousandths.
 * @example chargedShifts(hand.steps, hand.steps.map((_, step) => hand.chosen(step))) // 0
 */
export function chargedShifts(steps: readonly HandStep[], path: readonly HandState[]): number {
  let total = 0;
  const charge: Charge = (rule, price) => (total += SHIFTS.has(rule) ? price : 0);
  steps.forEach(
    ({ context }, index) => index > 0 && chargeMove(path[index - 1]!, path[index]!, moveCircumstances(context), charge),
  );
  return total;
}
const SHIFTS: ReadonlySet<RuleName> = new Set(['shift', 'sameShift', 'stringShift', 'slurShift']);

const sum = (numbers: readonly number[]) => numbers.reduce((total, number) => total + number, 0);

function chargesAt(hand: Hand, step: number, context: StepContext, charge: Charge): void {
  const state: HandState = hand.chosen(step);
  chargeState(state, stateCircumstances(context), charge);
  if (step > 0) chargeMove(hand.chosen(step - 1), state, moveCircumstances(context), charge);
}

/** What the movements into a note cost, and the strain it is itself. */
function movement(state: HandState, before: HandState | undefined, context: StepContext): number {
  let total = 0;
  const charge: Charge = (rule, price) => (total += MOVEMENTS.has(rule) ? price : 0);
  chargeState(state, stateCircumstances(context), charge);
  if (before) chargeMove(before, state, moveCircumstances(context), charge);
  return total;
}

const movementAt = (hand: Hand, step: number, context: StepContext): number =>
  movement(hand.chosen(step), step > 0 ? hand.chosen(step - 1) : undefined, context);

function place(hand: Hand, from: number, to: number, cost: number, rest: number): HardPlace {
  const all = Array.from({ length: to - from }, (_, index) => from + index);
  const moving = all.filter((step) => movementAt(hand, step, hand.steps[step]!.context) > 0);
  const steps = moving.length > 0 ? all.filter((step) => step >= moving[0]! && step <= moving.at(-1)!) : all;
  const notes = steps.map((step) => hand.notes[hand.noteAt[step]!]!.id);
  const rules = new Map<RuleName, { count: number; price: number }>();
  for (const step of steps) {
    chargesAt(hand, step, hand.steps[step]!.context, (rule, price) => {
      if (!MOVEMENTS.has(rule)) return;
      const { count, price: before } = rules.get(rule) ?? { count: 0, price: 0 };
      rules.set(rule, { count: count + 1, price: before + price });
    });
  }
  const dearest = [...rules].sort(([, a], [, b]) => b.price - a.price).slice(0, 3);
  const causes = dearest.map(([rule, { count }]) => ({ rule, count }));
  const time = timeOf(hand, steps[0]!, steps.at(-1)! + 1);
  const seconds = Number.isFinite(time) ? time : null;
  return { notes, cost: cost / 1000, causes, seconds, helps: helpsFor(hand, all, notes, { cost, rest }) };
}

/** A fingering that costs the whole tune hardly more and asks less of the hand here. */
function easierFingers(hand: Hand, steps: readonly number[], cost: number): Way | null {
  let best: { readonly local: number; readonly way: Detour } | null = null;
  for (const step of steps) {
    for (const way of hand.detoursAt(step, TRIED)) {
      if (way.cost - hand.solution.cost >= 1000) continue;
      const local = sum(
        steps.map((at) =>
          movement(stateOf(hand, way, at), at > 0 ? stateOf(hand, way, at - 1) : undefined, hand.steps[at]!.context),
        ),
      );
      if (local <= cost * (1 - WORTH) && (!best || local < best.local)) best = { local, way };
    }
  }
  return best && wayOf(hand, best.way, steps);
}

/** @param asked what the place costs, and what the rest of the tune asks in a second */
function helpsFor(
  hand: Hand,
  steps: readonly number[],
  notes: readonly string[],
  { cost, rest }: { readonly cost: number; readonly rest: number },
): readonly Help[] {
  const helps: Help[] = [];
  const costAt = (change: (context: StepContext) => StepContext) =>
    sum(steps.map((step) => movementAt(hand, step, change(hand.steps[step]!.context))));
  const shifted = hand.fingering.notes.find(({ id, shift }) => shift && notes.includes(id));
  const [elsewhere] = shifted ? waysOfShift(hand, shifted.id) : [];
  if (elsewhere && elsewhere.extra < 1)
    helps.push({ kind: elsewhere.shifts.length > 0 ? 'shift-elsewhere' : 'no-shift', way: elsewhere });
  else {
    const easier = easierFingers(hand, steps, cost);
    if (easier) helps.push({ kind: 'other-fingers', way: easier });
  }
  const slurred = steps.some((step) => hand.steps[step]!.context.slurred);
  const change = costAt((context) => ({ ...context, slurred: !slurred }));
  if (slurred && change < cost * (1 - WORTH)) helps.push({ kind: 'separate' });
  const strokes = strokesWhenSlurred(hand, steps);
  if (!slurred && strokes < steps.length) helps.push({ kind: 'slur', strokes, notes: steps.length });
  for (const share of SLOWER) {
    const slower = costAt((context) => ({
      ...context,
      available: context.available / share,
      duration: context.duration / share,
    }));
    if (slower * share > rest * timeOf(hand, steps[0]!, steps.at(-1)! + 1)) continue;
    helps.push({ kind: 'slower', bpm: Math.round(hand.setup.tempo * share) });
    break;
  }
  return helps;
}

/**
 * Strokes for a place where quick notes are slurred as long as the hand stays and the string is the same,
 * so that crossings and shifts fall where the bow turns. As many as notes where that cannot be done.
 */
function strokesWhenSlurred(hand: Hand, steps: readonly number[]): number {
  const joined = steps.filter((step, index) => {
    if (index === 0) return false;
    const [before, now] = [hand.chosen(step - 1), hand.chosen(step)];
    const [from, to] = [hand.notes[hand.noteAt[step - 1]!]!, hand.notes[hand.noteAt[step]!]!];
    const [left, right] = [before.stops[0]!, now.stops[0]!];
    return (
      before.stops.length === 1 &&
      now.stops.length === 1 &&
      left.string === right.string &&
      left.semitones !== right.semitones &&
      before.frame === now.frame &&
      from.onset + from.duration === to.onset &&
      !hand.steps[step]!.context.phraseStart &&
      hand.steps[step - 1]!.context.duration <= QUICK
    );
  });
  return steps.length - joined.length;
}
