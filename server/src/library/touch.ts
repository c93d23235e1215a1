/** That a tune changed: when, and for those who listen. */
import { eq } from 'drizzle-orm';
import { tunes } from '../db/schema.ts';
import type { Access } from '../records/keeping.ts';
import { notify } from '../records/notices.ts';

/** Notes that a tune, or something that belongs to it, was changed now. */
export async function touch(db: Access, tuneId: string): Promise<void> {
  await db.update(tunes).set({ updatedAt: new Date() }).where(eq(tunes.id, tuneId));
}

/** A tune came, went, or has other tags: whoever listens looks again. */
export const notifyTune = (db: Access, id: string): Promise<void> =>
  notify(db, { kind: 'tune', id, family: id, revision: null, entry: null });
