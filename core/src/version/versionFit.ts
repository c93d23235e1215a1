/** The search for one contract: on the best strings, in the best key, with prices raised for what only hand and bow can tell. */
import { formLike, layoutOf } from '../form/index.ts';
import {
  ALL_FOLDS,
  type Breach,
  type Limits,
  NOTHING_RAISED,
  type Places,
  type Raised,
  type Simplified,
  type TuneWindow,
  VersionSearch,
  type Wishes,
  cellOf,
  fillingsOf,
  windowsOf,
  writtenBreaks,
} from '../grade/index.ts';
import {
  type Bpm,
  type Key,
  type Midi,
  type Semitones,
  type SoundingNote,
  type Tune,
  chroma,
  midi as midiNumber,
  nearestFifths,
  sameKey,
  transposeKey,
  transposeTune,
} from '../music/index.ts';
import { type VersionContext, formOf, placesFor, stringChoices, weighVersion } from './underContract.ts';

/** Rounds in which prices are raised for what can only be told of the whole. */
const ROUNDS = 8;
/** Rounds after which nothing better is expected. */
const IDLE_ROUNDS = 3;
/** Price of a first raise, and how it grows. */
const RAISE = 2;
const RAISED_BY = 1.8;
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
/** A key whose home note cannot be played is none, in shares of the tune. */
const HOMELESS = 0.6;

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

/** What is lost at the least in a key, told beat by beat: no joint is looked at, so nothing can cost less. */
interface QuickLook {
  /** Weight of all notes. */
  readonly all: number;
  readonly least: (limits: Limits, transpose: Semitones) => number;
  /** The same for each choice of strings. */
  readonly byStrings: (limits: Limits, transpose: Semitones) => readonly number[];
}

function quickLook({ tune, instrument, tuning }: VersionContext): QuickLook {
  const windows = windowsOf(tune, formOf(tune));
  const all = windows.reduce((sum, { weights }) => sum + weights.reduce((total, one) => total + one, 0), 0);
  const home = chroma(tune.bars[0]!.key.tonic);
  const known = new Map<Limits, readonly (readonly QuickWindow[])[]>();
  const phrases = (limits: Limits) => {
    const own = known.get(limits) ?? byPhrase(windows.map((window) => quickWindow(tune, window, limits)));
    known.set(limits, own);
    return own;
  };
  const byStrings = (limits: Limits, transpose: Semitones) =>
    choicesOf(instrument, tuning, limits).map((places) => {
      const atHome = [...places.keys()].some((pitch) => (pitch - home - transpose) % 12 === 0);
      let sum = atHome ? 0 : HOMELESS * all;
      for (const phrase of phrases(limits)) sum += leastOfPhrase(phrase, places, transpose);
      return sum;
    });
  return {
    all,
    byStrings,
    least: (limits, transpose) =>
      Math.min(...byStrings(limits, transpose)) + signatureBreaks(tune, transpose, limits) * all,
  };
}

/** The ways to fill a beat, as pitches: what each loses, and the weight of each note in it. */
interface QuickWindow {
  readonly joint: boolean;
  readonly ways: readonly { readonly loss: number; readonly notes: readonly (readonly [Midi, number])[] }[];
}

function quickWindow(tune: Tune, window: TuneWindow, limits: Limits): QuickWindow {
  const isStrange = (sound: SoundingNote) => limits.accidentals === 0 && isAccidental(tune, sound);
  const weight = new Map(window.starting.map((sound, index) => [sound, window.weights[index]!]));
  const ways = fillingsOf(tune, window, limits, { playable: () => true, folds: [0] })
    .filter(({ asIs, pieces }) => !asIs || pieces.every(({ sound }) => !sound || !tooHard(tune, sound, limits)))
    .map(({ loss, pieces }) => ({
      loss,
      notes: pieces.flatMap(({ sound }): (readonly [Midi, number])[] =>
        sound
          ? [[isStrange(sound) ? NOWHERE : midiNumber(sound.note.heads.at(-1)!.pitch), weight.get(sound) ?? 1]]
          : [],
      ),
    }));
  return { joint: window.joint, ways };
}
const NOWHERE: Midi = -1000;

const tooHard = ({ bars }: Tune, { chain, barIndex }: SoundingNote, limits: Limits): boolean =>
  chain.some((note) => writtenBreaks(note, bars[barIndex]!, limits).length > 0);

function byPhrase(windows: readonly QuickWindow[]): readonly (readonly QuickWindow[])[] {
  const phrases: QuickWindow[][] = [];
  for (const window of windows) {
    if (window.joint || phrases.length === 0) phrases.push([window]);
    else phrases.at(-1)!.push(window);
  }
  return phrases;
}

/** What a note loses that becomes another; what a phrase loses that is folded, in weights of notes. */
const OUT_OF_PLACE = 0.8;
const FOLDED = 6;

function leastOfPhrase(windows: readonly QuickWindow[], places: Places, transpose: Semitones): number {
  let least = Infinity;
  for (const fold of ALL_FOLDS) {
    let sum = fold === 0 ? 0 : FOLDED;
    for (const { ways } of windows) {
      let best = Infinity;
      for (const { loss, notes } of ways) {
        let cost = loss;
        for (const [pitch, weight] of notes)
          if (!places.has(pitch + transpose + 12 * fold)) cost += OUT_OF_PLACE * weight;
        if (cost < best) best = cost;
      }
      sum += best;
      if (sum >= least) break;
    }
    least = Math.min(least, sum);
    if (sum === 0) break;
  }
  return least;
}

function isAccidental({ bars }: Tune, { note, barIndex }: SoundingNote): boolean {
  const { letter, alter } = note.heads.at(-1)!.pitch;
  return (bars[barIndex]!.key.signature[letter] ?? 0) !== alter;
}

