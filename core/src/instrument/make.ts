/**
 * Instruments that differ from the usual one of their kind: other sizes, five strings, strings or keys of their own.
 * A make says only what differs, so that a half-size violin stays a violin in everything else.
 */
import { z } from 'zod';
import {
  midi,
  parsePitch,
  pitch,
  pitchName,
  printedName,
  type Midi,
  type Pitch,
  type Semitones,
} from '../music/index.ts';
import {
  CLEFS,
  INSTRUMENT,
  standard,
  type ClefName,
  type Instrument,
  type InstrumentId,
  type Millimetres,
  type Newtons,
  type StringSpec,
} from './instrument.ts';
import { whole } from '../stage/index.ts';

/** How an instrument differs from the usual one of its kind; what is null is as there. */
export interface InstrumentMake {
  readonly name: string;
  /** Usual sounding pitches, low to high. */
  readonly strings: readonly string[] | null;
  readonly clef: ClefName | null;
  /** String length, nut to bridge. */
  readonly length: Millimetres | null;
  /** Tension of each string at its usual pitch. */
  readonly tensions: readonly Newtons[] | null;
  /** Where the tensions come from. */
  readonly gauge: string | null;
  /** Furthest stop above an open string. */
  readonly reach: Semitones | null;
}

/** What can be made at all; each bound is one that a message names. */
export const MAKE_BOUNDS = {
  strings: [3, 6],
  length: [100, 1300],
  tension: [5, 600],
  reach: [4, 36],
} as const;

const between = ([low, high]: readonly [number, number], message: string) =>
  z.number(message).min(low, message).max(high, message);
const { strings: STRINGS, length: LENGTH, tension: TENSION, reach: REACH } = MAKE_BOUNDS;
/** Lowest and highest string that the model of hands and sound has been tried on: B flat 0 to C 6. */
const LOWEST: Midi = 22;
const HIGHEST: Midi = 84;

export const makeSchema = whole(
  z.strictObject({
    name: z.string().trim().min(1, 'An instrument needs a name.').max(60, 'This name is too long: 60 letters at most.'),
    strings: z.array(z.string().max(10)).nullable(),
    clef: z.enum(['treble', 'alto', 'tenor', 'bass']).nullable(),
    length: between(
      LENGTH,
      `A string is ${LENGTH[0]} to ${LENGTH[1]} mm long. Measure it from the nut to the bridge.`,
    ).nullable(),
    tensions: z
      .array(between(TENSION, `A string pulls with ${TENSION[0]} to ${TENSION[1]} newton. See its maker's table.`))
      .max(STRINGS[1])
      .nullable(),
    gauge: z.string().trim().max(60).nullable(),
    reach: between(REACH, `Keys or fingers reach ${REACH[0]} to ${REACH[1]} semitones above an open string.`)
      .int('Give the reach in whole semitones.')
      .nullable(),
  }),
  ({ strings, tensions }) => {
    const problem = strings && stringProblem(strings);
    if (problem) return { message: problem, path: ['strings'] };
    return strings && tensions && strings.length !== tensions.length
      ? { message: 'Give a tension for each string.', path: ['tensions'] }
      : null;
  },
) as z.ZodType<InstrumentMake, InstrumentMake>;

/**
 * What is wrong with strings of one's own, and what would be right; null where nothing is.
 * @example stringProblem(['G3', 'D4', 'A4']) // null
 */
export function stringProblem(names: readonly string[]): string | null {
  if (names.length < STRINGS[0] || names.length > STRINGS[1])
    return `An instrument has ${STRINGS[0]} to ${STRINGS[1]} strings, not ${names.length}.`;
  let before: Pitch | null = null;
  for (const name of names) {
    const own = parsePitch(name);
    if (!own) return `“${name}” is no pitch. Write a letter and an octave, such as G3 or Bb2.`;
    if (midi(own) < LOWEST || midi(own) > HIGHEST)
      return `${name} is no pitch for an open string here: Bb0 to C6. Check the octave.`;
    if (before && midi(own) <= midi(before))
      return `${name} is not above ${pitchName(before)}, the string before it. Give the strings low to high.`;
    before = own;
  }
  return null;
}

