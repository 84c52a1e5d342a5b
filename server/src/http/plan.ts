import { Router } from 'express';
import { schemas } from '@restless-shoal/core/logbook';
import { dayPlanOf, dropDayPlan, keepDayPlan } from '../db/day-plans';
import { addToPlan, planOf, takeOffPlan } from '../db/plan';
import type { Pool } from '../db/pool';
import { notFound } from './errors';
import { on } from './on';
import { waterOf } from './waters';

/** Places to go to, and the plan of the day. */
export function planRoutes(pool: Pool): Router {
  const router = Router();
  on(router, 'GET /waters/:water/plan', async ({ request }) => {
    return await planOf(pool, (await waterOf(pool, request)).id);
  });
  on(router, 'POST /waters/:water/plan', async ({ request, body }) => {
    const water = await waterOf(pool, request);
    await addToPlan(
      pool,
      water.id,
      body.places.map((p) => ({ ...p, words: p.words ?? null, depth_m: p.depth_m ?? null })),
    );
    return { done: 'added' };
  });
  on(router, 'DELETE /waters/:water/plan/:place', async ({ request }) => {
    const water = await waterOf(pool, request);
    const id = String(request.params.place);
    if (!(await schemas.id.isValid(id))) throw notFound('place');
    // Sent again by a device that did not hear the answer, it changes nothing.
    return { done: (await takeOffPlan(pool, water.id, id)) ? 'taken off' : 'same' };
  });
  on(router, 'GET /waters/:water/day-plan', async ({ request }) => dayPlanOf(pool, (await waterOf(pool, request)).id));
  on(router, 'PUT /waters/:water/day-plan', async ({ request, body }) => {
    const water = await waterOf(pool, request);
    return { done: (await keepDayPlan(pool, water.id, body)) ? 'kept' : 'same' };
  });
  on(router, 'DELETE /waters/:water/day-plan', async ({ request }) => {
    const water = await waterOf(pool, request);
    return { done: (await dropDayPlan(pool, water.id)) ? 'dropped' : 'same' };
  });
  return router;
}
