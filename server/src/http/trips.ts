import { Router, type Request } from 'express';
import type { Written } from '@restless-shoal/core/contract';
import { columnsOf, records, schemas, type Fields, type RecordName, type Row } from '@restless-shoal/core/logbook';
import { changesOf, difference, noteChange } from '../db/changes';
import { contactsOf, responsesOf, runningTrips, stopsOf, touchTrips, trackOf, tripById, type TripRow } from '../db/log';
import { quoted, transaction, type Client, type Pool } from '../db/pool';
import { mergeTrips, splitTrip, unmergeTrips } from '../db/rearrange';
import { photosOf } from '../db/photos';
import { learnSpecies } from '../db/waters';
import { accountOf } from './account';
import { notFound, RequestError } from './errors';
import { on } from './on';
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
  if (!Number.isInteger(base) || base < 0) throw new RequestError('field-wrong', { reason: 'is no version' }, 'base');
  return base;
}

async function idOf(request: Request): Promise<string> {
  const id = String(request.params.id ?? request.params.trip);
  if (!(await schemas.id.isValid(id))) throw new RequestError('field-wrong', { reason: 'is not a UUID' }, 'id');
  return id.toLowerCase();
}

const written = (id: string, done: Written['done']): Written => ({ id, done });

/** Records of a trip that have an id made by the client. */
const WITH_ID = ['stops', 'contacts', 'responses', 'conditions', 'photos'] as const;
type WithId = (typeof WITH_ID)[number];

/** What a row of each has to hold. */
const ROWS = {
  stops: schemas.stop,
  contacts: schemas.contact,
  responses: schemas.response,
  conditions: schemas.reading,
  photos: schemas.photo,
};

interface Put {
  record: WithId;
  id: string;
  trip: string;
  row: Row;
  /** Version that was edited; null where whoever writes does not mind. */
  base: number | null;
  device: string | null;
}
type Binned = Pick<Put, 'record' | 'id' | 'device'> & { done: 'deleted' | 'restored' };

/** Which device asks, as it calls itself. */
const deviceOf = (request: Request): string | null => request.get('X-Device')?.slice(0, 80) ?? null;

/**
 * Stores a record under its client-made id. Sending it again with the same content changes nothing; with other
 * content it is an edit. A key or an id that belongs to another record is refused, and so is an edit of a version that
 * another device has changed since.
 */
async function putRecord(
  client: Client,
  {
    record,
    id,
    trip,
    row,
    base,
    device,
  }: { record: WithId; id: string; trip: string; row: Row; base: number | null; device: string | null },
): Promise<'added' | 'changed' | 'same'> {
  const columns = columnsOf(record);
  const found = await client.query<{ trip_id: string; version: number } & Row>(
    `SELECT trip_id, version, ${columns.map(quoted).join(', ')} FROM ${record} WHERE id = $1 FOR UPDATE`,
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
    throw new RequestError('key-taken');
  }
  if (found.rows[0].trip_id !== trip) throw new RequestError('belongs-elsewhere', {}, 'id');
  const changed = await client.query(
    `UPDATE ${record} SET ${columns.map((c, i) => `${quoted(c)} = $${i + 2}`).join(', ')}, version = version + 1
      WHERE id = $1 AND (${columns.map(quoted).join(', ')}) IS DISTINCT FROM (${columns.map((c, i) => `$${i + 2}::${sqlType(record, c)}`).join(', ')})`,
    [id, ...values],
  );
  // Rolled back by the refusal: what the other device made of it stands.
  if (changed.rowCount && base !== null && found.rows[0].version !== base) throw new RequestError('changed-elsewhere', {}, 'base');
  if (!changed.rowCount) return 'same';
  // Photos name the fish that they show by its time.
  if (record === 'responses' && Date.parse(String(found.rows[0].time)) !== Date.parse(String(row.time)))
    await client.query('UPDATE photos SET response_time = $3 WHERE trip_id = $1 AND response_time = $2', [
      trip,
      found.rows[0].time,
      row.time,
    ]);
  const sent = Object.fromEntries(columns.map((c) => [c, row[c] ?? null]));
  await noteChange(client, { trip, record, record_id: id, device, done: 'changed', ...difference(found.rows[0], sent) });
  return 'changed';
}

function sqlType(record: RecordName, column: string): string {
  const field = (records[record] as Fields)[column];
  return field.type === 'time' ? 'timestamptz' : field.type === 'number' ? (field.whole ? 'integer' : 'double precision') : 'text';
}

