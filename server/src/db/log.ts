import type { Pulse } from '@restless-shoal/core/contract';
import type { Contact, ProfileRow, Reading, Response, Stop, TrackFix, Trip } from '@restless-shoal/core/logbook';
import type { Queryable } from './pool';

export interface TripRow {
  id: string;
  water_id: string;
  trip: string;
  start: string;
  end: string | null;
  purpose: Trip['purpose'];
  goal: Trip['goal'];
  crew: string | null;
  boat: string | null;
  weigh_in: string | null;
  bag: number | null;
  least_length_m: number | null;
  notes: string | null;
  version: number;
  changed_at: string;
}

export const tripsOf = async (db: Queryable, water: string): Promise<TripRow[]> =>
  (await db.query<TripRow>('SELECT * FROM trips WHERE water_id = $1 AND deleted_at IS NULL ORDER BY start, trip', [water])).rows;

/** A trip of the account, or null. */
export const tripById = async (db: Queryable, account: string, id: string): Promise<TripRow | null> =>
  (
    await db.query<TripRow>(
      'SELECT t.* FROM trips t JOIN waters w ON w.id = t.water_id WHERE t.id = $1 AND w.account_id = $2 AND t.deleted_at IS NULL AND w.deleted_at IS NULL',
      [id, account],
    )
  ).rows[0] ?? null;

/** Trips of an account that run, on whatever water. */
export const runningTrips = async (
  db: Queryable,
  account: string,
): Promise<{ id: string; trip: string; water_id: string; water: string }[]> =>
  (
    await db.query(
      `SELECT t.id, t.trip, w.id AS water_id, w.name AS water FROM trips t JOIN waters w ON w.id = t.water_id
        WHERE w.account_id = $1 AND t."end" IS NULL AND t.deleted_at IS NULL AND w.deleted_at IS NULL ORDER BY t.start DESC`,
      [account],
    )
  ).rows;

export async function pulseOf(db: Queryable, water: { id: string; version: number }): Promise<Pulse> {
  const { rows } = await db.query<{ n: number; last: string | null; running: Pulse['running'] | null; chart: number | null }>(
    `SELECT count(*) AS n, max(changed_at) AS last,
            json_agg(json_build_object('id', id, 'changed_at', changed_at)) FILTER (WHERE "end" IS NULL AND deleted_at IS NULL) AS running,
            (SELECT max(id) FROM charts WHERE water_id = $1) AS chart
       FROM trips WHERE water_id = $1`,
    [water.id],
  );
  const [{ n, last, running, chart }] = rows;
  return { log: `${n} ${last}`, running: running ?? [], chart, water: water.version };
}

/** Everything in a trip changes its stamp, so that looks and fits know. */
export const touchTrips = async (db: Queryable, ids: string[]): Promise<void> => {
  await db.query('UPDATE trips SET changed_at = clock_timestamp(), version = version + 1 WHERE id = ANY($1)', [ids]);
};

/** Rows of one record of a trip, as the exchange format has them, oldest first. */
async function ofTrip<T>(db: Queryable, table: string, trip: string, order: string): Promise<T[]> {
  return (
    await db.query(
      `SELECT r.*, t.trip FROM ${table} r JOIN trips t ON t.id = r.trip_id WHERE r.trip_id = $1 AND r.deleted_at IS NULL ORDER BY ${order}`,
      [trip],
    )
  ).rows as T[];
}

export const trackOf = (db: Queryable, trip: string): Promise<TrackFix[]> => ofTrip(db, 'track', trip, 'r.time');
export const stopsOf = (db: Queryable, trip: string): Promise<(Stop & { id: string })[]> => ofTrip(db, 'stops', trip, 'r.start, r.stop');
export const contactsOf = (db: Queryable, trip: string): Promise<(Contact & { id: string; trip_id: string })[]> =>
  ofTrip(db, 'contacts', trip, 'r.time, r.id');
export const responsesOf = (db: Queryable, trip: string): Promise<(Response & { id: string })[]> =>
  ofTrip(db, 'responses', trip, 'r.time, r.id');

async function ofWater<T>(db: Queryable, table: string, water: string, order: string): Promise<T[]> {
  return (
    await db.query(
      `SELECT r.*, t.trip FROM ${table} r JOIN trips t ON t.id = r.trip_id WHERE t.water_id = $1 AND t.deleted_at IS NULL AND r.deleted_at IS NULL ORDER BY ${order}`,
      [water],
    )
  ).rows as T[];
}

export const readingsOfWater = (db: Queryable, water: string): Promise<(Reading & { id: string; trip_id: string })[]> =>
  ofWater(db, 'conditions', water, 'r.time');
export const profilesOfWater = (db: Queryable, water: string): Promise<ProfileRow[]> =>
  ofWater(db, 'profiles', water, 'r.time, r.profile, r.depth_m');
export const contactsOfWater = (db: Queryable, water: string): Promise<(Contact & { id: string; trip_id: string })[]> =>
  ofWater(db, 'contacts', water, 'r.time, r.id');
export const stopsOfWater = (db: Queryable, water: string): Promise<(Stop & { id: string; trip_id: string })[]> =>
  ofWater(db, 'stops', water, 'r.start, r.stop');
export const responsesOfWater = (db: Queryable, water: string): Promise<(Response & { id: string; trip_id: string })[]> =>
  ofWater(db, 'responses', water, 'r.time, r.id');
