/** What a chord symbol sounds like. */
import { Chord, Note as Tone } from 'tonal';
import { parsePitch, type Midi, type PitchClass } from './pitch.ts';

/** Voices lie closely above this; the bass an octave below. C3. */
const LOWEST: Midi = 48;
const MOST_VOICES = 4;

/**
 * A soft accompaniment: the bass in the octave below C3, the other tones close above it.
 *
 * @example chordSound('D7/F#') // [42, 48, 50, 54, 57]
 * @returns null for what is no chord, such as "N.C."
 */
export function chordSound(symbol: string): readonly Midi[] | null {
  const [name, bass] = splitBass(symbol.trim());
  const { notes } = Chord.get(name);
  const chromas = notes.map((note) => Tone.chroma(note)).filter((chroma) => Number.isInteger(chroma));
  if (chromas.length < 2) return null;
  const low = bass === null ? chromas[0]! : (Tone.chroma(bass) ?? chromas[0]!);
  const voices = chromas.slice(0, MOST_VOICES).map((chroma) => LOWEST + chroma);
  return [...new Set([LOWEST - 12 + low, ...voices])].sort((a, b) => a - b);
}

/**
 * The notes of a chord as they are spelled, the root first; a bass of its own before them. Empty for what is no chord.
 * @example chordNotes('D7').map(printedName) // ['D', 'F♯', 'A', 'C']
 */
export function chordNotes(symbol: string): readonly PitchClass[] {
  const [name, bass] = splitBass(symbol.trim());
  const { notes } = Chord.get(name);
  const all = bass !== null && !notes.includes(bass) ? [bass, ...notes] : notes;
  return all.flatMap((note) => {
    const pitch = parsePitch(`${note}4`);
    return pitch ? [{ letter: pitch.letter, alter: pitch.alter }] : [];
  });
}

function splitBass(symbol: string): readonly [string, string | null] {
  const match = /^(.+)\/([A-G][#b]?)$/.exec(symbol);
  return match ? [match[1]!, match[2]!] : [symbol, null];
}
