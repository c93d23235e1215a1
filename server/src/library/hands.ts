/** Learners' hands, and mixtures of wishes that a teacher uses again. */
import { asc, eq } from 'drizzle-orm';
import { namedHandSchema, type NamedHand } from '@nokta/core/files';
import type { Database } from '../db/open.ts';
import { hands } from '../db/schema.ts';
import { notFound } from '../problems.ts';

/** By name. */
export async function listHands(db: Pick<Database, 'select'>): Promise<readonly NamedHand[]> {
  const rows = await db.select().from(hands).orderBy(asc(hands.name), asc(hands.id));
  return rows.flatMap((row) => readHand(row) ?? []);
}

/** Hands that this program cannot read; they stay as they are. */
export async function strangeHands(db: Pick<Database, 'select'>): Promise<readonly (typeof hands.$inferSelect)[]> {
  return (await db.select().from(hands)).filter((row) => !readHand(row));
}

function readHand({ id, name, wishes, limits, instrument }: typeof hands.$inferSelect): NamedHand | null {
  const parsed = namedHandSchema.safeParse({ id, name, wishes, limits, instrument });
  return parsed.success ? parsed.data : null;
}

/** Keeps a hand under its id: a new one, or the same one changed. */
export async function keepHand(db: Database, { id, name, wishes, limits, instrument }: NamedHand): Promise<void> {
  const row = { name, wishes, limits, instrument };
  await db
    .insert(hands)
    .values({ id, ...row })
    .onConflictDoUpdate({ target: hands.id, set: row });
}

export async function dropHand(db: Database, id: string): Promise<void> {
  const gone = await db.delete(hands).where(eq(hands.id, id)).returning({ id: hands.id });
  if (gone.length === 0) throw notFound('hand');
}
