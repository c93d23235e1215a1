/** An arrangement as a record: what is decided, slice by slice. */
import type { z } from 'zod';
import { slicedRecord } from '../record/index.ts';
import { SLICES, decisionsSchema, type Decisions, type SliceName } from './decisions.ts';

/**
 * Decisions and changes of them.
 * @example arrangementRecord.between(FIRST_DECISIONS, decided(FIRST_DECISIONS, { pace: { tempo: 80 } }))[0].after // 80
 */
export const arrangementRecord = slicedRecord<Decisions>({
  kind: 'arrangement',
  schema: decisionsSchema,
  slices: Object.fromEntries(
    (Object.keys(SLICES) as SliceName[]).map((name): [string, z.ZodType] => [name, SLICES[name].schema]),
  ),
});
