/**
 * What each key, octave and choice of strings loses of a tune at the least: beat by beat, and phrase by phrase at its best octave, without
 * the joints. So all of them can be looked at, and only the cheapest need the full search.
 */
import {
  ALL_FOLDS,
  type Limits,
  type Places,
  type TuneWindow,
  fillingsOf,
  isStrange,
  windowsOf,
  writtenBreaks,
} from '../grade/index.ts';
import {
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
} from '../music/index.ts';
import { type VersionContext, formOf, stringsUnder } from './underContract.ts';

/** A key whose home note cannot be played is none, in shares of the tune. */
const HOMELESS = 0.6;

/** What is lost at the least in a key, told beat by beat: no joint is looked at, so nothing can cost less. */
export interface QuickLook {
  /** Weight of all notes. */
  readonly all: number;
  readonly least: (limits: Limits, transpose: Semitones) => number;
  /** The same for each choice of strings. */
  readonly byStrings: (limits: Limits, transpose: Semitones) => readonly number[];
}

export function quickLook(context: VersionContext): QuickLook {
  const { tune } = context;
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
    stringsUnder(context, limits).map((places) => {
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
  const mayNot = (sound: SoundingNote) => limits.accidentals === 0 && isStrange(tune, sound);
  const weight = new Map(window.starting.map((sound, index) => [sound, window.weights[index]!]));
  const ways = fillingsOf(tune, window, limits, { playable: () => true, folds: [0] })
    .filter(({ asIs, pieces }) => !asIs || pieces.every(({ sound }) => !sound || !tooHard(tune, sound, limits)))
    .map(({ loss, pieces }) => ({
      loss,
      notes: pieces.flatMap(({ sound }): (readonly [Midi, number])[] =>
        sound ? [[mayNot(sound) ? NOWHERE : midiNumber(sound.note.heads.at(-1)!.pitch), weight.get(sound) ?? 1]] : [],
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
