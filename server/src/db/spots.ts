import type { Spot, SpotYield } from '@restless-shoal/core/contract';
import { newId } from '@restless-shoal/core/logbook';
import type { SpotStop } from '@restless-shoal/core/patterns';
import type { KnownPlace, PartMapping } from '@restless-shoal/core/tables';
import type { Queryable } from './pool';

/** Spots of a water by name, and what on its map has a name. */
export const placesOf = async (db: Queryable, water: string): Promise<KnownPlace[]> =>
  (
    await db.query<KnownPlace>(
      `SELECT name, latitude, longitude FROM spots WHERE water_id = $1 AND deleted_at IS NULL
       UNION ALL SELECT name, (geometry->'coordinates'->>1)::float8, (geometry->'coordinates'->>0)::float8 FROM covers
        WHERE water_id = $1 AND name IS NOT NULL AND source IS NULL AND geometry->>'type' = 'Point'`,
      [water],
    )
  ).rows;

/** Remembers where places lie. One that is known by its name is put where it is said to lie now. */
export async function rememberPlaces(db: Queryable, water: string, places: KnownPlace[]): Promise<void> {
  for (const { name, latitude, longitude } of places)
    await db.query(
      `INSERT INTO spots (id, water_id, name, latitude, longitude) VALUES ($1, $2, $3, $4, $5)
       ON CONFLICT (water_id, lower(name)) WHERE deleted_at IS NULL DO UPDATE SET latitude = EXCLUDED.latitude, longitude = EXCLUDED.longitude`,
      [newId(), water, name.trim(), latitude, longitude],
    );
}

/** How parts that look like these were read before, by their signatures. */
export async function rememberedMappings(db: Queryable, account: string, signatures: string[]): Promise<Map<string, PartMapping>> {
  const { rows } = await db.query<{ signature: string; mapping: PartMapping }>(
    'SELECT signature, mapping FROM import_mappings WHERE account_id = $1 AND signature = ANY($2)',
    [account, signatures],
  );
  return new Map(rows.map((r) => [r.signature, r.mapping]));
}

/** Remembers how parts were read. The day of a file without one is its own, and not remembered. */
export async function rememberMappings(db: Queryable, account: string, mappings: PartMapping[]): Promise<void> {
  for (const mapping of mappings)
    await db.query(
      `INSERT INTO import_mappings (account_id, signature, mapping) VALUES ($1, $2, $3)
       ON CONFLICT (account_id, signature) DO UPDATE SET mapping = EXCLUDED.mapping, used_at = now()`,
      [account, mapping.signature, JSON.stringify({ ...mapping, day: null })],
    );
}

/** A stop belongs to a spot within so many metres: a boat lies beside what it fishes. */
const REACH = 75;
const METRES_PER_DEGREE = 111_195;

/** Stops of a water within reach of its spots. @param $1 the water @param $2 metres to a degree @param $3 the reach squared, m² */
const NEAR = `
  SELECT p.id AS spot, s.stop, s.trip_id, s.start, extract(epoch FROM s."end" - s.start) / 60 AS minutes
    FROM spots p JOIN trips t ON t.water_id = p.water_id AND t.deleted_at IS NULL
    JOIN stops s ON s.trip_id = t.id AND s.deleted_at IS NULL
   WHERE p.water_id = $1 AND p.deleted_at IS NULL
     AND power((s.latitude - p.latitude) * $2, 2) + power((s.longitude - p.longitude) * $2 * cos(radians(p.latitude)), 2) <= $3`;
/** What fish did at them. */
const STOP_FISH = `
  SELECT n.spot, n.trip_id, n.start, n.minutes,
         count(r.id) FILTER (WHERE r.response IN ('struck', 'landed', 'lost')) AS bites, count(r.id) FILTER (WHERE r.response = 'landed') AS landed
    FROM near n LEFT JOIN responses r ON r.trip_id = n.trip_id AND r.stop = n.stop AND r.deleted_at IS NULL
   WHERE n.minutes > 0 GROUP BY n.spot, n.trip_id, n.stop, n.start, n.minutes`;

/** Stops at a spot, the first first, with what was read of the water on their trips nearest in time. */
export async function stopsAt(db: Queryable, water: string, spot: string): Promise<SpotStop[]> {
  const read = ['surface_temperature_c', 'secchi_m', 'wind_speed_ms', 'wind_from_deg'];
  const nearest = (column: string): string =>
    `(SELECT c.${column} FROM conditions c WHERE c.trip_id = f.trip_id AND c.deleted_at IS NULL AND c.${column} IS NOT NULL
       ORDER BY abs(extract(epoch FROM c.time - f.start)), c.time LIMIT 1) AS ${column}`;
  return (
    await db.query<SpotStop>(
      `WITH near AS (${NEAR} AND p.id = $4), fish AS (${STOP_FISH})
       SELECT f.start, f.minutes::float8 AS minutes, f.bites::integer AS bites, f.landed::integer AS landed, ${read.map(nearest).join(', ')}
         FROM fish f ORDER BY f.start`,
      [water, METRES_PER_DEGREE, REACH ** 2, spot],
    )
  ).rows;
}

