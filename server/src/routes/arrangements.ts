/** `/api/arrangements`: decisions, undo and redo, sheets and files. */
import { Router } from 'express';
import { decideRequest, fileQuery, pictureQuery, sheetQuery, stepRequest } from '@nokta/api';
import { MEDIA_TYPE, endingOf } from '@nokta/core/files';
import { noktaContents } from '../library/backup.ts';
import { decide, findArrangement, materialOf, walk } from '../library/decisions.ts';
import type { Library } from '../library/tunes.ts';
import { notFound } from '../problems.ts';
import { sendFile } from './send.ts';

/** Undo and redo, by the names that addresses have for them. */
export const WAYS = [
  ['undo', -1],
  ['redo', 1],
] as const;

export function arrangementRoutes(library: Library): Router {
  const { db, drawing } = library;
  const router = Router();
  router.get('/:id', async (request, response) => {
    response.json(await findArrangement(db, request.params.id));
  });
  router.put('/:id', async (request, response) => {
    const { revision, pieces, decisions, label, entry } = decideRequest.parse(request.body);
    response.json(await decide(db, request.params.id, revision, pieces ?? decisions!, label, entry));
  });
  for (const [name, direction] of WAYS) {
    router.post(`/:id/${name}`, async (request, response) => {
      const { revision, entry } = stepRequest.parse(request.body);
      response.json(await walk(db, request.params['id']!, revision, direction, entry));
    });
  }
  router.get('/:id/sheet', async (request, response) => {
    const { round, style } = sheetQuery.parse(request.query);
    const { tune, decisions } = await materialOf(db, request.params.id);
    response.json({ pages: await drawing.ask((service) => service.sheet({ tune, decisions, round }, style)) });
  });
  router.get('/:id/sheet.pdf', async (request, response) => {
    const { round, style } = sheetQuery.parse(request.query);
    const { tune, decisions } = await materialOf(db, request.params.id);
    const pdf = await drawing.ask((service) => service.pdf({ tune, decisions, round }, style));
    sendFile(response, tune.title, 'pdf', 'application/pdf', pdf);
  });
  router.get('/:id/sheet.png', async (request, response) => {
    const { round, style, page } = pictureQuery.parse(request.query);
    const { tune, decisions } = await materialOf(db, request.params.id);
    const png = await drawing.ask((service) => service.png({ tune, decisions, round }, style, page));
    sendFile(response, tune.title, 'png', 'image/png', png);
  });
  router.get('/:id/:file', async (request, response) => {
    const ending = endingOf(request.params.file);
    if (!ending || request.params.file !== `tune.${ending}`) throw notFound('file');
    const { tab, round } = fileQuery.parse(request.query);
    const { tune, decisions, tuneId } = await materialOf(db, request.params.id);
    const contents = await noktaContents(library, tuneId);
    if (!contents) throw notFound('tune');
    const content = await drawing.ask((service) => service.file({ tune, decisions, round }, { ending, contents, tab }));
    sendFile(response, tune.title, ending, MEDIA_TYPE[ending], content);
  });
  return router;
}
