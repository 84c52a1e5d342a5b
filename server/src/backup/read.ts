import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { basename } from 'node:path';
import { FormatError } from '@restless-shoal/core/formats';
import { migrateRows } from '../db/migrate';
import { localAccount } from '../db/waters';
import { transaction, type Client, type Pool } from '../db/pool';
import { openZip, type ZipEntry, type ZipLimits } from '../zip';
import { FORMAT, TABLES, type Manifest } from './tables';
import { ToldError } from '../told-error';

/** Rows that go in at a time, and characters: a row may be a picture. */
const [BATCH, BATCH_LENGTH] = [5000, 30_000_000];

/** A backup is our own: it is as large as the logbook is, and rows that are alike pack well. */
const OWN: ZipLimits = { entries: 1000, bytes: Number.MAX_SAFE_INTEGER, ratio: Infinity };
/** A manifest is no longer than this, bytes. */
const LONGEST_MANIFEST = 1_000_000;

/** This installation holds a logbook already. */
export class NotEmptyError extends ToldError {}

interface Backup {
  manifest: Manifest;
  /** In the order of the manifest. */
  tables: { table: string; entry: ZipEntry; rows: number; sha256: string }[];
}

/** Opens a backup by its manifest. @throws FormatError when it is none, cut short, or of a version that is not known */
async function openBackup(path: string, name: string): Promise<Backup> {
  const entries = new Map((await openZip(path, name, OWN)).map((e) => [e.name, e]));
  const said = entries.get('manifest.json');
  if (!said) throw new FormatError(`${name} is no backup: it has no manifest`);
  if (said.size > LONGEST_MANIFEST) throw new FormatError(`${name} is no backup: its manifest is too long to be one`);
  const pieces: Uint8Array[] = [];
  for await (const piece of said.bytes()) pieces.push(piece);
  let manifest: Manifest;
  try {
    manifest = JSON.parse(Buffer.concat(pieces).toString('utf8')) as Manifest;
  } catch {
    throw new FormatError(`${name} is no backup: its manifest cannot be read`);
  }
  if (manifest.format !== FORMAT) throw new FormatError(`${name} is no backup that this version knows: its format is "${manifest.format}"`);
  entries.delete('manifest.json');
  const tables = manifest.files.map(({ file, rows, sha256 }) => {
    const entry = entries.get(file);
    const table = TABLES.find((t) => `${t.table}.ndjson` === file)?.table;
    if (!table) throw new FormatError(`${name}: ${file} belongs to no backup that this version knows`);
    if (!entry) throw new FormatError(`${name}: ${file} is missing`);
    entries.delete(file);
    return { table, entry, rows, sha256 };
  });
  for (const file of entries.keys()) throw new FormatError(`${name}: ${file} belongs to no backup that this version knows`);
  return { manifest, tables };
}

/**
 * Hands out the rows of a table, a line of JSON each, and checks them against the manifest.
 * @throws FormatError when they are not what the manifest says
 */
async function* linesOf({ table, entry, rows, sha256 }: Backup['tables'][number], name: string): AsyncGenerator<string[]> {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  const hash = createHash('sha256');
  let rest = '';
  let count = 0;
  for await (const piece of entry.bytes()) {
    hash.update(piece);
    const next = decoder.decode(piece, { stream: true });
    // A row may be as long as a picture: it is put together once.
    if (!next.includes('\n')) {
      rest += next;
      continue;
    }
    const text = rest + next;
    const end = text.lastIndexOf('\n');
    rest = text.slice(end + 1);
    const lines = text.slice(0, end).split('\n');
    count += lines.length;
    yield lines;
  }
  if (rest || count !== rows || hash.digest('hex') !== sha256)
    throw new FormatError(`${name}: ${table}.ndjson is not what the manifest says`);
}

/** Reads a backup from end to end. @throws FormatError when anything of it is not as it was written */
export async function checkBackup(path: string): Promise<Manifest> {
  const name = basename(path);
  const { manifest, tables } = await openBackup(path, name);
  for (const table of tables) for await (const lines of linesOf(table, name)) void lines;
  return manifest;
}

async function insert(client: Client, table: string, lines: string[]): Promise<void> {
  const columns = Object.keys(JSON.parse(lines[0]) as object).map((c) => `"${c.replaceAll('"', '')}"`);
  const list = columns.join(', ');
  await client.query(
    `INSERT INTO ${table} (${list}) OVERRIDING SYSTEM VALUE SELECT ${list} FROM json_populate_recordset(NULL::${table}, $1::json)`,
    [`[${lines.join(',')}]`],
  );
}

/**
 * Brings a backup into an empty installation, all of it or nothing: every file is checked against the manifest before
 * anything stays. A password that was set here stays; who was signed in signs in anew.
 * @throws FormatError when it is no backup, cut short or changed; NotEmptyError when there is a logbook here already
 */
export async function readBackup(pool: Pool, path: string): Promise<Manifest> {
  const name = basename(path);
  if (!existsSync(path)) throw new FormatError(`there is no file ${path}`);
  const { manifest, tables } = await openBackup(path, name);
  return transaction(pool, async (client) => {
    await client.query('LOCK TABLE waters IN ACCESS EXCLUSIVE MODE');
    const { rows } = await client.query<{ n: number }>('SELECT count(*) AS n FROM waters');
    if (rows[0].n > 0)
      throw new NotEmptyError('there is a logbook here already: a backup is restored into an empty installation (--data DIR)');
    const { rows: known } = await client.query('SELECT 1 FROM migrations WHERE name = $1', [manifest.schema]);
    if (!known.length) throw new FormatError(`${name} comes from a newer version (${manifest.schema}); update this one first`);
    const { rows: passwords } = await client.query<{ hash: string }>('SELECT hash FROM passwords LIMIT 1');
    for (const table of ['job_progress', 'sessions', 'passwords', ...TABLES.map((t) => t.table).reverse()])
      await client.query(`DELETE FROM ${table}`);
    for (const table of tables) {
      let waiting: string[] = [];
      let length = 0;
      for await (const lines of linesOf(table, name))
        for (const line of lines) {
          waiting.push(line);
          length += line.length;
          if (waiting.length < BATCH && length < BATCH_LENGTH) continue;
          await insert(client, table.table, waiting);
          [waiting, length] = [[], 0];
        }
      if (waiting.length) await insert(client, table.table, waiting);
    }
    await migrateRows(client, manifest.schema);
    for (const table of ['surveys', 'covers'])
      await client.query(`SELECT setval(pg_get_serial_sequence('${table}', 'id'), (SELECT coalesce(max(id), 0) + 1 FROM ${table}), false)`);
    const account = await localAccount(client);
    for (const { hash } of passwords) await client.query('INSERT INTO passwords (account_id, hash) VALUES ($1, $2)', [account, hash]);
    // Devices that hold marks since the backup offer them again when they see another epoch.
    await client.query('UPDATE installation SET epoch = gen_random_uuid()');
    return manifest;
  });
}
