import { Router, type Request } from 'express';
import { object, string, type AnyObjectSchema } from 'yup';
import { columnsOf, MODES, records, schemas, type Fields, type RecordName, type Row, type TrackFix } from '@restless-shoal/core/logbook';
import { contactsOf, responsesOf, runningTrips, stopsOf, touchTrips, trackOf, tripById, type TripRow } from '../db/log';
import { quoted, transaction, type Client, type Pool } from '../db/pool';
import { learnSpecies } from '../db/waters';
import { accountOf } from './account';
import { notFound, RequestError } from './errors';
import { waterOf } from './waters';

/** The trip that an address names, of whoever asks. */
export async function tripOf(pool: Pool, request: Request): Promise<TripRow> {
  const id = String(request.params.trip);
  const trip = (await schemas.id.isValid(id)) ? await tripById(pool, accountOf(request), id) : null;
  if (!trip) throw notFound('trip');
  return trip;
}

/** The version that an edit was made of. */
function baseOf({ query }: Request): number | null {
  if (query.base === undefined) return null;
  const base = Number(query.base);
  if (!Number.isInteger(base) || base < 0) throw new RequestError(400, 'base is no version', 'base');
  return base;
}

async function idOf(request: Request): Promise<string> {
  const id = String(request.params.id ?? request.params.trip);
  if (!(await schemas.id.isValid(id))) throw new RequestError(400, 'id is not a UUID', 'id');
  return id.toLowerCase();
}

const moment = string()
  .strict()
  .typeError('must be text')
  .required('is missing')
  .test('time', 'is no time with its zone, as 2026-05-02T06:00:00Z', (text) => /^\d{4}-\d\d-\d\dT[\d:.]+Z$/.test(text ?? '') && !Number.isNaN(Date.parse(text!))); // prettier-ignore
const stretchRequest = object({
  from: moment,
  to: moment,
  mode: string()
    .oneOf([...MODES], `must be one of ${MODES.join(', ')}`)
    .required('is missing'),
})
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

/** Records of a trip that have an id made by the client. */
const WITH_ID: Record<'stops' | 'contacts' | 'responses', AnyObjectSchema> = {
  stops: schemas.stop,
  contacts: schemas.contact,
  responses: schemas.response,
};

/**
 * Stores a record under its client-made id. Sending it again with the same content changes nothing; with other
 * content it is an edit. A key or an id that belongs to another record is refused, and so is an edit of a version that
 * another device has changed since.
 * @param base version that was edited; null where whoever writes does not mind
 */
async function putRecord(
  client: Client,
  record: 'stops' | 'contacts' | 'responses',
  id: string,
  trip: string,
  row: Row,
  base: number | null,
): Promise<'added' | 'changed' | 'same'> {
  const columns = columnsOf(record);
  const found = await client.query<{ trip_id: string; version: number }>(
    `SELECT trip_id, version FROM ${record} WHERE id = $1 FOR UPDATE`,
    [id],
  );
  const values = columns.map((c) => row[c] ?? null);
  if (!found.rowCount) {
    const inserted = await client.query(
      `INSERT INTO ${record} (id, trip_id, ${columns.map(quoted).join(', ')}) VALUES ($1, $2, ${columns.map((_, i) => `$${i + 3}`).join(', ')}) ON CONFLICT DO NOTHING`,
      [id, trip, ...values],
    );
    if (inserted.rowCount) return 'added';
    // The same mark sent twice at once: the other request was first, and both are one.
    if ((await client.query(`SELECT 1 FROM ${record} WHERE id = $1`, [id])).rowCount) return 'same';
    throw new RequestError(409, 'another record of this trip has the same key');
  }
  if (found.rows[0].trip_id !== trip) throw new RequestError(409, 'this id belongs to a record of another trip', 'id');
  const changed = await client.query(
    `UPDATE ${record} SET ${columns.map((c, i) => `${quoted(c)} = $${i + 2}`).join(', ')}, version = version + 1
      WHERE id = $1 AND (${columns.map(quoted).join(', ')}) IS DISTINCT FROM (${columns.map((c, i) => `$${i + 2}::${sqlType(record, c)}`).join(', ')})`,
    [id, ...values],
  );
  // Rolled back by the refusal: what the other device made of it stands.
  if (changed.rowCount && base !== null && found.rows[0].version !== base)
    throw new RequestError(409, 'this record was changed elsewhere meanwhile', 'base');
  return changed.rowCount ? 'changed' : 'same';
}

