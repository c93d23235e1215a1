/**
 * The look-over: what a teacher wants to know of a tune before anyone fingers a note of it. Key and scale,
 * range, what lies outside, where the home note is, rhythms and chords, the usual tempo, the hardest spots.
 */
import {
  TICKS_PER_QUARTER,
  barNumbers,
  beatLength,
  beatTempoText,
  chroma,
  isPickup,
  keyName,
  midi,
  noteValueName,
  placedNotes,
  printedName,
  signatureAlter,
  valueOf,
  type Bpm,
  type Metre,
  type Pitch,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import { LEAD_IN, TAG, findKey, formText, playedBars, readForForm, type Form } from '../form/index.ts';
import type { Arrangement } from '../arrange/index.ts';
import { hardSpots, type HardSpot } from './hard.ts';

export interface OutsideNote {
  /** "C♯". */
  readonly name: string;
  readonly bars: readonly number[];
  readonly notes: readonly string[];
}

export interface RhythmFigure {
  /** "two eighths". */
  readonly text: string;
  readonly times: number;
}

export interface LookOver {
  readonly key: string;
  /** What to think of it where the signature and the notes disagree; null where they agree. */
  readonly doubt: string | null;
  /** Names of the scale's notes that occur, from the home note up, and of those that do not. */
  readonly scale: readonly string[];
  readonly missing: readonly string[];
  readonly range: { readonly low: string; readonly high: string; readonly semitones: number } | null;
  readonly outside: readonly OutsideNote[];
  /** "open D; 3 on the A string". */
  readonly home: readonly string[];
  readonly startsOn: string;
  readonly pickup: string | null;
  readonly form: string;
  /** "8 + 8 bars". */
  readonly lengths: string;
  readonly played: number;
  readonly repeats: string;
  readonly rhythms: readonly RhythmFigure[];
  readonly chords: { readonly names: readonly string[]; readonly text: string } | null;
  readonly tempo: string;
  /** The usual tempo of its style; null where the style says nothing. */
  readonly usualTempo: string | null;
  readonly hard: readonly HardSpot[];
}

/** Rhythm figures shown; the rest are rare. */
const MOST_RHYTHMS = 6;

export function lookOver(arrangement: Pick<Arrangement, 'tune' | 'form' | 'fingering' | 'tempo'>): LookOver {
  const { tune, form, fingering, tempo } = arrangement;
  const first = tune.bars[0]!;
  const finding = findKey(readForForm(tune));
  const notes = placedNotes(tune);
  const pitches = notes.flatMap(({ note }) => note.heads.map(({ pitch }) => pitch)).sort((a, b) => midi(a) - midi(b));
  const low = pitches[0];
  const high = pitches.at(-1);
  return {
    key: keyName(first.key),
    doubt: finding?.disagrees
      ? `The signature says ${keyName(finding.stated)}, the notes sound like ${keyName(finding.heard)} (${share(finding.heardFit)} against ${share(finding.statedFit)}).`
      : null,
    ...scaleOf(form, pitches),
    range: low && high ? { low: spoken(low), high: spoken(high), semitones: midi(high) - midi(low) } : null,
    outside: outsideNotes(tune),
    home: homeNotes(form, fingering),
    startsOn: notes[0] ? spoken(notes[0].note.heads.at(-1)!.pitch) : '',
    pickup: isPickup(tune.bars, 0) ? `${valueName(first.length)} before bar 1` : null,
    form: formText(form),
    lengths: lengthsOf(form),
    played: playedBars(tune),
    repeats: repeatsOf(tune, form),
    rhythms: rhythmsOf(tune).slice(0, MOST_RHYTHMS),
    chords: chordsOf(tune),
    tempo: beatTempoText(first.metre, tempo),
    usualTempo: usualTempo(tune.style, first.metre),
    hard: hardSpots(arrangement),
  };
}

const spoken = (pitch: Pitch) => `${printedName(pitch)}${pitch.octave}`;
const share = (fit: number) => `${Math.round(100 * fit)} %`;

/** The seven notes of the key, as they are spelled, with what is left out. */
function scaleOf({ key }: Form, pitches: readonly Pitch[]): Pick<LookOver, 'scale' | 'missing'> {
  const letters = ['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const;
  const from = letters.indexOf(key.tonic.letter);
  const degrees = letters.map((_, degree) => {
    const letter = letters[(from + degree) % 7]!;
    return { letter, alter: signatureAlter(key, letter) };
  });
  const used = new Set(pitches.map(chroma));
  const named = (there: boolean) => degrees.filter((degree) => used.has(chroma(degree)) === there).map(printedName);
  return { scale: named(true), missing: named(false) };
}

function outsideNotes(tune: Tune): readonly OutsideNote[] {
  const numbers = barNumbers(tune.bars);
  const found = new Map<string, { bars: Set<number>; notes: string[] }>();
  for (const { note, barIndex } of placedNotes(tune)) {
    const { key } = tune.bars[barIndex]!;
    for (const { pitch } of note.heads) {
      if (pitch.alter === signatureAlter(key, pitch.letter)) continue;
      const own = found.get(printedName(pitch)) ?? { bars: new Set(), notes: [] };
      own.bars.add(numbers[barIndex]!);
      own.notes.push(note.id);
      found.set(printedName(pitch), own);
    }
  }
  return [...found].map(([name, { bars, notes }]) => ({ name, bars: [...bars], notes }));
}

/** Where the home note lies under this hand, lowest first. */
function homeNotes({ key }: Form, fingering: Arrangement['fingering']): readonly string[] {
  const places = new Map<string, number>();
  for (const note of fingering.notes) {
    for (const stop of note.stops) {
      if (note.stops.length === 1 && chroma(stop.pitch) === chroma(key.tonic)) {
        places.set(`${spoken(stop.pitch)}: ${note.text}`, midi(stop.pitch));
      }
    }
  }
  return [...places].sort((a, b) => a[1] - b[1]).map(([text]) => text.replace(/, position I$/, ''));
}

function lengthsOf({ parts }: Form): string {
  const own = parts.filter(({ like, label }) => like === null && label !== LEAD_IN && label !== TAG);
  return `${own.map(({ length }) => length).join(' + ')} bars`;
}

const TIMES = ['', 'once', 'twice', 'three times', 'four times'];

function repeatsOf({ bars }: Tune, { parts }: Form): string {
  const times = new Set(parts.map((part) => part.times));
  const often = (count: number) => TIMES[count] ?? `${count} times`;
  const said =
    times.size === 1
      ? parts.length === 1
        ? often(parts[0]!.times)
        : `each part ${often(parts[0]!.times)}`
      : parts.map((part) => `${part.label} ${often(part.times)}`).join(', ');
  const endings = Math.max(0, ...bars.flatMap((bar) => bar.endings ?? []));
  const jump = bars.find((bar) => bar.jump)?.jump;
  const back = jump && (jump.back === 'start' ? 'then from the start' : 'then from the sign');
  const until = jump && { end: '', fine: ' to the Fine', coda: ' and on to the coda' }[jump.until];
  return [said, endings > 1 && `${endings} endings`, back && `${back}${until}`].filter(Boolean).join('; ');
}

function valueName(length: Ticks): string {
  const value = valueOf(length);
  return value ? noteValueName(value) : `${length / TICKS_PER_QUARTER} quarters`;
}

const NUMBERS = ['', '', 'two ', 'three ', 'four ', 'five ', 'six '];

/** What fills a beat, or the beats that it ties together, most frequent first: "two eighths", "dotted eighth, sixteenth". */
function rhythmsOf(tune: Tune): readonly RhythmFigure[] {
  const counts = new Map<string, number>();
  for (const bar of tune.bars) {
    const beat = beatLength(bar.metre);
    const groups: string[][] = [];
    let open = false;
    for (const event of bar.events) {
      const value = noteValueName(event.value);
      const name =
        event.kind === 'rest'
          ? `${value} rest`
          : event.tuplet
            ? `${value} of a ${tupletName(event.tuplet.actual)}`
            : value;
      if (open) groups.at(-1)!.push(name);
      else groups.push([name]);
      // A figure goes on until a beat begins with a note of its own.
      open = (bar.offset + event.at + event.duration) % beat !== 0;
    }
    for (const group of groups) {
      const text = inWords(group);
      counts.set(text, (counts.get(text) ?? 0) + 1);
    }
  }
  return [...counts].map(([text, times]) => ({ text, times })).sort((a, b) => b.times - a.times);
}

const tupletName = (actual: number) =>
  ({ 2: 'duplet', 3: 'triplet', 4: 'quadruplet', 5: 'quintuplet' })[actual] ?? 'tuplet';

/** Equal neighbours are counted: "two eighths", "eighth, two sixteenths". */
function inWords(names: readonly string[]): string {
  const runs: { name: string; count: number }[] = [];
  for (const name of names) {
    const last = runs.at(-1);
    if (last?.name === name) last.count += 1;
    else runs.push({ name, count: 1 });
  }
  return runs
    .map(({ name, count }) => {
      if (count === 1) return name;
      const [first = '', ...rest] = name.split(/(?= of a | rest)/);
      const plural = first === 'half' ? 'halves' : first.replace(/half$/, 'halves').replace(/([^s])$/, '$1s');
      return `${NUMBERS[count] ?? `${count} `}${plural.replace(/halvess$/, 'halves')}${rest.join('')}`;
    })
    .join(', ');
}

function chordsOf(tune: Tune): LookOver['chords'] {
  const perBar = tune.bars
    .filter((_, index) => !isPickup(tune.bars, index))
    .map((bar) => bar.events.flatMap(({ chordSymbol }) => chordSymbol ?? []));
  const names = [...new Set(perBar.flat())].map((name) => name.replace(/#/g, '♯').replace(/([A-G])b/g, '$1♭'));
  if (names.length === 0) return null;
  const most = Math.max(...perBar.map((list) => list.length));
  const total = perBar.reduce((sum, list) => sum + list.length, 0);
  const average = Math.round((10 * total) / perBar.length) / 10;
  const text = most === 1 && average === 1 ? 'one a bar' : `${average} a bar, at most ${most}`;
  return { names, text };
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

function usualTempo(style: string, metre: Metre): string | null {
  const known = style.toLowerCase();
  // "swing song" is a song; "slip jig" is not just a jig.
  const name = Object.keys(USUAL)
    .filter((one) => known.includes(one))
    .sort((a, b) => b.length - a.length)[0];
  if (name === undefined) return null;
  const { beat, from, to } = USUAL[name]!;
  const low = beatTempoText(metre, (from * beat) / TICKS_PER_QUARTER);
  const high = beatTempoText(metre, (to * beat) / TICKS_PER_QUARTER).replace(/^.*= /, '');
  return `${low} to ${high} for ${/^[aeiou]/.test(name) ? 'an' : 'a'} ${name}`;
}
