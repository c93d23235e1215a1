/**
 * Which key a melody is likely in, when nothing says so; and how to spell its notes in a key.
 *
 * A key's score is the share of sounding time that its scale covers, with weight on the rest at the
 * end (most tunes close on their home note), on the strong notes of the home chord, and a preference
 * for the modes that are more usual. The weights are judgements, not measured.
 */
import { keyOf, nearestFifths, type Key, type Mode } from './key.ts';
import { LETTERS, midi, type Alter, type Midi, type Pitch } from './pitch.ts';
import type { Ticks } from './time.ts';

export interface KeySuggestion {
  readonly key: Key;
  /** 0 to 1, how well the notes agree with it. */
  readonly fit: number;
}

const SCALES: readonly { readonly mode: Mode; readonly steps: readonly number[]; readonly usual: number }[] = [
  { mode: 'major', steps: [0, 2, 4, 5, 7, 9, 11], usual: 0.04 },
  { mode: 'minor', steps: [0, 2, 3, 5, 7, 8, 10], usual: 0.02 },
  { mode: 'dorian', steps: [0, 2, 3, 5, 7, 9, 10], usual: 0.01 },
  { mode: 'mixolydian', steps: [0, 2, 4, 5, 7, 9, 10], usual: 0.01 },
];
const WEIGHT = { scale: 0.6, last: 0.16, tonic: 0.12, fifth: 0.06, third: 0.06 } as const;
/** Taken off where the third, which tells major from minor, is not heard at all. */
const NO_THIRD = 0.1;

/**
 * @param notes in order; at least one
 * @example keyName(suggestKeys([60, 64, 67, 72].map((midi) => ({ midi, duration: 3360 })))[0].key) // 'C major'
 */
export function suggestKeys(
  notes: readonly { readonly midi: Midi; readonly duration: Ticks }[],
): readonly KeySuggestion[] {
  const time = new Array<number>(12).fill(0);
  for (const note of notes) time[note.midi % 12]! += note.duration;
  const total = time.reduce((sum, part) => sum + part, 0) || 1;
  const share = (chroma: number) => time[((chroma % 12) + 12) % 12]! / total;
  const last = (notes.at(-1)?.midi ?? 0) % 12;
  const found = Array.from({ length: 12 }, (_, tonic) =>
    SCALES.map(({ mode, steps, usual }): KeySuggestion => {
      const scale = steps.reduce((sum, step) => sum + share(tonic + step), 0);
      const third = share(tonic + steps[2]!);
      const fit =
        WEIGHT.scale * scale +
        (last === tonic ? WEIGHT.last : 0) +
        WEIGHT.tonic * Math.min(1, 4 * share(tonic)) +
        WEIGHT.fifth * Math.min(1, 5 * share(tonic + 7)) +
        WEIGHT.third * Math.min(1, 6 * third) -
        (third === 0 ? NO_THIRD : 0) +
        usual;
      return { key: plainestKey(tonic, mode), fit: Math.min(1, fit) };
    }),
  ).flat();
  return found.sort((a, b) => b.fit - a.fit);
}

/** The spelling of a tonic that needs the fewest sharps or flats; worked out once for each. */
function plainestKey(tonic: number, mode: Mode): Key {
  const name = `${tonic} ${mode}`;
  const known = plainest.get(name);
  if (known) return known;
  const candidates = LETTERS.flatMap((letter) =>
    ([0, -1, 1] as const).map((alter) => keyOf({ letter, alter }, mode)),
  ).filter((key) => midi({ ...key.tonic, octave: 4 }) % 12 === tonic);
  const key = candidates.reduce((best, other) =>
    Math.abs(nearestFifths(other)) < Math.abs(nearestFifths(best)) ? other : best,
  );
  plainest.set(name, key);
  return key;
}
const plainest = new Map<string, Key>();

const FIFTHS_OF_LETTER = { F: -1, C: 0, G: 1, D: 2, A: 3, E: 4, B: 5 } as const;
/** A scale spans seven places on the line of fifths; its middle lies two above the major tonic. */
const SCALE_MIDDLE = 2;

/**
 * Spells a note as a key would: nearest to the scale's middle on the line of fifths, sharps where equal.
 * @example pitchName(spellInKey(66, keyOf({ letter: 'G', alter: 0 }, 'major'))) // 'F#4'
 */
export function spellInKey(number: Midi, key: Key): Pitch {
  const middle = nearestFifths(key) + SCALE_MIDDLE;
  const candidates = LETTERS.flatMap((letter) =>
    ([-2, -1, 0, 1, 2] as const).flatMap((alter: Alter) => {
      const octave = Math.round((number - midi({ letter, alter, octave: -1 })) / 12) - 1;
      const pitch: Pitch = { letter, alter, octave };
      const distance = FIFTHS_OF_LETTER[letter] + 7 * alter - middle;
      return midi(pitch) === number ? [{ pitch, distance }] : [];
    }),
  );
  return candidates.reduce((best, candidate) => {
    const difference = Math.abs(candidate.distance) - Math.abs(best.distance);
    return difference < 0 || (difference === 0 && candidate.distance > best.distance) ? candidate : best;
  }).pitch;
}
