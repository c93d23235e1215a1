/** The chord that broken notes spell, by the harmony at their place: chord symbols first, else the key. */
import { Chord, Note as Tone } from 'tonal';
import { chroma, spellInKey, type Key, type Pitch, type PitchClass } from '../music/index.ts';
import type { ChordName } from './model.ts';

type Quality = ChordName['quality'];

/** Tones above the root; those without a fifth are still heard as the chord. */
const CHORDS: readonly {
  readonly quality: Quality;
  readonly tones: readonly number[];
  readonly fewest?: readonly number[];
}[] = [
  { quality: 'major', tones: [0, 4, 7] },
  { quality: 'minor', tones: [0, 3, 7] },
  { quality: 'seventh', tones: [0, 4, 7, 10], fewest: [0, 4, 10] },
  { quality: 'minor-seventh', tones: [0, 3, 7, 10] },
  { quality: 'major-seventh', tones: [0, 4, 7, 11] },
  { quality: 'augmented', tones: [0, 4, 8] },
  { quality: 'diminished', tones: [0, 3, 6] },
];
/** What stands on the leading note is the chord of the fifth degree without its root, a third below. */
const LEADING: readonly (readonly number[])[] = [
  [0, 3, 6],
  [0, 3, 6, 9],
  [0, 3, 6, 10],
];
const THIRD_BELOW = 8;

/**
 * @param symbol the chord symbol that holds for all of them, if one does
 * @param home the key in which they are heard
 * @returns null for what is no chord
 * @example chordOf(['C5', 'A4', 'F#4'].map(pitch), null, keyOf({ letter: 'G', alter: 0 }, 'major')) // { root: { letter: 'D', alter: 0 }, quality: 'seventh' }
 */
export function chordOf(pitches: readonly Pitch[], symbol: string | null, home: Key): ChordName | null {
  const chromas = new Set(pitches.map(chroma));
  if (chromas.size < 3 || chromas.size > 4) return null;
  return bySymbol(chromas, pitches, symbol, home) ?? byKey(chromas, pitches, home);
}

/** All tones are those of the symbol: then it is that chord, or its triad where the seventh is not heard. */
function bySymbol(chromas: ReadonlySet<number>, pitches: readonly Pitch[], symbol: string | null, home: Key) {
  if (symbol === null) return null;
  const { notes } = Chord.get(symbol.replace(/\/.*$/, ''));
  const tones = notes.map((note) => Tone.chroma(note)).filter((tone) => tone !== undefined);
  const [root] = tones;
  if (root === undefined || ![...chromas].every((tone) => tones.includes(tone))) return null;
  const relative = (list: Iterable<number>) => [...list].map((tone) => (tone - root + 12) % 12).sort((a, b) => a - b);
  const heard = relative(chromas).join();
  const meant = relative(tones).join();
  const found =
    CHORDS.find(({ tones: own }) => own.join() === heard) ?? CHORDS.find(({ tones: own }) => own.join() === meant);
  return found ? { root: spelled(root, pitches, home), quality: found.quality } : null;
}

function byKey(chromas: ReadonlySet<number>, pitches: readonly Pitch[], home: Key): ChordName | null {
  const from = (root: number) =>
    [...chromas]
      .map((tone) => (tone - root + 12) % 12)
      .sort((a, b) => a - b)
      .join();
  const leading = (chroma(home.tonic) + 11) % 12;
  if (chromas.has(leading) && LEADING.some((tones) => tones.join() === from(leading)))
    return { root: spelled((leading + THIRD_BELOW) % 12, pitches, home), quality: 'seventh' };
  for (const { quality, tones, fewest } of CHORDS) {
    const root = [...chromas].find((tone) => from(tone) === tones.join() || from(tone) === fewest?.join());
    if (root !== undefined) return { root: spelled(root, pitches, home), quality };
  }
  return null;
}

/** As it is written, else as the key would write it. */
function spelled(root: number, pitches: readonly Pitch[], home: Key): PitchClass {
  const { letter, alter } = pitches.find((pitch) => chroma(pitch) === root) ?? spellInKey(60 + root, home);
  return { letter, alter };
}
