/** After every edit: events in place one after the other, bars as long as their events, pickups at the end of theirs. */
import { barLength, isPickup, markTupletEdges, type Bar, type Tune, type TuneEvent } from '../music/index.ts';

/**
 * The bar with these events, placed from its start.
 * @example withEvents(reel.bars[0], []).length // 0
 */
export function withEvents(bar: Bar, events: readonly TuneEvent[]): Bar {
  let at = 0;
  const placed = events.map((event) => {
    const own = event.at === at ? event : { ...event, at };
    at += event.duration;
    return own;
  });
  return { ...bar, events: markTupletEdges(placed.map(withoutEdge)), length: at };
}

/** Tuplets are grouped anew, since notes may have come between or gone. */
function withoutEdge(event: TuneEvent): TuneEvent {
  if (!event.tuplet?.edge) return event;
  const { actual, normal } = event.tuplet;
  return { ...event, tuplet: { actual, normal } };
}

/**
 * The tune with bars that have events, offsets right, and no slur that has lost its notes.
 * @example settle(reel, reel.bars.slice(0, 2)).bars.length // 2
 */
export function settle(tune: Tune, bars: readonly Bar[]): Tune {
  const kept = bars.filter(({ events }) => events.length > 0);
  const placed = kept.map((bar, index) => {
    const offset = isPickup(kept, index) ? barLength(bar.metre) - bar.length : 0;
    return offset === bar.offset ? bar : { ...bar, offset };
  });
  const ids = new Set(placed.flatMap(({ events }) => events.map(({ id }) => id)));
  const slurs = tune.slurs.filter(({ from, to }) => ids.has(from) && ids.has(to));
  return { ...tune, bars: placed, slurs: slurs.length === tune.slurs.length ? tune.slurs : slurs };
}

/** Where an event stands. */
export interface Spot {
  readonly bar: number;
  readonly index: number;
}

/** @example spotOf(reel, 'n9').bar // 1 */
export function spotOf(tune: Tune, id: string): Spot | null {
  for (const [bar, { events }] of tune.bars.entries()) {
    const index = events.findIndex((event) => event.id === id);
    if (index >= 0) return { bar, index };
  }
  return null;
}

/**
 * Ids that no event of the tune has: `n` and a number, as readers give them.
 * @example freshIds(tuneOf('A2 B2'))() // 'n3'
 */
export function freshIds(tune: Tune): () => string {
  let number = 0;
  for (const { events } of tune.bars) {
    for (const { id } of events) number = Math.max(number, Number(/^n(\d+)$/.exec(id)?.[1] ?? 0));
  }
  return () => `n${(number += 1)}`;
}

/** @example freshBarIds(reel)() // 'b5' */
export function freshBarIds(tune: Tune): () => string {
  let number = 0;
  for (const { id } of tune.bars) number = Math.max(number, Number(/^b(\d+)$/.exec(id)?.[1] ?? 0));
  return () => `b${(number += 1)}`;
}

/**
 * Replaces events of some bars.
 * @example abc(mapEvents(tuneOf('A2 B2'), (event) => (event.id === 'n1' ? [] : event))) // 'B2 |'
 */
export function mapEvents(tune: Tune, change: (event: TuneEvent, bar: Bar) => TuneEvent | readonly TuneEvent[]): Tune {
  const bars = tune.bars.map((bar) => {
    const events = bar.events.flatMap((event) => change(event, bar));
    const same = events.length === bar.events.length && events.every((event, index) => event === bar.events[index]);
    return same ? bar : withEvents(bar, events);
  });
  return settle(tune, bars);
}
