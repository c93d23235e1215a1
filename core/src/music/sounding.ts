/** Notes as they sound: ties joined, so that one stop, one stroke and one syllable serve the whole chain. */
import { placedNotes, type Note, type Tune } from './tune.ts';
import { midi, type Midi } from './pitch.ts';
import type { Ticks } from './time.ts';

export interface SoundingNote {
  /** The note that starts the sound. */
  readonly note: Note;
  /** All written notes of the chain, the first included. */
  readonly chain: readonly Note[];
  readonly barIndex: number;
  readonly onset: Ticks;
  readonly duration: Ticks;
}

/**
 * All sounds of the tune in written order. A chord is joined only where every pitch is held.
 * @example soundingNotes(tuneOf('A4- A4 |')).length // 1
 */
export function soundingNotes(tune: Pick<Tune, 'bars'>): readonly SoundingNote[] {
  const sounds: SoundingNote[] = [];
  for (const { note, barIndex, onset } of placedNotes(tune)) {
    const last = sounds.at(-1);
    if (last && last.onset + last.duration === onset && holdsOver(last.chain.at(-1)!, note)) {
      sounds[sounds.length - 1] = { ...last, chain: [...last.chain, note], duration: last.duration + note.duration };
    } else {
      sounds.push({ note, chain: [note], barIndex, onset, duration: note.duration });
    }
  }
  return sounds;
}

/**
 * Pitches of a note that are tied on.
 * @example tiedOn(tuneOf('A4- A4 |').bars[0].events[0]) // [69]
 */
export const tiedOn = ({ heads }: Pick<Note, 'heads'>): readonly Midi[] =>
  heads.filter(({ tied }) => tied).map(({ pitch }) => midi(pitch));

function holdsOver(from: Note, to: Note): boolean {
  return (
    from.heads.length === to.heads.length &&
    from.heads.every((head, index) => head.tied && midi(head.pitch) === midi(to.heads[index]!.pitch))
  );
}
