/**
 * A simpler version: of each beat as much of the tune as a contract allows. Searched as a whole: what is minimised is
 * breaches first, then likeness that is lost, then effort. Dynamic programming over the beats, exact for what can be told beat
 * by beat; what can only be told of the whole (notes in two seconds, shifts in a phrase) comes back as prices, and the
 * search is run again. Section 6 of the domain.
 */
import { barIndexAt, barStarts, type Midi, type SoundingNote, type Ticks, type Tune } from '../music/index.ts';
import type { Form } from '../form/index.ts';
import { soundsAcross, writtenBreaks } from './demands.ts';
import { NOTHING_RAISED, NO_WISHES, type Raised, type Simplified, type SimplifyInput } from './search.ts';
import { isExact, stretchesOf, written } from './written.ts';
import { fillingsOf, midiOf, topOf, windowsOf, type Filling, type Piece, type TuneWindow } from './windows.ts';

/** Prices of the search, in weights of notes; what must not be stands far above what is only a pity. */
export const SEARCH_PRICES = {
  breach: 1000,
  /** What cannot be written. */
  unwritable: 100_000,
  /** A leap over more than a fifth that the tune does not have, and each semitone more. */
  leap: 40,
  leapStep: 1,
  /** One note twice where the tune has it not. */
  equal: 12,
  /** On a strong beat, something that the tune does not have in it. */
  strong: 400,
  /** A phrase's last note, and the tune's. */
  phraseEnd: 300,
  tuneEnd: 800,
  /** A phrase that is the same as an earlier one and is changed otherwise. */
  unlike: 30,
  /** The next note is moved by another octave than the one before. */
  octaveChange: 5,
  /** A note that the next richer version does not have. */
  notNested: 6,
  /** Effort: another string. */
  crossing: 0.15,
} as const;
/** Wider is a leap. */
const FIFTH = 7;
/** Places at which plain values can begin: a 128th. */
const GRID: Ticks = 105;

/**
 * So many states are followed at most: more never changed what was found for any tune of the demo. Whoever is so far behind
 * has held a note over bars that sound otherwise.
 */
const MOST_STATES = 24;

/** A way through a window: its price, and what sounds last then. */
interface Moved {
  readonly cost: number;
  readonly last: Last | null;
}

/** Prices of one run, and how each filling goes on after its first note: the same whatever was before it. */
interface Run {
  readonly raised: Raised;
  readonly after: Map<Filling, Moved>;
}

/** What sounds last. */
interface Last {
  readonly piece: Piece;
  /** Of its sound in the tune, from 1; 0 is silence. */
  readonly number: number;
  /** What it costs that it ends at a time. */
  readonly ends: Map<Ticks, number>;
  /** What sounded before a silence that the tune does not have: leaps go over it. */
  readonly over: Last | null;
}

interface State {
  readonly last: Last | null;
  readonly cost: number;
  readonly filling: Filling | null;
  readonly before: State | null;
}

/**
 * The search for one contract on one choice of strings; prices that come back from the whole may be changed between runs.
 * @example new VersionSearch({ tune: reel, form, limits: contractFor('violin', 6).limits, places: placesFor(INSTRUMENT.violin, standardTuning(INSTRUMENT.violin), contractFor('violin', 6).limits) }).solve().tune.bars.length // 4
 */
export class VersionSearch {
  readonly #input: SimplifyInput;
  readonly #windows: readonly TuneWindow[];
  readonly #search: Search;
  readonly #roots: ReadonlyMap<number, number>;

  constructor(input: SimplifyInput) {
    this.#input = input;
    this.#windows = windowsOf(input.tune, input.form);
    this.#search = new Search(input, this.#windows);
    this.#roots = rootsOf(this.#windows, input.form);
  }

