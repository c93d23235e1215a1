/** Work with an end: a file that keeps a reader busy for too long is given up, in words. */
import { runInThisContext } from 'node:vm';

/** Milliseconds; the largest files take a few thousand. */
export const MOST_MS = 30_000;

const SLOT = Symbol.for('nokta.limited');

/**
 * Runs something that never pauses, and ends it where it takes too long: a timer would not get its turn.
 * @returns null where it was ended
 */
export function inTime<T>(work: () => T, mostMs: number = MOST_MS): T | null {
  const global = globalThis as { [SLOT]?: () => T };
  global[SLOT] = work;
  try {
    return runInThisContext("globalThis[Symbol.for('nokta.limited')]()", { timeout: mostMs }) as T;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ERR_SCRIPT_EXECUTION_TIMEOUT') return null;
    throw error;
  } finally {
    Reflect.deleteProperty(global, SLOT);
  }
}
