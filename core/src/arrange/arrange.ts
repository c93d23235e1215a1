/**
 * From tune and decisions to an arrangement: transposed, graded, parted, fingered, bowed. Derived
 * things are derived: nothing here is stored.
 */
import {
  barNumbers,
  beatLength,
  mapNotes,
  midi,
  transposeTune,
  type Bpm,
  type Semitones,
  type Tune,
} from '../music/index.ts';
import { writeMusicXml, type MusicXmlOptions } from '../formats/index.ts';
import { analyseForm, type BarBeat, type Form } from '../form/index.ts';
import {
  INSTRUMENT,
  openMidi,
  parseTuning,
  standardTuning,
  tensionReport,
  type InstrumentId,
  type TensionReport,
  type Tuning,
} from '../instrument/index.ts';
import { fingerTune, framesFor, reach, workingTempo, type Fingering } from '../hand/index.ts';
import { bowTune, type Bowing } from '../bow/index.ts';
import { bareVersion, type Change } from '../grade/index.ts';
import type { Decisions } from './decisions.ts';

export interface Arrangement {
  readonly decisions: Decisions;
  /** In its key and version. */
  readonly tune: Tune;
  readonly form: Form;
  readonly tuning: Tuning;
  readonly tempo: Bpm;
  readonly fingering: Fingering;
  readonly bowing: Bowing;
  readonly tension: TensionReport;
  /** What the version leaves out. */
  readonly changes: readonly Change[];
}

/** @example arrange(tune, FIRST_DECISIONS).fingering.notes */
export function arrange(source: Tune, decisions: Decisions): Arrangement {
  const tuning = tuningOf(decisions);
  const transposed = transposeTune(source, decisions.transpose);
  const version =
    decisions.version === 'bare' ? bareVersion(transposed, analyseForm(transposed)) : { tune: transposed, changes: [] };
  const form = analyseForm(version.tune);
  const tempo = workingTempo(source, decisions.tempo ?? undefined);
  const { instrument, limits, locks } = decisions;
  return {
    decisions,
    tune: version.tune,
    form,
    tuning,
    tempo,
    fingering: fingerTune(version.tune, form, { instrument, tuning, limits, locks, tempo }),
    bowing: bowTune(version.tune, form),
    tension: tensionReport(instrument, tuning.pitches),
    changes: version.changes,
  };
}

/** A tuning for another instrument does not fit this one; then the usual tuning serves. */
export function tuningOf({ instrument, tuning }: Pick<Decisions, 'instrument' | 'tuning'>): Tuning {
  const parsed = parseTuning(instrument, tuning);
  return 'error' in parsed ? standardTuning(instrument) : parsed;
}

/** The tune with its chosen fingers, strings and bows written in, for files and for the engraver. */
export function markedTune({ tune, fingering, bowing }: Pick<Arrangement, 'tune' | 'fingering' | 'bowing'>): Tune {
  const fingered = new Map(fingering.notes.map((note) => [note.id, note]));
  const strings = INSTRUMENT[fingering.instrument].strings.length;
  return mapNotes(tune, (note) => {
    const stops = fingered.get(note.id)?.stops ?? [];
    const stroke = bowing.starts.get(note.id);
    return {
      ...note,
      heads: note.heads.map(({ pitch, tied }) => {
        const stop = stops.find((other) => midi(other.pitch) === midi(pitch));
        return {
          pitch,
          ...(tied && { tied }),
          ...(stop && { finger: String(stop.finger), string: strings - stop.string }),
        };
      }),
      ...(stroke && { bow: stroke.direction }),
    };
  });
}

/** The arrangement as MusicXML for its instrument. */
export function arrangementXml(arrangement: Arrangement): string {
  return writeMusicXml(markedTune(arrangement), instrumentXml(arrangement.decisions.instrument));
}

/** How music for this instrument is written. */
export function instrumentXml(id: InstrumentId): MusicXmlOptions {
  const { name, clef, writtenOctave } = INSTRUMENT[id];
  return { partName: name, clef, writtenOctave };
}

/**
 * The transposition by whole octaves from `transpose` that leaves the fewest notes out of reach;
 * of equals the nearest.
 */
export function bestOctave(source: Tune, decisions: Decisions): Semitones {
  const open = openMidi(tuningOf(decisions).pitches);
  const top = Math.max(...open) + reach(framesFor(decisions.instrument, decisions.limits));
  const low = Math.min(...open);
  const pitches = source.bars.flatMap((bar) =>
    bar.events.flatMap((event) => (event.kind === 'note' ? event.heads.map(({ pitch }) => midi(pitch)) : [])),
  );
  const outside = (shift: number) => pitches.filter((number) => number + shift < low || number + shift > top).length;
  const octaves = [0, -1, 1, -2, 2, -3, 3].map((octave) => decisions.transpose + 12 * octave);
  return octaves.reduce((best, shift) => (outside(shift) < outside(best) ? shift : best));
}

/** Where a written note or rest stands, as people count; beats may be fractions. */
export function placesOf(tune: Tune): ReadonlyMap<string, BarBeat> {
  const numbers = barNumbers(tune.bars);
  return new Map(
    tune.bars.flatMap((bar, index) =>
      bar.events.map((event) => {
        const beat = 1 + (bar.offset + event.at) / beatLength(bar.metre);
        return [event.id, { bar: numbers[index]!, beat: Math.round(beat * 1000) / 1000 }] as const;
      }),
    ),
  );
}
