import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { basename } from 'node:path';
import { strFromU8, Unzip, UnzipInflate } from 'fflate';
import { FormatError } from '@restless-shoal/core/formats';
import { transaction, type Client, type Pool } from '../db/pool';
import { FORMAT, TABLES, type Manifest } from './tables';

/** Rows that go in at a time. */
const BATCH = 5000;

/** This installation holds a logbook already. */
export class NotEmptyError extends Error {}

/** Takes the rows of one table in, as they come out of the ZIP. */
class TableReader {
  private rest = '';
  private lines: string[] = [];
  private readonly decoder = new TextDecoder('utf-8', { fatal: true });
  private readonly hash = createHash('sha256');
  rows = 0;
  sha256 = '';

  constructor(
    private readonly client: Client,
    private readonly table: string,
  ) {}

  async take(chunk: Uint8Array, last: boolean): Promise<void> {
    this.hash.update(chunk);
    const text = this.rest + this.decoder.decode(chunk, { stream: !last });
    const end = text.lastIndexOf('\n');
    this.rest = text.slice(end + 1);
    if (end >= 0) this.lines.push(...text.slice(0, end).split('\n'));
    while (this.lines.length >= BATCH || (last && this.lines.length)) await this.insert(this.lines.splice(0, BATCH));
    if (!last) return;
    if (this.rest) throw new FormatError(`${this.table}.ndjson is cut short`);
    this.sha256 = this.hash.digest('hex');
  }

  private async insert(lines: string[]): Promise<void> {
    const columns = Object.keys(JSON.parse(lines[0]) as object).map((c) => `"${c.replaceAll('"', '')}"`);
    const list = columns.join(', ');
    await this.client.query(
      `INSERT INTO ${this.table} (${list}) OVERRIDING SYSTEM VALUE SELECT ${list} FROM json_populate_recordset(NULL::${this.table}, $1::json)`,
      [`[${lines.join(',')}]`],
    );
    this.rows += lines.length;
  }
}

/** Hands out the files of a ZIP one after the other, piece by piece, without holding them. */
async function eachFile(path: string, take: (file: string, piece: Uint8Array, last: boolean) => Promise<void>): Promise<void> {
  const pieces: { file: string; piece: Uint8Array; last: boolean }[] = [];
  let failed: Error | null = null;
  const unzip = new Unzip((file) => {
    file.ondata = (error, piece, last) => {
      if (error) failed = error;
      else pieces.push({ file: file.name, piece, last });
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  const drain = async (): Promise<void> => {
    if (failed) throw failed;
    for (const { file, piece, last } of pieces.splice(0)) await take(file, piece, last);
  };
  for await (const chunk of createReadStream(path, { highWaterMark: 1 << 18 }) as AsyncIterable<Buffer>) {
    unzip.push(new Uint8Array(chunk));
    await drain();
  }
  unzip.push(new Uint8Array(0), true);
  await drain();
}

/**
 * Brings a backup into an empty installation, all of it or nothing: every file is checked against the manifest before
 * anything stays.
 * @throws FormatError when it is no backup, cut short or changed; NotEmptyError when there is a logbook here already
 */
export async function readBackup(pool: Pool, path: string): Promise<Manifest> {
  const name = basename(path);
  return transaction(pool, async (client) => {
    await client.query('LOCK TABLE waters IN ACCESS EXCLUSIVE MODE');
    const { rows } = await client.query<{ n: number }>('SELECT count(*) AS n FROM waters');
    if (rows[0].n > 0)
      throw new NotEmptyError('there is a logbook here already: a backup is restored into an empty installation (--data DIR)');
    await client.query('DELETE FROM job_progress');
    await client.query('DELETE FROM accounts');
    const readers = new Map<string, TableReader>();
    let manifestText = '';
    try {
      await eachFile(path, async (file, piece, last) => {
        if (file === 'manifest.json') {
          manifestText += strFromU8(piece);
          return;
        }
        const table = TABLES.find((t) => `${t.table}.ndjson` === file)?.table;
        if (!table) throw new FormatError(`${name}: ${file} belongs to no backup that this version knows`);
        let reader = readers.get(file);
        if (!reader) readers.set(file, (reader = new TableReader(client, table)));
        await reader.take(piece, last);
      });
    } catch (error) {
      if (error instanceof FormatError || (error as { code?: string }).code === 'ENOENT') throw error;
      throw new FormatError(`${name} is no backup that can be read: ${(error as Error).message}`);
    }
    const manifest = checked(name, manifestText, readers);
    const { rows: known } = await client.query('SELECT 1 FROM migrations WHERE name = $1', [manifest.schema]);
    if (!known.length) throw new FormatError(`${name} comes from a newer version (${manifest.schema}); update this one first`);
    for (const table of ['surveys', 'covers'])
      await client.query(`SELECT setval(pg_get_serial_sequence('${table}', 'id'), (SELECT coalesce(max(id), 0) + 1 FROM ${table}), false)`);
    // Devices that hold marks since the backup offer them again when they see another epoch.
    await client.query('UPDATE installation SET epoch = gen_random_uuid()');
    return manifest;
  });
}

function checked(name: string, text: string, readers: Map<string, TableReader>): Manifest {
  let manifest: Manifest;
  try {
    manifest = JSON.parse(text) as Manifest;
  } catch {
    throw new FormatError(`${name} is no backup, or is cut short: it has no manifest`);
  }
  if (manifest.format !== FORMAT) throw new FormatError(`${name} is no backup that this version knows: its format is "${manifest.format}"`);
  for (const { file, rows, sha256 } of manifest.files) {
    const reader = readers.get(file);
    // A file without a row has no piece to read.
    if (!reader && rows === 0) continue;
    if (!reader || reader.sha256 !== sha256 || reader.rows !== rows)
      throw new FormatError(`${name}: ${file} is not what the manifest says`);
  }
  return manifest;
}
