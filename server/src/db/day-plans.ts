import type { DayPlan } from '@restless-shoal/core/contract';
import type { Queryable } from './pool';

/** The plan of a water's day; none while nobody made one. */
export const dayPlanOf = async (db: Queryable, water: string): Promise<DayPlan[]> =>
  (await db.query<{ plan: DayPlan }>('SELECT plan FROM day_plans WHERE water_id = $1', [water])).rows.map((r) => r.plan);

/** Keeps a plan unless one made later is there. @returns whether it did */
export const keepDayPlan = async (db: Queryable, water: string, plan: DayPlan): Promise<boolean> =>
  ((
    await db.query(
      `INSERT INTO day_plans (water_id, made_at, plan) VALUES ($1, $2, $3)
       ON CONFLICT (water_id) DO UPDATE SET made_at = excluded.made_at, plan = excluded.plan WHERE day_plans.made_at < excluded.made_at`,
      [water, new Date(plan.made), JSON.stringify(plan)],
    )
  ).rowCount ?? 0) > 0;

export const dropDayPlan = async (db: Queryable, water: string): Promise<boolean> =>
  ((await db.query('DELETE FROM day_plans WHERE water_id = $1', [water])).rowCount ?? 0) > 0;
