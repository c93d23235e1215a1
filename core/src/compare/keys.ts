/**
 * Keys side by side: how the tune lies in each key and octave, by the real fingering at the working tempo. Facts only;
 * what a teacher says of them stands in `words`.
 */
import { bowTune, slurredInto } from '../bow/index.ts';
import { analyseForm, type BarBeat } from '../form/index.ts';
import { limitsOf } from '../grade/index.ts';
import { Hand, levelOf, patternsOf, POSITIONS, type Fingering, type Level, type StringPattern } from '../hand/index.ts';
import { droneStrings, instrumentOf, tuneInKey, tuningOf, type InstrumentId } from '../instrument/index.ts';
import {
  LETTERS,
  chroma,
  midi,
  signatureAlter,
  transposeKey,
  transposePitch,
  workingTempo,
  type Key,
  type Midi,
  type Pitch,
  type Semitones,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';
import { arrange, compassOf, placesOf } from '../arrange/index.ts';
import { decided, type Decisions } from '../arrange/index.ts';

/** A note that falls off the instrument; of a chord each by itself. */
export interface FallenNote extends BarBeat {
  readonly id: string;
  /** As it would sound. */
  readonly pitch: Pitch;
}

/** How the tune lies in one key and octave. */
export interface KeyChoice {
  readonly key: Key;
  /** From where it was brought in. */
  readonly transpose: Semitones;
  /** Octaves from where it was brought in, the key itself being at most six semitones away. */
  readonly octave: number;
  /** Every note, double stops too, can be played. */
  readonly fits: boolean;
  readonly outOfRange: readonly FallenNote[];
  /** Of the cheapest fingering: by what is wished, and by the plain price list, in the units of the price list. */
  readonly cost: number;
  readonly effort: number;
  /** Whether the home note and its fifth are open strings. */
  readonly openHome: boolean;
  readonly openFifth: boolean;
  /** Strings, by number from the lowest, that sound the home note or its fifth: drones. */
  readonly drones: readonly number[];
  /** Share of the notes that are open or in unison or octave with an open string, 0 to 1. */
  readonly ringing: number;
  /** Sharps and flats in the signature. */
  readonly accidentals: number;
  /** Notes that are stopped outside first position, and the furthest position. */
  readonly positions: number;
  readonly highest: Level;
  readonly shifts: number;
  readonly extensions: number;
  /** Notes played with the fourth finger, the first finger low, the third high. */
  readonly fourth: number;
  readonly low1: number;
  readonly high3: number;
  /** Strings on which a finger lies now here, now there, and how often one moves so. */
  readonly patternChanges: number;
  /** Which neighbouring fingers touch on which string, the lowest first; strings on which none do are left out. */
  readonly touching: readonly Pick<StringPattern, 'string' | 'touching'>[];
}

/** Semitones: four octaves up and down. */
const FURTHEST: Semitones = 48;
const TWELVE = 12;

/** How many octaves a transposition goes, its key being the nearest. @example octaveOf(-17) // -1 */
export const octaveOf = (transpose: Semitones): number => Math.floor((transpose + TWELVE / 2) / TWELVE);

/** How far the key itself is away, from six semitones down to five up. @example withinOctave(-17) // -5 */
export const withinOctave = (transpose: Semitones): Semitones => transpose - TWELVE * octaveOf(transpose);

/** The twelve keys, by how far they are away. */
export const KEYS: readonly Semitones[] = Array.from({ length: TWELVE }, (_, index) => index - TWELVE / 2);

/**
 * Every transposition within four octaves that fits, each of the twelve keys at least once though it does not: those
 * that fit first, then by rising effort, of equals the nearest. Each step gives the share that is done.
 * @example finished(keyChoices(reel, FIRST_DECISIONS)).length >= 12 // true
 */
export function* keyChoices(source: Tune, decisions: Decisions): Generator<number, readonly KeyChoice[]> {
  const { low, top } = compassOf(decisions);
  const pitches = soundingPitches(unmoved(source, decisions));
  const fallen = (transpose: Semitones) =>
    pitches.filter((pitch) => pitch + transpose < low || pitch + transpose > top).length;
  const nearest = Array.from({ length: 2 * FURTHEST + 1 }, (_, index) => index - FURTHEST).sort(
    (a, b) => Math.abs(a) - Math.abs(b) || a - b,
  );
  const chosen = new Set(nearest.filter((transpose) => fallen(transpose) === 0));
  for (const within of KEYS) {
    const ways = nearest.filter((transpose) => withinOctave(transpose) === within);
    if (ways.some((transpose) => chosen.has(transpose))) continue;
    chosen.add(ways.reduce((best, other) => (fallen(other) < fallen(best) ? other : best)));
  }
  const fingeringIn = fingerings(source, decisions);
  const choices: KeyChoice[] = [];
  for (const transpose of chosen) {
    choices.push(choiceOf(source, decisions, transpose, fingeringIn(transpose)));
    yield choices.length / chosen.size;
  }
  return choices.sort(
    (a, b) =>
      Number(b.fits) - Number(a.fits) ||
      a.outOfRange.length - b.outOfRange.length ||
      a.effort - b.effort ||
      Math.abs(a.transpose) - Math.abs(b.transpose),
  );
}

/**
 * How the tune lies in the key, tuning and octave that is decided.
 * @example keyChoice(reel, FIRST_DECISIONS).fits // true
 */
export const keyChoice = (source: Tune, decisions: Decisions): KeyChoice =>
  choiceOf(source, decisions, decisions.key.transpose, fingerings(source, decisions)(decisions.key.transpose));

/**
 * How the tune is fingered in another key. What a key does not change, form and bow, is worked out once; a version for
 * a grade is another in every key.
 */
function fingerings(source: Tune, decisions: Decisions): (transpose: Semitones) => Fingering {
  const instrument = instrumentOf(decisions.key);
  const { version, pace, bow, hand } = decisions;
  if (version.grade === 'bare' || limitsOf(version, instrument.hand))
    return (transpose) => arrange(source, decided(decisions, { key: { transpose } })).fingering;
  const here = unmoved(source, decisions);
  const form = analyseForm(here);
  const tempo = workingTempo(source, pace.tempo);
  const slurred = slurredInto(bowTune(here, form, bow, tempo));
  const setup = { ...hand, instrument, tuning: tuningOf(decisions.key), tempo, slurred };
  return (transpose) => new Hand(tuneInKey(source, { ...decisions.key, transpose }), form, setup).fingering;
}

function choiceOf(source: Tune, decisions: Decisions, transpose: Semitones, fingering: Fingering): KeyChoice {
  const { key: first } = source.bars[0]!;
  const { key } = transposeKey(first, transpose);
  const open = tuningOf(decisions.key).pitches;
  const home = chroma(key.tonic);
  const fifth = (home + 7) % TWELVE;
  const on = (tone: number) => open.some((pitch) => chroma(pitch) === tone);
  const stops = fingering.notes.flatMap((note) => note.stops);
  const rings = stops.filter((stop) => open.some((pitch) => (midi(pitch) - midi(stop.pitch)) % TWELVE === 0));
  const stopped = fingering.notes.filter((note) => note.stops.some(({ finger }) => finger > 0));
  const away = stopped.filter(({ position }) => position !== 'I');
  const level = Math.max(POSITIONS.indexOf('I'), ...away.map(({ position }) => levelOf(position!)));
  const count = (finger: number, sign?: string) =>
    stops.filter((stop) => stop.finger === finger && (sign === undefined || stop.sign === sign)).length;
  const { low, top } = compassOf(decisions);
  const patterns = patternsOf(fingering.notes);
  return {
    key,
    transpose,
    octave: octaveOf(transpose),
    fits: fingering.notes.every((note) => note.stops.length === note.pitches.length),
    outOfRange: fallenNotes(unmoved(source, decisions), transpose, low, top),
    cost: fingering.totals.cost,
    effort: fingering.totals.effort,
    openHome: on(home),
    openFifth: on(fifth),
    drones: droneStrings(key.tonic, open),
    ringing: stops.length === 0 ? 0 : rings.length / stops.length,
    accidentals: LETTERS.filter((letter) => signatureAlter(key, letter) !== 0).length,
    positions: away.length,
    highest: POSITIONS[level]!,
    shifts: fingering.totals.shifts,
    extensions: fingering.totals.extensions,
    fourth: count(4),
    low1: count(1, 'low'),
    high3: count(3, 'high'),
    patternChanges: patterns.reduce((sum, { changes }) => sum + changes, 0),
    touching: patterns.flatMap(({ string, touching }) => (touching.length > 0 ? [{ string, touching }] : [])),
  };
}

/** Where it was brought in, its phrases in the octaves that are decided. */
const unmoved = (source: Tune, { key }: Decisions): Tune => tuneInKey(source, { ...key, transpose: 0 });

/** What sounds at an event: graces before it, and its heads. */
const soundsOf = (event: TuneEvent): readonly { readonly id: string; readonly pitch: Pitch }[] =>
  event.kind === 'note' ? [...(event.graces ?? []), ...event.heads.map(({ pitch }) => ({ id: event.id, pitch }))] : [];

const soundingPitches = ({ bars }: Tune): readonly Midi[] =>
  bars.flatMap(({ events }) => events.flatMap((event) => soundsOf(event).map(({ pitch }) => midi(pitch))));

function fallenNotes(source: Tune, transpose: Semitones, low: Midi, top: Midi): readonly FallenNote[] {
  const places = placesOf(source);
  return source.bars.flatMap((bar) => {
    const { steps } = transposeKey(bar.key, transpose);
    return bar.events.flatMap((event) =>
      soundsOf(event).flatMap((sound): readonly FallenNote[] => {
        const pitch = transposePitch(sound.pitch, steps, transpose);
        const { bar: number, beat } = places.get(event.id) ?? { bar: 0, beat: 1 };
        return midi(pitch) < low || midi(pitch) > top ? [{ id: sound.id, pitch, bar: number, beat }] : [];
      }),
    );
  });
}

/** @example playerOn(FIRST_DECISIONS, 'cello').key.tuning // 'standard' */
export const playerOn = (decisions: Decisions, instrument: InstrumentId): Decisions =>
  decided(decisions, { key: { instrument, tuning: 'standard' } });
