import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { toString as qrCode } from 'qrcode';
import { SetUpError } from '../cluster';
import { makeApp } from '../http/app';
import { hasPassword, setPassword } from '../db/sign-in';
import { inUrl, isEverywhere, ownAddresses, ownNames, readCertificate } from '../listen';
import { readablePassword } from './password';
import { watersWantingCharts } from '../db/charts';
import { emptyTrash } from '../db/trash';
import { waterByName } from '../db/waters';
import { Feed } from '../feed';
import { DEMO_NAME, demoFiles } from '../import/demo';
import { Uploads } from '../import/uploads';
import { Jobs } from '../jobs/queue';
import { importAndSay } from './import';
import { openContext, type Context } from './context';

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
  if (await waterByName(context.pool, context.account, DEMO_NAME)) {
    console.log(`demo water: ${DEMO_NAME} is loaded already`);
    return;
  }
  console.log(`demo water: making ${DEMO_NAME} and two seasons of its log …`);
  const sources = demoFiles().map(({ name, text }) => ({ name, bytes: () => [new TextEncoder().encode(text)] }));
  let said = '';
  const onProgress = (share: number, words = ''): void => {
    const line = `  ${Math.round(100 * share)} % ${words}`;
    if (line !== said) console.log((said = line));
  };
  await importAndSay(context, sources, { water: DEMO_NAME, create: true, update: false }, (line) => console.log(line), { onProgress });
}

export interface ServeOptions {
  data: string;
  port: number;
  demo: boolean;
  /** Address to serve other devices at, over HTTPS and with a password; this machine alone without. */
  listen: string | null;
  cert?: string;
  key?: string;
}

/** Serves the application until a signal ends it. */
export async function serveCommand({ data, port, demo, listen, cert, key }: ServeOptions): Promise<void> {
  const context = await openContext(data);
  const note = join(context.database.folder.dir, 'serving.json');
  const serving = alreadyServing(note);
  if (serving) {
    await context.close();
    throw new SetUpError(`this data is served already, at ${serving}; stop that one first, or give another --data`);
  }
  let jobs: Jobs | null = null;
  const { dir } = context.database.folder;
  const feed = new Feed(join(dir, 'feed.json'));
  let closing = false;
  const certificate = await (async () => {
    try {
      return listen === null ? null : readCertificate(dir, { cert, key });
    } catch (error) {
      feed.stop();
      await context.close();
      throw error;
    }
  })();
  const server = certificate ? createSecureServer({ cert: certificate.cert, key: certificate.key }) : createServer();
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
      ahead: process.env.SHOAL_AHEAD !== 'off',
      log: (line) => console.error(line),
    });
    await jobs.start();
    // What was imported while no server ran, or left by one that was killed.
    for (const water of await watersWantingCharts(context.pool, context.account)) await jobs.startChart(context.account, water);
    await jobs.fitAllAhead(context.account);
    // What has lain in the trash for long enough goes at a start, and once a day of a server that runs on.
    const sweep = (): Promise<unknown> => emptyTrash(context.pool).catch((error: Error) => console.error(`trash: ${error.message}`));
    await sweep();
    setInterval(() => void sweep(), 86_400_000).unref();
    const bound = { port };
    const scheme = certificate ? 'https' : 'http';
    const names = listen === null ? ['127.0.0.1', 'localhost', '::1'] : [...new Set([listen, ...ownNames()])];
    // Where another device finds it: the given address, or each that this machine has.
    const reachable = listen === null ? [] : isEverywhere(listen) ? ownAddresses() : [listen];
    const addresses = (): string[] => reachable.map((name) => `https://${inUrl(name)}:${bound.port}`);
    server.on(
      'request',
      makeApp({
        pool: context.pool,
        jobs,
        feed,
        pages,
        reach: () => ({ scheme, hosts: names.map((name) => `${inUrl(name)}:${bound.port}`) }),
        listening: certificate && { addresses, authority: certificate.authority },
        log: (line) => console.error(line),
      }),
    );
    await new Promise<void>((done, failed) => {
      server.once('error', (error: NodeJS.ErrnoException) =>
        failed(
          error.code === 'EADDRINUSE'
            ? new SetUpError(`port ${port} is taken by another program; choose another with --port`)
            : error.code === 'EADDRNOTAVAIL'
              ? new SetUpError(`${listen} is no address of this machine; it has ${ownAddresses().join(', ') || 'none but loopback'}`)
              : error.code === 'EACCES'
                ? new SetUpError(`port ${port} may not be used by this user; choose one above 1023 with --port`)
                : error,
        ),
      );
      server.listen(port, listen ?? '127.0.0.1', done);
    });
    bound.port = (server.address() as { port: number }).port;
    const address = addresses()[0] ?? `${scheme}://127.0.0.1:${bound.port}`;
    writeFileSync(note, JSON.stringify({ pid: process.pid, address }));
    console.log(`Restless Shoal is at ${address}`);
    if (certificate) {
      for (const other of addresses().slice(1)) console.log(`or at ${other}`);
      if (!(await hasPassword(context.pool, context.account))) {
        const password = readablePassword();
        await setPassword(context.pool, context.account, password);
        console.log(`no password was set yet: it is now ${password} (change it with ./shoal password)`);
      }
      if (process.stdout.isTTY) console.log(await qrCode(address, { type: 'terminal', small: true }));
    }
    console.log(`data: ${context.database.folder.dir} · Ctrl-C stops it`);
  } catch (error) {
    await close();
    throw error;
  }
}
