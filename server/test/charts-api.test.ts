import { expect } from 'chai';
import { unpackChart, unpackSoundings, type CleanStep } from '@restless-shoal/core/chart';
import { newId } from '@restless-shoal/core/logbook';
import { openDatabase } from '../src/cluster';
import { migrate } from '../src/db/migrate';
import { openPool } from '../src/db/pool';
import { createWater, localAccount, setOutline, waterById } from '../src/db/waters';
import { serve, temporaryFolder, type RunningServer } from '../../e2e/harness';

let server: RunningServer;
const data = temporaryFolder();
const water = newId();

interface Answer {
  status: number;
  body: Record<string, unknown>;
}
async function send(method: string, path: string, body?: unknown): Promise<Answer> {
  const response = await fetch(`${server.url}/api${path}`, {
    method,
    headers: { 'Content-Type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  });
  return { status: response.status, body: (response.status === 204 ? {} : await response.json()) as Record<string, unknown> };
}
const upload = async (id: string, file: string, body: string, type = 'application/octet-stream'): Promise<Answer> => {
  const response = await fetch(`${server.url}/api/uploads/${id}/${file}`, { method: 'PUT', headers: { 'Content-Type': type }, body });
  return { status: response.status, body: (await response.json()) as Record<string, unknown> };
};
async function ended(job: unknown): Promise<Answer['body']> {
  const end = Date.now() + 180_000;
  for (;;) {
    const { body } = await send('GET', `/jobs/${String(job)}`);
    if (!['waiting', 'running'].includes(String(body.state))) return body;
    if (Date.now() > end) throw new Error('the job did not end');
    await new Promise((done) => setTimeout(done, 100));
  }
}
const chart = async (): Promise<ReturnType<typeof unpackChart>> =>
  unpackChart(new Uint8Array(await (await fetch(`${server.url}/api/waters/${water}/chart`)).arrayBuffer()));
const stepOf = async (name: CleanStep['name']): Promise<CleanStep> => (await chart()).cleaning.find((s) => s.name === name)!;

/** Passes up and down over an even slope, with a spike every hundred soundings. */
const soundings = ['time,latitude,longitude,depth_m']
  .concat(
    Array.from({ length: 3000 }, (_, i) => {
      const line = Math.floor(i / 150);
      const along = line % 2 ? 149 - (i % 150) : i % 150;
      const depth = 3 + along * 0.03 + (i % 100 === 50 ? 9 : 0);
      const time = new Date(Date.UTC(2026, 4, 2, 6) + i * 1000).toISOString();
      return `${time},${(48.2 + along * 0.00003).toFixed(7)},${(-34.6 + line * 0.0003).toFixed(7)},${depth.toFixed(2)}`;
    }),
  )
  .join('\n');

before(async () => {
  server = await serve(data.path);
  expect((await send('PUT', `/waters/${water}`, { name: 'Slope mere', time_zone: 'Etc/GMT+2' })).status).to.equal(201);
});
after(async () => {
  await server.stop();
  data.remove();
});

describe('files sent to the server', () => {
  it('are taken as bytes under a plain name, and imported as a job that tells what it did', async () => {
    const id = newId();
    expect((await upload(id, 'slope.csv', soundings)).body).to.deep.equal({ bytes: Buffer.byteLength(soundings) });
    const { status, body } = await send('POST', '/imports', { upload: id, water: 'Slope mere' });
    expect(status).to.equal(202);
    const done = await ended(body.job);
    expect(done.state, JSON.stringify(done)).to.equal('done');
    expect(done.result).to.deep.include({ water, created: false });
    expect((await send('GET', `/waters/${water}/jobs`)).body).to.deep.equal([]);
    const surveys = (await send('GET', `/waters/${water}/surveys`)).body as unknown as { source: string; soundings: number }[];
    expect(surveys.map((s) => [s.source, s.soundings])).to.deep.equal([['slope.csv', 3000]]);
  });
  it('are refused as anything but bytes, under a name that is none, or for an upload that is none', async () => {
    expect((await upload(newId(), 'a.csv', 'x', 'text/plain')).status).to.equal(415);
    expect((await upload('not-an-id', 'a.csv', 'x')).status).to.equal(400);
    expect((await upload(newId(), '.hidden', 'x')).status).to.equal(400);
    // A path is cut to its last part: nothing is written outside the upload.
    expect((await upload(newId(), encodeURIComponent('../../outside.csv'), 'x')).status).to.equal(200);
    const none = await send('POST', '/imports', { upload: newId(), water: 'Slope mere' });
    const done = none.status === 202 ? await ended(none.body.job) : { state: 'failed' };
    expect(done.state).to.equal('failed');
  });
  it('for a water that is not there are refused unless it is to be made; unknown fields by name', async () => {
    expect(await send('POST', '/imports', { upload: newId(), water: 'Nowhere' })).to.deep.include({ status: 404 });
    const { status, body } = await send('POST', '/imports', { upload: newId(), water: 'Slope mere', colour: 'red' });
    expect(status).to.equal(400);
    expect(body.detail).to.include('colour');
  });
  it('that cannot be read make a job that failed, and say why', async () => {
    const id = newId();
    await upload(id, 'cut.gpx', '<gpx><trk><trkseg><trkpt lat="48');
    const { body } = await send('POST', '/imports', { upload: id, water: 'Slope mere' });
    const done = await ended(body.job);
    expect(done.state).to.equal('failed');
    expect(done.error).to.include('cut.gpx: line 1');
  });
});

describe('soundings for drawing', () => {
  it('are those that were logged, in the plane of the water', async () => {
    const bytes = new Uint8Array(await (await fetch(`${server.url}/api/waters/${water}/soundings`)).arrayBuffer());
    const { all, x, y, survey, newest } = unpackSoundings(bytes);
    expect([all, x.length]).to.deep.equal([3000, 3000]);
    // The grid’s north is not quite the true one: 570 m of width add some 9 m.
    expect(Math.max(...y) - Math.min(...y)).to.be.closeTo(149 * 0.00003 * 111_200, 12);
    expect(survey.every((s) => s === newest)).to.equal(true);
  });
});

describe('cleaning', () => {
  it('can be switched off and on: the chart is built anew each time, and nothing that was logged is lost', async () => {
    const cleaned = await chart();
    expect((await stepOf('spikes')).leftOut).to.be.within(25, 40);
    const off = await send('PUT', `/waters/${water}/cleaning`, { spikes: false, transducer_m: 0.5 });
    expect(off.status).to.equal(202);
    expect((await ended(off.body.job)).state).to.equal('done');
    expect(await stepOf('spikes')).to.deep.include({ on: false, leftOut: 0 });
    expect((await stepOf('transducer depth')).changed).to.be.above(2900);
    const raw = await chart();
    expect(raw.deepest).to.be.above(cleaned.deepest + 0.4);
    const on = await send('PUT', `/waters/${water}/cleaning`, {});
    expect((await ended(on.body.job)).state).to.equal('done');
    const back = await chart();
    expect([...back.depth.data]).to.deep.equal([...cleaned.depth.data]);
  }).timeout(60_000);
  for (const [settings, field] of [
    [{ spikes: 'no' }, 'spikes'],
    [{ transducer_m: 80 }, 'transducer_m'],
    [{ transducer_m: 'deep' }, 'transducer_m'],
    [{ assumed_sound_ms: 340 }, 'assumed_sound_ms'],
    [{ polish: true }, 'polish'],
  ] as const)
    it(`refuses ${JSON.stringify(settings)} by field`, async () => {
      const { status, body } = await send('PUT', `/waters/${water}/cleaning`, settings);
      expect(status).to.equal(400);
      expect(`${String(body.field)} ${String(body.detail)}`).to.include(field);
    });
});

describe('what is drawn', () => {
  const spot = { type: 'Point', coordinates: [-34.598, 48.202] };
  it('stands in the water, with the day it was placed, and goes again', async () => {
    const { status, body } = await send('POST', `/waters/${water}/cover`, {
      kind: 'cover',
      cover: 'brush',
      name: 'Crib 4',
      height_m: 1.5,
      geometry: spot,
    });
    expect(status).to.equal(202);
    await ended(body.job);
    type Placed = { id: number; name: string; height_m: number; placed_on: string }[];
    const placed = (await send('GET', `/waters/${water}`)).body.cover as Placed;
    expect(placed).to.have.length(1);
    expect(placed[0]).to.deep.include({ name: 'Crib 4', height_m: 1.5 });
    expect(placed[0].placed_on).to.match(/^\d{4}-\d\d-\d\d$/);
    const { cells } = await chart();
    expect(Math.min(...cells.woodDistance)).to.equal(0);
    expect((await send('DELETE', `/waters/${water}/cover/${placed[0].id}`)).status).to.equal(202);
    expect((await send('DELETE', `/waters/${water}/cover/${placed[0].id}`)).status).to.equal(404);
    expect((await send('GET', `/waters/${water}`)).body.cover).to.deep.equal([]);
  });
  it('a zone keeps its speed limit, and is no cover to the fish', async () => {
    const ring = [[-34.6, 48.2], [-34.59, 48.2], [-34.59, 48.21], [-34.6, 48.2]]; // prettier-ignore
    const zone = { kind: 'zone', cover: null, name: 'Harbour', speed_limit_ms: 1.5, geometry: { type: 'Polygon', coordinates: [ring] } };
    const { body } = await send('POST', `/waters/${water}/cover`, zone);
    await ended(body.job);
    const [placed] = (await send('GET', `/waters/${water}`)).body.cover as { id: number; kind: string; speed_limit_ms: number }[];
    expect(placed).to.deep.include({ kind: 'zone', speed_limit_ms: 1.5 });
    expect(Math.min(...(await chart()).cells.woodDistance)).to.be.above(0);
    expect((await send('DELETE', `/waters/${water}/cover/${placed.id}`)).status).to.equal(202);
  });
  for (const [what, body, field] of [
    ['an unknown kind', { kind: 'treasure', cover: null, geometry: spot }, 'kind'],
    ['no geometry', { kind: 'hazard', cover: null }, 'geometry'],
    ['a geometry that cannot be placed', { kind: 'hazard', cover: null, geometry: { type: 'Circle', coordinates: [1, 2] } }, 'geometry'],
    ['an impossible speed limit', { kind: 'zone', cover: null, speed_limit_ms: 0, geometry: spot }, 'speed_limit_ms'],
    ['an impossible height', { kind: 'weed', cover: 'weed', height_m: -2, geometry: spot }, 'height_m'],
  ] as const)
    it(`refuses ${what} by field`, async () => {
      const answer = await send('POST', `/waters/${water}/cover`, body);
      expect(answer.status).to.equal(400);
      expect(`${String(answer.body.field)} ${String(answer.body.detail)}`).to.include(field);
      expect((await send('GET', `/waters/${water}`)).body.cover).to.deep.equal([]);
    });
  it('as an outline has to close round some water', async () => {
    for (const outline of [
      { type: 'Polygon', coordinates: [] },
      { type: 'Point', coordinates: [1, 2] },
      { type: 'Polygon', coordinates: [[[-34.6, 95], [-34.5, 95], [-34.5, 96], [-34.6, 95]]] }, // prettier-ignore
    ])
      expect((await send('PUT', `/waters/${water}/outline`, { outline })).status, JSON.stringify(outline)).to.equal(400);
    expect((await send('GET', `/waters/${water}`)).body.outline_proposed).to.equal(true);
  });
  it('becomes the shore: 0 m there, and no longer a proposal', async () => {
    const corner = (x: number, y: number): number[] => [-34.6005 + x * 0.007, 48.1995 + y * 0.0055];
    const outline = { type: 'Polygon', coordinates: [[corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 1), corner(0, 0)]] };
    const { status, body } = await send('PUT', `/waters/${water}/outline`, { outline });
    expect(status).to.equal(202);
    expect((await ended(body.job)).state).to.equal('done');
    expect((await send('GET', `/waters/${water}`)).body.outline_proposed).to.equal(false);
    const { depth, cells } = await chart();
    const rim = [...depth.data.keys()].filter((k) => !Number.isNaN(depth.data[k]) && Number.isNaN(depth.data[k - 1] ?? NaN));
    const mean = rim.reduce((sum, k) => sum + depth.data[k], 0) / rim.length;
    expect(mean).to.be.below(1.2);
    expect(cells.count).to.be.above(300);
  });
});

describe('an outline drawn while one is being proposed', () => {
  const box = (side: number): { type: 'Polygon'; coordinates: [number, number][][] } => ({
    type: 'Polygon',
    coordinates: [[[-34.6, 48.2], [-34.6 + side, 48.2], [-34.6 + side, 48.2 + side], [-34.6, 48.2 + side], [-34.6, 48.2]]], // prettier-ignore
  });
  it('stays when the proposal comes; a proposal gives way to another and to what is drawn', async () => {
    const folder = temporaryFolder();
    const database = await openDatabase(folder.path);
    const pool = openPool(database.url);
    try {
      await migrate(pool);
      const account = await localAccount(pool);
      const { id } = await createWater(pool, account, 'Reed mere');
      const propose = (side: number): Promise<boolean> => setOutline(pool, id, box(side), 32624, true);
      expect([await propose(0.01), await propose(0.02), await setOutline(pool, id, box(0.03), 32624), await propose(0.04)]).to.deep.equal([
        true,
        true,
        true,
        false,
      ]);
      const kept = await waterById(pool, account, id);
      expect(kept?.outline).to.deep.equal(box(0.03));
      expect(kept?.outline_proposed).to.equal(false);
    } finally {
      await pool.end();
      await database.release();
      folder.remove();
    }
  });
});

describe('exports', () => {
  it('that there are none of are said, by name', async () => {
    expect((await send('GET', `/waters/${water}/export/secrets.txt`)).status).to.equal(404);
    const { status, body } = await send('GET', `/waters/${water}/export/cover.geojson`);
    expect(status).to.equal(404);
    expect(body.detail).to.include('Slope mere has nothing for cover.geojson');
  });
  it('of all that there is come as one ZIP', async () => {
    const response = await fetch(`${server.url}/api/waters/${water}/export/water.zip`);
    expect(response.headers.get('content-disposition')).to.include('Slope-mere.zip');
    expect(
      Buffer.from(await response.arrayBuffer())
        .subarray(0, 2)
        .toString(),
    ).to.equal('PK');
  });
});
