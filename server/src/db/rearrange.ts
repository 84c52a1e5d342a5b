import type { Row } from '@restless-shoal/core/logbook';
import { noteChange } from './changes';
import { touchTrips, type TripRow } from './log';
import type { Client } from './pool';

// Two trips that are one become one, and one that is two becomes two. Records keep their ids; what was derived is derived anew.

/** Records with an id of their own, and the column that says when they were. */
const WITH_ID = { stops: 'start', contacts: 'time', responses: 'time', conditions: 'time', photos: 'time' } as const;
type Moved = keyof typeof WITH_ID;
const TABLES = Object.keys(WITH_ID) as Moved[];

/** What has to be known to make a merged trip two again. */
interface Merged {
  other: Row;
  kept: Row;
  ids: Record<Moved, string[]>;
  profiles: string[];
  /** Moments of the fixes, ms since 1970. */
  fixes: number[];
  /** New keys of stops, contacts, profiles and photos by their old ones. */
  keys: Record<'stop' | 'contact' | 'profile' | 'photo', Record<string, string>>;
}

/** Which columns hold the key of a stop, a contact, a profile or a photo. */
const HOLDERS = {
  stop: [
    ['stops', 'stop'],
    ['contacts', 'stop'],
    ['responses', 'stop'],
    ['photos', 'stop'],
  ],
  contact: [
    ['contacts', 'contact'],
    ['contacts', 'same_as'],
    ['responses', 'contact'],
    ['photos', 'contact'],
  ],
  profile: [['profiles', 'profile']],
  photo: [['photos', 'photo']],
} as const;
type Key = keyof typeof HOLDERS;

async function rename(client: Client, trip: string, key: Key, names: Record<string, string>): Promise<void> {
  const [from, to] = [Object.keys(names), Object.values(names)];
  if (!from.length) return;
  for (const [table, column] of HOLDERS[key])
    await client.query(
      `UPDATE ${table} r SET ${column} = n.new FROM unnest($2::text[], $3::text[]) AS n(old, new) WHERE r.trip_id = $1 AND r.${column} = n.old`,
      [trip, from, to],
    );
}

/** Keys that two trips both have, with one that neither has, for the second. Records in the trash count: they may come back. */
async function clashing(client: Client, kept: string, other: string, key: Key): Promise<Record<string, string>> {
  const [[table, column]] = HOLDERS[key];
  const keysOf = async (trip: string): Promise<Set<string>> =>
    new Set(
      (
        await client.query<{ key: string | null }>(`SELECT DISTINCT ${column} AS key FROM ${table} WHERE trip_id = $1`, [trip])
      ).rows.flatMap((r) => r.key ?? []),
    );
  const [mine, theirs] = [await keysOf(kept), await keysOf(other)];
  const taken = new Set([...mine, ...theirs]);
  const names: Record<string, string> = {};
  for (const name of theirs) {
    if (!mine.has(name)) continue;
    let n = 2;
    while (taken.has(`${name} (${n})`)) n++;
    names[name] = `${name} (${n})`;
    taken.add(names[name]);
  }
  return names;
}

const rowOf = async (client: Client, trip: string): Promise<Row> =>
  (await client.query<{ row: Row }>('SELECT row_to_json(t) AS row FROM trips t WHERE id = $1', [trip])).rows[0].row;

/** Moves records to another trip, of a moment on where one is given. @returns what was moved */
async function move(client: Client, from: string, to: string, since: string | null): Promise<Pick<Merged, 'ids' | 'profiles' | 'fixes'>> {
  const ids = {} as Merged['ids'];
  for (const table of TABLES) {
    const { rows } = await client.query<{ id: string }>(
      `UPDATE ${table} SET trip_id = $2 WHERE trip_id = $1 AND ($3::timestamptz IS NULL OR ${WITH_ID[table]} >= $3) RETURNING id`,
      [from, to, since],
    );
    ids[table] = rows.map((r) => r.id);
  }
  const profiles = await client.query<{ profile: string }>(
    `UPDATE profiles SET trip_id = $2 WHERE trip_id = $1
        AND ($3::timestamptz IS NULL OR profile IN (SELECT profile FROM profiles WHERE trip_id = $1 GROUP BY profile HAVING min(time) >= $3)) RETURNING profile`,
    [from, to, since],
  );
  const fixes = await client.query<{ ms: string }>(
    `UPDATE track SET trip_id = $2 WHERE trip_id = $1 AND ($3::timestamptz IS NULL OR time >= $3) RETURNING (extract(epoch FROM time) * 1000)::bigint AS ms`,
    [from, to, since],
  );
  return { ids, profiles: [...new Set(profiles.rows.map((r) => r.profile))], fixes: fixes.rows.map((r) => Number(r.ms)) };
}

const joined = (a: string | null, b: string | null): string | null => (a && b && a !== b ? `${a}\n${b}` : (a ?? b));

/**
 * Makes two trips of a water one: everything of the other one belongs to the first, which lasts as long as both. Keys that both
 * have are told apart. @returns the id of the change, by which it is undone
 */
