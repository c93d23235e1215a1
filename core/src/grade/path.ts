/**
 * The cheapest way through the windows of a tune: dynamic programming over what sounds last, since when, and at which octave its
 * phrase lies. Exact for what can be told beat by beat.
 */
import { barIndexAt, barStarts, midi, type Midi, type SoundingNote, type Ticks } from '../music/index.ts';
import { soundsAcross, writtenBreaks } from './demands.ts';
import { MOVED, fillingsOf, midiOf, type Filling, type Piece, type Use } from './fillings.ts';
import { NOTHING_RAISED, NO_WISHES, cellOf, type Raised, type SimplifyInput } from './search.ts';
import { SEARCH_PRICES } from './searchPrices.ts';
import { isExact, stretchesOf } from './written.ts';
import { downbeatsOf, foldsFor } from './phrases.ts';
import { foldIdOf, isStrange, topOf, type TuneWindow } from './windows.ts';

/** A step, in semitones. */
const STEP = 2;
/** Wider is a leap. */
const FIFTH = 7;
/** Places at which plain values can begin: a 128th. */
const GRID: Ticks = 105;

/**
 * So many states are followed at most. Measured on the demo's tunes, all instruments, grades 1 to 3: with 150 only a chromatic study came
 * out 0.01 nearer to its tune, in four times the time. Whoever is so far behind has held a note over bars that sound otherwise.
 */
const MOST_STATES = 24;
/** With the strokes counted there are two of each. */
const MOST_COUNTED = 40;

/** A way through a window: its price, and what sounds last then. */
interface Moved {
  readonly cost: number;
  readonly last: Last | null;
}

/** Fillings of a window that begin with the same note: what it costs to begin it is asked once for whatever was before. */
interface Beginning {
  /** Null where nothing begins with the window: what sounded goes on, or it is silent first. */
  readonly first: Piece | null;
  readonly fillings: readonly Filling[];
}

/** What sounds last. */
interface Last {
  /** The same for what is the same, so that ways are told apart by numbers. */
  readonly id: number;
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
  /** Octaves by which the phrase is moved; null until something begins in it. */
  readonly fold: number | null;
  /** Strokes since the first downbeat, whether their number is odd; 0 where nobody counts them. */
  readonly odd: 0 | 1;
  readonly cost: number;
  readonly filling: Filling | null;
  readonly before: State | null;
}

/** A filling for each window. */
export interface Chosen {
  readonly fillings: readonly Filling[];
  readonly cost: number;
}

export class WindowPath {
  readonly #input: SimplifyInput;
  readonly #windows: readonly TuneWindow[];
  readonly #fillings: readonly (readonly Filling[])[];
  readonly #starts: readonly Ticks[];
  readonly #numbers = new Map<SoundingNote, number>();
  /** Outside the signature, where nothing may be. */
  readonly #strange: ReadonlySet<SoundingNote>;
  /** Weights of sounds; and by the last sound of a phrase, from which side the tune reaches it. */
  readonly #weights = new Map<SoundingNote, number>();
  readonly #sides = new Map<SoundingNote, number>();
  readonly #lasts = new Map<string, Last>();
  readonly #beginnings: readonly (readonly Beginning[])[];
  readonly #own = new Map<Filling, number>();
  /** A stroke to each note and no lifting: then a phrase begins down where the ones before it have an even number. */
  readonly #counted: boolean;
  /** Windows on the first downbeat of a phrase; whether it is the first of all. */
  readonly #downbeats: ReadonlyMap<number, boolean>;
  readonly #strokes = new Map<Filling, number>();

