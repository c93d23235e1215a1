/**
 * `npm test`: installs what is missing, checks types and lint, runs unit and end-to-end tests, and ends
 * with one line, the sum of the runners' own counts.
 */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT, folder, install } from './steps.mjs';

const RESULTS = join(ROOT, 'test-results');
const UNIT = join(RESULTS, 'unit.json');
const STRESS = join(RESULTS, 'stress.json');
const E2E = join(RESULTS, 'e2e.json');
/** Lines of one failure that are told at the end: a random test says its seed and its example in them. */
const LINES_TOLD = 30;

install();
const chromium = findChromium();
findPdfReader();
rmSync(RESULTS, { recursive: true, force: true });
folder(RESULTS);

const failures = [];
const npm = (...args) => ['run', '--silent', ...args];

// Each of these keeps one core busy at most, so they go side by side. What comes then uses all cores, and goes alone.
const built = stepBeside('build of the server', npm('build', '--workspace', 'server'));
await Promise.all([
  stepBeside('types of the application', npm('typecheck:web')),
  built.then(() => stepBeside('stress tests', vitest('stress', STRESS))),
  stepBeside('lint', npm('lint')),
  stepBeside('build of the application', npm('build', '--workspace', 'web')),
  stepBeside('types', npm('typecheck:node')),
]);
await step('unit tests', vitest('unit', UNIT));
await step('end-to-end tests', npm('e2e'), { CHROMIUM: chromium });

const runs = {
  'stress tests': read(STRESS, vitestRun),
  'unit tests': read(UNIT, vitestRun),
  'end-to-end tests': read(E2E, playwrightRun),
};
const all = Object.values(runs);
// A step that failed without a failing test of its own (types, lint, a runner that broke) counts as one.
const untold = failures.filter((name) => !runs[name]?.failed).length;
if (failures.length > 0) console.log(`\nFailed: ${failures.join(', ')}`);
// Once more at the end, where nothing that was said since stands before it.
for (const { test, message } of all.flatMap((run) => run.again ?? []))
  console.log(`\n↻ ${test}: passed only when it was run again\n${message}\n`);
for (const { test, message } of all.flatMap((run) => run.failures)) console.log(`\n✗ ${test}\n${message}\n`);
const sum = (counts) => counts.reduce((total, count) => total + count, 0);
console.log(`${sum(all.map(({ passed }) => passed))} passed, ${sum(all.map(({ failed }) => failed)) + untold} failed`);
process.exitCode = failures.length > 0 ? 1 : 0;

/** One of the runs of unit tests, which writes its counts into a file. */
function vitest(script, file) {
  return [...npm(script, '--'), '--reporter=default', '--reporter=json', `--outputFile.json=${file}`];
}

function vitestRun({ numPassedTests, numFailedTests, testResults }) {
  return {
    passed: numPassedTests,
    failed: numFailedTests,
    failures: testResults.flatMap(({ name, status, message, assertionResults }) =>
      status === 'failed' && assertionResults.length === 0
        ? failure(name, [message])
        : assertionResults
            .filter((one) => one.status === 'failed')
            .map(({ fullName, failureMessages }) => failure(`${name} › ${fullName}`, failureMessages)),
    ),
  };
}

function playwrightRun({ stats, suites }) {
  const specs = suites.flatMap(specsIn);
  const told = (wanted) =>
    specs.flatMap(({ file, title, tests }) =>
      tests
        .filter(({ status }) => status === wanted)
        .map(({ results }) =>
          failure(
            `${file} › ${title}`,
            results.flatMap(({ errors }) => errors.map(({ message }) => message)),
          ),
        ),
    );
  return {
    passed: stats.expected + stats.flaky,
    failed: stats.unexpected,
    failures: told('unexpected'),
    again: told('flaky'),
  };
}

/** Runs a step; what it says is shown as it says it. */
async function step(name, args, env = {}) {
  console.log(`\n— ${name}`);
  const child = spawn('npm', args, { cwd: ROOT, stdio: 'inherit', env: { ...process.env, ...env } });
  if ((await ended(child)) !== 0) failures.push(name);
}

/** Runs a step beside others; what it said is shown when it has ended. */
async function stepBeside(name, args) {
  const child = spawn('npm', args, { cwd: ROOT });
  const said = [];
  child.stdout.on('data', (piece) => said.push(piece));
  child.stderr.on('data', (piece) => said.push(piece));
  const status = await ended(child);
  console.log(`\n— ${name}\n${Buffer.concat(said).toString()}`);
  if (status !== 0) failures.push(name);
}

/** @returns the exit code; null where it was killed */
function ended(child) {
  return new Promise((resolve) => child.on('close', resolve));
}

/** A runner's own counts, and what failed; none if it never came to write them. */
function read(file, counts) {
  return existsSync(file) ? counts(JSON.parse(readFileSync(file, 'utf8'))) : { passed: 0, failed: 0, failures: [] };
}

/** The tests of a file and of the groups in it. */
function specsIn({ specs, suites = [] }) {
  return [...specs, ...suites.flatMap(specsIn)];
}

function failure(test, messages) {
  return {
    test: test.replace(`${ROOT}/`, ''),
    message: messages.join('\n').split('\n').slice(0, LINES_TOLD).join('\n'),
  };
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
