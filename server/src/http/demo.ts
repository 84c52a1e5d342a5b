import { Readable } from 'node:stream';
import { Router } from 'express';
import { newId } from '@restless-shoal/core/logbook';
import { DEMO_NAME, demoFiles } from '../import/demo';
import type { Jobs } from '../jobs/queue';
import { accountOf } from './account';

/** Brings the demo water into this installation, as a job like any other import. */
export function demoRoutes(jobs: Jobs): Router {
  const router = Router();
  router.post('/demo', async (request, response) => {
    const upload = newId();
    for (const { name, text } of demoFiles()) await jobs.uploads.take(upload, name, Readable.from([text]));
    const job = await jobs.startImport(accountOf(request), null, upload, { water: DEMO_NAME, create: true, update: false });
    response.status(202).json({ job, water: DEMO_NAME });
  });
  return router;
}
