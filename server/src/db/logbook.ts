import type { FoundInTrip, LoggedTrip, SpeciesRecord } from '@restless-shoal/core/contract';
import type { Queryable } from './pool';

/** So many marks make the small Columns of a trip. */
const IN_COLUMNS = 12;
/** So many finds of a trip are told word by word. */
const TOLD = 3;
/** What was found, cut to so many characters about the place. */
const SNIPPET = 120;

/** What a trip comes to: all of its line that is worked out from its records. */
type Line = Pick<
  LoggedTrip,
  'marks' | 'fish' | 'landed' | 'stops' | 'blanks' | 'surface_temperature_c' | 'secchi_m' | 'wind_from_deg' | 'wind_speed_ms' | 'column'
>;
const READ = ['surface_temperature_c', 'secchi_m', 'wind_from_deg', 'wind_speed_ms'] as const;

const emptyLine = (): Line => ({
  marks: 0,
  fish: [],
  landed: [],
  stops: 0,
  blanks: 0,
  surface_temperature_c: null,
  secchi_m: null,
  wind_from_deg: null,
  wind_speed_ms: null,
  column: [],
});

/** Works out what trips come to. */
async function linesOf(db: Queryable, trips: string[]): Promise<Map<string, Line>> {
  const of = (table: string): string => `${table} WHERE trip_id = ANY($1) AND deleted_at IS NULL`;
  const first = (column: string): string => `(array_agg(${column} ORDER BY time) FILTER (WHERE ${column} IS NOT NULL))[1] AS ${column}`;
  const many = async <T>(sql: string): Promise<(T & { trip_id: string })[]> => (await db.query<T & { trip_id: string }>(sql, [trips])).rows;
  const [marks, columns, stops, landed, readings] = await Promise.all([
    many<{ kind: string; species: string; n: number }>(
      `SELECT trip_id, kind, coalesce(species, '') AS species, count(*)::integer AS n FROM ${of('contacts')} GROUP BY 1, 2, 3 ORDER BY n DESC, species`,
    ),
    many<{ marks: LoggedTrip['column'] }>(
      `SELECT trip_id, json_agg(json_build_array(kind, top_m, coalesce(bottom_m, top_m), water_depth_m, coalesce(count, 1)) ORDER BY k) AS marks
         FROM (SELECT trip_id, kind, top_m, bottom_m, water_depth_m, count, row_number() OVER (PARTITION BY trip_id ORDER BY time, id) AS k,
                      count(*) OVER (PARTITION BY trip_id) AS of
                 FROM ${of('contacts')} AND top_m IS NOT NULL AND kind IN ('fish', 'bait')) c
        WHERE of <= ${IN_COLUMNS} OR k * ${IN_COLUMNS} / of > (k - 1) * ${IN_COLUMNS} / of GROUP BY trip_id`,
    ),
    many<Pick<Line, 'stops' | 'blanks'>>(
      `SELECT trip_id, count(*) FILTER (WHERE NOT (outcome IS NOT DISTINCT FROM 'nothing' AND start = "end"))::integer AS stops,
              count(*) FILTER (WHERE outcome = 'nothing' AND start = "end")::integer AS blanks FROM ${of('stops')} GROUP BY 1`,
    ),
    many<{ species: string; n: number }>(
      `SELECT trip_id, coalesce(species, '') AS species, count(*)::integer AS n FROM ${of('responses')} AND response = 'landed'
        GROUP BY 1, 2 ORDER BY n DESC, species`,
    ),
    many<Pick<Line, (typeof READ)[number]>>(`SELECT trip_id, ${READ.map(first).join(', ')} FROM ${of('conditions')} GROUP BY 1`),
  ]);
  const lines = new Map(trips.map((id): [string, Line] => [id, emptyLine()]));
  for (const { trip_id, kind, species, n } of marks) {
    const line = lines.get(trip_id)!;
    line.marks += n;
    if (kind === 'fish') line.fish.push([species, n]);
  }
  for (const { trip_id, marks } of columns) lines.get(trip_id)!.column = marks;
  for (const { trip_id, ...counts } of stops) Object.assign(lines.get(trip_id)!, counts);
  for (const { trip_id, species, n } of landed) lines.get(trip_id)!.landed.push([species, n]);
  for (const { trip_id, ...read } of readings) Object.assign(lines.get(trip_id)!, read);
  return lines;
}

