/**
 * Everything in one file and back: a zip with a Nokta file for each tune and a list of them. Written
 * tune by tune, so that memory stays the same however large the library is.
 */
import { asc, eq, gt, inArray, isNull, and } from 'drizzle-orm';
import { Zip, ZipDeflate, strToU8 } from 'fflate';
import type { Compared } from '@nokta/api';
import type { Decisions } from '@nokta/core/arrange';
import { BACKUP_LIST, backupList, writeNokta, type BackupEntry, type NoktaContents } from '@nokta/core/files';
import { tuneVersions, tunes } from '../db/schema.ts';
import { arrangementsOf } from './decisions.ts';
import { factsOf } from './facts.ts';
import { listHands } from './hands.ts';
import { insertTune, type Library, type NewTune } from './tunes.ts';

type Row = typeof tunes.$inferSelect;

/** Tunes read at once while a backup is written. */
const AT_ONCE = 50;

async function contentsOf({ db }: Pick<Library, 'db'>, row: Row): Promise<NoktaContents> {
  const versions = await db
    .select()
    .from(tuneVersions)
    .where(eq(tuneVersions.tuneId, row.id))
    .orderBy(asc(tuneVersions.madeAt));
  return {
    tune: row.tune,
    arrangements: (await arrangementsOf(db, row.id)).map(({ decisions }): Decisions => decisions),
    tags: row.tags,
    versions: versions.map(({ name, madeAt, tune }) => ({ name, madeAt: madeAt.toISOString(), tune })),
  };
}

/** One tune with everything decided for it. */
export async function noktaContents(library: Pick<Library, 'db'>, id: string): Promise<NoktaContents | null> {
  const [row] = await library.db
    .select()
    .from(tunes)
    .where(and(eq(tunes.id, id), isNull(tunes.deletedAt)));
  return row ? contentsOf(library, row) : null;
}

/** @param send takes each piece of the file; what it returns is waited for */
export async function writeBackup(
  library: Pick<Library, 'db'>,
  send: (piece: Uint8Array) => Promise<void>,
): Promise<number> {
  let failed: Error | null = null;
  let queue: Uint8Array[] = [];
  const zip = new Zip((error, piece) => {
    failed ??= error;
    queue.push(piece);
  });
  const flush = async () => {
    if (failed) throw failed;
    const pieces = queue;
    queue = [];
    for (const piece of pieces) await send(piece);
  };
  const put = (name: string, text: string) => {
    const entry = new ZipDeflate(name, { level: 6 });
    zip.add(entry);
    entry.push(strToU8(text), true);
  };
  const list: BackupEntry[] = [];
  let after = '';
  for (;;) {
    const rows = await library.db
      .select()
      .from(tunes)
      .where(and(isNull(tunes.deletedAt), gt(tunes.id, after)))
      .orderBy(asc(tunes.id))
      .limit(AT_ONCE);
    if (rows.length === 0) break;
    for (const row of rows) {
      const file = `tunes/${row.id}.nokta.json`;
      put(file, writeNokta(await contentsOf(library, row)));
      list.push({ id: row.id, title: row.title, updatedAt: row.updatedAt.toISOString(), file });
      await flush();
    }
    after = rows.at(-1)!.id;
  }
  put(BACKUP_LIST, backupList({ tunes: list, hands: await listHands(library.db), madeAt: new Date().toISOString() }));
  zip.end();
  await flush();
  return list.length;
}

/** Which tunes of a backup are new here, the same, or another state of one that is here. */
export async function compareBackup(
  { db }: Pick<Library, 'db'>,
  entries: readonly { readonly id: string; readonly updatedAt: string }[],
): Promise<Compared> {
  const rows = await db.select({ id: tunes.id, updatedAt: tunes.updatedAt }).from(tunes).where(isNull(tunes.deletedAt));
  const here = new Map(rows.map(({ id, updatedAt }) => [id, updatedAt.toISOString()]));
  return entries.map(({ id, updatedAt }) => {
    const own = here.get(id);
    return own === undefined ? 'new' : own === new Date(updatedAt).toISOString() ? 'same' : 'differs';
  });
}

export interface Restored extends NewTune {
  readonly id: string;
  readonly updatedAt: string;
}

/** Puts tunes back under their own ids. What stood there is kept as a named version, so that nothing is lost. */
export async function restoreTunes(library: Library, restored: readonly Restored[]): Promise<void> {
  await library.db.transaction(async (tx) => {
    const ids = restored.map(({ id }) => id);
    const present = await tx.select().from(tunes).where(inArray(tunes.id, ids));
    for (const { id, updatedAt, ...one } of restored) {
      const before = present.find((row) => row.id === id);
      const moments = { updatedAt: new Date(updatedAt) };
      const kept = before
        ? [{ name: 'Before restoring the backup', madeAt: new Date().toISOString(), tune: before.tune }]
        : [];
      // Removing the tune takes its arrangements and versions along; the backup brings its own.
      if (before) await tx.delete(tunes).where(eq(tunes.id, id));
      const versions = [...one.versions, ...(before && before.deletedAt === null ? kept : [])];
      await insertTune(tx, id, { ...one, versions }, factsOf(one.tune, one.tags), moments);
    }
  });
  for (const { id, tune, tags } of restored) library.melodies.put(id, factsOf(tune, tags).melody);
  library.forms.poke();
}
