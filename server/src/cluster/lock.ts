import { createHash } from 'node:crypto';
import { statSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { setTimeout as sleep } from 'node:timers/promises';
import { SetUpError } from './folder';

/** Something that one process at a time may hold. */
export interface Held {
  release(): Promise<void>;
}

/** How long a command waits for another that starts or stops the database, ms. */
const PATIENCE = 120_000;

/**
 * Holds a lock of a folder, or says that another process does. It is a socket of the kernel's own name space (Linux), which
 * is gone with the process however that ends: nothing is left behind by a kill, and no file can be stale or foreign.
 * @param what which lock of the folder
 * @returns null when another process holds it
 */
export async function holdLock(dir: string, what: string): Promise<Held | null> {
  const { dev, ino } = statSync(dir, { bigint: true });
  const name = `\0restless-shoal-${createHash('sha256').update(`${dev}:${ino}:${what}`).digest('hex').slice(0, 32)}`;
  const server = await new Promise<Server | null>((done, failed) => {
    const socket = createServer((connection) => connection.destroy());
    socket.once('error', (error: NodeJS.ErrnoException) => (error.code === 'EADDRINUSE' ? done(null) : failed(error)));
    socket.listen(name, () => done(socket));
  });
  server?.unref();
  return server && { release: () => new Promise<void>((done) => server.close(() => done())) };
}

/** Does something that only one process at a time may do with a folder. @throws SetUpError when another does not get done with it */
export async function withLock<T>(dir: string, what: string, work: () => Promise<T>): Promise<T> {
  for (const end = Date.now() + PATIENCE; ; await sleep(100)) {
    const held = await holdLock(dir, what);
    if (held)
      try {
        return await work();
      } finally {
        await held.release();
      }
    if (Date.now() > end)
      throw new SetUpError(
        `another command has been ${what} in ${dir} for two minutes; end it (it is one of the programs named node) and try again`,
      );
  }
}
