import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { transaction, type Pool } from './pool';

/** Any number, the same in all copies: only one process migrates at a time. */
const LOCK = 7731_2026;

/**
 * Brings the database up to date, forward only. Each file runs in a transaction of its own with its name noted.
 * @returns the names of the files that were run
 */
export async function migrate(pool: Pool, folder: string): Promise<string[]> {
  const files = readdirSync(folder)
    .filter((f) => /^\d{4}-.+\.sql$/.test(f))
    .sort();
  const run: string[] = [];
  await transaction(pool, async (client) => {
    await client.query('SELECT pg_advisory_xact_lock($1)', [LOCK]);
    await client.query('CREATE TABLE IF NOT EXISTS migrations (name text PRIMARY KEY, run_at timestamptz NOT NULL DEFAULT now())');
    const done = new Set((await client.query<{ name: string }>('SELECT name FROM migrations')).rows.map((r) => r.name));
    const unknown = [...done].filter((name) => !files.includes(name));
    if (unknown.length) throw new Error(`the database was made by a newer version (it has ${unknown.join(', ')}); update the application`);
    for (const file of files) {
      if (done.has(file)) continue;
      await client.query(readFileSync(join(folder, file), 'utf8'));
      await client.query('INSERT INTO migrations (name) VALUES ($1)', [file]);
      run.push(file);
    }
  });
  return run;
}
