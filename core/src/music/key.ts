/** Keys: tonic, mode and signature. The signature is what counts for reading; the mode is what the source claims. */
import {
  LETTERS,
  chroma,
  midi,
  printedName,
  spell,
  step,
  type Alter,
  type Letter,
  type Midi,
  type Pitch,
  type PitchClass,
  type Semitones,
} from './pitch.ts';

export const MODES = [
  'major',
  'minor',
  'dorian',
  'phrygian',
  'lydian',
  'mixolydian',
  'aeolian',
  'ionian',
  'locrian',
] as const;
export type Mode = (typeof MODES)[number];

/** Alterations by letter; letters left out are natural. */
export type Signature = Readonly<Partial<Record<Letter, Alter>>>;

export interface Key {
  readonly tonic: PitchClass;
  readonly mode: Mode;
  readonly signature: Signature;
}

/** Sharps in the order they are written. */
const SHARP_ORDER: readonly Letter[] = ['F', 'C', 'G', 'D', 'A', 'E', 'B'];
/** Fifths from the mode's tonic to the tonic of the major key with the same signature, negated. */
const MODE_FIFTHS: Readonly<Record<Mode, number>> = {
  lydian: 1,
  major: 0,
  ionian: 0,
  mixolydian: -1,
  dorian: -2,
  minor: -3,
  aeolian: -3,
  phrygian: -4,
  locrian: -5,
};

/** Place on the line of fifths: C 0, G 1, F −1, F♯ 6. */
function fifthsOf({ letter, alter }: PitchClass): number {
  return SHARP_ORDER.indexOf(letter) - 1 + 7 * alter;
}

/**
 * Sharps (positive) or flats (negative) of the standard signature of a key.
 * @example fifths(keyOf({ letter: 'D', alter: 0 }, 'major')) // 2
 */
export function fifths(key: Pick<Key, 'tonic' | 'mode'>): number {
  return fifthsOf(key.tonic) + MODE_FIFTHS[key.mode];
}

/**
 * The standard signature with so many sharps (positive) or flats (negative).
 * @example signatureOf(-2) // { B: -1, E: -1 }
 */
export function signatureOf(count: number): Signature {
  const order = count >= 0 ? SHARP_ORDER : [...SHARP_ORDER].reverse();
  return Object.fromEntries(order.slice(0, Math.min(7, Math.abs(count))).map((letter) => [letter, Math.sign(count)]));
}

/** @example keyOf({ letter: 'A', alter: 0 }, 'mixolydian').signature // { F: 1, C: 1 } */
export function keyOf(tonic: PitchClass, mode: Mode): Key {
  return { tonic, mode, signature: signatureOf(fifths({ tonic, mode })) };
}

export const C_MAJOR: Key = keyOf({ letter: 'C', alter: 0 }, 'major');

/**
 * The alteration that the signature gives a letter.
 * @example signatureAlter(keyOf({ letter: 'G', alter: 0 }, 'major'), 'F') // 1
 */
export function signatureAlter(key: Key, letter: Letter): Alter {
  return key.signature[letter] ?? 0;
}

/** @example sameKey(C_MAJOR, keyOf({ letter: 'C', alter: 0 }, 'major')) // true */
export function sameKey(a: Key, b: Key): boolean {
  return (
    a.mode === b.mode &&
    chroma(a.tonic) === chroma(b.tonic) &&
    LETTERS.every((letter) => signatureAlter(a, letter) === signatureAlter(b, letter))
  );
}

/**
 * Whether the signature is the standard one; `K:` lines in ABC may add or replace accidentals.
 * @example isStandard(C_MAJOR) // true
 */
export function isStandard(key: Key): boolean {
  return sameKey(key, keyOf(key.tonic, key.mode));
}

/**
 * Number of sharps or flats that stand in the signature, signed, for formats that only know the circle of fifths.
 * @example nearestFifths(keyOf({ letter: 'E', alter: -1 }, 'major')) // -3
 */
export function nearestFifths(key: Key): number {
  const sum = LETTERS.reduce((total, letter) => total + signatureAlter(key, letter), 0);
  return Math.max(-7, Math.min(7, sum));
}

