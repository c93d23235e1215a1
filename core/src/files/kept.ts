/**
 * What a teacher makes once and uses again, kept under a name beside the tunes: instruments, tunings, groups, tapes.
 * Each kind is one entry: what it holds. An arrangement takes over what it uses, so that nothing kept can change it.
 */
import { z } from 'zod';
import { GRADE_NUMBERS } from '../grade/index.ts';
import { INSTRUMENTS, MAKE_BOUNDS, makeSchema, playedInstrumentSchema, stringProblem } from '../instrument/index.ts';
import { handNameSchema, limitsSchema, wishesSchema } from '../hand/index.ts';
import { BINDINGS, PAPERS, someStyleSchema, tapesSchema, type SheetStyle } from '../paper/index.ts';
import { whole } from '../stage/index.ts';

export const playerSchema = z.strictObject({
  name: z.string().trim().max(60),
  instrument: z.enum(INSTRUMENTS),
  make: makeSchema.nullable(),
  /** What the player can do; null for the tune itself. */
  grade: z.union(GRADE_NUMBERS.map((grade) => z.literal(grade))).nullable(),
  /** Which learner this is, and the hand as it was when it was chosen; without an id where older programs knew the name alone. */
  hand: z
    .strictObject({ id: z.uuid().optional(), name: handNameSchema, wishes: wishesSchema, limits: limitsSchema })
    .nullable(),
});
/** Somebody who plays along. */
export type Player = z.infer<typeof playerSchema>;

export const KEPT = {
  instrument: playedInstrumentSchema,
  tuning: whole(
    z.strictObject({
      instrument: z.enum(INSTRUMENTS),
      /** Sounding, low to high. */
      pitches: z.array(z.string().max(10)).max(MAKE_BOUNDS.strings[1]),
    }),
    ({ pitches }) => {
      const message = stringProblem(pitches);
      return message ? { message, path: ['pitches'] } : null;
    },
  ),
  group: z.strictObject({
    players: z.array(playerSchema).min(1, 'A group needs somebody who plays. Add one first.').max(40),
  }),
  tapes: z.strictObject({ tapes: tapesSchema }),
  /** Tunes for a term, to be made into a book again. */
  book: z.strictObject({
    line: z.string().trim().max(120),
    /** By their ids, in the order of the book. */
    tunes: z.array(z.uuid()).max(200),
    /** Whose editions; nobody's where it is as the tunes are arranged. */
    players: z.array(playerSchema).max(40),
    paper: z.enum(PAPERS),
    binding: z.enum(BINDINGS),
    warmUps: z.boolean(),
  }),
  /** How sheets look. */
  style: z.strictObject({ style: someStyleSchema as unknown as z.ZodType<SheetStyle, SheetStyle> }),
} as const;
export type KeptKind = keyof typeof KEPT;
export const KEPT_KINDS = Object.keys(KEPT) as readonly KeptKind[];
export type KeptValue<Kind extends KeptKind> = z.infer<(typeof KEPT)[Kind]>;

/** Something kept. */
export interface Kept<Kind extends KeptKind = KeptKind> {
  readonly id: string;
  readonly kind: Kind;
  readonly name: string;
  readonly value: KeptValue<Kind>;
}

const entry = <Kind extends KeptKind>(kind: Kind) =>
  z.strictObject({
    id: z.uuid(),
    kind: z.literal(kind),
    name: z.string().trim().min(1, 'It needs a name to be kept.').max(60, 'This name is too long: 60 letters at most.'),
    value: KEPT[kind],
  });

export const keptSchema = z.discriminatedUnion('kind', [
  entry('instrument'),
  entry('tuning'),
  entry('group'),
  entry('tapes'),
  entry('book'),
  entry('style'),
]) as unknown as z.ZodType<Kept, Kept>;
