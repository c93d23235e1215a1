/** `/api/hands`: learners' hands, by id. */
import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import { handRequest } from '@nokta/api';
import { dropHand, keepHand, listHands } from '../library/hands.ts';
import type { Library } from '../library/tunes.ts';

export function handRoutes({ db }: Pick<Library, 'db'>): Router {
  const router = Router();
  router.get('/', async (_, response) => {
    response.json(await listHands(db));
  });
  router.post('/', async (request, response) => {
    const hand = handRequest.parse({ ...(request.body as object), id: randomUUID() });
    await keepHand(db, hand);
    response.status(201).json(hand);
  });
  router.put('/:id', async (request, response) => {
    const hand = handRequest.parse({ ...(request.body as object), id: request.params.id });
    await keepHand(db, hand);
    response.json(hand);
  });
  router.delete('/:id', async (request, response) => {
    await dropHand(db, request.params.id);
    response.status(204).end();
  });
  return router;
}
