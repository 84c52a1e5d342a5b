import type { Geometry } from 'geojson';
import { newId, type CoverFeature } from '@restless-shoal/core/logbook';
import type { CleanSettings } from '@restless-shoal/core/chart';
import { WATER_SETTINGS, type WaterFile } from '@restless-shoal/core/formats';
import { defaultSpecies, findSpecies, neutralProfile, type SpeciesProfile } from '@restless-shoal/core/species';
import type { TideRecord } from '@restless-shoal/core/tide';
import type { Queryable } from './pool';

export interface WaterRow {
  id: string;
  account_id: string;
  name: string;
  kind: string | null;
  datum: string | null;
  altitude_m: number | null;
  /** Where it lies, where no outline says so. */
  latitude: number | null;
  longitude: number | null;
  /** How deep it is at the most, as somebody said. */
  deepest_m: number | null;
  time_zone: string | null;
  epsg: number | null;
  outline: Geometry | null;
  outline_proposed: boolean;
  rules: unknown;
  forage: string[] | null;
  rigs: unknown;
  cleaning: CleanSettings | null;
  tide: TideRecord | null;
  chart_wanted: number;
  archived_at: string | null;
  deleted_at: string | null;
  version: number;
}

/** The account this installation works for: one, made at the first start. People and roles come later. */
export async function localAccount(db: Queryable): Promise<string> {
  const found = await db.query<{ id: string }>('SELECT id FROM accounts ORDER BY created_at, id LIMIT 1');
  if (found.rowCount) return found.rows[0].id;
  const id = newId();
  await db.query('INSERT INTO accounts (id, name) VALUES ($1, $2)', [id, 'This boat']);
  return id;
}

export const waterByName = async (db: Queryable, account: string, name: string): Promise<WaterRow | null> =>
  (
    await db.query<WaterRow>('SELECT * FROM waters WHERE account_id = $1 AND lower(name) = lower($2) AND deleted_at IS NULL', [
      account,
      name.trim(),
    ])
  ).rows[0] ?? null;

/** Whether there was such a water until it was deleted. */
export const liesInTrash = async (db: Queryable, id: string): Promise<boolean> =>
  Boolean((await db.query('SELECT 1 FROM waters WHERE id = $1 AND deleted_at IS NOT NULL', [id])).rowCount);

export const waterById = async (db: Queryable, account: string, id: string): Promise<WaterRow | null> =>
  (await db.query<WaterRow>('SELECT * FROM waters WHERE account_id = $1 AND id = $2 AND deleted_at IS NULL', [account, id])).rows[0] ??
  null;

export const listWaters = async (
  db: Queryable,
  account: string,
): Promise<(WaterRow & { trips: number; contacts: number; soundings: number | null })[]> =>
  (
    await db.query(
      `SELECT w.*, (SELECT count(*) FROM trips t WHERE t.water_id = w.id AND t.deleted_at IS NULL) AS trips,
              (SELECT count(*) FROM contacts c JOIN trips t ON t.id = c.trip_id WHERE t.water_id = w.id AND c.deleted_at IS NULL AND t.deleted_at IS NULL) AS contacts,
              (SELECT c.soundings FROM charts c WHERE c.water_id = w.id ORDER BY c.id DESC LIMIT 1) AS soundings
         FROM waters w WHERE w.account_id = $1 AND w.deleted_at IS NULL ORDER BY w.archived_at IS NOT NULL, w.name`,
      [account],
    )
  ).rows;

/** Makes a water with the shipped species. */
export async function createWater(db: Queryable, account: string, name: string, id: string = newId()): Promise<WaterRow> {
  const water = (
    await db.query<WaterRow>('INSERT INTO waters (id, account_id, name) VALUES ($1, $2, $3) RETURNING *', [id, account, name.trim()])
  ).rows[0];
  for (const profile of defaultSpecies)
    await db.query('INSERT INTO species (id, water_id, name, profile, local) VALUES ($1, $2, $3, $4, false)', [
      newId(),
      water.id,
      profile.name,
      profile,
    ]);
  return water;
}

/** What became of what is said of a water: it was known, it is new, it took the place of something else, or something else stays. */
const TOLD = ['same', 'added', 'changed', 'left'] as const;
export type Told = (typeof TOLD)[number];

/**
 * Sets what water.json says; what it leaves out stays.
 * @param over whether it takes the place of what was said before
 * @returns what became of it; of several things the last in the order of `Told`
 */
