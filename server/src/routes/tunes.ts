/** `/api/tunes`: the library. */
import { Router } from 'express';
import {
  addBatchRequest,
  addTuneRequest,
  alikeRequest,
  arrangeRequest,
  incipitQuery,
  listQuery,
  newTune,
  tagsRequest,
  versionRequest,
  type BatchResult,
} from '@nokta/api';
import { unpackMelody } from '@nokta/core/search';
import { judge } from '../library/batch.ts';
import { addArrangement } from '../library/arrangements.ts';
import { tuneKind } from '../library/kinds.ts';
import { deleteVersion, listVersions, nameVersion, openVersion } from '../library/states.ts';
import { touch } from '../library/touch.ts';
import { incipitOf } from '../library/incipit.ts';
import { facetsOf, listTunes } from '../library/list.ts';
import {
  addBatch,
  addTune,
  alikeTunes,
  bringBack,
  deleteTune,
  joinTunes,
  openTune,
  setTags,
  type Library,
} from '../library/tunes.ts';
import { historyRoutes } from './records.ts';

export function tuneRoutes(library: Library): Router {
  const { db } = library;
  const router = Router();
  router.get('/', async (request, response) => {
    response.json(await listTunes(library, listQuery.parse(request.query)));
  });
  router.get('/facets', async (_, response) => {
    response.json(await facetsOf(library));
  });
  router.post('/', async (request, response) => {
    const id = await addTune(library, addTuneRequest.parse(request.body));
    response.status(201).json(await openTune(library, id));
  });
  router.post('/batch', async (request, response) => {
    const { sound, refused } = judge(addBatchRequest.parse(request.body).tunes, newTune);
    response.status(201).json({ added: await addBatch(library, sound), refused } satisfies BatchResult);
  });
  router.post('/alike', async (request, response) => {
    response.json(await alikeTunes(library, alikeRequest.parse(request.body).melodies.map(unpackMelody)));
  });
  router.get('/:id', async (request, response) => {
    response.json(await openTune(library, request.params.id));
  });
  historyRoutes(router, library, tuneKind);
  router.put('/:id/tags', async (request, response) => {
    response.json({ tags: await setTags(library, request.params.id, tagsRequest.parse(request.body).tags) });
  });
  router.post('/:id/join/:other', async (request, response) => {
    await joinTunes(library, request.params.id, request.params.other);
    response.status(204).end();
  });
  router.get('/:id/incipit', async (request, response) => {
    const { from, length } = incipitQuery.parse(request.query);
    response.json(await incipitOf(library, request.params.id, from, length));
  });
  router.get('/:id/versions', async (request, response) => {
    response.json(await listVersions(db, request.params.id));
  });
  router.post('/:id/versions', async (request, response) => {
    const { name } = versionRequest.parse(request.body);
    response.status(201).json(await nameVersion(db, request.params.id, name));
  });
  router.get('/:id/versions/:version', async (request, response) => {
    response.json(await openVersion(db, request.params.id, request.params.version));
  });
  router.delete('/:id/versions/:version', async (request, response) => {
    await deleteVersion(db, request.params.id, request.params.version);
    response.status(204).end();
  });
  router.delete('/:id', async (request, response) => {
    await deleteTune(library, request.params.id);
    response.status(204).end();
  });
  router.post('/:id/restore', async (request, response) => {
    await bringBack(library, request.params.id);
    response.status(204).end();
  });
  router.post('/:id/arrangements', async (request, response) => {
    const { id } = await openTune(library, request.params.id);
    response.status(201).json(await addArrangement(db, id, arrangeRequest.parse(request.body).decisions));
    await touch(db, id);
  });
  return router;
}
