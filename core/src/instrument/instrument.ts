/**
 * Instruments as values: strings, clef, lengths, typical tensions, tunings, and which hand plays them. Section
 * "Instruments, tunings, strings" of the domain. Whatever works with an instrument takes it as a value, so that
 * a five-string violin or a home-made one of three strings needs no code of its own.
 */
import { midi, pitch, type Midi, type Pitch, type Semitones } from '../music/index.ts';

export type Millimetres = number;
export type Newtons = number;

/** The instruments that Nokta knows by name. */
export const INSTRUMENTS = ['violin', 'viola', 'cello', 'bass'] as const;
export type InstrumentId = (typeof INSTRUMENTS)[number];

/** How the left hand works: frames, positions and prices stand with the hand, see `hand/hands`. */
export const HAND_IDS = ['violin', 'viola', 'cello', 'bass'] as const;
export type HandId = (typeof HAND_IDS)[number];

export interface StringSpec {
  /** Its usual name, whatever it is tuned to. */
  readonly name: string;
  /** Usual sounding pitch. */
  readonly usual: Pitch;
  /** Typical medium-gauge tension at the usual pitch. */
  readonly tension: Newtons;
}

export interface Clef {
  readonly sign: 'G' | 'C' | 'F';
  readonly line: number;
}

export const CLEFS = {
  treble: { sign: 'G', line: 2 },
  alto: { sign: 'C', line: 3 },
  tenor: { sign: 'C', line: 4 },
  bass: { sign: 'F', line: 4 },
} as const satisfies Readonly<Record<string, Clef>>;
export type ClefName = keyof typeof CLEFS;
export const CLEF_NAMES = Object.keys(CLEFS) as readonly ClefName[];

/** A tuning by its name; pitches low to high. */
export interface TuningPreset {
  readonly id: string;
  readonly name: string;
  readonly pitches: readonly string[];
}

export interface Instrument {
  /** One of `INSTRUMENTS`, or the name under which a teacher keeps it. */
  readonly id: string;
  readonly name: string;
  /** Low to high. */
  readonly strings: readonly StringSpec[];
  readonly clef: Clef;
  /** What its players read where the music goes high, the nearest first. */
  readonly highClefs: readonly Clef[];
  /** Octaves that its music is written above the sound. */
  readonly writtenOctave: 0 | 1;
  /** String length, nut to bridge. */
  readonly length: Millimetres;
  /** Hair of its bow, frog to tip, that can be played on. */
  readonly hair: Millimetres;
  readonly hand: HandId;
  /** General MIDI's program. */
  readonly program: number;
  /** The usual one first. */
  readonly tunings: readonly TuningPreset[];
  /** Furthest stop above an open string, by the end of the fingerboard or the last key; by the hand where it is not said. */
  readonly reach?: Semitones;
  /** Where its tensions come from: a set of strings; typical medium gauge where it is not said. */
  readonly gauge?: string;
}

const strings = (...specs: readonly [string, Newtons][]): readonly StringSpec[] =>
  specs.map(([name, tension]) => ({ name: pitch(name).letter, usual: pitch(name), tension }));

/** @example standard('D3', 'A3', 'D4').id // 'standard' */
export const standard = (...pitches: readonly string[]): TuningPreset => ({
  id: 'standard',
  name: 'Standard',
  pitches,
});