export async function describeWater(db: Queryable, id: string, file: WaterFile, over = true): Promise<Told> {
  let told: Told = 'same';
  for (const column of WATER_SETTINGS) {
    if (file[column] === undefined) continue;
    const json = ['rules', 'forage', 'rigs', 'cleaning', 'tide'].includes(column);
    const value = json && file[column] !== null ? JSON.stringify(file[column]) : file[column];
    const {
      rows: [{ same, unsaid }],
    } = await db.query<{ same: boolean; unsaid: boolean }>(
      `SELECT ${column} IS NOT DISTINCT FROM $2 AS same, ${column} IS NULL AS unsaid FROM waters WHERE id = $1`,
      [id, value],
    );
    const own: Told = same ? 'same' : unsaid ? 'added' : over ? 'changed' : 'left';
    if (own === 'added' || own === 'changed')
      await db.query(`UPDATE waters SET ${column} = $2, changed_at = now(), version = version + 1 WHERE id = $1`, [id, value]);
    if (TOLD.indexOf(own) > TOLD.indexOf(told)) told = own;
  }
  return told;
}

/**
 * Sets the outline of a water. A proposed one never takes the place of one that somebody drew, also not when it was
 * drawn while the proposal was being worked out.
 * @returns false when the outline was the same already, or a drawn one stays
 */
export async function setOutline(db: Queryable, id: string, outline: Geometry, epsg: number, proposed = false): Promise<boolean> {
  const changed = await db.query(
    `UPDATE waters SET outline = $2, epsg = $3, outline_proposed = $4, version = version + 1, changed_at = now()
      WHERE id = $1 AND (outline IS DISTINCT FROM $2 OR epsg IS DISTINCT FROM $3 OR outline_proposed IS DISTINCT FROM $4)
        AND (NOT $4 OR outline IS NULL OR outline_proposed)`,
    [id, JSON.stringify(outline), epsg, proposed],
  );
  return (changed.rowCount ?? 0) > 0;
}

/**
 * Takes an outline from a file. One that somebody drew stays, unless `over`; a proposed one gives way.
 * @returns what became of it
 */
export async function tellOutline(db: Queryable, water: WaterRow, outline: Geometry, epsg: number, over: boolean): Promise<Told> {
  const drawn = water.outline !== null && !water.outline_proposed;
  if (drawn && !over) {
    const { rows } = await db.query<{ same: boolean }>('SELECT outline = $2::jsonb AS same FROM waters WHERE id = $1', [
      water.id,
      JSON.stringify(outline),
    ]);
    return rows[0].same ? 'same' : 'left';
  }
  if (!(await setOutline(db, water.id, outline, epsg))) return 'same';
  return drawn ? 'changed' : 'added';
}

/** Gives a water another name. @returns false when another water has it */
export async function renameWater(db: Queryable, account: string, water: WaterRow, name: string): Promise<boolean> {
  if (water.name === name) return true;
  const other = await waterByName(db, account, name);
  if (other && other.id !== water.id) return false;
  await db.query('UPDATE waters SET name = $2, changed_at = now(), version = version + 1 WHERE id = $1 AND name <> $2', [
    water.id,
    name.trim(),
  ]);
  return true;
}

/** Puts a water aside, or takes it up again: its log stays whole. */
export const archiveWater = async (db: Queryable, id: string, archived: boolean): Promise<void> => {
  await db.query(`UPDATE waters SET archived_at = ${archived ? 'coalesce(archived_at, now())' : 'NULL'} WHERE id = $1`, [id]);
};

export const coverOf = async (db: Queryable, water: string): Promise<(CoverFeature & { id: number })[]> =>
  (
    await db.query<CoverFeature & { id: number }>(
      'SELECT id, kind, cover, name, height_m, speed_limit_ms, placed_on, source, within_m, geometry FROM covers WHERE water_id = $1 ORDER BY id',
      [water],
    )
  ).rows;

/** @returns how many were new */
export async function addCover(db: Queryable, water: string, features: CoverFeature[]): Promise<number> {
  if (!features.length) return 0;
  const result = await db.query(
    `INSERT INTO covers (water_id, kind, cover, name, height_m, speed_limit_ms, placed_on, source, within_m, geometry)
     SELECT $1, kind, cover, name, height_m, speed_limit_ms, placed_on, source, within_m, geometry
       FROM jsonb_to_recordset($2::jsonb) AS f(kind text, cover text, name text, height_m real, speed_limit_ms real, placed_on date, source text, within_m real, geometry jsonb) ON CONFLICT DO NOTHING`,
    [water, JSON.stringify(features)],
  );
  return result.rowCount ?? 0;
}

