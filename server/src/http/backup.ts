import { Router } from 'express';
import { BackupFolderError, writeBackup, type Backups } from '../backup';
import type { Pool } from '../db/pool';
import { sendMade } from './download';
import { RequestError } from './errors';
import { on } from './on';

/** The whole logbook as one file, and the backups that are made by themselves. */
export function backupRoutes(pool: Pool, backups: Backups, scratch: string): Router {
  const router = Router();
  on(router, 'GET /backup', async ({ response }) => {
    const name = `restless-shoal-${new Date().toISOString().slice(0, 10)}.zip`;
    await sendMade(response, scratch, name, (path, signal) => writeBackup(pool, path, signal));
  });
  on(router, 'GET /backups', () => {
    return backups.state();
  });
  on(router, 'PUT /backups', async ({ body }) => {
    try {
      backups.set(body);
    } catch (error) {
      throw error instanceof BackupFolderError ? new RequestError('folder-unusable', { reason: error.message }, 'folder') : error;
    }
    return backups.state();
  });
  on(router, 'POST /backups', async () => {
    await backups.make();
    return backups.state();
  });
  return router;
}
