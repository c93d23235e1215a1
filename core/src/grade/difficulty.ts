/**
 * How difficult a tune is, phrase by phrase, at a tempo: features, each with its points, from 0 to 10 in all, never a
 * bare number. The same features name the hardest note. Section 6 of the domain.
 */
import type { Bowing } from '../bow/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';
import { levelOf, type FingeredNote, type Fingering } from '../hand/index.ts';
import { isRetuned, type Tuning } from '../instrument/index.ts';
import {
  TICKS_PER_QUARTER,
  beatLength,
  isNote,
  midi,
  seconds,
  soundingNotes,
  type Bar,
  type Bpm,
  type Note,
  type SoundingNote,
  type Tune,
} from '../music/index.ts';
import { soundsAcross } from './demands.ts';

export const FEATURES = [
  'speed',
  'range',
  'strings',
  'crossings',
  'position',
  'shifts',
  'extensions',
  'fourth',
  'lowHigh',
  'patterns',
  'accidentals',
  'rhythm',
  'slurs',
  'turns',
  'doubleStops',
  'graces',
  'tuning',
] as const;
export type Feature = (typeof FEATURES)[number];

/**
 * Of each feature the value at which it is as hard as it gets, and its points there; judgements. Rates are in a second,
 * shares of notes from 0 to 1.
 */
export const FEATURE_SCALE: Readonly<Record<Feature, { readonly full: number; readonly points: number }>> = {
  /** Notes a second, in the quickest two seconds. */
  speed: { full: 12, points: 3.2 },
  /** Semitones from the lowest to the highest note. */
  range: { full: 36, points: 0.8 },
  /** Different strings. */
  strings: { full: 4, points: 0.4 },
  /** Changes of string a second. */
  crossings: { full: 6, points: 1.3 },
  /** Steps above first position. */
  position: { full: 7, points: 1.2 },
  /** Changes of place a second. */
  shifts: { full: 1, points: 1.4 },
  extensions: { full: 0.3, points: 0.8 },
  fourth: { full: 0.3, points: 0.5 },
  lowHigh: { full: 0.3, points: 0.6 },
  /** Changes of finger pattern a bar. */
  patterns: { full: 2, points: 0.7 },
  accidentals: { full: 0.25, points: 0.7 },
  /** Kinds of rhythm beside plain ones, weighed. */
  rhythm: { full: 3, points: 1.2 },
  /** Notes on the longest stroke. */
  slurs: { full: 12, points: 0.6 },
  /** Lifts and stops a bar. */
  turns: { full: 1, points: 0.4 },
  doubleStops: { full: 0.5, points: 1.6 },
  graces: { full: 0.3, points: 0.7 },
  /** 1 where strings are retuned. */
  tuning: { full: 1, points: 0.3 },
};

/** The most that a difficulty is. */
const MOST = 10;
/** Seconds over which notes are counted. */
const WINDOW = 2;
/** What a kind of rhythm weighs. */
const RHYTHM = { dotted: 0.6, syncopation: 1, triplets: 0.8, sixteenths: 0.4, ties: 0.4 } as const;
/** In the tune's value of a feature, how much the hardest phrase counts beside the mean of all. */
const HARDEST = 0.7;

export type Points = Readonly<Record<Feature, number>>;

export interface PhraseDifficulty {
  readonly id: string;
  readonly label: string;
  readonly total: number;
  readonly values: Points;
  readonly points: Points;
  /** The note at which most comes together. */
  readonly hardest: string;
  /** Quarters a minute at which it is as easy as the easiest phrase at the working tempo; at most that. */
  readonly easyTempo: Bpm;
}

export interface Difficulty {
  readonly total: number;
  readonly breakdown: Readonly<
    Record<
      Feature,
      {
        readonly value: number;
        /** Share of the total. */ readonly share: number;
        /** First note of the phrase that has most of it. */ readonly where: string | null;
      }
    >
  >;
  readonly phrases: readonly PhraseDifficulty[];
}

export interface Judged {
  readonly tune: Tune;
  readonly form: Form;
  readonly fingering: Fingering;
  readonly bowing: Pick<Bowing, 'strokes'>;
  readonly tuning: Tuning;
  readonly tempo: Bpm;
}

