import pg from 'pg';

// Times travel as ISO text, not as Date: the same text in files, tables, HTTP and core.
pg.types.setTypeParser(pg.types.builtins.TIMESTAMPTZ, (text) => new Date(text).toISOString());
pg.types.setTypeParser(pg.types.builtins.INT8, Number);
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text);

export type Pool = pg.Pool;
export type Client = pg.PoolClient;
/** Whatever can run a query: the pool or a client inside a transaction. */
export type Queryable = Pick<pg.Pool, 'query'>;

export function openPool(url: string): Pool {
  const pool = new pg.Pool({ connectionString: url, max: 12, options: '-c timezone=UTC' });
  // A connection that breaks while idle is replaced at the next query; without a listener it would end the process.
  pool.on('error', () => undefined);
  return pool;
}

/** Runs work in one transaction: all of it or nothing. */
export async function transaction<T>(pool: Pool, work: (client: Client) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  try {
    await client.query('BEGIN');
    const result = await work(client);
    await client.query('COMMIT');
    return result;
  } catch (error) {
    await client.query('ROLLBACK').catch(() => undefined);
    throw error;
  } finally {
    client.release();
  }
}

export const quoted = (name: string): string => `"${name}"`;
