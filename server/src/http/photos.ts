import express, { Router, type Request } from 'express';
import { isId } from '@restless-shoal/core/logbook';
import { photosOfWater, pictureOf, putPicture } from '../db/photos';
import type { Pool } from '../db/pool';
import { keepPicture } from '../photos';
import { notFound, RequestError } from './errors';
import { on } from './on';
import { tripOf } from './trips';
import { waterOf } from './waters';

/** The largest picture that is taken. */
const LARGEST = '25mb';

/** The pictures of photos; the photos themselves are records of their trip. */
export function photoRoutes(pool: Pool): Router {
  const router = Router();
  const idOf = ({ params }: Request): string => {
    if (!isId(String(params.id))) throw notFound('photo');
    return String(params.id).toLowerCase();
  };
  on(router, 'GET /waters/:water/photos', async ({ request }) => photosOfWater(pool, (await waterOf(pool, request)).id));
  router.put('/trips/:trip/photos/:id/picture', (request, _response, next) => {
    if (!request.is('application/octet-stream')) throw new RequestError('upload-not-bytes');
    next();
  });
  router.put('/trips/:trip/photos/:id/picture', express.raw({ type: 'application/octet-stream', limit: LARGEST }));
  on(router, 'PUT /trips/:trip/photos/:id/picture', async ({ request }) => {
    const [trip, id] = [await tripOf(pool, request), idOf(request)];
    if (!(await pool.query('SELECT 1 FROM photos WHERE id = $1 AND trip_id = $2', [id, trip.id])).rowCount) throw notFound('photo');
    if (!Buffer.isBuffer(request.body)) throw new RequestError('picture-unreadable');
    const kept = await keepPicture(request.body);
    await putPicture(pool, id, kept);
    return { bytes: kept.picture.length, width: kept.width, height: kept.height };
  });
  on(router, 'GET /trips/:trip/photos/:id/picture', async ({ request, response }) => {
    const [trip, id] = [await tripOf(pool, request), idOf(request)];
    const bytes = await pictureOf(pool, trip.id, id, request.query.size === 'small');
    if (!bytes) throw notFound('picture');
    // A picture under an id stays as it is, or is put in its place rarely.
    response.setHeader('Cache-Control', 'private, max-age=604800');
    response.type('image/jpeg').send(bytes);
  });
  return router;
}
