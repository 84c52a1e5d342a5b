import { createHash } from 'node:crypto';
import { strToU8, Zip, ZipDeflate } from 'fflate';
import { to as copyTo } from 'pg-copy-streams';
import type { Pool } from '../db/pool';
import { FORMAT, TABLES, type Manifest } from './tables';

/** Every file of a backup carries the same day: the same logbook makes the same bytes. */
const DAY = new Date(1980, 0, 1);
const BLOCK = 1 << 18;

/**
 * Writes the whole logbook as one ZIP of newline-delimited JSON, a file a table, and a manifest with the number of rows
 * and the SHA-256 of each. All of one moment, and the same bytes for the same logbook.
 * @param take is handed the ZIP piece by piece and may make the writing wait
 */
export async function writeBackup(pool: Pool, take: (piece: Uint8Array) => Promise<void> | void): Promise<Manifest> {
  const pieces: Uint8Array[] = [];
  let failed: Error | null = null;
  const zip = new Zip((error, piece) => {
    if (error) failed = error;
    else pieces.push(piece);
  });
  const flush = async (): Promise<void> => {
    if (failed) throw failed;
    for (const piece of pieces.splice(0)) await take(piece);
  };
  const add = (name: string): ZipDeflate => {
    const file = new ZipDeflate(name, { level: 6 });
    file.mtime = DAY;
    zip.add(file);
    return file;
  };
  const client = await pool.connect();
  try {
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    const { rows: schema } = await client.query<{ name: string }>('SELECT name FROM migrations ORDER BY name DESC LIMIT 1');
    const manifest: Manifest = { format: FORMAT, schema: schema[0].name, files: [] };
    for (const { table, order } of TABLES) {
      const name = `${table}.ndjson`;
      const file = add(name);
      const hash = createHash('sha256');
      let rows = 0;
      // As CSV with quotes that no text holds, a line is the JSON as it is.
      const stream = client.query(
        copyTo(
          `COPY (SELECT row_to_json(t)::text FROM ${table} t ORDER BY ${order}) TO STDOUT (FORMAT csv, QUOTE E'\\x01', DELIMITER E'\\x02')`,
        ),
      );
      for await (const block of blocks(stream as AsyncIterable<Buffer>)) {
        for (const byte of block) if (byte === 10) rows++;
        hash.update(block);
        file.push(block);
        await flush();
      }
      file.push(new Uint8Array(0), true);
      manifest.files.push({ file: name, rows, sha256: hash.digest('hex') });
      await flush();
    }
    await client.query('COMMIT');
    const last = add('manifest.json');
    last.push(strToU8(`${JSON.stringify(manifest, null, 1)}\n`), true);
    zip.end();
    await flush();
    return manifest;
  } catch (error) {
    await client.query('ROLLBACK').catch(() => undefined);
    throw error;
  } finally {
    client.release();
  }
}

/** The same bytes in blocks of one size: what is packed must not depend on how the database cut it. */
async function* blocks(chunks: AsyncIterable<Buffer>): AsyncGenerator<Uint8Array> {
  let block = new Uint8Array(BLOCK);
  let filled = 0;
  for await (const chunk of chunks)
    for (let at = 0; at < chunk.length;) {
      const n = Math.min(chunk.length - at, BLOCK - filled);
      block.set(chunk.subarray(at, at + n), filled);
      at += n;
      filled += n;
      if (filled < BLOCK) continue;
      yield block;
      block = new Uint8Array(BLOCK);
      filled = 0;
    }
  if (filled) yield block.subarray(0, filled);
}
