import { Router } from 'express';
import { object, string } from 'yup';
import type { Pool } from '../db/pool';
import type { Jobs } from '../jobs/queue';
import { latestFit, speciesNamed } from '../jobs/ready';
import { accountOf } from './account';
import { notFound } from './errors';
import { waterOf } from './waters';

const fitRequest = object({ species: string().strict().typeError('must be text').trim().min(1, 'is missing').required('is missing') })
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

export function forecastRoutes(pool: Pool, jobs: Jobs): Router {
  const router = Router();
  router.post('/waters/:water/models', async (request, response) => {
    const water = await waterOf(pool, request);
    const { species } = await fitRequest.validate(request.body);
    const profile = (await speciesNamed(pool, water, species)).species;
    response.status(202).json({ job: await jobs.startFit(accountOf(request), water.id, profile.name) });
  });
  // The fit itself, with its state in headers; no content while there is none and the schools speak alone.
  router.get('/waters/:water/models/:species', async (request, response) => {
    const water = await waterOf(pool, request);
    const { species } = await speciesNamed(pool, water, String(request.params.species));
    const fit = await latestFit(pool, water, species);
    if (!fit) {
      response.status(204).end();
      return;
    }
    response.setHeader('X-Fitted-At', fit.fittedAt);
    response.setHeader('X-Stale', String(fit.stale));
    response.setHeader('Cache-Control', 'no-store');
    response.type('application/octet-stream').send(fit.body);
  });
  router.get('/jobs/:job', async (request, response) => {
    const job = await jobs.state(accountOf(request), String(request.params.job));
    if (!job) throw notFound('job');
    response.json(job);
  });
  router.delete('/jobs/:job', async (request, response) => {
    if (!(await jobs.cancel(accountOf(request), String(request.params.job)))) throw notFound('job');
    response.json({ done: 'cancelled' });
  });
  return router;
}
