/** Double stops and chords that no hand can stop: why, and what comes nearest. */
import { midi, pitchName, type Pitch } from '../music/index.ts';
import { reach } from './frames.ts';
import { type Frame } from './vocabulary.ts';
import { statesFor, type HandState } from './state.ts';

/** More suggestions than this are no help. */
const MOST = 3;

/** What can be stopped instead: one note moved by an octave, or left out (0). */
export interface Nearest {
  readonly pitches: readonly Pitch[];
  readonly changed: Pitch;
  readonly octaves: 1 | -1 | 0;
}

export type ImpossibleWhy =
  | { readonly because: 'out-of-reach'; readonly pitches: readonly Pitch[] }
  | { readonly because: 'one-string'; readonly string: number }
  | { readonly because: 'strings-apart' | 'too-wide' };

/** Why these notes cannot be stopped together. */
export function whyImpossible(
  heads: readonly Pitch[],
  open: readonly Pitch[],
  frames: readonly Frame[],
): ImpossibleWhy {
  const outside = heads.filter((head) => statesFor([head], open, frames).length === 0);
  if (outside.length > 0) return { because: 'out-of-reach', pitches: outside };
  const top = reach(frames);
  const strings = heads.map((head) =>
    open.flatMap((pitch, string) => {
      const semitones = midi(head) - midi(pitch);
      return semitones >= 0 && semitones <= top ? [string] : [];
    }),
  );
  const single = strings.find(([first], index) =>
    strings.some(
      (other, at) => at !== index && other.length === 1 && strings[index]!.length === 1 && other[0] === first,
    ),
  );
  if (single) return { because: 'one-string', string: single[0]! };
  const neighbours = strings
    .slice(1)
    .some((upper, index) => upper.some((string) => strings[index]!.some((lower) => Math.abs(string - lower) === 1)));
  return { because: neighbours ? 'too-wide' : 'strings-apart' };
}

/** What can be stopped instead, nearest first: a note an octave away, else a note left out. */
export function nearestPossible(
  heads: readonly Pitch[],
  open: readonly Pitch[],
  frames: readonly Frame[],
): readonly Nearest[] {
  const possible = (pitches: readonly Pitch[]) => statesFor(pitches, open, frames).length > 0;
  const moved = heads.flatMap((head, index) =>
    ([1, -1] as const).map((by) => {
      const pitch = { ...head, octave: head.octave + by };
      const pitches = heads.map((other, at) => (at === index ? pitch : other)).sort((a, b) => midi(a) - midi(b));
      return { pitches, changed: head, octaves: by };
    }),
  );
  const less = heads.map((head, index) => {
    const pitches = heads.filter((_, at) => at !== index);
    return { pitches, changed: head, octaves: 0 as const };
  });
  const distinct = ({ pitches }: Nearest) => new Set(pitches.map(pitchName)).size === pitches.length;
  const found = [...moved, ...(heads.length > 2 ? less : [])].filter((one) => distinct(one) && possible(one.pitches));
  return (found.length > 0 ? found : less.filter(({ pitches }) => possible(pitches))).slice(0, MOST);
}

/** As much of a chord as the hand can stop: most notes, and of equals those with the top note. */
export function partOfChord(
  heads: readonly Pitch[],
  open: readonly Pitch[],
  frames: readonly Frame[],
): readonly HandState[] {
  const subsets = Array.from({ length: 2 ** heads.length - 2 }, (_, bits) =>
    heads.filter((_head, index) => (bits + 1) & (1 << index)),
  ).sort((a, b) => b.length - a.length || Number(b.includes(heads.at(-1)!)) - Number(a.includes(heads.at(-1)!)));
  for (const pitches of subsets) {
    const states = statesFor(pitches, open, frames);
    if (states.length > 0) return states;
  }
  return [];
}
