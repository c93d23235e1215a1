/**
 * Versions of a tune for a grade: simpler than its own down to first pieces, with hand and bow worked out, and held against
 * the contract; or richer. What one grade keeps the next richer one keeps too, as far as the contracts allow.
 */
import { bowTune } from '../bow/index.ts';
import { type Form, analyseForm, formLike, layoutOf } from '../form/index.ts';
import {
  type Breach,
  type Filling,
  GRADE_NUMBERS,
  type GradeNumber,
  type Limits,
  type Simplified,
  type TuneWindow,
  changesBetween,
  contractFor,
  fillingsOf,
  foldIdOf,
  pitchIn,
  likenessOf,
  windowsOf,
  NO_WISHES,
} from '../grade/index.ts';
import {
  type Pitch,
  type Semitones,
  type Ticks,
  type Tune,
  midi,
  soundingNotes,
  transposeTune,
} from '../music/index.ts';
import { type GradedVersion } from './graded.ts';
import { richer } from './richer.ts';
import { type VersionContext, formOf, placesFor, weighVersion } from './underContract.ts';
import { type Attempt, type VersionWishes, fitTo, searchFor } from './versionFit.ts';
import { finished } from '../stage/index.ts';

/** @example NO_VERSION_WISHES.otherKey // true */
export const NO_VERSION_WISHES: VersionWishes = {
  ...NO_WISHES,
  otherKey: true,
  otherOctave: true,
  oneKey: true,
  limits: null,
  density: 0.5,
};

/** How much of the dial a grade above the tune's own has, and each further one. */
const RICHER = 0.3;
const RICHER_STEP = 0.2;

/**
 * The version for a grade, in steps, as each grade on the way is worked out; each gives the share that is done.
 * @example versionSteps({ ...facts, tune: reel, hand: facts.decisions.hand, bow: facts.decisions.bow }, 6).next().done // true
 */
export function* versionSteps(
  context: VersionContext,
  grade: GradeNumber,
  wishes: VersionWishes = NO_VERSION_WISHES,
): Generator<number, GradedVersion> {
  const form = analyseForm(context.tune);
  const contract = contractFor(context.instrument.hand, grade).limits;
  const own = wishes.limits ?? contract;
  const asIs = weighedOnce(context, context.tune, form, own);
  if (asIs.length === 0) {
    // At its own grade nothing is changed; above it, it is made richer, the more the higher.
    const { hand } = context.instrument;
    const fits = (one: number) =>
      weighedOnce(context, context.tune, form, contractFor(hand, one as GradeNumber).limits).length === 0;
    let tuneOwn: number = grade;
    while (tuneOwn > 1 && fits(tuneOwn - 1)) tuneOwn -= 1;
    if (tuneOwn < grade)
      return richer(context, form, grade, own, wishes, Math.min(1, RICHER + RICHER_STEP * (grade - tuneOwn)));
    return { grade, tune: context.tune, transpose: 0, changes: [], breaches: asIs, likeness: 1 };
  }
  const { attempt: base, upper } = yield* baseSteps(context, grade, own, wishes, form);
  const attempt = hasWishes(wishes) ? underWishes(context, base, own, wishes, upper) : base;
  const { simplified, breaches, source, transpose } = attempt;
  const { tune } = simplified;
  const reasons = weighedOnce(context, source, form, own);
  const cut = own.maxSlur !== null && longestSlur(context, source, form) > own.maxSlur;
  return {
    grade,
    tune,
    transpose,
    breaches,
    changes: changesBetween(source, simplified, reasons, transpose, cut),
    likeness: likenessOf(source, tune),
  };
}

/** What a tune itself breaks is asked at every card that is taken, and does not change by it. */
const weighed = new WeakMap<Tune, Map<string, readonly Breach[]>>();

function weighedOnce(context: VersionContext, tune: Tune, form: Form, limits: Limits): readonly Breach[] {
  const { instrument, tuning, tempo, hand, bow } = context;
  const key = JSON.stringify([instrument.id, instrument.reach, tuning.pitches, tempo, limits, hand, bow]);
  const known = weighed.get(tune) ?? new Map<string, readonly Breach[]>();
  weighed.set(tune, known);
  const found = known.get(key) ?? weighVersion(context, tune, form, limits);
  if (known.size >= MOST_BASES) known.delete(known.keys().next().value!);
  known.set(key, found);
  return found;
}