export function tripRoutes(pool: Pool): Router {
  const router = Router();
  const note = (request: Request, trip: string, record: WithId | 'trips', id: string, done: 'deleted' | 'restored'): Promise<string> =>
    noteChange(pool, { trip, record, record_id: id, device: deviceOf(request), done, before: null, after: null });
  on(router, 'PUT /waters/:water/trips/:trip', async ({ request, response, body }) => {
    const id = await idOf(request);
    const water = await waterOf(pool, request);
    const existing = await tripById(pool, accountOf(request), id);
    if (existing && existing.water_id !== water.id) throw new RequestError('belongs-elsewhere', {}, 'id');
    const columns = Object.keys(records.trips);
    const sent = Object.fromEntries(columns.map((c) => [c, (body as Row)[c] ?? null]));
    const values = Object.values(sent);
    if (!existing) {
      const added = await pool.query(
        `INSERT INTO trips (id, water_id, ${columns.map(quoted).join(', ')}) VALUES ($1, $2, ${columns.map((_, i) => `$${i + 3}`).join(', ')}) ON CONFLICT DO NOTHING`,
        [id, water.id, ...values],
      );
      if (!added.rowCount && !(await tripById(pool, accountOf(request), id))) throw new RequestError('trip-taken', {}, 'trip');
    } else {
      const changes = difference(existing as unknown as Row, sent);
      const device = deviceOf(request);
      // The same once more changes nothing, and makes nothing stale.
      if (Object.keys(changes.after).length)
        await transaction(pool, async (client) => {
          await client.query(
            `UPDATE trips SET ${columns.map((c, i) => `${quoted(c)} = $${i + 2}`).join(', ')}, version = version + 1, changed_at = clock_timestamp() WHERE id = $1`,
            [id, ...values],
          );
          await noteChange(client, { trip: id, record: 'trips', record_id: id, device, done: 'changed', ...changes });
        });
    }
    if (!existing) response.status(201);
    return (await tripById(pool, accountOf(request), id))!;
  });
  // Thrown away: out of every answer and number, but not out of the database.
  on(router, 'DELETE /waters/:water/trips/:trip', async ({ request }) => {
    const id = await idOf(request);
    const water = await waterOf(pool, request);
    const gone = await pool.query(
      'UPDATE trips SET deleted_at = now(), version = version + 1, changed_at = clock_timestamp() WHERE id = $1 AND water_id = $2 AND deleted_at IS NULL',
      [id, water.id],
    );
    if (gone.rowCount) await note(request, id, 'trips', id, 'deleted');
    return written(id, gone.rowCount ? 'deleted' : 'same');
  });
  on(router, 'POST /waters/:water/trips/:trip/restore', async ({ request }) => {
    const id = await idOf(request);
    const water = await waterOf(pool, request);
    const back = await pool.query(
      'UPDATE trips SET deleted_at = NULL, version = version + 1, changed_at = clock_timestamp() WHERE id = $1 AND water_id = $2 AND deleted_at IS NOT NULL',
      [id, water.id],
    );
    if (back.rowCount) await note(request, id, 'trips', id, 'restored');
    return written(id, back.rowCount ? 'restored' : 'same');
  });
  on(router, 'POST /waters/:water/trips/:trip/merge', async ({ request, body }) => {
    const water = await waterOf(pool, request);
    const [trip, other] = [await tripOf(pool, request), await tripById(pool, accountOf(request), body.other)];
    if (trip.water_id !== water.id || !other) throw notFound('trip');
    if (other.water_id !== water.id || other.id === trip.id) throw new RequestError('belongs-elsewhere', {}, 'other');
    return { change: await transaction(pool, (client) => mergeTrips(client, trip, other, deviceOf(request))) };
  });
  on(router, 'POST /waters/:water/trips/:trip/unmerge', async ({ request, body }) => {
    await waterOf(pool, request);
    const trip = await tripOf(pool, request);
    const done = await transaction(pool, (client) => unmergeTrips(client, trip.id, body.change, deviceOf(request)));
    if (!done) throw notFound('change');
    return { done: 'split' };
  });
  on(router, 'POST /waters/:water/trips/:trip/split', async ({ request, body }) => {
    await waterOf(pool, request);
    const trip = await tripOf(pool, request);
    const { at, id } = body;
    if (Date.parse(at) <= Date.parse(trip.start) || (trip.end !== null && Date.parse(at) >= Date.parse(trip.end)))
      throw new RequestError('not-within-trip', {}, 'at');
    await transaction(pool, async (client) => {
      if ((await client.query('SELECT 1 FROM trips WHERE id = $1', [id])).rowCount) throw new RequestError('belongs-elsewhere', {}, 'id');
      await splitTrip(client, trip, at, id, deviceOf(request));
    });
    return written(id, 'added');
  });
  on(router, 'GET /trips/:trip/changes', async ({ request }) => changesOf(pool, (await tripOf(pool, request)).id));
  on(router, 'GET /trips/running', async ({ request }) => {
    return await runningTrips(pool, accountOf(request));
  });
  on(router, 'GET /trips/:trip', async ({ request }) => {
    const trip = await tripOf(pool, request);
    const [track, stops, contacts, responses, photos] = await Promise.all([
      trackOf(pool, trip.id),
      stopsOf(pool, trip.id),
      contactsOf(pool, trip.id),
      responsesOf(pool, trip.id),
      photosOf(pool, trip.id),
    ]);
    return { trip, track, stops, contacts, responses, photos };
  });
  /** Stores a record of a trip, with what follows from it. */
  const put = async (client: Client, trip: TripRow, edit: Omit<Put, 'trip'>): Promise<'added' | 'changed' | 'same'> => {
    const outcome = await putRecord(client, { ...edit, trip: trip.id });
    if (outcome !== 'same' && typeof edit.row.species === 'string') await learnSpecies(client, trip.water_id, [edit.row.species]);
    return outcome;
  };
  /** Puts a record into the trash, or takes it out. @returns whether that changed anything */
  const bin = async (client: Client, trip: string, { record, id, done, device }: Binned): Promise<boolean> => {
    const { rowCount } = await client.query(
      `UPDATE ${record} SET deleted_at = ${done === 'deleted' ? 'now()' : 'NULL'}, version = version + 1
        WHERE id = $1 AND trip_id = $2 AND (deleted_at IS NULL) = $3`,
      [id, trip, done === 'deleted'],
    );
    if (rowCount) await noteChange(client, { trip, record, record_id: id, device, done, before: null, after: null });
    return Boolean(rowCount);
  };
  for (const record of WITH_ID) {
    on(router, `PUT /trips/:trip/${record}/:id`, async ({ request, response, body }) => {
      const id = await idOf(request);
      const trip = await tripOf(pool, request);
      const edit = { record, id, row: body as Row, base: baseOf(request), device: deviceOf(request) };
      const done = await transaction(pool, async (client) => {
        const outcome = await put(client, trip, edit);
        if (outcome !== 'same') await touchTrips(client, [trip.id]);
        return outcome;
      });
      if (done === 'added') response.status(201);
      return { id, done };
    });
    for (const [route, done] of [
      [`DELETE /trips/:trip/${record}/:id`, 'deleted'],
      [`POST /trips/:trip/${record}/:id/restore`, 'restored'],
    ] as const)
      on(router, route, async ({ request }) => {
        const id = await idOf(request);
        const trip = await tripOf(pool, request);
        return transaction(pool, async (client) => {
          const changed = await bin(client, trip.id, { record, id, done, device: deviceOf(request) });
          if (changed) await touchTrips(client, [trip.id]);
          return written(id, changed ? done : 'same');
        });
      });
  }
  on(router, 'POST /trips/:trip/records', async ({ request, body: { edits } }) => {
    const trip = await tripOf(pool, request);
    const device = deviceOf(request);
    const checked = await Promise.all(
      edits.map(async (edit) => ({ ...edit, id: edit.id.toLowerCase(), row: edit.done === 'put' ? ((await ROWS[edit.record].validate(edit.row)) as Row) : {} })), // prettier-ignore
    );
    return transaction(pool, async (client) => {
      let changed = 0;
      for (const { record, id, done, row } of checked)
        if (done === 'put' ? (await put(client, trip, { record, id, row, base: null, device })) !== 'same' : await bin(client, trip.id, { record, id, done, device })) changed++; // prettier-ignore
      if (changed) await touchTrips(client, [trip.id]);
      return { changed };
    });
  });
  on(router, 'POST /trips/:trip/track', async ({ request, body }) => {
    const trip = await tripOf(pool, request);
    return { added: await addRows(pool, trip.id, 'track', body as Row[]) };
  });
  // The mode of a stretch of the track, corrected afterwards: what was taken for looking was under way, or the other way round.
  on(router, 'PUT /trips/:trip/track/mode', async ({ request, body }) => {
    const trip = await tripOf(pool, request);
    const { from, to, mode } = body;
    if (from > to) throw new RequestError('field-wrong', { reason: 'is later than to' }, 'from');
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
    return { changed: changed.rowCount ?? 0 };
  });
  on(router, 'POST /trips/:trip/conditions', async ({ request, body }) => {
    const trip = await tripOf(pool, request);
    return { added: await addRows(pool, trip.id, 'conditions', [body as Row]) };
  });
  on(router, 'POST /trips/:trip/profiles', async ({ request, body }) => {
    const trip = await tripOf(pool, request);
    return { added: await addRows(pool, trip.id, 'profiles', body as Row[]) };
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