/** The last list of each account, by what it was made from. */
const lists = new Map<string, { madeFrom: string; trips: LoggedTrip[] }>();

/** All trips of an account with what was seen on them, the last first. What a trip comes to is kept until the trip changes. */
export async function loggedTrips(db: Queryable, account: string): Promise<LoggedTrip[]> {
  // All that a line tells changes with its trip's stamp, but for its water's name and zone and the number of its looks.
  const { rows } = await db.query<{ made_from: string }>(
    `SELECT coalesce(md5(string_agg(concat_ws(' ', t.id, t.changed_at, t.version, k.count, w.id, w.name, w.time_zone), ',' ORDER BY t.id)), '') AS made_from
       FROM trips t JOIN waters w ON w.id = t.water_id LEFT JOIN looks k ON k.trip_id = t.id
      WHERE w.account_id = $1 AND t.deleted_at IS NULL AND w.deleted_at IS NULL`,
    [account],
  );
  const madeFrom = rows[0].made_from;
  const kept = lists.get(account);
  if (kept?.madeFrom === madeFrom) return kept.trips;
  const trips = await listTrips(db, account);
  // What came between both questions is in the list: it is asked for anew the next time, no more.
  lists.set(account, { madeFrom, trips });
  return trips;
}

async function listTrips(db: Queryable, account: string): Promise<LoggedTrip[]> {
  const { rows } = await db.query<Omit<LoggedTrip, keyof Line> & { stamp: string; fresh: boolean; body: Line | null }>(
    `SELECT t.id, t.trip, t.start, t."end", t.purpose, t.goal, t.crew, t.boat, t.notes, t.version, t.water_id, w.name AS water, w.time_zone,
            k.count AS looks, t.changed_at::text AS stamp, l.stamp IS NOT DISTINCT FROM t.changed_at AS fresh, l.body
       FROM trips t JOIN waters w ON w.id = t.water_id LEFT JOIN trip_lines l ON l.trip_id = t.id LEFT JOIN looks k ON k.trip_id = t.id
      WHERE w.account_id = $1 AND t.deleted_at IS NULL AND w.deleted_at IS NULL ORDER BY t.start DESC, t.id`,
    [account],
  );
  const stale = rows.filter((r) => !r.fresh);
  const lines = stale.length ? await linesOf(db, stale.map((r) => r.id)) : new Map<string, Line>(); // prettier-ignore
  // What cannot be kept, on a full disk, is worked out again the next time: reading goes on.
  if (stale.length)
    await db
      .query(
        // A trip that was deleted for good meanwhile has no line.
        `INSERT INTO trip_lines (trip_id, stamp, body) SELECT n.id, n.stamp, n.body FROM unnest($1::uuid[], $2::timestamptz[], $3::jsonb[]) AS n(id, stamp, body)
         JOIN trips t ON t.id = n.id ON CONFLICT (trip_id) DO UPDATE SET stamp = EXCLUDED.stamp, body = EXCLUDED.body`,
        [stale.map((r) => r.id), stale.map((r) => r.stamp), stale.map((r) => JSON.stringify(lines.get(r.id)))],
      )
      .catch(() => undefined);
  return rows.map(({ stamp: _, fresh, body, ...trip }) => ({ ...trip, ...(fresh ? body! : lines.get(trip.id)!) }));
}

/** Fields that hold words, by record. */
const WORDS = {
  trips: ['trip', 'notes', 'crew', 'boat', 'purpose', 'goal'],
  contacts: ['species', 'notes', 'cover', 'behaviour', 'rig', 'settings'],
  stops: ['notes'],
  responses: ['species', 'lure', 'lure_colour', 'presentation', 'rod', 'angler', 'notes'],
  conditions: ['signs'],
  photos: ['caption', 'spot'],
} as const;
type Searched = keyof typeof WORDS;

