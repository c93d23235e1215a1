/**
 * `npm test`: installs what is missing, checks types and lint, runs unit and end-to-end tests, and ends
 * with one line, the sum of the runners' own counts.
 */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT, folder, install, run } from './steps.mjs';

const RESULTS = join(ROOT, 'test-results');
const UNIT = join(RESULTS, 'unit.json');
const E2E = join(RESULTS, 'e2e.json');

install();
const chromium = findChromium();
findPdfReader();
rmSync(RESULTS, { recursive: true, force: true });
folder(RESULTS);

const failures = [];
const step = (name, command, args, env) => {
  console.log(`\n— ${name}`);
  if (run(command, args, env) !== 0) failures.push(name);
};

// What only reads the sources goes side by side, the longest first.
const npm = (...args) => ['npm', ['run', '--silent', ...args]];
await together([
  ['types of the application', npm('typecheck:web')],
  ['build of the server', npm('build', '--workspace', 'server')],
  ['lint', npm('lint')],
  ['build of the application', npm('build', '--workspace', 'web')],
  ['types', npm('typecheck:node')],
]);
step('unit tests', 'npm', [
  'run',
  '--silent',
  'unit',
  '--',
  '--reporter=default',
  '--reporter=json',
  `--outputFile.json=${UNIT}`,
]);
step('end-to-end tests', 'npm', ['run', '--silent', 'e2e'], { CHROMIUM: chromium });

const unit = read(UNIT, ({ numPassedTests, numFailedTests }) => ({ passed: numPassedTests, failed: numFailedTests }));
const e2e = read(E2E, ({ stats }) => ({ passed: stats.expected + stats.flaky, failed: stats.unexpected }));
// A step that failed without a failing test of its own (types, lint, a runner that broke) counts as one.
const told = (name) => (name === 'unit tests' ? unit.failed : name === 'end-to-end tests' ? e2e.failed : 0);
const untold = failures.filter((name) => told(name) === 0).length;
if (failures.length > 0) console.log(`\nFailed: ${failures.join(', ')}`);
console.log(`${unit.passed + e2e.passed} passed, ${unit.failed + e2e.failed + untold} failed`);
process.exitCode = failures.length > 0 ? 1 : 0;

/** Runs steps at the same time, and shows what each said when it has ended. */
async function together(steps) {
  await Promise.all(
    steps.map(
      ([name, [command, args]]) =>
        new Promise((resolve) => {
          const child = spawn(command, args, { cwd: ROOT });
          const said = [];
          child.stdout.on('data', (piece) => said.push(piece));
          child.stderr.on('data', (piece) => said.push(piece));
          child.on('close', (status) => {
            console.log(`\n— ${name}\n${Buffer.concat(said).toString()}`);
            if (status !== 0) failures.push(name);
            resolve();
          });
        }),
    ),
  );
}

/** A runner's own counts; none if it never came to write them. */
function read(file, counts) {
  return existsSync(file) ? counts(JSON.parse(readFileSync(file, 'utf8'))) : { passed: 0, failed: 0 };
}

/** Debian's Chromium, installed if it is not there. */
function findChromium() {
  const places = [process.env.CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];
  const found = places.find((place) => place && existsSync(place));
  if (found) return found;
  if (!apt('chromium')) {
    console.error('Chromium could not be installed. Install it, or name its place: CHROMIUM=/path npm test');
    process.exit(1);
  }
  return '/usr/bin/chromium';
}

/** What reads the text of a PDF: the sheet's own is held against it. */
function findPdfReader() {
  if (spawnSync('pdftotext', ['-v'], { stdio: 'ignore' }).error === undefined) return;
  if (!apt('poppler-utils')) {
    console.error('pdftotext could not be installed. Install the package poppler-utils.');
    process.exit(1);
  }
}

/** Installs a package of Debian's. @returns whether that went well */
function apt(name) {
  console.log(`Installing ${name}…`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const ask = (...args) => spawnSync('apt-get', args, { stdio: 'inherit', env }).status;
  ask('update');
  return ask('install', '-y', '--no-install-recommends', name) === 0;
}
