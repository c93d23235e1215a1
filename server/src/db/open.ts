/** Opening the store: PGlite on disk, migrations run at start after a backup copy. */
import { cp, mkdir, readFile, readdir, writeFile } from 'node:fs/promises';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { PGlite } from '@electric-sql/pglite';
import { pg_trgm } from '@electric-sql/pglite/contrib/pg_trgm';
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import * as schema from './schema.ts';
import { copyTemplate } from './template.ts';

export type Database = PgliteDatabase<typeof schema>;

export interface Store {
  readonly db: Database;
  close(): Promise<void>;
}

const MIGRATIONS = fileURLToPath(new URL('./migrations', import.meta.url));
const STAMP = 'migration.txt';
/** Share of its letter triples that a word must have in common with one looked for; found by trying slips. */
const WORD_LIKENESS = 0.45;

/** @param directory where the data lives; a new one begins as a copy of what was made at build */
export async function openStore(directory: string): Promise<Store> {
  await mkdir(directory, { recursive: true });
  if (!existsSync(join(directory, 'db'))) await copyTemplate('empty', directory);
  await backUpBeforeMigrating(directory);
  const client = await PGlite.create({ dataDir: join(directory, 'db'), extensions: { pg_trgm } });
  const db = drizzle(client, { schema, casing: 'snake_case' });
  await migrate(db, { migrationsFolder: MIGRATIONS });
  // Words that are spelled a little wrong are still found.
  await client.exec(`SET pg_trgm.word_similarity_threshold = ${WORD_LIKENESS}`);
  await writeStamp(directory);
  return { db, close: () => client.close() };
}

/** The newest migration this program knows. */
async function newestMigration(): Promise<string> {
  const names = (await readdir(MIGRATIONS)).filter((name) => name.endsWith('.sql')).sort();
  return names.at(-1) ?? '';
}

async function writeStamp(directory: string): Promise<void> {
  await writeFile(join(directory, STAMP), await newestMigration());
}

async function backUpBeforeMigrating(directory: string): Promise<void> {
  const data = join(directory, 'db');
  const stamp = join(directory, STAMP);
  if (!existsSync(data) || !existsSync(stamp)) return;
  const before = (await readFile(stamp, 'utf8')).trim();
  if (before === (await newestMigration())) return;
  await cp(data, join(directory, 'backups', before.replace(/\.sql$/, '')), { recursive: true });
}
