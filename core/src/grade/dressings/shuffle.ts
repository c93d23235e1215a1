/**
 * A phrase in even short notes, bowed two together and two apart with the weight on the last: where at least two such
 * groups follow each other, the tune has no slurs there and no note comes twice under one. Not one note's: a phrase's.
 */
import { beatLength, isCompound, type Note, type SoundingNote, type Tune } from '../../music/index.ts';
import type { Limits } from '../contract.ts';
import { topOf, type TuneWindow } from '../windows.ts';
import type { Usual } from './dressing.ts';

/** Beside dressings of single notes. */
const WORTH = 0.9;
/** Groups that make it heard as one. */
const LEAST_GROUPS = 2;

export const shuffle = {
  id: 'shuffle',
  // Where even notes run on: reels and swung tunes; no song, and not in three.
  usual: { reel: 0.9, jig: 0, hornpipe: 0.5, polka: 0.8, song: 0, march: 0.2, swing: 0.9, other: 0.4 } as Usual,
} as const;

export interface Shuffled {
  readonly worth: number;
  /** Number of the window that it begins in. */
  readonly index: number;
  readonly sound: SoundingNote;
  readonly edits: ReadonlyMap<string, readonly Note[]>;
  readonly slurs: Tune['slurs'];
}

/** @param index of a window; only the first of a phrase is asked */
export function shuffled(
  { tune, limits }: { readonly tune: Tune; readonly limits: Limits },
  windows: readonly TuneWindow[],
  index: number,
): Shuffled | null {
  const window = windows[index]!;
  const { phrase } = window;
  const bar = tune.bars[window.barIndex]!;
  if (!phrase || windows[index - 1]?.phrase === phrase || (limits.maxSlur ?? 2) < 2 || isCompound(bar.metre))
    return null;
  const slurred = new Set(tune.slurs.flatMap(({ from, to }) => [from, to]));
  const short = beatLength(bar.metre) / 2;
  const even = ({ note, duration, chain }: SoundingNote) =>
    duration === short && !note.tuplet && chain.length === 1 && note.heads.length === 1 && !slurred.has(note.id);
  const groups: SoundingNote[][] = [];
  for (let at = index; windows[at + 1]?.phrase === phrase; at += 1) {
    const four = [...windows[at]!.starting, ...windows[at + 1]!.starting];
    if (!windows[at]!.strong || four.length !== 4 || !four.every(even)) continue;
    if (topOf(four[0]!) !== topOf(four[1]!)) groups.push(four);
    at += 1;
  }
  if (groups.length < LEAST_GROUPS) return null;
  const accented = (note: Note): Note => ({ ...note, decorations: [...(note.decorations ?? []), 'accent'] });
  const edits = new Map(
    groups.flatMap((four) => four.map(({ note }, place) => [note.id, [place === 3 ? accented(note) : note]] as const)),
  );
  const [sound] = groups[0]!;
  return {
    worth: WORTH,
    index: windows.findIndex(({ starting }) => starting.includes(sound!)),
    sound: sound!,
    edits,
    slurs: groups.map(([first, second]) => ({ from: first!.note.id, to: second!.note.id })),
  };
}
