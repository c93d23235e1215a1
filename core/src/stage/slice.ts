/**
 * Slices: what a teacher decides, each part in the folder of the stage that reads it. A slice's type, schema,
 * first value and reading of what older programs stored stand together.
 */
import { z } from 'zod';

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

type Stored = Readonly<Record<string, unknown>>;
const isObject = (value: unknown): value is Stored => typeof value === 'object' && value !== null;

/**
 * Slices that a program stored which did not know every slice and field yet: those begin as if nothing was decided.
 * @example withMissing({ pace: paceSlice }, {}) // { pace: paceSlice.first }
 */
export function withMissing(slices: Readonly<Record<string, Slice<unknown>>>, stored: Stored): Stored {
  const read = Object.entries(slices).map(([name, { first, retired }]) => {
    const own = stored[name] ?? first;
    if (!isObject(own)) return [name, own];
    const known = Object.entries(own).filter(([field]) => !retired?.includes(field));
    return [name, { ...(first as object), ...Object.fromEntries(known) }];
  });
  return { ...stored, ...(Object.fromEntries(read) as object) };
}

/**
 * A value in slices as it is sent and stored, to the last field.
 * @example readSlices({ pace: paceSlice }).parse({}) // { pace: paceSlice.first }
 */
export function readSlices<Value extends object>(slices: {
  readonly [Name in keyof Value]: Slice<Value[Name]>;
}): z.ZodType<Value, Value> {
  const all = slices as unknown as Readonly<Record<string, Slice<unknown>>>;
  const current = z.strictObject(
    Object.fromEntries(Object.entries(all).map(([name, { schema }]) => [name, schema as z.ZodType])),
  );
  return z.preprocess(
    (stored) => (isObject(stored) ? withMissing(all, stored) : stored),
    current,
  ) as unknown as z.ZodType<Value, Value>;
}
