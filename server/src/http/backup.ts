import { Router } from 'express';
import { boolean, number, object, string } from 'yup';
import { BackupFolderError, writeBackup, type Backups } from '../backup';
import type { Pool } from '../db/pool';
import { sendMade } from './download';
import { RequestError } from './errors';

const settings = object({
  folder: string().strict().typeError('must be text').required('is missing').max(1000, 'is too long'),
  keep: number().strict().typeError('must be a number').required('is missing').integer('must be whole').min(1, 'must be 1 or more').max(1000, 'must be 1000 or less'), // prettier-ignore
  daily: boolean().strict().typeError('must be true or false').required('is missing'),
})
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

/** The whole logbook as one file, and the backups that are made by themselves. */
export function backupRoutes(pool: Pool, backups: Backups, scratch: string): Router {
  const router = Router();
  router.get('/backup', async (_request, response) => {
    const name = `restless-shoal-${new Date().toISOString().slice(0, 10)}.zip`;
    await sendMade(response, scratch, name, (path, signal) => writeBackup(pool, path, signal));
  });
  router.get('/backups', (_request, response) => {
    response.json(backups.state());
  });
  router.put('/backups', async (request, response) => {
    const told = await settings.validate(request.body);
    try {
      backups.set(told);
    } catch (error) {
      throw error instanceof BackupFolderError ? new RequestError(400, error.message, 'folder') : error;
    }
    response.json(backups.state());
  });
  router.post('/backups', async (_request, response) => {
    await backups.make();
    response.status(201).json(backups.state());
  });
  return router;
}
