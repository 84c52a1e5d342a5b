import { Router } from 'express';
import { array, number, object, string } from 'yup';
import { schemas } from '@restless-shoal/core/logbook';
import { addToPlan, planOf, takeOffPlan, type PlanPlace } from '../db/plan';
import type { Pool } from '../db/pool';
import { notFound } from './errors';
import { waterOf } from './waters';

const coordinate = (most: number) =>
  number()
    .strict()
    .typeError('must be a number')
    .min(-most, `must be from −${most} to ${most}`)
    .max(most, `must be from −${most} to ${most}`);

const planRequest = object({
  places: array(
    object({
      id: schemas.id,
      name: string()
        .strict()
        .typeError('must be text')
        .trim()
        .min(1, 'is missing')
        .max(120, 'is longer than 120 characters')
        .required('is missing'),
      words: string().strict().typeError('must be text').max(500, 'is longer than 500 characters').nullable().default(null),
      latitude: coordinate(90).required('is missing'),
      longitude: coordinate(180).required('is missing'),
      depth_m: number()
        .strict()
        .typeError('must be a number')
        .min(0, 'must be from 0 to 2000')
        .max(2000, 'must be from 0 to 2000')
        .nullable()
        .default(null),
    })
      .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
      .strict(),
  )
    .min(1, 'names no place')
    .max(200, 'names more than 200 places')
    .required('is missing'),
})
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

/** The plan: places to go to. */
export function planRoutes(pool: Pool): Router {
  const router = Router();
  router.get('/waters/:water/plan', async (request, response) => {
    response.json(await planOf(pool, (await waterOf(pool, request)).id));
  });
  router.post('/waters/:water/plan', async (request, response) => {
    const water = await waterOf(pool, request);
    const { places } = (await planRequest.validate(request.body)) as { places: Omit<PlanPlace, 'added_at'>[] };
    await addToPlan(
      pool,
      water.id,
      places.map((p) => ({ ...p, words: p.words ?? null, depth_m: p.depth_m ?? null })),
    );
    response.status(201).json({ done: 'added' });
  });
  router.delete('/waters/:water/plan/:place', async (request, response) => {
    const water = await waterOf(pool, request);
    const id = String(request.params.place);
    if (!(await schemas.id.isValid(id)) || !(await takeOffPlan(pool, water.id, id))) throw notFound('place');
    response.json({ done: 'taken off' });
  });
  return router;
}
