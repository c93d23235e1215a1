/**
 * Slices: what a teacher decides, each part in the folder of the stage that reads it. A slice's type, schema,
 * first value and reading of what older programs stored stand together.
 */
import type { z } from 'zod';

export interface Slice<Value> {
  /** What is stored must look like this, to the last field. */
  readonly schema: z.ZodType<Value, Value>;
  /** Before anything is decided. */
  readonly first: Value;
  /** Fields that older programs stored and nobody reads any more. */
  readonly retired?: readonly string[];
  /** This slice's part of what older programs stored, when all decisions stood side by side; checked by the schema. */
  older(flat: Readonly<Record<string, unknown>>): unknown;
}

/**
 * Checks a slice's parts against each other.
 * @example slice({ schema: paceSlice.schema, first: { tempo: 96 }, older: ({ tempo }) => ({ tempo }) }).first // { tempo: 96 }
 */
export const slice = <Value>(parts: Slice<Value>): Slice<Value> => parts;

/**
 * Leaves out fields that are not there, so that a schema sees them as missing and not as undefined.
 * @example present({ a: 1, b: undefined }) // { a: 1 }
 */
export function present<Value extends object>(value: Value): Partial<Value> {
  return Object.fromEntries(Object.entries(value).filter(([, one]) => one !== undefined)) as Partial<Value>;
}
