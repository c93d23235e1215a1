/** Schemas whose parts have to fit each other. */
import type { z } from 'zod';

/** What does not fit, and where. */
export interface Misfit {
  readonly message: string;
  readonly path: (string | number)[];
}

/**
 * Holds the parts of a value against each other, once each of them is what it should be: a parser goes on to look at
 * the whole where a text in it was refused, and whoever looks must not meet a pitch that is none.
 * @param misfit what does not fit; null where all does
 * @example whole(paceSlice.schema, () => ({ message: 'too slow', path: ['tempo'] })).safeParse({ tempo: 60 }).success // false
 */
export const whole = <Schema extends z.ZodType>(
  parts: Schema,
  misfit: (value: z.output<Schema>) => Misfit | null,
): Schema =>
  parts.superRefine((value, context) => {
    if (context.issues.length > 0) return;
    const found = misfit(value);
    if (found) context.addIssue({ code: 'custom', ...found });
  });
