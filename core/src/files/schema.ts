/** What is stored and received beside tunes: learners' hands and tags. */
import { z } from 'zod';
import { handNameSchema, limitsSchema, wishesSchema, type HandLimits, type HandWishes } from '../hand/index.ts';
import { INSTRUMENTS, makeSchema, type InstrumentId, type InstrumentMake } from '../instrument/index.ts';

/** Which instrument somebody plays, and in which make. */
export interface PlayedInstrument {
  readonly like: InstrumentId;
  readonly make: InstrumentMake | null;
}
export const playedInstrumentSchema = z.strictObject({
  like: z.enum(INSTRUMENTS),
  make: makeSchema.nullable(),
}) satisfies z.ZodType<PlayedInstrument, PlayedInstrument>;

/** A learner's hand, or a mixture that a teacher uses again: kept beside the tunes, under a name. */
export interface NamedHand {
  readonly id: string;
  readonly name: string;
  readonly wishes: HandWishes;
  readonly limits: HandLimits;
  /** What the learner plays; null where the hand is chosen for whatever is set. */
  readonly instrument: PlayedInstrument | null;
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
  instrument: playedInstrumentSchema.nullable().default(null),
}) as unknown as z.ZodType<NamedHand, NamedHand>;

/** A moment that a calendar and every store have: ISO 8601, in universal time, of a year that people write. */
export const momentSchema = z.iso
  .datetime('This is no date. Write it like 2026-03-01T10:00:00Z.')
  .refine((text) => text >= '1900' && text < '9000', 'A date is of a year from 1900 on.');

export const tagSchema = z.string().trim().min(1).max(40, 'A tag has at most 40 letters.');
