import { Readable } from 'node:stream';
import { Router } from 'express';
import { newId } from '@restless-shoal/core/logbook';
import type { DemoName } from '@restless-shoal/core/contract';
import { demoName } from '../import/demo';
import { runDemo } from '../jobs/pool';
import type { Jobs } from '../jobs/queue';
import { accountOf } from './account';
import { on } from './on';

/** Makes a demo water and queues its import. @returns the import's job */
export async function bringDemo(jobs: Jobs, account: string, which: DemoName): Promise<string> {
  const upload = newId();
  for (const { name, text } of await runDemo(which)) await jobs.uploads.take(upload, name, Readable.from([text]));
  return jobs.startImport(account, null, upload, { water: demoName(which), create: true, update: false });
}

/** Brings a demo water into this installation, as a job like any other import. */
export function demoRoutes(jobs: Jobs): Router {
  const router = Router();
  on(router, 'POST /demo', async ({ request, body: { which } }) => ({
    job: await bringDemo(jobs, accountOf(request), which ?? 'lake'),
    water: demoName(which ?? 'lake'),
  }));
  return router;
}