/** Share of the bars whose signature has too much. */
function signatureBreaks(tune: Tune, transpose: Semitones, { signature }: Limits): number {
  if (!signature) return 0;
  let broken = 0;
  for (const [key, bars] of keysIn(tune)) {
    const signs = nearestFifths(transposeKey(key, transpose).key);
    if (signs > signature.sharps || -signs > signature.flats) broken += bars;
  }
  return broken / tune.bars.length;
}

/** The keys of a tune, each with the number of its bars. */
const keysKnown = new WeakMap<Tune, ReadonlyMap<Key, number>>();
function keysIn(tune: Tune): ReadonlyMap<Key, number> {
  const known = keysKnown.get(tune);
  if (known) return known;
  const found = new Map<Key, number>();
  let last: Key | null = null;
  for (const { key } of tune.bars) {
    if (!last || !sameKey(last, key)) last = key;
    found.set(last, (found.get(last) ?? 0) + 1);
  }
  keysKnown.set(tune, found);
  return found;
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
  const { instrument, tuning } = context;
  const places = choicesOf(instrument, tuning, limits)[choice]!;
  // In another key its phrases are the same.
  const form = formOf(context.tune);
  const windows = windowsIn.get(tune) ?? windowsOf(tune, form);
  windowsIn.set(tune, windows);
  return new VersionSearch({ tune, form, limits, places, wishes, ...(upper && { upper }) }, windows);
}
const windowsIn = new WeakMap<Tune, readonly TuneWindow[]>();

type Strings = ReturnType<typeof stringChoices>;
const choices = new WeakMap<Limits, Map<string, Strings>>();

function choicesOf(
  instrument: VersionContext['instrument'],
  tuning: VersionContext['tuning'],
  limits: Limits,
): Strings {
  const key = JSON.stringify([instrument.id, instrument.reach, instrument.hand, tuning.pitches]);
  const own = choices.get(limits) ?? new Map<string, Strings>();
  choices.set(limits, own);
  const found =
    own.get(key) ?? stringChoices(placesFor(instrument, tuning, limits), instrument.strings.length, limits.strings);
  own.set(key, found);
  return found;
}

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

/**
 * Where beats had to become slower, those of one rhythm become so alike: a beat that stayed quicker than most of its kind is made
 * dear. Null where there is none.
 */
function evenly(raised: Raised, { windows, fillings }: Simplified): Raised | null {
  if (raised.density.size + raised.quick.size === 0) return null;
  const kinds = new Map<string, number[]>();
  windows.forEach(({ from, to, starting }, index) => {
    if (starting.length < 2) return;
    const kind = [to - from, ...starting.map(({ onset }) => onset - from)].join(' ');
    kinds.set(kind, [...(kinds.get(kind) ?? []), index]);
  });
  const cells = new Map<string, string>();
  for (const own of kinds.values()) {
    const found = own.map((index) => cellOf(windows[index]!, fillings[index]!));
    const often = (cell: string) => found.filter((other) => other === cell).length;
    const usual = found.reduce((most, cell) => (often(cell) > often(most) ? cell : most));
    const size = (cell: string) => (cell === '' ? 0 : cell.split(' ').length);
    if (size(usual) === 0) continue;
    for (const [at, cell] of found.entries())
      if (cell !== usual && size(cell) >= size(usual)) cells.set(windows[own[at]!]!.id, usual);
  }
  return cells.size > 0 ? { ...raised, cells } : null;
}

/** Prices raised for what was broken; null where nothing can be done by prices. */
function raisedBy(
  raised: Raised,
  breaches: readonly Breach[],
  { windows, fillings, tune }: Simplified,
  tempo: Bpm,
): Raised | null {
  const density = new Map(raised.density);
  const quick = new Map(raised.quick);
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
    const once = `${map === density ? 'd' : map === quick ? 'q' : map === crossing ? 'c' : 'p'} ${key}`;
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
    // What is too fast somewhere is made slower wherever it is as quick: one rhythm for a figure.
    const everywhere = (): void => {
      if (!window) return;
      const most = Math.max(
        ...windows.map((one, index) =>
          one.to > window.from - ticksBack && one.from <= window.from ? fillings[index]!.pieces.length : 0,
        ),
      );
      // Where there is but one note to a beat, only the beats around can be rested on.
      if (most <= 1) around(density);
      else
        windows.forEach((one, index) => {
          if (fillings[index]!.pieces.length >= most) raise(quick, one.id);
        });
    };
    if (rule === 'notesPerSecond') everywhere();
    else if (rule === 'crossingsPerSecond' || rule === 'skips') around(crossing);
    else if (rule === 'doubleStops' || rule === 'drones') {
      single.add(note);
      any = true;
    } else if ((rule === 'shifts' || rule === 'accidentals') && window && spelled)
      raise(pitch, `${window.id} ${midiNumber(spelled)}`, rule === 'shifts' ? 20 : 60);
    else if (spelled && FINGER_RULES.has(rule)) raise(pitch, String(midiNumber(spelled)), BARRED);
    else if (spelled && PITCH_RULES.has(rule)) raise(pitch, String(midiNumber(spelled)), 12);
  }
  return any ? { density, quick, crossing, pitch, single, cells: raised.cells } : null;
}

const PITCH_RULES: ReadonlySet<string> = new Set(['extension', 'range', 'patterns', 'strings']);
/** What a pitch is fingered with wherever it stands: it is as good as out of place. */
const FINGER_RULES: ReadonlySet<string> = new Set([
  'fingers',
  'low1',
  'low2',
  'high3',
  'low4',
  'halfPosition',
  'maxPosition',
]);
const BARRED = 200;
