/** What the teacher makes of the lesson that comes from a tune: no stage reads it. */
import { z } from 'zod';
import { slice } from '../stage/index.ts';

export interface LessonDecisions {
  /** Ids of steps as they are to come, one more than once where it is repeated; null for the order that comes from the tune. */
  readonly order: readonly string[] | null;
  /** Steps that are left out, by id. */
  readonly out: Readonly<Record<string, true>>;
  /** How long the lesson is; null where nobody said. */
  readonly minutes: number | null;
}

/** A tune of many phrases has as many steps, and as many joins. */
const MOST_STEPS = 400;
export const LESSON_MINUTES = { least: 5, most: 180 } as const;

const stepId = z.string().min(1).max(4_000);

export const lessonSlice = slice<LessonDecisions>({
  schema: z.strictObject({
    order: z.array(stepId).max(MOST_STEPS).nullable(),
    out: z.record(stepId, z.literal(true)),
    minutes: z.number().int().min(LESSON_MINUTES.least).max(LESSON_MINUTES.most).nullable(),
  }) as unknown as z.ZodType<LessonDecisions, LessonDecisions>,
  first: { order: null, out: {}, minutes: null },
  older: () => ({ order: null, out: {}, minutes: null }),
});