export async function mergeTrips(client: Client, kept: TripRow, other: TripRow, device: string | null): Promise<string> {
  await client.query('SELECT 1 FROM trips WHERE id = ANY($1) ORDER BY id FOR UPDATE', [[kept.id, other.id]]);
  const merged = { other: await rowOf(client, other.id), kept: await rowOf(client, kept.id), keys: {} } as Merged;
  for (const key of Object.keys(HOLDERS) as Key[]) {
    merged.keys[key] = await clashing(client, kept.id, other.id, key);
    await rename(client, other.id, key, merged.keys[key]);
  }
  Object.assign(merged, await move(client, other.id, kept.id, null));
  await client.query('UPDATE changes SET trip_id = $2 WHERE trip_id = $1', [other.id, kept.id]);
  // Of a forecast that was kept on both, the one of the trip that stays counts.
  await client.query(
    'UPDATE outlooks o SET trip_id = $2 WHERE trip_id = $1 AND NOT EXISTS (SELECT 1 FROM outlooks k WHERE k.trip_id = $2 AND k.species = o.species)',
    [other.id, kept.id],
  );
  for (const table of ['outlooks', 'looks', 'trip_lines']) await client.query(`DELETE FROM ${table} WHERE trip_id = $1`, [other.id]);
  await client.query('DELETE FROM trips WHERE id = $1', [other.id]);
  const end = kept.end === null || other.end === null ? null : kept.end > other.end ? kept.end : other.end;
  await client.query('UPDATE trips SET start = $2, "end" = $3, crew = $4, boat = $5, notes = $6 WHERE id = $1', [
    kept.id,
    kept.start < other.start ? kept.start : other.start,
    end,
    joined(kept.crew, other.crew),
    kept.boat ?? other.boat,
    joined(kept.notes, other.notes),
  ]);
  await touchTrips(client, [kept.id]);
  return noteChange(client, {
    trip: kept.id,
    record: 'trips',
    record_id: kept.id,
    device,
    done: 'merged',
    before: merged as unknown as Row,
    after: { trip: other.trip, start: other.start },
  });
}

/** Makes a trip that was merged two again, as they were. @returns whether there was such a change of the trip */
export async function unmergeTrips(client: Client, trip: string, change: string, device: string | null): Promise<boolean> {
  const { rows } = await client.query<{ before: Merged }>(
    `SELECT before FROM changes WHERE id = $1 AND trip_id = $2 AND done = 'merged' FOR UPDATE`,
    [change, trip],
  );
  if (!rows.length) return false;
  const { other, kept, ids, profiles, fixes, keys } = rows[0].before;
  const id = String(other.id);
  await client.query('INSERT INTO trips SELECT * FROM json_populate_record(NULL::trips, $1)', [JSON.stringify(other)]);
  for (const table of TABLES)
    await client.query(`UPDATE ${table} SET trip_id = $2 WHERE trip_id = $1 AND id = ANY($3)`, [trip, id, ids[table] ?? []]);
  await client.query('UPDATE profiles SET trip_id = $2 WHERE trip_id = $1 AND profile = ANY($3)', [trip, id, profiles]);
  await client.query('UPDATE track SET trip_id = $2 WHERE trip_id = $1 AND (extract(epoch FROM time) * 1000)::bigint = ANY($3::bigint[])', [
    trip,
    id,
    fixes,
  ]);
  for (const key of Object.keys(HOLDERS) as Key[])
    await rename(client, id, key, Object.fromEntries(Object.entries(keys[key] ?? {}).map(([old, now]) => [now, old])));
  await client.query('UPDATE trips SET start = $2, "end" = $3, crew = $4, boat = $5, notes = $6 WHERE id = $1', [
    trip,
    kept.start,
    kept.end,
    kept.crew,
    kept.boat,
    kept.notes,
  ]);
  await touchTrips(client, [trip, id]);
  await client.query('DELETE FROM changes WHERE id = $1', [change]);
  await noteChange(client, { trip, record: 'trips', record_id: trip, device, done: 'split', before: null, after: { trip: other.trip } });
  return true;
}

/** Makes a trip two: what was logged from a moment on belongs to a new one. */
export async function splitTrip(client: Client, trip: TripRow, at: string, id: string, device: string | null): Promise<void> {
  await client.query('SELECT 1 FROM trips WHERE id = $1 FOR UPDATE', [trip.id]);
  const { rows } = await client.query<{ trip: string }>('SELECT trip FROM trips WHERE water_id = $1', [trip.water_id]);
  const taken = new Set(rows.map((r) => r.trip));
  let n = 2;
  while (taken.has(`${trip.trip} (${n})`)) n++;
  const name = `${trip.trip} (${n})`;
  await client.query(
    'INSERT INTO trips (id, water_id, trip, start, "end", purpose, goal, crew, boat, weigh_in, bag, least_length_m) SELECT $2, water_id, $3, $4, "end", purpose, goal, crew, boat, weigh_in, bag, least_length_m FROM trips WHERE id = $1',
    [trip.id, id, name, at],
  );
  await move(client, trip.id, id, at);
  await client.query('UPDATE trips SET "end" = $2 WHERE id = $1', [trip.id, at]);
  await touchTrips(client, [trip.id, id]);
  await noteChange(client, {
    trip: trip.id,
    record: 'trips',
    record_id: trip.id,
    device,
    done: 'split',
    before: null,
    after: { trip: name, start: at },
  });
}
