/**
 * Versions of a tune for a grade: simpler than its own down to first pieces, with hand and bow worked out, and held against
 * the contract. What one grade keeps the next richer one keeps too, as far as the contracts allow.
 */
import { bowTune, slurredInto, type BowDecisions } from '../bow/index.ts';
import { formLike, layoutOf, analyseForm, type Form } from '../form/index.ts';
import {
  GRADE_NUMBERS,
  NOTHING_RAISED,
  NO_WISHES,
  breachesOf,
  changesBetween,
  contractFor,
  dressed,
  fillingsOf,
  likenessOf,
  windowsOf,
  VersionSearch,
  type Breach,
  type GradeChange,
  type GradeNumber,
  type Limits,
  type Places,
  type Raised,
  type Simplified,
  type Wishes,
} from '../grade/index.ts';
import { HANDS, Hand, framesFor, type HandDecisions } from '../hand/index.ts';
import { openMidi, type Instrument, type Tuning } from '../instrument/index.ts';
import {
  TICKS_PER_QUARTER,
  midi as midiNumber,
  soundingNotes,
  transposeTune,
  type Bpm,
  type Midi,
  type Note,
  type Pitch,
  type Semitones,
  type Tune,
} from '../music/index.ts';
import { handLimitsOf } from './grades.ts';

export interface VersionContext {
  /** In the key that was chosen. */
  readonly tune: Tune;
  readonly instrument: Instrument;
  readonly tuning: Tuning;
  readonly tempo: Bpm;
  readonly hand: HandDecisions;
  readonly bow: BowDecisions;
}

export interface VersionWishes extends Wishes {
  /** Another key may be chosen where the contract cannot be met in this one. */
  readonly otherKey: boolean;
  /** It may lie an octave away. */
  readonly otherOctave: boolean;
  /** A contract of the teacher's own in the place of the grade's. */
  readonly limits: Limits | null;
  /** Richer than the tune: share of the places where something could be added. */
  readonly density: number;
}

export interface GradedVersion {
  readonly grade: GradeNumber;
  readonly tune: Tune;
  /** Semitones from the key that was chosen. */
  readonly transpose: Semitones;
  readonly changes: readonly GradeChange[];
  readonly breaches: readonly Breach[];
  readonly likeness: number;
}

/** Rounds in which prices are raised for what can only be told of the whole. */
const ROUNDS = 8;
/** Rounds after which nothing better is expected. */
const IDLE_ROUNDS = 3;
/** Price of a first raise, and how it grows. */
const RAISE = 2;
const RAISED_BY = 1.8;
/** Other keys, the nearest first; an octave is nearer than any of them. */
const OTHER_KEYS: readonly Semitones[] = [12, -12, 2, -2, 5, -5, 7, -7, 3, -3, 1, -1, 4, -4, 6, -6, 9, -9, 10, -10];
/** What another key costs beside what is lost of the tune, and each semitone of it. */
const KEY_PRICE = 45;
const KEY_STEP = 0.5;
/** Each sharp or flat that there is to read in it. */
const SIGN_PRICE = 4;
/** An octave is the same key. */
const OCTAVE_PRICE = 4;
/** So many keys are tried out. */
const KEYS_TRIED = 2;

/** @example NO_VERSION_WISHES.otherKey // true */
export const NO_VERSION_WISHES: VersionWishes = {
  ...NO_WISHES,
  ...{ otherKey: true, otherOctave: true, limits: null, density: 0.5 },
};

/**
 * The strings on which each pitch can be stopped under a contract.
 * @example placesFor(INSTRUMENT.violin, standardTuning(INSTRUMENT.violin), contractFor('violin', 1).limits).get(69) // [2]
 */
export function placesFor(instrument: Instrument, tuning: Tuning, limits: Limits): Places {
  const hand = HANDS[instrument.hand];
  const frames = framesFor(hand, handLimitsOf(limits)).filter(
    ({ position, shape }) =>
      (limits.halfPosition || position !== 'half') &&
      (limits.extension || (shape !== 'forward' && shape !== 'backward')) &&
      (limits.shifts !== 0 || position === 'I' || (limits.halfPosition && position === 'half')),
  );
  const byLetter = frames.some((frame) => frame.byLetter);
  const stops = new Set<Semitones>([0]);
  for (const { places } of frames) {
    for (const { finger, semitones, sign, onlySpelled } of places) {
      const low = sign === 'low' && [true, limits.low1, limits.low2, true, limits.low4][finger] === false;
      const high = sign === 'high' && finger === 3 && !limits.high3;
      const out = sign === 'extended' && !limits.extension;
      const asked = limits.fingers && !limits.fingers.includes(finger);
      if (!onlySpelled && !asked && !(byLetter && (low || high)) && !out) stops.add(semitones);
    }
  }
  const places = new Map<Midi, number[]>();
  if (limits.fingers && !limits.fingers.includes(0)) stops.delete(0);
  openMidi(tuning.pitches).forEach((open, string) => {
    for (const stop of stops) places.set(open + stop, [...(places.get(open + stop) ?? []), string]);
  });
  return places;
}

