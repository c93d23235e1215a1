/** A phrase that is otherwise the second time round: in place of the same bars, never as more of them. */
import type { Phrase } from '../form/index.ts';
import { barStarts, midi, playedOrder, type Note, type Ticks, type Tune, type TuneEvent } from '../music/index.ts';

type Span = Pick<Phrase, 'from' | 'to'>;

/**
 * How often a phrase comes round as the tune is played: the most that any of its bars does.
 * @example timesRound(reel, { from: 0, to: 13440 }) // 2
 */
export function timesRound({ bars }: Pick<Tune, 'bars'>, { from, to }: Span): number {
  const starts = barStarts(bars);
  let most = 1;
  for (const { index, time } of playedOrder(bars)) {
    if (starts[index]! < to && starts[index + 1]! > from) most = Math.max(most, time);
  }
  return most;
}

/**
 * The tune with a phrase as another version of it has it. A bar in which the two cannot be joined, because something sounds
 * across the joint or a note has moved over it, stays as it was.
 * @example phraseReplaced(reel, reel, { from: 0, to: 13440 }).bars.length === reel.bars.length // true
 */
export function phraseReplaced(tune: Tune, other: Tune, { from, to }: Span): Tune {
  const starts = barStarts(tune.bars);
  const isInside = (index: number, { at }: TuneEvent) => starts[index]! + at >= from && starts[index]! + at < to;
  const outside = new Set(
    tune.bars.flatMap(({ events }, index) => events.filter((event) => !isInside(index, event)).map(({ id }) => id)),
  );
  const bars = tune.bars.map((bar, index) => {
    const start = starts[index]!;
    if (start >= to || start + bar.length <= from) return bar;
    const brought = other.bars[index]!.events.filter((event) => isInside(index, event));
    if (brought.some(({ id }) => outside.has(id))) return bar;
    const events = [...bar.events.filter((event) => !isInside(index, event)), ...brought].sort((a, b) => a.at - b.at);
    return isWhole(events, bar.length) ? { ...bar, events } : bar;
  });
  // A note that has moved from a bar that stays into one that does not would stand in both.
  if (!areDifferent(bars.flatMap(({ events }) => events.map(({ id }) => id)))) return tune;
  const next = { ...tune, bars: untied(bars) };
  const left = new Set(next.bars.flatMap(({ events }) => events.map(({ id }) => id)));
  const phrase = new Set(
    next.bars.flatMap(({ events }, index) =>
      events.filter(({ at }) => starts[index]! + at >= from && starts[index]! + at < to).map(({ id }) => id),
    ),
  );
  const slurs = [
    ...tune.slurs.filter((slur) => !(phrase.has(slur.from) && phrase.has(slur.to))),
    ...other.slurs.filter((slur) => phrase.has(slur.from) && phrase.has(slur.to)),
  ].filter((slur) => left.has(slur.from) && left.has(slur.to));
  return { ...next, slurs };
}

const areDifferent = (ids: readonly string[]): boolean => new Set(ids).size === ids.length;

/** One thing after the other, from the beginning of the bar to its end. */
function isWhole(events: readonly TuneEvent[], length: Ticks): boolean {
  let end: Ticks = 0;
  for (const { at, duration } of events) {
    if (at !== end) return false;
    end = at + duration;
  }
  return end === length;
}

/** Ties that lead nowhere now are ties no more. */
function untied(bars: Tune['bars']): Tune['bars'] {
  const notes = bars.flatMap(({ events }) => events);
  const next = new Map(notes.map((event, index) => [event.id, notes[index + 1]]));
  const holds = (note: Note): boolean => {
    const after = next.get(note.id);
    return (
      after?.kind === 'note' &&
      note.heads.every(({ pitch, tied }) => !tied || after.heads.some((head) => midi(head.pitch) === midi(pitch)))
    );
  };
  return bars.map((bar) => ({
    ...bar,
    events: bar.events.map((event) =>
      event.kind !== 'note' || !event.heads.some(({ tied }) => tied) || holds(event)
        ? event
        : { ...event, heads: event.heads.map(({ tied: _, ...head }) => head) },
    ),
  }));
}
