import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { Pool, Queryable } from './pool';

/** A device that was not seen for so long signs in anew. */
const FORGOTTEN = "interval '90 days'";

const digest = (token: string): Buffer => createHash('sha256').update(token).digest();

export const hasPassword = async (db: Queryable, account: string): Promise<boolean> =>
  Boolean((await db.query('SELECT 1 FROM passwords WHERE account_id = $1', [account])).rowCount);

/** Sets the password of an account; all who are signed in are signed out. */
export async function setPassword(pool: Pool, account: string, password: string): Promise<void> {
  const made = await hash(password);
  await pool.query(
    `WITH out AS (DELETE FROM sessions WHERE account_id = $1)
     INSERT INTO passwords (account_id, hash) VALUES ($1, $2) ON CONFLICT (account_id) DO UPDATE SET hash = EXCLUDED.hash, set_at = now()`,
    [account, made],
  );
}

/** Signs a device in. @returns what it has to show from now on; null when the password is wrong or none is set */
export async function signIn(db: Queryable, account: string, password: string): Promise<string | null> {
  const { rows } = await db.query<{ hash: string }>('SELECT hash FROM passwords WHERE account_id = $1', [account]);
  if (!rows.length || !(await verify(rows[0].hash, password))) return null;
  const token = randomBytes(32).toString('base64url');
  await db.query('INSERT INTO sessions (token, account_id) VALUES ($1, $2)', [digest(token), account]);
  await db.query(`DELETE FROM sessions WHERE seen_at < now() - ${FORGOTTEN}`);
  return token;
}

/** Whether a device is signed in. */
export async function isSignedIn(db: Queryable, account: string, token: string): Promise<boolean> {
  const { rowCount } = await db.query(`SELECT 1 FROM sessions WHERE token = $1 AND account_id = $2 AND seen_at >= now() - ${FORGOTTEN}`, [
    digest(token),
    account,
  ]);
  if (!rowCount) return false;
  // Once a day is enough to be remembered by.
  await db.query("UPDATE sessions SET seen_at = now() WHERE token = $1 AND seen_at < now() - interval '1 day'", [digest(token)]);
  return true;
}

export const signOut = async (db: Queryable, token: string): Promise<void> => {
  await db.query('DELETE FROM sessions WHERE token = $1', [digest(token)]);
};
