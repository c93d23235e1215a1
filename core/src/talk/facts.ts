/** What there is to say of a phrase, as facts: where it starts, what the fingers do, what to watch, where it ends, what the bow does. */
import { dequal } from 'dequal';
import type { Arrangement } from '../arrange/index.ts';
import { isExactCopy, phrasesOf, relationInTune, type Motion, type Phrase, type Relation } from '../form/index.ts';
import type { Bowing } from '../bow/index.ts';
import { isAcross, type FingeredNote, type Stop } from '../hand/index.ts';
import {
  barLength,
  barNumbers,
  barStarts,
  beatLength,
  midi,
  pitchName,
  type BowMark,
  type Ticks,
  type Tune,
} from '../music/index.ts';

/** Notes in a row on one string, or one double stop. */
export interface FingerRun {
  readonly notes: readonly FingeredNote[];
  /** Index of the string; null where several sound together. */
  readonly string: number | null;
}

export type Watched =
  | { readonly kind: 'sign'; readonly note: FingeredNote; readonly stop: Stop }
  | {
      readonly kind: 'fourth' | 'extension' | 'block' | 'hop' | 'hold' | 'shift' | 'long' | Rhythm;
      readonly note: FingeredNote;
    };
/** What makes a rhythm hard: a triplet among plain notes, a dotted pair, a note that comes before its beat. */
type Rhythm = 'triplet' | 'dotted' | 'off-beat';

/** A thing to watch, with the bars in which it is. */
export type Watch = Watched & { readonly bars: readonly number[]; readonly beats?: number };

export interface TalkFacts {
  readonly phrase: Phrase;
  readonly like: {
    readonly label: string;
    readonly relation: Relation;
    readonly sameFingers: boolean;
    /** It begins with the other bow than the phrase that it is like. */
    readonly otherBow: boolean;
  } | null;
  readonly first: FingeredNote | null;
  readonly last: FingeredNote | null;
  /** It begins before its first bar line. */
  readonly pickup: boolean;
  readonly startsWith: BowMark | null;
  readonly endsWith: BowMark | null;
  /** Bar by bar, as people count; what comes before the first bar line stands under `PICKUP`. */
  readonly bars: readonly ToldBar[];
  readonly motions: readonly Motion[];
  readonly watch: readonly Watch[];
  /** Beats that the last note lasts. */
  readonly lastBeats: number;
  readonly bow: {
    readonly slurs: number;
    readonly longest: number;
    readonly strokes: number;
    readonly retakes: number;
    /** Notes under one bow, with the bar in which they begin. */
    readonly slurred: readonly { readonly notes: readonly FingeredNote[]; readonly bar: number }[];
  };
}

export interface ToldBar {
  readonly bar: number;
  /** Grace notes too, before the note that they belong to. */
  readonly runs: readonly FingerRun[];
  /** An earlier bar of the tune that is this one, note by note and finger by finger; null where there is none. */
  readonly as: number | null;
  /** Notes before which there is silence. */
  readonly rests: ReadonlySet<string>;
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
  const { form, bowing, fingering, tune, tempo } = arrangement;
  const phrases = phrasesOf(form);
  const numbers = barNumbers(tune.bars);
  const allOf = new Map(
    phrases.map((phrase) => {
      const own = new Set(phrase.notes);
      return [phrase.id, fingering.notes.filter(({ of }) => own.has(of))] as const;
    }),
  );
  const notesOf = new Map([...allOf].map(([id, notes]) => [id, notes.filter(({ grace }) => !grace)] as const));
  const barTeller = new BarTeller(tune);
  const rhythms = rhythmsIn(tune);
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
              otherBow: Boolean(bow && bows.get(root.id) && bow.startsWith !== bows.get(root.id)!.startsWith),
            }
          : null,
      first: notes[0] ?? null,
      last,
      // A version may rest it.
      pickup: notes[0] !== undefined && notes[0].onset < phrase.downbeat,
      startsWith: bow?.startsWith ?? null,
      endsWith: bow?.endsWith ?? null,
      bars: barTeller.told(allOf.get(phrase.id)!, phrase.downbeat),
      motions: phrase.motions,
      watch: watchedIn(notes, (note) => (note.onset < phrase.downbeat ? PICKUP : numbers[note.barIndex]!), {
        beats: (note) => note.duration / beatLength(tune.bars[note.barIndex]!.metre),
        slow: tempo < SLOW,
        rhythms,
      }),
      lastBeats: last ? last.duration / beat : 0,
      bow: bowOf(bowing, notes, numbers),
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

/** Tells bars in the order of the tune, and knows those that it has told. */
class BarTeller {
  readonly #tune: Tune;
  readonly #numbers: readonly number[];
  readonly #starts: readonly Ticks[];
  readonly #told = new Map<string, number>();

  constructor(tune: Tune) {
    this.#tune = tune;
    this.#numbers = barNumbers(tune.bars);
    this.#starts = barStarts(tune.bars);
  }

