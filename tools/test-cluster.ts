import pg from 'pg';
import { openDatabase } from '../server/src/cluster';
import { migrate } from '../server/src/db/migrate';
import { openPool } from '../server/src/db/pool';
import { BLANK } from '../e2e/shared-cluster';

// The PostgreSQL of a run of all tests: says where it is asked, and runs until its input ends. What it holds need not
// survive anything.

const [data] = process.argv.slice(2);
const at = (url: string, database: string): string => Object.assign(new URL(url), { pathname: database }).href;

async function administer(url: string, ...statements: string[]): Promise<void> {
  const client = new pg.Client({ connectionString: at(url, 'postgres') });
  await client.connect();
  for (const sql of statements) await client.query(sql);
  await client.end();
}

const first = await openDatabase(data);
const quick = ['fsync = off', 'full_page_writes = off', 'synchronous_commit = off', 'max_connections = 400'];
await administer(first.url, ...quick.map((setting) => `ALTER SYSTEM SET ${setting}`));
await first.release();
const database = await openDatabase(data);
await administer(database.url, `CREATE DATABASE ${BLANK}`);
const pool = openPool(at(database.url, BLANK));
await migrate(pool);
await pool.end();
process.stdin.resume();
process.stdin.on('end', () => void database.release());
console.log(at(database.url, 'postgres'));