/** Neighbouring strings, as many as may be used; one entry with all where there is no limit. */
function stringChoices(places: Places, strings: number, most: number | null): readonly Places[] {
  if (most === null || most >= strings) return [places];
  return Array.from({ length: strings - most + 1 }, (_, first) => {
    const own = [...places].flatMap(([pitch, all]): [Midi, readonly number[]][] => {
      const left = all.filter((string) => string >= first && string < first + most);
      return left.length > 0 ? [[pitch, left]] : [];
    });
    return new Map(own);
  });
}

/**
 * What a contract lets the bow do.
 * @example bowUnder(bowSlice.first, contractFor('violin', 1).limits).maxSlur // 1
 */
export function bowUnder(bow: BowDecisions, { maxSlur, hooks, retakes }: Limits): BowDecisions {
  const most = Math.min(maxSlur ?? Infinity, bow.maxSlur ?? Infinity);
  const free = hooks && retakes;
  return {
    ...bow,
    maxSlur: most === Infinity ? null : most,
    ...(!free && { school: 'as-it-comes' as const, schools: {} }),
  };
}

/**
 * A tune as it is played under a contract, and what it breaks.
 * @example weighVersion({ ...facts, hand: facts.decisions.hand, bow: facts.decisions.bow }, reel, form, contractFor('violin', 6).limits) // []
 */
export function weighVersion(context: VersionContext, tune: Tune, form: Form, limits: Limits): readonly Breach[] {
  const { instrument, tuning, tempo, hand: decided } = context;
  const bowing = bowTune(tune, form, bowUnder(context.bow, limits), tempo);
  const { fingering } = new Hand(tune, form, {
    ...{ ...decided, instrument, tuning, tempo },
    grade: { by: 'grade', name: null, limits: handLimitsOf(limits) },
    slurred: slurredInto(bowing),
  });
  return breachesOf({ tune, form, bowing, tempo, tuning, fingering }, limits);
}

interface Attempt {
  readonly simplified: Simplified;
  readonly breaches: readonly Breach[];
  readonly source: Tune;
  readonly transpose: Semitones;
  readonly price: number;
  /** Which strings, and what was raised for it. */
  readonly choice: number;
  readonly raised: Raised;
}

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
  const asIs = weighVersion(context, context.tune, form, own);
  if (asIs.length === 0) {
    // At its own grade nothing is changed; above it, it is made richer, the more the higher.
    const { hand } = context.instrument;
    const fits = (one: number) =>
      weighVersion(context, context.tune, form, contractFor(hand, one as GradeNumber).limits).length === 0;
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
  const reasons = weighVersion(context, source, form, own);
  const cut = own.maxSlur !== null && longestSlur(context, source, form) > own.maxSlur;
  return {
    ...{ grade, tune, transpose, breaches },
    changes: changesBetween(source, simplified, reasons, transpose, cut),
    likeness: likenessOf(source, tune),
  };
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
  { otherKey, otherOctave }: VersionWishes,
  form: Form,
): Generator<number, Base> {
  const { tune, instrument, tuning, tempo, hand, bow } = context;
  const key = JSON.stringify([grade, otherKey, otherOctave, instrument.id, tuning.pitches, tempo, own, hand, bow]);
  const known = bases.get(tune) ?? new Map<string, Base>();
  bases.set(tune, known);
  const before = known.get(key);
  if (before) return before;
  const wishes: VersionWishes = { ...NO_VERSION_WISHES, otherKey, otherOctave };
  const contract = (one: GradeNumber) => contractFor(instrument.hand, one).limits;
  const above = GRADE_NUMBERS.filter((one) => one > grade && one < 6).reverse();
  const on = above.filter((one) => weighVersion(context, tune, form, contract(one)).length > 0);
  const all = [...on, grade];
  let upper: Base['upper'];
  let attempt: Attempt | null = null;
  for (const [index, step] of all.entries()) {
    yield index / all.length;
    if (attempt) upper = keptIn(attempt.simplified);
    attempt = fitTo(context, step === grade ? own : contract(step), wishes, upper, attempt?.transpose ?? 0);
  }
  const base: Base = { attempt: attempt!, upper };
  if (known.size >= MOST_BASES) known.delete(known.keys().next().value!);
  known.set(key, base);
  return base;
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
  const spoken = windows.map(
    ({ id, starting }) =>
      wishes.kept.has(id) ||
      wishes.chosen.has(id) ||
      starting.some(({ chain }) => chain.some((note) => wishes.locked.has(note.id))),
  );
  const stays = windows.flatMap(({ id }, index): readonly (readonly [string, string])[] =>
    spoken[index - 1] || spoken[index] || spoken[index + 1] ? [] : [[id, fillings[index]!.key]],
  );
  const own = { ...wishes, chosen: new Map([...stays, ...wishes.chosen]) };
  const simplified = searchesFor(context, source, limits, own, upper)[choice]!.solve(raised);
  const breaches = weighVersion(context, simplified.tune, formLike(simplified.tune, layoutOf(source)), limits);
  return { ...base, simplified, breaches };
}