/**
 * For people: "B♭ major", "E dorian".
 * @example keyName(keyOf({ letter: 'B', alter: -1 }, 'dorian')) // 'B♭ dorian'
 */
export function keyName(key: Key): string {
  return `${printedName(key.tonic)} ${key.mode === 'ionian' ? 'major' : key.mode === 'aeolian' ? 'minor' : key.mode}`;
}

/** Every way to write the tonic with no more than six sharps or flats in the signature, plainest first. */
function spellings(at: Semitones, mode: Mode): readonly PitchClass[] {
  const all = LETTERS.flatMap((letter) => ([-1, 0, 1] as const).map((alter) => ({ letter, alter })));
  return all
    .filter((tonic) => chroma(tonic) === at)
    .sort((a, b) => Math.abs(fifths({ tonic: a, mode })) - Math.abs(fifths({ tonic: b, mode })));
}

/**
 * The key so many semitones away in its plainest spelling, and the staff steps that go with it.
 * Six sharps or six flats are equally plain; then sharps go with sharps and flats with flats.
 * @example keyName(transposeKey(C_MAJOR, 2).key) // 'D major'
 */
export function transposeKey(key: Key, semitones: Semitones): { key: Key; steps: number } {
  if (semitones === 0) return { key, steps: 0 };
  const target = (((chroma(key.tonic) + semitones) % 12) + 12) % 12;
  const candidates = spellings(target, key.mode);
  const plainest = Math.abs(fifths({ tonic: candidates[0]!, mode: key.mode }));
  const equal = candidates.filter((tonic) => Math.abs(fifths({ tonic, mode: key.mode })) === plainest);
  const side = nearestFifths(key) < 0 ? -1 : 1;
  const tonic =
    equal.find((candidate) => Math.sign(fifths({ tonic: candidate, mode: key.mode })) === side) ?? equal[0]!;
  const letterSteps = LETTERS.indexOf(tonic.letter) - LETTERS.indexOf(key.tonic.letter);
  // The letter distance is known modulo an octave; the one nearest to the semitones is meant.
  const steps = letterSteps + 7 * Math.round((semitones - semitonesOf(key.tonic, tonic)) / 12);
  const shift = fifths({ tonic, mode: key.mode }) - fifths(key);
  const signature = isStandard(key)
    ? keyOf(tonic, key.mode).signature
    : moveSignature(key.signature, letterSteps, shift);
  return { key: { tonic, mode: key.mode, signature }, steps };
}

/** Signed semitones from one pitch class to another when both stand in the same octave. */
function semitonesOf(from: PitchClass, to: PitchClass): Semitones {
  const at = ({ letter, alter }: PitchClass) => [0, 2, 4, 5, 7, 9, 11][LETTERS.indexOf(letter)]! + alter;
  return at(to) - at(from);
}

/** An irregular signature keeps its pattern: each letter's distance from the standard signature moves along. */
function moveSignature(signature: Signature, letterSteps: number, fifthsShift: number): Signature {
  const base = (count: number) => signatureOf(Math.max(-7, Math.min(7, count)));
  const own = LETTERS.reduce((total, letter) => total + (signature[letter] ?? 0), 0);
  const before = base(own);
  const after = base(own + fifthsShift);
  return Object.fromEntries(
    LETTERS.map((letter, index) => {
      const moved = LETTERS[(((index + letterSteps) % 7) + 7) % 7]!;
      const extra = (signature[letter] ?? 0) - (before[letter] ?? 0);
      return [moved, ((after[moved] ?? 0) + extra) as Alter] as const;
    }).filter(([, alter]) => alter !== 0),
  );
}

/**
 * So many steps up the scale of a signature, down if negative; null where it has no such spelling.
 * @example pitchName(diatonicStep(pitch('F#4'), 1, { F: 1 })) // 'G4'
 */
export function diatonicStep(from: Pitch, steps: number, signature: Signature): Pitch | null {
  const number = step(from) + steps;
  const letter = LETTERS[((number % 7) + 7) % 7]!;
  const natural: Midi = midi({ letter, alter: 0, octave: Math.floor(number / 7) });
  return spell(number, natural + (signature[letter] ?? 0));
}
