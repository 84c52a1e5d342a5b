import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { copyOut } from '../db/copy-out';
import type { Pool } from '../db/pool';
import { onDisk } from '../files';
import { writeZip } from '../zip';
import { checkBackup } from './read';
import { FORMAT, TABLES, type Manifest } from './tables';

const BLOCK = 1 << 18;

/**
 * Writes the whole logbook as one ZIP of newline-delimited JSON, a file a table, and a manifest with the number of rows
 * and the SHA-256 of each. All of one moment, and the same bytes for the same logbook. The file has its name only once
 * it is whole, on the disk, and was read back.
 */
export async function writeBackup(pool: Pool, to: string, signal?: AbortSignal): Promise<Manifest> {
  const part = join(dirname(to), `.${basename(to)}.${randomUUID().slice(0, 8)}.part`);
  const client = await pool.connect();
  let broken = true;
  try {
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    const { rows: schema } = await client.query<{ name: string }>('SELECT name FROM migrations ORDER BY name DESC LIMIT 1');
    const manifest: Manifest = { format: FORMAT, schema: schema[0].name, files: [] };
    await writeZip(
      createWriteStream(part, { flags: 'wx', mode: 0o600 }),
      async (add) => {
        for (const { table, order } of TABLES) {
          const hash = createHash('sha256');
          let rows = 0;
          // As CSV with quotes that no text holds, a line is the JSON as it is.
          const stream = copyOut(
            client,
            `SELECT row_to_json(t)::text FROM ${table} t ORDER BY ${order}`,
            `(FORMAT csv, QUOTE E'\\x01', DELIMITER E'\\x02')`,
          );
          const counted = async function* (): AsyncGenerator<Uint8Array> {
            for await (const block of blocks(stream)) {
              for (const byte of block) if (byte === 10) rows++;
              hash.update(block);
              yield block;
            }
          };
          await add(`${table}.ndjson`, counted());
          manifest.files.push({ file: `${table}.ndjson`, rows, sha256: hash.digest('hex') });
        }
        await add('manifest.json', [Buffer.from(`${JSON.stringify(manifest, null, 1)}\n`)]);
      },
      signal,
    );
    await client.query('COMMIT');
    broken = false;
    onDisk(part);
    await checkBackup(part);
    await rename(part, to);
    onDisk(dirname(to));
    return manifest;
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  } finally {
    // A table that was read half is not read on: its connection goes.
    client.release(broken);
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