/** How much of the dial a grade above the tune's own has, and each further one. */
const RICHER = 0.3;
const RICHER_STEP = 0.2;
/** Rounds in which what the hand cannot do is left out again. */
const DRESS_ROUNDS = 6;

/** What is added is held against the contract with hand and bow; what breaks it is left out, and the rest looked at again. */
function richer(
  context: VersionContext,
  form: Form,
  grade: GradeNumber,
  limits: Limits,
  { kept, density }: VersionWishes,
  share: number,
): GradedVersion {
  const { instrument, tuning } = context;
  // What is added lies in first position: nobody shifts for an ornament.
  const places = placesFor(instrument, tuning, { ...limits, maxPosition: 'I', shifts: 0, extension: false });
  const without = new Set(kept);
  const layout = layoutOf(context.tune);
  for (let round = 0; ; round += 1) {
    const amount = round < DRESS_ROUNDS ? Math.min(1, 2 * density * share) : 0;
    const { tune, changes } = dressed({
      ...{ tune: context.tune, form, limits, places, open: tuning.pitches, density: amount, without },
    });
    const breaches = weighVersion(context, tune, formLike(tune, layout), limits);
    if (breaches.length === 0 || changes.length === 0) {
      return { grade, tune, transpose: 0, changes, breaches, likeness: likenessOf(context.tune, tune) };
    }
    const dressedNotes = new Map(changes.flatMap(({ id, notes }) => notes.map((note) => [note, id] as const)));
    const order = context.tune.bars.flatMap(({ events }) => events.map(({ id }) => id));
    for (const { note } of breaches) {
      const plain = note.replace(/[fc]$/, '');
      // What is broken at a note that nothing was added to comes of what was added just before it.
      const at = order.indexOf(plain);
      const blamed =
        dressedNotes.get(plain) ??
        order
          .slice(Math.max(0, at - 4), at)
          .reverse()
          .map((id) => dressedNotes.get(id))
          .find(Boolean);
      if (blamed) without.add(blamed);
      else changes.slice(-1).forEach(({ id }) => without.add(id));
    }
  }
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
  readonly pitches: readonly Pitch[];
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
  return fillingsOf(source, window, limits, (pitch) => places.has(pitch))
    .filter(({ asIs }) => !asIs)
    .map(({ key, pieces, loss }) => ({
      ...{ key, loss },
      pitches: pieces.flatMap(({ sound, octave }) => {
        if (!sound) return [];
        const own = sound.note.heads.at(-1)!.pitch;
        return [{ ...own, octave: own.octave + octave }];
      }),
    }));
}

