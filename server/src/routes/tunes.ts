/** `/api/tunes`: the library. */
import { Router } from 'express';
import { addTuneRequest, arrangeRequest, previewRequest, renameRequest } from '@nokta/api';
import type { Database } from '../db/open.ts';
import { addArrangement } from '../decisions.ts';
import { addTune, deleteTune, listTunes, openTune, preview, renameTune, restoreTune } from '../library.ts';

export function tuneRoutes(db: Database): Router {
  const router = Router();
  router.get('/', async (_, response) => {
    response.json(await listTunes(db));
  });
  router.post('/preview', (request, response) => {
    response.json(preview(previewRequest.parse(request.body)));
  });
  router.post('/', async (request, response) => {
    const id = await addTune(db, addTuneRequest.parse(request.body));
    response.status(201).json(await openTune(db, id));
  });
  router.get('/:id', async (request, response) => {
    response.json(await openTune(db, request.params.id));
  });
  router.patch('/:id', async (request, response) => {
    const { title, version } = renameRequest.parse(request.body);
    response.json(await renameTune(db, request.params.id, title, version));
  });
  router.delete('/:id', async (request, response) => {
    await deleteTune(db, request.params.id);
    response.status(204).end();
  });
  router.post('/:id/restore', async (request, response) => {
    await restoreTune(db, request.params.id);
    response.status(204).end();
  });
  router.post('/:id/arrangements', async (request, response) => {
    const { id } = await openTune(db, request.params.id);
    response.status(201).json(await addArrangement(db, id, arrangeRequest.parse(request.body).decisions));
  });
  return router;
}
