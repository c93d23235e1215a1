/** States of a tune that the teacher gave a name. */
import { randomUUID } from 'node:crypto';
import { and, desc, eq, isNull } from 'drizzle-orm';
import type { VersionRecord, VersionSummary } from '@nokta/api';
import { tuneVersions, tunes } from '../db/schema.ts';
import { notFound } from '../problems.ts';
import type { Access } from '../records/keeping.ts';
import { storedTune } from './stored.ts';
import { touch } from './touch.ts';

export async function listVersions(db: Access, tuneId: string): Promise<readonly VersionSummary[]> {
  const rows = await db
    .select({ id: tuneVersions.id, name: tuneVersions.name, madeAt: tuneVersions.madeAt })
    .from(tuneVersions)
    .where(eq(tuneVersions.tuneId, tuneId))
    .orderBy(desc(tuneVersions.madeAt));
  return rows.map((row) => ({ ...row, madeAt: row.madeAt.toISOString() }));
}

/** Gives the tune's present state a name. */
export async function nameVersion(db: Access, tuneId: string, name: string): Promise<VersionSummary> {
  const [row] = await db
    .select({ tune: tunes.tune })
    .from(tunes)
    .where(and(eq(tunes.id, tuneId), isNull(tunes.deletedAt)));
  if (!row) throw notFound('tune');
  const id = randomUUID();
  const madeAt = new Date();
  await db.insert(tuneVersions).values({ id, tuneId, name, tune: storedTune(row.tune), madeAt });
  await touch(db, tuneId);
  return { id, name, madeAt: madeAt.toISOString() };
}

export async function openVersion(db: Access, tuneId: string, id: string): Promise<VersionRecord> {
  const [row] = await db
    .select()
    .from(tuneVersions)
    .where(and(eq(tuneVersions.tuneId, tuneId), eq(tuneVersions.id, id)));
  if (!row) throw notFound('version');
  return { id, name: row.name, madeAt: row.madeAt.toISOString(), tune: storedTune(row.tune) };
}

export async function deleteVersion(db: Access, tuneId: string, id: string): Promise<void> {
  const rows = await db
    .delete(tuneVersions)
    .where(and(eq(tuneVersions.tuneId, tuneId), eq(tuneVersions.id, id)))
    .returning({ id: tuneVersions.id });
  if (rows.length === 0) throw notFound('version');
  await touch(db, tuneId);
}
