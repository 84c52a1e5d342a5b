import { unpackChart, type Chart } from '@restless-shoal/core/chart';
import { transaction, type Pool, type Queryable } from './pool';

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

/**
 * Stores a build and drops the ones before it, in one transaction: until then the old chart stands.
 * @param madeFor the water's `chart_wanted` when the build began @param code by which it was built
 */
export async function storeChart(
  pool: Pool,
  water: string,
  chart: Chart,
  body: Uint8Array,
  madeFor: number,
  code: string,
): Promise<number> {
  return transaction(pool, async (client) => {
    const result = await client.query<{ id: number }>(
      'INSERT INTO charts (water_id, soundings, cells, deepest_m, body, made_for, code) VALUES ($1, $2, $3, $4, $5, $6, $7) RETURNING id',
      [water, chart.soundings, chart.cells.count, chart.deepest, Buffer.from(body.buffer, body.byteOffset, body.byteLength), madeFor, code],
    );
    await client.query('DELETE FROM charts WHERE water_id = $1 AND id < $2', [water, result.rows[0].id]);
    return result.rows[0].id;
  });
}

/** Says that what a water's chart is made from has changed. */
export const wantChart = async (db: Queryable, water: string): Promise<void> => {
  await db.query('UPDATE waters SET chart_wanted = chart_wanted + 1 WHERE id = $1', [water]);
};

/** Waters of an account whose chart is out of date, was built by other code, or is missing. */
export const watersWantingCharts = async (db: Queryable, account: string, code: string): Promise<string[]> =>
  (
    await db.query<{ id: string }>(
      `SELECT w.id FROM waters w WHERE w.account_id = $1 AND w.deleted_at IS NULL
          AND w.chart_wanted > coalesce((SELECT max(c.made_for) FROM charts c WHERE c.water_id = w.id AND c.code = $2), -1)
          AND (w.outline IS NOT NULL OR EXISTS (SELECT 1 FROM soundings s WHERE s.water_id = w.id))`,
      [account, code],
    )
  ).rows.map((r) => r.id);
