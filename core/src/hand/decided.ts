/**
 * Decisions made into narrower steps: what remains possible at each note, what the way into it must do,
 * and which decisions cannot be kept, with the place and the reason.
 */
import { printedName } from '../music/index.ts';
import { INSTRUMENT } from '../instrument/index.ts';
import type { Sound } from './contexts.ts';
import { framesFor } from './frames.ts';
import { fitsPosition, fitsStops, lockSpeaks, staysUnder, type Lock } from './locks.ts';
import type { HandSetup } from './setup.ts';
import type { Gate } from './solver.ts';
import { isStopped, statesFor, type HandState, type Stop } from './state.ts';

export interface HandProblem {
  readonly noteId: string;
  readonly message: string;
}

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
  sounds: readonly Sound[],
  possible: readonly (readonly HandState[])[],
  setup: HandSetup,
  likeKeys: ReadonlyMap<number, string>,
): DecidedAll {
  const problems: HandProblem[] = [];
  const resting = new Set<string>();
  const speaking = sounds.map(({ id, pitches }) => {
    const lock = setup.locks[id];
    if (!lock) return null;
    if (lockSpeaks(lock, setup.instrument, pitches)) return lock;
    resting.add(id);
    return null;
  });
  const refuse = (index: number, message: string) => {
    const { id } = sounds[index]!;
    problems.push({ noteId: id, message });
    resting.add(id);
  };
  const steps = possible.map((all, index): Decided => {
    const lock = speaking[index];
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
        () =>
          refuse(
            index,
            `${rangeText(lock.position!)} and what else is set for this note do not go together: the position rests.`,
          ),
      );
    const like = likeKeys.get(index);
    if (like !== undefined && (!lock || lock.stops.length === 0))
      narrow(
        (state) => state.key === like,
        () =>
          problems.push({
            noteId: sounds[index]!.id,
            message: 'This note cannot be fingered as in the other phrase here.',
          }),
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
  sounds: readonly Sound[],
  speaking: readonly (Lock | null)[],
  refuse: (index: number, message: string) => void,
): readonly Decided[] {
  const result = [...steps];
  for (const { from, to, stop } of holdsOf(sounds, speaking, steps)) {
    for (let index = from + 1; index < to; index += 1) {
      const step = result[index]!;
      if (step.states.length === 0) continue;
      const left = step.states.filter((state) => staysUnder(stop, state));
      if (left.length === 0 || step.gate === 'moves') {
        const name = sounds[index]!.pitches.map(printedName).join(' and ');
        refuse(
          from,
          `Finger ${stop.finger} cannot stay down: the ${name} after it needs ${step.gate === 'moves' ? 'the hand to move' : 'that finger, its place, or another hand'}.`,
        );
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
  sounds: readonly Sound[],
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

const rangeText = ([lowest, highest]: readonly [string, string]) =>
  lowest === highest ? `Position ${lowest}` : `Positions ${lowest} to ${highest}`;

/** Why a finger or string that was set cannot be. */
function whyNot({ pitches }: Sound, lock: Lock, setup: HandSetup): string {
  const names = INSTRUMENT[setup.instrument].strings.map(({ name }) => name);
  const set = lock.stops
    .map(({ string, finger }) =>
      [
        finger === undefined ? '' : finger === 0 ? 'open' : String(finger),
        string === undefined ? '' : finger === 0 ? names[string] : `on the ${names[string]} string`,
      ]
        .filter(Boolean)
        .join(' '),
    )
    .join(' with ');
  const school = setup.limits.bassSchool;
  const anyHand = statesFor(
    pitches,
    setup.tuning.pitches,
    framesFor(setup.instrument, school ? { bassSchool: school } : {}),
  );
  return anyHand.some((state) => fitsStops(state, lock))
    ? `You set ${set} here. It is beyond this learner’s limits, so it rests.`
    : `You set ${set} here. This note cannot be played so, so it rests.`;
}
