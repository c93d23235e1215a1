/** Cutting a row into stretches as well as it can be cut. */

export interface Cutting {
  /** Places from 1 on, in order. */
  readonly cuts: readonly number[];
  readonly total: number;
}

/**
 * The best set of cuts of a row: what the cuts say for themselves less what the stretches between them cost.
 * Exact, by dynamic programming; of equals the one with the earlier long stretch.
 * @param worth of a cut before this place; not asked for 0
 * @param longest nothing longer is one stretch
 */
export function bestCuts(
  count: number,
  cost: (from: number, to: number) => number,
  worth: (place: number) => number,
  longest: number,
): Cutting {
  const best = new Float64Array(count + 1);
  const before = new Int32Array(count + 1);
  const worths = Float64Array.from({ length: count }, (_, place) => (place === 0 ? 0 : worth(place)));
  for (let to = 1; to <= count; to += 1) {
    let highest = -Infinity;
    let from = 0;
    for (let start = Math.max(0, to - longest); start < to; start += 1) {
      const total = best[start]! + worths[start]! - cost(start, to);
      if (total >= highest) {
        highest = total;
        from = start;
      }
    }
    best[to] = highest;
    before[to] = from;
  }
  const cuts: number[] = [];
  for (let at = before[count] ?? 0; at > 0; at = before[at]!) cuts.push(at);
  return { cuts: cuts.reverse(), total: best[count]! };
}
