import { records, type Fields, type RecordName } from '@restless-shoal/core/logbook';
import { copyOut } from '../db/copy-out';
import { quoted, type Client } from '../db/pool';

/** Rows that belong to a water, oldest first, without what was deleted. Those of one moment follow by what they hold, so that one log is one file. */
const ROWS: Record<RecordName, { from: string; order: string }> = {
  soundings: {
    from: 'soundings r WHERE r.water_id = $W',
    order: 'r.time, r.latitude, r.longitude, r.depth_m, r.temperature_c, r.hardness, r.heading_deg, r.speed_ms',
  },
  trips: { from: 'trips r WHERE r.water_id = $W AND r.deleted_at IS NULL', order: 'r.start, r.trip' },
  conditions: ofTrips('conditions', 't.start, r.time'),
  profiles: ofTrips('profiles', 't.start, r.time, r.profile, r.depth_m'),
  track: ofTrips('track', 't.start, r.time'),
  stops: ofTrips('stops', 't.start, r.start, r.stop'),
  contacts: ofTrips('contacts', 't.start, r.time'),
  responses: ofTrips('responses', 't.start, r.time'),
  photos: ofTrips('photos', 't.start, r.time, r.photo'),
  spots: { from: 'spots r WHERE r.water_id = $W AND r.deleted_at IS NULL', order: 'r.name' },
  // Of whoever fishes the water: it belongs to none.
  gear: { from: 'gear r JOIN waters w ON w.account_id = r.account_id WHERE w.id = $W AND r.deleted_at IS NULL', order: 'r.kind, r.name' },
};

function ofTrips(table: string, order: string): { from: string; order: string } {
  return {
    from: `${table} r JOIN trips t ON t.id = r.trip_id WHERE t.water_id = $W AND t.deleted_at IS NULL AND r.deleted_at IS NULL`,
    order,
  };
}

/** Whether a water has rows of a record. */
export const hasRows = async (client: Client, record: RecordName, water: string): Promise<boolean> =>
  ((await client.query(`SELECT 1 FROM ${ROWS[record].from.replace('$W', client.escapeLiteral(water))} LIMIT 1`)).rowCount ?? 0) > 0;

/** A file has no running trip: one that still runs ends there with the last thing logged on it, so that nothing of it is lost. */
const END_SO_FAR = `COALESCE(r."end", GREATEST(r.start, ${[
  'SELECT max(time) FROM conditions',
  'SELECT max(time) FROM profiles',
  'SELECT max(time) FROM track',
  'SELECT max("end") FROM stops',
  'SELECT max(time) FROM contacts',
  'SELECT max(time) FROM responses',
]
  .map((last) => `(${last} WHERE trip_id = r.id AND deleted_at IS NULL)`)
  .join(', ')}))`;

/** A record of a water as CSV, streamed by COPY: numbers at full precision, times in UTC to the millisecond. */
export async function* csvOf(client: Client, record: RecordName, water: string): AsyncGenerator<Buffer> {
  const columns = Object.entries(records[record] as Fields).map(([name, field]) => {
    const value =
      name === 'trip' && record !== 'trips' ? 't.trip' : name === 'end' && record === 'trips' ? END_SO_FAR : `r.${quoted(name)}`;
    if (field.type === 'time') return `to_char(${value} AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') AS ${quoted(name)}`;
    // As csvLine does: a text that a spreadsheet would work out as a formula gets a ' before it.
    if (field.type === 'text') return `CASE WHEN ${value} ~ '^[=+@''-]' THEN '''' || ${value} ELSE ${value} END AS ${quoted(name)}`;
    return value;
  });
  const { from, order } = ROWS[record];
  // Soundings name their own, as millions are sorted; records made apart have ids of their own, which order nothing.
  const ties = record === 'soundings' ? [] : columns.map((_, k) => k + 1);
  const rows = `SELECT ${columns.join(', ')} FROM ${from.replace('$W', client.escapeLiteral(water))} ORDER BY ${[order, ...ties].join(', ')}`;
  yield* copyOut(client, rows, '(FORMAT csv, HEADER)');
}