  /** @param notes of a phrase, grace notes too */
  told(notes: readonly FingeredNote[], downbeat: number): readonly ToldBar[] {
    const bars: { bar: number; notes: FingeredNote[] }[] = [];
    for (const note of notes) {
      const bar = note.onset < downbeat ? PICKUP : this.#numbers[note.barIndex]!;
      if (bars.at(-1)?.bar !== bar) bars.push({ bar, notes: [] });
      bars.at(-1)!.notes.push(note);
    }
    let end = notes[0]?.onset ?? 0;
    return bars.map(({ bar, notes: own }): ToldBar => {
      const rests = new Set<string>();
      for (const { id, grace, onset, duration } of own) {
        if (grace) continue;
        if (onset > end) rests.add(id);
        end = onset + duration;
      }
      return { bar, runs: runsOf(own), as: this.#asBefore(bar, own, rests.size > 0), rests };
    });
  }

  #asBefore(bar: number, notes: readonly FingeredNote[], rests: boolean): number | null {
    const [first, last] = [notes[0]!, notes.at(-1)!];
    const start = this.#starts[first.barIndex]!;
    const { metre, length } = this.#tune.bars[first.barIndex]!;
    // Only what fills its bar is as another bar.
    const whole = bar !== PICKUP && !rests && first.onset === start && last.onset + last.duration >= start + length;
    if (!whole || length !== barLength(metre)) return null;
    const key = JSON.stringify([
      stopsOf(notes),
      soundsOf(notes),
      notes.map(({ onset, grace, shift }) => [onset - first.onset, grace, shift !== null]),
    ]);
    const before = this.#told.get(key);
    if (before === undefined) this.#told.set(key, bar);
    return before === undefined || before === bar ? null : before;
  }
}

function runsOf(notes: readonly FingeredNote[]): readonly FingerRun[] {
  const runs: { notes: FingeredNote[]; string: number | null }[] = [];
  for (const note of notes) {
    const string = note.stops.length === 1 ? note.stops[0]!.string : null;
    const last = runs.at(-1);
    if (last && string !== null && last.string === string) last.notes.push(note);
    else runs.push({ notes: [note], string });
  }
  return runs;
}

/** Slower than this, in quarters a minute, every note is long. */
const SLOW = 72;
/** What is so common in a tune, as a share of its notes, is its own rhythm and nothing to mind. */
const USUAL_RHYTHM = 0.2;
/** However short the tune, so few are rare. */
const MOST_RARE = 3;

/** What is hard in the rhythm, by the note on which it begins. */
function rhythmsIn({ bars }: Tune): ReadonlyMap<string, Rhythm> {
  const found = new Map<string, Rhythm>();
  let count = 0;
  for (const bar of bars) {
    const beat = beatLength(bar.metre);
    bar.events.forEach((event, index) => {
      if (event.kind !== 'note') return;
      count += 1;
      const next = bar.events[index + 1];
      const into = (bar.offset + event.at) % beat;
      if (event.tuplet && (event.tuplet.edge === 'start' || bar.events[index - 1]?.tuplet === undefined))
        found.set(event.id, 'triplet');
      else if (event.tuplet) return;
      else if (into !== 0 && event.duration >= beat) found.set(event.id, 'off-beat');
      else if (event.value.dots > 0 && event.duration % beat !== 0 && next && next.duration < event.duration)
        found.set(event.id, 'dotted');
    });
  }
  const times = (kind: Rhythm) => [...found.values()].filter((one) => one === kind).length;
  const usual = new Set(
    [...found.values()].filter((kind) => times(kind) > MOST_RARE && times(kind) > USUAL_RHYTHM * count),
  );
  return new Map([...found].filter(([, kind]) => !usual.has(kind)));
}

interface Pace {
  readonly beats: (note: FingeredNote) => number;
  readonly slow: boolean;
  readonly rhythms: ReadonlyMap<string, Rhythm>;
}

/** What a teacher would say beforehand, the rarest first; the same thing on the same note in several bars is one. */
function watchedIn(
  notes: readonly FingeredNote[],
  barOf: (note: FingeredNote) => number,
  { beats, slow, rhythms }: Pace,
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
    const rhythm = rhythms.get(note.id);
    if (rhythm) add(rhythm === 'triplet' ? rhythm : `${rhythm} ${called(note)}`, { kind: rhythm, note });
  }
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
    if (!slow && long >= LONG_BEATS && note.duration > usual)
      add(`long ${long} ${called(note)}`, { kind: 'long', note }, { beats: long });
  }
  return [...found.values()].slice(0, MOST_WATCHED);
}

/** The strokes that begin in the phrase, the first time round. */
function bowOf(
  { strokes }: Pick<Bowing, 'strokes'>,
  notes: readonly FingeredNote[],
  numbers: readonly number[],
): TalkFacts['bow'] {
  const firsts = new Map(notes.map((note) => [note.id, note]));
  const own = strokes.filter(({ notes: [id], time }) => time === 1 && firsts.has(id!));
  const sizes = own.map((stroke) => stroke.notes.filter((id) => firsts.has(id)).length);
  const slurred = own.flatMap((stroke) => {
    const under = stroke.notes.flatMap((id) => firsts.get(id) ?? []);
    return under.length > 1 ? [{ notes: under, bar: numbers[under[0]!.barIndex]! }] : [];
  });
  return {
    slurred,
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
export function digestOf({ bars, startsWith, endsWith, bow: { slurred: _, ...bow } }: TalkFacts): string {
  const all = bars.flatMap(({ runs }) => runs.flatMap(({ notes }) => notes)).filter(({ grace }) => !grace);
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
