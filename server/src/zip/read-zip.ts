import { crc32, createInflateRaw } from 'node:zlib';
import { pipeline, type Readable } from 'node:stream';
import { fromBufferPromise, openPromise, type Entry, type ZipFile } from 'yauzl';
import { FormatError } from '@restless-shoal/core/formats';

/** What a ZIP may come to. */
export interface ZipLimits {
  entries: number;
  /** All that is in it, unpacked, bytes. */
  bytes: number;
  /** How many times its packed size a file may have; small files are not asked. */
  ratio: number;
}

/** A file in a ZIP. Its bytes can be read more than once. */
export interface ZipEntry {
  /** With its folders. */
  name: string;
  size: number;
  /** @throws FormatError when what comes out is not what was packed */
  bytes(): AsyncIterable<Uint8Array>;
}

/** A file of other people: no table or map of a water packs better than this, nor holds more. */
const OF_OTHERS: ZipLimits = { entries: 5000, bytes: 8e9, ratio: 150 };

/** Below this no file is worth a question, bytes. */
const SMALL = 20_000_000;

/** How a file is packed that is packed at all (APPNOTE 4.4.5). */
const DEFLATED = 8;
/** Bytes that are unpacked at a time. */
const PIECE = 1 << 17;

const size = (bytes: number): string => (bytes < 1e9 ? `${Math.round(bytes / 1e6)} MB` : `${(bytes / 1e9).toFixed(1)} GB`);

/**
 * The files of a ZIP, as its central directory lists them. Nothing is unpacked yet.
 * @param zip a path, or the bytes themselves
 * @param file its name, for messages
 * @throws FormatError when it is broken or more than the limits allow
 */
export async function openZip(zip: string | Buffer, file: string, limits: ZipLimits = OF_OTHERS): Promise<ZipEntry[]> {
  const open = (): Promise<ZipFile> =>
    typeof zip === 'string'
      ? openPromise(zip, { lazyEntries: true, autoClose: false })
      : fromBufferPromise(zip, { lazyEntries: true, autoClose: false });
  const broken = (error: unknown): FormatError =>
    error instanceof FormatError ? error : new FormatError(`${file}: is not a ZIP that can be read: ${(error as Error).message}`);
  try {
    const archive = await open();
    try {
      const entries: ZipEntry[] = [];
      let total = 0;
      for await (const entry of listed(archive)) {
        if (entries.length >= limits.entries) throw new FormatError(`${file}: holds more than ${limits.entries} files; none was read`);
        total += entry.uncompressedSize;
        if (total > limits.bytes) throw new FormatError(`${file}: unpacks to more than ${size(limits.bytes)}; none of it was read`);
        if (entry.uncompressedSize > SMALL && entry.uncompressedSize > limits.ratio * Math.max(1, entry.compressedSize))
          throw new FormatError(
            `${file}: ${entry.fileName} unpacks to ${size(entry.uncompressedSize)}, ${Math.round(entry.uncompressedSize / Math.max(1, entry.compressedSize))} times its size: no table or map does; unpack it and name the file`,
          );
        if (entry.isEncrypted()) throw new FormatError(`${file}: ${entry.fileName} is encrypted; unpack it and name the file`);
        entries.push({ name: entry.fileName, size: entry.uncompressedSize, bytes: () => unpacked(open, entry, file) });
      }
      return entries;
    } finally {
      archive.close();
    }
  } catch (error) {
    throw broken(error);
  }
}

async function* listed(archive: ZipFile): AsyncGenerator<Entry> {
  for (let k = 0; k < archive.entryCount; k++)
    yield await new Promise<Entry>((done, failed) => {
      archive.once('entry', done);
      archive.once('error', failed);
      archive.readEntry();
    }).finally(() => archive.removeAllListeners());
}

/** The bytes of a file, its size and its checksum seen to. */
async function* unpacked(open: () => Promise<ZipFile>, entry: Entry, file: string): AsyncGenerator<Uint8Array> {
  const archive = await open();
  try {
    const packed = entry.compressionMethod === DEFLATED;
    const stream: Readable = await archive.openReadStreamPromise(entry, packed ? { decompress: false } : {});
    // Unpacked in large pieces: each costs whoever reads it something.
    const plain = packed ? pipeline(stream, createInflateRaw({ chunkSize: PIECE }), () => undefined) : stream;
    let [sum, length] = [0, 0];
    for await (const piece of plain as AsyncIterable<Buffer>) {
      sum = crc32(piece, sum);
      length += piece.length;
      // More than it says is a trap.
      if (length > entry.uncompressedSize) break;
      yield piece;
    }
    if (length !== entry.uncompressedSize)
      throw new FormatError(`${file}: ${entry.fileName} is damaged: its size is not what the ZIP says`);
    if (sum !== entry.crc32) throw new FormatError(`${file}: ${entry.fileName} is damaged: its checksum is wrong`);
  } catch (error) {
    if (error instanceof FormatError) throw error;
    throw new FormatError(`${file}: ${entry.fileName} is damaged or cut short: ${(error as Error).message}`);
  } finally {
    archive.close();
  }
}