/** A version that nobody has said anything about, and what the next richer one keeps. */
interface Base {
  readonly attempt: Attempt;
  readonly upper: ReadonlyMap<string, number> | undefined;
}

const bases = new WeakMap<Tune, Map<string, Base>>();
/** Versions of one tune that are remembered. */
const MOST_BASES = 24;

/** From the richest grade that asks less than the tune down to the one that is wanted; remembered, so that a card is taken at once. */
function* baseSteps(
  context: VersionContext,
  grade: GradeNumber,
  own: Limits,
  { otherKey, otherOctave, oneKey }: VersionWishes,
  form: Form,
): Generator<number, Base> {
  const { tune, instrument, tuning, tempo, hand, bow } = context;
  const known = bases.get(tune) ?? new Map<string, Base>();
  bases.set(tune, known);
  const wishes: VersionWishes = { ...NO_VERSION_WISHES, otherKey, otherOctave, oneKey };
  const contract = (one: GradeNumber) => contractFor(instrument.hand, one).limits;
  const above = GRADE_NUMBERS.filter((one) => one > grade && one < 6).reverse();
  const richer = above.filter((one) => weighedOnce(context, tune, form, contract(one)).length > 0);
  const all = [...richer, grade];
  // All grades below the tune's own are thought of when the key is chosen, whichever of them is asked for.
  const below = GRADE_NUMBERS.filter((one) => one < grade).reverse();
  let base: Base | undefined;
  for (const [index, step] of all.entries()) {
    const limits = step === grade ? own : contract(step);
    const on = [instrument.id, instrument.reach, tuning.pitches, tempo, limits, hand, bow];
    const key = JSON.stringify([step, otherKey, otherOctave, oneKey, on]);
    const before = known.get(key);
    if (before) {
      base = before;
      continue;
    }
    yield index / all.length;
    const upper = base && keptIn(base.attempt.simplified);
    const fixed = base && wishes.oneKey ? base.attempt.transpose : null;
    const ladder = base || !wishes.oneKey ? [] : [...all.slice(1), ...below].map(contract);
    const attempt = fitTo(context, limits, wishes, upper, { ladder, fixed });
    const easier = step > 1 ? contract((step - 1) as GradeNumber) : null;
    base = { attempt: easier ? notBelow(context, attempt, limits, easier, wishes, upper) : attempt, upper };
    if (known.size >= MOST_BASES) known.delete(known.keys().next().value!);
    known.set(key, base);
  }
  return base!;
}

/** Less of the tune than this, and what the grade below would do is looked at as well. */
const THIN = 0.65;

/** A richer contract never keeps less of the tune than the one below it, whose versions it allows. */
function notBelow(
  context: VersionContext,
  attempt: Attempt,
  limits: Limits,
  easier: Limits,
  wishes: VersionWishes,
  upper: Base['upper'],
): Attempt {
  const likeness = ({ source, simplified }: Attempt) => likenessOf(source, simplified.tune);
  if (attempt.breaches.length === 0 && likeness(attempt) >= THIN) return attempt;
  const other = fitTo(context, easier, wishes, upper, { ladder: [], fixed: attempt.transpose });
  const form = formLike(other.simplified.tune, layoutOf(other.source));
  const breaches = weighVersion(context, other.simplified.tune, form, limits);
  if (breaches.length > attempt.breaches.length) return attempt;
  const better = breaches.length < attempt.breaches.length || likeness(other) > likeness(attempt);
  return better ? { ...other, breaches } : attempt;
}

const hasWishes = ({ kept, locked, chosen }: VersionWishes): boolean =>
  locked.size > 0 || chosen.size > 0 || [...kept].some((id) => id !== 'key' && id !== 'octave');

/**
 * What was said is done where it was said. The beats around it are looked at again, so that they join; all others stay as they
 * were, and what breaks is told.
 */
