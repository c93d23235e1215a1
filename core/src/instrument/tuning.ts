/** Tunings: presets for each instrument, and any other by hand. */
import {
  midi,
  parsePitch,
  pitch,
  pitchName,
  printedName,
  transposePitch,
  type Pitch,
  type Semitones,
} from '../music/index.ts';
import { INSTRUMENT, INSTRUMENTS, type InstrumentId } from './instrument.ts';

export interface Tuning {
  /** Preset id, or the pitches joined by commas. */
  readonly id: string;
  readonly name: string;
  /** Sounding open strings, in the order of the instrument's strings, usually low to high. */
  readonly pitches: readonly Pitch[];
}

interface Preset {
  readonly id: string;
  readonly name: string;
  readonly pitches: readonly string[];
}

/** Of the violin; the viola has them a fifth lower. */
const VIOLIN: readonly Preset[] = [
  { id: 'standard', name: 'Standard', pitches: ['G3', 'D4', 'A4', 'E5'] },
  { id: 'low-pair-up', name: 'Low pair up a tone', pitches: ['A3', 'E4', 'A4', 'E5'] },
  { id: 'lowest-up', name: 'Lowest up a tone', pitches: ['A3', 'D4', 'A4', 'E5'] },
  { id: 'top-pair-down', name: 'Top pair down a tone', pitches: ['G3', 'D4', 'G4', 'D5'] },
  { id: 'open-a', name: 'Open A', pitches: ['A3', 'E4', 'A4', 'C#5'] },
  { id: 'double-d', name: 'Double D', pitches: ['D3', 'D4', 'A4', 'D5'] },
];
const PRESETS: Readonly<Record<InstrumentId, readonly Preset[]>> = {
  violin: VIOLIN,
  viola: VIOLIN.map((preset) => ({
    ...preset,
    pitches: preset.pitches.map((name) => pitchName(transposePitch(pitch(name), -4, -7))),
  })),
  cello: [
    { id: 'standard', name: 'Standard', pitches: ['C2', 'G2', 'D3', 'A3'] },
    { id: 'top-down', name: 'Top string down a tone', pitches: ['C2', 'G2', 'D3', 'G3'] },
  ],
  bass: [
    { id: 'standard', name: 'Standard', pitches: ['E1', 'A1', 'D2', 'G2'] },
    { id: 'solo', name: 'Solo, all up a tone', pitches: ['F#1', 'B1', 'E2', 'A2'] },
    { id: 'fifths', name: 'Fifths', pitches: ['C1', 'G1', 'D2', 'A2'] },
  ],
};

/** Furthest that a string may be tuned from its usual pitch before the numbers stop meaning anything. */
const MAX_RETUNING: Semitones = 12;

/** Shown behind a name: "A E A E". */
export function tuningText(pitches: readonly Pitch[]): string {
  return pitches.map(printedName).join(' ');
}

export function tuningsFor(instrument: InstrumentId): readonly Tuning[] {
  return PRESETS[instrument].map(({ id, name, pitches }) => ({ id, name, pitches: pitches.map(pitch) }));
}

export function standardTuning(instrument: InstrumentId): Tuning {
  return tuningsFor(instrument)[0]!;
}

/**
 * A preset id, or a low-to-high list such as `A3,E4,A4,E5`.
 *
 * @returns the tuning, or a message that says what is wrong
 */
export function parseTuning(instrument: InstrumentId, text: string): Tuning | { readonly error: string } {
  const preset = tuningsFor(instrument).find(({ id }) => id === text);
  if (preset) return preset;
  const names = text.split(/[\s,]+/).filter(Boolean);
  const parsed = names.map(parsePitch);
  const bad = parsed.findIndex((entry) => entry === null);
  const { strings, name } = INSTRUMENT[instrument];
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

const pitchList = (pitches: readonly Pitch[]) => pitches.map(pitchName).join(',');

export function isInstrument(text: string): text is InstrumentId {
  return (INSTRUMENTS as readonly string[]).includes(text);
}
