/**
 * The look-over: what a teacher wants to know of a tune before anyone fingers a note of it. Key and scale,
 * range, what lies outside, where the home note is, rhythms and chords, the usual tempo, the hardest places.
 * Facts only; their sentences are made in `words`.
 */
import {
  LETTERS,
  TICKS_PER_QUARTER,
  beatLength,
  barNumbers,
  chroma,
  isPickup,
  midi,
  placedNotes,
  signatureAlter,
  type Bpm,
  type Jump,
  type Key,
  type Metre,
  type NoteValue,
  type Pitch,
  type PitchClass,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import { LEAD_IN, TAG, findKey, formText, playedBars, readForForm, type Form } from '../form/index.ts';
import type { Arrangement } from '../arrange/index.ts';
import { hardPlaces, type HardPlace, type Stop } from '../hand/index.ts';

export interface OutsideNote {
  readonly note: PitchClass;
  readonly bars: readonly number[];
  readonly notes: readonly string[];
}

/** One note or rest of a rhythm. */
export interface RhythmPiece {
  readonly value: NoteValue;
  readonly rest: boolean;
  /** Notes in the time of fewer, 3 for a triplet; null outside of tuplets. */
  readonly tuplet: number | null;
}

export interface RhythmFigure {
  readonly pieces: readonly RhythmPiece[];
  readonly times: number;
}

export interface LookOver {
  readonly key: Key;
  /** Where the signature and the notes disagree: what is written, what is heard, and how well each fits, 0 to 1. */
  readonly doubt: {
    readonly stated: Key;
    readonly heard: Key;
    readonly statedFit: number;
    readonly heardFit: number;
  } | null;
  /** The scale's notes that occur, from the home note up, and those that do not. */
  readonly scale: readonly PitchClass[];
  readonly missing: readonly PitchClass[];
  readonly range: { readonly low: Pitch; readonly high: Pitch; readonly semitones: number } | null;
  readonly outside: readonly OutsideNote[];
  /** Where the home note lies under this hand, lowest first. */
  readonly home: readonly { readonly pitch: Pitch; readonly stops: readonly Stop[] }[];
  readonly startsOn: Pitch | null;
  readonly pickup: Ticks | null;
  /** "AABB". */
  readonly form: string;
  /** Bars of each part that is not another one's repeat. */
  readonly lengths: readonly number[];
  /** Bars as they are played. */
  readonly played: number;
  readonly repeats: {
    readonly parts: readonly { readonly label: string; readonly times: number }[];
    readonly endings: number;
    readonly jump: Jump | null;
  };
  readonly rhythms: readonly RhythmFigure[];
  /** Symbols as they are written, how many a bar on average, and in the busiest bar. */
  readonly chords: { readonly symbols: readonly string[]; readonly average: number; readonly most: number } | null;
  readonly metre: Metre;
  readonly tempo: Bpm;
  /** The usual tempo of its style, in quarters; null where the style says nothing. */
  readonly usualTempo: { readonly style: string; readonly from: Bpm; readonly to: Bpm } | null;
  readonly hard: readonly HardPlace[];
}

/** Rhythm figures shown; the rest are rare. */
const MOST_RHYTHMS = 6;

/** @example lookOver(arrange(reel)).form // 'AA' */
export function lookOver({ tune, form, fingering, tempo, hand }: Arrangement): LookOver {
  const first = tune.bars[0]!;
  const finding = findKey(readForForm(tune));
  const notes = placedNotes(tune);
  const pitches = notes.flatMap(({ note }) => note.heads.map(({ pitch }) => pitch)).sort((a, b) => midi(a) - midi(b));
  const low = pitches[0];
  const high = pitches.at(-1);
  return {
    key: first.key,
    doubt: finding?.disagrees
      ? { stated: finding.stated, heard: finding.heard, statedFit: finding.statedFit, heardFit: finding.heardFit }
      : null,
    ...scaleOf(form, pitches),
    range: low && high ? { low, high, semitones: midi(high) - midi(low) } : null,
    outside: outsideNotes(tune),
    home: homeNotes(form, fingering),
    startsOn: notes[0]?.note.heads.at(-1)!.pitch ?? null,
    pickup: isPickup(tune.bars, 0) ? first.length : null,
    form: formText(form),
    lengths: form.parts
      .filter(({ like, label }) => like === null && label !== LEAD_IN && label !== TAG)
      .map(({ length }) => length),
    played: playedBars(tune),
    repeats: {
      parts: form.parts.map(({ label, times }) => ({ label, times })),
      endings: Math.max(0, ...tune.bars.flatMap((bar) => bar.endings ?? [])),
      jump: tune.bars.find((bar) => bar.jump)?.jump ?? null,
    },
    rhythms: rhythmsOf(tune).slice(0, MOST_RHYTHMS),
    chords: chordsOf(tune),
    metre: first.metre,
    tempo,
    usualTempo: usualTempo(tune.style),
    hard: oneABar(hardPlaces(hand), fingering),
  };
}

/** A look-over names bars: of several places in one bar the hardest stands for it. */
function oneABar(places: readonly HardPlace[], { notes }: Arrangement['fingering']): readonly HardPlace[] {
  const barOf = ({ notes: [first] }: HardPlace) => notes.find(({ id }) => id === first)?.barIndex;
  return places.filter((place, index) => places.findIndex((other) => barOf(other) === barOf(place)) === index);
}

/** The seven notes of the key, as they are spelled, with what is left out. */
function scaleOf({ key }: Form, pitches: readonly Pitch[]): Pick<LookOver, 'scale' | 'missing'> {
  const from = LETTERS.indexOf(key.tonic.letter);
  const degrees = LETTERS.map((_, degree): PitchClass => {
    const letter = LETTERS[(from + degree) % 7]!;
    return { letter, alter: signatureAlter(key, letter) };
  });
  const used = new Set(pitches.map(chroma));
  const those = (there: boolean) => degrees.filter((degree) => used.has(chroma(degree)) === there);
  return { scale: those(true), missing: those(false) };
}

function outsideNotes(tune: Tune): readonly OutsideNote[] {
  const numbers = barNumbers(tune.bars);
  const found = new Map<string, { note: PitchClass; bars: Set<number>; notes: string[] }>();
  for (const { note, barIndex } of placedNotes(tune)) {
    const { key } = tune.bars[barIndex]!;
    for (const { pitch } of note.heads) {
      const { letter, alter } = pitch;
      if (alter === signatureAlter(key, letter)) continue;
      const own = found.get(`${letter}${alter}`) ?? { note: { letter, alter }, bars: new Set(), notes: [] };
      own.bars.add(numbers[barIndex]!);
      own.notes.push(note.id);
      found.set(`${letter}${alter}`, own);
    }
  }
  return [...found.values()].map(({ note, bars, notes }) => ({ note, bars: [...bars], notes }));
}

function homeNotes({ key }: Form, fingering: Arrangement['fingering']): LookOver['home'] {
  const places = new Map<string, LookOver['home'][number]>();
  for (const { stops } of fingering.notes) {
    const [stop] = stops;
    if (stops.length !== 1 || !stop || chroma(stop.pitch) !== chroma(key.tonic)) continue;
    const { string, finger, sign, pitch } = stop;
    places.set([pitch.octave, string, finger, sign].join(), { pitch, stops });
  }
  return [...places.values()].sort((a, b) => midi(a.pitch) - midi(b.pitch));
}

/** What fills a beat, or the beats that it ties together, most frequent first. */
function rhythmsOf(tune: Tune): readonly RhythmFigure[] {
  const counts = new Map<string, { pieces: RhythmPiece[]; times: number }>();
  for (const bar of tune.bars) {
    const beat = beatLength(bar.metre);
    const groups: RhythmPiece[][] = [];
    let open = false;
    for (const event of bar.events) {
      const rest = event.kind === 'rest';
      const piece = { value: event.value, rest, tuplet: rest ? null : (event.tuplet?.actual ?? null) };
      if (open) groups.at(-1)!.push(piece);
      else groups.push([piece]);
      // A figure goes on until a beat begins with a note of its own.
      open = (bar.offset + event.at + event.duration) % beat !== 0;
    }
    for (const pieces of groups) {
      const key = JSON.stringify(pieces);
      const known = counts.get(key) ?? { pieces, times: 0 };
      counts.set(key, { pieces: known.pieces, times: known.times + 1 });
    }
  }
  return [...counts.values()].sort((a, b) => b.times - a.times);
}

function chordsOf(tune: Tune): LookOver['chords'] {
  const perBar = tune.bars
    .filter((_, index) => !isPickup(tune.bars, index))
    .map((bar) => bar.events.flatMap(({ chordSymbol }) => chordSymbol ?? []));
  const symbols = [...new Set(perBar.flat())];
  if (symbols.length === 0) return null;
  const total = perBar.reduce((sum, list) => sum + list.length, 0);
  return {
    symbols,
    average: Math.round((10 * total) / perBar.length) / 10,
    most: Math.max(...perBar.map((list) => list.length)),
  };
}

/**
 * Usual tempos for dancing or singing, in beats of the metre that each style is mostly written in. Judgements:
 * players differ, and lessons are slower.
 */
const USUAL: Readonly<Record<string, { readonly beat: Ticks; readonly from: Bpm; readonly to: Bpm }>> = {
  reel: { beat: TICKS_PER_QUARTER, from: 176, to: 224 },
  jig: { beat: 1.5 * TICKS_PER_QUARTER, from: 104, to: 126 },
  'slip jig': { beat: 1.5 * TICKS_PER_QUARTER, from: 108, to: 132 },
  hornpipe: { beat: TICKS_PER_QUARTER, from: 132, to: 176 },
  polka: { beat: TICKS_PER_QUARTER, from: 112, to: 138 },
  waltz: { beat: TICKS_PER_QUARTER, from: 112, to: 160 },
  march: { beat: TICKS_PER_QUARTER, from: 88, to: 120 },
  air: { beat: TICKS_PER_QUARTER, from: 54, to: 88 },
  song: { beat: TICKS_PER_QUARTER, from: 60, to: 120 },
  study: { beat: TICKS_PER_QUARTER, from: 60, to: 100 },
};

function usualTempo(style: string): LookOver['usualTempo'] {
  const known = style.toLowerCase();
  // "swing song" is a song; "slip jig" is not just a jig.
  const name = Object.keys(USUAL)
    .filter((one) => known.includes(one))
    .sort((one, other) => other.length - one.length)[0];
  if (name === undefined) return null;
  const { beat, from, to } = USUAL[name]!;
  const quarters = (bpm: Bpm) => (bpm * beat) / TICKS_PER_QUARTER;
  return { style: name, from: quarters(from), to: quarters(to) };
}
