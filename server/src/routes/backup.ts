/** `/api/backup`: everything in one file, and back. */
import { once } from 'node:events';
import { Router } from 'express';
import { compareRequest, restoreRequest } from '@nokta/api';
import { compareBackup, restoreTunes, writeBackup } from '../library/backup.ts';
import type { Library } from '../library/tunes.ts';

export function backupRoutes(library: Library): Router {
  const router = Router();
  router.get('/', async (_, response) => {
    const day = new Date().toISOString().slice(0, 10);
    response.attachment(`nokta-backup-${day}.zip`).type('application/zip');
    await writeBackup(library, async (piece) => {
      if (!response.write(piece) && !response.destroyed) await once(response, 'drain');
    });
    response.end();
  });
  router.post('/compare', async (request, response) => {
    response.json(await compareBackup(library, compareRequest.parse(request.body).tunes));
  });
  router.post('/restore', async (request, response) => {
    await restoreTunes(library, restoreRequest.parse(request.body).tunes);
    response.status(204).end();
  });
  return router;
}
