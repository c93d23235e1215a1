/** Starts Nokta: takes its port and its folder, opens the store, listens on this computer, stops cleanly. */
import { randomUUID } from 'node:crypto';
import { createServer, type RequestListener, type Server } from 'node:http';
import { rename, rm } from 'node:fs/promises';
import { homedir, tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { createApp } from './app.ts';
import { FolderError, folderProblem, makeFolder } from './db/folder.ts';
import { HeldError, holderOf, takeLock, type Lock } from './db/lock.ts';
import { openStore, type Store } from './db/open.ts';
import { BUILT, copyTemplate } from './db/template.ts';
import { roomAt } from './disk.ts';
import { hostsFor } from './hosts.ts';
import { forgetSent } from './records/sent.ts';
import { openLibrary, purgeDeleted, type Library } from './library/tunes.ts';
import { LOOKING, patience } from './patience.ts';
import { isDiskFull } from './problems.ts';

const HOST = process.env['HOST'] ?? '127.0.0.1';
const DEFAULT_PORT = 4180;

/** The user's own data folder, by the habit of each system. */
function userData(): string {
  if (process.platform === 'win32') return join(process.env['APPDATA'] ?? homedir(), 'Nokta');
  if (process.platform === 'darwin') return join(homedir(), 'Library', 'Application Support', 'Nokta');
  return join(process.env['XDG_DATA_HOME'] ?? join(homedir(), '.local', 'share'), 'nokta');
}

const addressFor = (port: number) => `http://${HOST.includes(':') ? `[${HOST}]` : HOST}:${port}/`;

/** Tells this server from others that may answer at the same address later. */
const TOKEN = randomUUID();

/** What is said instead of starting. */
class CannotStart extends Error {}

async function main(): Promise<void> {
  const demo = process.argv.includes('--demo');
  const log = pino({ level: process.env['LOG_LEVEL'] ?? 'warn' });
  const port = readPort();
  // The demo has a place of its own, made anew each time: it never touches the user's data.
  const directory = demo ? join(tmpdir(), `nokta-demo-${port}`) : (process.env['NOKTA_DATA'] ?? userData());
  let handle: RequestListener = starting;
  const server = createServer(LOOKING, (request, response) => handle(request, response));
  patience(server);
  // Port, folder, store, in this order: whoever comes second touches nothing.
  await listen(server, port, directory);
  let lock: Lock | null = null;
  let store: Store | null = null;
  try {
    if (demo) await makeDemo(directory);
    await makeFolder(directory);
    lock = await takeLock(directory, { address: addressFor(port), token: TOKEN });
    store = await openStore(directory);
    const library = await openLibrary(store, (problem) => log.error(problem));
    if (demo && !BUILT) {
      const { loadDemo } = await import('./demo/demo.ts');
      await loadDemo(library);
    }
    // Only now is it certain that this start goes well.
    if (!demo) await Promise.all([purgeDeleted(store.db), forgetSent(store.db)]);
    const web = fileURLToPath(new URL('../../web/dist', import.meta.url));
    const room = roomAt(directory);
    handle = createApp({ library, log, web, token: TOKEN, hosts: hostsFor(HOST), room });
    console.log(`Nokta is ready at ${addressFor(port)}${demo ? '  (demo data, fresh at each start)' : ''}`);
    if (!demo) console.log(`Your tunes are kept in ${directory}`);
    if (demo) void clearBefore(directory).catch((error: unknown) => log.warn(error));
    library.jobs.poke();
    stopWhenAsked(server, library, store, lock);
  } catch (error) {
    await store?.close().catch(() => undefined);
    await lock?.release();
    server.closeAllConnections();
    server.close();
    throw folderProblem(directory, error) ?? error;
  }
}

/** While the store is being opened: whoever asks is told to come again in a moment, and who will answer then. */
const starting: RequestListener = ({ url, headers }, response) => {
  // A window asks again by itself, until there is something to show.
  if (headers.accept?.includes('text/html')) {
    response.writeHead(503, { 'content-type': 'text/html; charset=utf-8', 'retry-after': '1', refresh: '1' });
    response.end(
      '<!doctype html><html lang="en"><title>Nokta</title><p>Nokta is starting. It opens in a moment.</p></html>',
    );
    return;
  }
  response.writeHead(503, { 'content-type': 'application/json', 'retry-after': '1' });
  const who = url === '/api/health' ? { token: TOKEN } : {};
  response.end(JSON.stringify({ error: 'Nokta is starting.', remedy: 'Try again in a moment.', ...who }));
};

async function makeDemo(directory: string): Promise<void> {
  const held = await holderOf(directory);
  if (held) throw held;
  await clearBefore(directory);
  await rename(directory, before(directory)).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'ENOENT') throw error;
  });
  if (BUILT) await copyTemplate('demo', directory);
}

/** Where the demo of the last start is put: removing it takes longer than making a new one, and nobody waits for it. */
const before = (directory: string) => `${directory}.before`;
const clearBefore = (directory: string) => rm(before(directory), { recursive: true, force: true });

/** @throws where the port cannot be had */
function listen(server: Server, port: number, directory: string): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      if (error.code !== 'EADDRINUSE') return reject(new CannotStart(error.message));
      const taken = new CannotStart(
        `Port ${port} is taken. If Nokta runs there already, open ${addressFor(port)}\nIf it is another program, start Nokta on another port: PORT=${port + 1} npm start`,
      );
      void holderOf(directory).then((held) => reject(held ?? taken), reject);
    });
    server.listen(port, HOST, resolve);
  });
}

function stopWhenAsked(server: Server, library: Library, store: Store, lock: Lock): void {
  const stop = () => {
    server.close();
    server.closeAllConnections();
    void library.jobs
      .stop()
      .then(() => Promise.all([library.drawing.stop(), library.analysing.stop()]))
      .then(() => store.close())
      .then(() => lock.release())
      .finally(() => process.exit(0));
  };
  process.once('SIGTERM', stop);
  process.once('SIGINT', stop);
}

function readPort(): number {
  const port = Number(process.env['PORT'] ?? DEFAULT_PORT);
  if (Number.isInteger(port) && port > 0 && port < 65_536) return port;
  throw new CannotStart(`PORT=${process.env['PORT']} is no port. Use a number from 1 to 65535.`);
}

try {
  await main();
} catch (error) {
  const told = error instanceof CannotStart || error instanceof HeldError || error instanceof FolderError;
  if (isDiskFull(error))
    console.error('The disk is full: Nokta cannot open its data. Make some room, then start it again.');
  else console.error(told ? error.message : error);
  process.exit(1);
}
