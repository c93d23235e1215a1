/** Data folders made at build: an empty, migrated one, and the demo's. Copying one is quicker than making a new database. */
import { cp, mkdir } from 'node:fs/promises';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Whether this program was bundled at build, with templates beside it. */
export const BUILT = !import.meta.url.endsWith('.ts');
export type TemplateName = 'empty' | 'demo';

const TEMPLATES = fileURLToPath(new URL(BUILT ? './templates' : '../../dist/templates', import.meta.url));

/** Fills a new data folder. @returns false where the build has no such template */
export async function copyTemplate(name: TemplateName, directory: string): Promise<boolean> {
  const template = join(TEMPLATES, name);
  if (!existsSync(join(template, 'db', 'PG_VERSION'))) return false;
  await mkdir(directory, { recursive: true });
  await cp(template, directory, { recursive: true });
  return true;
}
