/** How to find the place after a shift, by what the hand already knows. */
import { midi, printedName, type Pitch, type Semitones } from '../music/index.ts';
import { OCTAVE } from './frames.ts';
import type { HandState, Stop } from './state.ts';

const STEPS = [
  'no way',
  'a semitone',
  'a tone',
  'a minor third',
  'a major third',
  'a fourth',
  'a tritone',
  'a fifth',
  'a minor sixth',
  'a major sixth',
  'a minor seventh',
  'a major seventh',
  'an octave',
] as const;

/** @example wayText(-2) // "a tone down" */
export function wayText(semitones: Semitones): string {
  const size = Math.abs(semitones);
  return `${STEPS[size] ?? `${size} semitones`} ${semitones > 0 ? 'up' : 'down'}`;
}

const firstStopped = ({ stops }: HandState): Stop | undefined => stops.find(({ finger }) => finger > 0);

/**
 * Where the finger lands, in words: on the place of a finger that was there before, at the octave, by
 * gliding on one finger, at the pitch of an open string, or by the way of the finger that leads.
 * @param from where the hand last stopped a string
 * @param free whether an open string or a rest lies between, so that the hand need not stay on the string
 * @example landingText(inFirst, inThird, open, names) // "1 lands where 3 was on the A string"
 */
export function landingText(
  from: HandState,
  to: HandState,
  open: readonly Pitch[],
  stringNames: readonly string[],
  free = false,
): string {
  const last = firstStopped(from);
  const next = firstStopped(to);
  if (!last || !next) return '';
  const way = to.frame.base - from.frame.base;
  const string = `the ${stringNames[next.string]} string`;
  if (next.sign === 'harmonic') return `${next.finger} touches the octave, halfway along ${string}`;
  if (!free && last.finger === next.finger && last.string === next.string)
    return `keep ${next.finger} on ${string} and glide ${wayText(next.semitones - last.semitones)}`;
  const was = from.frame.places.find(
    ({ finger, semitones, sign }) => finger !== next.finger && semitones === next.semitones && sign !== 'extended',
  );
  if (was)
    return `${next.finger} lands where ${was.finger} ${last.string === next.string && last.finger === was.finger ? 'is' : 'was'} on ${string}`;
  if (next.semitones === OCTAVE) return `${next.finger} lands on the octave, halfway along ${string}`;
  const guide = free
    ? undefined
    : to.frame.places.find(({ finger, sign }) => finger === last.finger && sign !== 'extended');
  const sounds = open.findIndex((pitch, index) => index !== next.string && midi(pitch) % 12 === midi(next.pitch) % 12);
  const check = sounds >= 0 ? `; ${printedName(next.pitch)} sounds like the open ${stringNames[sounds]}` : '';
  if (guide && last.string === next.string && way !== 0)
    return `glide on ${last.finger} ${wayText(guide.semitones - last.semitones)}, then put ${next.finger}${check}`;
  const meanwhile = free ? 'while the hand is free it goes' : 'the hand goes';
  return `${meanwhile} ${wayText(way)}: ${next.finger} on ${string}${check}`;
}
