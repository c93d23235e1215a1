/** Spelled pitches: a letter, an alteration and an octave; the MIDI number is derived. */

export const LETTERS = ['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const;
export type Letter = (typeof LETTERS)[number];
/** −2 double flat … +2 double sharp. */
export type Alter = -2 | -1 | 0 | 1 | 2;
export type Semitones = number;
/** MIDI note number; 60 is C4. */
export type Midi = number;

export interface PitchClass {
  readonly letter: Letter;
  readonly alter: Alter;
}

/** A sounding pitch in scientific octaves (A4 = 440 Hz). */
export interface Pitch extends PitchClass {
  readonly octave: number;
}

const SEMITONE: Readonly<Record<Letter, Semitones>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };
const SIGN = ['bb', 'b', '', '#', '##'] as const;
const PRINTED_SIGN = ['𝄫', '♭', '', '♯', '𝄪'] as const;

/** @example midi(parsePitch('A4')) // 69 */
export function midi(pitch: Pitch): Midi {
  return 12 * (pitch.octave + 1) + SEMITONE[pitch.letter] + pitch.alter;
}

/**
 * Semitones above C, 0 to 11.
 * @example chroma({ letter: 'B', alter: -1 }) // 10
 */
export function chroma({ letter, alter }: PitchClass): Semitones {
  return (SEMITONE[letter] + alter + 12) % 12;
}

/**
 * Diatonic steps above C0: the line or space of the staff.
 * @example step(pitch('C4')) // 28
 */
export function step(pitch: Pitch): number {
  return pitch.octave * 7 + LETTERS.indexOf(pitch.letter);
}

/** @example pitchName({ letter: 'F', alter: 1, octave: 5 }) // 'F#5' */
export function pitchName(pitch: Pitch): string {
  return `${pitch.letter}${SIGN[pitch.alter + 2]}${pitch.octave}`;
}

/**
 * For people: F♯.
 * @example printedName({ letter: 'F', alter: 1 }) // 'F♯'
 */
export function printedName({ letter, alter }: PitchClass): string {
  return `${letter}${PRINTED_SIGN[alter + 2]}`;
}

/**
 * Reads `A4`, `Bb3`, `C#5`, `C♯5`; null for anything else.
 * @example parsePitch('F#5') // { letter: 'F', alter: 1, octave: 5 }
 */
export function parsePitch(text: string): Pitch | null {
  const match = /^([A-Ga-g])(bb|b|##|#|♭|♯)?(-?\d)$/.exec(text.trim());
  if (!match) return null;
  const sign = (match[2] ?? '').replaceAll('♭', 'b').replaceAll('♯', '#');
  return {
    letter: match[1]!.toUpperCase() as Letter,
    alter: (SIGN.indexOf(sign as (typeof SIGN)[number]) - 2) as Alter,
    octave: Number(match[3]),
  };
}

/**
 * A pitch given in code, where a wrong name is a bug.
 * @example pitch('A4') // { letter: 'A', alter: 0, octave: 4 }
 */
export function pitch(name: string): Pitch {
  const parsed = parsePitch(name);
  if (!parsed) throw new Error(`Not a pitch: ${name}`);
  return parsed;
}

/**
 * The pitch at a staff step with the alteration that gives this MIDI number; null beyond double accidentals.
 * @example pitchName(spell(step(pitch('F5')), 78)) // 'F#5'
 */
export function spell(atStep: number, number: Midi): Pitch | null {
  const letter = LETTERS[((atStep % 7) + 7) % 7]!;
  const octave = Math.floor(atStep / 7);
  const alter = number - midi({ letter, alter: 0, octave });
  return Math.abs(alter) <= 2 ? { letter, alter: alter as Alter, octave } : null;
}

/**
 * Moves a pitch by staff steps and semitones; falls back on a plainer spelling beyond double accidentals.
 * @example pitchName(transposePitch(pitch('C4'), 2, 4)) // 'E4'
 */
export function transposePitch(from: Pitch, steps: number, semitones: Semitones): Pitch {
  const number = midi(from) + semitones;
  for (const shift of [0, 1, -1]) {
    const spelled = spell(step(from) + steps + shift, number);
    if (spelled) return spelled;
  }
  throw new Error(`No spelling for MIDI ${number} near ${pitchName(from)}`);
}
