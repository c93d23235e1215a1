/** The chords of a key that a tune may be carried by, with what each costs before a note is looked at. */
import { chroma, transposePitch, type Key, type Mode, type PitchClass, type Semitones } from '../music/index.ts';

export const CHORD_KINDS = [
  'major',
  'minor',
  'seventh',
  'minor-seventh',
  'major-seventh',
  'diminished',
  'half-diminished',
  'augmented',
  'suspended',
  'other',
] as const;
/** What stands over the root; `seventh` is the dominant's. */
export type ChordKind = (typeof CHORD_KINDS)[number];

/** Semitones over the root. */
export const CHORD_TONES: Readonly<Record<Exclude<ChordKind, 'other'>, readonly Semitones[]>> = {
  major: [0, 4, 7],
  minor: [0, 3, 7],
  seventh: [0, 4, 7, 10],
  'minor-seventh': [0, 3, 7, 10],
  'major-seventh': [0, 4, 7, 11],
  diminished: [0, 3, 6],
  'half-diminished': [0, 3, 6, 10],
  augmented: [0, 4, 8],
  suspended: [0, 5, 7],
};

const SUFFIX: Readonly<Record<'major' | 'minor' | 'seventh' | 'diminished', string>> = {
  major: '',
  minor: 'm',
  seventh: '7',
  diminished: 'dim',
};

/** A chord that could stand under a span. */
export interface Candidate {
  readonly root: PitchClass;
  readonly kind: keyof typeof SUFFIX;
  /** Semitones above C; the root first. */
  readonly tones: readonly Semitones[];
  readonly symbol: string;
  /** Semitones of the root above the home note. */
  readonly above: Semitones;
  /** How unusual it is in the key. */
  readonly price: number;
  /** A secondary dominant leads to the chord on this note, in semitones above the home note. */
  readonly leadsTo: Semitones | null;
}

type Row = readonly [steps: number, semitones: Semitones, kind: Candidate['kind'], price: number, leadsTo?: Semitones];

/**
 * What each mode is usually carried by; prices in shares of a span whose notes are all outside. A judgement, from how often
 * chords stand under tunes of the kind that string players share.
 */
const MAJOR: readonly Row[] = [
  [0, 0, 'major', 0],
  [4, 7, 'major', 0.06],
  [4, 7, 'seventh', 0.11],
  [3, 5, 'major', 0.1],
  [1, 2, 'minor', 0.24],
  [5, 9, 'minor', 0.22],
  [2, 4, 'minor', 0.45],
  [6, 11, 'diminished', 0.6],
  [1, 2, 'seventh', 0.36, 7],
  [1, 2, 'major', 0.36, 7],
  [0, 0, 'seventh', 0.45, 5],
  [5, 9, 'seventh', 0.45, 2],
  [2, 4, 'seventh', 0.45, 9],
  [6, 10, 'major', 0.55],
];
const MINOR: readonly Row[] = [
  [0, 0, 'minor', 0],
  [4, 7, 'major', 0.1],
  [4, 7, 'seventh', 0.13],
  [3, 5, 'minor', 0.16],
  [5, 8, 'major', 0.2],
  [6, 10, 'major', 0.12],
  [2, 3, 'major', 0.18],
  [4, 7, 'minor', 0.34],
  [1, 2, 'diminished', 0.5],
  [6, 10, 'seventh', 0.22],
  [0, 0, 'seventh', 0.5, 5],
  [0, 0, 'major', 0.6],
];
const DORIAN: readonly Row[] = [
  [0, 0, 'minor', 0],
  [6, 10, 'major', 0.06],
  [3, 5, 'major', 0.2],
  [4, 7, 'minor', 0.26],
  [2, 3, 'major', 0.26],
  [1, 2, 'minor', 0.45],
  [4, 7, 'major', 0.4],
];
const MIXOLYDIAN: readonly Row[] = [
  [0, 0, 'major', 0],
  [6, 10, 'major', 0.06],
  [3, 5, 'major', 0.14],
  [4, 7, 'minor', 0.34],
  [1, 2, 'minor', 0.36],
  [5, 9, 'minor', 0.32],
  [4, 7, 'major', 0.3],
];
const PHRYGIAN: readonly Row[] = [
  [0, 0, 'minor', 0],
  [1, 1, 'major', 0.08],
  [6, 10, 'minor', 0.16],
  [3, 5, 'minor', 0.24],
  [2, 3, 'major', 0.24],
  [0, 0, 'major', 0.3],
];
const LYDIAN: readonly Row[] = [
  [0, 0, 'major', 0],
  [1, 2, 'major', 0.1],
  [4, 7, 'major', 0.12],
  [5, 9, 'minor', 0.26],
  [2, 4, 'minor', 0.34],
];
const ROWS: Readonly<Record<Mode, readonly Row[]>> = {
  major: MAJOR,
  ionian: MAJOR,
  minor: MINOR,
  aeolian: MINOR,
  dorian: DORIAN,
  mixolydian: MIXOLYDIAN,
  phrygian: PHRYGIAN,
  locrian: PHRYGIAN,
  lydian: LYDIAN,
};

/**
 * A note as it is written over the staff.
 * @example plainName({ letter: 'B', alter: -1 }) // 'Bb'
 */
export const plainName = ({ letter, alter }: PitchClass): string =>
  `${letter}${alter < 0 ? 'b'.repeat(-alter) : '#'.repeat(alter)}`;

/**
 * The chords of a key.
 * @example chordsOf(keyOf({ letter: 'D', alter: 0 }, 'major'))[1].symbol // 'A'
 */
export function chordsOf(key: Key): readonly Candidate[] {
  return ROWS[key.mode].map(([steps, semitones, kind, price, leadsTo]): Candidate => {
    const { letter, alter } = transposePitch({ ...key.tonic, octave: 4 }, steps, semitones);
    const root: PitchClass = { letter, alter };
    const low = chroma(root);
    return {
      root,
      kind,
      tones: CHORD_TONES[kind].map((tone) => (low + tone) % 12),
      symbol: `${plainName(root)}${SUFFIX[kind]}`,
      above: semitones,
      price,
      leadsTo: leadsTo ?? null,
    };
  });
}
