/** `/api/print`: pages of the workshop, of nothing that is kept. */
import { Router } from 'express';
import { printRequest, tapeQuery } from '@nokta/api';
import { tapeStrip } from '@nokta/core/sheet';
import type { Library } from '../library/tunes.ts';
import { sendFile } from './send.ts';

export function printRoutes({ drawing }: Pick<Library, 'drawing'>): Router {
  const router = Router();
  router.get('/tapes.pdf', async (request, response) => {
    const { name, hand, length, tapes, paper } = tapeQuery.parse(request.query);
    const title = `Tapes for the ${name.toLowerCase()}`;
    const pages = tapeStrip({ name, hand, length, tapes, paper });
    const pdf = await drawing.ask((service) => service.pages(pages, { paper, landscape: false }, title));
    sendFile(response, title, 'pdf', 'application/pdf', pdf);
  });
  router.post('/sheet.pdf', async (request, response) => {
    const { tune, decisions, style } = printRequest.parse(request.body);
    const pdf = await drawing.ask((service) => service.pdf({ tune, decisions }, style));
    sendFile(response, tune.title, 'pdf', 'application/pdf', pdf);
  });
  return router;
}
