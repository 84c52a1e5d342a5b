import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import pg from 'pg';

// In a run of all tests one PostgreSQL serves every data folder, a database each, copied from one that is up to date: a
// cluster of its own for each would take most of the time. What tests the cluster itself asks for its own.

/** From this every database is copied. */
export const BLANK = 'blank';

let ownClusters = false;

/** Whether data folders share a cluster here. */
export const sharesCluster = (): boolean => !ownClusters && Boolean(process.env.SHOAL_TEST_CLUSTER);

/** From now on each data folder has a PostgreSQL of its own, as an installation has, or shares one again. */
export const useOwnClusters = (own: boolean): void => void (ownClusters = own);

async function inCluster<T>(work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: process.env.SHOAL_TEST_CLUSTER });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** Copies a database. One that a command used a moment ago is let go of shortly. */
export async function copyDatabase(from: string, to: string): Promise<void> {
  await inCluster(async (client) => {
    for (const end = Date.now() + 30_000; ;) {
      try {
        await client.query(`CREATE DATABASE ${to} TEMPLATE ${from}`);
        return;
      } catch (error) {
        const { code } = error as { code?: string };
        // Another process was as quick.
        if (code === '42P04' || code === '23505') return;
        if (code !== '55006' || Date.now() > end) throw error;
        await sleep(100);
      }
    }
  });
}

export const hasDatabase = (name: string): Promise<boolean> =>
  inCluster(async (client) => Boolean((await client.query('SELECT 1 FROM pg_database WHERE datname = $1', [name])).rowCount));

/** The name of a data folder's database. */
export const databaseName = (data: string): string => `at_${createHash('sha256').update(data).digest('hex').slice(0, 24)}`;

/** Where the database of a data folder is asked, made where it is not there; empty where it has a cluster of its own. */
export async function databaseUrl(data: string | undefined): Promise<string> {
  if (data === undefined || !sharesCluster() || existsSync(join(data, 'postgresql'))) return '';
  const name = databaseName(data);
  if (!(await hasDatabase(name))) await copyDatabase(BLANK, name);
  return Object.assign(new URL(process.env.SHOAL_TEST_CLUSTER!), { pathname: name }).href;
}
