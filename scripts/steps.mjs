/** Steps that the commands share. Plain Node: they run before anything is installed. */
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, statfsSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { setFlagsFromString } from 'node:v8';

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..');

/** Runs a command to its end; its output goes where ours goes. @returns the exit code */
export function run(command, args, env = {}) {
  const { status } = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', env: { ...process.env, ...env } });
  return status ?? 1;
}

/** The same, but a failure ends the whole script. */
export function need(what, command, args) {
  const status = run(command, args);
  if (status === 0) return;
  console.error(`${what} failed.`);
  process.exit(status);
}

const STAMP = join(ROOT, 'node_modules', '.nokta-lock');
/** Whether every package of the lock file is there in its version, whoever installed it. */
function isInstalled() {
  try {
    const { packages: there } = JSON.parse(readFileSync(join(ROOT, 'node_modules', '.package-lock.json'), 'utf8'));
    const { packages: wanted } = JSON.parse(readFileSync(join(ROOT, 'package-lock.json'), 'utf8'));
    return Object.entries(wanted).every(
      ([path, { version, link, optional }]) =>
        !path.includes('node_modules/') || link || optional || there[path]?.version === version,
    );
  } catch {
    return false;
  }
}

const lockHash = () =>
  createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');

/** Installs packages if there are none, or if the lock file has changed since. */
export function install() {
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === lockHash()) return;
  if (isInstalled()) return writeFileSync(STAMP, lockHash());
  console.log('Installing packages…');
  need('Installing packages', 'npm', ['ci', '--no-audit', '--no-fund']);
  writeFileSync(STAMP, lockHash());
}

/** Newest change below a folder, in milliseconds. */
function newest(folder) {
  let latest = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (entry.name === 'node_modules' || entry.name === 'dist') continue;
    const path = join(folder, entry.name);
    latest = Math.max(latest, entry.isDirectory() ? newest(path) : statSync(path).mtimeMs);
  }
  return latest;
}

/** Newest change below some folders of the repository, in milliseconds. */
export const newestIn = (folders) => Math.max(...folders.map((folder) => newest(join(ROOT, folder))));

/** Builds what is older than its sources, and says what it is doing. */
function buildIfOld(what, workspace, built, folders) {
  const file = join(ROOT, built);
  if (existsSync(file) && statSync(file).mtimeMs > newestIn(folders)) return;
  console.log(`Building ${what}…`);
  need('Building', 'npm', ['run', '--silent', 'build', '--workspace', workspace]);
}

/** The server's program, and the data folders that a new library and the demo begin with. */
export function buildServer() {
  buildIfOld('the server and its demo data', 'server', SERVER, ['server', 'core', 'api', 'engrave']);
}

/** The application and the server. */
export function build() {
  buildIfOld('the application', 'web', join('web', 'dist', 'index.html'), ['web', 'core', 'api', 'engrave']);
  buildServer();
}

const SERVER = join('server', 'dist', 'main.js');

/** Runs the server in the foreground and passes signals on to it. */
export function serve(args) {
  const child = spawn(process.execPath, [join(ROOT, SERVER), ...args], { cwd: ROOT, stdio: 'inherit' });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
  child.on('exit', (code) => process.exit(code ?? 0));
}

export function folder(path) {
  mkdirSync(path, { recursive: true });
  return path;
}

/** Where memory can be used as a disk, and how much of it must be free. */
const MEMORY = { place: '/dev/shm', bytes: 2 ** 31 };

/**
 * What tests write goes into memory where there is room: removing a database from a disk takes longer than most
 * tests. Whatever asks for a temporary folder afterwards, here or in a process begun here, is given one there.
 */
export function writeIntoMemory() {
  if (process.env.TMPDIR || !existsSync(MEMORY.place)) return;
  const { bavail, bsize } = statfsSync(MEMORY.place);
  if (bavail * bsize >= MEMORY.bytes) process.env.TMPDIR = MEMORY.place;
}

/**
 * For programs that do a little of much, as tests, checkers and builds do: most of what the engine would compile for
 * speed is used too seldom to pay, and takes up to a quarter of all their time. Code is compiled simply and at once,
 * and for speed only where it goes on for long. Holds for this process and threads begun in it afterwards.
 */
export function compileLightly() {
  for (const flag of [
    '--always-sparkplug',
    '--interrupt-budget=400000',
    '--max-inlined-bytecode-size-cumulative=300',
    '--max-semi-space-size=32',
    // The same holds for WebAssembly: many databases are opened, and each does little.
    '--wasm-tiering-budget=40000000',
  ]) {
    setFlagsFromString(flag);
  }
}
