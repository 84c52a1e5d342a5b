import { setTimeout as sleep } from 'node:timers/promises';
import pg from 'pg';
import { Cluster, programs } from './cluster';
import { databaseUser, openDataFolder, type DataFolder } from './folder';
import { withLock } from './lock';

/** A database to work with, and how to let go of it. */
export interface Database {
  url: string;
  folder: DataFolder;
  /** What was done or reused, for people. */
  said: string[];
  /** From now on starts the database again whenever it ends. @param say is told when it ended and when it is back */
  keepUp(say: (line: string) => void): void;
  /** Stops what was started here, unless another command still uses it. */
  release(): Promise<void>;
}

/** What a command that uses a cluster calls the connection by which it is counted. */
const PRESENCE = 'restless-shoal: in use';

/** The longest pause between two tries to bring a database up again, ms. */
const LONGEST_PAUSE = 5000;

const STARTING = 'starting the database';

/**
 * Opens the database of a data folder: the one of DATABASE_URL, or the folder's private cluster, made and started
 * where needed. @throws SetUpError with what to do
 */
export async function openDatabase(dataDir: string): Promise<Database> {
  const user = process.env.DATABASE_URL ? { name: null, uid: null, gid: null } : databaseUser();
  const folder = openDataFolder(dataDir, user);
  if (process.env.DATABASE_URL)
    return {
      url: process.env.DATABASE_URL,
      folder,
      said: ['database: the one of DATABASE_URL'],
      keepUp: () => undefined,
      release: async () => undefined,
    };
  const cluster = new Cluster(folder, user, programs());
  const said: string[] = [];
  if (folder.elsewhere) said.push(`database: in ${folder.cluster}, since its user ${user.name} may not enter ${folder.dir}`);
  const lost = { tell: (): void => undefined };
  let presence = await withLock(folder.dir, STARTING, async () => {
    if (!cluster.exists) {
      await cluster.create();
      said.push('database: made a new one');
    } else said.push(`database: using the one that is there${cluster.running() ? ', already running' : ''}`);
    await cluster.start();
    await cluster.ensureDatabase();
    return beCounted(cluster.url(), () => lost.tell());
  });
  let released = false;
  /** Brings the database up and back, however long that takes. */
  const restore = async (say: (line: string) => void): Promise<void> => {
    say('database: it ended; it is started again');
    for (let pause = 200; !released; pause = Math.min(2 * pause, LONGEST_PAUSE)) {
      try {
        await withLock(folder.dir, STARTING, async () => {
          if (released) return;
          // Who uses it knows it by its port.
          await cluster.start(true);
          presence = await beCounted(cluster.url(), () => lost.tell());
        });
        say('database: it is back');
        return;
      } catch (error) {
        say(`database: ${(error as Error).message}`);
        await sleep(pause);
      }
    }
  };
  return {
    url: cluster.url(),
    folder,
    said,
    keepUp: (say) => {
      lost.tell = () => void restore(say);
    },
    release: async () => {
      released = true;
      lost.tell = () => undefined;
      await withLock(folder.dir, STARTING, async () => {
        await presence.end().catch(() => undefined);
        if (await isUnused(cluster.url())) await cluster.stop();
      });
    },
  };
}

/**
 * Counts this process among those that use a cluster, so that the last one out can stop it: by a connection of its own,
 * which goes with the process however that ends. @param lost is told when it breaks
 */
async function beCounted(url: string, lost: () => void): Promise<pg.Client> {
  const client = new pg.Client({ connectionString: url, application_name: PRESENCE, keepAlive: true });
  let counted = false;
  const end = (): void => {
    if (counted) lost();
    counted = false;
  };
  client.on('error', end);
  client.on('end', end);
  await client.connect();
  counted = true;
  return client;
}

/** Whether nobody else uses a cluster. One that does not answer is used by nobody. */
async function isUnused(url: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 5000 });
  client.on('error', () => undefined);
  try {
    await client.connect();
    // A connection that was ended a moment ago is counted until the database has seen to it.
    for (let tries = 0; tries < 10; tries++) {
      const { rows } = await client.query<{ pid: number }>('SELECT pid FROM pg_stat_activity WHERE application_name = $1', [PRESENCE]);
      if (!rows.length) return true;
      await sleep(20);
    }
    return false;
  } catch {
    return true;
  } finally {
    await client.end().catch(() => undefined);
  }
}
