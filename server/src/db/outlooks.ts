import type { Outlook } from '@restless-shoal/core/forecast';
import type { Queryable } from './pool';

/** A stored forecast with the trip that it was shown on. */
export interface OutlookRow {
  id: string;
  trip_id: string;
  species: string;
  made_at: string;
  body: Outlook;
}

/** Keeps a forecast as it was shown on a trip; the first of each species stands. */
export const keepOutlook = async (db: Queryable, id: string, trip: string, outlook: Outlook): Promise<void> => {
  await db.query('INSERT INTO outlooks (id, trip_id, species, made_at, body) VALUES ($1, $2, $3, $4, $5) ON CONFLICT DO NOTHING', [
    id,
    trip,
    outlook.species,
    new Date(outlook.at),
    JSON.stringify(outlook),
  ]);
};

/** The stored forecasts of a water's trips that have ended, newest first. */
export const outlooksOf = async (db: Queryable, water: string): Promise<OutlookRow[]> =>
  (
    await db.query<OutlookRow>(
      `SELECT o.* FROM outlooks o JOIN trips t ON t.id = o.trip_id
        WHERE t.water_id = $1 AND t.deleted_at IS NULL AND t."end" IS NOT NULL ORDER BY o.made_at DESC LIMIT 60`,
      [water],
    )
  ).rows;
