/** `/api/kept`: what a teacher keeps under a name beside the tunes, by id. */
import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import { keptRequest } from '@nokta/api';
import { dropKept, keep, listKept } from '../library/kept.ts';
import type { Library } from '../library/tunes.ts';

export function keptRoutes({ db }: Pick<Library, 'db'>): Router {
  const router = Router();
  const parse = (body: unknown, id: string) => keptRequest.parse({ ...(body as object), id });
  router.get('/', async (_, response) => {
    response.json(await listKept(db));
  });
  router.post('/', async (request, response) => {
    const entry = parse(request.body, randomUUID());
    await keep(db, entry);
    response.status(201).json(entry);
  });
  router.put('/:id', async (request, response) => {
    const entry = parse(request.body, request.params.id);
    await keep(db, entry);
    response.json(entry);
  });
  router.delete('/:id', async (request, response) => {
    await dropKept(db, request.params.id);
    response.status(204).end();
  });
  return router;
}