  /** The cheapest fillings of all windows, and the tune that they make. */
  solve(raised: Raised = NOTHING_RAISED): Simplified {
    const first = this.#search.run(null, raised);
    // Phrases that are the same are changed alike: what the first of them became is wished for in the others.
    const wished = new Map([...this.#roots].map(([copy, root]) => [copy, first.fillings[root]!.key]));
    const best = wished.size > 0 ? this.#search.run(wished, raised) : first;
    return {
      ...best,
      plain: this.#search.priceOf(best.fillings),
      windows: this.#windows,
      tune: written(this.#input, { windows: this.#windows, fillings: best.fillings }, raised),
    };
  }
}

/** By number of a window in a phrase that is the same as an earlier one: the window there. */
function rootsOf(windows: readonly TuneWindow[], form: Form): ReadonlyMap<number, number> {
  const phrases = form.parts.flatMap(({ phrases: own }) => own);
  const byId = new Map(phrases.map((phrase) => [phrase.id, phrase]));
  const at = new Map(windows.map((window, index) => [window.from, index]));
  const found = new Map<number, number>();
  windows.forEach(({ phrase, from }, index) => {
    if (!phrase || phrase.relation.kind !== 'same') return;
    const root = byId.get(phrase.relation.of ?? '');
    const there = root && at.get(root.from + from - phrase.from);
    if (there !== undefined && there < index) found.set(index, there);
  });
  return found;
}

class Search {
  readonly #input: SimplifyInput;
  readonly #windows: readonly TuneWindow[];
  readonly #fillings: readonly (readonly Filling[])[];
  readonly #starts: readonly Ticks[];
  readonly #numbers = new Map<SoundingNote, number>();
  /** Outside the signature, where nothing may be. */
  readonly #strange: ReadonlySet<SoundingNote>;
  readonly #ends = new Map<Piece, Map<Ticks, number>>();
  readonly #own = new Map<Filling, number>();

  constructor(input: SimplifyInput, windows: readonly TuneWindow[]) {
    this.#input = input;
    this.#windows = windows;
    this.#starts = barStarts(input.tune.bars);
    let number = 0;
    for (const { starting } of windows) for (const sound of starting) this.#numbers.set(sound, (number += 1));
    this.#strange = new Set(
      input.limits.accidentals === 0
        ? windows.flatMap(({ starting }) => starting.filter((sound) => isStrange(input.tune, sound)))
        : [],
    );
    const playable = (pitch: Midi) => input.places.has(pitch);
    const { kept, locked, chosen } = input.wishes ?? NO_WISHES;
    this.#fillings = windows.map((window) => {
      const wanted = window.starting.filter(({ chain }) => chain.some(({ id }) => locked.has(id)));
      // A pickup that stays is asked for as one that may.
      const limits = kept.has(window.id) || wanted.length > 0 ? { ...input.limits, pickup: true } : input.limits;
      const all = fillingsOf(input.tune, window, limits, playable);
      if (kept.has(window.id)) return all.filter(({ asIs }) => asIs);
      const stays = all.filter(({ pieces }) =>
        wanted.every((sound) =>
          pieces.some((one) => one.sound === sound && one.from === sound.onset && one.octave === 0),
        ),
      );
      const named = stays.filter(({ key }) => key === chosen.get(window.id));
      return named.length > 0 ? named : stays.length > 0 ? stays : all.filter(({ asIs }) => asIs);
    });
  }

