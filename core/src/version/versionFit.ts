/** The search for one contract: on the best strings, in the best key, with prices raised for what only hand and bow can tell. */
import { formLike, layoutOf } from '../form/index.ts';
import {
  type Breach,
  type Limits,
  NOTHING_RAISED,
  type Raised,
  type Simplified,
  type TuneWindow,
  VersionSearch,
  type Wishes,
  windowsOf,
} from '../grade/index.ts';
import { type Semitones, type Tune, nearestFifths, transposeKey, transposeTune } from '../music/index.ts';
import { quickLook } from './quickLook.ts';
import { evenly, raisedBy } from './raises.ts';
import { type VersionContext, formOf, stringsUnder, weighVersion } from './underContract.ts';

/** Rounds in which prices are raised for what can only be told of the whole. */
const ROUNDS = 8;
/** Rounds after which nothing better is expected. */
const IDLE_ROUNDS = 3;
/** Keys are looked for so many semitones around. */
const FURTHEST: Semitones = 24;
const KEYS: readonly Semitones[] = Array.from({ length: 2 * FURTHEST + 1 }, (_, index) => index - FURTHEST);
/** What another key costs beside what is lost of the tune, each semitone of it, and each sharp or flat to read: shares of the tune. */
const KEY_SHARE = 0.03;
const STEP_SHARE = 0.001;
const SIGN_SHARE = 0.006;
/** An octave is the same key. */
const OCTAVE_SHARE = 0.012;
/** So many keys and octaves go through the full search, and so many are tried out with hand and bow. */
const KEYS_SEARCHED = 5;
const KEYS_TRIED = 3;
export interface VersionWishes extends Wishes {
  /** Another key may be chosen where the contract cannot be met in this one. */
  readonly otherKey: boolean;
  /** It may lie an octave away. */
  readonly otherOctave: boolean;
  /** The simpler grades of the tune climb in one key. */
  readonly oneKey: boolean;
  /** A contract of the teacher's own in the place of the grade's. */
  readonly limits: Limits | null;
  /** Richer than the tune: share of the places where something could be added. */
  readonly density: number;
}

export interface Attempt {
  readonly simplified: Simplified;
  readonly breaches: readonly Breach[];
  readonly source: Tune;
  readonly transpose: Semitones;
  readonly price: number;
  /** Which strings, and what was raised for it. */
  readonly choice: number;
  readonly raised: Raised;
}

/** The simpler grades of one tune climb in one key: what each of them allows, the one that is made first. */
export type Ladder = readonly Limits[];

/**
 * In the key and at the octave in which most of the tune is kept. All are looked at quickly, beat by beat; those that lose least go
 * through the full search, and the best of these through hand and bow.
 * @param ladder further contracts that are to be met in the same key; empty where it was chosen already
 * @param fixed the key that the next richer version is in: octaves of it only
 */
export function fitTo(
  context: VersionContext,
  limits: Limits,
  wishes: VersionWishes,
  upper: ReadonlyMap<string, number> | undefined,
  { ladder, fixed }: { readonly ladder: Ladder; readonly fixed: Semitones | null },
): Attempt {
  const whole = quickLook(context);
  const keys = KEYS.filter((transpose) => {
    if (fixed !== null) return (transpose - fixed) % 12 === 0 && (transpose === fixed || wishes.otherOctave);
    return transpose === 0 || (transpose % 12 === 0 ? wishes.otherOctave : wishes.otherKey);
  });
  const price = (transpose: Semitones) => whole.all * keyShare(context.tune, transpose, fixed);
  const ranked = keys
    .map((transpose) => ({
      transpose,
      least: [limits, ...ladder].reduce((sum, one) => sum + whole.least(one, transpose) + price(transpose), 0),
      // What the others lose in this key is told apart, so that it can be added to what this one loses.
      others: ladder.reduce((sum, one) => sum + whole.least(one, transpose) + price(transpose), 0) + price(transpose),
    }))
    .sort((a, b) => a.least - b.least || Math.abs(a.transpose) - Math.abs(b.transpose));
  const searched: Tried[] = [];
  let cheapest = Infinity;
  for (const { transpose, others, least } of ranked.slice(0, KEYS_SEARCHED)) {
    // What cannot become cheaper need not be searched.
    if (searched.length > 1 && least >= cheapest) break;
    const source = transposeTune(context.tune, transpose);
    const first = bestSearch(context, source, limits, wishes, upper, whole.byStrings(limits, transpose));
    searched.push({ transpose, source, first, others });
    cheapest = Math.min(cheapest, first.cost + others);
  }
  searched.sort((a, b) => a.first.cost + a.others - b.first.cost - b.others);
  let best: Attempt | null = null;
  let least = Infinity;
  for (const { transpose, source, first, others } of searched.slice(0, KEYS_TRIED)) {
    // What is dearer before anything was raised is no better after.
    if (best && first.cost + others >= least) break;
    const attempt = attemptIn(context, source, transpose, limits, first);
    if (attempt.price + others < least) [best, least] = [attempt, attempt.price + others];
  }
  return best!;
}
/** A key that went through the search, and what the other grades lose in it. */
interface Tried {
  readonly transpose: Semitones;
  readonly source: Tune;
  readonly first: Searched;
  readonly others: number;
}

