/** What there is to say of a phrase, as facts: where it starts, what the fingers do, what to watch, where it ends, what the bow does. */
import { dequal } from 'dequal';
import type { Arrangement } from '../arrange/index.ts';
import { isExactCopy, phrasesOf, relationInTune, type Motion, type Phrase, type Relation } from '../form/index.ts';
import type { Bowing } from '../bow/index.ts';
import { isAcross, type FingeredNote, type Stop } from '../hand/index.ts';
import { barNumbers, beatLength, midi, pitchName, type BowMark } from '../music/index.ts';

/** Notes in a row on one string, or one double stop. */
export interface FingerRun {
  readonly notes: readonly FingeredNote[];
  /** Index of the string; null where several sound together. */
  readonly string: number | null;
}

export type Watched =
  | { readonly kind: 'sign'; readonly note: FingeredNote; readonly stop: Stop }
  | {
      readonly kind: 'fourth' | 'extension' | 'block' | 'hop' | 'hold' | 'shift' | 'long';
      readonly note: FingeredNote;
    };

/** A thing to watch, with the bars in which it is. */
export type Watch = Watched & { readonly bars: readonly number[]; readonly beats?: number };

export interface TalkFacts {
  readonly phrase: Phrase;
  readonly like: { readonly label: string; readonly relation: Relation; readonly sameFingers: boolean } | null;
  readonly first: FingeredNote | null;
  readonly last: FingeredNote | null;
  /** It begins before its first bar line. */
  readonly pickup: boolean;
  readonly startsWith: BowMark | null;
  readonly endsWith: BowMark | null;
  /** Bar by bar, as people count; what comes before the first bar line stands under `PICKUP`. */
  readonly bars: readonly { readonly bar: number; readonly runs: readonly FingerRun[] }[];
  readonly motions: readonly Motion[];
  readonly watch: readonly Watch[];
  /** Beats that the last note lasts. */
  readonly lastBeats: number;
  readonly bow: {
    readonly slurs: number;
    readonly longest: number;
    readonly strokes: number;
    readonly retakes: number;
  };
}

export const PICKUP = 0;
/** A note of so many beats is held for its full value. */
const LONG_BEATS = 2;
/** So many things are to be watched at the most: nobody minds more at once. */
const MOST_WATCHED = 3;

/**
 * Facts of each phrase, in the order of the tune.
 * @example talkFacts(arrangement).length // 2
 */
export function talkFacts(arrangement: Arrangement): readonly TalkFacts[] {
  const { form, bowing, fingering, tune } = arrangement;
  const phrases = phrasesOf(form);
  const numbers = barNumbers(tune.bars);
  const notesOf = new Map(
    phrases.map((phrase) => {
      const own = new Set(phrase.notes);
      return [phrase.id, fingering.notes.filter(({ of, grace }) => own.has(of) && !grace)] as const;
    }),
  );
  const bows = new Map(bowing.phrases.map((one) => [one.id, one]));
  return phrases.map((phrase): TalkFacts => {
    const notes = notesOf.get(phrase.id)!;
    const root = phrases.find(({ id }) => id === phrase.relation.of);
    const last = notes.at(-1) ?? null;
    const beat = beatLength(tune.bars[last?.barIndex ?? 0]!.metre);
    const bow = bows.get(phrase.id);
    return {
      phrase,
      like:
        // Note for note the same is only said where it is so.
        root &&
        phrase.relation.kind !== 'new' &&
        (!isExactCopy(phrase.relation) || sameNotes(notes, notesOf.get(root.id)!))
          ? {
              label: root.label,
              relation: relationInTune(tune, phrase),
              sameFingers: phrase.relation.kind === 'same' && sameFingers(notes, notesOf.get(root.id)!),
            }
          : null,
      first: notes[0] ?? null,
      last,
      // A version may rest it.
      pickup: notes[0] !== undefined && notes[0].onset < phrase.downbeat,
      startsWith: bow?.startsWith ?? null,
      endsWith: bow?.endsWith ?? null,
      bars: barsOf(notes, numbers, phrase.downbeat),
      motions: phrase.motions,
      watch: watchedIn(
        notes,
        (note) => (note.onset < phrase.downbeat ? PICKUP : numbers[note.barIndex]!),
        (note) => note.duration / beatLength(tune.bars[note.barIndex]!.metre),
      ),
      lastBeats: last ? last.duration / beat : 0,
      bow: bowOf(bowing, notes),
    };
  });
}

const stopsOf = (notes: readonly FingeredNote[]) =>
  notes.map(({ stops }) => stops.map(({ string, finger, semitones }) => `${string} ${finger} ${semitones}`).join());
