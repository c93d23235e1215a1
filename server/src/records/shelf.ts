/** Records that need no table of their own: kept, listed, removed and brought back by kind, with a log that only grows. */
import { and, asc, desc, eq, isNotNull, isNull } from 'drizzle-orm';
import type { LogEntry, StoredRecord } from '@nokta/api';
import type { RecordKind } from '@nokta/core/record';
import { log, records } from '../db/schema.ts';
import { Refusal, notFound } from '../problems.ts';
import { forgetSteps, openRecord } from './history.ts';
import { keeping, type Access, type Keeping, type Transaction } from './keeping.ts';
import { notify } from './notices.ts';

/** A kind of record on the shelf. */
export type Shelved<Value, Change> = Keeping<Value, Change, StoredRecord<Value>>;

/** What of a kind need not know what its records hold. */
type Kind = Pick<Shelved<never, never>, 'find' | 'word'> & { readonly record: { readonly kind: string } };

/** @param word how people call one */
export const shelved = <Value, Change>(record: RecordKind<Value, Change>, word: string): Shelved<Value, Change> =>
  keeping({
    record,
    word,
    async find(db, id, lock) {
      const query = db
        .select()
        .from(records)
        .where(and(eq(records.id, id), eq(records.kind, record.kind), isNull(records.deletedAt)));
      const [row] = lock ? await query.for('update') : await query;
      return row ? { id, revision: row.revision, family: id, stored: row.value } : null;
    },
    async save(tx, { id, value, revision }) {
      await tx.update(records).set({ value, revision, updatedAt: new Date() }).where(eq(records.id, id));
    },
    told: ({ id, revision, value }, steps) => ({ id, revision, value, ...steps }),
  });

/** All of a kind, the oldest first; those that cannot be read apart, as they are stored. */
export async function listShelf<Value, Change>(
  db: Access,
  { record }: Shelved<Value, Change>,
): Promise<{
  readonly readable: readonly StoredRecord<Value>[];
  readonly aside: readonly (typeof records.$inferSelect)[];
}> {
  const rows = await db
    .select()
    .from(records)
    .where(and(eq(records.kind, record.kind), isNull(records.deletedAt)))
    .orderBy(asc(records.createdAt), asc(records.id));
  const read = rows.map((row) => ({ row, parsed: record.schema.safeParse(row.value) }));
  return {
    // What undo would do is told of one at a time.
    readable: read.flatMap(({ row: { id, revision }, parsed }) =>
      parsed.success ? [{ id, revision, value: parsed.data, undo: null, redo: null, undoAt: null, redoAt: null }] : [],
    ),
    aside: read.flatMap(({ row, parsed }) => (parsed.success ? [] : [row])),
  };
}

/** Keeps a new one under an id that its sender gave: sent again, it is there already. */
export async function addToShelf<Value, Change>(
  tx: Transaction,
  kind: Shelved<Value, Change>,
  id: string,
  value: Value,
): Promise<StoredRecord<Value>> {
  const added = await tx
    .insert(records)
    .values({ id, kind: kind.record.kind, value })
    .onConflictDoNothing()
    .returning({ id: records.id });
  if (added.length > 0) await notify(tx, { kind: kind.record.kind, id, family: id, revision: 1, entry: null });
  return openRecord(tx, kind, id);
}

/** Removes one, so that it can be brought back until the next start. @throws Refusal 404 */
export const removeFromShelf = (tx: Transaction, { record, word }: Kind, id: string): Promise<void> =>
  setDeleted(tx, { kind: record.kind, word }, id, new Date());
export const bringBackToShelf = (tx: Transaction, { record, word }: Kind, id: string): Promise<void> =>
  setDeleted(tx, { kind: record.kind, word }, id, null);

async function setDeleted(
  tx: Transaction,
  { kind, word }: { readonly kind: string; readonly word: string },
  id: string,
  deletedAt: Date | null,
): Promise<void> {
  const [row] = await tx
    .update(records)
    .set({ deletedAt })
    .where(and(eq(records.id, id), eq(records.kind, kind)))
    .returning({ revision: records.revision });
  if (!row) throw notFound(word);
  await notify(tx, { kind, id, family: id, revision: row.revision, entry: null });
}

/** Removed ones go for good, with what happened to them. */
export async function clearShelf(tx: Transaction): Promise<void> {
  const gone = await tx.delete(records).where(isNotNull(records.deletedAt)).returning({ id: records.id });
  await forgetSteps(
    tx,
    gone.map(({ id }) => id),
  );
  for (const { id } of gone) await tx.delete(log).where(eq(log.record, id));
}

/**
 * Something that happened: only ever added, so that two desks never stand in each other's way.
 * @throws Refusal 422 where the id belongs to something else that happened
 */
export async function appendToLog(
  tx: Transaction,
  kind: Kind,
  record: string,
  { id, at, value }: LogEntry,
): Promise<void> {
  const row = await kind.find(tx, record, false);
  if (!row) throw notFound(kind.word);
  const added = await tx
    .insert(log)
    .values({ id, record, at: new Date(at), value })
    .onConflictDoNothing()
    .returning({ id: log.id });
  if (added.length > 0) {
    const { revision, family } = row;
    await notify(tx, { kind: kind.record.kind, id: record, family, revision, entry: id });
    return;
  }
  const [known] = await tx.select({ record: log.record }).from(log).where(eq(log.id, id));
  if (known?.record !== record) throw new Refusal(422, { error: 'This was told of another one already.' });
}

/** What happened, the latest first. */
export async function readLog(db: Access, record: string, most = 500): Promise<readonly LogEntry[]> {
  const rows = await db.select().from(log).where(eq(log.record, record)).orderBy(desc(log.at)).limit(most);
  return rows.map(({ id, at, value }) => ({ id, at: at.toISOString(), value }));
}