function sqlType(record: RecordName, column: string): string {
  const field = (records[record] as Fields)[column];
  return field.type === 'time' ? 'timestamptz' : field.type === 'number' ? (field.whole ? 'integer' : 'double precision') : 'text';
}

export function tripRoutes(pool: Pool): Router {
  const router = Router();
  router.put('/waters/:water/trips/:trip', async (request, response) => {
    const id = await idOf(request);
    const water = await waterOf(pool, request);
    const body = (await schemas.trip.validate(request.body)) as Row;
    const existing = await tripById(pool, accountOf(request), id);
    if (existing && existing.water_id !== water.id) throw new RequestError(409, 'this id belongs to a trip on another water', 'id');
    const columns = Object.keys(records.trips);
    const values = columns.map((c) => body[c] ?? null);
    if (!existing) {
      const added = await pool.query(
        `INSERT INTO trips (id, water_id, ${columns.map(quoted).join(', ')}) VALUES ($1, $2, ${columns.map((_, i) => `$${i + 3}`).join(', ')}) ON CONFLICT DO NOTHING`,
        [id, water.id, ...values],
      );
      if (!added.rowCount && !(await tripById(pool, accountOf(request), id)))
        throw new RequestError(409, 'another trip has the same key and start', 'trip');
    } else
      await pool.query(
        `UPDATE trips SET ${columns.map((c, i) => `${quoted(c)} = $${i + 2}`).join(', ')}, version = version + 1, changed_at = clock_timestamp() WHERE id = $1`,
        [id, ...values],
      );
    response.status(existing ? 200 : 201).json(await tripById(pool, accountOf(request), id));
  });
  // Thrown away: out of every answer and number, but not out of the database.
  router.delete('/waters/:water/trips/:trip', async (request, response) => {
    const id = await idOf(request);
    const water = await waterOf(pool, request);
    const gone = await pool.query(
      'UPDATE trips SET deleted_at = now(), version = version + 1, changed_at = clock_timestamp() WHERE id = $1 AND water_id = $2 AND deleted_at IS NULL',
      [id, water.id],
    );
    response.json({ id, done: gone.rowCount ? 'deleted' : 'same' });
  });
  router.post('/waters/:water/trips/:trip/restore', async (request, response) => {
    const id = await idOf(request);
    const water = await waterOf(pool, request);
    const back = await pool.query(
      'UPDATE trips SET deleted_at = NULL, version = version + 1, changed_at = clock_timestamp() WHERE id = $1 AND water_id = $2 AND deleted_at IS NOT NULL',
      [id, water.id],
    );
    response.json({ id, done: back.rowCount ? 'restored' : 'same' });
  });
  router.get('/trips/running', async (request, response) => {
    response.json(await runningTrips(pool, accountOf(request)));
  });
  router.get('/trips/:trip', async (request, response) => {
    const trip = await tripOf(pool, request);
    const [track, stops, contacts, responses] = await Promise.all([
      trackOf(pool, trip.id),
      stopsOf(pool, trip.id),
      contactsOf(pool, trip.id),
      responsesOf(pool, trip.id),
    ]);
    response.json({ trip, track, stops, contacts, responses });
  });
  for (const [record, schema] of Object.entries(WITH_ID) as [keyof typeof WITH_ID, AnyObjectSchema][]) {
    router.put(`/trips/:trip/${record}/:id`, async (request, response) => {
      const id = await idOf(request);
      const trip = await tripOf(pool, request);
      const row = (await schema.validate(request.body)) as Row;
      const base = baseOf(request);
      const done = await transaction(pool, async (client) => {
        const outcome = await putRecord(client, record, id, trip.id, row, base);
        if (outcome !== 'same') {
          if (typeof row.species === 'string') await learnSpecies(client, trip.water_id, [row.species]);
          await touchTrips(client, [trip.id]);
        }
        return outcome;
      });
      response.status(done === 'added' ? 201 : 200).json({ id, done });
    });
    router.delete(`/trips/:trip/${record}/:id`, async (request, response) => {
      const id = await idOf(request);
      const trip = await tripOf(pool, request);
      const gone = await pool.query(
        `UPDATE ${record} SET deleted_at = now(), version = version + 1 WHERE id = $1 AND trip_id = $2 AND deleted_at IS NULL`,
        [id, trip.id],
      );
      if (gone.rowCount) await touchTrips(pool, [trip.id]);
      response.json({ id, done: gone.rowCount ? 'deleted' : 'same' });
    });
    router.post(`/trips/:trip/${record}/:id/restore`, async (request, response) => {
      const id = await idOf(request);
      const trip = await tripOf(pool, request);
      const back = await pool.query(
        `UPDATE ${record} SET deleted_at = NULL, version = version + 1 WHERE id = $1 AND trip_id = $2 AND deleted_at IS NOT NULL`,
        [id, trip.id],
      );
      if (back.rowCount) await touchTrips(pool, [trip.id]);
      response.json({ id, done: back.rowCount ? 'restored' : 'same' });
    });
  }
  router.post('/trips/:trip/track', async (request, response) => {
    const trip = await tripOf(pool, request);
    const fixes = (await schemas.fixes.validate(request.body)) as TrackFix[];
    response.status(201).json({ added: await addRows(pool, trip.id, 'track', fixes as unknown as Row[]) });
  });
  // The mode of a stretch of the track, corrected afterwards: what was taken for looking was under way, or the other way round.
  router.put('/trips/:trip/track/mode', async (request, response) => {
    const trip = await tripOf(pool, request);
    const { from, to, mode } = await stretchRequest.validate(request.body);
    if (from > to) throw new RequestError(400, 'from is later than to', 'from');
    const changed = await transaction(pool, async (client) => {
      // A fix that is there in both modes (sent again after it had been corrected) is one fix.
      await client.query(
        `DELETE FROM track a USING track b WHERE a.trip_id = $1 AND b.trip_id = $1 AND a.time BETWEEN $2 AND $3 AND b.time = a.time
            AND b.latitude = a.latitude AND b.longitude = a.longitude AND a.mode <> $4 AND b.mode = $4`,
        [trip.id, from, to, mode],
      );
      const updated = await client.query('UPDATE track SET mode = $4 WHERE trip_id = $1 AND time BETWEEN $2 AND $3 AND mode <> $4', [
        trip.id,
        from,
        to,
        mode,
      ]);
      if (updated.rowCount) await touchTrips(client, [trip.id]);
      return updated;
    });
    response.json({ changed: changed.rowCount });
  });
  router.post('/trips/:trip/conditions', async (request, response) => {
    const trip = await tripOf(pool, request);
    const reading = (await schemas.reading.validate(request.body)) as Row;
    response.status(201).json({ added: await addRows(pool, trip.id, 'conditions', [reading]) });
  });
  router.post('/trips/:trip/profiles', async (request, response) => {
    const trip = await tripOf(pool, request);
    const list = Array.isArray(request.body) ? (request.body as unknown[]) : [];
    if (!list.length) throw new RequestError(400, 'the cast is no list of readings, or an empty one');
    const rows: Row[] = [];
    for (const [i, sample] of list.entries())
      rows.push(
        (await schemas.profileSample.validate(sample).catch((error) => {
          throw new RequestError(400, `reading ${i + 1}: ${error.path} ${error.message}`, `${i}.${error.path}`);
        })) as Row,
      );
    response.status(201).json({ added: await addRows(pool, trip.id, 'profiles', rows) });
  });
  return router;
}

