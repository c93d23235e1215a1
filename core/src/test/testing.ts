/** Help for tests: tunes from a line of ABC. Not part of any public index. */
import { readAbc } from '../formats/index.ts';
import { midi, soundingNotes, type Tune } from '../music/index.ts';

export interface Header {
  readonly key?: string;
  readonly metre?: string;
  readonly unit?: string;
  readonly tempo?: string;
}

/** A tune from its notes. @throws with the problems if they cannot be read */
export function tuneOf(music: string, { key = 'C', metre = '4/4', unit = '1/8', tempo = '' }: Header = {}): Tune {
  const read = readAbc(`X:1\nT:Test\nM:${metre}\nL:${unit}\n${tempo ? `Q:${tempo}\n` : ''}K:${key}\n${music}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.value.tune;
}

/** Sounding pitches in written order, chords as their top note. */
export function melody(tune: Tune): readonly number[] {
  return soundingNotes(tune).map(({ note }) => midi(note.heads.at(-1)!.pitch));
}
