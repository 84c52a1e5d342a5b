import pg from 'pg';

// Times travel as ISO text, not as Date: the same text in files, tables, HTTP and core.
pg.types.setTypeParser(pg.types.builtins.TIMESTAMPTZ, (text) => new Date(text).toISOString());
pg.types.setTypeParser(pg.types.builtins.INT8, Number);
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text);

export type Pool = pg.Pool;
export type Client = pg.PoolClient;
/** Whatever can run a query: the pool or a client inside a transaction. */
export type Queryable = Pick<pg.Pool, 'query'>;

/** How long a query waits for a connection before it is told to try again, ms. */
const PATIENCE = 15_000;

export function openPool(url: string, max = 12): Pool {
  // The rows of one water lie scattered among those of others: reading them one by one is cheap from memory or a solid
  // disk, and must not be planned as for a turning one.
  const options = '-c timezone=UTC -c random_page_cost=1.1';
  const pool = new pg.Pool({ connectionString: url, max, options, connectionTimeoutMillis: PATIENCE });
  // A connection that breaks is replaced at the next query, and the query that it breaks fails by itself; without a
  // listener it would end the process, in use or not.
  pool.on('error', () => undefined);
  pool.on('connect', (client) => client.on('error', () => undefined));
  return pool;
}

/** Why a query could not be done at all, and not because of what it asked: to be tried again, or no room is left. */
export function databaseTrouble(error: unknown): 'away' | 'full' | null {
  const { code = '', message = '' } = (error ?? {}) as { code?: string; message?: string };
  if (['53100', 'ENOSPC', 'EDQUOT'].includes(code) || /No space left on device/.test(message)) return 'full';
  // Classes 08 (connection), 57P (shutting down, starting up) and 53 (too many connections, no memory); deadlocks.
  if (/^(08...|57P0[1-5]|53[023]00|40001|40P01|ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT)$/.test(code)) return 'away';
  return /^(Connection terminated|Client has encountered a connection error|timeout exceeded when trying to connect|Client was closed)/.test(
    message,
  )
    ? 'away'
    : null;
}

/** Runs work in one transaction: all of it or nothing. */
export async function transaction<T>(pool: Pool, work: (client: Client) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  let broken = false;
  try {
    await client.query('BEGIN');
    const result = await work(client);
    await client.query('COMMIT');
    return result;
  } catch (error) {
    await client.query('ROLLBACK').catch(() => undefined);
    broken = databaseTrouble(error) === 'away';
    throw error;
  } finally {
    client.release(broken);
  }
}

export const quoted = (name: string): string => `"${name}"`;
