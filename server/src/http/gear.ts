import { Router, type Request } from 'express';
import { isId, type Row } from '@restless-shoal/core/logbook';
import { binGear, gearOf, putGear } from '../db/gear';
import type { Pool } from '../db/pool';
import { accountOf } from './account';
import { notFound, RequestError } from './errors';
import { on } from './on';

/** Rods, lures, rigs and boats. */
export function gearRoutes(pool: Pool): Router {
  const router = Router();
  const idOf = ({ params }: Request): string => {
    if (!isId(String(params.id))) throw notFound('piece of gear');
    return String(params.id).toLowerCase();
  };
  on(router, 'GET /gear', async ({ request }) => gearOf(pool, accountOf(request)));
  on(router, 'PUT /gear/:id', async ({ request, response, body }) => {
    const id = idOf(request);
    const done = await putGear(pool, accountOf(request), id, body as unknown as Row);
    if (done === 'taken') throw new RequestError('gear-taken', { kind: body.kind, name: body.name }, 'name');
    if (done === 'elsewhere') throw new RequestError('belongs-elsewhere', {}, 'id');
    if (done === 'added') response.status(201);
    return { id, done };
  });
  for (const [route, gone] of [
    ['DELETE /gear/:id', true],
    ['POST /gear/:id/restore', false],
  ] as const)
    on(router, route, async ({ request }) => {
      const id = idOf(request);
      const done = await binGear(pool, accountOf(request), id, gone);
      if (done === 'taken') throw new RequestError('name-taken-since', {}, 'name');
      return { id, done };
    });
  return router;
}