function underWishes(
  context: VersionContext,
  base: Attempt,
  limits: Limits,
  wishes: VersionWishes,
  upper: Base['upper'],
): Attempt {
  const { source, choice, raised } = base;
  const { windows, fillings } = base.simplified;
  const back = new Set(windows.filter(({ id }) => wishes.kept.has(foldIdOf(id))).map(({ phrase }) => phrase));
  const spoken = windows.map(
    ({ id, starting }) =>
      wishes.kept.has(id) ||
      wishes.chosen.has(id) ||
      starting.some(({ chain }) => chain.some((note) => wishes.locked.has(note.id))),
  );
  const stays = windows.flatMap((window, index): readonly (readonly [string, string])[] => {
    if (spoken[index]) return [];
    if (back.has(window.phrase)) return [[window.id, atItsPlace(source, window, fillings[index]!, limits)]];
    return spoken[index - 1] || spoken[index + 1] ? [] : [[window.id, fillings[index]!.key]];
  });
  const own = { ...wishes, chosen: new Map([...stays, ...wishes.chosen]) };
  const simplified = searchFor(context, source, limits, own, upper, choice).solve(raised);
  const breaches = weighVersion(context, simplified.tune, formLike(simplified.tune, layoutOf(source)), limits);
  return { ...base, simplified, breaches };
}

/** The same notes at the same times, at their own octave: what becomes of a beat whose phrase is taken back to its place. */
function atItsPlace(tune: Tune, window: TuneWindow, { pieces }: Filling, limits: Limits): string {
  const ways = fillingsOf(tune, window, limits, { playable: () => true, folds: [0] });
  const same = ways.find(
    (way) =>
      way.pieces.length === pieces.length &&
      way.pieces.every(({ from, sound }, index) => from === pieces[index]!.from && sound === pieces[index]!.sound),
  );
  return (same ?? ways[0]!).key;
}

/** Sounds on the longest stroke of the tune as it is. */
function longestSlur({ bow, tempo }: VersionContext, tune: Tune, form: Form): number {
  const firsts = new Set(soundingNotes(tune).map(({ note }) => note.id));
  const { strokes } = bowTune(tune, form, bow, tempo);
  return Math.max(0, ...strokes.map(({ notes }) => notes.filter((id) => firsts.has(id)).length));
}

/** Another way to fill a beat of a version. */
export interface VersionWay {
  readonly key: string;
  /** What sounds: null is a rest. */
  readonly pieces: readonly { readonly pitch: Pitch | null; readonly duration: Ticks }[];
  /** Likeness that it loses, in weights of notes. */
  readonly loss: number;
}

/**
 * The ways to fill a window that a contract lets be tried, those that lose least first; the tune's own is not among them.
 * @example versionWays({ ...facts, tune: reel, hand: facts.decisions.hand, bow: facts.decisions.bow }, contractFor('violin', 1).limits, windowsOf(reel, form)[0].id).length > 1 // true
 */
export function versionWays(
  { tune, instrument, tuning }: VersionContext,
  limits: Limits,
  windowId: string,
  transpose: Semitones = 0,
): readonly VersionWay[] {
  const source = transpose === 0 ? tune : transposeTune(tune, transpose);
  const window = windowsOf(source, formOf(source)).find(({ id }) => id === windowId);
  if (!window) return [];
  const places = placesFor(instrument, tuning, limits);
  const ways = fillingsOf(source, window, limits, { playable: (pitch) => places.has(pitch), folds: [0], octaves: true })
    .filter(({ asIs }) => !asIs)
    .map(({ key, pieces, loss }) => ({
      key,
      loss,
      pieces: pieces.map((piece, index) => ({
        pitch: pitchIn(piece),
        duration: (pieces[index + 1]?.from ?? window.to) - piece.from,
      })),
    }))
    .sort((a, b) => a.loss - b.loss);
  // What sounds alike is one way, whichever note of the tune it is told by.
  const known = new Set<string>();
  return ways.filter(({ pieces }) => {
    const sounds = JSON.stringify(pieces.map(({ pitch, duration }) => [pitch && midi(pitch), duration]));
    return !known.has(sounds) && known.add(sounds);
  });
}

/** The same at once. @example gradedVersion({ ...facts, tune: reel, hand: facts.decisions.hand, bow: facts.decisions.bow }, 6).breaches // [] */
export function gradedVersion(context: VersionContext, grade: GradeNumber, wishes?: VersionWishes): GradedVersion {
  return finished(versionSteps(context, grade, wishes));
}

const keptIn = ({ fillings }: Simplified): ReadonlyMap<string, number> =>
  new Map(
    fillings.flatMap(({ pieces }) =>
      pieces.flatMap(({ sound, octave }) => (sound ? [[sound.note.id, octave] as const] : [])),
    ),
  );
