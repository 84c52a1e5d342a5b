import { Readable } from 'node:stream';
import { Router } from 'express';
import { newId } from '@restless-shoal/core/logbook';
import { DEMO_NAME, demoFiles } from '../import/demo';
import type { Jobs } from '../jobs/queue';
import { accountOf } from './account';
import { on } from './on';

/** Brings the demo water into this installation, as a job like any other import. */
export function demoRoutes(jobs: Jobs): Router {
  const router = Router();
  on(router, 'POST /demo', async ({ request }) => {
    const upload = newId();
    for (const { name, text } of demoFiles()) await jobs.uploads.take(upload, name, Readable.from([text]));
    const job = await jobs.startImport(accountOf(request), null, upload, { water: DEMO_NAME, create: true, update: false });
    return { job, water: DEMO_NAME };
  });
  return router;
}
