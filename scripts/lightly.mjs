/** `node scripts/lightly.mjs program.js arguments…`: runs a program of Node's that does a little of much. */
import { pathToFileURL } from 'node:url';
import { resolve } from 'node:path';
import { compileLightly } from './steps.mjs';

compileLightly();
process.argv.splice(1, 1);
process.argv[1] = resolve(process.argv[1]);
await import(pathToFileURL(process.argv[1]).href);
