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
  type Note,
  type Semitones,
  type Tune,
} from '../music/index.ts';
import { writeMusicXml, type MusicXmlOptions } from '../formats/index.ts';
import { analyseForm, formLike, layoutOf, type BarBeat, type Form } from '../form/index.ts';
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
import { Hand, framesFor, reach, workingTempo, type Fingering, type HandSetup } from '../hand/index.ts';
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

/** The tune in its key and version, with its form: what fingers and bows are worked out from. */
export type Prepared = Pick<Arrangement, 'tune' | 'form' | 'changes'>;

export function prepare(source: Tune, { transpose, version }: Pick<Decisions, 'transpose' | 'version'>): Prepared {
  const transposed = transposeTune(source, transpose);
  const whole = analyseForm(transposed);
  if (version !== 'bare') return { tune: transposed, form: whole, changes: [] };
  const { tune, changes } = bareVersion(transposed, whole);
  // A version has the phrases of its tune, however little of them it keeps.
  return { tune, form: formLike(tune, layoutOf(transposed)), changes };
}

/** An arrangement with its left hand still open to questions: reasons, other ways, other wishes. */
export interface Worked {
  readonly arrangement: Arrangement;
  readonly hand: Hand;
}

/** @param prepared the same tune in the same key and version from before, where that is at hand */
export function work(source: Tune, decisions: Decisions, prepared = prepare(source, decisions)): Worked {
  const { tune, form, changes } = prepared;
  const tuning = tuningOf(decisions);
  const tempo = workingTempo(source, decisions.tempo ?? undefined);
  const hand = new Hand(tune, form, handSetup(decisions, tuning, tempo));
  const arrangement = {
    decisions,
    tune,
    form,
    tuning,
    tempo,
    fingering: hand.fingering,
    bowing: bowTune(tune, form),
    tension: tensionReport(decisions.instrument, tuning.pitches),
    changes,
  };
  return { arrangement, hand };
}

/** @example arrange(tune, FIRST_DECISIONS).fingering.notes */
export function arrange(source: Tune, decisions: Decisions, prepared = prepare(source, decisions)): Arrangement {
  return work(source, decisions, prepared).arrangement;
}

function handSetup(
  { instrument, limits, locks, wishes, partWishes }: Decisions,
  tuning: Tuning,
  tempo: Bpm,
): HandSetup {
  return { instrument, tuning, limits, locks, tempo, ...(wishes && { wishes }), ...(partWishes && { partWishes }) };
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
      ...(stops.some(({ sign }) => sign === 'harmonic') && { decorations: withHarmonic(note.decorations) }),
    };
  });
}

const withHarmonic = (decorations: Note['decorations'] = []): Note['decorations'] =>
  decorations.includes('harmonic') ? decorations : [...decorations, 'harmonic'];

/**
 * The arrangement as MusicXML for its instrument: fingers, strings, bows, positions where the hand moves,
 * the strings where they are retuned, and on wish a staff of finger tablature.
 */
export function arrangementXml(arrangement: Arrangement, { tab = false }: { readonly tab?: boolean } = {}): string {
  const { tuning, decisions } = arrangement;
  const usual = standardTuning(decisions.instrument);
  const retuned = tuning.pitches.some((pitch, index) => midi(pitch) !== midi(usual.pitches[index]!));
  return writeMusicXml(markedTune(arrangement), {
    ...instrumentXml(decisions.instrument),
    positions: positionTexts(arrangement),
    ...(retuned && { scordatura: tuning.pitches }),
    ...(tab && { tabStrings: tuning.pitches }),
  });
}

/** The position over each note where the hand comes to another one; the first only if it is not I. */
function positionTexts({ fingering }: Pick<Arrangement, 'fingering'>): ReadonlyMap<string, string> {
  const texts = new Map<string, string>();
  let now: string | null = 'I';
  for (const { id, stops, position: at } of fingering.notes) {
    // An open string leaves the hand where it is.
    const position = stops.some(({ finger }) => finger !== 0) ? at : null;
    if (position && position !== now) texts.set(id, position === 'half' ? '½' : position);
    now = position ?? now;
  }
  return texts;
}

/** How music for this instrument is written. */
export function instrumentXml(id: InstrumentId): MusicXmlOptions {
  const { name, clef, writtenOctave } = INSTRUMENT[id];
  return { partName: name, clef, writtenOctave };
}

/**
 * The transposition by whole octaves from `transpose` that leaves the fewest notes out of reach, then the
 * fewest beyond first position; of equals the nearest.
 */
export function bestOctave(source: Tune, decisions: Decisions): Semitones {
  const open = openMidi(tuningOf(decisions).pitches);
  const { instrument, limits } = decisions;
  const top = Math.max(...open) + reach(framesFor(instrument, limits));
  const easyTop = Math.max(...open) + reach(framesFor(instrument, { ...limits, maxPosition: 'I' }));
  const low = Math.min(...open);
  const pitches = source.bars.flatMap((bar) =>
    bar.events.flatMap((event) => (event.kind === 'note' ? event.heads.map(({ pitch }) => midi(pitch)) : [])),
  );
  const count = (shift: number, highest: number) =>
    pitches.filter((number) => number + shift < low || number + shift > highest).length;
  // What cannot be played at all weighs more than what first position does not reach.
  const outside = (shift: number) => count(shift, top) * pitches.length + count(shift, easyTop);
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
