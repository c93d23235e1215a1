/**
 * What a sound tune is: the one notion for readers, the store, what is received, and the laws that tests state.
 * Whatever passes is safe to compute with: bars are filled without gap or overlap, all times are whole ticks,
 * ids are unique, slurs know their notes, texts can be kept, and nothing is larger than music can be.
 */
import { z } from 'zod';
import { LETTERS } from './pitch.ts';
import { MODES } from './key.ts';
import { NOTE_TYPES, TICKS_PER_WHOLE } from './time.ts';
import { ARTICULATIONS, ORNAMENTS, type Tune } from './tune.ts';
import { whole } from '../stage/index.ts';

/** The largest that a tune and its texts may be. Texts in letters. */
export const LIMITS = {
  bars: 20_000,
  inBar: 2_000,
  title: 300,
  names: 50,
  field: 300,
  style: 120,
  notes: 200,
  note: 4_000,
  chordSymbol: 60,
  annotation: 300,
  label: 60,
  syllable: 120,
  verses: 30,
  tempoText: 200,
  heads: 12,
  graces: 24,
  decorations: 12,
  otherFingers: 5,
  times: 20,
  beats: 64,
  slowest: 1,
  fastest: 2_000,
} as const;
const LONGEST: number = 1_000 * TICKS_PER_WHOLE;

const id = z.string().regex(/^[A-Za-z][\w.-]{0,63}$/, 'An id has letters, digits, points and hyphens only.');
/** Half of a pair of signs and the zero sign cannot be stored. */
const isKeepable = (text: string) => !text.includes('\0') && text.isWellFormed();
const line = (most: number) => z.string().max(most).refine(isKeepable, 'There is a sign that cannot be kept.');
const ticks = z.number().int().min(0).max(LONGEST);
const length = z.number().int().min(1).max(LONGEST);
const alter = z.literal([-2, -1, 0, 1, 2]);
const pitchClass = { letter: z.enum(LETTERS), alter };
const pitch = z.strictObject({ ...pitchClass, octave: z.number().int().min(-1).max(10) });
const finger = z.string().regex(/^([0-5]|T)$/);

const metre = z.strictObject({
  beats: z.number().int().min(1).max(LIMITS.beats),
  unit: z.literal([1, 2, 4, 8, 16, 32, 64]),
  symbol: z.enum(['common', 'cut', 'free']).optional(),
});
const key = z.strictObject({
  tonic: z.strictObject(pitchClass),
  mode: z.enum(MODES),
  signature: z.partialRecord(z.enum(LETTERS), alter),
});
const tempo = z.strictObject({
  beat: length,
  bpm: z.number().min(LIMITS.slowest).max(LIMITS.fastest),
  text: line(LIMITS.tempoText).optional(),
});

const event = {
  id,
  at: ticks,
  duration: length,
  value: z.strictObject({
    type: z.enum(NOTE_TYPES),
    dots: z.literal([0, 1, 2, 3]),
  }),
  tuplet: z
    .object({
      actual: z.number().int().min(2).max(64),
      normal: z.number().int().min(1).max(64),
      edge: z.enum(['start', 'stop']).optional(),
    })
    .optional(),
  chordSymbol: line(LIMITS.chordSymbol).optional(),
  annotation: line(LIMITS.annotation).optional(),
  source: z.strictObject({ line: z.number().int(), column: z.number().int() }).optional(),
};
const syllable = z.strictObject({
  text: line(LIMITS.syllable),
  hyphen: z.boolean().optional(),
  extend: z.boolean().optional(),
});
const note = z.strictObject({
  ...event,
  kind: z.literal('note'),
  heads: z
    .array(
      z.strictObject({
        pitch,
        tied: z.boolean().optional(),
        finger: finger.optional(),
        otherFingers: z.array(finger).max(LIMITS.otherFingers).optional(),
        string: z.number().int().min(1).max(6).optional(),
      }),
    )
    .min(1)
    .max(LIMITS.heads),
  graces: z
    .array(
      z.strictObject({
        id,
        pitch,
        slash: z.boolean().optional(),
        finger: finger.optional(),
        string: z.number().int().min(1).max(6).optional(),
      }),
    )
    .max(LIMITS.graces)
    .optional(),
  bow: z.enum(['down', 'up']).optional(),
  decorations: z
    .array(z.enum([...ORNAMENTS, ...ARTICULATIONS]))
    .max(LIMITS.decorations)
    .optional(),
  dynamic: z.enum(['pppp', 'ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff', 'ffff', 'sfz']).optional(),
  words: z.array(syllable.nullable()).max(LIMITS.verses).optional(),
  lineEnd: z.boolean().optional(),
});
const rest = z.strictObject({ ...event, kind: z.literal('rest'), invisible: z.boolean().optional() });

