/** What can be read off a finished fingering: holds, blocks, hops, and how fingers lie on each string. */
import type { Semitones } from '../music/index.ts';
import { staysUnder } from './locks.ts';
import type { HandState, Stop } from './state.ts';

/** Notes ahead within which a finger that is needed again stays down. */
const HOLD_NOTES = 4;
/** The same, where a teacher asks for it. */
const ASKED_NOTES = 8;

type Stopped = Pick<HandState, 'stops'>;

/** Same finger across: one of these on a string beside one of those, at the same place. */
export function isBlock(a: Stopped, b: Stopped): boolean {
  return across(a, b, (way) => way === 0, 1);
}

/** One finger stopping two strings at once. */
export function liesAcross({ stops }: Stopped): boolean {
  return stops.some(({ finger }, index) => finger > 0 && stops[index + 1]?.finger === finger);
}

/**
 * Whether a finger lies across two strings in the note itself, or from the note before to it.
 * @example isAcross({ stops: [] }, undefined) // false
 */
export function isAcross(note: Stopped, before: Stopped | undefined): boolean {
  return liesAcross(note) || (before !== undefined && isBlock(note, before));
}

/** Same finger across to another place: it has to leave the string. */
export function isHop(a: HandState, b: HandState): boolean {
  return a.frame.base === b.frame.base && across(a, b, (way) => way !== 0, 3);
}

function across(a: Stopped, b: Stopped, fits: (way: Semitones) => boolean, mostStrings: number): boolean {
  return a.stops.some((one) =>
    b.stops.some((other) => {
      const strings = Math.abs(one.string - other.string);
      const same = one.finger > 0 && one.finger === other.finger && strings > 0 && strings <= mostStrings;
      return same && fits(other.semitones - one.semitones);
    }),
  );
}

/**
 * For each state the step at which its finger is used again at the same place, if it can stay down till
 * then: only other strings, or higher fingers on its own, sound meanwhile, and the hand does not move.
 */
export function holdsOf(chosen: readonly (HandState | null)[]): readonly (number | null)[] {
  return chosen.map((state, index) => {
    const stop = state?.stops.length === 1 ? state.stops[0]! : null;
    if (!state || !stop || stop.finger === 0 || stop.sign === 'harmonic') return null;
    for (let later = index + 1; later <= Math.min(index + HOLD_NOTES, chosen.length - 1); later += 1) {
      const other = chosen[later];
      if (!other) return null;
      const again = other.stops.some(
        ({ string, finger, semitones }) =>
          string === stop.string && finger === stop.finger && semitones === stop.semitones,
      );
      const stays = other.frame.base === state.frame.base && other.frame.shape === state.frame.shape;
      if (again) return stays && later > index + 1 ? later : null;
      if (!stays || !staysUnder(stop, other)) return null;
    }
    return null;
  });
}

/**
 * Where a finger is needed again at the same place soon after, so that it could be told to stay down.
 * @returns the note, or null where there is none
 * @example neededAgain(fingering.notes, 0)?.id // 'n3'
 */
export function neededAgain<Note extends Stopped>(notes: readonly Note[], at: number): Note | null {
  const stop = notes[at]?.stops[0];
  if (!stop || stop.finger === 0) return null;
  const same = ({ string, semitones }: Stop) => string === stop.string && semitones === stop.semitones;
  return notes.slice(at + 2, at + 1 + ASKED_NOTES).find(({ stops }) => stops.some(same)) ?? null;
}

/** How the fingers lie on one string: which of them are used, and which neighbours touch. */
export interface StringPattern {
  /** Index of the string. */
  readonly string: number;
  /** Fingers used with their places, lowest first. */
  readonly places: readonly Pick<Stop, 'finger' | 'semitones' | 'sign'>[];
  /** Pairs of neighbouring fingers a semitone apart: they touch. */
  readonly touching: readonly (readonly [number, number])[];
  /** How often a finger changes its place on this string without the hand moving. */
  readonly changes: number;
  /** Fingers that lie in more than one place. */
  readonly moving: readonly number[];
}

/**
 * Two neighbouring fingers on one string, the lower one first, that lie a semitone apart: they touch.
 * @example touch({ finger: 1, semitones: 2 }, { finger: 2, semitones: 3 }) // true
 */
export const touch = (a: Pick<Stop, 'finger' | 'semitones'>, b: Pick<Stop, 'finger' | 'semitones'>): boolean =>
  b.finger === a.finger + 1 && b.semitones - a.semitones === 1;

/**
 * The patterns of a stretch of music, by string, lowest first. Open strings alone have none.
 * @example patternsOf(fingering.notes).map(({ string }) => string) // [1, 2]
 */
export function patternsOf(
  notes: readonly { readonly base: Semitones | null; readonly stops: readonly Stop[] }[],
): readonly StringPattern[] {
  const byString = new Map<number, { places: Map<string, Stop>; changes: number; last: Map<number, Semitones> }>();
  let last: Semitones | null = null;
  for (const { base, stops } of notes) {
    for (const stop of stops) {
      if (stop.finger === 0) continue;
      const found = byString.get(stop.string) ?? {
        places: new Map<string, Stop>(),
        changes: 0,
        last: new Map<number, Semitones>(),
      };
      if (last !== base) found.last.clear();
      last = base;
      const before = found.last.get(stop.finger);
      if (before !== undefined && before !== stop.semitones) found.changes += 1;
      found.last.set(stop.finger, stop.semitones);
      found.places.set(`${stop.semitones} ${stop.finger}`, stop);
      byString.set(stop.string, found);
    }
  }
  return [...byString]
    .sort(([a], [b]) => a - b)
    .map(([string, { places, changes }]) => {
      const used = [...places.values()].sort((a, b) => a.semitones - b.semitones || a.finger - b.finger);
      const touching = used.flatMap((a) => used.filter((b) => touch(a, b)).map((b) => [a.finger, b.finger] as const));
      const moving = [
        ...new Set(used.filter((a) => used.some((b) => b !== a && b.finger === a.finger)).map(({ finger }) => finger)),
      ];
      return {
        string,
        places: used.map(({ finger, semitones, sign }) => ({ finger, semitones, sign })),
        touching,
        changes,
        moving,
      };
    });
}
