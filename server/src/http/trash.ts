import { Router } from 'express';
import { schemas } from '@restless-shoal/core/logbook';
import type { Pool } from '../db/pool';
import { restoreWater, trashOf, TRASH_DAYS } from '../db/trash';
import { accountOf } from './account';
import { RequestError } from './errors';
import { on } from './on';

/** What was deleted, and the way back of a water; records and trips are brought back where they were. */
export function trashRoutes(pool: Pool): Router {
  const router = Router();
  on(router, 'GET /trash', async ({ request }) => {
    return { days: TRASH_DAYS, items: await trashOf(pool, accountOf(request)) };
  });
  on(router, 'POST /waters/:water/restore', async ({ request }) => {
    const id = String(request.params.water);
    const done = (await schemas.id.isValid(id)) ? await restoreWater(pool, accountOf(request), id) : 'same';
    if (done === 'taken') throw new RequestError('name-taken-since', {}, 'name');
    return { id, done };
  });
  return router;
}
