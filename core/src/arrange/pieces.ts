/**
 * What a teacher decides, piece by piece: a field of a slice, or one entry of a field that has many (a lock of a note,
 * a stroke that is turned). Pieces that do not touch each other go together, whoever decided them; a piece that stands
 * otherwise than its decider saw it is a question to people.
 */
import { dequal } from 'dequal';
import { z } from 'zod';
import { SLICES, type Decisions, type SliceName } from './decisions.ts';

/** One thing that was decided. What is not there is told by null, which a store of JSON keeps. */
export interface Piece {
  readonly slice: SliceName;
  readonly field: string;
  /** Of a field that has many: which. */
  readonly entry?: string;
  readonly before: unknown;
  readonly after: unknown;
}

const NAMES = Object.keys(SLICES) as [SliceName, ...SliceName[]];

export const piecesSchema = z
  .array(
    z.strictObject({
      slice: z.enum(NAMES),
      field: z.string().min(1).max(60),
      entry: z.string().max(400).optional(),
      // The whole that they make is held against the schema of decisions.
      before: z.unknown(),
      after: z.unknown(),
    }),
  )
  .min(1)
  .max(50_000) as unknown as z.ZodType<readonly Piece[], readonly Piece[]>;

type Fields = Readonly<Record<string, unknown>>;

/** Fields that have many entries, by their schemas. */
const MANY: ReadonlySet<string> = new Set(
  NAMES.flatMap((slice) =>
    Object.entries((SLICES[slice].schema as unknown as z.ZodObject).shape)
      .filter(([, schema]) => isRecord(schema))
      .map(([field]) => `${slice}.${field}`),
  ),
);

function isRecord(schema: unknown): boolean {
  if (schema instanceof z.ZodRecord) return true;
  return schema instanceof z.ZodDefault && isRecord(schema.unwrap());
}

/**
 * What is different between two states, piece by piece.
 * @example piecesBetween(FIRST_DECISIONS, decided(FIRST_DECISIONS, { pace: { tempo: 80 } }))[0].after // 80
 */
export function piecesBetween(before: Decisions, after: Decisions): readonly Piece[] {
  return NAMES.flatMap((slice) => {
    if (dequal(before[slice], after[slice])) return [];
    const [old, now] = [before[slice] as unknown as Fields, after[slice] as unknown as Fields];
    return keysOf(old, now).flatMap((field): readonly Piece[] => {
      if (dequal(old[field], now[field])) return [];
      if (!MANY.has(`${slice}.${field}`))
        return [{ slice, field, before: old[field] ?? null, after: now[field] ?? null }];
      const [some, others] = [(old[field] ?? {}) as Fields, (now[field] ?? {}) as Fields];
      return keysOf(some, others)
        .filter((entry) => !dequal(some[entry], others[entry]))
        .map((entry) => ({ slice, field, entry, before: some[entry] ?? null, after: others[entry] ?? null }));
    });
  });
}

const keysOf = (a: Fields, b: Fields): readonly string[] => [...new Set([...Object.keys(a), ...Object.keys(b)])];

/** What stands at a piece's place now. */
function standing(decisions: Decisions, { slice, field, entry }: Piece): unknown {
  const value = (decisions[slice] as unknown as Fields)[field];
  return (entry === undefined ? value : (value as Fields | undefined)?.[entry]) ?? null;
}

/**
 * Pieces that stand otherwise by now: neither as their decider saw them, nor as he wants them.
 * @example collisions(FIRST_DECISIONS, [{ slice: 'pace', field: 'tempo', before: 60, after: 80 }]).length // 1
 */
export const collisions = (decisions: Decisions, pieces: readonly Piece[]): readonly Piece[] =>
  pieces.filter((piece) => {
    const now = standing(decisions, piece);
    return !dequal(now, piece.before) && !dequal(now, piece.after);
  });

/**
 * Decisions with pieces laid over them, whatever stood there.
 * @example withPieces(FIRST_DECISIONS, [{ slice: 'pace', field: 'tempo', before: null, after: 80 }]).pace.tempo // 80
 */
export function withPieces(decisions: Decisions, pieces: readonly Piece[]): Decisions {
  // Slices and fields are copied once each, however many pieces they take.
  const slices = new Map<SliceName, Map<string, unknown>>();
  const many = new Map<string, Map<string, unknown>>();
  for (const { slice, field, entry, after } of pieces) {
    const own = slices.get(slice) ?? new Map(Object.entries(decisions[slice]));
    slices.set(slice, own);
    if (entry === undefined) own.set(field, after);
    else {
      const name = `${slice}.${field}`;
      const entries = many.get(name) ?? new Map(Object.entries((own.get(field) ?? {}) as Fields));
      many.set(name, entries);
      if (after === null) entries.delete(entry);
      else entries.set(entry, after);
      own.set(field, entries);
    }
  }
  const plain = (value: unknown): unknown => (value instanceof Map ? Object.fromEntries(value) : value);
  const laid = [...slices].map(([slice, own]) => [
    slice,
    Object.fromEntries([...own].map(([field, value]) => [field, plain(value)])),
  ]);
  return { ...decisions, ...(Object.fromEntries(laid) as object) };
}
