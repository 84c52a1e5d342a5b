import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Readable } from 'node:stream';
import { FormatError } from '@restless-shoal/core/formats';
import { isId } from '@restless-shoal/core/logbook';
import { findSources, type Source } from './sources';

const DAY = 86_400_000;

/** Files that were sent and wait to be imported: spooled to disk first, so that a killed server can take the job up again. */
export class Uploads {
  constructor(readonly folder: string) {}

  private of(upload: string): string {
    if (!isId(upload)) throw new FormatError('upload is not a UUID');
    return join(this.folder, upload.toLowerCase());
  }

  /** Takes a file in; it has its name only once it is whole. */
  async take(upload: string, name: string, body: Readable): Promise<number> {
    const clean = basename(name).replace(/\p{Cc}/gu, '');
    if (!clean || clean.startsWith('.') || clean.length > 200) throw new FormatError(`"${name}" is no name of a file`);
    const folder = this.of(upload);
    await mkdir(folder, { recursive: true });
    const part = join(folder, `.${clean}.part`);
    try {
      await pipeline(body, createWriteStream(part));
    } catch (error) {
      await rm(part, { force: true });
      throw error;
    }
    await rename(part, join(folder, clean));
    return (await stat(join(folder, clean))).size;
  }

  /** The files of an upload. @throws FormatError when there are none */
  async sources(upload: string): Promise<Source[]> {
    const folder = this.of(upload);
    const names = (await readdir(folder).catch(() => [])).filter((name) => !name.startsWith('.')).sort();
    if (!names.length) throw new FormatError('no file was sent');
    return findSources(names.map((name) => join(folder, name)));
  }

  async drop(upload: string): Promise<void> {
    await rm(this.of(upload), { recursive: true, force: true });
  }

  /** Clears away what was sent more than two days ago and never imported. @param wanted what imports still wait for */
  async tidy(wanted: string[]): Promise<void> {
    for (const name of await readdir(this.folder).catch(() => [])) {
      if (wanted.some((upload) => upload.toLowerCase() === name)) continue;
      const path = join(this.folder, name);
      if (Date.now() - (await stat(path)).mtimeMs > 2 * DAY) await rm(path, { recursive: true, force: true });
    }
  }
}
