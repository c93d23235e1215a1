/** How to find the place after a shift, by what the hand already knows. The words for it are in `words`. */
import { midi, type Pitch, type Semitones } from '../music/index.ts';
import { OCTAVE, type Finger } from './vocabulary.ts';
import type { HandState, Stop } from './state.ts';

interface Found {
  /** The finger that plays the note, and its string. */
  readonly finger: Finger;
  readonly string: number;
}

export type Landing =
  /** Touched lightly, or stopped, halfway along the string. */
  | (Found & { readonly by: 'touched-octave' | 'octave' })
  /** The finger stays on the string and goes along. */
  | (Found & { readonly by: 'same-finger'; readonly semitones: Semitones })
  /** On the place of a finger that is there, or was. */
  | (Found & { readonly by: 'known-finger'; readonly other: Finger; readonly still: boolean })
  /** By gliding on the finger that played last, or by the way of the hand. */
  | (Found & {
      readonly by: 'guide' | 'way';
      readonly guide: Finger;
      readonly semitones: Semitones;
      /** Nothing holds the hand on its string meanwhile. */
      readonly free: boolean;
      readonly pitch: Pitch;
      /** Open string that sounds like the note, if one does. */
      readonly likeOpen: number | null;
    });

const firstStopped = ({ stops }: HandState): Stop | undefined => stops.find(({ finger }) => finger > 0);

/**
 * Where the finger lands: on the place of a finger that was there before, at the octave, by gliding on one
 * finger, at the pitch of an open string, or by the way of the finger that leads.
 * @param from where the hand last stopped a string
 * @param free whether an open string or a rest lies between, so that the hand need not stay on the string
 * @returns null where no finger is put down
 */
export function landingOf(from: HandState, to: HandState, open: readonly Pitch[], free = false): Landing | null {
  const last = firstStopped(from);
  const next = firstStopped(to);
  if (!last || !next) return null;
  const found = { finger: next.finger, string: next.string };
  if (next.sign === 'harmonic') return { ...found, by: 'touched-octave' };
  if (!free && last.finger === next.finger && last.string === next.string)
    return { ...found, by: 'same-finger', semitones: next.semitones - last.semitones };
  const was = from.frame.places.find(
    ({ finger, semitones, sign }) => finger !== next.finger && semitones === next.semitones && sign !== 'extended',
  );
  if (was) {
    const still = last.string === next.string && last.finger === was.finger;
    return { ...found, by: 'known-finger', other: was.finger, still };
  }
  if (next.semitones === OCTAVE) return { ...found, by: 'octave' };
  const way = to.frame.base - from.frame.base;
  const guide = free
    ? undefined
    : to.frame.places.find(({ finger, sign }) => finger === last.finger && sign !== 'extended');
  const like = open.findIndex((pitch, index) => index !== next.string && midi(pitch) % 12 === midi(next.pitch) % 12);
  const told = { guide: last.finger, free, pitch: next.pitch, likeOpen: like < 0 ? null : like };
  if (guide && last.string === next.string && way !== 0)
    return { ...found, ...told, by: 'guide', semitones: guide.semitones - last.semitones };
  return { ...found, ...told, by: 'way', semitones: way };
}
