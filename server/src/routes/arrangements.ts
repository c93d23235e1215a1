/** `/api/arrangements`: decisions, undo and redo, sheets and files. */
import { Router, type Response } from 'express';
import { decideRequest, paperQuery, stepRequest } from '@nokta/api';
import { arrangementXml, markedTune } from '@nokta/core/arrange';
import { writeAbc } from '@nokta/core/formats';
import { engraveSheet } from '@nokta/engrave/sheet';
import { sheetPdf } from '@nokta/engrave/pdf';
import type { Database } from '../db/open.ts';
import { computeArrangement, decide, findArrangement, walk } from '../decisions.ts';

export function arrangementRoutes(db: Database): Router {
  const router = Router();
  router.get('/:id', async (request, response) => {
    response.json(await findArrangement(db, request.params.id));
  });
  router.put('/:id', async (request, response) => {
    const { version, decisions, label } = decideRequest.parse(request.body);
    response.json(await decide(db, request.params.id, version, decisions, label));
  });
  router.post('/:id/undo', async (request, response) => {
    response.json(await walk(db, request.params.id, stepRequest.parse(request.body).version, -1));
  });
  router.post('/:id/redo', async (request, response) => {
    response.json(await walk(db, request.params.id, stepRequest.parse(request.body).version, 1));
  });
  router.get('/:id/sheet', async (request, response) => {
    const { paper } = paperQuery.parse(request.query);
    response.json({ pages: await engraveSheet(await computeArrangement(db, request.params.id), paper) });
  });
  router.get('/:id/sheet.pdf', async (request, response) => {
    const { paper } = paperQuery.parse(request.query);
    const arrangement = await computeArrangement(db, request.params.id);
    const pdf = await sheetPdf(await engraveSheet(arrangement, paper), paper, arrangement.tune.title);
    send(response, arrangement.tune.title, 'pdf', 'application/pdf', pdf);
  });
  router.get('/:id/tune.musicxml', async (request, response) => {
    const arrangement = await computeArrangement(db, request.params.id);
    send(
      response,
      arrangement.tune.title,
      'musicxml',
      'application/vnd.recordare.musicxml+xml',
      arrangementXml(arrangement),
    );
  });
  router.get('/:id/tune.abc', async (request, response) => {
    const arrangement = await computeArrangement(db, request.params.id);
    send(response, arrangement.tune.title, 'abc', 'text/vnd.abc; charset=utf-8', writeAbc(markedTune(arrangement)));
  });
  return router;
}

/** As a download named after the tune; characters that file systems refuse become spaces. */
function send(response: Response, title: string, ending: string, type: string, content: string | Buffer): void {
  const name = title.replace(/[\\/:*?"<>|\p{Cc}]+/gu, ' ').trim() || 'tune';
  response.attachment(`${name}.${ending}`).type(type).send(content);
}
