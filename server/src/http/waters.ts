import { Router } from 'express';
import { boolean, object } from 'yup';
import { metricPlane, OutlineError, outlineToRings, ringsCentroid, utmEpsg, type OutlineGeometry } from '@restless-shoal/core/geo';
import { schemas } from '@restless-shoal/core/logbook';
import type { WaterFile } from '@restless-shoal/core/formats';
import { depthRuleSchema, findSpecies, speciesSchema, type SpeciesProfile } from '@restless-shoal/core/species';
import { latestChart, wantChart } from '../db/charts';
import { contactsOfWater, responsesOfWater, stopsOfWater, profilesOfWater, pulseOf, readingsOfWater, tripsOf } from '../db/log';
import type { Pool } from '../db/pool';
import {
  archiveWater,
  coverOf,
  createWater,
  describeWater,
  editSpecies,
  listWaters,
  loggedSpecies,
  renameWater,
  setOutline,
  speciesOf,
  waterById,
  waterByName,
  type WaterRow,
} from '../db/waters';
import { freshLooks, rodHoursOf } from '../jobs/ready';
import { accountOf } from './account';
import { notFound, RequestError } from './errors';
import type { Request } from 'express';

/** The water of a request's address, if it is the account's. */
export async function waterOf(pool: Pool, request: Request): Promise<WaterRow> {
  const id = String(request.params.water);
  if (!(await schemas.id.isValid(id))) throw notFound('water');
  const water = await waterById(pool, accountOf(request), id);
  if (!water) throw notFound('water');
  return water;
}

/** Checks an outline in a request and gives its UTM zone. */
export function outlineZone(outline: OutlineGeometry): number {
  try {
    const epsg = utmEpsg(ringsCentroid(outline));
    const plane = metricPlane(epsg);
    outlineToRings(outline, (longitude, latitude) => plane.toMetric({ latitude, longitude }));
    return epsg;
  } catch (error) {
    throw new RequestError(400, `outline ${error instanceof OutlineError ? error.message : 'is no GeoJSON geometry'}`, 'outline');
  }
}

const archiveRequest = object({ archived: boolean().strict().typeError('must be true or false').required('is missing') })
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

export function waterRoutes(pool: Pool): Router {
  const router = Router();
  router.get('/waters', async (request, response) => {
    response.json(await listWaters(pool, accountOf(request)));
  });
  router.put('/waters/:water', async (request, response) => {
    const id = await schemas.id.validate(request.params.water).catch(() => {
      throw new RequestError(400, 'id is not a UUID', 'id');
    });
    const body = (await schemas.water.validate(request.body, { abortEarly: true })) as WaterFile & {
      name: string;
      outline?: OutlineGeometry | null;
    };
    const epsg = body.outline ? outlineZone(body.outline) : null;
    const existing = await waterById(pool, accountOf(request), String(id));
    const taken = (): RequestError => new RequestError(409, `name "${body.name}" is taken by another water`, 'name');
    if (!existing) {
      if (await waterByName(pool, accountOf(request), body.name)) throw taken();
      await createWater(pool, accountOf(request), body.name, String(id));
    } else if (!(await renameWater(pool, accountOf(request), existing, body.name))) throw taken();
    await describeWater(pool, String(id), body);
    if (body.outline && epsg && (await setOutline(pool, String(id), body.outline, epsg))) await wantChart(pool, String(id));
    response.status(existing ? 200 : 201).json(await waterById(pool, accountOf(request), String(id)));
  });
  router.post('/waters/:water/archive', async (request, response) => {
    const { archived } = await archiveRequest.validate(request.body);
    const water = await waterOf(pool, request);
    await archiveWater(pool, water.id, archived);
    response.json({ done: archived ? 'archived' : 'taken up again' });
  });
  // Out of every list and number, but for 90 days not out of the database.
  router.delete('/waters/:water', async (request, response) => {
    const water = await waterOf(pool, request);
    await pool.query('UPDATE waters SET deleted_at = now() WHERE id = $1', [water.id]);
    response.json({ id: water.id, done: 'deleted' });
  });
  router.get('/waters/:water', async (request, response) => {
    const water = await waterOf(pool, request);
    const species = await speciesOf(pool, water.id);
    response.json({ ...water, cover: await coverOf(pool, water.id), species, logged: await loggedSpecies(pool, water.id, species) });
  });
  router.put('/waters/:water/rules', async (request, response) => {
    const water = await waterOf(pool, request);
    await describeWater(pool, water.id, { rules: await depthRuleSchema.validate(request.body) });
    response.json({ done: 'changed' });
  });
  router.put('/waters/:water/species/:name', async (request, response) => {
    const water = await waterOf(pool, request);
    const name = String(request.params.name);
    const profile = (await speciesSchema.validate(request.body)) as SpeciesProfile;
    if (profile.name !== name) throw new RequestError(400, 'name must be the one of the address: the log knows the species by it', 'name');
    if (!(await editSpecies(pool, water.id, profile))) throw notFound('species');
    response.json({ done: 'changed' });
  });
  router.get('/waters/:water/chart', async (request, response) => {
    const water = await waterOf(pool, request);
    const chart = await latestChart(pool, water.id);
    if (!chart) {
      response.status(204).end();
      return;
    }
    response.setHeader('ETag', `"chart-${chart.id}"`);
    response.setHeader('Cache-Control', 'no-cache');
    response.type('application/octet-stream').send(chart.body);
  });
  router.get('/waters/:water/log', async (request, response) => {
    const water = await waterOf(pool, request);
    const [trips, readings, profiles] = await Promise.all([
      tripsOf(pool, water.id),
      readingsOfWater(pool, water.id),
      profilesOfWater(pool, water.id),
    ]);
    response.json({ trips, readings, profiles });
  });
  router.get('/waters/:water/pulse', async (request, response) => {
    response.setHeader('Cache-Control', 'no-store');
    response.json(await pulseOf(pool, await waterOf(pool, request)));
  });
  router.get('/waters/:water/contacts', async (request, response) => {
    response.json(await contactsOfWater(pool, (await waterOf(pool, request)).id));
  });
  router.get('/waters/:water/looks', async (request, response) => {
    const trips = await freshLooks(pool, await waterOf(pool, request));
    response.json(trips.map(({ trip, looks, outside }) => ({ trip: trip.id, looks, outside: outside.length })));
  });
  // Fish and bites per rod-hour: for a log of stops and catches, where nothing was scanned.
  router.get('/waters/:water/rod-hours', async (request, response) => {
    const water = await waterOf(pool, request);
    const known = await speciesOf(pool, water.id);
    const wanted = request.query.species === undefined ? null : findSpecies(String(request.query.species), known);
    response.setHeader('Cache-Control', 'no-store');
    response.json(await rodHoursOf(pool, water, (name) => !wanted || (name !== null && findSpecies(name, known)?.name === wanted.name)));
  });
  // The whole log as patterns are found from it: one answer, so that its parts belong together.
  router.get('/waters/:water/logbook', async (request, response) => {
    const water = await waterOf(pool, request);
    const trips = await freshLooks(pool, water);
    const [contacts, stops, responses] = await Promise.all([
      contactsOfWater(pool, water.id),
      stopsOfWater(pool, water.id),
      responsesOfWater(pool, water.id),
    ]);
    response.json({
      trips: trips.map(({ trip, looks, outside }) => ({ id: trip.id, start: Date.parse(trip.start), looks, outside: outside.length })),
      contacts,
      stops,
      responses,
    });
  });
  return router;
}
