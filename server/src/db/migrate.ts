import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { transaction, type Client, type Pool } from './pool';

/** Where the migrations lie: beside what is built, and beside the sources. */
export const MIGRATIONS = fileURLToPath(new URL(import.meta.url.endsWith('.ts') ? '../../migrations' : '../migrations', import.meta.url));

/** Any number, the same in all copies: only one process migrates at a time. */
const LOCK = 7731_2026;

const filesOf = (folder: string): string[] =>
  readdirSync(folder)
    .filter((f) => /^\d{4}-.+\.sql$/.test(f))
    .sort();

/**
 * Brings the database up to date, forward only, all of it or nothing; the name of each file is noted.
 * @returns the names of the files that were run
 */
export async function migrate(pool: Pool, folder = MIGRATIONS): Promise<string[]> {
  const files = filesOf(folder);
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

/**
 * Changes rows that came out of an older backup as the migrations since have changed those that were here. Files that
 * change rows and no table end in .rows.sql; running one again does nothing.
 * @param schema the newest migration that the rows have seen
 */
export async function migrateRows(client: Client, schema: string): Promise<void> {
  for (const file of filesOf(MIGRATIONS))
    if (file > schema && file.endsWith('.rows.sql')) await client.query(readFileSync(join(MIGRATIONS, file), 'utf8'));
}
