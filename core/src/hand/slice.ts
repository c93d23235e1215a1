/** What is decided for the left hand. */
import { z } from 'zod';
import { present, slice } from '../stage/index.ts';
import { limitsSchema, type HandLimits } from './handLimits.ts';
import { type LimitLayer, teacherLimits } from './limits.ts';
import { locksSchema, type Locks } from './locks.ts';
import { FIRST_WISHES, wishesSchema, type HandWishes } from './wishes.ts';

/** A learner's hand that was chosen for the arrangement, as it was then. */
export interface LearnerHand {
  /** Whose; left out where older programs knew learners by their names alone. */
  readonly id?: string;
  readonly name: string;
  readonly limits: HandLimits;
  /** The wishes that came with it, whatever the arrangement wishes by now. */
  readonly wishes?: HandWishes;
}

export interface HandDecisions {
  /** What the hand prefers. */
  readonly wishes: HandWishes;
  /** Wishes of single parts, by their letter. */
  readonly partWishes: Readonly<Record<string, HandWishes>>;
  readonly learner: LearnerHand | null;
  /** The teacher's own limits: they win over all others. */
  readonly limits: HandLimits;
  readonly locks: Locks;
}

export const handNameSchema = z.string().trim().min(1, 'A hand needs a name.').max(60);

/** Older programs kept the name in the wishes too. */
export const namedWishesSchema = z.preprocess((stored) => {
  if (typeof stored !== 'object' || stored === null || !('name' in stored)) return stored;
  const { name: _, ...wishes } = stored;
  return wishes;
}, wishesSchema) as unknown as z.ZodType<HandWishes, HandWishes>;

export const learnerHandSchema = z.strictObject({
  id: z.uuid().optional(),
  name: handNameSchema,
  limits: limitsSchema,
  wishes: wishesSchema.optional(),
}) as unknown as z.ZodType<LearnerHand, LearnerHand>;

export const handSlice = slice<HandDecisions>({
  schema: z.strictObject({
    wishes: wishesSchema,
    partWishes: z.record(z.string().min(1).max(40), wishesSchema),
    learner: learnerHandSchema.nullable(),
    limits: limitsSchema,
    locks: locksSchema,
  }),
  first: { wishes: FIRST_WISHES, partWishes: {}, learner: null, limits: {}, locks: {} },
  older({ wishes, partWishes, limits, locks }) {
    const { name, ...unnamed } = (wishes ?? FIRST_WISHES) as HandWishes & { readonly name?: unknown };
    // A hand with a name was a learner's, and its limits were theirs.
    const learner = name === undefined ? null : { name, limits };
    return present({
      wishes: unnamed,
      partWishes: withoutNames(partWishes ?? {}),
      learner,
      limits: learner ? {} : limits,
      locks,
    });
  },
});

const withoutNames = (parts: object) =>
  Object.fromEntries(
    Object.entries(parts).map(([part, { name: _, ...wishes }]: [string, HandWishes & { name?: unknown }]) => [
      part,
      wishes,
    ]),
  );

/**
 * What learner and teacher say, for `resolveLimits`.
 * @example limitLayers({ learner: { name: 'Ida', limits: { noFourth: true } }, limits: {} }).map(({ by }) => by) // ['learner', 'teacher']
 */
export function limitLayers({
  learner,
  limits,
}: Pick<HandDecisions, 'limits'> & { readonly learner?: LearnerHand | null }): readonly LimitLayer[] {
  return [...(learner ? [{ by: 'learner' as const, ...learner }] : []), teacherLimits(limits)];
}