/** @returns whether there was such a thing */
export const removeCover = async (db: Queryable, water: string, id: number): Promise<boolean> =>
  ((await db.query('DELETE FROM covers WHERE water_id = $1 AND id = $2', [water, id])).rowCount ?? 0) > 0;

/** Takes away what somebody else sent. @returns whether there was any */
export const removeSentCover = async (db: Queryable, water: string, source: string): Promise<boolean> =>
  ((await db.query('DELETE FROM covers WHERE water_id = $1 AND source = $2', [water, source])).rowCount ?? 0) > 0;

/** What a water's copy of a shipped profile lacks because it was made by an earlier version, from the profile as it ships now. */
function withNewFields(own: SpeciesProfile, shipped: SpeciesProfile | undefined): SpeciesProfile {
  if (!shipped) return own;
  const depth = own.spawning?.depth ?? shipped.spawning?.depth;
  return { ...shipped, ...own, spawning: own.spawning && { ...own.spawning, ...(depth && { depth }) } };
}

/** The species of a water: its own copies of the shipped ones, those that ship since it was made, and its local ones. */
export async function speciesOf(db: Queryable, water: string): Promise<SpeciesProfile[]> {
  const { rows } = await db.query<{ profile: SpeciesProfile; local: boolean }>(
    'SELECT profile, local FROM species WHERE water_id = $1 ORDER BY local, name',
    [water],
  );
  const own = rows.map(({ profile }) => profile);
  const shipped = rows.flatMap(({ profile, local }) =>
    local
      ? []
      : [
          withNewFields(
            profile,
            defaultSpecies.find((s) => s.name === profile.name),
          ),
        ],
  );
  // A name that the water has a profile for already, under whatever name, does not come a second time.
  const since = defaultSpecies.filter((s) => !findSpecies(s.name, own));
  const byName = (a: SpeciesProfile, b: SpeciesProfile): number => (a.name < b.name ? -1 : 1);
  return [...[...shipped, ...since].sort(byName), ...rows.flatMap(({ profile, local }) => (local ? [profile] : []))];
}

/** Makes local species of names that no profile knows. @returns the new names */
export async function learnSpecies(db: Queryable, water: string, names: Iterable<string>): Promise<string[]> {
  const known = await speciesOf(db, water);
  const learned: string[] = [];
  for (const name of names) {
    if (findSpecies(name, known)) continue;
    const profile = neutralProfile(name.trim().toLowerCase());
    known.push(profile);
    await db.query('INSERT INTO species (id, water_id, name, profile) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING', [
      newId(),
      water,
      profile.name,
      profile,
    ]);
    learned.push(profile.name);
  }
  return learned;
}

/** Names of the species that a water's log holds, as their profiles have them, most seen first. */
export async function loggedSpecies(db: Queryable, water: string, known: SpeciesProfile[]): Promise<string[]> {
  const { rows } = await db.query<{ species: string; n: number }>(
    // The water's trips first: what others logged is not read.
    `SELECT species, count(*) AS n FROM (
       SELECT c.species FROM trips t JOIN contacts c ON c.trip_id = t.id
        WHERE t.water_id = $1 AND t.deleted_at IS NULL AND c.kind = 'fish' AND c.deleted_at IS NULL
       UNION ALL
       SELECT r.species FROM trips t JOIN responses r ON r.trip_id = t.id
        WHERE t.water_id = $1 AND t.deleted_at IS NULL AND r.contact IS NULL AND r.deleted_at IS NULL
     ) AS seen WHERE species IS NOT NULL
      GROUP BY species ORDER BY n DESC, species`,
    [water],
  );
  const seen = new Map<string, number>();
  for (const { species, n } of rows) {
    const name = findSpecies(species, known)?.name;
    if (name) seen.set(name, (seen.get(name) ?? 0) + Number(n));
  }
  return [...seen].sort((a, b) => b[1] - a[1]).map(([name]) => name);
}

/** Changes a water's own copy of a profile, or adds one. */
export async function editSpecies(db: Queryable, water: string, profile: SpeciesProfile): Promise<void> {
  await db.query(
    `INSERT INTO species (id, water_id, name, profile, local) VALUES ($1, $2, $3, $4, $5)
     ON CONFLICT (water_id, name) DO UPDATE SET profile = EXCLUDED.profile`,
    [newId(), water, profile.name, profile, !defaultSpecies.some((s) => s.name === profile.name)],
  );
}
