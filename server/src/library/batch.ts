/** Tunes that come in many at once: each is judged, and answered, by itself. */
import type { z } from 'zod';
import type { RefusedTune } from '@nokta/api';
import { refusalOf } from '../problems.ts';

export interface Judged<T> {
  readonly sound: readonly T[];
  readonly refused: readonly RefusedTune[];
}

/** @param schema what each must be */
export function judge<T>(given: readonly unknown[], schema: z.ZodType<T>): Judged<T> {
  const sound: T[] = [];
  const refused: RefusedTune[] = [];
  for (const [index, one] of given.entries()) {
    const parsed = schema.safeParse(one);
    if (parsed.success) sound.push(parsed.data);
    else refused.push(refusedTune(index, one, parsed.error));
  }
  return { sound, refused };
}

export function refusedTune(index: number, given: unknown, error: unknown): RefusedTune {
  const { body } = refusalOf(error);
  return { index, title: titleIn(given), error: body.error, ...(body.remedy && { remedy: body.remedy }) };
}

function titleIn(given: unknown): string {
  const { tune } = (typeof given === 'object' && given !== null ? given : {}) as { tune?: { title?: unknown } };
  return typeof tune?.title === 'string' ? tune.title.slice(0, 120) : 'a tune';
}