/** @example difficultyOf(facts).total > 0 // true */
export function difficultyOf(judged: Judged): Difficulty {
  const { form, tempo } = judged;
  const parts = partsOf(judged);
  const known = phrasesOf(form).flatMap((phrase) => {
    const own = parts.get(phrase.id);
    return own && own.notes.length > 0 ? [{ phrase, own, values: valuesOf(own, tempo) }] : [];
  });
  const totals = known.map(({ values }) => totalOf(values));
  const easiest = Math.min(...totals);
  const phrases = known.map(({ phrase, own, values }, index): PhraseDifficulty => ({
    id: phrase.id,
    label: phrase.label,
    total: totals[index]!,
    values,
    points: pointsOf(values),
    hardest: hardestOf(own, tempo),
    easyTempo: easyTempo(own, tempo, easiest),
  }));
  const values = each((feature) => {
    const all = known.map((one) => one.values[feature]);
    const mean = all.reduce((sum, value) => sum + value, 0) / Math.max(1, all.length);
    return HARDEST * Math.max(0, ...all) + (1 - HARDEST) * mean;
  });
  const points = pointsOf(values);
  const sum = FEATURES.reduce((all, feature) => all + points[feature], 0);
  const where = (feature: Feature) => {
    const best = known.reduce<(typeof known)[number] | null>(
      (most, one) => (one.values[feature] > (most?.values[feature] ?? 0) ? one : most),
      null,
    );
    return best?.phrase.notes[0] ?? null;
  };
  return {
    total: Math.min(MOST, sum),
    breakdown: Object.fromEntries(
      FEATURES.map((feature) => [
        feature,
        { value: values[feature], share: sum === 0 ? 0 : points[feature] / sum, where: where(feature) },
      ]),
    ) as Difficulty['breakdown'],
    phrases,
  };
}

const each = (value: (feature: Feature) => number): Points =>
  Object.fromEntries(FEATURES.map((feature) => [feature, value(feature)])) as Record<Feature, number>;

const pointsOf = (values: Points): Points =>
  each((feature) => FEATURE_SCALE[feature].points * Math.min(1, values[feature] / FEATURE_SCALE[feature].full));

const totalOf = (values: Points): number => {
  const points = pointsOf(values);
  return Math.min(
    MOST,
    FEATURES.reduce((sum, feature) => sum + points[feature], 0),
  );
};

/** What is known of a phrase. */
interface PhraseParts {
  readonly notes: readonly FingeredNote[];
  readonly sounds: readonly { readonly sound: SoundingNote; readonly bar: Bar }[];
  readonly written: readonly { readonly note: Note; readonly bar: Bar }[];
  readonly bars: number;
  readonly longestStroke: number;
  readonly turns: number;
  readonly retuned: boolean;
  readonly weakFourth: boolean;
}

function partsOf({ tune, form, fingering, bowing, tuning }: Judged): ReadonlyMap<string, PhraseParts> {
  const phrases = phrasesOf(form);
  const of = new Map(phrases.flatMap(({ id, notes }) => notes.map((note) => [note, id] as const)));
  const group = <Thing>(things: readonly Thing[], noteOf: (thing: Thing) => string) => {
    const found = new Map<string, Thing[]>();
    for (const thing of things) {
      const id = of.get(noteOf(thing)) ?? '';
      const own = found.get(id);
      if (own) own.push(thing);
      else found.set(id, [thing]);
    }
    return found;
  };
  const notes = group(fingering.notes, (note) => note.of);
  const sounds = group(
    soundingNotes(tune).map((sound) => ({ sound, bar: tune.bars[sound.barIndex]! })),
    ({ sound }) => sound.note.id,
  );
  const written = group(
    tune.bars.flatMap((bar) => bar.events.filter(isNote).map((note) => ({ note, bar }))),
    ({ note }) => note.id,
  );
  const strokes = group(
    bowing.strokes.filter(({ time }) => time === 1),
    ({ notes: own }) => own[0]!,
  );
  const retuned = isRetuned(fingering.instrument, tuning);
  const weakFourth = ['violin', 'viola'].includes(fingering.instrument.hand);
  return new Map(
    phrases.map(({ id }) => {
      const own = strokes.get(id) ?? [];
      const bars = new Set((written.get(id) ?? []).map(({ bar }) => bar.id)).size;
      return [
        id,
        {
          notes: notes.get(id) ?? [],
          sounds: sounds.get(id) ?? [],
          written: written.get(id) ?? [],
          bars: Math.max(1, bars),
          retuned,
          weakFourth,
          longestStroke: Math.max(1, ...own.map((stroke) => stroke.notes.length)),
          turns: own.filter(({ hook, retake }) => hook || retake).length,
        },
      ];
    }),
  );
}

