/**
 * Licks: figures of one to four beats that come back note for note. A figure counts at its full length only:
 * where every place goes on the same for another beat, it is part of something longer.
 */
import { beatLength, type Ticks } from '../music/index.ts';
import { barBeatAt, interned, soundFrom, type Reading, type Sound } from './reading.ts';
import type { Lick } from './model.ts';

const MOST_BEATS = 4;
const FEWEST_NOTES = 3;
/** Licks shown; beyond that a list is no help. */
const MOST_LICKS = 24;

export function findLicks(reading: Reading): readonly Lick[] {
  const grid = beatsOf(reading);
  const keys = windowKeys(grid);
  const places = new Map<number, number[]>();
  keys.forEach((list, place) => {
    for (const key of list) {
      const known = places.get(key);
      if (known) known.push(place);
      else if (key >= 0) places.set(key, [place]);
    }
  });
  const soundsIn = (place: number, beats: number) => {
    const last = grid[place + beats - 1]!;
    return reading.sounds.slice(grid[place]!.from, last.to);
  };
  const sizeOf = (place: number, beats: number) => places.get(keys[place]?.[beats - 1] ?? -1)?.length ?? 0;
  const found: { readonly beats: number; readonly places: readonly number[]; readonly notes: number }[] = [];
  for (const list of places.values()) {
    const first = list[0]!;
    const beats = keys[first]!.findIndex((key) => places.get(key) === list) + 1;
    if (list.length < 2 || beats > MOST_BEATS) continue;
    const notes = grid[first + beats - 1]!.to - grid[first]!.from;
    if (notes < FEWEST_NOTES || isRun(list, beats)) continue;
    const longer = sizeOf(first, beats + 1) === list.length || sizeOf(first - 1, beats + 1) === list.length;
    if (!longer) found.push({ beats, places: list, notes });
  }
  found.sort((a, b) => weight(b) - weight(a) || a.places[0]! - b.places[0]!);
  return withoutInner(found)
    .slice(0, MOST_LICKS)
    .map(({ beats, places: list }, index) => {
      const shown = list.map((place) => ({ at: grid[place]!.at, sounds: soundsIn(place, beats) }));
      return {
        id: `l${index + 1}`,
        beats,
        pitches: shown[0]!.sounds.map(({ note }) => note.heads.at(-1)!.pitch),
        places: shown.map(({ at, sounds }) => ({
          ...barBeatAt(reading, at),
          notes: sounds.flatMap(({ ids }) => ids),
        })),
      };
    });
}

const weight = ({ beats, places, notes }: { beats: number; places: readonly number[]; notes: number }) =>
  (places.length - 1) * (beats + notes);

interface Beat {
  readonly at: Ticks;
  /** Its sounds, as indexes: those that begin in it. */
  readonly from: number;
  readonly to: number;
  /** The same number for the same sounds at the same places … */
  readonly whole: number;
  /** … and where the length of the last one does not count. */
  readonly open: number;
  /** A sound begins on the beat. */
  readonly begins: boolean;
}

/** Every beat of every bar, in order. */
function beatsOf(reading: Reading): readonly Beat[] {
  const { bars, starts, sounds } = reading;
  const intern = interned();
  return bars.flatMap((bar, index) => {
    const beat = beatLength(bar.metre);
    const first = (beat - (bar.offset % beat)) % beat;
    const count = Math.max(0, Math.ceil((bar.length - first) / beat));
    return Array.from({ length: count }, (_, number): Beat => {
      const at = starts[index]! + first + number * beat;
      const from = soundFrom(reading, at);
      const to = soundFrom(reading, Math.min(at + beat, starts[index + 1]!));
      let text = `${beat}`;
      for (let sound = from; sound < to - 1; sound += 1) text += textOf(sounds[sound]!, at, true);
      const last = sounds[to - 1];
      const ends = to > from && last !== undefined;
      return {
        at,
        from,
        to,
        whole: intern(ends ? text + textOf(last, at, true) : text),
        open: intern(ends ? text + textOf(last, at, false) : text),
        begins: sounds[from]?.onset === at,
      };
    });
  });
}

const textOf = ({ onset, duration, pitches }: Sound, at: Ticks, whole: boolean) =>
  ` ${onset - at}:${whole ? duration : ''}:${pitches.join('+')}`;

/** Numbers for what stands in one, two, … five beats from each beat on; −1 where nothing begins on it. */
function windowKeys(grid: readonly Beat[]): readonly (readonly number[])[] {
  const known = new Map<number, number>();
  const join = (chain: number, beat: number) => {
    const pair = chain * 2 ** 24 + beat;
    const number = known.get(pair) ?? known.size + 1;
    known.set(pair, number);
    return number;
  };
  return grid.map(({ begins }, place) => {
    let chain = 0;
    return Array.from({ length: MOST_BEATS + 1 }, (_, more) => {
      const beat = grid[place + more];
      if (!begins || !beat) return -1;
      const key = join(chain, 2 * beat.open);
      chain = join(chain, 2 * beat.whole + 1);
      return key;
    });
  });
}

/** A figure that runs into itself, and stands nowhere else, is a run of one thing, not a figure that comes back. */
function isRun(places: readonly number[], beats: number): boolean {
  const gaps = places.slice(1).map((place, index) => place - places[index]!);
  return gaps.some((gap) => gap < beats) && gaps.every((gap) => gap <= beats);
}

/** Leaves out what at each of its places is mostly covered by a figure that is there already. */
function withoutInner<T extends { readonly beats: number; readonly places: readonly number[] }>(
  licks: readonly T[],
): readonly T[] {
  const kept: T[] = [];
  const shared = (a: T, at: number, b: T, from: number) => Math.min(at + a.beats, from + b.beats) - Math.max(at, from);
  for (const lick of licks) {
    const covered = lick.places.every((place) =>
      kept.some((other) => other.places.some((from) => shared(lick, place, other, from) > COVERED * lick.beats)),
    );
    if (!covered) kept.push(lick);
  }
  return kept;
}
const COVERED = 0.6;
