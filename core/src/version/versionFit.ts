/** The search for one contract: on the best strings, in the best key, with prices raised for what only hand and bow can tell. */
import { formLike, layoutOf } from '../form/index.ts';
import {
  type Breach,
  type Limits,
  NOTHING_RAISED,
  type Raised,
  type Simplified,
  VersionSearch,
  type Wishes,
} from '../grade/index.ts';
import {
  type Bpm,
  type Note,
  type Pitch,
  type Semitones,
  TICKS_PER_QUARTER,
  type Tune,
  midi as midiNumber,
  soundingNotes,
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

/** In this key, or an octave away, where more of it lies well; in another key where that is allowed and saves much. */
export function fitTo(
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

/** The search on one choice of strings. */
export function searchFor(
  { instrument, tuning }: VersionContext,
  tune: Tune,
  limits: Limits,
  wishes: VersionWishes,
  upper: ReadonlyMap<string, number> | undefined,
  choice: number,
): VersionSearch {
  const places = choicesOf(instrument, tuning, limits)[choice]!;
  return new VersionSearch({ tune, form: formOf(tune), limits, places, wishes, ...(upper && { upper }) });
}

const choicesOf = (instrument: VersionContext['instrument'], tuning: VersionContext['tuning'], limits: Limits) =>
  stringChoices(placesFor(instrument, tuning, limits), instrument.strings.length, limits.strings);

/** The strings that are best at first are kept to. */
function bestSearch(
  context: VersionContext,
  tune: Tune,
  limits: Limits,
  wishes: VersionWishes,
  upper: ReadonlyMap<string, number> | undefined,
): { readonly search: VersionSearch; readonly cost: number; readonly plain: number; readonly choice: number } {
  return choicesOf(context.instrument, context.tuning, limits)
    .map((_, choice) => {
      const search = searchFor(context, tune, limits, wishes, upper, choice);
      const { cost, plain } = search.solve();
      return { search, cost, plain, choice };
    })
    .reduce((best, one) => (one.cost < best.cost - 1e-9 ? one : best));
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
  'fingers',
  'low1',
  'low2',
  'high3',
  'low4',
  'halfPosition',
  'maxPosition',
]);
const BARRED = 200;