/** What a key costs beside what is lost in it, its signature with it; the key of the next richer version costs nothing. */
function keyShare({ bars }: Tune, transpose: Semitones, fixed: Semitones | null): number {
  if (transpose === (fixed ?? 0)) return 0;
  if ((transpose - (fixed ?? 0)) % 12 === 0) return OCTAVE_SHARE * Math.abs((transpose - (fixed ?? 0)) / 12);
  const signs = Math.abs(nearestFifths(transposeKey(bars[0]!.key, transpose).key));
  return KEY_SHARE + STEP_SHARE * Math.abs(transpose) + SIGN_SHARE * signs;
}

/** The search on one choice of strings. */
export function searchFor(
  context: VersionContext,
  tune: Tune,
  limits: Limits,
  wishes: VersionWishes,
  upper: ReadonlyMap<string, number> | undefined,
  choice: number,
): VersionSearch {
  const places = stringsUnder(context, limits)[choice]!;
  // In another key its phrases are the same.
  const form = formOf(context.tune);
  const windows = windowsIn.get(tune) ?? windowsOf(tune, form);
  windowsIn.set(tune, windows);
  return new VersionSearch({ tune, form, limits, places, wishes, ...(upper && { upper }) }, windows);
}
const windowsIn = new WeakMap<Tune, readonly TuneWindow[]>();

/** A search on the strings that are best, before anything was raised. */
interface Searched {
  readonly search: VersionSearch;
  readonly cost: number;
  readonly choice: number;
}

/**
 * The strings that are best at first are kept to.
 * @param least what each choice of strings costs at the least, so that some need not be searched
 */
function bestSearch(
  context: VersionContext,
  tune: Tune,
  limits: Limits,
  wishes: VersionWishes,
  upper: ReadonlyMap<string, number> | undefined,
  least: readonly number[],
): Searched {
  const order = least.map((_, choice) => choice).sort((a, b) => least[a]! - least[b]!);
  let best: Searched | null = null;
  for (const choice of order) {
    if (best && least[choice]! >= best.cost) break;
    const search = searchFor(context, tune, limits, wishes, upper, choice);
    const cost = search.cost();
    if (!best || cost < best.cost - 1e-9) best = { search, cost, choice };
  }
  return best!;
}

/** What is broken counts first. */
const BREACH = 1000;

function attemptIn(
  context: VersionContext,
  source: Tune,
  transpose: Semitones,
  limits: Limits,
  { search, choice }: Searched,
): Attempt {
  const layout = layoutOf(source);
  let raised = NOTHING_RAISED;
  let best: Attempt | null = null;
  let idle = 0;
  for (let round = 0; round < ROUNDS && idle < IDLE_ROUNDS; round += 1) {
    const simplified = search.solve(raised);
    const form = formLike(simplified.tune, layout);
    const breaches = weighVersion(context, simplified.tune, form, limits);
    // What the search itself counted as broken is counted once, by the check.
    const price = BREACH * (breaches.length + 2 * simplified.silences) + (simplified.plain % BREACH);
    idle += 1;
    if (!best || price < best.price - 1e-9) {
      best = { simplified, breaches, source, transpose, price, choice, raised };
      idle = 0;
    }
    if (breaches.length === 0) {
      const even = evenly(raised, simplified);
      if (!even) break;
      const other = search.solve(even);
      const kept =
        other.silences <= simplified.silences &&
        weighVersion(context, other.tune, formLike(other.tune, layout), limits).length === 0;
      const cost = other.plain % BREACH;
      if (kept && cost < best.price + EVEN_PRICE) best = { ...best, simplified: other, price: cost, raised: even };
      break;
    }
    const next = raisedBy(raised, breaches, simplified, context.tempo);
    if (!next) break;
    raised = next;
  }
  return best!;
}

/** What one rhythm for a figure may cost, in weights of notes. */
const EVEN_PRICE = 14;
