/** Work in steps, for those who wait for all of it. */

/**
 * Runs steps to their end.
 * @example finished(planStretchSteps({ ...facts, tempo: 120 }, facts.decisions.bow, [])).change // null
 */
export function finished<Result>(steps: Generator<unknown, Result>): Result {
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}