const pattern = (words: string): string => `%${words.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;

/** The words about a find. */
function snippet(text: string, words: string): string {
  const at = text.toLowerCase().indexOf(words.toLowerCase());
  if (text.length <= SNIPPET) return text;
  const from = Math.max(0, at - SNIPPET / 2);
  return `${from > 0 ? '… ' : ''}${text.slice(from, from + SNIPPET)}${from + SNIPPET < text.length ? ' …' : ''}`;
}

/**
 * Trips in which something is written.
 * @param words a part of what is written, in any case
 * @param names or one of these as a whole: the log's own codes for what was asked in another language
 */
export async function searchLog(db: Queryable, account: string, words: string, names: string[]): Promise<FoundInTrip[]> {
  const found = new Map<string, FoundInTrip>();
  const asked = names.map((n) => n.toLowerCase());
  const holds = (text: string): boolean => text.toLowerCase().includes(words.toLowerCase()) || asked.includes(text.toLowerCase());
  const searched = await Promise.all(
    (Object.keys(WORDS) as Searched[]).map(async (record) => {
      const columns = WORDS[record].map((c) => `r.${c}`);
      const where = columns.map((c) => `${c} ILIKE $2 OR lower(${c}) = ANY($3)`).join(' OR ');
      const joined =
        record === 'trips'
          ? 'trips r JOIN trips t ON t.id = r.id'
          : `${record} r JOIN trips t ON t.id = r.trip_id AND r.deleted_at IS NULL`;
      const { rows } = await db.query<Record<string, string | null> & { trip_of: string; of: number; id: string }>(
        `SELECT * FROM (SELECT t.id AS trip_of, r.id, ${columns.join(', ')}, count(*) OVER (PARTITION BY t.id)::integer AS of, row_number() OVER (PARTITION BY t.id ORDER BY r.id) AS k
           FROM ${joined} JOIN waters w ON w.id = t.water_id
          WHERE w.account_id = $1 AND t.deleted_at IS NULL AND w.deleted_at IS NULL AND (${where})) x WHERE k <= ${TOLD}`,
        [account, pattern(words), asked],
      );
      return { record, rows };
    }),
  );
  for (const { record, rows } of searched) {
    const counted = new Set<string>();
    for (const row of rows) {
      const trip = found.get(row.trip_of) ?? { trip: row.trip_of, count: 0, first: [] };
      found.set(row.trip_of, trip);
      if (!counted.has(row.trip_of)) trip.count += row.of;
      counted.add(row.trip_of);
      const field = WORDS[record].find((f) => row[f] !== null && holds(row[f]!));
      if (field && trip.first.length < TOLD) trip.first.push({ record, id: row.id, field, text: snippet(row[field]!, words) });
    }
  }
  return [...found.values()];
}

/** The largest of each species that were landed on any water of an account, the species landed most often first. */
export async function speciesRecords(db: Queryable, account: string): Promise<SpeciesRecord[]> {
  const best = (value: string): string =>
    `(array_agg(json_build_object('${value}', r.${value}, 'trip', t.id, 'time', r.time, 'water', w.name, 'angler', r.angler)
        ORDER BY r.${value} DESC, r.time) FILTER (WHERE r.${value} IS NOT NULL))[1]`;
  const { rows } = await db.query<SpeciesRecord>(
    `SELECT r.species, count(*)::integer AS landed, ${best('length_m')} AS longest, ${best('mass_kg')} AS heaviest
       FROM responses r JOIN trips t ON t.id = r.trip_id JOIN waters w ON w.id = t.water_id
      WHERE w.account_id = $1 AND r.response = 'landed' AND r.species IS NOT NULL AND r.deleted_at IS NULL AND t.deleted_at IS NULL AND w.deleted_at IS NULL
      GROUP BY 1 ORDER BY 2 DESC, 1`,
    [account],
  );
  return rows;
}
