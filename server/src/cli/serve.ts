import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { makeLogbook, worldName } from '@restless-shoal/demo';
import { SetUpError } from '../cluster';
import { makeApp } from '../http/app';
import { watersWantingCharts } from '../db/charts';
import { waterByName } from '../db/waters';
import { Feed } from '../feed';
import { Uploads } from '../import/uploads';
import { Jobs } from '../jobs/queue';
import { importAndSay } from './import';
import { openContext, type Context } from './context';

const DEMO_SEED = 8;
const pages = fileURLToPath(new URL('../../web/dist', import.meta.url));

/** Notes who serves a data folder, so that a second start says where the first one is. */
function alreadyServing(file: string): string | null {
  if (!existsSync(file)) return null;
  const { pid, address } = JSON.parse(readFileSync(file, 'utf8')) as { pid: number; address: string };
  try {
    process.kill(pid, 0);
    return address;
  } catch {
    return null;
  }
}

async function loadDemo(context: Context): Promise<void> {
  const name = worldName(DEMO_SEED);
  if (await waterByName(context.pool, context.account, name)) {
    console.log(`demo water: ${name} is loaded already`);
    return;
  }
  console.log(`demo water: making ${name} and two seasons of its log …`);
  const { folder } = makeLogbook({ seed: DEMO_SEED });
  const sources = [...folder].map(([name, text]) => ({ name, bytes: () => [new TextEncoder().encode(text)] }));
  await importAndSay(context, sources, { water: name, create: true, update: false }, (line) => console.log(line));
}

/** Serves the application until a signal ends it. */
export async function serveCommand({ data, port, demo }: { data: string; port: number; demo: boolean }): Promise<void> {
  const context = await openContext(data);
  const note = join(context.database.folder.dir, 'serving.json');
  const serving = alreadyServing(note);
  if (serving) {
    await context.close();
    throw new SetUpError(`this data is served already, at ${serving}; stop that one first, or give another --data`);
  }
  let jobs: Jobs | null = null;
  const feed = new Feed(join(context.database.folder.dir, 'feed.json'));
  let closing = false;
  const server = createServer();
  const close = async (signal?: string): Promise<void> => {
    if (closing) return;
    closing = true;
    if (signal) console.log(`${signal}: stopping`);
    rmSync(note, { force: true });
    server.close();
    server.closeAllConnections();
    feed.stop();
    await jobs?.stop().catch(() => undefined);
    await context.close();
    if (signal) process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => void close(signal));
  try {
    context.database.said.forEach((line) => console.log(line));
    if (demo) await loadDemo(context);
    jobs = new Jobs({
      pool: context.pool,
      url: context.database.url,
      uploads: new Uploads(join(context.database.folder.dir, 'uploads')),
      log: (line) => console.error(line),
    });
    await jobs.start();
    // What was imported while no server ran, or left by one that was killed.
    for (const water of await watersWantingCharts(context.pool, context.account)) await jobs.startChart(context.account, water);
    const bound = { port };
    server.on('request', makeApp({ pool: context.pool, jobs, feed, pages, port: () => bound.port, log: (line) => console.error(line) }));
    await new Promise<void>((done, failed) => {
      server.once('error', (error: NodeJS.ErrnoException) =>
        failed(
          error.code === 'EADDRINUSE'
            ? new SetUpError(`port ${port} is taken by another program; choose another with --port`)
            : error.code === 'EACCES'
              ? new SetUpError(`port ${port} may not be used by this user; choose one above 1023 with --port`)
              : error,
        ),
      );
      server.listen(port, '127.0.0.1', done);
    });
    bound.port = (server.address() as { port: number }).port;
    const address = `http://127.0.0.1:${bound.port}`;
    writeFileSync(note, JSON.stringify({ pid: process.pid, address }));
    console.log(`Restless Shoal is at ${address}`);
    console.log(`data: ${context.database.folder.dir} · Ctrl-C stops it`);
  } catch (error) {
    await close();
    throw error;
  }
}
