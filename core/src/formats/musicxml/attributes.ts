/** Key, metre and transposition of a part. */
import {
  LETTERS,
  MODES,
  keyOf,
  signatureOf,
  type Alter,
  type Key,
  type Letter,
  type Metre,
  type Mode,
} from '../../music/index.ts';
import type { Transposition } from './note.ts';
import { children, numberOf, textOf, type XmlElement } from './tree.ts';

export function readTranspose(element: XmlElement): Transposition {
  const octaves = Math.round(numberOf(element, 'octave-change') ?? 0);
  const semitones = Math.round(numberOf(element, 'chromatic') ?? 0);
  const steps = Math.round(
    numberOf(element, 'diatonic') ?? Math.sign(semitones) * Math.round((Math.abs(semitones) * 7) / 12),
  );
  const within = (number: number) => Math.max(-60, Math.min(60, number));
  return { steps: within(steps + 7 * octaves), semitones: within(semitones + 12 * octaves) };
}

const MOST_BEATS = 64;

export function readTime(element: XmlElement): Metre | null {
  // "3+2" over 8 counts five eighths.
  const beats = textOf(element, 'beats')
    .split('+')
    .reduce((sum, piece) => sum + Number(piece), 0);
  const unit = numberOf(element, 'beat-type') ?? 0;
  if (!Number.isInteger(beats) || beats < 1 || beats > MOST_BEATS || ![1, 2, 4, 8, 16, 32, 64].includes(unit))
    return null;
  const symbol = element.attributes['symbol'];
  return { beats, unit, ...((symbol === 'common' || symbol === 'cut') && { symbol }) };
}

const TONICS: readonly Letter[] = ['F', 'C', 'G', 'D', 'A', 'E', 'B'];
/** Fifths from a mode's tonic down to the major tonic of the same signature. */
const MODE_OFFSET: Readonly<Record<Mode, number>> = {
  major: 0,
  ionian: 0,
  minor: 3,
  aeolian: 3,
  dorian: 2,
  phrygian: 4,
  lydian: -1,
  mixolydian: 1,
  locrian: 5,
};

export function readKey(element: XmlElement): Key {
  const steps = children(element, 'key-step');
  if (steps.length > 0) {
    const alters = children(element, 'key-alter');
    const signature = Object.fromEntries(
      steps.flatMap(({ text }, index): [Letter, Alter][] => {
        const alter = Math.max(-2, Math.min(2, Math.round(Number(alters[index]?.text ?? 0)))) as Alter;
        return LETTERS.includes(text as Letter) && alter !== 0 ? [[text as Letter, alter]] : [];
      }),
    );
    const sum = Object.values(signature).reduce<number>((total, alter) => total + alter, 0);
    return { tonic: tonicAt(Math.max(-7, Math.min(7, sum))), mode: 'major', signature };
  }
  const fifths = Math.max(-7, Math.min(7, Math.round(numberOf(element, 'fifths') ?? 0)));
  const stated = textOf(element, 'mode').toLowerCase() as Mode;
  const mode: Mode = MODES.includes(stated) ? stated : 'major';
  const key = keyOf(tonicAt(fifths + MODE_OFFSET[mode]), mode);
  return { ...key, signature: signatureOf(fifths) };
}

function tonicAt(fifths: number): Key['tonic'] {
  const place = fifths + 1;
  return { letter: TONICS[((place % 7) + 7) % 7]!, alter: Math.max(-2, Math.min(2, Math.floor(place / 7))) as Alter };
}
