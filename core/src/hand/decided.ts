/**
 * Decisions made into narrower steps: what remains possible at each note, what the way into it must do,
 * and which decisions cannot be kept, with the place and the reason.
 */
import type { Pitch } from '../music/index.ts';
import type { HandNote } from './contexts.ts';
import type { ImpossibleWhy, Nearest } from './chords.ts';
import { framesFor } from './frames.ts';
import { type Level } from './vocabulary.ts';
import type { HandLimits, LimitName } from './handLimits.ts';
import type { LimitOwner, ResolvedLimits } from './limits.ts';
import { fitsPosition, fitsStops, lockSpeaks, staysUnder, type Lock, type LockedStop } from './locks.ts';
import { handOf, profileFor, type HandSetup } from './setup.ts';
import type { Gate } from './prices.ts';
import { isStopped, statesFor, type HandState, type Stop } from './state.ts';

/** A limit with whoever set it. */
export interface SetLimit {
  readonly limit: LimitName;
  readonly value: HandLimits[LimitName];
  readonly owner: LimitOwner;
}

/** What cannot be done at a note, and what becomes of it. Its sentence is made in `words`. */
export type HandProblem = { readonly noteId: string } &
  /** A decided shift, or a finger that is to stay down, against what is set around it. */
  (
    | { readonly kind: 'move-in-place' | 'hold-across-move' | 'unlike-other-phrase' }
    | { readonly kind: 'position-rests'; readonly position: readonly [Level, Level] }
    /** The finger cannot stay down, because of what these pitches need. */
    | {
        readonly kind: 'hold-broken';
        readonly finger: number;
        readonly pitches: readonly Pitch[];
        readonly needs: 'the-hand-to-move' | 'the-finger';
      }
    /** A finger or string that was set: beyond the limits, or not possible at all. */
    | { readonly kind: 'beyond-limits'; readonly stops: readonly LockedStop[]; readonly limits: readonly SetLimit[] }
    | { readonly kind: 'cannot-be'; readonly stops: readonly LockedStop[] }
    | { readonly kind: 'no-double-stops'; readonly owner: LimitOwner | null }
    /** @see Pitch a single note that no finger reaches; semitones above a string */
    | { readonly kind: 'out-of-reach'; readonly reach: number }
    | {
        readonly kind: 'chord';
        readonly why: ImpossibleWhy;
        /** Notes of it that are fingered. */
        readonly fingered: number;
        readonly nearest: readonly Nearest[];
      }
  );
/** A problem without its place. */
export type HandTrouble = HandProblem extends infer One
  ? One extends HandProblem
    ? Omit<One, 'noteId'>
    : never
  : never;

export interface Decided {
  /** What remains possible; where there is nothing to decide, the very list that came in. */
  readonly states: readonly HandState[];
  readonly gate?: Gate;
}

export interface DecidedAll {
  /** One for each sound. */
  readonly steps: readonly Decided[];
  readonly problems: readonly HandProblem[];
  /** Ids whose decision does not apply, or only in part. */
  readonly resting: readonly string[];
}

/** A finger that is to stay down, and from where to where. */
interface Hold {
  readonly from: number;
  readonly to: number;
  readonly stop: Pick<Stop, 'string' | 'finger' | 'semitones'>;
}

/**
 * @param possible what the hand may do at each sound before anything is decided; empty where it cannot reach
 * @param likeKeys for sounds of a phrase that takes another's fingers: that phrase's, as a `stopsKey`
 */
export function decide(
  sounds: readonly HandNote[],
  possible: readonly (readonly HandState[])[],
  setup: HandSetup,
  likeKeys: ReadonlyMap<number, string>,
): DecidedAll {
  const problems: HandProblem[] = [];
  const resting = new Set<string>();
  const speaking = sounds.map(({ id, pitches }) => {
    const lock = setup.locks[id];
    if (!lock) return null;
    if (lockSpeaks(lock, setup.instrument.id, pitches)) return lock;
    resting.add(id);
    return null;
  });
  const refuse = (index: number, trouble: HandTrouble) => {
    const { id } = sounds[index]!;
    problems.push({ ...trouble, noteId: id } as HandProblem);
    resting.add(id);
  };
  const steps = possible.map((all, index): Decided => {
    const lock = speaking[index];
    if (!lock && !likeKeys.has(index)) return { states: all };
    let states = all;
    const narrow = (fits: (state: HandState) => boolean, complain: () => void) => {
      const left = states.filter(fits);
      if (left.length > 0) states = left;
      else if (states.length > 0) complain();
    };
    if (lock && lock.stops.length > 0)
      narrow(
        (state) => fitsStops(state, lock),
        () => refuse(index, whyNot(sounds[index]!, lock, setup)),
      );
    if (lock?.position)
      narrow(
        (state) => fitsPosition(state, lock.position!),
        () => refuse(index, { kind: 'position-rests', position: lock.position! }),
      );
    const like = likeKeys.get(index);
    if (like !== undefined && (!lock || lock.stops.length === 0))
      narrow(
        (state) => state.key === like,
        () => problems.push({ noteId: sounds[index]!.id, kind: 'unlike-other-phrase' }),
      );
    const moves = lock?.shift && index > 0 && states.length > 0;
    return { states, ...(moves && { gate: 'moves' as const }) };
  });
  return { steps: withHolds(withWaits(steps), sounds, speaking, refuse), problems, resting: [...resting] };
}

