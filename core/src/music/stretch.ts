/** Stretches of a tune that are moved as one. */
import { transposePitch } from './pitch.ts';
import { soundingNotes } from './sounding.ts';
import type { Ticks } from './time.ts';
import { barStarts, mapNotes, type EventId, type Note, type Tune } from './tune.ts';

/** In written ticks. */
export interface Stretch {
  readonly from: Ticks;
  readonly to: Ticks;
}

/** A stretch by its first and last note or rest, so that it survives whatever happens elsewhere in the tune. */
export interface Ends {
  readonly first: EventId;
  readonly last: EventId;
}

/**
 * Where a stretch lies now; null where an end of it is gone, or they stand the other way round.
 * @example stretchOf(reel, { first: 'n1', last: 'n1' }).from // 0
 */
export function stretchOf({ bars }: Pick<Tune, 'bars'>, { first, last }: Ends): Stretch | null {
  const starts = barStarts(bars);
  let from: Ticks | null = null;
  for (const [index, bar] of bars.entries()) {
    for (const { id, at, duration } of bar.events) {
      if (id === first) from = starts[index]! + at;
      if (id === last) return from === null ? null : { from, to: starts[index]! + at + duration };
    }
  }
  return null;
}

/**
 * The ends of a stretch; null where nothing stands in it.
 * @example endsOf(reel, { from: 0, to: 1 }).first // 'n1'
 */
export function endsOf({ bars }: Pick<Tune, 'bars'>, { from, to }: Stretch): Ends | null {
  const starts = barStarts(bars);
  const inside = bars.flatMap(({ events }, index) =>
    events.filter(({ at }) => starts[index]! + at >= from && starts[index]! + at < to),
  );
  return inside.length === 0 ? null : { first: inside[0]!.id, last: inside.at(-1)!.id };
}

/**
 * What moves a note, its graces too, by octaves.
 * @example octaveOn(1)(reel.bars[0].events[0]).heads.length // 1
 */
export const octaveOn =
  (octaves: number) =>
  (note: Note): Note => ({
    ...note,
    heads: note.heads.map((head) => ({ ...head, pitch: transposePitch(head.pitch, 7 * octaves, 12 * octaves) })),
    ...(note.graces && {
      graces: note.graces.map((grace) => ({
        ...grace,
        pitch: transposePitch(grace.pitch, 7 * octaves, 12 * octaves),
      })),
    }),
  });

/**
 * The tune with a stretch an octave higher or lower. A note that is held into it stays.
 * @param octaves up, down if negative
 * @example octaveAway(reel, { from: 0, to: 0 }, 1).bars.length === reel.bars.length // true
 */
export function octaveAway(tune: Tune, { from, to }: Stretch, octaves: number): Tune {
  const moved = new Set(
    soundingNotes(tune)
      .filter(({ onset }) => onset >= from && onset < to)
      .flatMap(({ chain }) => chain.map(({ id }) => id)),
  );
  const move = octaveOn(octaves);
  return mapNotes(tune, (note) => (moved.has(note.id) ? move(note) : note));
}
