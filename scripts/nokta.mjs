/**
 * `npm run nokta`: the command line, built once and again when its sources change, so that it starts quickly.
 * Where nothing can be built, on a disk that cannot be written to, it runs from its sources.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ROOT, newestIn } from './steps.mjs';

const DIST = join(ROOT, 'cli', 'dist');
const stamp = String(Math.round(newestIn(['cli', 'core', 'engrave'])));
const program = join(DIST, stamp, 'main.js');

if (existsSync(program) || built()) await import(pathToFileURL(program).href);
else process.exitCode = tsx(join('cli', 'src', 'main.ts'), process.argv.slice(2)) ?? 1;

/** Two that start at once may both build; who is ready first is taken. */
function built() {
  const place = join(DIST, `building-${process.pid}`);
  const status = tsx(join('cli', 'build.ts'), [place], 'ignore');
  try {
    if (status === 0) {
      dropOld();
      renameSync(place, join(DIST, stamp));
    }
  } catch {
    rmSync(place, { recursive: true, force: true });
  }
  return existsSync(program);
}

/** One of them may still be running: what was built lately stays. */
function dropOld() {
  const long = Date.now() - 10 * 60_000;
  for (const name of readdirSync(DIST)) {
    const place = join(DIST, name);
    if (/^\d+$/.test(name) && statSync(place).mtimeMs < long) rmSync(place, { recursive: true });
  }
}

function tsx(script, args, output = 'inherit') {
  const stdio = ['inherit', output, output];
  return spawnSync(process.execPath, ['--import', 'tsx', join(ROOT, script), ...args], { cwd: process.cwd(), stdio })
    .status;
}
