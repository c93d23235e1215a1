/** Help for tests: a library as an older program left it. */
import { cp, mkdtemp, readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { PGlite } from '@electric-sql/pglite';
import { pg_trgm } from '@electric-sql/pglite/contrib/pg_trgm';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { DATABASE, STAMP } from '../db/folder.ts';

const MIGRATIONS = fileURLToPath(new URL('../db/migrations', import.meta.url));

interface Journal {
  readonly entries: readonly { readonly tag: string }[];
}

/**
 * Makes a library as the program had it whose last migration is named.
 * @param fill puts in what is there, by SQL of that time
 */
export async function olderLibrary(
  directory: string,
  last: string,
  fill: (db: PGlite) => Promise<void>,
): Promise<void> {
  const migrations = await mkdtemp(join(tmpdir(), 'nokta-older-'));
  await cp(MIGRATIONS, migrations, { recursive: true });
  const file = join(migrations, 'meta', '_journal.json');
  const journal = JSON.parse(await readFile(file, 'utf8')) as Journal;
  const entries = journal.entries.slice(0, journal.entries.findIndex(({ tag }) => tag === last) + 1);
  await writeFile(file, JSON.stringify({ ...journal, entries }));
  const client = await PGlite.create({ dataDir: join(directory, DATABASE), extensions: { pg_trgm } });
  await migrate(drizzle(client), { migrationsFolder: migrations });
  await fill(client);
  await client.close();
  await writeFile(join(directory, STAMP), `${last}.sql`);
  await rm(migrations, { recursive: true, force: true });
}

/** The last migration that there is, as the folder's stamp names it. */
export const newestMigration = async (): Promise<string> =>
  (await readdir(MIGRATIONS))
    .filter((name) => name.endsWith('.sql'))
    .sort()
    .at(-1)!;
