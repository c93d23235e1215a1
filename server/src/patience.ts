/** How long a connection may take, and how many there may be: one slow or greedy guest keeps nobody waiting. */
import type { Server } from 'node:http';

/** Longer than browsers keep an idle connection, so that none is closed just as a request comes. */
const KEEP_ALIVE_MS = 310_000;
/** For the head of a request. */
const HEAD_MS = 10_000;
/** For a whole request, a backup of a large library going back in too. */
const REQUEST_MS = 120_000;
/** How often slow ones are looked for. */
const LOOK_MS = 2_000;
/** Browsers open six or so for each window. */
const MOST_CONNECTIONS = 200;

export function patience(server: Server): void {
  server.keepAliveTimeout = KEEP_ALIVE_MS;
  server.headersTimeout = HEAD_MS;
  server.requestTimeout = REQUEST_MS;
  server.maxConnections = MOST_CONNECTIONS;
}

/** For `createServer`: the time between two looks cannot be set later. */
export const LOOKING = { connectionsCheckingInterval: LOOK_MS } as const;
