/** Builds the command line into a folder of its own. */
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { buildProgram } from '../engrave/build/program.ts';

const HERE = fileURLToPath(new URL('.', import.meta.url));
await buildProgram({
  root: HERE,
  out: process.argv[2] ?? join(HERE, 'dist'),
  input: { main: join(HERE, 'src/main.ts') },
});
