/** The four instruments: strings, clefs, lengths, typical tensions. Section "Instruments, tunings, strings". */
import { midi, pitch, type Letter, type Midi, type Pitch, type Semitones } from '../music/index.ts';

export type Millimetres = number;
export type Newtons = number;
export const INSTRUMENTS = ['violin', 'viola', 'cello', 'bass'] as const;
export type InstrumentId = (typeof INSTRUMENTS)[number];

export interface StringSpec {
  /** Its usual name, whatever it is tuned to. */
  readonly name: Letter;
  /** Usual sounding pitch. */
  readonly usual: Pitch;
  /** Typical medium-gauge tension at the usual pitch. */
  readonly tension: Newtons;
}

export interface Instrument {
  readonly id: InstrumentId;
  readonly name: string;
  /** Low to high. */
  readonly strings: readonly StringSpec[];
  readonly clef: { readonly sign: 'G' | 'C' | 'F'; readonly line: number };
  /** Octaves that its music is written above the sound. */
  readonly writtenOctave: 0 | 1;
  /** Full-size string length, nut to bridge. */
  readonly length: Millimetres;
}

const strings = (...specs: readonly [string, Newtons][]): readonly StringSpec[] =>
  specs.map(([name, tension]) => ({ name: pitch(name).letter, usual: pitch(name), tension }));

export const INSTRUMENT: Readonly<Record<InstrumentId, Instrument>> = {
  violin: {
    id: 'violin',
    name: 'Violin',
    strings: strings(['G3', 45], ['D4', 45], ['A4', 55], ['E5', 76]),
    clef: { sign: 'G', line: 2 },
    writtenOctave: 0,
    length: 328,
  },
  viola: {
    id: 'viola',
    name: 'Viola',
    strings: strings(['C3', 50], ['G3', 49], ['D4', 49], ['A4', 68]),
    clef: { sign: 'C', line: 3 },
    writtenOctave: 0,
    length: 370,
  },
  cello: {
    id: 'cello',
    name: 'Cello',
    strings: strings(['C2', 129], ['G2', 132], ['D3', 137], ['A3', 172]),
    clef: { sign: 'F', line: 4 },
    writtenOctave: 0,
    length: 690,
  },
  bass: {
    id: 'bass',
    name: 'Bass',
    strings: strings(['E1', 275], ['A1', 279], ['D2', 284], ['G2', 289]),
    clef: { sign: 'F', line: 4 },
    writtenOctave: 1,
    length: 1050,
  },
};

/**
 * Place of a stopped note on a string, measured from the nut: d = L·(1 − 2^(−n/12)).
 *
 * @example stopDistance(328, 7) // 109.1
 */
export function stopDistance(length: Millimetres, semitones: Semitones): Millimetres {
  return length * (1 - 2 ** (-semitones / 12));
}

export const openMidi = (pitches: readonly Pitch[]): readonly Midi[] => pitches.map(midi);
