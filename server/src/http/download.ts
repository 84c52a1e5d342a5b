import { randomUUID } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Response } from 'express';
import pLimit from 'p-limit';

/** Each file that is being made holds a database connection: the others are for those who mark and look. */
const atOnce = pLimit(2);

/**
 * Makes a file and hands it out once it is whole: who asks gets all of it or an error, never a part that looks complete.
 * Few are made at a time, the others wait their turn. Making it ends when nobody waits for it any more.
 * @param scratch the folder for it; it is gone afterwards
 */
export async function sendMade(
  response: Response,
  scratch: string,
  name: string,
  make: (path: string, signal: AbortSignal) => Promise<unknown>,
): Promise<void> {
  const stop = new AbortController();
  response.on('close', () => stop.abort());
  await mkdir(scratch, { recursive: true, mode: 0o700 });
  const path = join(scratch, `${randomUUID()}.zip`);
  const remove = (): Promise<void> => rm(path, { force: true });
  try {
    await atOnce(async () => {
      stop.signal.throwIfAborted();
      await make(path, stop.signal);
    });
  } catch (error) {
    await remove();
    if (stop.signal.aborted) return;
    throw error;
  }
  if (stop.signal.aborted) return remove();
  response.download(path, name, { cacheControl: false }, () => void remove());
}