/** The hand moves to the very note: not already while open strings sound before it. */
function withWaits(steps: readonly Decided[]): readonly Decided[] {
  const result = [...steps];
  steps.forEach(({ gate }, index) => {
    if (gate !== 'moves') return;
    for (let before = index - 1; before > 0; before -= 1) {
      const step = result[before]!;
      if (step.gate || step.states.every(isStopped)) return;
      result[before] = { ...step, gate: 'waits' };
    }
  });
  return result;
}

function withHolds(
  steps: readonly Decided[],
  sounds: readonly HandNote[],
  speaking: readonly (Lock | null)[],
  refuse: (index: number, trouble: HandTrouble) => void,
): readonly Decided[] {
  const result = [...steps];
  for (const { from, to, stop } of holdsOf(sounds, speaking, steps)) {
    for (let index = from + 1; index < to; index += 1) {
      const step = result[index]!;
      if (step.states.length === 0) continue;
      const left = step.states.filter((state) => staysUnder(stop, state));
      if (left.length === 0 || step.gate === 'moves') {
        const needs = step.gate === 'moves' ? 'the-hand-to-move' : 'the-finger';
        refuse(from, { kind: 'hold-broken', finger: stop.finger, pitches: sounds[index]!.pitches, needs });
        break;
      }
      result[index] = { states: left.length === step.states.length ? step.states : left, gate: 'stays' };
    }
    // Where the finger is needed again the hand has not moved on either.
    if (!result[to]!.gate && result[to]!.states.length > 0) result[to] = { ...result[to]!, gate: 'stays' };
  }
  return result;
}

function holdsOf(
  sounds: readonly HandNote[],
  speaking: readonly (Lock | null)[],
  steps: readonly Decided[],
): readonly Hold[] {
  const at = new Map(sounds.map(({ id }, index) => [id, index]));
  return speaking.flatMap((lock, from): Hold[] => {
    const to = lock?.holdUntil === undefined ? undefined : at.get(lock.holdUntil);
    const stop = steps[from]!.states[0]?.stops.find(({ finger }) => finger > 0);
    // Which finger it is has to be decided too.
    if (to === undefined || to <= from || !stop || lock!.stops[0]?.finger === undefined) return [];
    return [{ from, to, stop }];
  });
}

/** Why a finger or string that was set cannot be. */
function whyNot({ pitches }: HandNote, lock: Lock, setup: HandSetup): HandTrouble {
  const { stops } = lock;
  const fits = (state: HandState) => fitsStops(state, lock);
  const limits = limitsInTheWay(pitches, setup, profileFor(setup), fits);
  return limits.length === 0 ? { kind: 'cannot-be', stops } : { kind: 'beyond-limits', stops, limits };
}

/** Each limit that alone leaves no such state; none where there is no such state whatever is allowed. */
export function limitsInTheWay(
  pitches: readonly Pitch[],
  setup: HandSetup,
  { limits, owners }: ResolvedLimits,
  fits: (state: HandState) => boolean,
): readonly SetLimit[] {
  const hand = handOf(setup);
  const possible = (some: HandLimits) => statesFor(pitches, setup.tuning.pitches, framesFor(hand, some)).some(fits);
  const school = hand.school ? { [hand.school.limit]: limits[hand.school.limit] } : {};
  if (!possible(school)) return [];
  return (Object.keys(limits) as LimitName[])
    .filter((limit) => !possible({ ...school, [limit]: limits[limit] }))
    .map((limit) => ({ limit, value: limits[limit], owner: owners[limit]! }));
}
