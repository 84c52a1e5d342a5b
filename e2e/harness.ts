import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { makeLogbook } from '@restless-shoal/demo';

/** The built application; a bench, bundled elsewhere, says where it lies. */
export const main = process.env.SHOAL_MAIN ?? fileURLToPath(new URL('../server/dist/main.mjs', import.meta.url));

/** A folder that the database's user may enter, removed by `remove`. */
export function temporaryFolder(): { path: string; remove: () => void } {
  const path = mkdtempSync(join(tmpdir(), 'shoal-test-'));
  chmodSync(path, 0o755);
  return { path, remove: () => rmSync(path, { recursive: true, force: true }) };
}

export interface CommandResult {
  code: number | null;
  text: string;
}

/** Runs a command of the built application to its end. */
export const command = (...args: string[]): Promise<CommandResult> => commandIn(undefined, ...args);

/** The same, called from a folder. */
export function commandIn(cwd: string | undefined, ...args: string[]): Promise<CommandResult> {
  return new Promise((done) => {
    const child = spawn(process.execPath, [main, ...args], {
      cwd,
      env: { ...process.env, DATABASE_URL: '', SHOAL_AHEAD: process.env.SHOAL_AHEAD ?? 'off' },
    });
    let text = '';
    child.stdout.on('data', (d) => (text += d));
    child.stderr.on('data', (d) => (text += d));
    child.on('close', (code) => done({ code, text }));
  });
}

export interface RunningServer {
  url: string;
  process: ChildProcess;
  /** Sends a signal and waits for the end. */
  stop: (signal?: NodeJS.Signals) => Promise<number | null>;
}

/** Starts the built server on a free port and waits until it answers. */
export function serve(data: string, ...args: string[]): Promise<RunningServer> {
  return new Promise((done, failed) => {
    const child = spawn(process.execPath, [main, 'serve', '--port', '0', '--data', data, ...args], {
      env: { ...process.env, DATABASE_URL: '', SHOAL_AHEAD: process.env.SHOAL_AHEAD ?? 'off' },
    });
    let text = '';
    const ended = new Promise<number | null>((over) => child.on('close', over));
    const read = (d: Buffer): void => {
      text += d;
      const url = /is at (https?:\S+)/.exec(text)?.[1];
      if (url)
        done({
          url,
          process: child,
          stop: (signal = 'SIGTERM') => {
            child.kill(signal);
            return ended;
          },
        });
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    void ended.then(() => failed(new Error(`the server ended: ${text}`)));
  });
}

/** Writes a made-up water and its log as a folder. @returns the water's name */
export function writeLogbook(to: string, seed: number, trips: number): string {
  const { folder, world } = makeLogbook({ seed, trips });
  mkdirSync(to, { recursive: true });
  for (const [name, text] of folder) writeFileSync(join(to, name), text);
  return world.name;
}

/**
 * Fills a data folder with a made-up water and its log, imported and charted. In a run of all tests such a folder is
 * made once and copied, owners and all; two processes that make the same one at the same time both get one.
 * @returns the water's name
 */
export async function prepareWater(data: string, seed: number, trips: number): Promise<string> {
  const shelf = process.env.SHOAL_MADE_WATERS;
  const made = shelf === undefined ? null : join(shelf, `${seed}-${trips}`);
  const copy = (from: string, to: string): Buffer => execFileSync('cp', ['-a', `${from}/.`, to]);
  const { world } = makeLogbook({ seed, trips });
  if (made !== null && existsSync(made)) {
    copy(made, data);
    return world.name;
  }
  const folder = join(data, 'logbook');
  const name = writeLogbook(folder, seed, trips);
  const { code, text } = await command('import', '--data', data, '--water', name, '--create', folder);
  if (code !== 0) throw new Error(`the water was not imported: ${text}`);
  if (made !== null) {
    const part = mkdtempSync(`${made}.part-`);
    copy(data, part);
    try {
      renameSync(part, made);
    } catch {
      // Another process was as quick.
      rmSync(part, { recursive: true });
    }
  }
  return name;
}

/** Asks a running server's HTTP interface. */
export const ask = async <T>(server: { url: string }, path: string, method = 'GET', body?: unknown): Promise<T> =>
  (await (
    await fetch(`${server.url}/api${path}`, {
      method,
      headers: { 'Content-Type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    })
  ).json()) as T;

/** The trip that runs on the one water of a server, with its records. */
export async function runningTrip<T>(server: { url: string }): Promise<T> {
  const [water] = await ask<{ id: string }[]>(server, '/waters');
  const { trips } = await ask<{ trips: { id: string; end: string | null }[] }>(server, `/waters/${water.id}/log`);
  return ask<T>(server, `/trips/${trips.find((t) => t.end === null)!.id}`);
}
