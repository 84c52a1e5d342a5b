import { Router } from 'express';
import { array, number, object, string, tuple } from 'yup';
import { outcomeOf, type Outlook } from '@restless-shoal/core/forecast';
import { schemas, type Look } from '@restless-shoal/core/logbook';
import { findSpecies } from '@restless-shoal/core/species';
import { keepOutlook, outlooksOf } from '../db/outlooks';
import type { Pool } from '../db/pool';
import { speciesOf } from '../db/waters';
import type { Jobs } from '../jobs/queue';
import { freshLooks, latestFit, scoresOfFit, speciesNamed } from '../jobs/ready';
import { accountOf } from './account';
import { notFound, RequestError } from './errors';
import { tripOf } from './trips';
import { waterOf } from './waters';

const fitRequest = object({ species: string().strict().typeError('must be text').trim().min(1, 'is missing').required('is missing') })
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

const whole = () => number().strict().typeError('must be a number').integer('must be whole').required('is missing');
const chance = () =>
  number().strict().typeError('must be a number').min(0, 'must be from 0 to 1').max(1, 'must be from 0 to 1').required('is missing');
/** As many cells as a large water has. */
const MOST_CELLS = 200_000;

/** Milliseconds since 1970 of the year 3000. */
const LAST_MOMENT = Date.UTC(3000, 0);

const outlookRequest = object({
  species: string().strict().typeError('must be text').trim().min(1, 'is missing').required('is missing'),
  at: whole().min(0, 'is no time').max(LAST_MOMENT, 'is no time'),
  columns: array(whole()).max(MOST_CELLS, 'are too many cells').required('is missing'),
  rows: array(whole()).max(MOST_CELLS, 'are too many cells').required('is missing'),
  chances: array(chance()).max(MOST_CELLS, 'are too many cells').required('is missing'),
  places: array(
    object({
      name: string().strict().typeError('must be text').max(120, 'is longer than 120 characters').required('is missing'),
      chance: chance(),
      cells: array(tuple([whole(), whole()]))
        .max(400, 'are too many cells')
        .required('is missing'),
    })
      .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
      .strict(),
  )
    .max(50, 'are more than 50')
    .required('is missing'),
})
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict()
  .test(
    'as-many',
    'columns, rows and chances must be as many',
    (v) => v.columns?.length === v.rows?.length && v.rows?.length === v.chances?.length,
  );

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
  // How fits of the species did on trips held out; no content while nobody asked, or too little is logged.
  router.get('/waters/:water/models/:species/scores', async (request, response) => {
    const water = await waterOf(pool, request);
    const { species } = await speciesNamed(pool, water, String(request.params.species));
    const scores = await scoresOfFit(pool, water, species);
    response.setHeader('Cache-Control', 'no-store');
    response.json(scores);
  });
  router.post('/waters/:water/scores', async (request, response) => {
    const water = await waterOf(pool, request);
    const { species } = await fitRequest.validate(request.body);
    const profile = (await speciesNamed(pool, water, species)).species;
    response.status(202).json({ job: await jobs.startScore(accountOf(request), water.id, profile.name) });
  });
  router.put('/trips/:trip/outlooks/:id', async (request, response) => {
    const trip = await tripOf(pool, request);
    const id = String(request.params.id);
    if (!(await schemas.id.isValid(id))) throw new RequestError(400, 'id is not a UUID', 'id');
    await keepOutlook(pool, id, trip.id, (await outlookRequest.validate(request.body)) as Outlook);
    response.json({ done: 'kept' });
  });
  // What the ended trips saw of the forecasts that were shown on them, newest first.
  router.get('/waters/:water/outcomes', async (request, response) => {
    const water = await waterOf(pool, request);
    const kept = await outlooksOf(pool, water.id);
    const looks = kept.length ? new Map((await freshLooks(pool, water)).map((t) => [t.trip.id, t.looks])) : new Map<string, Look[]>();
    const known = await speciesOf(pool, water.id);
    response.json(
      kept.map((row) => ({
        trip: row.trip_id,
        at: row.made_at,
        ...outcomeOf(row.body, looks.get(row.trip_id) ?? [], (name) => findSpecies(name, known)?.name === row.species),
      })),
    );
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
