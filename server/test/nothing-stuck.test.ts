import { expect } from 'chai';
import { spawn } from 'node:child_process';
import { existsSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import pg from 'pg';
import { newId } from '@restless-shoal/core/logbook';
import { ask, command, main, serve, temporaryFolder, type RunningServer } from '../../e2e/harness';
import { eachItsOwnCluster } from '../../e2e/own-clusters';

eachItsOwnCluster();
// Whatever ends when: the next start comes up, and a server that runs gets its database back.

const folders: { remove: () => void }[] = [];
const folder = (): string => {
  const made = temporaryFolder();
  folders.push(made);
  return made.path;
};
after(() => folders.forEach((f) => f.remove()));

const postmaster = (data: string): number => Number(readFileSync(join(data, 'postgresql/postmaster.pid'), 'utf8').split('\n')[0]);
const healthy = async (server: { url: string }): Promise<boolean> => (await fetch(`${server.url}/api/health`)).ok;

/** Begins to serve a folder and ends that with a signal some time later. */
async function startAndEnd(data: string, signal: NodeJS.Signals, after: number): Promise<void> {
  const child = spawn(process.execPath, [main, 'serve', '--port', '0', '--data', data], { stdio: 'ignore' });
  const gone = new Promise((done) => child.on('close', done));
  await Promise.race([sleep(after), gone]);
  child.kill(signal);
  await gone;
}

describe('a start that is ended at any moment', () => {
  const SIGNALS = ['SIGTERM', 'SIGHUP', 'SIGKILL'] as const;
  it('40 times over, from before the database is made: the next one comes up', async function () {
    this.timeout(600_000);
    const data = folder();
    const whole = 2500;
    for (let k = 0; k < 40; k++) {
      // Spread evenly over the start, in an order that is not that of time.
      await startAndEnd(data, SIGNALS[k % 3], (((k * 17) % 40) / 40) * whole);
      if (k % 5 !== 4) continue;
      const server = await serve(data);
      expect(await healthy(server), `after ${k + 1}`).to.equal(true);
      await server.stop(k % 2 ? 'SIGTERM' : 'SIGKILL');
    }
    const server = await serve(data);
    expect(await healthy(server)).to.equal(true);
    await server.stop();
  });
  it('leaves no lock: an empty or foreign file called starting is nothing to it', async () => {
    const data = folder();
    writeFileSync(join(data, 'starting'), '');
    writeFileSync(join(data, 'serving.json'), '');
    const server = await serve(data);
    expect(await healthy(server)).to.equal(true);
    await server.stop();
  });
});

describe('two starts and more', () => {
  it('six at once on one folder: one serves, five say where', async () => {
    const data = folder();
    const six = await Promise.allSettled(Array.from({ length: 6 }, () => serve(data)));
    const up = six.flatMap((s) => (s.status === 'fulfilled' ? [s.value] : []));
    const refused = six.flatMap((s) => (s.status === 'rejected' ? [(s.reason as Error).message] : []));
    expect(up, refused.join('\n')).to.have.length(1);
    for (const words of refused) expect(words).to.include('this data is served already');
    expect(await healthy(up[0])).to.equal(true);
    await up[0].stop();
  });
});

describe('what a start needs to know', () => {
  let data: string;
  before(() => (data = folder()));
  it('is the password of its database: emptied, it is set anew', async () => {
    const first = await serve(data);
    await ask(first, `/waters/${newId()}`, 'PUT', { name: 'Kept Mere', kind: 'lake', latitude: 48.2, longitude: -34.6 });
    await first.stop();
    writeFileSync(join(data, 'database.json'), '');
    const second = await serve(data);
    expect((await ask<{ name: string }[]>(second, '/waters')).map((w) => w.name)).to.deep.equal(['Kept Mere']);
    await second.stop('SIGKILL');
    // The same while the database still runs.
    writeFileSync(join(data, 'database.json'), '{"port": 1');
    const third = await serve(data);
    expect(await healthy(third)).to.equal(true);
    await third.stop();
  });
  it('is kept from others: folders that it makes are for their owner', async () => {
    const inner = join(data, 'made', 'here');
    const server = await serve(inner);
    expect(statSync(inner).mode & 0o077).to.equal(process.getuid?.() === 0 ? 0o011 : 0);
    expect(statSync(join(inner, 'database.json')).mode & 0o077).to.equal(0);
    await server.stop();
  });
  it('has page checksums in a new database', async () => {
    const { port, password } = JSON.parse(readFileSync(join(data, 'database.json'), 'utf8')) as { port: number; password: string };
    const server = await serve(data);
    const now = JSON.parse(readFileSync(join(data, 'database.json'), 'utf8')) as { port: number };
    expect(now.port, 'it stays where it was').to.equal(port);
    const client = new pg.Client({ host: '127.0.0.1', port, user: 'shoal', database: 'shoal', password });
    await client.connect();
    expect((await client.query<{ data_checksums: string }>('SHOW data_checksums')).rows[0].data_checksums).to.equal('on');
    await client.end();
    await server.stop();
  });
});

describe('a database that ends while it is written to', () => {
  const data = folder();
  let server: RunningServer;
  let trip: string;
  let said = '';
  before(async () => {
    server = await serve(data);
    server.process.stderr!.on('data', (piece: Buffer) => (said += piece.toString()));
    const water = newId();
    await ask(server, `/waters/${water}`, 'PUT', { name: 'Steady Mere', kind: 'lake', latitude: 48.2, longitude: -34.6 });
    trip = newId();
    await ask(server, `/waters/${water}/trips/${trip}`, 'PUT', { trip: 'one', start: '2026-05-02T06:00:00Z', end: null });
  });
  after(() => server.stop());

  /** Sends marks until each is taken, as a phone does. @returns answers that were neither taken nor "try again" */
  async function mark(count: number, done: { n: number }): Promise<number[]> {
    const odd: number[] = [];
    for (let k = 0; k < count; k++) {
      const id = newId();
      for (;;) {
        const response = await fetch(`${server.url}/api/trips/${trip}/contacts/${id}`, {
          method: 'PUT',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ contact: id, time: '2026-05-02T06:30:00Z', latitude: 48.2, longitude: -34.6, kind: 'fish' }),
        });
        if (response.ok) break;
        if (response.status !== 503) odd.push(response.status);
        if (odd.length > 5) return odd;
        await sleep(50);
      }
      done.n++;
    }
    return odd;
  }

  it('backends or the whole of it: requests are told to try again, it comes back, nothing is lost or doubled', async function () {
    this.timeout(240_000);
    const done = { n: 0 };
    const MARKS = 600;
    const writers = Promise.all(Array.from({ length: 4 }, () => mark(MARKS / 4, done)));
    for (let kill = 0; kill < 4; kill++) {
      const until = Math.min(MARKS - 40, done.n + 60);
      while (done.n < until) await sleep(10);
      if (kill % 2) process.kill(postmaster(data), 'SIGKILL');
      else {
        const { port, password } = JSON.parse(readFileSync(join(data, 'database.json'), 'utf8')) as { port: number; password: string };
        const client = new pg.Client({ host: '127.0.0.1', port, user: 'shoal', database: 'postgres', password });
        client.on('error', () => undefined);
        await client.connect();
        await client.query('SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE pid <> pg_backend_pid() AND datname IS NOT NULL');
        await client.end();
      }
    }
    expect((await writers).flat()).to.deep.equal([]);
    const { contacts } = await ask<{ contacts: unknown[] }>(server, `/trips/${trip}`);
    expect(contacts).to.have.length(MARKS);
    // The last one may still be on its way back.
    for (const end = Date.now() + 30_000; Date.now() < end && said.lastIndexOf('it is back') < said.lastIndexOf('it ended');)
      await sleep(100);
    expect(said).to.include('database: it ended; it is started again').and.to.include('database: it is back');
    expect(server.process.exitCode).to.equal(null);
  });
  it('while a job ends: it is done all the same, or done again where nothing came of it', async function () {
    this.timeout(120_000);
    const upload = newId();
    const body = 'time,latitude,longitude,depth_m\n2026-05-02T06:00:00Z,48.2,-34.6,4\n2026-05-02T06:00:05Z,48.2003,-34.6,5\n';
    await fetch(`${server.url}/api/uploads/${upload}/two.csv`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/octet-stream' },
      body,
    });
    const { job } = await ask<{ job: string }>(server, '/imports', 'POST', { upload, water: 'Steady Mere' });
    const [{ id: water }] = await ask<{ id: string }[]>(server, '/waters');
    const { job: chart } = await ask<{ job: string }>(server, `/waters/${water}/chart`, 'POST', {});
    const ended = async (): Promise<void> => {
      for (const id of [job, chart])
        for (const end = Date.now() + 60_000; ;) {
          const { state } = await ask<{ state: string }>(server, `/jobs/${id}`);
          if (state === 'done') break;
          expect(state).to.be.oneOf(['waiting', 'running']);
          if (Date.now() > end) throw new Error(`${id} is ${state} for ever`);
          await sleep(100);
        }
    };
    await ended();
    // As a job is left whose last word found no database.
    const { port, password } = JSON.parse(readFileSync(join(data, 'database.json'), 'utf8')) as { port: number; password: string };
    const client = new pg.Client({ host: '127.0.0.1', port, user: 'shoal', database: 'shoal', password });
    await client.connect();
    await client.query(`UPDATE pgboss.job SET state = 'active', completed_on = NULL WHERE id = ANY($1)`, [[job, chart]]);
    await client.query('UPDATE job_progress SET result = NULL WHERE job_id = $1', [chart]);
    await client.end();
    await ended();
    expect(said).to.include(`import job ${job}: nobody runs it; it had ended`);
    expect(said).to.include(`chart job ${chart}: nobody runs it; it is taken up again`);
    const surveys = await ask<{ soundings: number }[]>(server, `/waters/${water}/surveys`);
    expect(surveys.map((s) => s.soundings)).to.deep.equal([2]);
  });
  it('stops with the server all the same', async () => {
    await server.stop();
    expect(existsSync(join(data, 'postgresql/postmaster.pid'))).to.equal(false);
    // And what the commands say is the same as ever.
    expect((await command('export', '--water', 'Steady Mere', '--to', join(data, 'out'), '--data', data)).code).to.equal(0);
    server = await serve(data);
  });
});
