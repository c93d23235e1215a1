/** Data folders made at build: an empty, migrated one, and the demo's. Copying one is quicker than making a new database. */
import { cp, mkdir, rename, rm } from 'node:fs/promises';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { copyFlushed } from './durable.ts';
import { DATABASE, STAMP } from './folder.ts';

/** Whether this program was bundled at build, with templates beside it. */
export const BUILT = !import.meta.url.endsWith('.ts');
export type TemplateName = 'empty' | 'demo';

const TEMPLATES = fileURLToPath(new URL(BUILT ? './templates' : '../../dist/templates', import.meta.url));

/**
 * Fills a new data folder. The database gets its name when it is whole, so that a copy that was cut short is made
 * again, and not taken for a damaged library.
 * @returns false where the build has no such template
 */
export async function copyTemplate(name: TemplateName, directory: string): Promise<boolean> {
  const template = join(TEMPLATES, name);
  const made = join(template, DATABASE);
  if (!existsSync(join(made, 'PG_VERSION'))) return false;
  await mkdir(directory, { recursive: true, mode: 0o700 });
  const making = join(directory, `${DATABASE}.making`);
  await rm(making, { recursive: true, force: true });
  await copyFlushed(made, making);
  await rename(making, join(directory, DATABASE));
  await cp(join(template, STAMP), join(directory, STAMP));
  return true;
}
