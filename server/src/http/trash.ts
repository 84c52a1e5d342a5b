import { Router } from 'express';
import { schemas } from '@restless-shoal/core/logbook';
import type { Pool } from '../db/pool';
import { restoreWater, trashOf, TRASH_DAYS } from '../db/trash';
import { accountOf } from './account';
import { RequestError } from './errors';

/** What was deleted, and the way back of a water; records and trips are brought back where they were. */
export function trashRoutes(pool: Pool): Router {
  const router = Router();
  router.get('/trash', async (request, response) => {
    response.json({ days: TRASH_DAYS, items: await trashOf(pool, accountOf(request)) });
  });
  router.post('/waters/:water/restore', async (request, response) => {
    const id = String(request.params.water);
    const done = (await schemas.id.isValid(id)) ? await restoreWater(pool, accountOf(request), id) : 'same';
    if (done === 'taken') throw new RequestError(409, 'another water has this name now: rename that one first', 'name');
    response.json({ id, done });
  });
  return router;
}
