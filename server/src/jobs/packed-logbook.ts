import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import { lookedAt, type LookedAt } from '@restless-shoal/core/forecast';
import { packLogbook } from '@restless-shoal/core/patterns';
import { contactsOfWater, responsesOfWater, stopsOfWater } from '../db/log';
import type { Pool } from '../db/pool';
import type { WaterRow } from '../db/waters';
import { digestOf } from './derivations';
import { keptLooks } from './looks';

/** What changes whenever anything of the log or of its looks does, told without reading a record. */
export async function logbookStamp(pool: Pool, water: WaterRow): Promise<string> {
  const { rows } = await pool.query<{ stamps: string | null }>(
    `SELECT md5(string_agg(concat_ws(' ', t.id, t.changed_at, (SELECT l.stamp FROM looks l WHERE l.trip_id = t.id)), ',' ORDER BY t.id)) AS stamps
       FROM trips t WHERE t.water_id = $1 AND t.deleted_at IS NULL`,
    [water.id],
  );
  return digestOf('logbook', rows[0].stamps);
}

/** Packs the log anew where it has changed. @returns its stamp */
async function pack(pool: Pool, water: WaterRow, stamp: string): Promise<{ body: Buffer; lookedAt: LookedAt }> {
  const [trips, contacts, stops, responses] = await Promise.all([
    keptLooks(pool, water),
    contactsOfWater(pool, water.id),
    stopsOfWater(pool, water.id),
    responsesOfWater(pool, water.id),
  ]);
  const list = trips.map(({ trip, looks, outside }) => ({ id: trip.id, start: Date.parse(trip.start), looks, outside: outside.length }));
  const logbook = { trips: list, contacts, stops, responses } as unknown as Parameters<typeof packLogbook>[0];
  const body = await promisify(gzip)(packLogbook(logbook));
  const looked = lookedAt(list.flatMap((t) => t.looks));
  await pool.query(
    `INSERT INTO packed_logbooks (water_id, stamp, body, looked_at) VALUES ($1, $2, $3, $4)
       ON CONFLICT (water_id) DO UPDATE SET stamp = EXCLUDED.stamp, body = EXCLUDED.body, looked_at = EXCLUDED.looked_at`,
    [water.id, stamp, body, JSON.stringify(looked)],
  );
  return { body, lookedAt: looked };
}

/** The log of a water in columns, gzip. @param stamp of `logbookStamp` */
export async function packedLogbook(pool: Pool, water: WaterRow, stamp: string): Promise<Buffer> {
  const kept = await pool.query<{ body: Buffer }>('SELECT body FROM packed_logbooks WHERE water_id = $1 AND stamp = $2', [water.id, stamp]);
  return kept.rows[0]?.body ?? (await pack(pool, water, stamp)).body;
}

/** How often each cell of a water was looked at. @param stamp of `logbookStamp` */
export async function waterLookedAt(pool: Pool, water: WaterRow, stamp: string): Promise<LookedAt> {
  const kept = await pool.query<{ looked_at: LookedAt }>('SELECT looked_at FROM packed_logbooks WHERE water_id = $1 AND stamp = $2', [
    water.id,
    stamp,
  ]);
  return kept.rows[0]?.looked_at ?? (await pack(pool, water, stamp)).lookedAt;
}

/** Packs the log where that is not done yet, so that no page waits for it: it is work for a job. */
export const readyLogbook = async (pool: Pool, water: WaterRow): Promise<void> => {
  await packedLogbook(pool, water, await logbookStamp(pool, water));
};
