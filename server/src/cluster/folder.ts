import { createHash } from 'node:crypto';
import { accessSync, chmodSync, constants, existsSync, mkdirSync, statSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import { spawnSync } from 'node:child_process';
import { ToldError } from '../told-error';

/** Something is missing or in the way; the message says what and what to do. */
export class SetUpError extends ToldError {}

/** Who runs PostgreSQL: this user, or `postgres` where this user is root (PostgreSQL refuses root). */
export interface DatabaseUser {
  name: string | null;
  uid: number | null;
  gid: number | null;
}

export function databaseUser(): DatabaseUser {
  if (process.getuid?.() !== 0) return { name: null, uid: null, gid: null };
  const id = (flag: string): number => {
    const found = spawnSync('id', [flag, 'postgres'], { encoding: 'utf8' });
    if (found.status !== 0)
      throw new SetUpError("there is no user 'postgres' to run the database as (root may not); install Debian's postgresql package");
    return Number(found.stdout);
  };
  return { name: 'postgres', uid: id('-u'), gid: id('-g') };
}

/** Whether the database's user can pass through every folder down to `dir`. */
function mayEnter(dir: string, user: DatabaseUser): boolean {
  if (user.uid == null) return true;
  for (let at = dir; ; at = dirname(at)) {
    if (existsSync(at)) {
      const s = statSync(at);
      const bit = s.uid === user.uid ? 0o100 : s.gid === user.gid ? 0o010 : 0o001;
      if (!(s.mode & bit)) return false;
    }
    if (dirname(at) === at) return true;
  }
}

/** Where everything of an installation lies. */
export interface DataFolder {
  dir: string;
  /** The private cluster: inside `dir`, or under /var/lib where the database's user may not enter `dir`. */
  cluster: string;
  elsewhere: boolean;
}

/** Makes the data folder. @throws SetUpError when it cannot be made or written */
export function openDataFolder(path: string, user: DatabaseUser): DataFolder {
  const dir = resolve(path);
  try {
    // What is made here is for its owner alone; the database's user has to pass through where it is another.
    const made = mkdirSync(dir, { recursive: true, mode: 0o755 });
    if (made !== undefined) chmodSync(dir, user.uid == null ? 0o700 : 0o711);
    accessSync(dir, constants.W_OK);
  } catch (error) {
    throw new SetUpError(`the data folder ${dir} cannot be written: ${(error as Error).message}; choose another with --data`);
  }
  if (mayEnter(dir, user)) return { dir, cluster: join(dir, 'postgresql'), elsewhere: false };
  const name = `${basename(dir).replace(/[^\w-]/g, '_')}-${createHash('sha256').update(dir).digest('hex').slice(0, 12)}`;
  return { dir, cluster: join('/var/lib/restless-shoal', name), elsewhere: true };
}
