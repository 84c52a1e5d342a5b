import { homedir } from 'node:os';
import { join } from 'node:path';
import { openDatabase, type Database } from '../cluster';
import { migrate } from '../db/migrate';
import { openPool, transaction, type Pool } from '../db/pool';
import { localAccount } from '../db/waters';
import { closeWorkers } from '../jobs/pool';

/** What every command works with. */
export interface Context {
  database: Database;
  pool: Pool;
  account: string;
  close(): Promise<void>;
}

/** Where data lies when --data is not given: the demo has a folder of its own. */
export const defaultData = (demo: boolean): string =>
  join(process.env.XDG_DATA_HOME || join(homedir(), '.local', 'share'), demo ? 'restless-shoal-demo' : 'restless-shoal');

/** The account of this installation, made by the first command that looks. */
const firstAccount = (pool: Pool): Promise<string> =>
  transaction(pool, async (client) => {
    await client.query('LOCK TABLE accounts IN SHARE ROW EXCLUSIVE MODE');
    return localAccount(client);
  });

/** Opens the database of a data folder and brings it up to date. */
export async function openContext(data: string): Promise<Context> {
  const database = await openDatabase(data);
  const pool = openPool(database.url);
  const close = async (): Promise<void> => {
    await closeWorkers();
    await pool.end().catch(() => undefined);
    await database.release();
  };
  try {
    const run = await migrate(pool);
    if (run.length) database.said.push(`database: brought up to date (${run.join(', ')})`);
    return { database, pool, account: await firstAccount(pool), close };
  } catch (error) {
    await close();
    throw error;
  }
}
