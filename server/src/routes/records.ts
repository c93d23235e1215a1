/** What all records have in common at their addresses: a change, undo and redo. */
import { Router } from 'express';
import { changeRequest, logRequest, recordRequest, stepRequest, type AnyRecord, type Notice } from '@nokta/api';
import type { Library } from '../library/tunes.ts';
import { changeRecord, openRecord, walkRecord } from '../records/history.ts';
import type { Keeping } from '../records/keeping.ts';
import {
  addToShelf,
  appendToLog,
  bringBackToShelf,
  listShelf,
  readLog,
  removeFromShelf,
  type Shelved,
} from '../records/shelf.ts';

/** Undo and redo, by the names that addresses have for them. */
const WAYS = [
  ['undo', -1],
  ['redo', 1],
] as const;

/** Adds them to the addresses of a kind. */
export function historyRoutes<Value, Change, Record extends AnyRecord>(
  router: Router,
  { db }: Pick<Library, 'db'>,
  kind: Keeping<Value, Change, Record>,
): Router {
  const changing = changeRequest(kind.record);
  router.get('/:id/state', async (request, response) => {
    response.json(await openRecord(db, kind, request.params.id));
  });
  router.patch('/:id', async (request, response) => {
    const { revision, change, label, entry } = changing.parse(request.body);
    const sending = { id: request.params.id, revision, entry };
    response.json(await db.transaction((tx) => changeRecord(tx, kind, sending, { change: change as Change }, label)));
  });
  for (const [name, direction] of WAYS) {
    router.post(`/:id/${name}`, async (request, response) => {
      const { revision, entry } = stepRequest.parse(request.body);
      const sending = { id: request.params['id']!, revision, entry };
      response.json(await db.transaction((tx) => walkRecord(tx, kind, sending, direction)));
    });
  }
  return router;
}

/** All addresses of a kind of record that belongs to no tune. */
export function shelfRoutes<Value, Change>({ db }: Pick<Library, 'db'>, kind: Shelved<Value, Change>): Router {
  const router = historyRoutes(Router(), { db }, kind);
  const adding = recordRequest(kind.record.schema);
  router.get('/', async (_, response) => {
    response.json((await listShelf(db, kind)).readable);
  });
  router.post('/', async (request, response) => {
    const { id, value } = adding.parse(request.body);
    response.status(201).json(await db.transaction((tx) => addToShelf(tx, kind, id, value)));
  });
  router.get('/:id', async (request, response) => {
    response.json(await openRecord(db, kind, request.params.id));
  });
  router.delete('/:id', async (request, response) => {
    await db.transaction((tx) => removeFromShelf(tx, kind, request.params.id));
    response.status(204).end();
  });
  router.post('/:id/restore', async (request, response) => {
    await db.transaction((tx) => bringBackToShelf(tx, kind, request.params.id));
    response.status(204).end();
  });
  router.get('/:id/log', async (request, response) => {
    response.json(await readLog(db, request.params.id));
  });
  router.post('/:id/log', async (request, response) => {
    const entry = logRequest.parse(request.body);
    await db.transaction((tx) => appendToLog(tx, kind, request.params.id, entry));
    response.status(201).json(entry);
  });
  return router;
}

/** Milliseconds between two signs of life: what stands between may close a line on which nothing is said. */
const SIGN_OF_LIFE_MS = 20_000;

/** `/api/notices`: which record changed, told to whoever listens for as long as it does. */
export function noticeRoutes({ notices }: Pick<Library, 'notices'>): Router {
  const router = Router();
  router.get('/', (request, response) => {
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
    response.write('retry: 1000\n\n');
    const tell = (notice: Notice) => void response.write(`data: ${JSON.stringify(notice)}\n\n`);
    const end = notices.on(tell);
    const alive = setInterval(() => response.write(':\n\n'), SIGN_OF_LIFE_MS);
    request.once('close', () => {
      clearInterval(alive);
      end();
    });
  });
  return router;
}
