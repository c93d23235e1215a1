/** Chords in words. */
import { printedName } from '../music/index.ts';
import type { ChordKind, Harmony } from '../harmony/index.ts';

/**
 * A chord as it is printed. A flat is a flat only after a letter: "Bb", but not the b of "sub".
 * @example chordName('Bb/F#') // 'B♭/F♯'
 */
export const chordName = (symbol: string): string => symbol.replace(/([A-G])b/g, '$1♭').replace(/([A-G])#/g, '$1♯');

const KIND_WORDS: Readonly<Record<ChordKind, string>> = {
  major: 'major',
  minor: 'minor',
  seventh: 'seventh',
  'minor-seventh': 'minor seventh',
  'major-seventh': 'major seventh',
  diminished: 'diminished',
  'half-diminished': 'half-diminished',
  augmented: 'augmented',
  suspended: 'suspended',
  other: 'chord',
};
const DEGREE_WORDS: Readonly<Record<string, string>> = {
  I: 'home',
  i: 'home',
  V: 'the dominant',
  V7: 'the dominant',
  IV: 'the subdominant',
  iv: 'the subdominant',
};

/**
 * A chord as it is said, and what it is in its key.
 * @example chordText({ root: { letter: 'A', alter: 0 }, kind: 'seventh' }, 'V7') // 'A seventh, the dominant (V7)'
 */
export function chordText({ root, kind }: Pick<Harmony, 'root' | 'kind'>, numeral: string): string {
  if (!root) return '';
  const secondary = numeral.includes('/') ? `leads to ${numeral.split('/')[1]!}` : DEGREE_WORDS[numeral];
  return `${printedName(root)} ${KIND_WORDS[kind]}${secondary ? `, ${secondary}` : ''}${numeral ? ` (${numeral})` : ''}`;
}
