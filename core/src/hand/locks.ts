/** What the teacher decided by hand. A decision that does not apply at present rests and is kept. */
import { midi, type Midi, type Pitch } from '../music/index.ts';
import type { InstrumentId } from '../instrument/index.ts';
import type { Finger } from './frames.ts';
import type { HandState } from './state.ts';

export interface LockedStop {
  /** Index of the string, 0 the lowest. */
  readonly string: number;
  readonly finger: Finger;
  /** The pitch that the decision was made for. */
  readonly midi: Midi;
}

export interface Lock {
  readonly instrument: InstrumentId;
  readonly stops: readonly LockedStop[];
}

/** By the id of the note, or of the grace note. */
export type Locks = Readonly<Record<string, Lock>>;

/** A finger is decided for a pitch: in another key or on another instrument the decision does not speak. */
export function lockSpeaks(lock: Lock, instrument: InstrumentId, heads: readonly Pitch[]): boolean {
  return (
    lock.instrument === instrument &&
    lock.stops.length === heads.length &&
    heads.every((head, index) => midi(head) === lock.stops[index]!.midi)
  );
}

export function fitsLock(state: HandState, lock: Lock): boolean {
  return state.stops.every(
    ({ string, finger }, index) => string === lock.stops[index]!.string && finger === lock.stops[index]!.finger,
  );
}

/** The decision that would keep this state. */
export function lockOf(state: Pick<HandState, 'stops'>, instrument: InstrumentId): Lock {
  return { instrument, stops: state.stops.map(({ string, finger, pitch }) => ({ string, finger, midi: midi(pitch) })) };
}