  /** @param alike by number of a window: the filling that is wished for, as another phrase has it */
  run(
    alike: ReadonlyMap<number, string> | null,
    raised: Raised,
  ): { readonly fillings: readonly Filling[]; readonly cost: number } {
    const run: Run = { raised, after: new Map() };
    let states = new Map<string, State>([['', { last: null, cost: 0, filling: null, before: null }]]);
    this.#windows.forEach((window, index) => {
      const next = new Map<string, State>();
      for (const state of states.values()) {
        for (const filling of this.#fillings[index]!) {
          const moved = this.#through(state.last, window, filling, run);
          const unlike = alike?.has(index) && alike.get(index) !== filling.key ? SEARCH_PRICES.unlike : 0;
          const cost = state.cost + moved.cost + unlike;
          const key = moved.last ? keyOf(moved.last) : '';
          const known = next.get(key);
          if (!known || cost < known.cost - 1e-9) next.set(key, { last: moved.last, cost, filling, before: state });
        }
      }
      states = next.size > MOST_STATES ? cheapestOf(next) : next;
    });
    let best: State | null = null;
    for (const state of states.values()) {
      const { last } = state;
      const end = this.#windows.at(-1)?.to ?? 0;
      const cost = state.cost + (last ? this.#ended(last, end) : 0);
      if (!best || cost < best.cost - 1e-9) best = { ...state, cost };
    }
    const fillings: Filling[] = [];
    for (let state = best; state?.filling; state = state.before) fillings.unshift(state.filling);
    return { fillings, cost: best?.cost ?? 0 };
  }

  /** What fillings cost with nothing raised. */
  priceOf(fillings: readonly Filling[]): number {
    const run: Run = { raised: NOTHING_RAISED, after: new Map() };
    let cost = 0;
    let last: Last | null = null;
    fillings.forEach((filling, index) => {
      const moved = this.#through(last, this.#windows[index]!, filling, run);
      cost += moved.cost;
      last = moved.last;
    });
    const end = this.#windows.at(-1)?.to ?? 0;
    return cost + (last ? this.#ended(last as Last, end) : 0);
  }

  /** Through a window by one of its fillings. */
  #through(before: Last | null, window: TuneWindow, filling: Filling, run: Run): Moved {
    const [first] = filling.pieces;
    let cost = this.#ownPrice(window, filling);
    if (!first || first.from > window.from) {
      cost += before ? this.#heldInto(before, window) : SEARCH_PRICES.unwritable;
    }
    if (!first?.sound) {
      const moved = this.#over(before, window, filling, run.raised);
      return { cost: cost + moved.cost, last: moved.last };
    }
    if (before) cost += this.#ended(before, first.from);
    cost += this.#begun(before, first, window, run.raised);
    let after = run.after.get(filling);
    if (!after) {
      const [, ...pieces] = filling.pieces;
      after = this.#over(this.#lastly(first, null), window, { ...filling, pieces }, run.raised);
      run.after.set(filling, after);
    }
    return { cost: cost + after.cost, last: after.last };
  }

  /** Through pieces, one after the other. */
  #over(before: Last | null, window: TuneWindow, { pieces, asIs }: Filling, raised: Raised): Moved {
    let cost = 0;
    let last = before;
    for (const piece of pieces) {
      if (last) cost += this.#ended(last, piece.from);
      if (piece.sound) cost += this.#begun(last, piece, window, raised);
      // Silence after silence is one silence.
      if (!(last && !piece.sound && !last.piece.sound)) last = this.#lastly(piece, piece.sound || asIs ? null : last);
    }
    return { cost, last };
  }

  #lastly(piece: Piece, over: Last | null): Last {
    return { piece, number: piece.sound ? this.#numbers.get(piece.sound)! : 0, ends: this.#endsOf(piece), over };
  }

  /** What a filling costs by itself, whatever comes before and after. */
  #ownPrice(window: TuneWindow, filling: Filling): number {
    const known = this.#own.get(filling);
    if (known !== undefined) return known;
    const { pieces } = filling;
    const { starting } = window;
    let cost = filling.loss;
    if (window.strong && starting.length > 0 && pieces[0]?.from === window.from) {
      // The first sound of the window is one of its own, so it has the pitch; silence is not.
      if (!pieces[0].sound && starting[0]!.onset === window.from) cost += SEARCH_PRICES.strong;
    }
    const end = window.phrase?.notes.at(-1);
    const endsHere = end !== undefined && starting.some(({ chain }) => chain.some(({ id }) => id === end));
    if (endsHere) {
      const sounds = pieces.some(({ sound }) => sound !== null);
      const itself = pieces.some(({ sound }) => sound?.chain.some(({ id }) => id === end));
      if (!sounds || (starting.length === 1 && !itself)) cost += SEARCH_PRICES.phraseEnd;
    }
    if (window.last) {
      const sound = starting.at(-1)!;
      if (!pieces.some((piece) => piece.sound === sound)) cost += SEARCH_PRICES.tuneEnd;
      if (pieces.at(-1)?.sound !== sound) cost += SEARCH_PRICES.tuneEnd;
    }
    this.#own.set(filling, cost);
    return cost;
  }

  /** What sounded before goes on over the beginning of a window. */
  #heldInto({ piece }: Last, { strong, starting, held, from }: TuneWindow): number {
    if (!strong || starting.length === 0 || starting[0]!.onset > from) return 0;
    const own = midiOf(piece);
    const there = [...starting, ...(held ? [held] : [])].some(
      (sound) => own !== null && (topOf(sound) - own) % 12 === 0,
    );
    return there ? 0 : SEARCH_PRICES.strong;
  }

  /** A note begins after another. */
  #begun(last: Last | null, piece: Piece, window: TuneWindow, raised: Raised): number {
    const { places, limits } = this.#input;
    const pitch = midiOf(piece)!;
    let cost = raised.density.get(window.id) ?? 0;
    cost += (raised.pitch.get(String(pitch)) ?? 0) + (raised.pitch.get(`${window.id} ${pitch}`) ?? 0);
    if (!places.has(pitch) || this.#strange.has(piece.sound!)) cost += SEARCH_PRICES.breach;
    const { upper } = this.#input;
    if (upper && upper.get(piece.sound!.note.id) !== piece.octave) cost += SEARCH_PRICES.notNested;
    const leapt = last?.over ?? last;
    if (leapt !== last && leapt) {
      const distance = Math.abs(pitch - midiOf(leapt.piece)!);
      if (distance > FIFTH) cost += SEARCH_PRICES.leap + SEARCH_PRICES.leapStep * (distance - FIFTH);
    }
    const before = last && midiOf(last.piece);
    if (before === null || before === undefined) return cost;
    const follows =
      this.#numbers.get(piece.sound!)! === last!.number + 1 &&
      piece.octave === last!.piece.octave &&
      last!.piece.sound !== null;
    if (piece.octave !== last!.piece.octave) cost += SEARCH_PRICES.octaveChange;
    const distance = Math.abs(pitch - before);
    if (!follows) {
      if (distance > FIFTH) cost += SEARCH_PRICES.leap + SEARCH_PRICES.leapStep * (distance - FIFTH);
      if (distance === 0) cost += SEARCH_PRICES.equal;
    }
    const apart = this.#apart(before, pitch);
    if (apart > 0) cost += SEARCH_PRICES.crossing + (raised.crossing.get(window.id) ?? 0);
    if (apart > 1 && !limits.skips) cost += SEARCH_PRICES.breach;
    return cost;
  }

  /** How many strings lie between two pitches at the least. */
  #apart(one: Midi, other: Midi): number {
    const { places } = this.#input;
    const [from, to] = [places.get(one) ?? [], places.get(other) ?? []];
    let least = Infinity;
    for (const a of from) for (const b of to) least = Math.min(least, Math.abs(a - b));
    return least === Infinity ? 0 : least;
  }

  /** The same piece is begun in many ways, and ends at the same price. */
  #endsOf(piece: Piece): Map<Ticks, number> {
    const known = this.#ends.get(piece) ?? new Map<Ticks, number>();
    this.#ends.set(piece, known);
    return known;
  }

  /** A piece is over: what its length breaks. */
  #ended({ piece, ends }: Last, to: Ticks): number {
    const { limits } = this.#input;
    if (!piece.sound) return limits.rests ? 0 : SEARCH_PRICES.breach;
    const known = ends.get(to);
    if (known !== undefined) return known;
    const cost = this.#endPrice(piece.sound, piece.from, to);
    ends.set(to, cost);
    return cost;
  }

  #endPrice(sound: SoundingNote, from: Ticks, to: Ticks): number {
    const { tune, limits } = this.#input;
    let broken = 0;
    const index = barIndexAt(this.#starts, from);
    const first = tune.bars[index]!;
    const start = this.#starts[index]!;
    if (isExact(sound, from, to)) {
      for (const note of sound.chain) broken += writtenBreaks(note, first, limits).length;
      if (sound.chain.length > 1 && !limits.ties) broken += 1;
    } else if (from % GRID !== 0 || to % GRID !== 0) {
      broken += SEARCH_PRICES.unwritable / SEARCH_PRICES.breach;
    } else {
      const parts = stretchesOf(tune, this.#starts, from, to);
      for (const { bar, duration } of parts) broken += writtenBreaks({ duration }, bar, limits).length;
      if (parts.length > 1 && !limits.ties) broken += 1;
    }
    if (
      !limits.syncopation &&
      soundsAcross(
        first,
        first.offset + from - start,
        to - from,
        isExact(sound, from, to) && sound.note.tuplet !== undefined,
      )
    )
      broken += 1;
    return broken * SEARCH_PRICES.breach;
  }
}

const isStrange = ({ bars }: Tune, { note, barIndex }: SoundingNote): boolean =>
  note.heads.some(({ pitch: { letter, alter } }) => (bars[barIndex]!.key.signature[letter] ?? 0) !== alter);

const cheapestOf = (states: ReadonlyMap<string, State>): Map<string, State> =>
  new Map([...states].sort(([, a], [, b]) => a.cost - b.cost).slice(0, MOST_STATES));

const keyOf = ({ number, piece, over }: Last): string =>
  `${number} ${piece.from} ${piece.octave}${over ? ` ${over.number}^${over.piece.octave}` : ''}`;
