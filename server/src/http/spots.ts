import { Router, type Request } from 'express';
import { schemas } from '@restless-shoal/core/logbook';
import type { Pool } from '../db/pool';
import { binSpot, putSpot, spotsOf, stopsAt } from '../db/spots';
import { notFound, RequestError } from './errors';
import { on } from './on';
import { waterOf } from './waters';

/** Named places of a water. */
export function spotRoutes(pool: Pool): Router {
  const router = Router();
  const idOf = async ({ params }: Request): Promise<string> => {
    const id = String(params.spot);
    if (!(await schemas.id.isValid(id))) throw notFound('spot');
    return id.toLowerCase();
  };
  on(router, 'GET /waters/:water/spots', async ({ request }) => spotsOf(pool, (await waterOf(pool, request)).id));
  on(router, 'GET /waters/:water/spots/:spot/stops', async ({ request }) =>
    stopsAt(pool, (await waterOf(pool, request)).id, await idOf(request)),
  );
  on(router, 'PUT /waters/:water/spots/:spot', async ({ request, body }) => {
    const [water, id] = [await waterOf(pool, request), await idOf(request)];
    const done = await putSpot(pool, water.id, { ...body, id, notes: body.notes ?? null });
    if (done === 'taken') throw new RequestError('spot-taken', { name: body.name }, 'name');
    if (done === 'elsewhere') throw new RequestError('belongs-elsewhere', {}, 'id');
    return { done };
  });
  for (const [route, gone] of [
    ['DELETE /waters/:water/spots/:spot', true],
    ['POST /waters/:water/spots/:spot/restore', false],
  ] as const)
    on(router, route, async ({ request }) => {
      const [water, id] = [await waterOf(pool, request), await idOf(request)];
      const done = await binSpot(pool, water.id, id, gone);
      if (done === 'taken') throw new RequestError('name-taken-since', {}, 'name');
      return { done };
    });
  return router;
}
