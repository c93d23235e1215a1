/** What a chord is in its key, as musicians number it: `I`, `vi`, `V7`, `V7/V`. */
import { chroma, type Key } from '../music/index.ts';
import type { Harmony } from './harmony.ts';

/** By semitones above the home note, in major and in minor. */
const MAJOR = ['I', 'bII', 'II', 'bIII', 'III', 'IV', 'bV', 'V', 'bVI', 'VI', 'bVII', 'VII'] as const;
const MINOR = ['I', 'bII', 'II', 'III', '#III', 'IV', 'bV', 'V', 'VI', '#VI', 'VII', '#VII'] as const;
const IS_MINOR: ReadonlySet<Key['mode']> = new Set<Key['mode']>(['minor', 'aeolian', 'dorian', 'phrygian', 'locrian']);
const SMALL: ReadonlySet<Harmony['kind']> = new Set<Harmony['kind']>([
  'minor',
  'minor-seventh',
  'diminished',
  'half-diminished',
]);
const SUFFIX: Readonly<Partial<Record<Harmony['kind'], string>>> = {
  seventh: '7',
  'minor-seventh': '7',
  'major-seventh': 'maj7',
  diminished: '°',
  'half-diminished': 'ø7',
  augmented: '+',
  suspended: 'sus',
};
/** Major chords on these degrees are dominants of what lies a fifth below. */
const SECONDARY: Readonly<Record<number, string>> = { 2: 'V', 4: 'vi', 9: 'ii' };

/**
 * The number of a chord in its key; empty where it is no chord.
 * @example functionOf({ root: { letter: 'A', alter: 0 }, kind: 'seventh' }, keyOf({ letter: 'D', alter: 0 }, 'major')) // 'V7'
 */
export function functionOf({ root, kind }: Pick<Harmony, 'root' | 'kind'>, { tonic, mode }: Key): string {
  if (!root) return '';
  const above = (chroma(root) - chroma(tonic) + 12) % 12;
  const isMinor = IS_MINOR.has(mode);
  if (!isMinor && (kind === 'seventh' || kind === 'major') && SECONDARY[above] !== undefined && mode !== 'lydian')
    return `V${kind === 'seventh' ? '7' : ''}/${SECONDARY[above]}`;
  if (kind === 'seventh' && above === 0) return isMinor ? 'V7/iv' : 'V7/IV';
  const name = (isMinor ? MINOR : MAJOR)[above]!;
  return `${SMALL.has(kind) ? name.toLowerCase() : name}${SUFFIX[kind] ?? ''}`;
}
