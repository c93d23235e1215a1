/** Chords of which some notes are tied on: those sound through, and only the others are struck again. */
import type { Midi } from './pitch.ts';

export interface Struck {
  readonly pitches: readonly Midi[];
  readonly duration: number;
}

/** A sound with the place that it begins at, and which of its pitches are tied on. */
export interface Held<T extends Struck> {
  readonly at: number;
  readonly sound: T;
  readonly tied: readonly Midi[];
}

/** Places nearer than this are the same, in whatever unit they are counted. */
const SAME = 1e-6;

/**
 * Sounds in played order, a pitch that is tied into the next sound struck once for both. What is struck together but ends
 * apart is told apart; a sound of which nothing is struck anew has no pitches.
 * @param sounds each with the pitches that go on
 * @example heldThrough([{ at: 0, sound: { pitches: [60, 64], duration: 1 }, tied: [60] }, { at: 1, sound: { pitches: [60, 65], duration: 1 }, tied: [] }]).map(({ pitches, duration }) => [pitches, duration]) // [[[64], 1], [[60], 2], [[65], 1]]
 */
export function heldThrough<T extends Struck>(sounds: readonly Held<T>[]): readonly T[] {
  const out: T[] = [];
  /** Where in `out` a pitch that goes on was struck, and when its sound so far ends. */
  let open = new Map<Midi, { readonly index: number; readonly end: number }>();
  for (const { at, sound, tied } of sounds) {
    const next = new Map<Midi, { index: number; end: number }>();
    const end = at + sound.duration;
    const anew: Midi[] = [];
    for (const pitch of sound.pitches) {
      const from = open.get(pitch);
      if (!from || Math.abs(from.end - at) > SAME) {
        anew.push(pitch);
        continue;
      }
      out[from.index] = { ...out[from.index]!, duration: out[from.index]!.duration + sound.duration };
      if (tied.includes(pitch)) next.set(pitch, { index: from.index, end });
    }
    const goOn = anew.filter((pitch) => tied.includes(pitch));
    const single = sound.pitches.length === goOn.length && goOn.length === 1;
    if (goOn.length === 0 || single) {
      if (single) next.set(goOn[0]!, { index: out.length, end });
      out.push(anew.length === sound.pitches.length ? sound : { ...sound, pitches: anew });
    } else {
      const rest = anew.filter((pitch) => !goOn.includes(pitch));
      if (rest.length > 0) out.push({ ...sound, pitches: rest });
      for (const pitch of goOn) {
        next.set(pitch, { index: out.length, end });
        out.push({ ...sound, pitches: [pitch] });
      }
    }
    open = next;
  }
  return out;
}
