/** The melodies of all tunes, in memory: searched note by note, and asked for tunes that sound the same. */
import { and, eq, inArray, isNull, ne } from 'drizzle-orm';
import { LikenessIndex, MelodyIndex, unpackMelody } from '@nokta/core/search';
import type { Database } from '../db/open.ts';
import { tunes } from '../db/schema.ts';
import { FACTS, factsOf } from './facts.ts';

export class Melodies {
  readonly places = new MelodyIndex();
  readonly likeness = new LikenessIndex();
  readonly #changed = new Set<string>();
  #looking: Promise<void> | null = null;

  constructor(private readonly db: Database) {}

  put(id: string, packed: string): void {
    const melody = unpackMelody(packed);
    this.places.put(id, melody);
    this.likeness.put(id, melody);
  }

  remove(id: string): void {
    this.places.remove(id);
    this.likeness.remove(id);
  }

  /** The tune is another by now, or gone: its melody is read again, soon, and before anybody searches. */
  look(id: string): void {
    this.#changed.add(id);
    this.#looking ??= this.#lookAll().finally(() => (this.#looking = null));
  }

  /** Waits until all that is known to have changed was read. */
  async upToDate(): Promise<void> {
    await this.#looking;
  }

  async #lookAll(): Promise<void> {
    while (this.#changed.size > 0) {
      const ids = [...this.#changed].slice(0, AT_ONCE);
      // What changes from here on is looked at once more.
      for (const id of ids) this.#changed.delete(id);
      const rows = await this.db
        .select({ id: tunes.id, melody: tunes.melody })
        .from(tunes)
        .where(and(inArray(tunes.id, ids), isNull(tunes.deletedAt)));
      const found = new Map(rows.map(({ id, melody }) => [id, melody]));
      for (const id of ids) {
        const melody = found.get(id);
        if (melody === undefined) this.remove(id);
        else this.put(id, melody);
      }
    }
  }
}

/** Melodies read in one go. */
const AT_ONCE = 100;

/** Works out facts that an older program left out or made differently, then reads all melodies. */
export async function loadMelodies(db: Database): Promise<Melodies> {
  await refreshFacts(db);
  const melodies = new Melodies(db);
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
