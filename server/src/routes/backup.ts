/** `/api/backup`: everything in one file, and back. */
import { once } from 'node:events';
import { Router } from 'express';
import { compareRequest, restoreRequest, restoredTune, type RefusedTune, type RestoreResult } from '@nokta/api';
import { compareBackup, restoreTune, writeBackup } from '../library/backup.ts';
import { refusedTune } from '../library/batch.ts';
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
    const { madeAt, tunes } = restoreRequest.parse(request.body);
    const restored: string[] = [];
    const refused: RefusedTune[] = [];
    for (const [index, given] of tunes.entries()) {
      try {
        const one = restoredTune.parse(given);
        await restoreTune(library, one, madeAt);
        restored.push(one.id);
      } catch (error) {
        refused.push(refusedTune(index, given, error));
      }
    }
    response.json({ restored, refused } satisfies RestoreResult);
  });
  return router;
}
