import type { StoredGear } from '@restless-shoal/core/contract';
import { columnsOf, type Row } from '@restless-shoal/core/logbook';
import { quoted, type Queryable } from './pool';

const COLUMNS = columnsOf('gear');

/** What an account fishes with, by kind and name. */
export const gearOf = async (db: Queryable, account: string): Promise<StoredGear[]> =>
  (
    await db.query<StoredGear>(
      `SELECT id, version, ${COLUMNS.map(quoted).join(', ')} FROM gear WHERE account_id = $1 AND deleted_at IS NULL ORDER BY kind, lower(name), name`,
      [account],
    )
  ).rows;

/** Adds a piece of gear under its id, or changes it. @returns 'taken' where another of its kind has its name, 'elsewhere' where another account has its id */
export async function putGear(
  db: Queryable,
  account: string,
  id: string,
  row: Row,
): Promise<'added' | 'changed' | 'same' | 'taken' | 'elsewhere'> {
  const { rows } = await db.query<{ id: string; account_id: string }>(
    'SELECT id, account_id FROM gear WHERE id = $1 OR (account_id = $2 AND kind = $3 AND lower(name) = lower($4) AND deleted_at IS NULL)',
    [id, account, row.kind, row.name],
  );
  const own = rows.find((r) => r.id === id);
  if (own && own.account_id !== account) return 'elsewhere';
  if (rows.some((r) => r.id !== id)) return 'taken';
  const values = COLUMNS.map((c) => row[c] ?? null);
  const places = values.map((_, k) => `$${k + 3}`).join(', ');
  const { rowCount } = await db.query(
    `INSERT INTO gear (id, account_id, ${COLUMNS.map(quoted).join(', ')}) VALUES ($1, $2, ${places})
     ON CONFLICT (id) DO UPDATE SET ${COLUMNS.map((c) => `${quoted(c)} = EXCLUDED.${quoted(c)}`).join(', ')}, version = gear.version + 1
     WHERE (${COLUMNS.map((c) => `gear.${quoted(c)}`).join(', ')}) IS DISTINCT FROM (${COLUMNS.map((c) => `EXCLUDED.${quoted(c)}`).join(', ')})`,
    [id, account, ...values],
  );
  return !rowCount ? 'same' : own ? 'changed' : 'added';
}

/** Puts a piece of gear into the trash, or takes it out. @returns 'taken' where another has its name meanwhile */
export async function binGear(
  db: Queryable,
  account: string,
  id: string,
  gone: boolean,
): Promise<'deleted' | 'restored' | 'same' | 'taken'> {
  if (!gone) {
    const other = await db.query(
      `SELECT 1 FROM gear g JOIN gear o ON o.account_id = g.account_id AND o.kind = g.kind AND lower(o.name) = lower(g.name) AND o.id <> g.id AND o.deleted_at IS NULL
        WHERE g.id = $1 AND g.account_id = $2`,
      [id, account],
    );
    if (other.rowCount) return 'taken';
  }
  const { rowCount } = await db.query(
    `UPDATE gear SET deleted_at = ${gone ? 'now()' : 'NULL'} WHERE id = $1 AND account_id = $2 AND (deleted_at IS NULL) = $3`,
    [id, account, gone],
  );
  return rowCount ? (gone ? 'deleted' : 'restored') : 'same';
}
