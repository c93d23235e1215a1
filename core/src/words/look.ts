/** The look-over in words: what a teacher reads at a glance. */
import type { LookOver, RhythmPiece } from '../look/index.ts';
import type { Instrument } from '../instrument/index.ts';
import { TICKS_PER_QUARTER, beatTempoText, keyName, noteValueName, valueOf, type Ticks } from '../music/index.ts';
import { stopsText } from './fingers.ts';
import { causeTexts } from './handTrouble.ts';
import { USUAL_NAMES, type Names } from '../paper/index.ts';
import { noteName, pitchText } from './naming.ts';

/** The facts of a look-over as they are read. */
export interface LookOverWords {
  readonly key: string;
  readonly doubt: string | null;
  readonly scale: readonly string[];
  readonly missing: readonly string[];
  readonly range: { readonly low: string; readonly high: string; readonly semitones: number } | null;
  readonly outside: readonly {
    readonly name: string;
    readonly bars: readonly number[];
    readonly notes: readonly string[];
  }[];
  /** "G4: 3 on the D string". */
  readonly home: readonly string[];
  readonly startsOn: string;
  readonly pickup: string | null;
  readonly form: string;
  readonly lengths: string;
  readonly played: number;
  readonly repeats: string;
  /** "two eighths", and how often. */
  readonly rhythms: readonly { readonly text: string; readonly times: number }[];
  readonly chords: { readonly names: readonly string[]; readonly text: string } | null;
  readonly tempo: string;
  readonly usualTempo: string | null;
  readonly hard: readonly { readonly notes: readonly string[]; readonly reasons: readonly string[] }[];
}

/** @example lookOverText(lookOver(arrange(reel)), INSTRUMENT.violin).key // 'G major' */
export function lookOverText(look: LookOver, instrument: Instrument, called: Names = USUAL_NAMES): LookOverWords {
  const name = (note: Parameters<typeof noteName>[0]) => noteName(note, called.notes);
  const { range, doubt, usualTempo, chords } = look;
  return {
    key: keyName(look.key),
    doubt:
      doubt &&
      `The signature says ${keyName(doubt.stated)}, the notes sound like ${keyName(doubt.heard)} (${share(doubt.heardFit)} against ${share(doubt.statedFit)}).`,
    scale: look.scale.map(name),
    missing: look.missing.map(name),
    range: range && { ...range, low: pitchText(range.low, called.notes), high: pitchText(range.high, called.notes) },
    outside: look.outside.map(({ note, bars, notes }) => ({ name: name(note), bars, notes })),
    home: look.home.map(({ pitch, stops }) => `${pitchText(pitch, called.notes)}: ${stopsText({ stops }, instrument)}`),
    startsOn: look.startsOn ? pitchText(look.startsOn, called.notes) : '',
    pickup: look.pickup === null ? null : `${lengthName(look.pickup)} before bar 1`,
    form: look.form,
    lengths: `${look.lengths.join(' + ')} bars`,
    played: look.played,
    repeats: repeatsText(look.repeats),
    rhythms: look.rhythms.map(({ pieces, times }) => ({ text: rhythmText(pieces), times })),
    chords: chords && {
      names: chords.symbols.map((symbol) => symbol.replace(/#/g, '♯').replace(/([A-G])b/g, '$1♭')),
      text: chords.most === 1 && chords.average === 1 ? 'one a bar' : `${chords.average} a bar, at most ${chords.most}`,
    },
    tempo: beatTempoText(look.metre, look.tempo),
    usualTempo: usualTempo && usualTempoText(look, usualTempo),
    hard: look.hard.map((place) => ({ notes: place.notes, reasons: causeTexts(place) })),
  };
}

const share = (fit: number) => `${Math.round(100 * fit)} %`;

const TIMES = ['', 'once', 'twice', 'three times', 'four times'];

function repeatsText({ parts, endings, jump }: LookOver['repeats']): string {
  const times = new Set(parts.map((part) => part.times));
  const often = (count: number) => TIMES[count] ?? `${count} times`;
  const said =
    times.size === 1
      ? parts.length === 1
        ? often(parts[0]!.times)
        : `each part ${often(parts[0]!.times)}`
      : parts.map((part) => `${part.label} ${often(part.times)}`).join(', ');
  const back = jump && (jump.back === 'start' ? 'then from the start' : 'then from the sign');
  const until = jump && { end: '', fine: ' to the Fine', coda: ' and on to the coda' }[jump.until];
  return [said, endings > 1 && `${endings} endings`, back && `${back}${until}`].filter(Boolean).join('; ');
}

function lengthName(length: Ticks): string {
  const value = valueOf(length);
  return value ? noteValueName(value) : `${length / TICKS_PER_QUARTER} quarters`;
}

const NUMBERS = ['', '', 'two ', 'three ', 'four ', 'five ', 'six '];

const tupletName = (actual: number) =>
  ({ 2: 'duplet', 3: 'triplet', 4: 'quadruplet', 5: 'quintuplet' })[actual] ?? 'tuplet';

/**
 * Equal neighbours are counted.
 * @example rhythmText([{ value: { type: 'eighth', dots: 0 }, rest: false, tuplet: null }, { value: { type: 'eighth', dots: 0 }, rest: false, tuplet: null }]) // 'two eighths'
 */
export function rhythmText(pieces: readonly RhythmPiece[]): string {
  const runs: { name: string; count: number }[] = [];
  for (const { value, rest, tuplet } of pieces) {
    const plain = noteValueName(value);
    const name = rest ? `${plain} rest` : tuplet === null ? plain : `${plain} of a ${tupletName(tuplet)}`;
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

function usualTempoText({ metre }: LookOver, { style, from, to }: NonNullable<LookOver['usualTempo']>): string {
  const high = beatTempoText(metre, to).replace(/^.*= /, '');
  return `${beatTempoText(metre, from)} to ${high} for ${/^[aeiou]/.test(style) ? 'an' : 'a'} ${style}`;
}
