import type { PlanPlace } from '@restless-shoal/core/contract';
import type { Queryable } from './pool';

type StoredPlace = PlanPlace & { added_at: string };

const COLUMNS = 'id, name, words, latitude, longitude, depth_m, added_at';

/** The places on a water's plan, in the order in which they were put there. */
export const planOf = async (db: Queryable, water: string): Promise<StoredPlace[]> =>
  (
    await db.query<StoredPlace>(`SELECT ${COLUMNS} FROM plan_places WHERE water_id = $1 AND deleted_at IS NULL ORDER BY added_at, id`, [
      water,
    ])
  ).rows;

/** Puts places on a plan; one that is there already stays as it is. */
export const addToPlan = async (db: Queryable, water: string, places: PlanPlace[]): Promise<void> => {
  for (const p of places)
    await db.query(
      'INSERT INTO plan_places (id, water_id, name, words, latitude, longitude, depth_m) VALUES ($1, $2, $3, $4, $5, $6, $7) ON CONFLICT (id) DO NOTHING',
      [p.id, water, p.name, p.words, p.latitude, p.longitude, p.depth_m],
    );
};

/** Takes a place off a plan. @returns whether it was on it */
export const takeOffPlan = async (db: Queryable, water: string, id: string): Promise<boolean> =>
  ((await db.query('UPDATE plan_places SET deleted_at = now() WHERE water_id = $1 AND id = $2 AND deleted_at IS NULL', [water, id]))
    .rowCount ?? 0) > 0;
