import { Readable, type Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';

/** Every file in a ZIP carries the same day: the same content makes the same bytes. */
const DAY = new Date(1980, 0, 1);

/** Adds a file and waits until it is in. */
export type AddFile = (name: string, body: AsyncIterable<Uint8Array> | Iterable<Uint8Array>) => Promise<void>;

/**
 * Writes a ZIP as its files come, one after the other; packing runs beside. @param fill adds the files
 * @throws what `fill` or `out` throws; `out` is then destroyed
 */
export async function writeZip(out: Writable, fill: (add: AddFile) => Promise<void>, signal?: AbortSignal): Promise<void> {
  const zip = new ZipFile();
  const stop = new AbortController();
  const written = pipeline(zip.outputStream, out, { signal: signal ? AbortSignal.any([signal, stop.signal]) : stop.signal });
  let adding: Readable | null = null;
  const add: AddFile = (name, body) =>
    new Promise((done, failed) => {
      const file = (adding = Readable.from(body, { objectMode: false }));
      file
        .once('end', done)
        .once('error', failed)
        .once('close', () => failed(new Error(`${name} was not written to its end`)));
      zip.addReadStream(file, name, { mtime: DAY, forceDosTimestamp: true, compressionLevel: 6 });
    });
  const filled = fill(add).then(() => zip.end());
  try {
    await Promise.all([filled, written]);
  } catch (error) {
    // Whichever failed, the other waits for it and would do so for ever.
    stop.abort();
    (adding as Readable | null)?.destroy();
    await Promise.allSettled([filled, written]);
    throw error;
  }
}
