import type { TrashItem } from '@restless-shoal/core/contract';
import type { Queryable } from './pool';

/** How long what was deleted can be brought back, days. */
export const TRASH_DAYS = 90;

/**
 * What lies in the trash of an account, what was deleted last first. What lies in a trip or a water that was deleted as
 * a whole comes back with it, and is not listed by itself.
 */
export async function trashOf(db: Queryable, account: string): Promise<TrashItem[]> {
  const record = (what: string, table: string, time: string, kind: string, species: string, count: string): string =>
    `SELECT '${what}' AS what, r.id, w.id AS water_id, w.name AS water, t.id AS trip_id, t.trip, r.${time} AS time, r.deleted_at, w.time_zone,
            ${kind} AS kind, ${species} AS species, ${count} AS count, NULL::bigint AS trips, NULL::bigint AS marks, NULL::bigint AS stops
       FROM ${table} r JOIN trips t ON t.id = r.trip_id JOIN waters w ON w.id = t.water_id
      WHERE w.account_id = $1 AND r.deleted_at IS NOT NULL AND t.deleted_at IS NULL AND w.deleted_at IS NULL`;
  const { rows } = await db.query<TrashItem>(
    `${record('contact', 'contacts', 'time', 'r.kind', 'r.species', 'r.count')}
     UNION ALL ${record('stop', 'stops', 'start', 'r.outcome', 'NULL', 'NULL')}
     UNION ALL ${record('response', 'responses', 'time', 'r.response', 'r.species', 'NULL')}
     UNION ALL ${record('reading', 'conditions', 'time', 'NULL', 'NULL', 'NULL')}
     UNION ALL ${record('photo', 'photos', 'time', 'r.shows', 'NULL', 'NULL')}
     UNION ALL SELECT 'gear', g.id, NULL, NULL, NULL, NULL, NULL, g.deleted_at, NULL, g.name, NULL, NULL, NULL, NULL, NULL
       FROM gear g WHERE g.account_id = $1 AND g.deleted_at IS NOT NULL
     UNION ALL SELECT 'spot', s.id, w.id, w.name, NULL, NULL, NULL, s.deleted_at, w.time_zone, s.name, NULL, NULL, NULL, NULL, NULL
       FROM spots s JOIN waters w ON w.id = s.water_id WHERE w.account_id = $1 AND s.deleted_at IS NOT NULL AND w.deleted_at IS NULL
     UNION ALL SELECT 'trip', t.id, w.id, w.name, t.id, t.trip, t.start, t.deleted_at, w.time_zone, t.purpose, NULL, NULL, NULL,
            (SELECT count(*) FROM contacts c WHERE c.trip_id = t.id AND c.deleted_at IS NULL),
            (SELECT count(*) FROM stops s WHERE s.trip_id = t.id AND s.deleted_at IS NULL)
       FROM trips t JOIN waters w ON w.id = t.water_id WHERE w.account_id = $1 AND t.deleted_at IS NOT NULL AND w.deleted_at IS NULL
     UNION ALL SELECT 'water', w.id, w.id, w.name, NULL, NULL, NULL, w.deleted_at, w.time_zone, w.kind, NULL, NULL,
            (SELECT count(*) FROM trips t WHERE t.water_id = w.id AND t.deleted_at IS NULL),
            (SELECT count(*) FROM contacts c JOIN trips t ON t.id = c.trip_id WHERE t.water_id = w.id AND c.deleted_at IS NULL AND t.deleted_at IS NULL), NULL
       FROM waters w WHERE w.account_id = $1 AND w.deleted_at IS NOT NULL
     ORDER BY deleted_at DESC, id LIMIT 2000`,
    [account],
  );
  return rows;
}

/** Brings back a water. @returns 'taken' when another water has its name meanwhile, 'same' when it does not lie in the trash */
export async function restoreWater(db: Queryable, account: string, id: string): Promise<'restored' | 'same' | 'taken'> {
  const { rows } = await db.query<{ name: string }>(
    'SELECT name FROM waters WHERE account_id = $1 AND id = $2 AND deleted_at IS NOT NULL',
    [account, id],
  );
  if (!rows.length) return 'same';
  const other = await db.query('SELECT 1 FROM waters WHERE account_id = $1 AND lower(name) = lower($2) AND deleted_at IS NULL', [
    account,
    rows[0].name,
  ]);
  if (other.rowCount) return 'taken';
  await db.query('UPDATE waters SET deleted_at = NULL, changed_at = now() WHERE id = $1', [id]);
  return 'restored';
}

/** Records of a trip, those that point at nothing else first. */
const OF_TRIP = [
  'changes',
  'trip_lines',
  'outlooks',
  'looks',
  'photos',
  'responses',
  'contacts',
  'stops',
  'track',
  'profiles',
  'conditions',
];
const OF_WATER = ['plan_places', 'day_plans', 'spots', 'models', 'charts', 'covers', 'soundings', 'surveys', 'species', 'job_progress'];

/** Deletes for good what has lain in the trash for longer than it is kept. @returns how many records went by themselves */
export async function emptyTrash(db: Queryable): Promise<number> {
  const old = `deleted_at < now() - interval '${TRASH_DAYS} days'`;
  const gone = (alias: string): string =>
    `${alias}.trip_id IN (SELECT t.id FROM trips t JOIN waters w ON w.id = t.water_id WHERE t.${old} OR w.${old})`;
  await db.query(`DELETE FROM photo_files f USING photos r WHERE r.id = f.photo_id AND (r.${old} OR ${gone('r')})`);
  for (const table of OF_TRIP) await db.query(`DELETE FROM ${table} r WHERE ${gone('r')}`);
  await db.query(`DELETE FROM trips t USING waters w WHERE w.id = t.water_id AND (t.${old} OR w.${old})`);
  for (const table of OF_WATER) await db.query(`DELETE FROM ${table} r USING waters w WHERE w.id = r.water_id AND w.${old}`);
  await db.query(`DELETE FROM waters w WHERE w.${old}`);
  let records = 0;
  for (const table of ['photos', 'responses', 'contacts', 'stops', 'track', 'profiles', 'conditions', 'spots', 'gear'])
    records += (await db.query(`DELETE FROM ${table} WHERE ${old}`)).rowCount ?? 0;
  return records;
}
