/** What a phrase is to the search: by which octaves it may be moved as a whole, and where it begins for the bow. */
import type { Phrase } from '../form/index.ts';
import { barStarts, type Tune } from '../music/index.ts';
import type { Limits } from './contract.ts';
import { ALL_FOLDS } from './fillings.ts';
import type { Places } from './search.ts';
import { topOf, type TuneWindow } from './windows.ts';

/** By number of a window: phrases' first downbeats, and whether it is the first of all. */
export function downbeatsOf({ bars }: Tune, windows: readonly TuneWindow[]): ReadonlyMap<number, boolean> {
  const starts = barStarts(bars);
  const found = new Map<number, boolean>();
  let waits = true;
  windows.forEach(({ joint, from, barIndex, strong }, index) => {
    waits ||= joint;
    if (!waits || !strong || from !== starts[barIndex]) return;
    found.set(index, found.size === 0);
    waits = false;
  });
  return found;
}

/**
 * Octaves by which each phrase may be moved: those that bring more of it under the hand than its own; and as much, where no string
 * may be jumped over and two phrases may lie too far apart.
 */
export function foldsFor(
  windows: readonly TuneWindow[],
  places: Places,
  { skips }: Limits,
): ReadonlyMap<Phrase | null, readonly number[]> {
  const lost = new Map<Phrase | null, Map<number, number>>();
  for (const { phrase, starting, weights } of windows) {
    const own = lost.get(phrase) ?? new Map<number, number>(ALL_FOLDS.map((fold) => [fold, 0]));
    lost.set(phrase, own);
    starting.forEach((sound, index) => {
      for (const fold of ALL_FOLDS) {
        if (!places.has(topOf(sound) + 12 * fold)) own.set(fold, own.get(fold)! + weights[index]!);
      }
    });
  }
  return new Map(
    [...lost].map(([phrase, own]) => [
      phrase,
      ALL_FOLDS.filter(
        (fold) => fold === 0 || own.get(fold)! < own.get(0)! || (!skips && own.get(fold)! <= own.get(0)!),
      ),
    ]),
  );
}
