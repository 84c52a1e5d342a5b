import { expect } from 'chai';
import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { READ, filled } from '../../e2e/any-request';
import { ask, serve, temporaryFolder, type RunningServer } from '../../e2e/harness';
import { eachItsOwnCluster } from '../../e2e/own-clusters';

eachItsOwnCluster();
// With ten years of log on many waters, whatever a page asks for is found by an index, not by reading a whole table.

const LARGE = [
  'soundings',
  'track',
  'contacts',
  'responses',
  'conditions',
  'profiles',
  'stops',
  'trips',
  'surveys',
  'job_progress',
  'looks',
];
const WATERS = 40;

const data = temporaryFolder();
const id = (kind: number, n: string): string => `('00000000-0000-7000-8000-000${kind}' || lpad(to_hex(${n}), 8, '0'))::uuid`;
let server: RunningServer;

before(async function () {
  this.timeout(120_000);
  server = await serve(data.path);
  const { port, password } = JSON.parse(readFileSync(join(data.path, 'database.json'), 'utf8')) as { port: number; password: string };
  const client = new pg.Client({ host: '127.0.0.1', port, user: 'shoal', database: 'shoal', password });
  await client.connect();
  const trips = WATERS * 100;
  await client.query(`
    INSERT INTO waters (id, account_id, name) SELECT ${id(1, 'w')}, (SELECT id FROM accounts), 'Mere ' || w FROM generate_series(1, ${WATERS}) w;
    INSERT INTO surveys (water_id, source) SELECT ${id(1, `1 + k % ${WATERS}`)}, 'survey ' || k FROM generate_series(1, 4000) k;
    INSERT INTO job_progress (job_id, account_id, queue, water_id)
      SELECT gen_random_uuid(), (SELECT id FROM accounts), 'chart', ${id(1, `1 + k % ${WATERS}`)} FROM generate_series(1, 8000) k;
    INSERT INTO soundings (water_id, survey_id, time, latitude, longitude, depth_m)
      SELECT ${id(1, `1 + k % ${WATERS}`)}, (SELECT min(id) FROM surveys) + k % 4000, '2026-05-02T06:00:00Z'::timestamptz + k * interval '1 second',
             48.2 + (k % 100) * 1e-4, -34.6 + (k % 977) * 1e-5, 4 FROM generate_series(1, 80000) k;
    INSERT INTO trips (id, water_id, trip, start, "end")
      SELECT ${id(2, 't')}, ${id(1, `1 + t % ${WATERS}`)}, 'T' || t, '2016-05-02T06:00:00Z'::timestamptz + t * interval '20 hours',
             '2016-05-02T12:00:00Z'::timestamptz + t * interval '20 hours' FROM generate_series(1, ${trips}) t;
    INSERT INTO contacts (id, trip_id, contact, time, latitude, longitude, kind, species)
      SELECT ${id(3, 'k')}, ${id(2, `1 + k % ${trips}`)}, k::text, '2026-05-02T06:30:00Z', 48.2, -34.6, 'fish', 'perch' FROM generate_series(1, 80000) k;
    INSERT INTO track (trip_id, time, latitude, longitude, mode)
      SELECT ${id(2, `1 + k % ${trips}`)}, '2026-05-02T06:30:00Z'::timestamptz + k * interval '1 second', 48.2, -34.6, 'scan' FROM generate_series(1, 80000) k;
    INSERT INTO stops (id, trip_id, stop, start, "end", latitude, longitude)
      SELECT ${id(4, 'k')}, ${id(2, `1 + k % ${trips}`)}, k::text, '2026-05-02T06:30:00Z', '2026-05-02T06:50:00Z', 48.2, -34.6 FROM generate_series(1, 20000) k;
    INSERT INTO responses (id, trip_id, time, response)
      SELECT ${id(5, 'k')}, ${id(2, `1 + k % ${trips}`)}, '2026-05-02T06:30:00Z', 'struck' FROM generate_series(1, 40000) k;
    INSERT INTO conditions (trip_id, time, surface_temperature_c)
      SELECT ${id(2, `1 + k % ${trips}`)}, '2026-05-02T06:30:00Z'::timestamptz + k * interval '1 second', 14 FROM generate_series(1, 20000) k;
    INSERT INTO looks (trip_id, stamp, body, outside) SELECT id, md5(id::text), '[]', '[]' FROM trips;
    INSERT INTO profiles (trip_id, profile, time, depth_m, temperature_c)
      SELECT ${id(2, `1 + k % ${trips}`)}, 'P', '2026-05-02T06:30:00Z', k * 0.001, 14 FROM generate_series(1, 20000) k;
  `);
  await client.query('ANALYZE');
  await client.query(`ALTER DATABASE shoal SET session_preload_libraries = 'auto_explain'`);
  await client.query(`ALTER DATABASE shoal SET auto_explain.log_min_duration = 0`);
  await client.end();
  await server.stop();
  // Every connection from now on says how each query was done.
  server = await serve(data.path);
});
after(async () => {
  await server.stop();
  data.remove();
});

describe('what a page asks for', () => {
  it('is found by an index', async () => {
    const [{ id: water }] = await ask<{ id: string }[]>(server, '/waters');
    const { trips } = await ask<{ trips: { id: string }[] }>(server, `/waters/${water}/log`);
    expect(trips).to.have.length(100);
    const log = join(data.path, 'postgresql/server.log');
    const from = statSync(log).size;
    const there = { water, trip: trips[0].id, mark: trips[0].id };
    for (const path of READ.filter((p) => !p.includes('{any}') && !p.includes('?')))
      expect((await fetch(`${server.url}/api${filled(path, there, '')}`)).status, path).to.be.below(500);
    const said = readFileSync(log).subarray(from).toString('utf8');
    const plans = said.split(/(?=^\d{4}-\d\d-\d\d .*duration: )/m).filter((text) => text.includes('Query Text:'));
    expect(plans.length, 'queries that were explained').to.be.above(20);
    const reading = plans.filter((plan) => LARGE.some((table) => new RegExp(`Seq Scan on ${table}\\b`).test(plan)));
    expect(reading.map((plan) => plan.slice(0, 1200)).join('\n'), 'reads a whole table').to.equal('');
  });
});

describe('a water made before some species shipped', () => {
  it('has them all the same, each once', async () => {
    const [{ id: water }] = await ask<{ id: string }[]>(server, '/waters');
    const names = async (): Promise<string[]> =>
      (await ask<{ species: { name: string }[] }>(server, `/waters/${water}`)).species.map((s) => s.name);
    const shipped = await names();
    expect(shipped).to.include.members(['eel', 'zander', 'landlocked salmon']);
    expect(shipped.length).to.equal(new Set(shipped).size);
  });
});
