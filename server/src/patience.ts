/** How long a connection may take, and how many there may be: one slow or greedy guest keeps nobody waiting. */
import type { Server } from 'node:http';
import type { Socket } from 'node:net';

/** Longer than browsers keep an idle connection, so that none is closed just as a request comes. */
const KEEP_ALIVE_MS = 310_000;
/** Where there are many, who does nothing makes room for others soon. */
const KEEP_ALIVE_MANY_MS = 5_000;
/** For the head of a request. */
const HEAD_MS = 10_000;
/** For a whole request, a backup of a large library going back in too. */
const REQUEST_MS = 120_000;
/** How often slow ones are looked for. */
const LOOK_MS = 2_000;
/** Browsers open six or so for each window. */
const MOST_CONNECTIONS = 200;
const MANY_CONNECTIONS = 100;
/** For a first word, where there are many. */
const SILENT_MS = 500;

export function patience(server: Server): void {
  server.keepAliveTimeout = KEEP_ALIVE_MS;
  server.headersTimeout = HEAD_MS;
  server.requestTimeout = REQUEST_MS;
  server.maxConnections = MOST_CONNECTIONS;
  makeRoom(server);
}

/** Where connections become many, those that do nothing are closed: the ones in the middle of a request stay. */
function makeRoom(server: Server): void {
  const open = new Map<Socket, number>();
  const room = () => {
    const many = open.size >= MANY_CONNECTIONS;
    server.keepAliveTimeout = many ? KEEP_ALIVE_MANY_MS : KEEP_ALIVE_MS;
    if (!many) return;
    server.closeIdleConnections();
    const silentSince = performance.now() - SILENT_MS;
    for (const [socket, since] of open) if (socket.bytesRead === 0 && since < silentSince) socket.destroy();
  };
  server.on('connection', (socket) => {
    open.set(socket, performance.now());
    socket.once('close', () => open.delete(socket));
    room();
  });
  // One that was turned away finds room when it comes again.
  server.on('drop', room);
}

/** For `createServer`: the time between two looks cannot be set later. */
export const LOOKING = { connectionsCheckingInterval: LOOK_MS } as const;
