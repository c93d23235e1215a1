/**
 * Builds the server: its program and those of its threads, bundled so that starting reads few files, and the
 * data folders that a new library and the demo begin with.
 */
import { cp, rm } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { join } from 'node:path';
import { buildProgram } from '../engrave/build/program.ts';
import { openStore } from './src/db/open.ts';
import { loadDemo } from './src/demo/demo.ts';
import { openLibrary } from './src/library/tunes.ts';

const HERE = fileURLToPath(new URL('.', import.meta.url));
const DIST = join(HERE, 'dist');

await buildProgram({
  root: HERE,
  out: DIST,
  input: {
    main: join(HERE, 'src/main.ts'),
    drawing: join(HERE, 'src/drawing.worker.ts'),
    analysing: join(HERE, 'src/analysing.worker.ts'),
  },
  external: [/^@electric-sql\//, 'fs-native-extensions'],
});
await cp(join(HERE, 'src/db/migrations'), join(DIST, 'migrations'), { recursive: true });

/** The empty one is made anew; the demo begins as a copy of it. */
async function template(name: 'empty' | 'demo'): Promise<void> {
  const place = join(DIST, 'templates', name);
  const store = await openStore(place);
  const library = await openLibrary(store);
  if (name === 'demo') await loadDemo(library);
  await library.jobs.stop();
  await library.analysing.stop();
  await store.close();
}
await rm(join(DIST, 'templates'), { recursive: true, force: true });
await template('empty');
await template('demo');
