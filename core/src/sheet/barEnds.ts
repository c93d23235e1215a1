/** Where bars end on a line. */
import type { LaneInput } from './lanes/lane.ts';

/** A line that opens a repeat stands so far before its first note, where the engraver has none of its own. */
const BEFORE_NOTE = 23;

/**
 * Where each bar ends and the next begins: the engraver's line between the two; where it draws the one of the next bar, as after a
 * pickup before a repeat, shortly before that bar's first note. Undefined where the stretch ends within the bar.
 */
export function barEnds({
  bars,
  barlines,
  written,
  x,
}: Pick<LaneInput, 'bars' | 'barlines' | 'written' | 'x'>): readonly (number | undefined)[] {
  const placed = written.flatMap(({ bar, id }) => {
    const at = x(id);
    return at === undefined ? [] : [{ bar, at }];
  });
  return bars.map(({ bar, closes }) => {
    if (!closes) return undefined;
    const last = placed.findLast((one) => one.bar <= bar)?.at ?? 0;
    const next = placed.find((one) => one.bar > bar)?.at;
    const line = barlines.findLast((at) => at > last && (next === undefined || at < next));
    return line ?? (next === undefined ? undefined : Math.max((last + next) / 2, next - BEFORE_NOTE));
  });
}
