import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { toString as qrCode } from 'qrcode';
import { Backups } from '../backup';
import { holdLock, SetUpError } from '../cluster';
import { makeApp } from '../http/app';
import { hasPassword, setPassword } from '../db/sign-in';
import { fingerprint, inUrl, isEverywhere, ownAddresses, ownNames, readCertificate } from '../listen';
import { readablePassword } from './password';
import { watersWantingCharts } from '../db/charts';
import { emptyTrash } from '../db/trash';
import { waterByName } from '../db/waters';
import { Feed } from '../feed';
import { demoFiles, demoName } from '../import/demo';
import { bringDemo } from '../http/demo';
import { Uploads } from '../import/uploads';
import { Jobs } from '../jobs/queue';
import { importAndSay } from './import';
import { openContext, type Context } from './context';
import { codeOf } from '../jobs/derivations';

const pages = fileURLToPath(new URL('../../web/dist', import.meta.url));

/** Where the server is that holds a data folder; null where it has not said so yet. */
function servedAt(note: string): string | null {
  try {
    return (JSON.parse(readFileSync(note, 'utf8')) as { address?: string }).address ?? null;
  } catch {
    return null;
  }
}

/** Brings in the demo's sound and river while the lake is looked at. */
async function loadFurther({ pool, account }: Context, jobs: Jobs): Promise<void> {
  for (const which of ['sound', 'river'] as const)
    if (!(await waterByName(pool, account, demoName(which)))) await bringDemo(jobs, account, which);
}

async function loadDemo(context: Context): Promise<void> {
  const DEMO_NAME = demoName('lake');
  if (await waterByName(context.pool, context.account, DEMO_NAME)) {
    console.log(`demo water: ${DEMO_NAME} is loaded already`);
    return;
  }
  console.log(`demo water: making ${DEMO_NAME} and two seasons of its log …`);
  const sources = demoFiles('lake').map(({ name, text }) => ({ name, bytes: () => [new TextEncoder().encode(text)] }));
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
export async function serveCommand(options: ServeOptions): Promise<void> {
  // What has to be let go of at the end, the last taken first.
  const undo: (() => unknown)[] = [];
  const opening = openContext(options.data).then((context) => {
    undo.push(() => context.close());
    return context;
  });
  let closing: Promise<void> | null = null;
  const close = (): Promise<void> =>
    (closing ??= (async () => {
      // A start is not broken off in the middle of starting the database: that is seen through, and undone.
      await opening.catch(() => undefined);
      while (undo.length)
        await Promise.resolve()
          .then(undo.pop()!)
          .catch((error: Error) => console.error(error.message));
    })());
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
    process.on(signal, () => {
      if (!closing) console.log(`${signal}: stopping`);
      void close().then(() => process.exit(0));
    });
  // A slip in one request is no reason to leave all the others without a server.
  process.on('unhandledRejection', (error) => console.error(`fault: ${error instanceof Error ? error.stack : String(error)}`));
  try {
    await serveWith(await opening, options, undo);
  } catch (error) {
    // What breaks because it is being stopped is no fault.
    const stopped = closing !== null;
    await close();
    if (!stopped) throw error;
  }
}

async function serveWith(context: Context, { port, demo, listen, cert, key }: ServeOptions, undo: (() => unknown)[]): Promise<void> {
  const { pool, account, database } = context;
  const { dir } = database.folder;
  const note = join(dir, 'serving.json');
  // One server a folder: held as long as this process lives.
  const held = await holdLock(dir, 'serving');
  if (!held)
    throw new SetUpError(
      `this data is served already, at ${servedAt(note) ?? 'an address that is not known yet'}; stop that one first, or give another --data`,
    );
  undo.push(() => held.release());
  database.said.forEach((line) => console.log(line));
  database.keepUp((line) => console.error(line));
  const certificate = listen === null ? null : readCertificate(dir, { cert, key });
  if (demo) await loadDemo(context);
  const jobs = new Jobs({
    pool,
    url: database.url,
    uploads: new Uploads(join(dir, 'uploads')),
    ahead: process.env.SHOAL_AHEAD !== 'off',
    log: (line) => console.error(line),
  });
  undo.push(() => jobs.stop());
  await jobs.start();
  // What was imported while no server ran, or left by one that was killed.
  for (const water of await watersWantingCharts(pool, account, codeOf('chart'))) await jobs.startChart(account, water);
  await jobs.fitAllAhead(account);
  if (demo && process.env.SHOAL_AHEAD !== 'off')
    loadFurther(context, jobs).catch((error: Error) => console.error(`demo waters: ${error.message}`));
  // What has lain in the trash for long enough goes at a start, and once a day of a server that runs on.
  const sweep = (): Promise<unknown> => emptyTrash(pool).catch((error: Error) => console.error(`trash: ${error.message}`));
  await sweep();
  setInterval(() => void sweep(), 86_400_000).unref();
  const scratch = join(dir, 'scratch');
  rmSync(scratch, { recursive: true, force: true });
  const backups = new Backups(pool, dir, (line) => console.error(line));
  backups.start();
  undo.push(() => backups.stop());
  const feed = new Feed(join(dir, 'feed.json'));
  undo.push(() => feed.stop());
  const server = certificate ? createSecureServer({ cert: certificate.cert, key: certificate.key }) : createServer();
  undo.push(() => {
    server.close();
    server.closeAllConnections();
  });
  const bound = { port };
  const scheme = certificate ? 'https' : 'http';
  const names = listen === null ? ['127.0.0.1', 'localhost', '::1'] : [...new Set([listen, ...ownNames()])];
  // Where another device finds it: the given address, or each that this machine has.
  const reachable = listen === null ? [] : isEverywhere(listen) ? ownAddresses() : [listen];
  const addresses = (): string[] => reachable.map((name) => `https://${inUrl(name)}:${bound.port}`);
  server.on(
    'request',
    makeApp({
      pool,
      jobs,
      backups,
      scratch,
      feed,
      pages,
      reach: () => ({ scheme, hosts: names.map((name) => `${inUrl(name)}:${bound.port}`) }),
      listening: certificate && { addresses, authority: certificate.authority },
      log: (line) => console.error(line),
    }),
  );
  bound.port = await listenAt(server, port, listen);
  const address = addresses()[0] ?? `${scheme}://127.0.0.1:${bound.port}`;
  undo.push(() => rmSync(note, { force: true }));
  writeFileSync(note, JSON.stringify({ pid: process.pid, address }));
  console.log(`Restless Shoal is at ${address}`);
  if (certificate) await sayHowToComeIn(context, certificate.authority, addresses());
  console.log(`data: ${dir} · Ctrl-C stops it`);
}

/** Listens, or says in words why not. @returns the port */
async function listenAt(server: Server, port: number, listen: string | null): Promise<number> {
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
  return (server.address() as { port: number }).port;
}

/** Tells whoever sits here how another device comes in. */
async function sayHowToComeIn({ pool, account }: Context, authority: string | null, [address, ...others]: string[]): Promise<void> {
  for (const other of others) console.log(`or at ${other}`);
  if (!(await hasPassword(pool, account))) {
    const password = readablePassword();
    await setPassword(pool, account, password);
    console.log(`no password was set yet: it is now ${password} (change it with ./shoal password)`);
  }
  if (authority)
    console.log(`authority.pem has the SHA-256 fingerprint ${fingerprint(authority)}: compare it on a phone before it is trusted`);
  if (process.stdout.isTTY) console.log(await qrCode(address, { type: 'terminal', small: true }));
}
