import { createHash } from 'node:crypto';
import { createWriteStream, mkdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { seeded } from '@restless-shoal/core/numbers';
import { checkBackup, readBackup } from '../server/src/backup';
import { FORMAT } from '../server/src/backup/tables';
import { openContext } from '../server/src/cli/context';
import { writeZip } from '../server/src/zip';
import { benchFolder, finish, held, seconds } from './support';

// Ten thousand small backups whose packed bytes hold the signatures of a ZIP's parts, read back, some into a database;
// and one of 1 GB made and restored by the commands in bounded memory.

const SMALL = Number(process.argv[2] ?? 10_000);
const MARKS = Number(process.argv[3] ?? 800_000);
/** Every so many is restored into a database as well. */
const RESTORED = 50;

const SIGNATURES = ['PK\u0001\u0002', 'PK\u0003\u0004', 'PK\u0005\u0006', 'PK\u0007\b', 'PK\u0006\u0006', 'PK', 'P'];
const folder = benchFolder();
const results: boolean[] = [];
const random = seeded(3);
const any = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];

/** Text that is not packed any smaller, full of signatures. */
function notes(): string {
  let text = '';
  for (let k = Math.floor(random() * 40); k > 0; k--)
    text += random() < 0.5 ? any(SIGNATURES) : String.fromCharCode(33 + Math.floor(random() * 90), 0x100 + Math.floor(random() * 500));
  return text;
}

const id = (k: number, n: number): string => `00000000-0000-7000-8000-${k.toString(16).padStart(4, '0')}${n.toString(16).padStart(8, '0')}`;

const context = await openContext(join(folder.path, 'small'));
const { pool } = context;
const { rows: schemas } = await pool.query<{ name: string }>('SELECT name FROM migrations ORDER BY name DESC LIMIT 1');

/** A small logbook as a backup. */
async function write(path: string): Promise<void> {
  const [account, water] = [id(1, 1), id(2, 1)];
  const trips = Array.from({ length: 1 + Math.floor(random() * 3) }, (_, t) => ({ id: id(3, t), water_id: water, trip: `T${t} ${notes()}`, start: '2026-05-02T06:00:00+00:00', notes: notes() })); // prettier-ignore
  const contacts = trips.flatMap(
    (trip, t) =>
    Array.from({ length: Math.floor(random() * 6) }, (_, c) => ({ id: id(4, 100 * t + c), trip_id: trip.id, contact: `${c}`, time: '2026-05-02T06:30:00+00:00', latitude: 48.2, longitude: -34.6, kind: 'fish', notes: notes() })), // prettier-ignore
  );
  const tables: [string, object[]][] = [
    ['accounts', [{ id: account, name: 'local' }]],
    ['waters', [{ id: water, account_id: account, name: `Mere ${notes()}` }]],
    ['trips', trips],
    ['contacts', contacts],
  ];
  const files: { file: string; rows: number; sha256: string }[] = [];
  await writeZip(createWriteStream(path), async (add) => {
    for (const [table, rows] of tables) {
      const body = Buffer.from(rows.map((row) => `${JSON.stringify(row)}\n`).join(''));
      files.push({ file: `${table}.ndjson`, rows: rows.length, sha256: createHash('sha256').update(body).digest('hex') });
      await add(`${table}.ndjson`, body.length ? [body] : []);
    }
    await add('manifest.json', [Buffer.from(JSON.stringify({ format: FORMAT, schema: schemas[0].name, files }))]);
  });
}

/** Runs a command of the application. @returns s, and the most memory that it used, MB */
function command(...args: string[]): Promise<{ took: number; memory: number }> {
  const began = performance.now();
  const child = spawn(process.execPath, [fileURLToPath(new URL('./main.mjs', import.meta.url)), ...args], { stdio: 'inherit' });
  let memory = 0;
  const looking = setInterval(() => {
    try {
      memory = Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1] ?? memory * 1024) / 1024;
    } catch {
      // It has just ended.
    }
  }, 100);
  return new Promise((done, failed) =>
    child.on('close', (code) => {
      clearInterval(looking);
      if (code === 0) done({ took: (performance.now() - began) / 1000, memory });
      else failed(new Error(`${args[0]} ended with ${code}`));
    }),
  );
}

try {
  let [unread, otherwise, restored] = [0, 0, 0];
  const path = join(folder.path, 'small.zip');
  for (let k = 0; k < SMALL; k++) {
    await write(path);
    if (!(await checkBackup(path).catch(() => null))) unread++;
    if (k % RESTORED === 0) {
      restored++;
      for (const table of ['contacts', 'trips', 'waters']) await pool.query(`DELETE FROM ${table}`);
      const said = await readBackup(pool, path).catch((error: Error) => void console.log(error.message));
      const { rows } = await pool.query<{ n: number }>('SELECT count(*) AS n FROM contacts');
      if (!said || rows[0].n !== said.files[3].rows) otherwise++;
    }
  }
  console.log(`${SMALL} small backups, ${restored} of them into a database`);
  results.push(held('small backups that cannot be read', unread, '<=', 0), held('restored otherwise', otherwise, '<=', 0));

  const large = join(folder.path, 'large');
  const from = await openContext(large);
  await from.pool.query(`INSERT INTO waters (id, account_id, name) VALUES ($1, $2, 'Long mere')`, [id(2, 1), from.account]);
  await from.pool.query(
    `INSERT INTO trips (id, water_id, trip, start) SELECT ('00000000-0000-7000-8000-0003' || lpad(to_hex(t), 8, '0'))::uuid, $1, 'T' || t, '2026-05-02T06:00:00Z'::timestamptz + t * interval '1 day' FROM generate_series(1, 400) t`,
    [id(2, 1)],
  );
  // Notes that cannot be packed: the size of the file is that of what went in.
  await from.pool.query(
    `INSERT INTO contacts (id, trip_id, contact, time, latitude, longitude, kind, notes)
       SELECT ('00000000-0000-7000-8000-0004' || lpad(to_hex(c), 8, '0'))::uuid, ('00000000-0000-7000-8000-0003' || lpad(to_hex(1 + c % 400), 8, '0'))::uuid,
              c::text, '2026-05-02T06:30:00Z', 48.2, -34.6, 'fish', (SELECT string_agg(encode(sha512((c || ':' || k)::bytea), 'base64'), '') FROM generate_series(1, 20) k)
         FROM generate_series(1, $1::int) c`,
    [MARKS],
  );
  await from.close();
  const file = join(folder.path, 'large.zip');
  const made = await command('backup', file, '--data', large);
  rmSync(large, { recursive: true, force: true });
  const size = statSync(file).size / 1e9;
  mkdirSync(join(folder.path, 'again'));
  const back = await command('restore', file, '--data', join(folder.path, 'again'));
  console.log(`a backup of ${size.toFixed(2)} GB: made in ${seconds(made.took)}, restored in ${seconds(back.took)}`);
  results.push(
    held('size of the large backup', size, '>=', MARKS / 800_000, ' GB'),
    held('memory to make it', made.memory, '<=', 500, ' MB'),
    held('memory to restore it', back.memory, '<=', 500, ' MB'),
  );
} finally {
  await context.close();
  folder.remove();
}
finish(results);
