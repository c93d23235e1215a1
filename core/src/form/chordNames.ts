/** The chord that broken notes spell, by the harmony at their place: chord symbols first, else the key. */
import { Chord, Note as Tone } from 'tonal';
import { chroma, spellInKey, type Key, type Mode, type Pitch, type PitchClass } from '../music/index.ts';
import type { ChordName } from './model.ts';

type Quality = ChordName['quality'];

/** Tones above the root as bits, the root's the lowest. */
const tones = (...list: readonly number[]) => list.reduce((bits, tone) => bits | (1 << tone), 0);
/** What stands on its root, as bits turned until it is the lowest. */
const above = (bits: number, root: number) => ((bits >> root) | (bits << (12 - root))) & 0xfff;

/** In the order in which they are looked for. A seventh chord without its fifth is still heard as one. */
const CHORDS: ReadonlyMap<number, Quality> = new Map([
  [tones(0, 4, 7), 'major'],
  [tones(0, 3, 7), 'minor'],
  [tones(0, 4, 7, 10), 'seventh'],
  [tones(0, 4, 10), 'seventh'],
  [tones(0, 3, 7, 10), 'minor-seventh'],
  [tones(0, 4, 7, 11), 'major-seventh'],
  [tones(0, 4, 8), 'augmented'],
  [tones(0, 3, 6), 'diminished'],
  [tones(0, 3, 6, 10), 'half-diminished'],
  [tones(0, 3, 6, 9), 'diminished-seventh'],
]);
/** What stands on the leading note is the chord of the fifth degree without its root, a third below. */
const LEADING: ReadonlySet<number> = new Set([tones(0, 3, 6), tones(0, 3, 6, 9), tones(0, 3, 6, 10)]);
const DIMINISHED = tones(0, 3, 6);
const THIRD_BELOW = 8;
/** A diminished triad leads to a degree of the key likewise, but for the second degree of a minor key, which is one. */
const DEGREES = { major: [0, 2, 4, 5, 7, 9], minor: [0, 3, 5, 7, 8] } as const;
const SECOND = 2;

/**
 * @param symbol the chord symbol that holds for all of them, if one does
 * @param home the key in which they are heard
 * @returns null for what is no chord
 * @example chordOf(['C5', 'A4', 'F#4'].map(pitch), null, keyOf({ letter: 'G', alter: 0 }, 'major')) // { root: { letter: 'D', alter: 0 }, quality: 'seventh' }
 */
export function chordOf(pitches: readonly Pitch[], symbol: string | null, home: Key): ChordName | null {
  const heard = tones(...pitches.map(chroma));
  return bySymbol(heard, pitches, symbol, home) ?? byKey(heard, pitches, home);
}

/** Whether these are the tones of some chord. @param chromas each from 0 to 11 */
export function isChord(chromas: readonly number[]): boolean {
  const heard = tones(...chromas);
  return ROOTS.some((root) => CHORDS.has(above(heard, root)));
}

const MINOR: readonly Mode[] = ['minor', 'aeolian', 'dorian', 'phrygian', 'locrian'];
const ROOTS = Array.from({ length: 12 }, (_, root) => root);

/** All tones are those of the symbol: then it is that chord, or its triad where the seventh is not heard. */
function bySymbol(heard: number, pitches: readonly Pitch[], symbol: string | null, home: Key): ChordName | null {
  if (symbol === null) return null;
  const notes = Chord.get(symbol.replace(/\/.*$/, '')).notes.map((note) => Tone.chroma(note));
  const [root] = notes;
  const meant = tones(...notes.filter((note) => note !== undefined));
  if (root === undefined || (heard & ~meant) !== 0) return null;
  const quality = CHORDS.get(above(heard, root)) ?? CHORDS.get(above(meant, root));
  return quality ? { root: spelled(root, pitches, home), quality } : null;
}

function byKey(heard: number, pitches: readonly Pitch[], home: Key): ChordName | null {
  const leading = (chroma(home.tonic) + 11) % 12;
  const dominant = (on: number): ChordName => ({
    root: spelled((on + THIRD_BELOW) % 12, pitches, home),
    quality: 'seventh',
  });
  if (LEADING.has(above(heard, leading))) return dominant(leading);
  const minor = MINOR.includes(home.mode);
  const led = ROOTS.find((root) => above(heard, root) === DIMINISHED);
  if (led !== undefined) {
    const degree = (led + 1 - chroma(home.tonic) + 12) % 12;
    const isSecond = minor && degree === SECOND + 1;
    if (!isSecond && (DEGREES[minor ? 'minor' : 'major'] as readonly number[]).includes(degree)) return dominant(led);
  }
  for (const root of ROOTS) {
    const quality = CHORDS.get(above(heard, root));
    if (quality) return { root: spelled(root, pitches, home), quality };
  }
  return null;
}

/** As it is written, else as the key would write it. */
function spelled(root: number, pitches: readonly Pitch[], home: Key): PitchClass {
  const { letter, alter } = pitches.find((pitch) => chroma(pitch) === root) ?? spellInKey(60 + root, home);
  return { letter, alter };
}
