/** The melodies of all tunes, in memory: searched note by note, and asked for tunes that sound the same. */
import { and, eq, isNull, ne } from 'drizzle-orm';
import { LikenessIndex, MelodyIndex, unpackMelody } from '@nokta/core/search';
import type { Database } from '../db/open.ts';
import { tunes } from '../db/schema.ts';
import { FACTS, factsOf } from './facts.ts';

export class Melodies {
  readonly places = new MelodyIndex();
  readonly likeness = new LikenessIndex();

  put(id: string, packed: string): void {
    const melody = unpackMelody(packed);
    this.places.put(id, melody);
    this.likeness.put(id, melody);
  }

  remove(id: string): void {
    this.places.remove(id);
    this.likeness.remove(id);
  }
}

/** Works out facts that an older program left out or made differently, then reads all melodies. */
export async function loadMelodies(db: Database): Promise<Melodies> {
  await refreshFacts(db);
  const melodies = new Melodies();
  const rows = await db.select({ id: tunes.id, melody: tunes.melody }).from(tunes).where(isNull(tunes.deletedAt));
  for (const { id, melody } of rows) melodies.put(id, melody);
  return melodies;
}

async function refreshFacts(db: Database): Promise<void> {
  const old = await db.select({ id: tunes.id }).from(tunes).where(ne(tunes.facts, FACTS));
  for (const { id } of old) {
    const [row] = await db
      .select()
      .from(tunes)
      .where(and(eq(tunes.id, id), ne(tunes.facts, FACTS)));
    if (!row) continue;
    // Before facts there was a title of its own beside the tune.
    const tune = row.facts === 0 ? { ...row.tune, title: row.title } : row.tune;
    await db
      .update(tunes)
      .set({ tune, ...factsOf(tune, row.tags) })
      .where(eq(tunes.id, id));
  }
}