export const INSTRUMENT: Readonly<Record<InstrumentId, Instrument>> = {
  violin: {
    id: 'violin',
    name: 'Violin',
    strings: strings(['G3', 45], ['D4', 45], ['A4', 55], ['E5', 76]),
    clef: CLEFS.treble,
    highClefs: [],
    writtenOctave: 0,
    length: 328,
    hair: 650,
    hand: 'violin',
    program: 40,
    tunings: [
      standard('G3', 'D4', 'A4', 'E5'),
      { id: 'low-pair-up', name: 'Low pair up a tone', pitches: ['A3', 'E4', 'A4', 'E5'] },
      { id: 'lowest-up', name: 'Lowest up a tone', pitches: ['A3', 'D4', 'A4', 'E5'] },
      { id: 'top-pair-down', name: 'Top pair down a tone', pitches: ['G3', 'D4', 'G4', 'D5'] },
      { id: 'open-a', name: 'Open A', pitches: ['A3', 'E4', 'A4', 'C#5'] },
      { id: 'double-d', name: 'Double D', pitches: ['D3', 'D4', 'A4', 'D5'] },
    ],
  },
  viola: {
    id: 'viola',
    name: 'Viola',
    strings: strings(['C3', 50], ['G3', 49], ['D4', 49], ['A4', 68]),
    clef: CLEFS.alto,
    highClefs: [CLEFS.treble],
    writtenOctave: 0,
    length: 370,
    hair: 640,
    hand: 'viola',
    program: 41,
    // The violin's, a fifth lower.
    tunings: [
      standard('C3', 'G3', 'D4', 'A4'),
      { id: 'low-pair-up', name: 'Low pair up a tone', pitches: ['D3', 'A3', 'D4', 'A4'] },
      { id: 'lowest-up', name: 'Lowest up a tone', pitches: ['D3', 'G3', 'D4', 'A4'] },
      { id: 'top-pair-down', name: 'Top pair down a tone', pitches: ['C3', 'G3', 'C4', 'G4'] },
      { id: 'open-a', name: 'Open A', pitches: ['D3', 'A3', 'D4', 'F#4'] },
      { id: 'double-d', name: 'Double D', pitches: ['G2', 'G3', 'D4', 'G4'] },
    ],
  },
  cello: {
    id: 'cello',
    name: 'Cello',
    strings: strings(['C2', 129], ['G2', 132], ['D3', 137], ['A3', 172]),
    clef: CLEFS.bass,
    highClefs: [CLEFS.tenor, CLEFS.treble],
    writtenOctave: 0,
    length: 690,
    hair: 600,
    hand: 'cello',
    program: 42,
    tunings: [
      standard('C2', 'G2', 'D3', 'A3'),
      { id: 'top-down', name: 'Top string down a tone', pitches: ['C2', 'G2', 'D3', 'G3'] },
    ],
  },
  bass: {
    id: 'bass',
    name: 'Bass',
    strings: strings(['E1', 275], ['A1', 279], ['D2', 284], ['G2', 289]),
    clef: CLEFS.bass,
    highClefs: [],
    writtenOctave: 1,
    length: 1050,
    hair: 550,
    hand: 'bass',
    program: 43,
    tunings: [
      standard('E1', 'A1', 'D2', 'G2'),
      { id: 'solo', name: 'Solo, all up a tone', pitches: ['F#1', 'B1', 'E2', 'A2'] },
      { id: 'fifths', name: 'Fifths', pitches: ['C1', 'G1', 'D2', 'A2'] },
    ],
  },
};

/** @example stringNames(INSTRUMENT.cello).join('') // 'CGDA' */
export const stringNames = ({ strings: all }: Pick<Instrument, 'strings'>): readonly string[] =>
  all.map(({ name }) => name);

/**
 * Place of a stopped note on a string, in millimetres from the nut: d = L·(1 − 2^(−n/12)).
 *
 * @example Math.round(10 * stopDistance(328, 7)) / 10 // 109.1
 */
export function stopDistance(length: Millimetres, semitones: Semitones): Millimetres {
  return length * (1 - 2 ** (-semitones / 12));
}

/** @example openMidi(INSTRUMENT.bass.strings.map(({ usual }) => usual)) // [28, 33, 38, 43] */
export const openMidi = (pitches: readonly Pitch[]): readonly Midi[] => pitches.map(midi);

/** @example isInstrument('theremin') // false */
export function isInstrument(text: string): text is InstrumentId {
  return (INSTRUMENTS as readonly string[]).includes(text);
}
