import { Router } from 'express';
import { outcomeOf, type Outlook } from '@restless-shoal/core/forecast';
import { schemas, type Look } from '@restless-shoal/core/logbook';
import { findSpecies } from '@restless-shoal/core/species';
import { keepOutlook, outlooksOf } from '../db/outlooks';
import type { Pool } from '../db/pool';
import { speciesOf } from '../db/waters';
import type { Jobs } from '../jobs/queue';
import { latestFit, speciesNamed } from '../jobs/ready';
import { accountOf } from './account';
import { notFound, RequestError } from './errors';
import { on } from './on';
import { tripOf } from './trips';
import { waterOf } from './waters';

export function forecastRoutes(pool: Pool, jobs: Jobs): Router {
  const router = Router();
  on(router, 'POST /waters/:water/models', async ({ request, body }) => {
    const water = await waterOf(pool, request);
    const profile = (await speciesNamed(pool, water, body.species)).species;
    return { job: await jobs.startFit(accountOf(request), water.id, profile.name) };
  });
  // The fit itself, with its state in headers; no content while there is none and only the strategies count.
  on(router, 'GET /waters/:water/models/:species', async ({ request, response }) => {
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
  // How fits of the species did on trips held out; the card is null while that is worked out, or where too little is logged.
  on(router, 'GET /waters/:water/models/:species/scores', async ({ request, response }) => {
    const water = await waterOf(pool, request);
    const { species } = await speciesNamed(pool, water, String(request.params.species));
    response.setHeader('Cache-Control', 'no-store');
    return await jobs.scoresOf(accountOf(request), water, species);
  });
  on(router, 'PUT /trips/:trip/outlooks/:id', async ({ request, body }) => {
    const trip = await tripOf(pool, request);
    const id = String(request.params.id);
    if (!(await schemas.id.isValid(id))) throw new RequestError('field-wrong', { reason: 'is not a UUID' }, 'id');
    await keepOutlook(pool, id, trip.id, body as Outlook);
    return { done: 'kept' };
  });
  // What the ended trips saw of the forecasts that were shown on them, newest first.
  on(router, 'GET /waters/:water/outcomes', async ({ request, response }) => {
    const water = await waterOf(pool, request);
    const kept = await outlooksOf(pool, water.id);
    const derived = kept.length ? await jobs.looksOf(accountOf(request), water) : { trips: [], deriving: false };
    const looks = new Map(derived.trips.map((t): [string, Look[]] => [t.trip.id, t.looks]));
    response.setHeader('X-Deriving', String(derived.deriving));
    const known = await speciesOf(pool, water.id);
    return kept.map((row) => ({
      trip: row.trip_id,
      at: row.made_at,
      ...outcomeOf(row.body, looks.get(row.trip_id) ?? [], (name) => findSpecies(name, known)?.name === row.species),
    }));
  });
  on(router, 'GET /jobs/:job', async ({ request }) => {
    const job = await jobs.state(accountOf(request), String(request.params.job));
    if (!job) throw notFound('job');
    return job;
  });
  on(router, 'DELETE /jobs/:job', async ({ request }) => {
    if (!(await jobs.cancel(accountOf(request), String(request.params.job)))) throw notFound('job');
    return { done: 'cancelled' };
  });
  return router;
}
