/**
 * From tune and decisions to an arrangement, by the stages of `stages.ts`; and what is made from it: files,
 * places as people count. Derived things are derived: nothing here is stored.
 */
import {
  barIndexAt,
  barNumbers,
  barStarts,
  beatLength,
  isSameMetre,
  mapNotes,
  midi,
  sliceTune,
  soundingNotes,
  type Midi,
  type Semitones,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import { writeMusicXml, type MusicXmlOptions } from '../formats/index.ts';
import { phrasesOf, type BarBeat, type Phrase } from '../form/index.ts';
import {
  clefFor,
  instrumentOf,
  isRetuned,
  openMidi,
  tuningOf,
  tuningText,
  type Instrument,
} from '../instrument/index.ts';
import { HANDS, framesFor, profileFor, reach, type Level } from '../hand/index.ts';
import { Derivation } from '../stage/index.ts';
import { FIRST_DECISIONS, type Decisions } from './decisions.ts';
import { asFingered } from './staff.ts';
import { STAGES, type Facts } from './stages.ts';

/** All facts of an arrangement, with what they were worked out from. */
export interface Arrangement extends Facts {
  readonly decisions: Decisions;
}

/**
 * Works one arrangement out. To work on it further, keep a `Derivation` of `STAGES`.
 * @param timeRound which time round is looked at, from 1
 * @example arrange(reel, FIRST_DECISIONS).fingering.notes.length > 0 // true
 */
export function arrange(source: Tune, decisions: Decisions = FIRST_DECISIONS, timeRound = 1): Arrangement {
  return { ...new Derivation<Decisions, Facts>(STAGES).derive(decisions, { source, timeRound }).facts, decisions };
}

/**
 * The tune with its chosen fingers, strings and bows written in, for files and for the engraver: slurs as they are
 * played, signs where a player needs them, lifts and parts of the bow as words.
 * @example markedTune(facts).bars[0].events[0].bow // 'down'
 */
export function markedTune({ tune, fingering, bowing }: Pick<Arrangement, 'tune' | 'fingering' | 'bowing'>): Tune {
  const fingered = new Map(fingering.notes.map((note) => [note.id, note]));
  const strings = fingering.instrument.strings.length;
  const slurs = bowedSlurs(tune, bowing);
  return mapNotes({ ...tune, slurs }, (note) => {
    const stops = fingered.get(note.id)?.stops ?? [];
    const stroke = bowing.starts.get(note.id);
    const { bow: _, graces, ...unmarked } = note;
    const told = [note.annotation, stroke?.retake && 'lift', bowing.regions[note.id]].filter(Boolean).join(', ');
    const decorations = [
      ...(note.decorations ?? []),
      ...(stops.some(({ sign }) => sign === 'harmonic') ? (['harmonic'] as const) : []),
      ...(bowing.accents.has(note.id) ? (['accent'] as const) : []),
    ];
    const marked = graces?.map((grace) => {
      const stop = fingered.get(grace.id)?.stops[0];
      return { ...grace, ...(stop && { finger: String(stop.finger), string: strings - stop.string }) };
    });
    return {
      ...unmarked,
      ...(marked && { graces: marked }),
      ...(told && { annotation: told }),
      heads: note.heads.map(({ pitch, tied }) => {
        const stop = stops.find((other) => midi(other.pitch) === midi(pitch));
        return {
          pitch,
          ...(tied && { tied }),
          ...(stop && { finger: String(stop.finger), string: strings - stop.string }),
        };
      }),
      ...(stroke && bowing.marked.has(note.id) && { bow: stroke.direction }),
      ...(decorations.length > 0 && { decorations: [...new Set(decorations)] }),
    };
  });
}

/** A slur over each stroke of several notes, as it is played the first time; ties alone need none. */
function bowedSlurs(tune: Tune, { strokes }: Arrangement['bowing']): Tune['slurs'] {
  const firsts = new Set(soundingNotes(tune).map(({ note }) => note.id));
  return strokes.flatMap(({ notes, time }) => {
    const sounds = notes.filter((id) => firsts.has(id));
    return time === 1 && sounds.length > 1 ? [{ from: notes[0]!, to: notes.at(-1)! }] : [];
  });
}

/**
 * The arrangement as MusicXML for its instrument: fingers, strings, bows, positions where the hand moves,
 * the strings where they are retuned, and on wish a staff of finger tablature.
 * @example arrangementXml(arrangement).includes('<part-name>Violin</part-name>') // true
 */
export function arrangementXml(arrangement: Arrangement, { tab = false }: { readonly tab?: boolean } = {}): string {
  const { tuning, instrument, tune, staff, form } = arrangement;
  const retuned = isRetuned(instrument, tuning);
  const clefs = phrasesOf(form).map(
    (phrase) => [phrase.notes[0] ?? '', clefFor(instrument, phraseLine(staff, phrase))] as const,
  );
  return writeMusicXml(writtenTune(arrangement), {
    ...instrumentXml(instrument),
    clef: clefs[0]?.[1] ?? instrument.clef,
    clefs: new Map(clefs),
    positions: positionTexts(arrangement),
    ...(retuned && { scordatura: tuning.pitches }),
    // A tab beside notes that are written as fingered counts from the strings that they are written for.
    ...(tab && { tabStrings: staff === tune ? tuning.pitches : instrument.strings.map(({ usual }) => usual) }),
  });
}

/**
 * The marked tune as it is written: as it sounds, or as it is fingered, and then it says so.
 * @example writtenTune(arrangement).bars.length // 4
 */
export function writtenTune(arrangement: Arrangement): Tune {
  const marked = markedTune(arrangement);
  if (arrangement.staff === arrangement.tune) return marked;
  const strings = tuningText(arrangement.tuning.pitches);
  return {
    ...asFingered(marked, arrangement),
    notes: [...marked.notes, `Written as fingered, strings tuned ${strings}`],
  };
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

/**
 * How music for this instrument is written.
 * @example instrumentXml(INSTRUMENT.bass).writtenOctave // 1
 */
export function instrumentXml({ name, clef, writtenOctave }: Instrument): MusicXmlOptions {
  return { partName: name, clef, writtenOctave };
}

/**
 * A phrase as a small tune of its own: all that is needed to engrave it.
 * @example phraseLine(reel, phrase).bars.length // 2
 */
export function phraseLine(tune: Tune, { from, to }: Pick<Phrase, 'from' | 'to'>): Tune {
  return { ...sliceTune(tune, from, to), tempo: null, parting: null, notes: [] };
}

/**
 * Whether a line that begins there goes on in the metre before it, so that it is not printed again.
 * @example goesOn(reel, 0) // false
 */
export function goesOn({ bars }: Pick<Tune, 'bars'>, from: Ticks): boolean {
  if (from <= 0) return false;
  const starts = barStarts(bars);
  const index = barIndexAt(starts, from);
  return starts[index] !== from || isSameMetre(bars[index - 1]!.metre, bars[index]!.metre);
}

/**
 * The MusicXML of one line, as a strip shows it: bows and fingers stand in their own lanes.
 * @param continued the metre is not printed again
 * @example lineXml(phraseLine(reel, phrase), INSTRUMENT.violin, false).startsWith('<?xml') // true
 */
export function lineXml(line: Tune, instrument: Instrument, continued: boolean): string {
  return writeMusicXml(line, {
    ...instrumentXml(instrument),
    clef: clefFor(instrument, line),
    partName: '',
    continued,
  });
}

type SetBy = Pick<Decisions, 'key' | 'hand'>;

/**
 * From which pitch to which an instrument can be played under its limits.
 * @param maxPosition no higher than this position either
 * @example compassOf(FIRST_DECISIONS).low // 55
 */
export function compassOf({ key, hand: decidedHand }: SetBy, maxPosition?: Level): { low: Midi; top: Midi } {
  const instrument = instrumentOf(key);
  const hand = HANDS[instrument.hand];
  const tuning = tuningOf(key);
  const { limits } = profileFor({ ...decidedHand, wishes: FIRST_DECISIONS.hand.wishes, instrument, tuning, tempo: 0 });
  const open = openMidi(tuning.pitches);
  const frames = framesFor(hand, { ...limits, ...(maxPosition && { maxPosition }) });
  return { low: Math.min(...open), top: Math.max(...open) + reach(frames) };
}

/** How a tune lies on an instrument under its limits, moved by so many semitones. */
function lying(source: Tune, set: SetBy) {
  const { key } = set;
  const instrument = instrumentOf(key);
  const all = compassOf(set);
  const first = compassOf(set, 'I');
  const pitches = source.bars.flatMap((bar) =>
    bar.events.flatMap((event) => (event.kind === 'note' ? event.heads.map(({ pitch }) => midi(pitch)) : [])),
  );
  return {
    notes: pitches.length,
    /** Notes that lie outside the instrument, or above this position. */
    outside(shift: Semitones, maxPosition?: Level): number {
      const { low, top } = maxPosition === undefined ? all : maxPosition === 'I' ? first : compassOf(set, maxPosition);
      return pitches.filter((pitch) => pitch + shift < low || pitch + shift > top).length;
    },
    /** What is written in a bass clef is read an octave lower by who plays the bass. */
    asRead: key.transpose - (source.clef === 'bass' ? 12 * instrument.writtenOctave : 0),
    readsLower: instrument.writtenOctave > 0,
  };
}

/**
 * The transposition by whole octaves from `transpose` that leaves the fewest notes out of reach, then the
 * fewest beyond first position; of equals the nearest to where it is written.
 * @example bestOctave(reel, FIRST_DECISIONS) // 0
 */
export function bestOctave(source: Tune, set: SetBy): Semitones {
  const { notes, outside, asRead } = lying(source, set);
  // What cannot be played at all weighs more than what first position does not reach.
  const badness = (shift: number) => outside(shift) * notes + outside(shift, 'I');
  const octaves = [0, -1, 1, -2, 2, -3, 3].map((octave) => asRead + 12 * octave);
  return octaves.reduce((best, shift) => (badness(shift) < badness(best) ? shift : best));
}

/** Shares of a tune's notes. */
const OPENING = {
  /** So few notes that cannot be played are told, and the tune stays where it was written. */
  unplayable: 0.1,
  /** So many may lie beyond IV. */
  high: 0.25,
} as const;

/**
 * The octave in which a tune opens on an instrument: as it is written, unless it does not lie there. On an
 * instrument that is read an octave lower a tune that lies wholly beyond first position is meant so.
 * @example openingOctave(reel, FIRST_DECISIONS) // 0
 */
export function openingOctave(source: Tune, set: SetBy): Semitones {
  const { notes, outside, asRead, readsLower } = lying(source, set);
  const stays =
    outside(asRead) <= OPENING.unplayable * notes &&
    outside(asRead, 'IV') <= OPENING.high * notes &&
    !(readsLower && outside(asRead, 'I') === notes);
  return stays ? asRead : bestOctave(source, set);
}

/**
 * Where a written note, grace note or rest stands, as people count; beats may be fractions.
 * @example placesOf(reel).get('n3') // { bar: 1, beat: 2.5 }
 */
export function placesOf(tune: Tune): ReadonlyMap<string, BarBeat> {
  const numbers = barNumbers(tune.bars);
  return new Map(
    tune.bars.flatMap((bar, index) =>
      bar.events.flatMap((event) => {
        const beat = 1 + (bar.offset + event.at) / beatLength(bar.metre);
        const place = { bar: numbers[index]!, beat: Math.round(beat * 1000) / 1000 };
        const graces = (event.kind === 'note' && event.graces) || [];
        return [event, ...graces].map(({ id }) => [id, place] as const);
      }),
    ),
  );
}
