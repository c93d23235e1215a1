/** `/api/arrangements`: decisions, undo and redo, sheets and files. */
import { Router } from 'express';
import { decideRequest, fileQuery, pictureQuery, sheetQuery } from '@nokta/api';
import { MEDIA_TYPE, endingOf } from '@nokta/core/files';
import { noktaContents } from '../library/backup.ts';
import { materialOf } from '../library/arrangements.ts';
import { arrangementKind } from '../library/kinds.ts';
import type { Library } from '../library/tunes.ts';
import { notFound } from '../problems.ts';
import { changeRecord, openRecord } from '../records/history.ts';
import { historyRoutes } from './records.ts';
import { sendFile } from './send.ts';

export function arrangementRoutes(library: Library): Router {
  const { db, drawing } = library;
  const router = historyRoutes(Router(), library, arrangementKind);
  router.get('/:id', async (request, response) => {
    response.json(await openRecord(db, arrangementKind, request.params.id));
  });
  router.put('/:id', async (request, response) => {
    const { revision, pieces, decisions, label, entry } = decideRequest.parse(request.body);
    const sending = { id: request.params.id, revision, entry };
    const wanted = pieces ? { change: pieces } : { make: () => decisions! };
    response.json(await db.transaction((tx) => changeRecord(tx, arrangementKind, sending, wanted, label)));
  });
  router.get('/:id/sheet', async (request, response) => {
    const { round, style } = sheetQuery.parse(request.query);
    const { tune, decisions } = await materialOf(db, request.params.id);
    response.json({
      pages: await drawing.ask((service) => service.sheet({ tune, decisions, round }, style), request.params.id),
    });
  });
  router.get('/:id/sheet.pdf', async (request, response) => {
    const { round, style } = sheetQuery.parse(request.query);
    const { tune, decisions, title } = await materialOf(db, request.params.id);
    const pdf = await drawing.ask((service) => service.pdf({ tune, decisions, round }, style), request.params.id);
    sendFile(response, title, 'pdf', 'application/pdf', pdf);
  });
  router.get('/:id/sheet.png', async (request, response) => {
    const { round, style, page } = pictureQuery.parse(request.query);
    const { tune, decisions, title } = await materialOf(db, request.params.id);
    const png = await drawing.ask((service) => service.png({ tune, decisions, round }, style, page), request.params.id);
    sendFile(response, title, 'png', 'image/png', png);
  });
  router.get('/:id/:file', async (request, response) => {
    const ending = endingOf(request.params.file);
    if (!ending || request.params.file !== `tune.${ending}`) throw notFound('file');
    const { tab, round } = fileQuery.parse(request.query);
    const { tune, decisions, tuneId, title } = await materialOf(db, request.params.id);
    const contents = await noktaContents(library, tuneId);
    if (!contents) throw notFound('tune');
    const content = await drawing.ask(
      (service) => service.file({ tune, decisions, round }, { ending, contents, tab }),
      request.params.id,
    );
    sendFile(response, title, ending, MEDIA_TYPE[ending], content);
  });
  return router;
}