  constructor(input: SimplifyInput, windows: readonly TuneWindow[]) {
    this.#input = input;
    this.#windows = windows;
    this.#starts = barStarts(input.tune.bars);
    let number = 0;
    let before: SoundingNote | null = null;
    for (const { starting, weights, phrase } of windows) {
      starting.forEach((sound, index) => {
        this.#numbers.set(sound, (number += 1));
        this.#weights.set(sound, weights[index]!);
        const ends = sound.chain.some(({ id }) => id === phrase?.notes.at(-1));
        if (ends && before) this.#sides.set(sound, Math.sign(topOf(sound) - topOf(before)));
        before = sound;
      });
    }
    this.#strange = new Set(
      input.limits.accidentals === 0
        ? windows.flatMap(({ starting }) => starting.filter((sound) => isStrange(input.tune, sound)))
        : [],
    );
    const folds = foldsFor(windows, input.places, input.limits);
    const use: Omit<Use, 'folds'> = {
      playable: (pitch) => input.places.has(pitch),
      skips: input.limits.skips,
      isStrange: (sound) => this.#strange.has(sound),
    };
    const { kept, locked, chosen } = input.wishes ?? NO_WISHES;
    const unfolded = new Set(windows.filter(({ id }) => kept.has(foldIdOf(id))).map(({ phrase }) => phrase));
    this.#fillings = windows.map((window) => {
      const wanted = window.starting.filter(({ chain }) => chain.some(({ id }) => locked.has(id)));
      // A pickup that stays is asked for as one that may.
      const limits = kept.has(window.id) || wanted.length > 0 ? { ...input.limits, pickup: true } : input.limits;
      // A phrase that was taken back to its place stays there, whatever that breaks.
      const own: Use = unfolded.has(window.phrase)
        ? { ...use, folds: NO_FOLDS, playable: () => true }
        : { ...use, folds: folds.get(window.phrase)! };
      const waysWith = (octaves: boolean) => fillingsOf(input.tune, window, limits, { ...own, octaves });
      const usual = waysWith(false);
      const named = chosen.get(window.id);
      // A single note at another octave is only there where a teacher chose it.
      const all = named === undefined || usual.some(({ key }) => key === named) ? usual : waysWith(true);
      if (kept.has(window.id)) return all.filter(({ asIs }) => asIs);
      const stays = all.filter(({ pieces }) =>
        wanted.every((sound) =>
          pieces.some((one) => one.sound === sound && one.from === sound.onset && one.octave === 0 && !one.instead),
        ),
      );
      const picked = stays.filter(({ key }) => key === named);
      return picked.length > 0 ? picked : stays.length > 0 ? stays : all.filter(({ asIs }) => asIs);
    });
    this.#beginnings = this.#fillings.map((own) => beginningsOf(own, this.#numbers));
    this.#counted = input.limits.maxSlur === 1 && !input.limits.retakes;
    this.#downbeats = this.#counted ? downbeatsOf(input.tune, windows) : new Map();
    for (const filling of this.#counted ? this.#fillings.flat() : [])
      this.#strokes.set(filling, filling.pieces.filter(({ sound }) => sound !== null).length % 2);
  }

  #atDownbeat(state: State, isFirst: boolean): State {
    if (isFirst) return { ...state, odd: 0 };
    return state.odd === 0 ? state : { ...state, cost: state.cost + SEARCH_PRICES.beginsUp };
  }

  /** @param alike by number of a window: the filling that is wished for, as another phrase has it */
  run(alike: ReadonlyMap<number, string> | null, raised: Raised): Chosen {
    const after = new Map<Filling, Moved>();
    let states: readonly State[] = [{ last: null, fold: null, odd: 0, cost: 0, filling: null, before: null }];
    this.#windows.forEach((window, index) => {
      const next = new Map<number, State>();
      const wished = alike?.get(index);
      const downbeat = this.#downbeats.get(index);
      for (const given of states) {
        const state = downbeat === undefined ? given : this.#atDownbeat(given, downbeat);
        const fold = window.joint ? null : state.fold;
        for (const { first, fillings } of this.#beginnings[index]!) {
          let begun = -1;
          for (const filling of fillings) {
            if (fold !== null && filling.fold !== null && filling.fold !== fold) continue;
            let moved: Moved;
            let cost = state.cost + (wished === undefined || wished === filling.key ? 0 : SEARCH_PRICES.unlike);
            if (first) {
              if (begun < 0) begun = this.#beginning(state.last, first, window, raised);
              moved = after.get(filling) ?? this.#goingOn(window, filling, raised, after);
              cost += begun + moved.cost;
            } else {
              moved = this.#through(state.last, window, filling, raised);
              cost += moved.cost;
            }
            const own = filling.fold ?? fold;
            const odd = this.#counted ? ((state.odd ^ this.#strokes.get(filling)!) as 0 | 1) : 0;
            const key = moved.last ? (moved.last.id * FOLD_KEYS + (own ?? 2) + 1) * 2 + odd : -1 - odd;
            const known = next.get(key);
            if (known === undefined || cost < known.cost - 1e-9)
              next.set(key, { last: moved.last, fold: own, odd, cost, filling, before: state });
          }
        }
      }
      states = [...next.values()];
      const most = this.#counted ? MOST_COUNTED : MOST_STATES;
      if (states.length > most) states = states.toSorted((a, b) => a.cost - b.cost).slice(0, most);
    });
    let best: State | null = null;
    for (const state of states) {
      const { last } = state;
      const end = this.#windows.at(-1)?.to ?? 0;
      const cost = state.cost + (last ? this.#ended(last, end) : 0);
      if (!best || cost < best.cost - 1e-9) best = { ...state, cost };
    }
    const fillings: Filling[] = [];
    for (let state = best; state?.filling; state = state.before) fillings.push(state.filling);
    return { fillings: fillings.reverse(), cost: best?.cost ?? 0 };
  }

  /** What fillings cost with nothing raised. */
  priceOf(fillings: readonly Filling[]): number {
    let cost = 0;
    let last: Last | null = null;
    fillings.forEach((filling, index) => {
      const moved = this.#through(last, this.#windows[index]!, filling, NOTHING_RAISED);
      cost += moved.cost;
      last = moved.last;
    });
    const end = this.#windows.at(-1)?.to ?? 0;
    return cost + (last ? this.#ended(last as Last, end) : 0);
  }

  /** Up to the first note that begins in a window: what sounded goes on until then, and ends. */
  #beginning(before: Last | null, first: Piece, window: TuneWindow, raised: Raised): number {
    let cost = 0;
    if (first.from > window.from) cost += before ? this.#heldInto(before, window) : SEARCH_PRICES.unwritable;
    if (before) cost += this.#ended(before, first.from);
    return cost + this.#begun(before, first, window, raised);
  }

  /** From the first note of a filling on: the same whatever was before it. */
  #goingOn(window: TuneWindow, filling: Filling, raised: Raised, known: Map<Filling, Moved>): Moved {
    const [first, ...pieces] = filling.pieces;
    const moved = this.#over(this.#lastly(first!, null), window, { ...filling, pieces }, raised);
    const cell = raised.cells.get(window.id);
    const uneven =
      cell !== undefined && filling.pieces.length > 1 && cellOf(window, filling) !== cell ? SEARCH_PRICES.uneven : 0;
    const quick = (raised.quick.get(window.id) ?? 0) * (filling.pieces.length - 1);
    const whole = { cost: moved.cost + this.#ownPrice(window, filling) + uneven + quick, last: moved.last };
    known.set(filling, whole);
    return whole;
  }

  /** Through a window by one of its fillings. */
  #through(before: Last | null, window: TuneWindow, filling: Filling, raised: Raised): Moved {
    const [first] = filling.pieces;
    if (first?.sound) {
      const begun = this.#beginning(before, first, window, raised);
      const moved = this.#goingOn(window, filling, raised, new Map());
      return { cost: begun + moved.cost, last: moved.last };
    }
    let cost = this.#ownPrice(window, filling);
    if (!first || first.from > window.from) cost += before ? this.#heldInto(before, window) : SEARCH_PRICES.unwritable;
    const moved = this.#over(before, window, filling, raised);
    return { cost: cost + moved.cost, last: moved.last };
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
    const number = piece.sound ? this.#numbers.get(piece.sound)! : 0;
    const key = keyOf(number, piece, over);
    let known = this.#lasts.get(key);
    if (!known) {
      known = { id: this.#lasts.size, piece, number, ends: new Map(), over };
      this.#lasts.set(key, known);
    }
    return known;
  }

  /** What a filling costs by itself, whatever comes before and after. */
  #ownPrice(window: TuneWindow, filling: Filling): number {
    const known = this.#own.get(filling);
    if (known !== undefined) return known;
    const { pieces } = filling;
    const { starting } = window;
    let cost = filling.loss;
    const [first] = pieces;
    if (window.strong && first?.from === window.from) {
      // The first sound of the window is one of its own, so it has the pitch; silence is not, nor another note of the chord.
      if (!first.sound && starting[0]?.onset === window.from) cost += SEARCH_PRICES.silent;
      const stands = starting[0]?.onset === window.from ? starting[0] : null;
      if (first.instead) cost += SEARCH_PRICES.replaced;
      else if (first.sound && stands && (topOf(first.sound) - topOf(stands)) % 12 !== 0)
        cost += SEARCH_PRICES.displaced;
    }
    if (!filling.asIs && starting.length > 0 && (first ? first.from > window.from : false)) {
      const alike = starting.some(({ onset }) => onset === first!.from) && starting[0]!.onset > window.from;
      if (!alike) cost += SEARCH_PRICES.newEntry;
    }
    const end = window.phrase?.notes.at(-1);
    const endsHere = end !== undefined && starting.some(({ chain }) => chain.some(({ id }) => id === end));
    if (endsHere) {
      const sounds = pieces.some(({ sound }) => sound !== null);
      const itself = pieces.some(({ sound, instead }) => !instead && sound?.chain.some(({ id }) => id === end));
      if (!sounds || (starting.length === 1 && !itself)) cost += SEARCH_PRICES.phraseEnd;
    }
    if (window.last) {
      const sound = starting.at(-1)!;
      if (!pieces.some((piece) => piece.sound === sound && !piece.instead)) cost += SEARCH_PRICES.tuneEnd;
      if (pieces.at(-1)?.sound !== sound) cost += SEARCH_PRICES.tuneEnd;
    }
    this.#own.set(filling, cost);
    return cost;
  }

  /** What sounded before goes on over the beginning of a window. */
  #heldInto({ piece }: Last, { strong, starting, held, from }: TuneWindow): number {
    const own = midiOf(piece);
    // Silence that goes on is silence anew.
    if (own === null) return starting.length === 0 ? 0 : strong ? SEARCH_PRICES.silent : SEARCH_PRICES.silentWithin;
    if (!strong || starting.length === 0 || starting[0]!.onset > from) return 0;
    if ((topOf(starting[0]!) - own) % 12 === 0) return 0;
    const there = [...starting, ...(held ? [held] : [])].some((sound) => (topOf(sound) - own) % 12 === 0);
    return there ? SEARCH_PRICES.displaced : SEARCH_PRICES.strong;
  }

  /** A note begins after another. */
  #begun(last: Last | null, piece: Piece, window: TuneWindow, raised: Raised): number {
    const { places, limits, upper } = this.#input;
    const sound = piece.sound!;
    const pitch = midiOf(piece)!;
    let cost = raised.density.get(window.id) ?? 0;
    cost += (raised.pitch.get(String(pitch)) ?? 0) + (raised.pitch.get(`${window.id} ${pitch}`) ?? 0);
    if (!places.has(pitch) || (this.#strange.has(sound) && !piece.instead)) cost += SEARCH_PRICES.breach;
    if (upper && !upper.has(sound.note.id)) cost += SEARCH_PRICES.notNested;
    const leapt = last?.over ?? last;
    if (leapt !== last && leapt) {
      const distance = Math.abs(pitch - midiOf(leapt.piece)!);
      if (distance > FIFTH) cost += SEARCH_PRICES.leap + SEARCH_PRICES.leapStep * (distance - FIFTH);
    }
    const before = last && midiOf(last.piece);
    if (before === null || before === undefined) return cost;
    const number = this.#numbers.get(sound)!;
    if (number === last!.number) return cost + (limits.ties ? SEARCH_PRICES.equal : SEARCH_PRICES.again);
    // What comes late to its beat was counted as left out where it began.
    if (sound.onset < window.from) cost -= (1 - MOVED) * this.#weights.get(sound)!;
    const folded = piece.octave !== last!.piece.octave;
    const plain = !folded && !piece.instead && !last!.piece.instead;
    const follows = number === last!.number + 1 && plain;
    if (folded) cost += window.joint ? SEARCH_PRICES.joint : SEARCH_PRICES.octaveAlone;
    const moved = pitch - before;
    const distance = Math.abs(moved);
    if (!follows) {
      if (distance > FIFTH) cost += SEARCH_PRICES.leap + SEARCH_PRICES.leapStep * (distance - FIFTH);
      if (distance === 0) cost += folded && window.joint ? SEARCH_PRICES.equalAtJoint : SEARCH_PRICES.equal;
    }
    if (!plain) {
      const tune = topOf(sound) - topOf(last!.piece.sound!);
      if (Math.sign(tune) !== Math.sign(moved))
        cost += window.strong && piece.from === window.from ? SEARCH_PRICES.turned : SEARCH_PRICES.turnedWithin;
      if (Math.abs(tune) <= STEP && distance >= FIFTH) cost += SEARCH_PRICES.stepLost;
    }
    const side = this.#sides.get(sound);
    if (side !== undefined && side !== 0 && Math.sign(moved) !== side) cost += SEARCH_PRICES.otherSide;
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
    let [broken, added] = [0, 0];
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
      if (parts.length > 1) {
        if (limits.ties) added += SEARCH_PRICES.newTie;
        else broken += 1;
      }
    }
    const exact = isExact(sound, from, to);
    if (soundsAcross(first, first.offset + from - start, to - from, exact && sound.note.tuplet !== undefined)) {
      if (!limits.syncopation) broken += 1;
      else if (!exact) added += SEARCH_PRICES.newSyncopation;
    }
    return added + broken * SEARCH_PRICES.breach;
  }
}

const NO_FOLDS = [0] as const;

const keyOf = (number: number, { from, octave, instead }: Piece, over: Last | null): string =>
  `${number} ${from} ${octave}${instead ? `=${midi(instead)}` : ''}${over ? ` ${over.number}^${over.piece.octave}` : ''}`;

/** Octaves −1, 0, 1, and none yet. */
const FOLD_KEYS = 4;

function beginningsOf(fillings: readonly Filling[], numbers: ReadonlyMap<SoundingNote, number>): readonly Beginning[] {
  const found = new Map<string, { readonly first: Piece | null; readonly fillings: Filling[] }>();
  for (const filling of fillings) {
    const first = filling.pieces[0]?.sound ? filling.pieces[0] : null;
    const key = first ? keyOf(numbers.get(first.sound!)!, first, null) : '';
    const known = found.get(key);
    if (known) known.fillings.push(filling);
    else found.set(key, { first, fillings: [filling] });
  }
  return [...found.values()];
}
