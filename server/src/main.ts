/** Starts Nokta: opens the store, listens on this computer, stops cleanly. */
import { rm } from 'node:fs/promises';
import { homedir, tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { createApp } from './app.ts';
import { openStore } from './db/open.ts';
import { BUILT, copyTemplate } from './db/template.ts';
import { openLibrary, purgeDeleted } from './library/tunes.ts';

const HOST = process.env['HOST'] ?? '127.0.0.1';
const DEFAULT_PORT = 4180;
/** Longer than browsers keep an idle connection, so that none is closed just as a request comes. */
const KEEP_ALIVE_MS = 310_000;

/** The user's own data folder, by the habit of each system. */
function userData(): string {
  if (process.platform === 'win32') return join(process.env['APPDATA'] ?? homedir(), 'Nokta');
  if (process.platform === 'darwin') return join(homedir(), 'Library', 'Application Support', 'Nokta');
  return join(process.env['XDG_DATA_HOME'] ?? join(homedir(), '.local', 'share'), 'nokta');
}

async function dataDirectory(demo: boolean, port: number): Promise<string> {
  if (!demo) return process.env['NOKTA_DATA'] ?? userData();
  // The demo has a place of its own, made anew each time: it never touches the user's data.
  const place = join(tmpdir(), `nokta-demo-${port}`);
  await rm(place, { recursive: true, force: true });
  if (BUILT) await copyTemplate('demo', place);
  return place;
}

async function main(): Promise<void> {
  const demo = process.argv.includes('--demo');
  const log = pino({ level: process.env['LOG_LEVEL'] ?? 'warn' });
  const port = readPort();
  if (port === null) return;
  const directory = await dataDirectory(demo, port);
  const store = await openStore(directory);
  if (!demo) await purgeDeleted(store.db);
  const library = await openLibrary(store.db, (problem) => log.error(problem));
  if (demo && !BUILT) {
    const { loadDemo } = await import('./demo/demo.ts');
    await loadDemo(library);
  }
  library.forms.poke();
  const web = fileURLToPath(new URL('../../web/dist', import.meta.url));
  const server = createApp({ library, log, web }).listen(port, HOST);
  server.keepAliveTimeout = KEEP_ALIVE_MS;
  server.on('listening', () => {
    console.log(`Nokta is ready at http://${HOST}:${port}/${demo ? '  (demo data, fresh at each start)' : ''}`);
    if (!demo) console.log(`Your tunes are kept in ${directory}`);
  });
  server.on('error', (error: NodeJS.ErrnoException) => {
    console.error(
      error.code === 'EADDRINUSE'
        ? `Port ${port} is taken by another program. Start with another one: PORT=${port + 1} npm start`
        : error.message,
    );
    void store.close().finally(() => process.exit(1));
  });
  const stop = () => {
    server.close();
    server.closeAllConnections();
    void library.forms
      .stop()
      .then(() => library.drawing.stop())
      .then(() => store.close())
      .finally(() => process.exit(0));
  };
  process.once('SIGTERM', stop);
  process.once('SIGINT', stop);
}

function readPort(): number | null {
  const port = Number(process.env['PORT'] ?? DEFAULT_PORT);
  if (Number.isInteger(port) && port > 0 && port < 65_536) return port;
  console.error(`PORT=${process.env['PORT']} is no port. Use a number from 1 to 65535.`);
  process.exitCode = 1;
  return null;
}

await main();
