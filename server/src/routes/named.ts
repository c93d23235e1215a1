/** `/api/hands` and `/api/kept`: what a teacher keeps under a name beside the tunes, by id. */
import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import { handRequest, keptRequest } from '@nokta/api';
import type { Database } from '../db/open.ts';
import { dropHand, keepHand, listHands } from '../library/hands.ts';
import { dropKept, keep, listKept } from '../library/kept.ts';
import type { Library } from '../library/tunes.ts';

interface Shelf<Entry> {
  parse(body: object): Entry;
  list(db: Database): Promise<readonly Entry[]>;
  /** A new one, or the same one changed. */
  keep(db: Database, entry: Entry): Promise<void>;
  drop(db: Database, id: string): Promise<void>;
}

function routesOf<Entry>({ parse, list, keep: keepOne, drop }: Shelf<Entry>, { db }: Pick<Library, 'db'>): Router {
  const router = Router();
  router.get('/', async (_, response) => {
    response.json(await list(db));
  });
  router.post('/', async (request, response) => {
    const entry = parse({ ...(request.body as object), id: randomUUID() });
    await keepOne(db, entry);
    response.status(201).json(entry);
  });
  router.put('/:id', async (request, response) => {
    const entry = parse({ ...(request.body as object), id: request.params.id });
    await keepOne(db, entry);
    response.json(entry);
  });
  router.delete('/:id', async (request, response) => {
    await drop(db, request.params.id);
    response.status(204).end();
  });
  return router;
}

export const handRoutes = (library: Pick<Library, 'db'>): Router =>
  routesOf({ parse: (body) => handRequest.parse(body), list: listHands, keep: keepHand, drop: dropHand }, library);

export const keptRoutes = (library: Pick<Library, 'db'>): Router =>
  routesOf({ parse: (body) => keptRequest.parse(body), list: listKept, keep, drop: dropKept }, library);