/** The same at once. @example gradedVersion({ ...facts, tune: reel, hand: facts.decisions.hand, bow: facts.decisions.bow }, 6).breaches // [] */
export function gradedVersion(context: VersionContext, grade: GradeNumber, wishes?: VersionWishes): GradedVersion {
  const steps = versionSteps(context, grade, wishes);
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

const keptIn = ({ fillings }: Simplified): ReadonlyMap<string, number> =>
  new Map(
    fillings.flatMap(({ pieces }) =>
      pieces.flatMap(({ sound, octave }) => (sound ? [[sound.note.id, octave] as const] : [])),
    ),
  );

/** In this key, or an octave away, where more of it lies well; in another key where that is allowed and saves much. */
function fitTo(
  context: VersionContext,
  limits: Limits,
  wishes: VersionWishes,
  upper: ReadonlyMap<string, number> | undefined,
  nearest: Semitones,
): Attempt {
  const here = attemptIn(context, context.tune, 0, limits, wishes, upper);
  const away = outOfPlace(context, context.tune, limits);
  if (here.breaches.length === 0 && away === 0) return here;
  const ranked = OTHER_KEYS.filter((transpose) => (transpose % 12 === 0 ? wishes.otherOctave : wishes.otherKey))
    .map((transpose) => {
      const source = transposeTune(context.tune, transpose);
      const lost = outOfPlace(context, source, limits);
      return { transpose, source, lost, cost: keyPrice(transpose, nearest, source) + lost };
    })
    .filter(({ lost }) => lost < away || here.breaches.length > 0)
    .sort((a, b) => a.cost - b.cost)
    .slice(0, KEYS_TRIED);
  let best = here;
  let price = here.price;
  for (const { transpose, source } of ranked) {
    const own0 = keyPrice(transpose, nearest, source);
    const first = bestSearch(context, source, limits, wishes, upper);
    // What is dearer before anything was raised is no better after.
    if ((first.plain % BREACH) + own0 >= price && here.breaches.length === 0) continue;
    const other = attemptIn(context, source, transpose, limits, wishes, upper);
    const own = other.price + own0;
    if (own < price) [best, price] = [other, own];
  }
  return best;
}

/** What a key costs beside what is lost in it, its signature with it; the key of the next richer version costs little. */
function keyPrice(transpose: Semitones, nearest: Semitones, { bars }: Tune): number {
  if (transpose === nearest) return KEY_STEP;
  if (transpose % 12 === 0) return OCTAVE_PRICE;
  const signs = Object.values(bars[0]?.key.signature ?? {}).filter((alter) => alter !== 0).length;
  return KEY_PRICE + KEY_STEP * Math.abs(transpose % 12) + SIGN_PRICE * signs;
}

/** How much of a tune cannot be stopped where it is, on the best strings, and what its signature breaks. */
function outOfPlace({ instrument, tuning }: VersionContext, source: Tune, limits: Limits): number {
  const places = placesFor(instrument, tuning, limits);
  const sounds = soundingNotes(source);
  const lost = stringChoices(places, instrument.strings.length, limits.strings).map((own) =>
    sounds.reduce((sum, { note, duration }) => {
      const spelled = note.heads.at(-1)!.pitch;
      const strange = limits.accidentals === 0 && isAccidental(source, note, spelled);
      return own.has(midiNumber(spelled)) && !strange ? sum : sum + duration / TICKS_PER_QUARTER;
    }, 0),
  );
  return Math.min(...lost) + SIGNATURE_PRICE * signatureBreaks(source, limits);
}
/** A bar whose signature has too much, beside a quarter that is out of place. */
const SIGNATURE_PRICE = 100;

function isAccidental(source: Tune, note: Note, { letter, alter }: Pitch): boolean {
  const bar = source.bars.find(({ events }) => events.includes(note));
  return (bar?.key.signature[letter] ?? 0) !== alter;
}

function signatureBreaks({ bars }: Tune, { signature }: Limits): number {
  if (!signature) return 0;
  return bars.filter(({ key }) => {
    const alters = Object.values(key.signature);
    return (
      alters.filter((alter) => alter > 0).length > signature.sharps ||
      alters.filter((alter) => alter < 0).length > signature.flats
    );
  }).length;
}

/** A search for each choice of strings. */
function searchesFor(
  { instrument, tuning }: VersionContext,
  tune: Tune,
  limits: Limits,
  wishes: VersionWishes,
  upper: ReadonlyMap<string, number> | undefined,
): readonly VersionSearch[] {
  const places = placesFor(instrument, tuning, limits);
  const form = formOf(tune);
  return stringChoices(places, instrument.strings.length, limits.strings).map(
    (own) => new VersionSearch({ tune, form, limits, places: own, wishes, ...(upper && { upper }) }),
  );
}

/** The strings that are best at first are kept to. */
function bestSearch(
  context: VersionContext,
  tune: Tune,
  limits: Limits,
  wishes: VersionWishes,
  upper: ReadonlyMap<string, number> | undefined,
): { readonly search: VersionSearch; readonly cost: number; readonly plain: number; readonly choice: number } {
  return searchesFor(context, tune, limits, wishes, upper)
    .map((search, choice) => {
      const { cost, plain } = search.solve();
      return { search, cost, plain, choice };
    })
    .reduce((best, one) => (one.cost < best.cost - 1e-9 ? one : best));
}

const forms = new WeakMap<Tune, Form>();
function formOf(tune: Tune): Form {
  const form = forms.get(tune) ?? analyseForm(tune);
  forms.set(tune, form);
  return form;
}

/** What is broken counts first. */
const BREACH = 1000;

function attemptIn(
  context: VersionContext,
  source: Tune,
  transpose: Semitones,
  limits: Limits,
  wishes: VersionWishes,
  upper: ReadonlyMap<string, number> | undefined,
): Attempt {
  const layout = layoutOf(source);
  let raised = NOTHING_RAISED;
  let best: Attempt | null = null;
  const { search, choice } = bestSearch(context, source, limits, wishes, upper);
  let idle = 0;
  for (let round = 0; round < ROUNDS && idle < IDLE_ROUNDS; round += 1) {
    const simplified = search.solve(raised);
    const form = formLike(simplified.tune, layout);
    const breaches = weighVersion(context, simplified.tune, form, limits);
    // What the search itself counted as broken is counted once, by the check.
    const price = BREACH * breaches.length + (simplified.plain % BREACH);
    idle += 1;
    if (!best || price < best.price - 1e-9) {
      best = { simplified, breaches, source, transpose, price, choice, raised };
      idle = 0;
    }
    if (breaches.length === 0) break;
    const next = raisedBy(raised, breaches, simplified, context.tempo);
    if (!next) break;
    raised = next;
  }
  return best!;
}

/** Prices raised for what was broken; null where nothing can be done by prices. */
function raisedBy(
  raised: Raised,
  breaches: readonly Breach[],
  { windows, fillings, tune }: Simplified,
  tempo: Bpm,
): Raised | null {
  const density = new Map(raised.density);
  const crossing = new Map(raised.crossing);
  const pitch = new Map(raised.pitch);
  const single = new Set(raised.single);
  const windowOf = new Map<string, number>();
  fillings.forEach(({ pieces }, index) => pieces.forEach(({ sound }) => sound && windowOf.set(sound.note.id, index)));
  const midiOf = new Map(
    tune.bars.flatMap(({ events }) =>
      events.flatMap((event) => (event.kind === 'note' ? [[event.id, event.heads.at(-1)!.pitch] as const] : [])),
    ),
  );
  let any = false;
  const done = new Set<string>();
  // Once in a round, however often a rule is broken there.
  const raise = (map: Map<string, number>, key: string, least = RAISE): void => {
    const once = `${map === density ? 'd' : map === crossing ? 'c' : 'p'} ${key}`;
    if (done.has(once)) return;
    done.add(once);
    map.set(key, map.has(key) ? map.get(key)! * RAISED_BY : least);
    any = true;
  };
  const ticksBack = (2 * tempo * 3360) / 60;
  for (const { rule, note } of breaches) {
    const at = windowOf.get(note);
    const window = at === undefined ? undefined : windows[at];
    const spelled = midiOf.get(note);
    const around = (map: Map<string, number>): void => {
      if (!window) return;
      for (const one of windows) if (one.to > window.from - ticksBack && one.from <= window.from) raise(map, one.id);
    };
    if (rule === 'notesPerSecond') around(density);
    else if (rule === 'crossingsPerSecond' || rule === 'skips') around(crossing);
    else if (rule === 'doubleStops' || rule === 'drones') {
      single.add(note);
      any = true;
    } else if ((rule === 'shifts' || rule === 'accidentals') && window && spelled)
      raise(pitch, `${window.id} ${midiNumber(spelled)}`, rule === 'shifts' ? 20 : 60);
    else if (spelled && FINGER_RULES.has(rule)) raise(pitch, String(midiNumber(spelled)), BARRED);
    else if (spelled && PITCH_RULES.has(rule)) raise(pitch, String(midiNumber(spelled)), 12);
  }
  return any ? { density, crossing, pitch, single } : null;
}

const PITCH_RULES: ReadonlySet<string> = new Set(['extension', 'range', 'patterns', 'strings']);
/** What a pitch is fingered with wherever it stands: it is as good as out of place. */
const FINGER_RULES: ReadonlySet<string> = new Set([
  ...['fingers', 'low1', 'low2', 'high3', 'low4', 'halfPosition', 'maxPosition'],
]);
const BARRED = 200;
