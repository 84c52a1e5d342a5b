import { expect } from 'chai';
import { mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { get } from 'node:http';
import { join } from 'node:path';
import { zipSync } from 'fflate';
import { command, temporaryFolder, writeLogbook } from '../../e2e/harness';
import { stoppingServers } from '../../e2e/stopping-servers';

const data = temporaryFolder();
const files = temporaryFolder();
const folder = join(files.path, 'logbook');
let name: string;

const serve = stoppingServers();
const run = (...args: string[]): ReturnType<typeof command> => command(...args, '--data', data.path);
const csv = (path: string): Record<string, string>[] => {
  const [header, ...lines] = readFileSync(path, 'utf8').trim().split('\n');
  const columns = header.split(',');
  return lines.map((line) => Object.fromEntries(line.split(',').map((v, i) => [columns[i], v])));
};

before(() => {
  name = writeLogbook(folder, 3, 8);
});
after(() => {
  data.remove();
  files.remove();
});

describe('./shoal import', () => {
  it('wants --create for a water that is not there', async () => {
    const { code, text } = await run('import', '--water', name, folder);
    expect(code).to.equal(1);
    expect(text).to.include('add --create');
  });
  it('brings a folder into a new water and leaves it ready', async () => {
    const { code, text } = await run('import', '--water', name, '--create', folder);
    expect(code, text).to.equal(0);
    expect(text).to.match(/trips\.csv: read 8, added 8, known already 0/);
    expect(text).to.match(/chart: built from \d{4,} soundings, \d{4} cells/);
    expect(text).to.match(/looks: \d{3,} from 8 trips/);
  });
  it('adds nothing the second time, from a ZIP as little as from the folder', async () => {
    const zip = join(files.path, 'logbook.zip');
    writeFileSync(
      zip,
      zipSync(Object.fromEntries(readdirSync(folder).map((f) => [`logbook/${f}`, new Uint8Array(readFileSync(join(folder, f)))]))),
    );
    for (const source of [folder, zip]) {
      const { code, text } = await run('import', '--water', name, source);
      expect(code, text).to.equal(0);
      expect(text.match(/added (\d+)/g)!.every((m) => m === 'added 0')).to.equal(true);
      expect(text).to.include('chart: still right');
    }
  });
  it('leaves other content under a known key as it was, unless --update', async () => {
    const changed = join(files.path, 'trips.csv');
    writeFileSync(changed, readFileSync(join(folder, 'trips.csv'), 'utf8').replace('M. Arrend', 'Somebody else'));
    expect((await run('import', '--water', name, changed)).text).to.match(
      /1 with the same key but other content, left as they were .*: line 2/,
    );
    expect((await run('import', '--water', name, '--update', changed)).text).to.include('changed 1');
    expect((await run('import', '--water', name, changed)).text).to.include('known already 8');
  });
  it('lists bad rows with line, column and reason, keeps odd ones, and takes the rest', async () => {
    const trip = csv(join(folder, 'trips.csv'))[0];
    const file = join(files.path, 'contacts.csv');
    writeFileSync(
      file,
      [
        'trip,time,latitude,longitude,kind,species,top_m,water_depth_m',
        `${trip.trip},${trip.start},48.1,-34.5,fish,Moonfin,3,8`,
        `${trip.trip},${trip.start},95,-34.5,fish,perch,3,8`,
        `nobody,${trip.start},48.1,-34.5,fish,perch,3,8`,
        `${trip.trip},2030-01-01T00:00:00Z,48.1,-34.5,fish,perch,9,8`,
      ].join('\n'),
    );
    const { code, text } = await run('import', '--water', name, file);
    expect(code, text).to.equal(0);
    expect(text).to.include('read 4, added 2');
    expect(text).to.include('line 3, latitude: 95 is impossible');
    expect(text).to.include('line 4, trip: "nobody" is no trip');
    expect(text).to.include("line 5, time: is after the trip's end");
    expect(text).to.include('line 5, top_m: 9 m is deeper than the water');
    expect(text).to.match(/species not known before.*moonfin/);
  });
  it('changes nothing when one file of several cannot be read', async () => {
    const bad = join(files.path, 'bad');
    mkdirSync(bad);
    const trips = readFileSync(join(folder, 'trips.csv'), 'utf8').split('\n');
    writeFileSync(join(bad, 'trips.csv'), [trips[0], trips[1].replace(/^[^,]+/, 'new-trip')].join('\n'));
    writeFileSync(join(bad, 'stops.csv'), 'this,is,no\nstops,file,1\n');
    const { code, text } = await run('import', '--water', name, bad);
    expect(code).to.equal(1);
    expect(text).to.include('stops.csv: line 1: no column of stops.csv is known');
    const again = await run('import', '--water', name, join(bad, 'trips.csv'));
    expect(again.text).to.include('added 1');
  });
  it('says what it passes over and refuses what is nothing', async () => {
    writeFileSync(join(files.path, 'depth.tif'), 'x');
    expect((await run('import', '--water', name, join(files.path, 'depth.tif'))).code).to.equal(1);
    expect((await run('import', '--water', name, '/no/such/file.csv')).text).to.include('there is no such file');
    writeFileSync(join(files.path, 'broken.zip'), 'not a zip');
    expect((await run('import', '--water', name, join(files.path, 'broken.zip'))).text).to.include('is not a ZIP');
  });
  it('builds a water from soundings alone, with an outline it proposes', async () => {
    const { code, text } = await run('import', '--water', 'Nameless', '--create', join(folder, 'soundings.csv'));
    expect(code, text).to.equal(0);
    expect(text).to.include('the outline is proposed from the soundings');
  });
});

describe('a water of which only the outline is known', () => {
  it('can be imported and forecast: the strategies speak, no depth is made up', async () => {
    const { code, text } = await run('import', '--water', 'Bare', '--create', join(folder, 'outline.geojson'));
    expect(code, text).to.equal(0);
    expect(text).to.include('no soundings, so no depths yet');
    const out = join(files.path, 'bare.csv');
    const forecast = await run('forecast', '--water', 'Bare', '--species', 'perch', '--at', '2026-07-10T08:00:00Z', '--out', out);
    expect(forecast.code, forecast.text).to.equal(0);
    expect(csv(out).every((row) => Number(row.probability) > 0 && Number(row.probability) < 1)).to.equal(true);
  });
});

describe('./shoal forecast', () => {
  const out = join(files.path, 'forecast.csv');
  it('writes a row for every cell, for given conditions', async () => {
    const conditions = join(files.path, 'now.csv');
    writeFileSync(
      conditions,
      'trip,time,surface_temperature_c,secchi_m,wind_from_deg,wind_speed_ms\nx,2026-07-10T06:00:00Z,19.5,1.8,250,5\n',
    );
    const { code, text } = await run(
      'forecast',
      '--water',
      name,
      '--species',
      'Pikeperch',
      '--at',
      '2026-07-10T08:00:00Z',
      '--conditions',
      conditions,
      '--out',
      out,
    );
    expect(code, text).to.equal(0);
    const rows = csv(out);
    expect(rows.length).to.be.above(4000);
    expect(Object.keys(rows[0])).to.deep.equal([
      'latitude',
      'longitude',
      'probability',
      'low',
      'high',
      'depth_top_m',
      'depth_bottom_m',
      'species',
      'at',
    ]);
    for (const row of rows) {
      const [p, low, high] = [row.probability, row.low, row.high].map(Number);
      expect(p).to.be.within(0, 1);
      expect(low).to.be.at.most(p * 1.001);
      expect(high).to.be.at.least(p * 0.999);
      expect(Number(row.depth_top_m)).to.be.at.most(Number(row.depth_bottom_m));
    }
    expect(rows[0].species).to.equal('zander');
  });
  it('takes a profile for the water of the hour, its top for the surface', async () => {
    const profile = join(files.path, 'cast.csv');
    const sample = (depth: number): string => `x,p,2026-07-10T07:00:00Z,${depth},${22.4 - 2.6 * Math.min(4, Math.max(0, depth - 4))},7`;
    writeFileSync(
      profile,
      `trip,profile,time,depth_m,temperature_c,oxygen_mg_l\n${[0, 2, 4, 5, 6, 7, 8, 10, 12].map(sample).join('\n')}\n`,
    );
    const args = ['forecast', '--water', name, '--species', 'zander', '--at', '2026-07-10T08:00:00Z', '--out', out];
    const { code, text } = await run(...args, '--profile', profile);
    expect(code, text).to.equal(0);
    expect(text).to.include('surface temperature: 22.4 °C, the top of the profile');
    const [, top, bottom] = /thermocline: ([\d.]+)–([\d.]+) m, from the profile\n/.exec(text)!.map(Number);
    // It falls from 4 to 8 m, its middle at 6.
    expect((top + bottom) / 2).to.be.closeTo(6, 0.5);
    expect(bottom - top).to.be.below(6);
    // A reading that is given stands against it: the column is carried on to that.
    const conditions = join(files.path, 'colder.csv');
    writeFileSync(conditions, 'trip,time,surface_temperature_c\nx,2026-07-10T07:30:00Z,18\n');
    const both = await run(...args, '--profile', profile, '--conditions', conditions);
    expect(both.text).to.include('modelled on from the profile of 2026-07-10').and.not.include('the top of the profile');
  });
  it('uses a fit that is still valid again, and only trips ended by then', async () => {
    const args = ['forecast', '--water', name, '--species', 'zander', '--out', out];
    expect((await run(...args, '--at', '2026-07-11T08:00:00Z')).text).to.include('fit: used again');
    expect((await run(...args, '--at', '2024-07-11T08:00:00Z')).text).to.include('the strategies speak alone');
  });
  it('knows what was looked at earlier on the day, and nothing of later', async () => {
    const trips = csv(join(folder, 'trips.csv'));
    const { start, end } = trips[trips.length - 1];
    const after = (share: number): string => new Date(Date.parse(start) + share * (Date.parse(end) - Date.parse(start))).toISOString();
    const looks = async (at: string): Promise<number> => {
      const { code, text } = await run('forecast', '--water', name, '--species', 'zander', '--at', at, '--out', out);
      expect(code, text).to.equal(0);
      return Number(/earlier on the day: (\d+) looks/.exec(text)?.[1] ?? 0);
    };
    const [before, third, most] = [await looks(after(-0.05)), await looks(after(0.35)), await looks(after(0.95))];
    expect(before).to.equal(0);
    expect(third).to.be.above(20);
    expect(most).to.be.above(1.5 * third);
  });
  it('exits non-zero on an unknown species and lists the known ones', async () => {
    const { code, text } = await run('forecast', '--water', name, '--species', 'unicorn', '--at', '2026-07-10T08:00:00Z', '--out', out);
    expect(code).to.equal(1);
    expect(text).to.match(/"unicorn" is not known.*zander/);
  });
  it('wants a time with an offset', async () => {
    const { code, text } = await run('forecast', '--water', name, '--species', 'zander', '--at', '2026-07-10', '--out', out);
    expect([code, text.includes('offset or Z')]).to.deep.equal([2, true]);
  });
});

describe('the fit as a job of the server', () => {
  it('runs, shows progress, and is handed out as it was until something new is logged', async () => {
    const server = await serve(data.path);
    const api = (method: string, path: string, body?: object): Promise<Response> =>
      fetch(`${server.url}/api${path}`, { method, headers: { 'Content-Type': 'application/json' }, body: body && JSON.stringify(body) });
    const waters = (await (await api('GET', '/waters')).json()) as { id: string; name: string }[];
    const { id } = waters.find((w) => w.name === name)!;
    const { job } = (await (await api('POST', `/waters/${id}/models`, { species: 'perch' })).json()) as { job: string };
    let state = { state: 'waiting', share: 0 };
    while (state.state === 'waiting' || state.state === 'running') {
      await new Promise((done) => setTimeout(done, 150));
      state = (await (await api('GET', `/jobs/${job}`)).json()) as typeof state;
      expect(state.share).to.be.within(0, 1);
    }
    expect(state.state).to.equal('done');
    const fit = await api('GET', `/waters/${id}/models/perch`);
    expect([fit.status, fit.headers.get('x-stale')]).to.deep.equal([200, 'false']);
    expect((await fit.arrayBuffer()).byteLength).to.be.above(10_000);
    const { trips } = (await (await api('GET', `/waters/${id}/log`)).json()) as { trips: { id: string; start: string }[] };
    const stale = async (): Promise<string | null> => (await api('GET', `/waters/${id}/models/perch`)).headers.get('x-stale');
    const fitAnew = async (): Promise<string | null> => {
      const { job } = (await (await api('POST', `/waters/${id}/models`, { species: 'perch' })).json()) as { job: string };
      for (let now = ''; now !== 'done'; now = ((await (await api('GET', `/jobs/${job}`)).json()) as { state: string }).state)
        await new Promise((done) => setTimeout(done, 150));
      return stale();
    };
    // Whatever a fit was made from makes it stale once it is another; taken back, the fit is right again.
    const water = (await (await api('GET', `/waters/${id}`)).json()) as { altitude_m: number | null; species: Record<string, unknown>[] };
    const pike = water.species.find((s) => s.name === 'pike')!;
    for (const [path, body, before] of [
      [`/waters/${id}`, { name, altitude_m: 2500 }, { name, altitude_m: water.altitude_m ?? 0 }],
      [`/waters/${id}/species/pike`, { ...pike, drawnTo: { wood: 0.5, weed: 0.123, hard: 0.5 } }, pike],
    ] as const) {
      expect((await api('PUT', path, body)).status, path).to.equal(200);
      expect(await stale(), path).to.equal('true');
      await api('PUT', path, before);
    }
    // A mark, a stop or a whole trip that is deleted is one the fit no longer rests on.
    type Trip = { contacts: { id: string }[]; stops: { id: string }[] };
    const { contacts, stops } = (await (await api('GET', `/trips/${trips[0].id}`)).json()) as Trip;
    for (const path of [
      `trips/${trips[0].id}/contacts/${contacts[0].id}`,
      `trips/${trips[0].id}/stops/${stops[0].id}`,
      `waters/${id}/trips/${trips[1].id}`,
    ]) {
      const fresh = await fitAnew();
      expect(fresh, path).to.equal('false');
      expect((await api('DELETE', `/${path}`)).status, path).to.equal(200);
      expect(await stale(), path).to.equal('true');
    }
    await fitAnew();
    await api('POST', `/trips/${trips[0].id}/conditions`, { time: trips[0].start, secchi_m: 2.2 });
    expect(await stale()).to.equal('true');
    const chart = await api('GET', `/waters/${id}/chart`);
    // Asked by hand: fetch would add a header that forbids the short answer.
    const again = await new Promise<number>((done) => {
      get(`${server.url}/api/waters/${id}/chart`, { headers: { 'If-None-Match': chart.headers.get('etag')! } }, (response) => {
        response.resume();
        done(response.statusCode!);
      });
    });
    expect(again).to.equal(304);
    await server.stop();
  });
});
