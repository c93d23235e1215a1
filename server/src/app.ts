/** The HTTP side: API and application from one process, on strict terms. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express, type RequestHandler } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import type { Health } from '@nokta/api';
import { needRoom, type Room } from './disk.ts';
import { knownHost } from './hosts.ts';
import type { Library } from './library/tunes.ts';
import { plainText } from './plainText.ts';
import { Refusal, errorHandler } from './problems.ts';
import { listContracts } from './library/contracts.ts';
import { arrangementRoutes } from './routes/arrangements.ts';
import { backupRoutes } from './routes/backup.ts';
import { learnerKind } from './library/learners.ts';
import { keptRoutes } from './routes/named.ts';
import { noticeRoutes, shelfRoutes } from './routes/records.ts';
import { bookRoutes } from './routes/books.ts';
import { printRoutes } from './routes/workshop.ts';
import { tuneRoutes } from './routes/tunes.ts';

export interface AppOptions {
  readonly library: Library;
  readonly log: Logger;
  /** Folder of the built application; null serves the API alone. */
  readonly web: string | null;
  /** Tells this server from others that may answer at the same address later. */
  readonly token?: string;
  /** Names under which it answers. */
  readonly hosts: ReadonlySet<string>;
  /** Room on the disk where the data lies. */
  readonly room: Room;
}

/** A batch of long tunes with their versions; anything larger is refused before it is parsed. */
const BODY_LIMIT = '40mb';
export const VERSION = '0.1.0';

export function createApp({ library, log, web, token, hosts, room }: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(securityHeaders(), knownHost(hosts));
  app.use('/api', sameOrigin, express.json({ limit: BODY_LIMIT }), plainText, needRoom(room));
  app.get('/api/health', (_, response) => {
    response.json({ ok: true, version: VERSION, ...(token && { token }) } satisfies Health);
  });
  app.use('/api/tunes', tuneRoutes(library));
  app.use('/api/arrangements', arrangementRoutes(library));
  app.use('/api/learners', shelfRoutes(library, learnerKind));
  app.use('/api/notices', noticeRoutes(library));
  app.use('/api/kept', keptRoutes(library));
  app.get('/api/contracts', async (_, response) => {
    response.json(await listContracts(library.db));
  });
  app.use('/api/print', printRoutes(library));
  app.use('/api/books', bookRoutes(library));
  app.use('/api/backup', backupRoutes(library));
  app.use('/api', () => {
    throw new Refusal(404, { error: 'There is no such address.' });
  });
  if (web) serveWeb(app, web);
  app.use(errorHandler(log));
  return app;
}

function securityHeaders(): RequestHandler {
  return helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        // The engraver is WebAssembly; no other evaluation is allowed.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        // The component library writes its theme into a style element.
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'", 'data:'],
        connectSrc: ["'self'", 'blob:', 'data:'],
        workerSrc: ["'self'", 'blob:'],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    strictTransportSecurity: false,
  });
}

/** Writes must come from our own pages: another site in the same browser must not change a teacher's tunes. */
const sameOrigin: RequestHandler = (request, _, next) => {
  const origin = request.get('origin');
  const safe = request.method === 'GET' || request.method === 'HEAD';
  if (!safe && origin !== undefined && hostOf(origin) !== request.get('host')) {
    throw new Refusal(403, { error: 'This change came from another site and was refused.' });
  }
  next();
};

function serveWeb(app: Express, web: string): void {
  app.use('/assets', express.static(join(web, 'assets'), { immutable: true, maxAge: '1y' }));
  app.use(express.static(web, { index: false }));
  const index = join(web, 'index.html');
  app.get('/{*path}', (_, response) => {
    if (!existsSync(index))
      throw new Refusal(503, { error: 'The application is not built yet.', remedy: 'Run npm run build.' });
    response.set('cache-control', 'no-cache').sendFile(index);
  });
}

function hostOf(origin: string): string | null {
  return URL.canParse(origin) ? new URL(origin).host : null;
}