const soundsOf = (notes: readonly FingeredNote[]) => notes.map(({ pitches, duration }) => [pitches, duration]);
const sameNotes = (some: readonly FingeredNote[], others: readonly FingeredNote[]): boolean =>
  dequal(soundsOf(some), soundsOf(others));
const sameFingers = (some: readonly FingeredNote[], others: readonly FingeredNote[]): boolean =>
  stopsOf(some).join('|') === stopsOf(others).join('|');

function barsOf(notes: readonly FingeredNote[], numbers: readonly number[], downbeat: number): TalkFacts['bars'] {
  const bars: { bar: number; runs: { notes: FingeredNote[]; string: number | null }[] }[] = [];
  for (const note of notes) {
    const bar = note.onset < downbeat ? PICKUP : numbers[note.barIndex]!;
    if (bars.at(-1)?.bar !== bar) bars.push({ bar, runs: [] });
    const { runs } = bars.at(-1)!;
    const string = note.stops.length === 1 ? note.stops[0]!.string : null;
    const last = runs.at(-1);
    if (last && string !== null && last.string === string) last.notes.push(note);
    else runs.push({ notes: [note], string });
  }
  return bars;
}

/** What a teacher would say beforehand, the rarest first; the same thing on the same note in several bars is one. */
function watchedIn(
  notes: readonly FingeredNote[],
  barOf: (note: FingeredNote) => number,
  beats: (note: FingeredNote) => number,
): readonly Watch[] {
  const found = new Map<string, Watch>();
  const add = (key: string, watch: Watched, more: { readonly beats?: number } = {}): void => {
    const bar = barOf(watch.note);
    const known = found.get(key);
    if (!known) found.set(key, { ...watch, bars: [bar], ...more });
    else if (!known.bars.includes(bar)) found.set(key, { ...known, bars: [...known.bars, bar] });
  };
  for (const note of notes) if (note.shift) add(`shift ${note.id}`, { kind: 'shift', note });
  const called = ({ pitches }: FingeredNote) => pitches.map(pitchName).join();
  for (const note of notes) if (note.extension) add(`extension ${called(note)}`, { kind: 'extension', note });
  notes.forEach((note, index) => {
    if (isAcross(note, notes[index - 1])) add(`block ${called(note)}`, { kind: 'block', note });
    if (note.hop && index > 0) add(`hop ${called(note)}`, { kind: 'hop', note });
  });
  for (const note of notes) {
    for (const stop of note.stops) {
      if (stop.sign === 'low' || stop.sign === 'high') {
        add(`${stop.sign} ${stop.finger} ${stop.string}`, { kind: 'sign', note, stop });
      }
    }
  }
  // A long note among long ones is nothing to mind.
  const usual = [...notes].sort((a, b) => a.duration - b.duration)[Math.floor(notes.length / 2)]?.duration ?? 0;
  for (const note of notes.slice(0, -1)) {
    const long = beats(note);
    if (long >= LONG_BEATS && note.duration > usual)
      add(`long ${long} ${called(note)}`, { kind: 'long', note }, { beats: long });
  }
  return [...found.values()].slice(0, MOST_WATCHED);
}

/** The strokes that begin in the phrase, the first time round. */
function bowOf({ strokes }: Pick<Bowing, 'strokes'>, notes: readonly FingeredNote[]): TalkFacts['bow'] {
  const firsts = new Set(notes.map(({ id }) => id));
  const own = strokes.filter(({ notes: [id], time }) => time === 1 && firsts.has(id!));
  const sizes = own.map((stroke) => stroke.notes.filter((id) => firsts.has(id)).length);
  return {
    slurs: sizes.filter((size) => size > 1).length,
    longest: Math.max(0, ...sizes),
    strokes: own.length,
    retakes: own.filter(({ retake }) => retake).length,
  };
}

/**
 * What a text was made from: another one where notes, fingers or bows are others.
 * @example digestOf(talkFacts(arrangement)[0]) === digestOf(talkFacts(arrangement)[0]) // true
 */
export function digestOf({ bars, startsWith, endsWith, bow }: TalkFacts): string {
  const all = bars.flatMap(({ runs }) => runs.flatMap(({ notes }) => notes));
  const text = JSON.stringify([
    stopsOf(all),
    all.map(({ pitches, duration }) => [pitches.map(midi), duration]),
    startsWith,
    endsWith,
    bow,
  ]);
  // FNV-1a: short, and enough to tell that something changed.
  let hash = 0x811c9dc5;
  for (let index = 0; index < text.length; index += 1)
    hash = Math.imul(hash ^ text.charCodeAt(index), 0x01000193) >>> 0;
  return hash.toString(16);
}
