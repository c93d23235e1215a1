/** The data folder before the store is opened: whether what is in it can be opened at all, and by this program. */
import { chmod, mkdir, readFile, readdir, stat } from 'node:fs/promises';
import { existsSync } from 'node:fs';
import { join } from 'node:path';

/** The file that says which migration the data has. */
export const STAMP = 'migration.txt';
export const DATABASE = 'db';
export const BACKUPS = 'backups';
/** Bytes of PostgreSQL's control file, always. */
const CONTROL_BYTES = 8192;

const UNTOUCHED = 'Nothing in the folder was changed.';
/** A database that is tried writes its own notes before it fails. */
const TRIED = 'None of its files was removed; the database may have noted that it was tried.';

/** The data cannot be opened. */
export class FolderError extends Error {
  constructor(what: string, remedy: string, state = UNTOUCHED) {
    super(`${what}\n${state} ${remedy}`);
  }
}

/** What a system's refusal to use the folder means; null for what has nothing to do with it. */
export function folderProblem(directory: string, error: unknown): FolderError | null {
  const { code, path = directory } = error as NodeJS.ErrnoException;
  if (code === 'EACCES' || code === 'EPERM' || code === 'EROFS')
    return new FolderError(
      `Nokta may not write in its data folder: ${path} is closed to this user.`,
      `Make it writable for you, or keep the tunes elsewhere: NOKTA_DATA=/another/folder npm start`,
    );
  if (code === 'ENOTDIR' || code === 'EEXIST' || code === 'EISDIR')
    return new FolderError(
      `Nokta cannot keep tunes in ${directory}: ${path} is ${code === 'EISDIR' ? 'a folder, and a file is wanted there' : 'a file, and a folder is wanted there'}.`,
      `Give it another name, or keep the tunes elsewhere: NOKTA_DATA=/another/folder npm start`,
    );
  return null;
}

const setAside = (directory: string) =>
  `Give the folder another name (${directory}-damaged), start Nokta, and restore your newest backup in the library; copies made before updates are in ${join(directory, BACKUPS)}. The guide’s page “Where your tunes are” says more.`;

/** Makes the folder, readable for its owner only. */
export async function makeFolder(directory: string): Promise<void> {
  await mkdir(directory, { recursive: true, mode: 0o700 });
  // Folders made by older programs were open to others; one that belongs to somebody else stays as it is.
  await chmod(directory, 0o700).catch(() => undefined);
}

/**
 * @param known names of the migrations that this program has, in order
 * @returns whether there is a database to open; false for a folder that is new
 * @throws FolderError for a damaged folder, or one that a newer program wrote
 */
export async function inspectFolder(directory: string, known: readonly string[]): Promise<boolean> {
  const database = join(directory, DATABASE);
  const stamp = existsSync(join(directory, STAMP)) ? (await readFile(join(directory, STAMP), 'utf8')).trim() : null;
  if (existsSync(database) && !(await stat(database)).isDirectory())
    throw damaged(directory, 'its database “db” is a file, and a folder is wanted there');
  const there = existsSync(database) && (await readdir(database)).length > 0;
  if (!there) {
    if (stamp === null) return false;
    throw damaged(directory, 'its database is missing');
  }
  // Their names begin with their numbers.
  if (stamp !== null && stamp > known.at(-1)!) {
    throw new FolderError(
      `The tunes in ${directory} were kept by a newer Nokta (${stamp.replace(/\.sql$/, '')}) than this one.`,
      'Bring this Nokta up to date, then start it again.',
    );
  }
  if (!existsSync(join(database, 'PG_VERSION'))) throw damaged(directory, 'its database has lost the file PG_VERSION');
  const control = await stat(join(database, 'global', 'pg_control')).catch(() => null);
  if (control?.size !== CONTROL_BYTES) throw damaged(directory, 'its database’s control file is missing or cut short');
  return true;
}

export const damaged = (directory: string, how: string, state = UNTOUCHED): FolderError =>
  new FolderError(`The tunes in ${directory} cannot be opened: ${how}.`, setAside(directory), state);

/** The database was tried, and does not come up. */
export const doesNotStart = (directory: string): FolderError =>
  damaged(directory, 'its database does not start', TRIED);