/** The spots of a water by name, with what was fished and landed within their reach. */
export async function spotsOf(db: Queryable, water: string): Promise<SpotYield[]> {
  const { rows } = await db.query<SpotYield>(
    `WITH near AS (${NEAR}),
     stop_fish AS (
       SELECT *, extract(month FROM start AT TIME ZONE 'UTC')::integer AS month FROM (${STOP_FISH}) f),
     months AS (
       SELECT spot, month, count(*)::integer AS stops, sum(minutes)::float8 AS minutes, sum(bites)::integer AS bites, sum(landed)::integer AS landed
         FROM stop_fish GROUP BY 1, 2),
     fish AS (
       SELECT n.spot, coalesce(r.species, '') AS species, count(*) FILTER (WHERE r.response IN ('struck', 'landed', 'lost')) AS bites,
              count(*) FILTER (WHERE r.response = 'landed') AS landed
         FROM near n JOIN responses r ON r.trip_id = n.trip_id AND r.stop = n.stop AND r.deleted_at IS NULL GROUP BY 1, 2)
     SELECT p.id, p.name, p.latitude, p.longitude, p.notes,
            (SELECT count(*)::integer FROM near n WHERE n.spot = p.id AND n.minutes > 0) AS stops,
            (SELECT coalesce(sum(n.minutes), 0)::float8 FROM near n WHERE n.spot = p.id) AS minutes,
            (SELECT coalesce(sum(f.bites), 0)::integer FROM fish f WHERE f.spot = p.id) AS bites,
            (SELECT coalesce(json_agg(json_build_array(f.species, f.landed) ORDER BY f.landed DESC, f.species), '[]') FROM fish f WHERE f.spot = p.id AND f.landed > 0) AS landed,
            (SELECT max(n.start) FROM near n WHERE n.spot = p.id) AS last,
            (SELECT coalesce(json_agg(json_build_array(m.month, m.stops, m.minutes, m.bites, m.landed) ORDER BY m.month), '[]') FROM months m WHERE m.spot = p.id) AS months
       FROM spots p WHERE p.water_id = $1 AND p.deleted_at IS NULL ORDER BY lower(p.name)`,
    [water, METRES_PER_DEGREE, REACH ** 2],
  );
  return rows;
}

/** Adds a spot under its id, or changes it. @returns 'taken' where another spot of the water has its name, 'elsewhere' where another water has its id */
export async function putSpot(
  db: Queryable,
  water: string,
  { id, name, latitude, longitude, notes }: Spot,
): Promise<'added' | 'changed' | 'taken' | 'elsewhere'> {
  const { rows } = await db.query<{ id: string; water_id: string; name: string; deleted_at: string | null }>(
    'SELECT id, water_id, name, deleted_at FROM spots WHERE id = $1 OR (water_id = $2 AND lower(name) = lower($3) AND deleted_at IS NULL)',
    [id, water, name],
  );
  const own = rows.find((r) => r.id === id);
  if (own && own.water_id !== water) return 'elsewhere';
  if (rows.some((r) => r.id !== id)) return 'taken';
  await db.query(
    `INSERT INTO spots (id, water_id, name, latitude, longitude, notes) VALUES ($1, $2, $3, $4, $5, $6)
     ON CONFLICT (id) DO UPDATE SET name = EXCLUDED.name, latitude = EXCLUDED.latitude, longitude = EXCLUDED.longitude, notes = EXCLUDED.notes`,
    [id, water, name, latitude, longitude, notes],
  );
  // Photos name the spot that they show.
  if (own && own.name !== name)
    await db.query('UPDATE photos p SET spot = $3 FROM trips t WHERE t.id = p.trip_id AND t.water_id = $1 AND p.spot = $2', [
      water,
      own.name,
      name,
    ]);
  return own ? 'changed' : 'added';
}

/** Puts a spot into the trash, or takes it out. @returns 'taken' where another has its name meanwhile */
export async function binSpot(db: Queryable, water: string, id: string, gone: boolean): Promise<'deleted' | 'restored' | 'same' | 'taken'> {
  if (!gone) {
    const other = await db.query(
      `SELECT 1 FROM spots s JOIN spots o ON o.water_id = s.water_id AND lower(o.name) = lower(s.name) AND o.id <> s.id AND o.deleted_at IS NULL
        WHERE s.id = $1 AND s.water_id = $2`,
      [id, water],
    );
    if (other.rowCount) return 'taken';
  }
  const { rowCount } = await db.query(
    `UPDATE spots SET deleted_at = ${gone ? 'now()' : 'NULL'} WHERE id = $1 AND water_id = $2 AND (deleted_at IS NULL) = $3`,
    [id, water, gone],
  );
  return rowCount ? (gone ? 'deleted' : 'restored') : 'same';
}
