/** Tunings: presets for each instrument, and any other by hand. */
import {
  chroma,
  midi,
  parsePitch,
  pitch,
  pitchName,
  printedName,
  type Pitch,
  type PitchClass,
  type Semitones,
} from '../music/index.ts';
import type { Instrument } from './instrument.ts';

export interface Tuning {
  /** Preset id, or the pitches joined by commas. */
  readonly id: string;
  readonly name: string;
  /** Sounding open strings, in the order of the instrument's strings, usually low to high. */
  readonly pitches: readonly Pitch[];
}

/** Furthest that a string may be tuned from its usual pitch before the numbers stop meaning anything. */
const MAX_RETUNING: Semitones = 12;

/**
 * Shown behind a name.
 * @example tuningText(['A3', 'E4', 'A4', 'E5'].map(pitch)) // 'A E A E'
 */
export function tuningText(pitches: readonly Pitch[]): string {
  return pitches.map(printedName).join(' ');
}

/** @example tuningsFor(INSTRUMENT.cello).map(({ id }) => id) // ['standard', 'top-down'] */
export function tuningsFor({ tunings }: Pick<Instrument, 'tunings'>): readonly Tuning[] {
  return tunings.map(({ id, name, pitches }) => ({ id, name, pitches: pitches.map(pitch) }));
}

/**
 * Open strings that sound along in a key: those on its home note or the fifth above, by number from the lowest.
 * @example droneStrings({ letter: 'D', alter: 0 }, ['G3', 'D4', 'A4', 'E5'].map(pitch)) // [1, 2]
 */
export function droneStrings(tonic: PitchClass, pitches: readonly Pitch[]): readonly number[] {
  const tones = [chroma(tonic), (chroma(tonic) + FIFTH) % 12];
  return pitches.flatMap((own, string) => (tones.includes(chroma(own)) ? [string] : []));
}
const FIFTH: Semitones = 7;

/** @example standardTuning(INSTRUMENT.viola).name // 'Standard' */
export function standardTuning(instrument: Pick<Instrument, 'tunings'>): Tuning {
  return tuningsFor(instrument)[0]!;
}

/**
 * Whether any string sounds otherwise than usual.
 * @example isRetuned(INSTRUMENT.violin, standardTuning(INSTRUMENT.violin)) // false
 */
export function isRetuned(instrument: Pick<Instrument, 'tunings'>, { pitches }: Pick<Tuning, 'pitches'>): boolean {
  const usual = standardTuning(instrument).pitches;
  return pitches.some((one, index) => midi(one) !== midi(usual[index]!));
}

/**
 * A preset id, or a low-to-high list such as `A3,E4,A4,E5`.
 *
 * @returns the tuning, or a message that says what is wrong
 * @example parseTuning(INSTRUMENT.violin, 'A3,E4,A4,E5').name // 'By hand'
 */
export function parseTuning(instrument: Instrument, text: string): Tuning | { readonly error: string } {
  const preset = tuningsFor(instrument).find(({ id }) => id === text);
  if (preset) return preset;
  const names = text.split(/[\s,]+/).filter(Boolean);
  const parsed = names.map(parsePitch);
  const bad = parsed.findIndex((entry) => entry === null);
  const { strings, name } = instrument;
  if (bad >= 0 || names.length === 0) {
    const known = tuningsFor(instrument)
      .map(({ id }) => id)
      .join(', ');
    return {
      error: `“${names[bad] ?? text}” is no tuning of the ${name.toLowerCase()}. Use one of ${known}, or pitches low to high such as ${pitchList(standardTuning(instrument).pitches)}.`,
    };
  }
  const pitches = parsed.filter((entry) => entry !== null);
  if (pitches.length !== strings.length) {
    return {
      error: `The ${name.toLowerCase()} has ${strings.length} strings, but ${pitches.length} pitches are given. Give one for each string, low to high.`,
    };
  }
  const far = pitches.findIndex((entry, index) => Math.abs(midi(entry) - midi(strings[index]!.usual)) > MAX_RETUNING);
  if (far >= 0) {
    return {
      error: `${pitchName(pitches[far]!)} is more than an octave from the usual ${pitchName(strings[far]!.usual)}. Check the octave.`,
    };
  }
  return { id: pitchList(pitches), name: 'By hand', pitches };
}

/**
 * The same for a tuning that is asked for now: its strings rise from low to high. What was kept before is read as it is.
 * @example askedTuning(INSTRUMENT.violin, 'D4,G3,A4,E5').error.includes('low to high') // true
 */
export function askedTuning(instrument: Instrument, text: string): Tuning | { readonly error: string } {
  const tuning = parseTuning(instrument, text);
  if ('error' in tuning) return tuning;
  const { pitches } = tuning;
  const at = pitches.findIndex((pitch, string) => string > 0 && midi(pitch) <= midi(pitches[string - 1]!));
  if (at < 0) return tuning;
  return {
    error: `${pitchName(pitches[at]!)} is not above ${pitchName(pitches[at - 1]!)}, the string before it. Give the strings low to high, such as ${pitchList(standardTuning(instrument).pitches)}.`,
  };
}

const pitchList = (pitches: readonly Pitch[]) => pitches.map(pitchName).join(',');
