import { createHash } from 'node:crypto';
import { expect } from 'chai';
import { readdirSync, readFileSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import type { BackupsState } from '@restless-shoal/core/contract';
import { newId } from '@restless-shoal/core/logbook';
import { TABLES } from '../src/backup/tables';
import { ask, command, connectTo, prepareWater, serve, temporaryFolder, typed } from '../../e2e/harness';

const [data, fresh, files] = [temporaryFolder(), temporaryFolder(), temporaryFolder()];
const at = (name: string): string => join(files.path, name);
const first = at('first.zip');
const into = (folder: { path: string }, ...args: string[]): ReturnType<typeof command> => command(...args, '--data', folder.path);
after(() => [data, fresh, files].forEach((f) => f.remove()));

/** Asks the database of a folder, while something serves it. */
async function inDatabase(folder: { path: string }, sql: string): Promise<unknown[]> {
  const server = await serve(folder.path);
  const client = await connectTo(folder.path);
  try {
    return (await client.query<Record<string, unknown>>(sql)).rows;
  } finally {
    await client.end();
    await server.stop();
  }
}

async function until(holds: () => boolean | Promise<boolean>, what: string): Promise<void> {
  for (const end = Date.now() + 30_000; !(await holds()); await new Promise((done) => setTimeout(done, 100)))
    if (Date.now() > end) throw new Error(`waited in vain until ${what}`);
}

/** A backup with one of its files changed. */
function tampered(name: string, change: (files: Record<string, Uint8Array>) => void): string {
  const parts = unzipSync(readFileSync(first));
  change(parts);
  writeFileSync(at(name), zipSync(parts));
  return at(name);
}

describe('backup and restore', () => {
  before(async () => {
    await prepareWater(data.path, 3, 4);
    // A second water, without an outline: the one that is proposed for it comes back as it was.
    expect((await into(data, 'import', '--water', 'Zürölt mere', '--create', join(data.path, 'logbook', 'soundings.csv'))).code).to.equal(
      0,
    );
    // A place on the plan belongs to the logbook, too.
    const server = await serve(data.path);
    const [{ id }] = (await (await fetch(`${server.url}/api/waters`)).json()) as { id: string }[];
    const planned = await fetch(`${server.url}/api/waters/${id}/plan`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ places: [{ id: newId(), name: 'Hump', latitude: 48.18, longitude: -34.59, depth_m: 5 }] }),
    });
    expect(planned.status).to.equal(201);
    await server.stop();
    const { code, text } = await into(data, 'backup', first);
    expect(code, text).to.equal(0);
    expect(text).to.match(/2 waters.*4 trips/);
  });

  it('the file is a ZIP of one line of JSON a record, with a manifest that counts them', () => {
    const parts = unzipSync(readFileSync(first));
    const manifest = JSON.parse(strFromU8(parts['manifest.json'])) as { files: { file: string; rows: number }[] };
    for (const { file, rows } of manifest.files) {
      const lines = strFromU8(parts[file]).split('\n').filter(Boolean);
      expect(lines.length, file).to.equal(rows);
      for (const line of lines) expect(() => JSON.parse(line) as unknown, file).not.to.throw();
    }
    expect(manifest.files.find((f) => f.file === 'contacts.ndjson')!.rows).to.be.above(20);
    expect(manifest.files.find((f) => f.file === 'plan_places.ndjson')!.rows).to.equal(1);
  });
  it('holds every table that is not made from others, and opens no door', () => {
    const folder = join(import.meta.dirname, '../migrations');
    const made = readdirSync(folder).flatMap((file) =>
      [...readFileSync(join(folder, file), 'utf8').matchAll(/CREATE TABLE (\w+)/g)].map(([, table]) => table),
    );
    // Derived, of the installation itself, or secret.
    const left = ['installation', 'charts', 'looks', 'packed_logbooks', 'trip_lines', 'models', 'job_progress', 'passwords', 'sessions'];
    expect(made.filter((table) => !left.includes(table)).sort()).to.deep.equal(TABLES.map((t) => t.table).sort());
  });
  it('of a version that knew less goes in as well', async () => {
    const older = tampered('older.zip', (p) => {
      delete p['plan_places.ndjson'];
      const manifest = JSON.parse(strFromU8(p['manifest.json'])) as {
        schema: string;
        files: { file: string; sha256: string }[];
      };
      // What was set of a strategy was kept under another name.
      const species = strFromU8(p['species.ndjson']).replace('"isForage"', '"schools": {"depth.weight": 0.5}, "isForage"');
      p['species.ndjson'] = strToU8(species);
      manifest.files.find((f) => f.file === 'species.ndjson')!.sha256 = createHash('sha256').update(species).digest('hex');
      manifest.schema = '0003-sign-in.sql';
      manifest.files = manifest.files.filter((f) => f.file !== 'plan_places.ndjson');
      p['manifest.json'] = strToU8(JSON.stringify(manifest));
    });
    const before = temporaryFolder();
    try {
      const { code, text } = await into(before, 'restore', older);
      expect(code, text).to.equal(0);
      expect(text).to.match(/[1-9]\d* looks/);
      const again = at('renewed.zip');
      expect((await into(before, 'backup', again)).code).to.equal(0);
      const species = strFromU8(unzipSync(readFileSync(again))['species.ndjson']);
      expect(species).to.include('"strategies": {"depth.weight": 0.5}').and.not.include('"schools":');
    } finally {
      before.remove();
    }
  });
  it('what is no backup, is cut short, or was changed on the way, is refused, and nothing stays', async () => {
    const cut = at('cut.zip');
    writeFileSync(cut, readFileSync(first).subarray(0, 40_000));
    const other = at('other.zip');
    writeFileSync(other, zipSync({ 'soundings.csv': strToU8('time\n') }));
    for (const [file, words] of [
      [cut, /cut\.zip/],
      [other, /it has no manifest/],
      [
        tampered('less.zip', (p) => (p['track.ndjson'] = p['track.ndjson'].slice(0, p['track.ndjson'].indexOf(10) + 1))),
        /not what the manifest says/,
      ],
      [
        tampered(
          'new.zip',
          (p) => (p['manifest.json'] = strToU8(strFromU8(p['manifest.json']).replace(/"schema": "[^"]*"/, '"schema": "9999-later.sql"'))),
        ),
        /newer version/,
      ],
      [at('nowhere.zip'), /there is no file/],
    ] as const) {
      const { code, text } = await into(fresh, 'restore', file);
      expect(code, file).to.equal(1);
      expect(text).to.match(words);
    }
  });
  it('brought into an empty installation it is the same logbook: byte for byte on the next backup, charted and looked at', async () => {
    const { code, text } = await into(fresh, 'restore', first);
    expect(code, text).to.equal(0);
    expect(text).to.match(/chart of \d+ cells, [1-9]\d* looks/);
    const again = at('again.zip');
    expect((await into(fresh, 'backup', again)).code).to.equal(0);
    expect(readFileSync(again).equals(readFileSync(first))).to.equal(true);
  });
  it('goes into an installation where a password was set and nothing else: the password stays', async () => {
    const locked = temporaryFolder();
    try {
      expect(await typed('eleven grey herons', locked.path, 'password')).to.equal(0);
      const { code, text } = await into(locked, 'restore', first);
      expect(code, text).to.equal(0);
      const passwords = await inDatabase(locked, 'SELECT account_id FROM passwords');
      expect(passwords).to.deep.equal(await inDatabase(locked, 'SELECT id AS account_id FROM accounts'));
      expect(passwords).to.have.length(1);
    } finally {
      locked.remove();
    }
  });
  it('is made by itself once a day while something is logged, is kept so many times, and its age is told', async () => {
    const server = await serve(data.path);
    try {
      const state = (): Promise<BackupsState> => ask(server, '/backups');
      expect(await state()).to.deep.include({ keep: 7, daily: true, last: null, folder: join(data.path, 'backups') });
      const elsewhere = at('kept');
      await ask(server, '/backups', 'PUT', { folder: elsewhere, keep: 2, daily: true });
      for (let k = 0; k < 3; k++) {
        await ask(server, '/backups', 'POST');
        await new Promise((done) => setTimeout(done, 1100));
      }
      expect(readdirSync(elsewhere)).to.have.length(2);
      expect(Date.now() - Date.parse((await state()).last!.at)).to.be.within(0, 60_000);
      // One that was made while the clock was years ahead goes before the one just made.
      const ahead = join(elsewhere, 'restless-shoal-2099-01-01T000000.zip');
      writeFileSync(ahead, 'any');
      utimesSync(ahead, 4_070_908_800, 4_070_908_800);
      const before = readdirSync(elsewhere);
      await ask(server, '/backups', 'POST');
      const kept = readdirSync(elsewhere);
      expect(kept).to.have.length(2).and.not.include('restless-shoal-2099-01-01T000000.zip');
      expect(kept.filter((name) => !before.includes(name))).to.have.length(1);
      const wrong = await ask<{ detail: string; field: string }>(server, '/backups', 'PUT', { folder: 'here', keep: 2, daily: true });
      expect(wrong.field).to.equal('folder');
    } finally {
      await server.stop();
    }
  });
  it('downloads that are broken off hold nothing up', async () => {
    const server = await serve(data.path);
    let said = '';
    server.process.stderr!.on('data', (piece: Buffer) => (said += piece.toString()));
    try {
      for (let k = 0; k < 30; k++) {
        const stop = new AbortController();
        const asked = fetch(`${server.url}/api/backup`, { signal: stop.signal }).catch(() => null);
        await new Promise((done) => setTimeout(done, 10 * (k % 7)));
        stop.abort();
        await asked;
      }
      // The last of them may still be giving its connection back.
      await until(async () => (await ask<{ ok?: boolean }>(server, '/health')).ok === true, 'the server was well');
      await until(() => readdirSync(join(data.path, 'scratch')).length === 0, 'nothing was left');
      expect(said).to.equal('');
    } finally {
      await server.stop();
    }
  });
  it('goes into no installation that holds a logbook, and overwrites no file', async () => {
    const { code, text } = await into(data, 'restore', first);
    expect(code).to.equal(1);
    expect(text).to.include('a logbook here already');
    expect((await into(data, 'backup', first)).text).to.include('is there already');
  });
  it('the page hands out the same file, and a server that runs while a backup is restored has it at once', async () => {
    const running = temporaryFolder();
    const server = await serve(running.path);
    try {
      const epoch = async (): Promise<string> => ((await (await fetch(`${server.url}/api/health`)).json()) as { epoch: string }).epoch;
      const before = await epoch();
      expect((await into(running, 'restore', first)).code).to.equal(0);
      expect(await epoch()).not.to.equal(before);
      expect((await (await fetch(`${server.url}/api/waters`)).json()) as unknown[]).to.have.length(2);
      const handed = Buffer.from(await (await fetch(`${server.url}/api/backup`)).arrayBuffer());
      expect(handed.equals(readFileSync(first))).to.equal(true);
    } finally {
      await server.stop();
      running.remove();
    }
  });
});
