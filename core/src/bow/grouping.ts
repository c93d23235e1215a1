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

/** Where something stands in the tune as it is played. */
interface PlayedPlace {
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
}

/** Notes on one bow; which way it goes is not known yet. */
export interface StrokeGroup extends PlayedPlace {
  /** Written notes, ties included. */
  readonly notes: readonly string[];
  /** Number of its first sound among all that are played. */
  readonly from: number;
  /** Sounds, ties joined: what a player counts as notes. */
  readonly sounds: number;
  /** The first of them. */
  readonly first: Note;
  /** The mark that the tune brings for it. */
  readonly mark: BowMark | null;
}

/** A sound as it is played, and whether the tune's slurs carry the bow on into it. */
export interface PlayedSound extends PlayedPlace {
  readonly note: Note;
  /** Written notes, ties included. */
  readonly ids: readonly string[];
  /** Nothing lies between it and the sound before. */
  readonly reached: boolean;
  readonly slurred: boolean;
}

/** All sounds in played order. */
export function playedSounds(tune: Tune): readonly PlayedSound[] {
  const byBar = tune.bars.map((): SoundingNote[] => []);
  const sounds = soundingNotes(tune);
  for (const sound of sounds) byBar[sound.barIndex]!.push(sound);
  const starts = barStarts(tune.bars);
  const intoNext = underSlurs(tune, sounds);
  const played: PlayedSound[] = [];
  let end: Ticks = -1;
  let goesOn = false;
  let barBefore = -1;
  let begin: Ticks = 0;
  for (const [place, { index, time }] of playedOrder(tune.bars).entries()) {
    // A repeat that jumps away from under a slur ends the stroke.
    if (index !== barBefore + 1) goesOn = false;
    barBefore = index;
    const bar = tune.bars[index]!;
    for (const { note, chain, onset, duration } of byBar[index]!) {
      const starting = begin + onset - starts[index]!;
      played.push({
        ...{ note, ids: chain.map(({ id }) => id), barIndex: index, place, time, duration },
        onset: starting,
        at: bar.offset + onset - starts[index]!,
        reached: starting === end,
        slurred: goesOn,
      });
      end = starting + duration;
      goesOn = intoNext.has(chain.at(-1)!.id);
    }
    begin += bar.length;
  }
  return played;
}

/** Whether a sound is on the stroke of the one before. @param joined notes that a repair slurs to the one before */
export function isCarriedOn(
  { note, reached, slurred }: PlayedSound,
  { slurs }: Pick<BowDecisions, 'slurs'>,
  joined: ReadonlySet<string>,
): boolean {
  const decided = slurs[note.id] ?? (joined.has(note.id) ? 'joined' : null);
  return reached && (decided === null ? slurred : decided === 'joined');
}

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
