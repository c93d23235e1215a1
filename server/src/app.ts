/** The HTTP side: API and application from one process, on strict terms. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express, type RequestHandler } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import type { Health } from '@nokta/api';
import type { Database } from './db/open.ts';
import { Refusal, errorHandler } from './problems.ts';
import { arrangementRoutes } from './routes/arrangements.ts';
import { tuneRoutes } from './routes/tunes.ts';

export interface AppOptions {
  readonly db: Database;
  readonly log: Logger;
  /** Folder of the built application; null serves the API alone. */
  readonly web: string | null;
}

/** A tune book of a few thousand tunes; anything larger is refused before it is parsed. */
const BODY_LIMIT = '10mb';
export const VERSION = '0.1.0';

export function createApp({ db, log, web }: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(securityHeaders());
  app.use('/api', sameOrigin, express.json({ limit: BODY_LIMIT }));
  app.get('/api/health', (_, response) => {
    response.json({ ok: true, version: VERSION } satisfies Health);
  });
  app.use('/api/tunes', tuneRoutes(db));
  app.use('/api/arrangements', arrangementRoutes(db));
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
