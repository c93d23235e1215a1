/** Opening the store: PGlite on disk, migrations run at start after a backup copy. */
import { mkdir, readFile, readdir, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { PGlite } from '@electric-sql/pglite';
import { pg_trgm } from '@electric-sql/pglite/contrib/pg_trgm';
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { DURABLE, DurableFS, copyFlushed, flushFolder } from './durable.ts';
import { BACKUPS, DATABASE, STAMP, doesNotStart, inspectFolder, makeFolder } from './folder.ts';
import type { Listening } from './ports.ts';
import * as schema from './schema.ts';
import { copyTemplate } from './template.ts';

export type Database = PgliteDatabase<typeof schema>;

export interface Store extends Listening {
  readonly db: Database;
  close(): Promise<void>;
}

const MIGRATIONS = fileURLToPath(new URL('./migrations', import.meta.url));
/** Share of its letter triples that a word must have in common with one looked for; found by trying slips. */
const WORD_LIKENESS = 0.45;

/**
 * @param directory where the data lives; a new one begins as a copy of what was made at build
 * @throws FolderError where what is there cannot be opened, in words for whoever started the program
 */
export async function openStore(directory: string): Promise<Store> {
  await makeFolder(directory);
  const known = await migrations();
  if (!(await inspectFolder(directory, known))) await copyTemplate('empty', directory);
  await backUpBeforeMigrating(directory, known.at(-1)!);
  const client = await openClient(directory);
  const db = drizzle(client, { schema, casing: 'snake_case' });
  await migrate(db, { migrationsFolder: MIGRATIONS });
  // Words that are spelled a little wrong are still found.
  await client.exec(`SET pg_trgm.word_similarity_threshold = ${WORD_LIKENESS}`);
  await writeFile(join(directory, STAMP), known.at(-1)!);
  return {
    db,
    listen: async (channel, heard) => {
      const stop = await client.listen(channel, heard);
      return () => stop();
    },
    close: () => client.close(),
  };
}

/** @throws FolderError where the database does not come up; what its inside says is no help to a teacher */
async function openClient(directory: string): Promise<PGlite> {
  const isNew = !existsSync(join(directory, DATABASE));
  try {
    const client = await PGlite.create({
      fs: new DurableFS(join(directory, DATABASE)),
      startParams: [...DURABLE],
      extensions: { pg_trgm },
    });
    // What makes a new database does not flush what it makes.
    if (isNew) await flushFolder(join(directory, DATABASE));
    return client;
  } catch (error) {
    if (isNew || isFull(error)) throw error;
    throw doesNotStart(directory);
  }
}

const isFull = (error: unknown) => /ENOSPC|no space left/i.test(String(error));

/** The migrations this program knows, in order. */
async function migrations(): Promise<readonly string[]> {
  return (await readdir(MIGRATIONS)).filter((name) => name.endsWith('.sql')).sort();
}

async function backUpBeforeMigrating(directory: string, newest: string): Promise<void> {
  const data = join(directory, DATABASE);
  const stamp = join(directory, STAMP);
  if (!existsSync(data) || !existsSync(stamp)) return;
  const before = (await readFile(stamp, 'utf8')).trim();
  if (before === newest) return;
  const backup = join(directory, BACKUPS, before.replace(/\.sql$/, ''));
  // A start that was cut short has made it already: by now the data may be migrated.
  if (existsSync(backup) && (await stat(backup)).mtimeMs > (await stat(stamp)).mtimeMs) return;
  const making = `${backup}.making`;
  await rm(making, { recursive: true, force: true });
  await mkdir(join(directory, BACKUPS), { recursive: true });
  await copyFlushed(data, making);
  await utimes(making, new Date(), new Date());
  await rm(backup, { recursive: true, force: true });
  await rename(making, backup);
}
