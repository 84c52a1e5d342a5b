import { packChart, unpackChart, type Chart } from '@restless-shoal/core/chart';
import type { Pool, Queryable } from './pool';

export interface ChartRow {
  id: number;
  built_at: string;
  soundings: number;
  cells: number;
  deepest_m: number;
  body: Buffer;
}

export const latestChart = async (db: Queryable, water: string): Promise<ChartRow | null> =>
  (
    await db.query<ChartRow>(
      'SELECT id, built_at, soundings, cells, deepest_m, body FROM charts WHERE water_id = $1 ORDER BY id DESC LIMIT 1',
      [water],
    )
  ).rows[0] ?? null;

export const latestChartId = async (db: Queryable, water: string): Promise<number | null> =>
  (await db.query<{ id: number }>('SELECT id FROM charts WHERE water_id = $1 ORDER BY id DESC LIMIT 1', [water])).rows[0]?.id ?? null;

export async function loadChart(db: Queryable, water: string): Promise<(Chart & { id: number }) | null> {
  const row = await latestChart(db, water);
  return row && { id: row.id, ...unpackChart(row.body) };
}

/** Stores a build and drops the ones before it. */
export async function storeChart(pool: Pool, water: string, chart: Chart): Promise<number> {
  const result = await pool.query<{ id: number }>(
    'INSERT INTO charts (water_id, soundings, cells, deepest_m, body) VALUES ($1, $2, $3, $4, $5) RETURNING id',
    [water, chart.soundings, chart.cells.count, chart.deepest, Buffer.from(packChart(chart))],
  );
  await pool.query('DELETE FROM charts WHERE water_id = $1 AND id < $2', [water, result.rows[0].id]);
  return result.rows[0].id;
}

/** All soundings of a water as columns. */
export async function soundingColumns(
  db: Queryable,
  water: string,
): Promise<{ latitude: Float64Array; longitude: Float64Array; depth: Float32Array; hardness: Float32Array }> {
  const { rows } = await db.query<{ latitude: number; longitude: number; depth_m: number; hardness: number | null }>(
    'SELECT latitude, longitude, depth_m, hardness FROM soundings WHERE water_id = $1',
    [water],
  );
  return {
    latitude: Float64Array.from(rows, (r) => r.latitude),
    longitude: Float64Array.from(rows, (r) => r.longitude),
    depth: Float32Array.from(rows, (r) => r.depth_m),
    hardness: Float32Array.from(rows, (r) => r.hardness ?? NaN),
  };
}
