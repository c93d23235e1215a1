/**
 * Which notes share a stroke: the tune's slurs and ties, and what the teacher joined or cut, laid out in played
 * order. Section 5 of the domain.
 */
import {
  barLength,
  barStarts,
  beatLength,
  midi,
  playedOrder,
  soundingNotes,
  type BowMark,
  type Note,
  type SoundingNote,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import type { BowDecisions } from './slice.ts';

/** Notes on one bow, as they are played; which way it goes is not known yet. */
export interface StrokeGroup {
  /** Written notes, ties included. */
  readonly notes: readonly string[];
  /** Sounds, ties joined: what a player counts as notes. */
  readonly sounds: number;
  /** The first of them. */
  readonly first: Note;
  readonly barIndex: number;
  /** Which of the played bars it begins in, from 0. */
  readonly place: number;
  /** Which time its bar is being played, from 1. */
  readonly time: number;
  /** From the beginning, as it is played. */
  readonly onset: Ticks;
  readonly duration: Ticks;
  /** From the nominal start of its bar. */
  readonly at: Ticks;
  /** The mark that the tune brings for it. */
  readonly mark: BowMark | null;
}

/** @param joined notes that are slurred to the one before, by a repair */
export function groupsOf(
  tune: Tune,
  { slurs }: Pick<BowDecisions, 'slurs'>,
  joined: ReadonlySet<string> = new Set(),
): readonly StrokeGroup[] {
  const byBar = new Map<number, SoundingNote[]>();
  const sounds = soundingNotes(tune);
  for (const sound of sounds) byBar.set(sound.barIndex, [...(byBar.get(sound.barIndex) ?? []), sound]);
  const starts = barStarts(tune.bars);
  const intoNext = underSlurs(tune, sounds);
  const groups: Mutable<StrokeGroup>[] = [];
  let open: Mutable<StrokeGroup> | null = null;
  let goesOn = false;
  let barBefore = -1;
  let begin: Ticks = 0;
  for (const [place, { index, time }] of playedOrder(tune.bars).entries()) {
    // A repeat that jumps away from under a slur ends the stroke.
    if (index !== barBefore + 1) goesOn = false;
    barBefore = index;
    const bar = tune.bars[index]!;
    for (const { note, chain, onset, duration } of byBar.get(index) ?? []) {
      const ids = chain.map(({ id }) => id);
      const decided = slurs[note.id] ?? (joined.has(note.id) ? 'joined' : null);
      const starting: Ticks = begin + onset - starts[index]!;
      const reaches: boolean = open !== null && open.onset + open.duration === starting;
      const together: boolean = open !== null && reaches && (decided === null ? goesOn : decided === 'joined');
      if (open && together) {
        open.notes = [...open.notes, ...ids];
        open.sounds += 1;
        open.duration += duration;
      } else {
        open = {
          ...{ notes: ids, sounds: 1, first: note, barIndex: index, place, time, duration },
          onset: starting,
          at: bar.offset + onset - starts[index]!,
          mark: note.bow ?? null,
        };
        groups.push(open);
      }
      goesOn = intoNext.has(chain.at(-1)!.id);
    }
    begin += bar.length;
  }
  return groups;
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** Sounds after which the same slur goes on; slurs that meet on a note are one. */
function underSlurs(tune: Tune, sounds: readonly SoundingNote[]): ReadonlySet<string> {
  const at = new Map(sounds.flatMap(({ chain }, index) => chain.map(({ id }) => [id, index] as const)));
  const found = new Set<string>();
  for (const { from, to } of tune.slurs) {
    const [first, last] = [at.get(from), at.get(to)];
    if (first === undefined || last === undefined) continue;
    for (let index = first; index < last; index += 1) found.add(sounds[index]!.chain.at(-1)!.id);
  }
  return found;
}

/** Whether a stroke begins with the first beat of a whole bar. */
export function onDownbeat(tune: Tune, { barIndex, at }: Pick<StrokeGroup, 'barIndex' | 'at'>): boolean {
  return at === 0 && tune.bars[barIndex]!.length === barLength(tune.bars[barIndex]!.metre);
}

/** Whether two notes sound the same pitches. */
export const samePitches = (one: Note, other: Note): boolean =>
  one.heads.length === other.heads.length &&
  one.heads.every(({ pitch }, index) => midi(pitch) === midi(other.heads[index]!.pitch));

/** Dots and lines tell the player to stop or press on each note under a slur. */
export const isArticulated = ({ decorations }: Note): boolean =>
  (decorations ?? []).some((sign) => sign === 'staccato' || sign === 'tenuto');

export const beatOf = (tune: Tune, barIndex: number): Ticks => beatLength(tune.bars[barIndex]!.metre);
