import { newId } from '@restless-shoal/core/logbook';
import type { KnownPlace, PartMapping } from '@restless-shoal/core/tables';
import type { Queryable } from './pool';

/** Spots of a water by name, and what on its map has a name. */
export const placesOf = async (db: Queryable, water: string): Promise<KnownPlace[]> =>
  (
    await db.query<KnownPlace>(
      `SELECT name, latitude, longitude FROM spots WHERE water_id = $1 AND deleted_at IS NULL
       UNION ALL SELECT name, (geometry->'coordinates'->>1)::float8, (geometry->'coordinates'->>0)::float8 FROM covers
        WHERE water_id = $1 AND name IS NOT NULL AND geometry->>'type' = 'Point'`,
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