function valuesOf(parts: PhraseParts, tempo: Bpm): Points {
  const { notes, sounds, bars } = parts;
  const played = notes.filter(({ grace }) => !grace);
  const count = Math.max(1, played.length);
  const share = (is: (note: FingeredNote) => boolean) => played.filter(is).length / count;
  const pitches = played.flatMap((note) => note.pitches.map(midi));
  const first = sounds[0]?.sound.onset ?? 0;
  const last = sounds.at(-1)?.sound;
  const length = Math.max(0.5, seconds((last ? last.onset + last.duration : 0) - first, tempo));
  const strings = new Set(played.flatMap(({ stops }) => stops.map(({ string }) => string)));
  let crossings = 0;
  let patterns = 0;
  played.forEach((note, index) => {
    const before = played[index - 1];
    if (!before) return;
    if (before.stops.at(-1)?.string !== note.stops.at(-1)?.string) crossings += 1;
    if (signOf(before) !== null && signOf(note) !== null && signOf(before) !== signOf(note)) patterns += 1;
  });
  const level = ({ position }: FingeredNote) => (position === null ? 1 : Math.max(1, levelOf(position)));
  return {
    speed: quickest(
      sounds.map(({ sound }) => seconds(sound.onset, tempo)),
      length,
    ),
    range: pitches.length > 0 ? Math.max(...pitches) - Math.min(...pitches) : 0,
    strings: strings.size,
    crossings: crossings / length,
    position: Math.max(0, ...played.map((note) => level(note) - 1)),
    shifts: played.filter(({ shift }) => shift !== null).length / length,
    extensions: share(({ extension }) => Boolean(extension)),
    fourth: parts.weakFourth ? share(({ stops }) => stops.some(({ finger }) => finger === 4)) : 0,
    lowHigh: share(({ stops }) =>
      stops.some(
        ({ finger, sign }) => (finger === 1 && sign === 'low') || sign === 'high' || (finger === 4 && sign === 'low'),
      ),
    ),
    patterns: patterns / bars,
    accidentals:
      parts.written.filter(({ note, bar }) =>
        note.heads.some(({ pitch }) => pitch.alter !== (bar.key.signature[pitch.letter] ?? 0)),
      ).length / count,
    rhythm: rhythmOf(parts),
    slurs: parts.longestStroke - 1,
    turns: parts.turns / bars,
    doubleStops: share(({ stops }) => stops.length > 1),
    graces: notes.filter(({ grace }) => grace).length / count,
    tuning: Number(parts.retuned),
  };
}

/** Which way the second finger lies, where the note tells it. */
function signOf({ stops }: FingeredNote): string | null {
  const stop = stops.at(-1);
  return stop && stop.finger === 2 ? stop.sign : null;
}

/** Notes a second in the quickest two seconds, or over the whole where that is shorter. */
function quickest(times: readonly number[], length: number): number {
  let most = 0;
  let first = 0;
  times.forEach((time, index) => {
    while (times[first]! < time - WINDOW + 1e-9) first += 1;
    most = Math.max(most, index - first);
  });
  return most / Math.min(WINDOW, Math.max(length, 0.5));
}

function rhythmOf({ written, sounds }: PhraseParts): number {
  const has = (is: (one: { readonly note: Note; readonly bar: Bar }) => boolean) => Number(written.some(is));
  const dotted = has(({ note, bar }) => {
    const beat = beatLength(bar.metre);
    return !note.tuplet && note.duration % beat !== 0 && beat % note.duration !== 0;
  });
  const syncopated = Number(
    sounds.some(({ sound, bar }) =>
      soundsAcross(bar, bar.offset + sound.note.at, sound.duration, sound.note.tuplet !== undefined),
    ),
  );
  return (
    RHYTHM.dotted * dotted +
    RHYTHM.syncopation * syncopated +
    RHYTHM.triplets * has(({ note }) => note.tuplet !== undefined) +
    RHYTHM.sixteenths * has(({ note }) => note.duration < TICKS_PER_QUARTER / 2) +
    RHYTHM.ties * has(({ note }) => note.heads.some(({ tied }) => tied))
  );
}

/** The note at which most comes together: how soon after the one before, and what the hand has to do for it. */
function hardestOf({ notes, sounds }: PhraseParts, tempo: Bpm): string {
  const onset = new Map(sounds.map(({ sound }) => [sound.note.id, sound.onset]));
  let best = { note: notes[0]!.id, weight: -1 };
  notes.forEach((note, index) => {
    const before = notes[index - 1];
    const [own, prior] = [onset.get(note.id), before && onset.get(before.id)];
    const wait = own !== undefined && prior !== undefined ? Math.max(0.05, seconds(own - prior, tempo)) : 2;
    const does =
      (before && before.stops.at(-1)?.string !== note.stops.at(-1)?.string ? 0.6 : 0) +
      (note.shift ? 2 : 0) +
      (note.extension ? 1 : 0) +
      (note.stops.length > 1 ? 1.2 : 0) +
      (note.stops.some(({ sign }) => sign === 'low' || sign === 'high') ? 0.5 : 0) +
      (note.stops.some(({ finger }) => finger === 4) ? 0.3 : 0);
    const weight = (0.3 + does) / wait;
    if (weight > best.weight) best = { note: note.id, weight };
  });
  return best.note;
}

/** Slowest tempo that is offered, in quarters a minute. */
const SLOWEST: Bpm = 20;

/** By halves, as what depends on time only falls with the tempo. */
function easyTempo(parts: PhraseParts, tempo: Bpm, easiest: number): Bpm {
  if (totalOf(valuesOf(parts, tempo)) <= easiest + 1e-9) return tempo;
  let [low, high] = [SLOWEST, tempo];
  if (low >= high || totalOf(valuesOf(parts, low)) > easiest) return Math.min(low, high);
  while (high - low > 0.5) {
    const middle = (low + high) / 2;
    if (totalOf(valuesOf(parts, middle)) <= easiest) low = middle;
    else high = middle;
  }
  return Math.round(low);
}
