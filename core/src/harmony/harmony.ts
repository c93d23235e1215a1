/**
 * The chords under a tune: those that it brings, else found from its notes, half bar by half bar. What is added to a
 * tune must not clash with them.
 */
import { analyseForm, phrasesOf, type Form } from '../form/index.ts';
import { barStarts, chordSound, chroma, parsePitch, type PitchClass, type Ticks, type Tune } from '../music/index.ts';
import { CHORD_TONES, type Candidate, type ChordKind } from './chords.ts';
import { chordsFound } from './found.ts';

export interface Harmony {
  readonly from: Ticks;
  readonly to: Ticks;
  /** Semitones above C, each once; the root first. */
  readonly tones: readonly number[];
  /** As it is written over the staff: `Bb`, `F#m`. */
  readonly name: string;
  /** Null where a chord is written that says nothing, such as "N.C.". */
  readonly root: PitchClass | null;
  readonly kind: ChordKind;
  /** Found from the notes, not brought by the tune. */
  readonly found: boolean;
  /** Others that would do, the nearest first; only where it was found. */
  readonly other: readonly string[];
}

const known = new WeakMap<Tune, readonly Harmony[]>();

/**
 * Chords in written order, without gaps; an opening pickup has none of its own.
 * @param form its phrases, where they are known already: they come to rest on home or the dominant
 * @example harmonyOf(reel)[0].name // 'G'
 */
export function harmonyOf(tune: Tune, form?: Form): readonly Harmony[] {
  const before = known.get(tune);
  if (before) return before;
  const own = bringsChords(tune) ? brought(tune) : foundIn(tune, form);
  known.set(tune, own);
  return own;
}

/** Whether chords are written over it. @example bringsChords(reel) // false */
export const bringsChords = ({ bars }: Tune): boolean =>
  bars.some(({ events }) => events.some(({ chordSymbol }) => chordSymbol !== undefined));

/**
 * The chords that are found from the notes, whether others are written or not.
 * @example foundIn(reel)[0].found // true
 */
export function foundIn(tune: Tune, form = analyseForm(tune)): readonly Harmony[] {
  const rests = phrasesOf(form).map(({ to }) => to);
  return chordsFound(tune, rests).map(({ span: { from, to }, chord, other }) => ({
    ...fromCandidate(chord),
    from,
    to,
    found: true,
    other: other.map(({ symbol }) => symbol),
  }));
}

const fromCandidate = ({ tones, symbol, root, kind }: Candidate) => ({ tones, name: symbol, root, kind });

function brought({ bars }: Tune): readonly Harmony[] {
  const starts = barStarts(bars);
  const chords: Harmony[] = [];
  bars.forEach((bar, index) => {
    for (const { at, chordSymbol } of bar.events) {
      if (chordSymbol === undefined) continue;
      chords.push({ from: starts[index]! + at, to: 0, ...chordNamed(chordSymbol), found: false, other: [] });
    }
  });
  const end = starts.at(-1)!;
  return chords.map((chord, index) => ({ ...chord, to: chords[index + 1]?.from ?? end }));
}

/**
 * A chord by its symbol.
 * @example chordNamed('F#m7').kind // 'minor-seventh'
 */
export function chordNamed(symbol: string): Pick<Harmony, 'tones' | 'name' | 'root' | 'kind'> {
  const sound = chordSound(symbol);
  const match = /^\s*([A-G])([#b♯♭]?)/.exec(symbol);
  if (!sound || !match) return { tones: [], name: symbol, root: null, kind: 'other' };
  const { letter, alter } = parsePitch(`${match[1]}${match[2]!.replace('♯', '#').replace('♭', 'b')}4`)!;
  const root = { letter, alter };
  const low = chroma(root);
  const above = new Set(sound.map((pitch) => (((pitch - low) % 12) + 12) % 12));
  const kinds = Object.entries(CHORD_TONES) as [Exclude<ChordKind, 'other'>, readonly number[]][];
  // A bass of its own is no tone of the chord; colours above the seventh do not change what it is.
  const kind = kinds
    .filter(([, tones]) => tones.every((tone) => above.has(tone)))
    .sort((a, b) => b[1].length - a[1].length)[0];
  const tones = [...new Set(sound.map((pitch) => pitch % 12))].sort(
    (a, b) => ((a - low + 12) % 12) - ((b - low + 12) % 12),
  );
  return { tones, name: symbol, root, kind: kind?.[0] ?? 'other' };
}

/**
 * The tune with its found chords written over its notes, one of them otherwise; where it brought chords, only that one changes.
 * @param at where the chord begins; null writes what was found
 * @param name of the chord, empty to take it away
 * @example withChord(reel, 0, 'G').bars[0].events[0].chordSymbol // 'G'
 */
export function withChord(tune: Tune, at: Ticks | null, name: string): Tune {
  const starts = barStarts(tune.bars);
  const own = harmonyOf(tune);
  // Chords that go on are not written again.
  const written = own[0]?.found ? own.filter((one, index) => one.name !== own[index - 1]?.name) : [];
  const names = new Map(written.map((one) => [one.from, one.name]));
  if (at !== null) {
    names.set(at, name);
    // What was one with it before begins anew after it.
    const next = own.find((one) => one.from > at);
    if (own[0]?.found && next && !names.has(next.from)) names.set(next.from, next.name);
  }
  return {
    ...tune,
    bars: tune.bars.map((bar, index) => ({
      ...bar,
      events: bar.events.map((event) => {
        const chord = names.get(starts[index]! + event.at);
        if (chord === undefined) return event;
        const { chordSymbol: _, ...rest } = event;
        return chord === '' ? rest : { ...rest, chordSymbol: chord };
      }),
    })),
  };
}

/** Index of the first chord that begins at a time or later; found by halving, for it is asked for note by note. */
function firstFrom(harmony: readonly Harmony[], time: Ticks): number {
  let [low, high] = [0, harmony.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (harmony[middle]!.from < time) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The chord under a place. @example chordAt(harmonyOf(reel), 0).name // 'G' */
export const chordAt = (harmony: readonly Harmony[], time: Ticks): Harmony | null =>
  harmony[firstFrom(harmony, time + 1) - 1] ?? null;

/** The chords that begin in a stretch. @example chordsWithin(harmonyOf(reel), 0, 1).length // 1 */
export const chordsWithin = (harmony: readonly Harmony[], from: Ticks, to: Ticks): readonly Harmony[] =>
  harmony.slice(firstFrom(harmony, from), firstFrom(harmony, to));
