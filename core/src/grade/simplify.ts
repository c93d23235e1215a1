/**
 * A simpler version: of each beat as much of the tune as a contract allows. Searched as a whole: what is minimised is
 * breaches first, then likeness that is lost, then effort. What can only be told of the whole (notes in two seconds, shifts in a
 * phrase) comes back as prices, and the search is run again. Section 6 of the domain.
 */
import { rootsOf } from './alike.ts';
import type { Filling } from './fillings.ts';
import { WindowPath, type Chosen } from './path.ts';
import { NOTHING_RAISED, type Raised, type Simplified, type SimplifyInput } from './search.ts';
import { windowsOf, type TuneWindow } from './windows.ts';
import { written } from './written.ts';

/**
 * The search for one contract on one choice of strings; prices that come back from the whole may be changed between runs.
 * @example new VersionSearch({ tune: reel, form, limits: contractFor('violin', 6).limits, places: placesFor(INSTRUMENT.violin, standardTuning(INSTRUMENT.violin), contractFor('violin', 6).limits) }).solve().tune.bars.length // 4
 */
export class VersionSearch {
  readonly #input: SimplifyInput;
  readonly #windows: readonly TuneWindow[];
  readonly #path: WindowPath;
  readonly #roots: ReadonlyMap<number, number>;
  #first: Chosen | null = null;

  /** @param windows of the tune, where they are known already */
  constructor(input: SimplifyInput, windows = windowsOf(input.tune, input.form)) {
    this.#input = input;
    this.#windows = windows;
    this.#path = new WindowPath(input, this.#windows);
    this.#roots = rootsOf(this.#windows, input.form);
  }

  /** What the cheapest fillings cost, before phrases that are the same are changed alike. */
  cost(): number {
    return (this.#first ??= this.#path.run(null, NOTHING_RAISED)).cost;
  }

  /** The cheapest fillings of all windows, and the tune that they make. */
  solve(raised: Raised = NOTHING_RAISED): Simplified {
    const first =
      raised === NOTHING_RAISED ? (this.#first ??= this.#path.run(null, NOTHING_RAISED)) : this.#path.run(null, raised);
    // Phrases that are the same are changed alike: what the first of them became is wished for in the others.
    const wished = new Map([...this.#roots].map(([copy, root]) => [copy, first.fillings[root]!.key]));
    const best = wished.size > 0 ? this.#path.run(wished, raised) : first;
    return {
      ...best,
      plain: this.#path.priceOf(best.fillings),
      windows: this.#windows,
      roots: this.#roots,
      silences: silencesIn(this.#windows, best.fillings),
      tune: written(this.#input, { windows: this.#windows, fillings: best.fillings }, raised),
    };
  }
}

/** Strong beats that are silent where the tune begins a note. */
function silencesIn(windows: readonly TuneWindow[], fillings: readonly Filling[]): number {
  let [sounding, count] = [false, 0];
  windows.forEach(({ strong, starting, from }, index) => {
    const { pieces } = fillings[index]!;
    if (pieces[0]?.from === from) sounding = pieces[0].sound !== null;
    if (!sounding && strong && starting[0]?.onset === from) count += 1;
    if (pieces.length > 0) sounding = pieces.at(-1)!.sound !== null;
  });
  return count;
}
