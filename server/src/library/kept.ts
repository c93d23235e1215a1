/** Instruments, tunings, groups and tapes that a teacher keeps under a name. */
import { asc, eq } from 'drizzle-orm';
import { keptSchema, type Kept } from '@nokta/core/files';
import type { Database } from '../db/open.ts';
import { kept } from '../db/schema.ts';
import { notFound } from '../problems.ts';

/** By name. */
export async function listKept(db: Pick<Database, 'select'>): Promise<readonly Kept[]> {
  const rows = await db.select().from(kept).orderBy(asc(kept.name), asc(kept.id));
  return rows.flatMap((row) => read(row) ?? []);
}

/** What this program cannot read; it stays as it is. */
export async function strangeKept(db: Pick<Database, 'select'>): Promise<readonly (typeof kept.$inferSelect)[]> {
  return (await db.select().from(kept)).filter((row) => !read(row));
}

function read(row: typeof kept.$inferSelect): Kept | null {
  const parsed = keptSchema.safeParse(row);
  return parsed.success ? parsed.data : null;
}

/** Keeps it under its id: something new, or the same changed. */
export async function keep(db: Database, { id, ...row }: Kept): Promise<void> {
  await db
    .insert(kept)
    .values({ id, ...row })
    .onConflictDoUpdate({ target: kept.id, set: row });
}

export async function dropKept(db: Database, id: string): Promise<void> {
  const gone = await db.delete(kept).where(eq(kept.id, id)).returning({ id: kept.id });
  if (gone.length === 0) throw notFound('entry');
}
