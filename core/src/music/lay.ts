/** From sounds in time to written bars: bar lines, ties over them, rests in the gaps, triplets. */
import {
  TICKS_PER_QUARTER,
  barLength,
  valueOf,
  writeDuration,
  type Metre,
  type NoteValue,
  type Ticks,
} from './time.ts';
import type { Key } from './key.ts';
import type { Pitch } from './pitch.ts';
import { markTupletEdges } from './tuplets.ts';
import type { Bar, TuneEvent } from './tune.ts';

/** One attack: a note or a chord. */
export interface Attack {
  /** From the first bar line's nominal bar: a pickup's sounds start late in bar 0. */
  readonly onset: Ticks;
  readonly duration: Ticks;
  /** Low to high. */
  readonly pitches: readonly Pitch[];
}

export interface LayOptions {
  readonly metre: Metre;
  readonly key: Key;
  /** Length of the pickup; 0 for none. */
  readonly pickup: Ticks;
  /** Quarter beats, counted from time 0, that are divided in three. */
  readonly tripletBeats?: ReadonlySet<number>;
}

interface Piece {
  readonly at: Ticks;
  readonly duration: Ticks;
  readonly value: NoteValue;
  readonly triplet: boolean;
}

/**
 * @param sounds in order, none overlapping the next
 * @example layBars([], { metre: { beats: 4, unit: 4 }, key: C_MAJOR, pickup: 0 }).length // 1
 */
export function layBars(sounds: readonly Attack[], options: LayOptions): readonly Bar[] {
  const { metre, key, pickup } = options;
  const full = barLength(metre);
  const end = sounds.reduce((latest, { onset, duration }) => Math.max(latest, onset + duration), 0);
  const count = Math.max(1, Math.ceil(end / full));
  const beats = options.tripletBeats ?? new Set<number>();
  let number = 0;
  const nextId = () => `n${(number += 1)}`;
  const bars: Bar[] = [];
  let next = 0;
  for (let index = 0; index < count; index += 1) {
    const start = index * full;
    const offset = index === 0 && pickup > 0 ? full - pickup : 0;
    // None overlaps the next, so the first that sounds on into this bar is the last that began before it, or later.
    while (next < sounds.length && sounds[next]!.onset + sounds[next]!.duration <= start) next += 1;
    let after = next;
    while (after < sounds.length && sounds[after]!.onset < start + full) after += 1;
    const events = fillBar(sounds.slice(next, after), start, start + offset, start + full, metre, beats, nextId);
    const last = index === count - 1;
    bars.push({
      id: `b${index + 1}`,
      metre,
      key,
      events: markTupletEdges(events),
      length: full - offset,
      offset,
      barline: last ? 'final' : 'single',
    });
  }
  return bars;
}

function fillBar(
  sounds: readonly Attack[],
  barStart: Ticks,
  from: Ticks,
  to: Ticks,
  metre: Metre,
  beats: ReadonlySet<number>,
  nextId: () => string,
): readonly TuneEvent[] {
  const events: TuneEvent[] = [];
  let time = from;
  const rest = (until: Ticks) => {
    for (const piece of pieces(time, until, barStart, metre, beats)) {
      events.push({ kind: 'rest', id: nextId(), ...timing(piece, from) });
    }
    time = until;
  };
  for (const { onset, duration, pitches } of sounds) {
    const start = Math.max(onset, from);
    const end = Math.min(onset + duration, to);
    if (end <= start) continue;
    if (start > time) rest(start);
    const parts = pieces(start, end, barStart, metre, beats);
    parts.forEach((piece, index) => {
      const tied = index < parts.length - 1 || onset + duration > to;
      events.push({
        kind: 'note',
        id: nextId(),
        ...timing(piece, from),
        heads: pitches.map((pitch) => ({ pitch, ...(tied && { tied }) })),
      });
    });
    time = end;
  }
  if (time < to) rest(to);
  return events;
}

function timing({ at, duration, value, triplet }: Piece, from: Ticks) {
  return { at: at - from, duration, value, ...(triplet && { tuplet: { actual: 3, normal: 2 } }) };
}

/** A stretch of time as written values; what reaches into a triplet beat is written in thirds there. */
function pieces(from: Ticks, to: Ticks, barStart: Ticks, metre: Metre, beats: ReadonlySet<number>): readonly Piece[] {
  const found: Piece[] = [];
  let time = from;
  while (time < to) {
    const beat = Math.floor(time / TICKS_PER_QUARTER);
    const beatEnd = (beat + 1) * TICKS_PER_QUARTER;
    const wholeBeat = time === beat * TICKS_PER_QUARTER && to >= beatEnd;
    if (beats.has(beat) && !wholeBeat) {
      const end = Math.min(to, beatEnd);
      found.push(...thirds(time, end));
      time = end;
      continue;
    }
    let end = to;
    for (let later = beat + 1; later * TICKS_PER_QUARTER < to; later += 1) {
      if (beats.has(later) && to < (later + 1) * TICKS_PER_QUARTER) {
        end = later * TICKS_PER_QUARTER;
        break;
      }
    }
    for (const { at, duration, value } of writeDuration(time - barStart, end - time, metre)) {
      found.push({ at: at + barStart, duration, value, triplet: false });
    }
    time = end;
  }
  return found;
}

function thirds(from: Ticks, to: Ticks): readonly Piece[] {
  const duration = to - from;
  const value = valueOf((duration * 3) / 2);
  if (value) return [{ at: from, duration, value, triplet: true }];
  // Five sixths of a beat: the longest part that has a value first.
  const unit = TICKS_PER_QUARTER / 6;
  const head = Math.floor(duration / (2 * unit)) * 2 * unit;
  if (head <= 0 || head === duration) return [];
  return [...thirds(from, from + head), ...thirds(from + head, to)];
}
