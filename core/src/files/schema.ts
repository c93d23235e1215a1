/** What is stored and received beside tunes: learners' hands and tags. */
import { z } from 'zod';
import { handNameSchema, limitsSchema, namedWishesSchema, type HandLimits, type HandWishes } from '../hand/index.ts';
import { playedInstrumentSchema, type PlayedInstrument } from '../instrument/index.ts';
import type { KnownLearner } from '../learner/index.ts';

/** A learner as older programs kept one: a hand under a name, beside the tunes. */
export interface NamedHand {
  readonly id: string;
  readonly name: string;
  readonly wishes: HandWishes;
  readonly limits: HandLimits;
  /** What the learner plays; null where the hand is chosen for whatever is set. */
  readonly instrument: PlayedInstrument | null;
}

export const namedHandSchema = z.strictObject({
  id: z.uuid(),
  name: handNameSchema,
  wishes: namedWishesSchema,
  limits: limitsSchema,
  instrument: playedInstrumentSchema.nullable().default(null),
}) as unknown as z.ZodType<NamedHand, NamedHand>;

/**
 * A hand of an older program as the learner whose it is.
 * @example learnerOf({ id: 'l1', name: 'Ida', wishes: { preset: 'all-round' }, limits: {}, instrument: null }).value.person // { name: 'Ida' }
 */
export const learnerOf = ({ id, name, wishes, limits, instrument }: NamedHand): KnownLearner => ({
  id,
  value: { person: { name }, plays: { instrument }, hand: { wishes, limits }, paper: { style: null } },
});

/** A moment that a calendar and every store have: ISO 8601, in universal time, of a year that people write. */
export const momentSchema = z.iso
  .datetime('This is no date. Write it like 2026-03-01T10:00:00Z.')
  .refine((text) => text >= '1900' && text < '9000', 'A date is of a year from 1900 on.');

export const tagSchema = z.string().trim().min(1).max(40, 'A tag has at most 40 letters.');