const bar = z.strictObject({
  id,
  metre,
  key,
  events: z.array(z.discriminatedUnion('kind', [note, rest])).max(LIMITS.inBar),
  length: ticks,
  offset: ticks,
  repeatStart: z.boolean().optional(),
  repeatEnd: z.number().int().min(2).max(LIMITS.times).optional(),
  endings: z.array(z.number().int().min(1).max(LIMITS.times)).max(LIMITS.times).optional(),
  endingStop: z.boolean().optional(),
  barline: z.enum(['single', 'double', 'final', 'invisible']),
  label: line(LIMITS.label).optional(),
  segno: z.boolean().optional(),
  coda: z.boolean().optional(),
  toCoda: z.boolean().optional(),
  fine: z.boolean().optional(),
  jump: z.strictObject({ back: z.enum(['start', 'segno']), until: z.enum(['end', 'fine', 'coda']) }).optional(),
  tempo: tempo.optional(),
});

export const titleSchema = z
  .string()
  .trim()
  .min(1, 'A tune needs a title.')
  .max(LIMITS.title, `The title is longer than ${LIMITS.title} letters.`)
  .refine(isKeepable, 'The title has a sign that cannot be kept.');

const anchor = z.strictObject({ note: id, bar: id, at: ticks });
const parting = z.strictObject({
  held: z.array(z.strictObject({ from: anchor, to: anchor.nullable(), name: line(120).optional() })).max(2_000),
  parts: z.array(z.strictObject({ at: anchor, starts: z.boolean(), label: line(60).optional() })).max(2_000),
  order: z.array(id).max(5_000),
});

const plainTune = z.strictObject({
  title: titleSchema,
  alsoKnownAs: z.array(line(LIMITS.field)).max(LIMITS.names),
  composer: line(LIMITS.field),
  origin: line(LIMITS.field),
  style: line(LIMITS.style),
  notes: z.array(line(LIMITS.note)).max(LIMITS.notes),
  tempo: tempo.nullable(),
  bars: z
    .array(bar)
    .min(1, 'A tune has at least one bar.')
    .max(LIMITS.bars, 'The tune has more bars than can be kept.'),
  slurs: z.array(z.strictObject({ from: id, to: id })).max(100_000),
  parting: parting.nullable().optional(),
  clef: z.literal('bass').optional(),
});

/**
 * A whole tune, sound in itself.
 * @example tuneSchema.safeParse(reel).success // true
 */
export const tuneSchema: z.ZodType<Tune, Tune> = whole(plainTune, faultOf);

/** What is wrong between the parts of a tune; null for a sound one. */
function faultOf(tune: Tune): { message: string; path: (string | number)[] } | null {
  const ids = new Set<string>();
  const bars = new Set<string>();
  for (const [index, { id: barId, events, length: whole }] of tune.bars.entries()) {
    const path = ['bars', index];
    if (bars.has(barId)) return { message: `Two bars have the id ${barId}.`, path };
    bars.add(barId);
    let time = 0;
    for (const item of events) {
      if (item.at !== time) return { message: `Note ${item.id} does not begin where the one before it ends.`, path };
      time += item.duration;
      if (ids.has(item.id)) return { message: `Two notes have the id ${item.id}.`, path };
      ids.add(item.id);
    }
    if (time !== whole) return { message: `Bar ${index + 1} does not last as long as its notes.`, path };
  }
  const lost = tune.slurs.findIndex(({ from, to }) => !ids.has(from) || !ids.has(to));
  return lost < 0 ? null : { message: 'A slur begins or ends on a note that is not there.', path: ['slurs', lost] };
}

/** What keeps a tune from being sound, and where in it. */
export interface Fault {
  readonly message: string;
  readonly path: readonly PropertyKey[];
}

/**
 * The first thing that is wrong with a tune; null for a sound one.
 * @example soundnessFault(reel) // null
 */
export function soundnessFault(tune: unknown): Fault | null {
  const parsed = tuneSchema.safeParse(tune);
  if (parsed.success) return null;
  const [issue] = parsed.error.issues;
  return { message: issue?.message ?? 'This is no tune.', path: issue?.path ?? [] };
}

/** @example isSound({ ...reel, bars: [] }) // false */
export const isSound = (tune: unknown): tune is Tune => soundnessFault(tune) === null;
