import { gunzipSync } from 'node:zlib';
import { Router } from 'express';
import { metricPlane, OutlineError, outlineToRings, ringsCentroid, utmEpsg, type OutlineGeometry } from '@restless-shoal/core/geo';
import { schemas } from '@restless-shoal/core/logbook';
import type { WaterFile } from '@restless-shoal/core/formats';
import { findSpecies, type SpeciesProfile } from '@restless-shoal/core/species';
import { latestChart, wantChart } from '../db/charts';
import { contactsOfWater, profilesOfWater, pulseOf, readingsOfWater, tripsOf } from '../db/log';
import { transaction, type Pool } from '../db/pool';
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
  liesInTrash,
  waterByName,
  type WaterRow,
} from '../db/waters';
import type { Jobs } from '../jobs/queue';
import { logbookStamp, packedLogbook, waterLookedAt } from '../jobs/packed-logbook';
import { looksOfTrips } from '../jobs/looks';
import { rodHoursOf } from '../jobs/ready';
import { accountOf } from './account';
import { notFound, RequestError } from './errors';
import { on } from './on';
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
    throw new RequestError('field-wrong', { reason: error instanceof OutlineError ? error.message : 'is no GeoJSON geometry' }, 'outline');
  }
}

export function waterRoutes(pool: Pool, jobs: Jobs): Router {
  const router = Router();
  on(router, 'GET /waters', async ({ request }) => {
    return await listWaters(pool, accountOf(request));
  });
  on(router, 'PUT /waters/:water', async ({ request, response, body }) => {
    const id = await schemas.id.validate(request.params.water).catch(() => {
      throw new RequestError('field-wrong', { reason: 'is not a UUID' }, 'id');
    });
    const { outline, ...said } = body as WaterFile & { name: string; outline?: OutlineGeometry | null };
    const epsg = outline ? outlineZone(outline) : null;
    const account = accountOf(request);
    // All of it or nothing.
    const existing = await transaction(pool, async (client) => {
      const existing = await waterById(client, account, String(id));
      const taken = (): RequestError => new RequestError('name-taken', { name: said.name }, 'name');
      if (!existing) {
        if (await liesInTrash(client, String(id))) throw new RequestError('lies-in-trash', {}, 'id');
        if (await waterByName(client, account, said.name)) throw taken();
        await createWater(client, account, said.name, String(id));
      } else if (!(await renameWater(client, account, existing, said.name))) throw taken();
      await describeWater(client, String(id), said);
      if (outline && epsg && (await setOutline(client, String(id), outline, epsg))) await wantChart(client, String(id));
      return existing;
    });
    if (!existing) response.status(201);
    return (await waterById(pool, account, String(id)))!;
  });
  on(router, 'POST /waters/:water/archive', async ({ request, body }) => {
    const { archived } = body;
    const water = await waterOf(pool, request);
    await archiveWater(pool, water.id, archived);
    return { done: archived ? 'archived' : 'taken up again' };
  });
  // Out of every list and number, but for 90 days not out of the database.
  on(router, 'DELETE /waters/:water', async ({ request }) => {
    const water = await waterOf(pool, request);
    await pool.query('UPDATE waters SET deleted_at = now() WHERE id = $1', [water.id]);
    return { id: water.id, done: 'deleted' as const };
  });
  on(router, 'GET /waters/:water', async ({ request }) => {
    const water = await waterOf(pool, request);
    const species = await speciesOf(pool, water.id);
    return { ...water, cover: await coverOf(pool, water.id), species, logged: await loggedSpecies(pool, water.id, species) };
  });
  on(router, 'PUT /waters/:water/rules', async ({ request, body }) => {
    const water = await waterOf(pool, request);
    await describeWater(pool, water.id, { rules: body });
    return { done: 'changed' };
  });
  on(router, 'PUT /waters/:water/species/:name', async ({ request, body }) => {
    const water = await waterOf(pool, request);
    const name = String(request.params.name);
    const profile = body as SpeciesProfile;
    const known = await speciesOf(pool, water.id);
    if (profile.name !== name)
      throw new RequestError('field-wrong', { reason: 'must be the one of the address: the log knows the species by it' }, 'name');
    // Two profiles that one name finds would be one species in the log.
    const named = [profile.name, ...profile.aliases].flatMap((n) => findSpecies(n, known) ?? []);
    const other = named.find((s) => s.name !== profile.name);
    if (other) throw new RequestError('field-wrong', { reason: `is a name of ${other.name} already` }, 'name');
    await editSpecies(pool, water.id, profile);
    return { done: 'changed' };
  });
  on(router, 'GET /waters/:water/chart', async ({ request, response }) => {
    const water = await waterOf(pool, request);
    const chart = await latestChart(pool, water.id);
    if (!chart) {
      response.status(204).end();
      return;
    }
    // Charts are numbered anew in an installation that a backup was restored into.
    response.setHeader('ETag', `"chart-${chart.id}-${String(response.getHeader('X-Epoch'))}"`);
    response.setHeader('Cache-Control', 'no-cache');
    response.type('application/octet-stream').send(chart.body);
  });
  on(router, 'GET /waters/:water/log', async ({ request }) => {
    const water = await waterOf(pool, request);
    const [trips, readings, profiles] = await Promise.all([
      tripsOf(pool, water.id),
      readingsOfWater(pool, water.id),
      profilesOfWater(pool, water.id),
    ]);
    return { trips, readings, profiles };
  });
  on(router, 'GET /waters/:water/pulse', async ({ request, response }) => {
    response.setHeader('Cache-Control', 'no-store');
    return await pulseOf(pool, await waterOf(pool, request));
  });
  on(router, 'GET /waters/:water/contacts', async ({ request }) => {
    return await contactsOfWater(pool, (await waterOf(pool, request)).id);
  });
  on(router, 'GET /waters/:water/looks', async ({ request, response }) => {
    const { trips, deriving } = await jobs.looksOf(accountOf(request), await waterOf(pool, request));
    response.setHeader('X-Deriving', String(deriving));
    return trips.map(({ trip, looks, outside }) => ({ trip: trip.id, looks, outside: outside.length }));
  });
  // Fish and bites per rod-hour: for a log of stops and catches, where nothing was scanned.
  on(router, 'GET /waters/:water/rod-hours', async ({ request, response }) => {
    const water = await waterOf(pool, request);
    const known = await speciesOf(pool, water.id);
    const wanted = request.query.species === undefined ? null : findSpecies(String(request.query.species), known);
    response.setHeader('Cache-Control', 'no-store');
    return await rodHoursOf(pool, water, (name) => !wanted || (name !== null && findSpecies(name, known)?.name === wanted.name));
  });
  // The whole log as patterns are found from it: one answer, so that its parts belong together.
  on(router, 'GET /waters/:water/logbook', async ({ request, response }) => {
    const water = await waterOf(pool, request);
    response.setHeader('X-Deriving', String(await jobs.settleLooks(accountOf(request), water)));
    const stamp = await logbookStamp(pool, water);
    response.setHeader('ETag', `"${stamp}"`);
    response.setHeader('Cache-Control', 'no-cache');
    if (request.fresh) return void response.status(304).end();
    const packed = await packedLogbook(pool, water, stamp);
    response.type('application/octet-stream');
    if (!request.acceptsEncodings('gzip')) return void response.send(gunzipSync(packed));
    response.setHeader('Content-Encoding', 'gzip');
    response.send(packed);
  });
  on(router, 'GET /waters/:water/looked-at', async ({ request, response }) => {
    const water = await waterOf(pool, request);
    response.setHeader('X-Deriving', String(await jobs.settleLooks(accountOf(request), water)));
    const running = (await tripsOf(pool, water.id)).filter((t) => t.end === null).map((t) => t.id);
    return {
      ...(await waterLookedAt(pool, water, await logbookStamp(pool, water))),
      running: await looksOfTrips(pool, running),
    };
  });
  return router;
}
