/**
 * What a stored or received tune must look like. Whatever passes is safe to compute with: ids are
 * unique, events follow each other without gaps, slurs know their notes.
 */
import { z } from 'zod';
import { handNameSchema, limitsSchema, wishesSchema, type HandLimits, type HandWishes } from '../hand/index.ts';
import { ARTICULATIONS, LETTERS, MODES, NOTE_TYPES, ORNAMENTS, TICKS_PER_WHOLE, type Tune } from '../music/index.ts';

const MOST_BARS = 20_000;
const MOST_IN_BAR = 2_000;
const LONGEST: number = 1_000 * TICKS_PER_WHOLE;

const id = z.string().regex(/^[A-Za-z][\w.-]{0,63}$/, 'An id has letters, digits, points and hyphens only.');
const line = (most: number) => z.string().max(most);
const ticks = z.number().int().min(0).max(LONGEST);
const length = z.number().int().min(1).max(LONGEST);
const alter = z.union([z.literal(-2), z.literal(-1), z.literal(0), z.literal(1), z.literal(2)]);
const pitchClass = { letter: z.enum(LETTERS), alter };
const pitch = z.object({ ...pitchClass, octave: z.number().int().min(-1).max(10) });
const finger = z.string().regex(/^([0-5]|T)$/);

const metre = z.object({
  beats: z.number().int().min(1).max(64),
  unit: z.union([1, 2, 4, 8, 16, 32, 64].map((unit) => z.literal(unit))),
  symbol: z.enum(['common', 'cut']).optional(),
});
const key = z.object({
  tonic: z.object(pitchClass),
  mode: z.enum(MODES),
  signature: z.partialRecord(z.enum(LETTERS), alter),
});
const tempo = z.object({ beat: length, bpm: z.number().min(1).max(2000), text: line(200).optional() });

const event = {
  id,
  at: ticks,
  duration: length,
  value: z.object({
    type: z.enum(NOTE_TYPES),
    dots: z.union([z.literal(0), z.literal(1), z.literal(2), z.literal(3)]),
  }),
  tuplet: z
    .object({
      actual: z.number().int().min(2).max(64),
      normal: z.number().int().min(1).max(64),
      edge: z.enum(['start', 'stop']).optional(),
    })
    .optional(),
  chordSymbol: line(60).optional(),
  annotation: line(300).optional(),
  source: z.object({ line: z.number().int(), column: z.number().int() }).optional(),
};
const syllable = z.object({ text: line(120), hyphen: z.boolean().optional(), extend: z.boolean().optional() });
const note = z.object({
  ...event,
  kind: z.literal('note'),
  heads: z
    .array(
      z.object({
        pitch,
        tied: z.boolean().optional(),
        finger: finger.optional(),
        otherFingers: z.array(finger).max(5).optional(),
        string: z.number().int().min(1).max(6).optional(),
      }),
    )
    .min(1)
    .max(12),
  graces: z
    .array(z.object({ id, pitch, slash: z.boolean().optional() }))
    .max(24)
    .optional(),
  bow: z.enum(['down', 'up']).optional(),
  decorations: z
    .array(z.enum([...ORNAMENTS, ...ARTICULATIONS]))
    .max(12)
    .optional(),
  dynamic: z.enum(['pppp', 'ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff', 'ffff', 'sfz']).optional(),
  words: z.array(syllable.nullable()).max(30).optional(),
  lineEnd: z.boolean().optional(),
});
const rest = z.object({ ...event, kind: z.literal('rest'), invisible: z.boolean().optional() });

const bar = z.object({
  id,
  metre,
  key,
  events: z.array(z.discriminatedUnion('kind', [note, rest])).max(MOST_IN_BAR),
  length: ticks,
  offset: ticks,
  repeatStart: z.boolean().optional(),
  repeatEnd: z.number().int().min(2).max(20).optional(),
  endings: z.array(z.number().int().min(1).max(20)).max(20).optional(),
  endingStop: z.boolean().optional(),
  barline: z.enum(['single', 'double', 'final', 'invisible']),
  label: line(60).optional(),
  segno: z.boolean().optional(),
  coda: z.boolean().optional(),
  toCoda: z.boolean().optional(),
  fine: z.boolean().optional(),
  jump: z.object({ back: z.enum(['start', 'segno']), until: z.enum(['end', 'fine', 'coda']) }).optional(),
  tempo: tempo.optional(),
});

export const titleSchema = z
  .string()
  .trim()
  .min(1, 'A tune needs a title.')
  .max(300, 'The title is longer than 300 letters.');

const anchor = z.object({ note: id, bar: id, at: ticks });
const parting = z.object({
  held: z.array(z.object({ from: anchor, to: anchor.nullable(), name: line(120).optional() })).max(2_000),
  parts: z.array(z.object({ at: anchor, starts: z.boolean(), label: line(60).optional() })).max(2_000),
  order: z.array(id).max(5_000),
});

const plainTune = z.object({
  title: titleSchema,
  alsoKnownAs: z.array(line(300)).max(50),
  composer: line(300),
  origin: line(300),
  style: line(120),
  notes: z.array(line(4000)).max(200),
  tempo: tempo.nullable(),
  bars: z.array(bar).min(1, 'A tune has at least one bar.').max(MOST_BARS, 'The tune has more bars than can be kept.'),
  slurs: z.array(z.object({ from: id, to: id })).max(100_000),
  parting: parting.nullable().optional(),
});

/** A whole tune, sound in itself. */
export const tuneSchema: z.ZodType<Tune, Tune> = plainTune.superRefine((tune, context) => {
  const fault = faultOf(tune);
  if (fault) context.addIssue({ code: 'custom', ...fault });
});

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

/** A learner's hand, or a mixture that a teacher uses again: kept beside the tunes, under a name. */
export interface NamedHand {
  readonly id: string;
  readonly name: string;
  readonly wishes: HandWishes;
  readonly limits: HandLimits;
}

/** Older programs kept the name in the wishes too. */
const namedWishes = z.preprocess((stored) => {
  if (typeof stored !== 'object' || stored === null || !('name' in stored)) return stored;
  const { name: _, ...wishes } = stored;
  return wishes;
}, wishesSchema) as unknown as z.ZodType<HandWishes, HandWishes>;

export const namedHandSchema = z.strictObject({
  id: z.uuid(),
  name: handNameSchema,
  wishes: namedWishes,
  limits: limitsSchema,
}) satisfies z.ZodType<NamedHand, NamedHand>;

export const tagSchema = z.string().trim().min(1).max(40, 'A tag has at most 40 letters.');
