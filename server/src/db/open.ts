/** Opening the store: PGlite on disk, migrations run at start after a backup copy. */
import { cp, mkdir, readFile, readdir, writeFile } from 'node:fs/promises';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { PGlite } from '@electric-sql/pglite';
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import * as schema from './schema.ts';

export type Database = PgliteDatabase<typeof schema>;

export interface Store {
  readonly db: Database;
  close(): Promise<void>;
}

const MIGRATIONS = fileURLToPath(new URL('./migrations', import.meta.url));
const STAMP = 'migration.txt';

/** @param directory where the data lives; null keeps it in memory, for tests */
export async function openStore(directory: string | null): Promise<Store> {
  if (directory) {
    await mkdir(directory, { recursive: true });
    await backUpBeforeMigrating(directory);
  }
  const client = await PGlite.create(directory ? { dataDir: join(directory, 'db') } : {});
  const db = drizzle(client, { schema, casing: 'snake_case' });
  await migrate(db, { migrationsFolder: MIGRATIONS });
  if (directory) await writeStamp(directory);
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
