/** A stretch of a tune as a small tune of its own: what one strip engraves. */
import { barStarts, type Bar, type Tune } from './tune.ts';
import type { Ticks } from './time.ts';

/**
 * The events that start in [from, to), in their bars; bars cut by an edge become part bars.
 * Slurs that cross an edge are left out. Ids stay.
 * @example sliceTune(reel, 0, 13440).bars.length // 1
 */
export function sliceTune(tune: Tune, from: Ticks, to: Ticks): Tune {
  const starts = barStarts(tune.bars);
  const bars = tune.bars.flatMap((bar, index): Bar[] => {
    const start = starts[index]!;
    const end = start + bar.length;
    const cutFrom = Math.max(from, start) - start;
    const cutTo = Math.min(to, end) - start;
    const events = bar.events
      .filter((event) => event.at >= cutFrom && event.at < cutTo)
      .map((event) => ({ ...event, at: event.at - cutFrom }));
    if (cutTo <= cutFrom || events.length === 0) return [];
    const { repeatStart, repeatEnd, endingStop, label, ...rest } = bar;
    return [
      {
        ...rest,
        events,
        length: cutTo - cutFrom,
        offset: bar.offset + cutFrom,
        ...(cutFrom === 0 && { repeatStart, label }),
        ...(cutTo === bar.length ? { repeatEnd, endingStop } : { barline: 'invisible' as const }),
      },
    ];
  });
  const ids = new Set(bars.flatMap((bar) => bar.events.map((event) => event.id)));
  return { ...tune, bars, slurs: tune.slurs.filter((slur) => ids.has(slur.from) && ids.has(slur.to)) };
}
