/**
 * What is stored, read strictly. A record that this program cannot read stays as it is: it is told, left out of
 * what needs it, and never written over.
 */
import { decisionsSchema, type Decisions } from '@nokta/core/arrange';
import { tuneSchema, type Tune } from '@nokta/core/music';
import { Refusal } from '../problems.ts';

/** @returns null where what is stored is no tune that this program knows */
export function readTune(stored: unknown): Tune | null {
  const parsed = tuneSchema.safeParse(stored);
  return parsed.success ? parsed.data : null;
}

/** @throws Refusal 422 where it cannot be read */
export function storedTune(stored: unknown): Tune {
  const tune = readTune(stored);
  if (tune) return tune;
  throw new Refusal(422, {
    error: 'This tune is stored in a shape that this Nokta cannot read. It was left as it is, and nothing is lost.',
    remedy: 'Bring Nokta up to date, or restore the tune from a backup.',
  });
}

/** @returns null where what is stored are no decisions that this program knows */
export function readDecisions(stored: unknown): Decisions | null {
  const parsed = decisionsSchema.safeParse(stored);
  return parsed.success ? parsed.data : null;
}

/** @throws Refusal 422 where they cannot be read */
export function storedDecisions(stored: unknown): Decisions {
  const decisions = readDecisions(stored);
  if (decisions) return decisions;
  throw new Refusal(422, {
    error:
      'What was decided for this arrangement is stored in a shape that this Nokta cannot read. It was left as it is.',
    remedy: 'Bring Nokta up to date, then open it again.',
  });
}
