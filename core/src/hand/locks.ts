/**
 * What the teacher decided by hand, and what becomes of it: each decision narrows what the hand may do at
 * its notes. One that does not apply at present rests and is kept; those that contradict each other are
 * told with their places.
 */
import { z } from 'zod';
import { midi, type Midi, type Pitch } from '../music/index.ts';
import { POSITIONS, type Finger, type Level } from './vocabulary.ts';
import type { HandState, Stop } from './state.ts';

export interface LockedStop {
  /** Index of the string, 0 the lowest; left open where only the finger is decided. */
  readonly string?: number;
  /** Left open where only the string is decided. */
  readonly finger?: Finger;
  /** The finger only touches the string. */
  readonly harmonic?: boolean;
  /** The pitch that the decision was made for. */
  readonly midi: Midi;
}

export interface Lock {
  /** Id of the instrument that it was made for. */
  readonly instrument: string;
  /** One for each head, low to high; empty where only something else is decided. */
  readonly stops: readonly LockedStop[];
  /** Lowest and highest position that the hand may be in. */
  readonly position?: readonly [Level, Level];
  /** The hand moves to this note. */
  readonly shift?: boolean;
  /** The finger stays down until this note sounds. */
  readonly holdUntil?: string;
  /** First note of the phrase whose fingers the phrase that begins here takes over. */
  readonly like?: string;
}

/** By the id of the note, or of the grace note. */
export type Locks = Readonly<Record<string, Lock>>;

const level = z.enum(POSITIONS);
const noteId = z.string().min(1).max(64);
const finger = z.union([z.literal(0), z.literal(1), z.literal(2), z.literal(3), z.literal(4)]);
const lockSchema = z.strictObject({
  instrument: z.string().min(1).max(60),
  stops: z
    .array(
      z.strictObject({
        string: z.number().int().min(0).max(5).optional(),
        finger: finger.optional(),
        harmonic: z.boolean().optional(),
        midi: z.number().int().min(0).max(127),
      }),
    )
    .max(4),
  position: z.tuple([level, level]).optional(),
  shift: z.boolean().optional(),
  holdUntil: noteId.optional(),
  like: noteId.optional(),
}) satisfies z.ZodType<Lock>;
export const locksSchema = z.record(noteId, lockSchema) satisfies z.ZodType<Locks>;

/**
 * A finger is decided for a pitch: in another key or on another instrument the decision does not speak.
 * Of a chord some notes may be decided and others not.
 */
export function lockSpeaks(lock: Lock, instrument: string, heads: readonly Pitch[]): boolean {
  return lock.instrument === instrument && inOrder(lock.stops, heads.map(midi)) !== null;
}

export function fitsStops({ stops }: Pick<HandState, 'stops'>, lock: Pick<Lock, 'stops'>): boolean {
  const places = inOrder(
    lock.stops,
    stops.map(({ pitch }) => midi(pitch)),
  );
  return places !== null && places.every((at, index) => fitsStop(stops[at]!, lock.stops[index]!));
}

/** Where each decided pitch stands among these, both low to high; null where one is missing. */
function inOrder(decided: readonly LockedStop[], pitches: readonly Midi[]): readonly number[] | null {
  const places: number[] = [];
  for (const { midi: pitch } of decided) {
    const at = pitches.indexOf(pitch, (places.at(-1) ?? -1) + 1);
    if (at < 0) return null;
    places.push(at);
  }
  return places;
}

function fitsStop({ string, finger, sign }: Stop, locked: LockedStop): boolean {
  if (locked.string !== undefined && locked.string !== string) return false;
  if (locked.finger === undefined) return true;
  return locked.finger === finger && (locked.harmonic ?? false) === (sign === 'harmonic');
}

export function fitsPosition({ frame, stops }: HandState, range: readonly [Level, Level]): boolean {
  const [lowest, highest] = range.map((level) => POSITIONS.indexOf(level));
  const open = stops.every(({ finger }) => finger === 0);
  return open || (frame.level >= lowest! && frame.level <= highest!);
}

/** Whether a finger that is down at `held` can stay there while this is played. */
export function staysUnder(held: Pick<Stop, 'string' | 'finger' | 'semitones'>, { frame, stops }: HandState): boolean {
  const inReach = frame.places.some(({ finger, semitones }) => finger === held.finger && semitones === held.semitones);
  return (
    inReach &&
    stops.every((other) =>
      other.string === held.string
        ? other.finger > held.finger && other.semitones > held.semitones
        : other.finger !== held.finger || other.semitones === held.semitones,
    )
  );
}

/**
 * The decision that would keep these stops.
 * @example lockOf(fingering.notes[0], 'violin').stops[0].finger // 3
 */
export function lockOf(state: Pick<HandState, 'stops'>, instrument: string): Lock {
  return {
    instrument,
    stops: state.stops.map(({ string, finger, pitch, sign }) => ({
      string,
      finger,
      midi: midi(pitch),
      ...(sign === 'harmonic' && { harmonic: true }),
    })),
  };
}

/** A decision that says nothing any more is none. */
export function isEmptyLock({ stops, position, shift, holdUntil, like }: Lock): boolean {
  const decided = stops.some(({ string, finger }) => string !== undefined || finger !== undefined);
  return !decided && !position && !shift && !holdUntil && !like;
}

/**
 * The decisions with one of them changed; an empty one is left out.
 * @example withLock({}, 'n1', { instrument: 'violin', stops: [], shift: true }).n1.shift // true
 */
export function withLock(locks: Locks, id: string, lock: Lock | null): Locks {
  const { [id]: _, ...others } = locks;
  return lock === null || isEmptyLock(lock) ? others : { ...others, [id]: lock };
}
