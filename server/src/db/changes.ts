import type { Change } from '@restless-shoal/core/contract';
import type { Row } from '@restless-shoal/core/logbook';
import type { Queryable } from './pool';

/** What is noted of a change, before it has a time. */
export type Noted = Omit<Change, 'id' | 'at'> & { trip: string };

/** Notes what was made of a trip or a record, so that it can be read later who changed what. @returns its id */
export const noteChange = async (db: Queryable, { trip, record, record_id, device, done, before, after }: Noted): Promise<string> =>
  (
    await db.query<{ id: string }>(
      'INSERT INTO changes (trip_id, record, record_id, device, done, before, after) VALUES ($1, $2, $3, $4, $5, $6, $7) RETURNING id',
      [trip, record, record_id, device, done, before && JSON.stringify(before), after && JSON.stringify(after)],
    )
  ).rows[0].id;

/** The changes of a trip and its records, last first. */
export const changesOf = async (db: Queryable, trip: string): Promise<Change[]> =>
  (
    await db.query<Change>(
      `SELECT id, record, record_id, at, device, done, CASE WHEN done = 'merged' THEN NULL ELSE before END AS before, after FROM changes WHERE trip_id = $1 ORDER BY at DESC, id LIMIT 1000`,
      [trip],
    )
  ).rows;

const ISO = /^\d{4}-\d\d-\d\dT/;
/** Whether two values are one: a moment may be written in several ways. */
const same = (a: Row[string], b: Row[string]): boolean =>
  a === b || (typeof a === 'string' && typeof b === 'string' && ISO.test(a) && ISO.test(b) && Date.parse(a) === Date.parse(b));

/** The fields in which two rows differ, as they were and as they are. */
export function difference(before: Row, after: Row): { before: Row; after: Row } {
  const names = Object.keys(after).filter((name) => !same(before[name] ?? null, after[name] ?? null));
  const of = (row: Row): Row => Object.fromEntries(names.map((name) => [name, row[name] ?? null]));
  return { before: of(before), after: of(after) };
}
