/**
 * Records that stand in slices, changed piece by piece: a field of a slice, or one entry of a field that has many (a
 * lock of a note, a stroke that is turned). Pieces that do not touch each other go together, whoever made them; a piece
 * that stands otherwise than its maker saw it is a question to people.
 */
import { dequal } from 'dequal';
import { z } from 'zod';
import type { RecordKind } from './kind.ts';

/** One thing that became different. What is not there is told by null, which a store of JSON keeps. */
export interface Piece {
  /** Left out where the whole record became another, as older programs kept it. */
  readonly slice?: string;
  readonly field?: string;
  /** Of a field that has many: which. */
  readonly entry?: string;
  readonly before: unknown;
  readonly after: unknown;
}

export interface SlicedRecord<Value> extends RecordKind<Value, readonly Piece[]> {
  /** Pieces that stand otherwise by now: neither as their maker saw them, nor as he wants them. */
  collisions(now: Value, pieces: readonly Piece[]): readonly Piece[];
  /** The record with pieces laid over it, whatever stood there. */
  lay(value: Value, pieces: readonly Piece[]): Value;
}

interface Parts<Value> {
  readonly kind: string;
  readonly schema: z.ZodType<Value, Value>;
  /** Each slice's schema, an object of fields. */
  readonly slices: Readonly<Record<string, z.ZodType>>;
}

type Fields = Readonly<Record<string, unknown>>;
const MOST_PIECES = 50_000;

function isMany(schema: unknown): boolean {
  if (schema instanceof z.ZodRecord) return true;
  return schema instanceof z.ZodDefault && isMany(schema.unwrap());
}

const keysOf = (a: Fields, b: Fields): readonly string[] => [...new Set([...Object.keys(a), ...Object.keys(b)])];

/** What stands at a piece's place now. */
function standing(value: Fields, { slice, field, entry }: Piece): unknown {
  if (slice === undefined || field === undefined) return value;
  const found = (value[slice] as Fields | undefined)?.[field];
  return (entry === undefined ? found : (found as Fields | undefined)?.[entry]) ?? null;
}

/**
 * A kind of record that stands in slices.
 * @example slicedRecord({ kind: 'pace', schema: readSlices({ pace: paceSlice }), slices: { pace: paceSlice.schema } }).between({ pace: { tempo: 60 } }, { pace: { tempo: 80 } })[0].after // 80
 */
export function slicedRecord<Value extends object>({ kind, schema, slices }: Parts<Value>): SlicedRecord<Value> {
  const names = Object.keys(slices) as [string, ...string[]];
  const shapes = new Map(
    names.map((name) => [name, (slices[name] as z.ZodObject).shape as Readonly<Record<string, z.ZodType>>]),
  );
  const hasMany = (slice: string, field: string) => isMany(shapes.get(slice)?.[field]);
  /** Null says that it is gone, where it is no value of the field itself. */
  const isGone = (slice: string, field: string, after: unknown) =>
    after === null && !(shapes.get(slice)?.[field]?.safeParse(null).success ?? true);

  const changeSchema = z
    .array(
      z.strictObject({
        slice: z.enum(names),
        field: z.string().min(1).max(60),
        entry: z.string().max(400).optional(),
        // The whole that they make is held against the record's schema.
        before: z.unknown(),
        after: z.unknown(),
      }),
    )
    .min(1)
    .max(MOST_PIECES) as unknown as z.ZodType<readonly Piece[], readonly Piece[]>;

  function between(before: Value, after: Value): readonly Piece[] | null {
    const [a, b] = [before as Fields, after as Fields];
    const pieces = names.flatMap((slice) => {
      if (dequal(a[slice], b[slice])) return [];
      const [old, now] = [(a[slice] ?? {}) as Fields, (b[slice] ?? {}) as Fields];
      return keysOf(old, now).flatMap((field): readonly Piece[] => {
        if (dequal(old[field], now[field])) return [];
        if (!hasMany(slice, field)) return [{ slice, field, before: old[field] ?? null, after: now[field] ?? null }];
        const [some, others] = [(old[field] ?? {}) as Fields, (now[field] ?? {}) as Fields];
        return keysOf(some, others)
          .filter((entry) => !dequal(some[entry], others[entry]))
          .map((entry) => ({ slice, field, entry, before: some[entry] ?? null, after: others[entry] ?? null }));
      });
    });
    return pieces.length > 0 ? pieces : null;
  }

  const collisions = (now: Value, pieces: readonly Piece[]): readonly Piece[] =>
    pieces.filter((piece) => {
      if (piece.slice === undefined) return false;
      const there = standing(now as Fields, piece);
      return !dequal(there, piece.before) && !dequal(there, piece.after);
    });

  function lay(value: Value, pieces: readonly Piece[]): Value {
    const whole = pieces.findLast(({ slice }) => slice === undefined);
    // What older programs kept may have an older shape.
    const under = (whole ? schema.parse(whole.after) : value) as Fields;
    // Slices and fields are copied once each, however many pieces they take.
    const laid = new Map<string, Map<string, unknown>>();
    const many = new Map<string, Map<string, unknown>>();
    for (const { slice, field, entry, after } of pieces) {
      if (slice === undefined || field === undefined) continue;
      const own = laid.get(slice) ?? new Map(Object.entries((under[slice] ?? {}) as Fields));
      laid.set(slice, own);
      if (entry === undefined) {
        if (isGone(slice, field, after)) own.delete(field);
        else own.set(field, after);
        continue;
      }
      const name = `${slice}.${field}`;
      const entries = many.get(name) ?? new Map(Object.entries((own.get(field) ?? {}) as Fields));
      many.set(name, entries);
      if (after === null) entries.delete(entry);
      else entries.set(entry, after);
      own.set(field, entries);
    }
    const plain = (one: unknown): unknown => (one instanceof Map ? Object.fromEntries(one) : one);
    const changed = [...laid].map(([slice, own]) => [
      slice,
      Object.fromEntries([...own].map(([field, one]) => [field, plain(one)])),
    ]);
    return { ...under, ...(Object.fromEntries(changed) as object) } as Value;
  }

  return {
    kind,
    schema,
    changeSchema,
    between,
    fits: (value, pieces) => collisions(value, pieces).length === 0,
    apply(value, pieces) {
      if (collisions(value, pieces).length > 0) throw new Error('This change was made on another state of the record.');
      return lay(value, pieces);
    },
    invert: (pieces) => pieces.map((piece) => ({ ...piece, before: piece.after, after: piece.before })),
    merge: (now, pieces) => (collisions(now, pieces).length > 0 ? null : lay(now, pieces)),
    collisions,
    lay,
  };
}