/** Adds rows without an id, as a device sends them: what it sends again is known by its content and changes nothing. */
async function addRows(pool: Pool, trip: string, table: 'track' | 'conditions' | 'profiles', rows: Row[]): Promise<number> {
  const columns = columnsOf(table);
  const typed = columns.map((c) => `${quoted(c)} ${sqlType(table, c)}`).join(', ');
  const list = columns.map(quoted).join(', ');
  // A fix is known by its time and place: its mode may have been put right since.
  const known = `SELECT 1 FROM ${table} t WHERE t.trip_id = $1 AND t.time = r.time AND ${table === 'profiles' ? 't.profile = r.profile AND t.depth_m = r.depth_m' : table === 'track' ? 't.latitude = r.latitude AND t.longitude = r.longitude' : `(${columns.map((c) => `t.${quoted(c)}`).join(', ')}) IS NOT DISTINCT FROM (${columns.map((c) => `r.${quoted(c)}`).join(', ')})`}`;
  const added = await transaction(pool, async (client) => {
    // The same rows sent twice at once come one after the other.
    await client.query('SELECT 1 FROM trips WHERE id = $1 FOR UPDATE', [trip]);
    const result = await client.query(
      `INSERT INTO ${table} (trip_id, ${list}) SELECT DISTINCT $1::uuid, ${columns.map((c) => `r.${quoted(c)}`).join(', ')} FROM jsonb_to_recordset($2::jsonb) AS r(${typed}) WHERE NOT EXISTS (${known}) ${table === 'profiles' ? 'ON CONFLICT DO NOTHING' : ''}`,
      [trip, JSON.stringify(rows)],
    );
    if (result.rowCount) await touchTrips(client, [trip]);
    return result.rowCount ?? 0;
  });
  return added;
}
