import { Router } from 'express';
import { writeBackup } from '../backup';
import type { Pool } from '../db/pool';

/** The whole logbook as one file. */
export function backupRoutes(pool: Pool): Router {
  const router = Router();
  router.get('/backup', async (_request, response) => {
    response.attachment(`restless-shoal-${new Date().toISOString().slice(0, 10)}.zip`).type('application/zip');
    await writeBackup(pool, async (piece) => {
      if (response.destroyed) throw new Error('the download was broken off');
      if (!response.write(piece)) await new Promise<void>((done) => response.once('drain', done).once('close', done));
    });
    response.end();
  });
  return router;
}