/**
 * The instrument itself.
 * @example madeInstrument('violin', { ...LIKE_USUAL, name: 'Half-size violin', length: 285 }).length // 285
 * @throws where the make is not one that its schema lets pass
 */
export function madeInstrument(like: InstrumentId, make: InstrumentMake | null): Instrument {
  const model = INSTRUMENT[like];
  if (!make) return model;
  const { name, clef, length, gauge, reach } = make;
  const strings = stringsOf(model, make);
  return {
    ...model,
    // Fingers that were decided for other strings do not speak for these.
    id: make.strings ? `${like} ${make.strings.join(',')}` : like,
    name,
    strings,
    // A clef that somebody asked for is read throughout.
    ...(clef && { clef: CLEFS[clef], highClefs: [] }),
    // Its bow is shorter, or longer, in the same measure.
    ...(length && { length, hair: Math.round((model.hair * length) / model.length) }),
    ...(make.strings && { tunings: [standard(...make.strings)] }),
    ...(gauge && { gauge }),
    ...(reach && { reach }),
  };
}

function stringsOf(model: Instrument, { strings, tensions }: InstrumentMake): readonly StringSpec[] {
  const usual = strings?.map(pitch);
  const letters = usual?.map(printedName) ?? [];
  const specs = usual
    ? usual.map((own, string) => ({
        // Two strings an octave apart are told apart by it.
        name: letters.filter((letter) => letter === letters[string]).length > 1 ? pitchName(own) : letters[string]!,
        usual: own,
        tension: tensionLike(model, own),
      }))
    : model.strings;
  return tensions ? specs.map((spec, string) => ({ ...spec, tension: tensions[string] ?? spec.tension })) : specs;
}

/** The tension of the model's string that is nearest in pitch. */
function tensionLike({ strings: known }: Instrument, usual: Pitch): Newtons {
  const away = ({ usual: other }: StringSpec) => Math.abs(midi(other) - midi(usual));
  return known.reduce((best, one) => (away(one) < away(best) ? one : best)).tension;
}

/** Nothing differs but the name that is still to be given. */
export const LIKE_USUAL: InstrumentMake = {
  name: '',
  strings: null,
  clef: null,
  length: null,
  tensions: null,
  gauge: null,
  reach: null,
};

const size = (name: string, length: Millimetres): InstrumentMake => ({ ...LIKE_USUAL, name, length });
const strung = (name: string, ...strings: readonly string[]): InstrumentMake => ({ ...LIKE_USUAL, name, strings });

/**
 * Makes that teachers meet, for each kind. String lengths of fractional sizes are typical ones, rounded: makers differ
 * by a centimetre and more, so each can be measured and changed.
 */
export const MAKES: Readonly<Record<InstrumentId, readonly InstrumentMake[]>> = {
  violin: [
    size('Three-quarter violin', 307),
    size('Half-size violin', 285),
    size('Quarter-size violin', 255),
    size('Eighth-size violin', 230),
    size('Sixteenth-size violin', 205),
    strung('Five-string violin', 'C3', 'G3', 'D4', 'A4', 'E5'),
  ],
  viola: [
    size('Large viola (42 cm)', 380),
    size('Small viola (38 cm)', 350),
    size('Viola of violin size', 328),
    size('Viola of half size', 285),
  ],
  cello: [
    size('Three-quarter cello', 620),
    size('Half-size cello', 570),
    size('Quarter-size cello', 505),
    size('Eighth-size cello', 445),
    strung('Five-string cello', 'C2', 'G2', 'D3', 'A3', 'E4'),
  ],
  bass: [
    size('Half-size bass', 975),
    size('Quarter-size bass', 900),
    size('Eighth-size bass', 820),
    strung('Five-string bass, low B', 'B0', 'E1', 'A1', 'D2', 'G2'),
    strung('Five-string bass, high C', 'E1', 'A1', 'D2', 'G2', 'C3'),
  ],
};
