/** What the notes of a line are to the chord and to the tune, as a teacher would say it. */
import type { ChordTone, LineNote } from '../ensemble/index.ts';
import { USUAL_NAMES, type Names } from '../paper/index.ts';
import { distanceText, noteName } from './naming.ts';

const TONES: Readonly<Record<ChordTone, string>> = {
  root: 'the root of',
  third: 'the third of',
  fifth: 'the fifth of',
  seventh: 'the seventh of',
  passing: 'passing over',
};
/**
 * What a note of a line is to its chord and to the tune.
 * @example lineNoteText({ pitches: [pitch('A4')], chord: 'D', tone: 'fifth', under: 4 }) // 'A, the fifth of D; a major third under the tune.'
 */
export function lineNoteText(
  { pitches, chord, tone, under }: Pick<LineNote, 'pitches' | 'chord' | 'tone' | 'under'>,
  called: Names = USUAL_NAMES,
): string {
  const names = pitches.map((pitch) => noteName(pitch, called.notes)).join(' and ');
  const over = chord === '' ? '' : `, ${TONES[tone]} ${chord}`;
  return `${names}${over}${under === null ? '' : `; ${awayText(under)}`}.`;
}

function awayText(under: number): string {
  if (under === 0) return 'the note of the tune';
  return `${distanceText(Math.abs(under))} ${under > 0 ? 'under' : 'over'} the tune`;
}
