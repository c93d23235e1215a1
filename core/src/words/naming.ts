/** How notes are called: English letters, German ones, or the syllables of fixed do. */
import { Interval } from 'tonal';
import { printedName, type Letter, type Pitch, type PitchClass } from '../music/index.ts';
import { USUAL_NAMES, USUAL_NAMING, type Names, type Naming } from '../paper/index.ts';

const SYLLABLES: Readonly<Record<Letter, string>> = { C: 'Do', D: 'Re', E: 'Mi', F: 'Fa', G: 'Sol', A: 'La', B: 'Si' };

/**
 * @example noteName({ letter: 'B', alter: -1 }) // 'B♭'
 * @example noteName({ letter: 'B', alter: -1 }, 'german') // 'B'
 * @example noteName({ letter: 'F', alter: 1 }, 'fixed-do') // 'Fa♯'
 */
export function noteName(note: PitchClass, naming: Naming = USUAL_NAMING): string {
  switch (naming) {
    case 'english':
      return printedName(note);
    case 'german':
      return germanName(note);
    case 'fixed-do':
      return SYLLABLES[note.letter] + printedName(note).slice(1);
  }
}

/** B natural is H and B flat is B; a sharp adds -is, a flat -es, drawn together to -s after a vowel. */
function germanName({ letter, alter }: PitchClass): string {
  if (letter === 'B' && alter === -1) return 'B';
  const name = letter === 'B' ? 'H' : letter;
  if (alter >= 0) return name + 'is'.repeat(alter);
  const flat = (letter === 'E' || letter === 'A' ? 's' : 'es') + 'es'.repeat(-alter - 1);
  return name + flat;
}

/**
 * With its octave.
 * @example pitchText({ letter: 'F', alter: 1, octave: 4 }) // 'F♯4'
 */
export const pitchText = (pitch: Pitch, naming: Naming = USUAL_NAMING): string =>
  noteName(pitch, naming) + String(pitch.octave);

const ORDINALS =
  ' unison second third fourth fifth sixth seventh octave ninth tenth eleventh twelfth thirteenth fourteenth'.split(
    ' ',
  );
const QUALITIES: Readonly<Record<string, string>> = { m: 'minor ', M: 'major ' };

/**
 * A distance on the string, up or down.
 * @example wayText(-2) // 'a tone down'
 * @example wayText(4) // 'a major third up'
 */
export function wayText(semitones: number): string {
  const size = Math.abs(semitones);
  return `${distanceText(size)} ${semitones > 0 ? 'up' : 'down'}`;
}

/** @example distanceText(9) // 'a major sixth' */
export function distanceText(size: number): string {
  if (size === 0) return 'no way';
  if (size === 1) return 'a semitone';
  if (size === 2) return 'a tone';
  if (size === 6) return 'a tritone';
  const { num, q } = Interval.get(Interval.fromSemitones(size));
  const name = num === undefined ? undefined : ORDINALS[num];
  return name ? withArticle((QUALITIES[q ?? ''] ?? '') + name) : `${size} semitones`;
}

/**
 * A distance on the staff, in steps.
 * @example stepsText(2) // 'a third'
 * @example stepsText(7) // 'an octave'
 * @example stepsText(9) // 'a tenth'
 */
export function stepsText(steps: number): string {
  if (steps === 1) return 'a step';
  if (steps > 7 && steps % 7 === 0) return `${steps / 7} octaves`;
  const name = ORDINALS[steps + 1];
  return name && steps > 0 ? withArticle(name) : `${steps} steps`;
}

const withArticle = (noun: string) => `${/^[aeiou]/.test(noun) ? 'an' : 'a'} ${noun}`;

/**
 * Where something is, bar or phrase first.
 * @example placeText(6, 'A2') // 'bar 6 (A2)'
 * @example placeText(0, 'A1') // 'the pickup (A1)'
 */
export function placeText(bar: number, phrase: string | null, { places }: Names = USUAL_NAMES): string {
  const where = bar === 0 ? 'the pickup' : `bar ${bar}`;
  if (!phrase) return where;
  return places === 'bars' ? `${where} (${phrase})` : `${phrase}, ${where}`;
}
