import { expect } from 'chai';
import { mkdirSync, readFileSync, readdirSync, truncateSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fromArrayBuffer } from 'geotiff';
import { metricPlane } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import { command, prepareWater, serve, temporaryFolder, type RunningServer } from '../../e2e/harness';

const data = temporaryFolder();
const files = temporaryFolder();
const at = (name: string): string => join(files.path, name);
const run = (...args: string[]): ReturnType<typeof command> => command(...args, '--data', data.path);
after(() => {
  data.remove();
  files.remove();
});

const HEADER = 'time,latitude,longitude,depth_m';
/** Passes of soundings over a rolling bottom, a row a second. */
function rows(n: number, latitude = 48.2): string[] {
  return Array.from({ length: n }, (_, i) => {
    const line = Math.floor(i / 200);
    const along = line % 2 ? 199 - (i % 200) : i % 200;
    const depth = 5 + 2 * Math.sin(line / 3) + along * 0.01;
    const time = new Date(Date.UTC(2026, 4, 2, 6) + i * 1000).toISOString();
    return `${time},${(latitude + line * 0.0003).toFixed(6)},${(-34.6 + along * 0.00003).toFixed(6)},${depth.toFixed(2)}`;
  });
}
const write = (name: string, text: string): string => {
  writeFileSync(at(name), text);
  return at(name);
};

describe('a water out and in again', () => {
  const [out, again] = [at('out'), at('again')];
  before(async () => {
    const name = await prepareWater(data.path, 3, 4);
    expect((await run('export', '--water', name, '--to', out)).code).to.equal(0);
    const back = await run('import', '--water', 'Copy', '--create', out);
    expect(back.code, back.text).to.equal(0);
    expect(back.text).to.include('depth.tif: passed over (a product');
    expect((await run('export', '--water', 'Copy', '--to', again)).code).to.equal(0);
  });

  it('holds the same records: soundings with hardness, outline, cover, the log', () => {
    const names = readdirSync(out);
    expect(names).to.include.members(['soundings.csv', 'track.csv', 'contacts.csv', 'outline.geojson', 'cover.geojson', 'water.json']);
    expect(readdirSync(again)).to.have.members(names);
    for (const name of names.filter((n) => n.endsWith('.csv')))
      expect(readFileSync(join(again, name)).equals(readFileSync(join(out, name))), `${name}, byte for byte`).to.equal(true);
    const json = (folder: string, name: string): { name?: string; features?: { geometry: unknown; properties: object }[] } => ({
      ...(JSON.parse(readFileSync(join(folder, name), 'utf8')) as object),
      name: undefined,
    });
    const geometries = (folder: string, name: string): string[] =>
      json(folder, name)
        .features!.map((f) => JSON.stringify([f.geometry, { ...f.properties, name: undefined }]))
        .sort();
    expect(json(again, 'water.json')).to.deep.equal(json(out, 'water.json'));
    for (const name of ['outline.geojson', 'cover.geojson']) expect(geometries(again, name), name).to.deep.equal(geometries(out, name));
  });
  it('has rasters that a library reads: in UTM by its code, metres below datum, no-data set', async () => {
    const bytes = readFileSync(join(out, 'depth.tif'));
    const tiff = await fromArrayBuffer(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer);
    const image = await tiff.getImage();
    expect(image.getGeoKeys()!.ProjectedCSTypeGeoKey).to.equal(32625);
    expect(image.getGDALNoData()).to.equal(-9999);
    const [values] = (await image.readRasters()) as unknown as Float32Array[];
    const [west, , , north] = image.getBoundingBox();
    const [size] = image.getResolution();
    // What it says at a sounding is about what was sounded there.
    const lines = readFileSync(join(out, 'soundings.csv'), 'utf8').trim().split('\n');
    const columns = lines[0].split(',');
    const off: number[] = [];
    for (const line of lines.slice(1).filter((_, k) => k % 37 === 0)) {
      const field = (name: string): number => Number(line.split(',')[columns.indexOf(name)]);
      const [x, y] = metricPlane(32625).toMetric({ latitude: field('latitude'), longitude: field('longitude') });
      const value = values[Math.floor((north - y) / size) * image.getWidth() + Math.floor((x - west) / size)];
      if (value !== undefined && value !== -9999) off.push(Math.abs(value - field('depth_m')));
    }
    off.sort((a, b) => a - b);
    expect(off.length).to.be.above(50);
    expect(off[off.length >> 1]).to.be.below(0.3);
  });
  it('names the kind of every shape, and warns who would steer by it', () => {
    const shapes = JSON.parse(readFileSync(join(out, 'features.geojson'), 'utf8')) as {
      features: { properties: Record<string, unknown> }[];
    };
    expect(shapes.features.length).to.be.above(3);
    for (const { properties } of shapes.features) expect(properties).to.include.keys('kind', 'depth', 'size', 'confidence');
    expect(readFileSync(join(out, 'contours.geojson'), 'utf8')).to.match(/not for navigation/i);
    expect(readFileSync(join(out, 'marks.gpx'), 'utf8')).to.match(/not for navigation/i);
  });
});

describe('what a file says of a water', () => {
  const box = (west: number, south: number): object => ({
    type: 'Polygon',
    coordinates: [[0, 1, 2, 3, 0].map((k) => [west + (k === 1 || k === 2 ? 0.01 : 0), south + (k > 1 ? 0.015 : 0)])],
  });
  const outline = (west: number, south: number): string => write('outline.geojson', JSON.stringify(box(west, south)));
  const zone = (time_zone: string): string => write('water.json', JSON.stringify({ time_zone }));
  const into = async (...args: string[]): Promise<string> => {
    const { code, text } = await run('import', '--water', 'Own mere', '--create', ...args);
    expect(code, text).to.equal(0);
    return text;
  };
  const LEFT = /1 with the same key but other content, left as they were \(--update changes them\)/;

  it('takes the place of an outline that was only proposed, and of nothing that somebody drew, unless it is told to', async () => {
    expect(await into(write('own.csv', [HEADER, ...rows(600)].join('\n')))).to.include('the outline is proposed');
    expect(await into(outline(-34.603, 48.195))).to.match(/outline.geojson: read 1, added 1/);
    expect(await into(outline(-34.603, 48.195))).to.match(/outline.geojson: read 1, added 0, known already 1/);
    // That of another water, brought in by mistake: soundings of the own one would all lie outside.
    const other = await into(outline(12.4, 47.3));
    expect(other).to.match(LEFT);
    expect(other).to.include('chart: still right');
    const told = await into('--update', outline(-34.604, 48.195));
    expect(told).to.match(/added 0, known already 0, changed 1/);
    expect(told).to.include('chart: built from');
  });
  it('and of no setting that was made, unless it is told to', async () => {
    expect(await into(zone('Etc/GMT+2'))).to.match(/water.json: read 1, added 1/);
    expect(await into(zone('Etc/GMT+5'))).to.match(LEFT);
    expect(await into(zone('Etc/GMT+2'))).to.match(/known already 1/);
    expect(await into('--update', zone('Etc/GMT+5'))).to.match(/changed 1/);
  });
});

describe('files as they come off a boat', () => {
  before(async () => {
    const { code, text } = await run('import', '--water', 'Mere', '--create', write('first.csv', [HEADER, ...rows(3000)].join('\n')));
    expect(code, text).to.equal(0);
  });
  const into = (file: string): ReturnType<typeof command> => run('import', '--water', 'Mere', file);

  it('a file cut short: the broken row is left out by line, the rest goes in', async () => {
    const { code, text } = await into(write('cut.csv', [HEADER, ...rows(50, 48.205)].join('\n').slice(0, -8)));
    expect(code).to.equal(0);
    expect(text)
      .to.match(/read 50, added 49, known already 0, left out 1/)
      .and.to.match(/line 51/);
  });
  it('a tenth of the rows rubbish: nine tenths go in', async () => {
    const rubbish = rows(1000, 48.21).map((row, i) => (i % 10 === 4 ? ['fish', '1,2,3,4,5,6', 'x,y,z,w'][i % 3] : row));
    const { code, text } = await into(write('rubbish.csv', [HEADER, ...rubbish].join('\n')));
    expect(code).to.equal(0);
    expect(text).to.match(/read 1000, added 900, known already 0, left out 100/);
    expect(text).to.match(/line 6\b/);
  });
  it('a few soundings a day apart by boat are no water: they chart nothing, and break nothing', async () => {
    const leaping = [0, 1, 2].map((i) => `2026-05-04T06:00:0${i}Z,${48.2 + i},-34.6,5`);
    const { code, text } = await run('import', '--water', 'Leap mere', '--create', write('leap.csv', [HEADER, ...leaping].join('\n')));
    expect(code, text).to.equal(0);
    expect(text)
      .to.match(/read 3, added 3/)
      .and.to.match(/chart: none yet/);
  });
  it('a track of another hemisphere: kept, flagged, and the chart stays the water’s', async () => {
    const points = Array.from(
      { length: 30 },
      (_, i) =>
        `<trkpt lat="${-35 - i / 1000}" lon="140"><time>2026-05-03T06:${String(i).padStart(2, '0')}:00Z</time><extensions><depth>7</depth></extensions></trkpt>`,
    );
    const { code, text } = await into(write('far.gpx', `<gpx version="1.1"><trk><trkseg>${points.join('')}</trkseg></trk></gpx>`));
    expect(code, text).to.equal(0);
    expect(text)
      .to.match(/added 30/)
      .and.to.match(/30 odd/)
      .and.to.include('kilometres from the water');
    expect(text).to.match(/chart: (built from 3\d{3} soundings|still right)/);
  });
  for (const [what, file, words] of [
    ['an empty file', () => write('empty.csv', ''), /empty\.csv/],
    ['XML cut short', () => write('cut.gpx', '<gpx version="1.1"><trk><trkseg><trkpt lat="48'), /cut\.gpx: line 1/],
    ['a ZIP cut short', () => write('cut.zip', 'PK\u0003\u0004 and no more'), /cut\.zip/],
    [
      'a line of two gigabytes',
      () => {
        const path = write('long.csv', `${HEADER}\n`);
        truncateSync(path, 2 ** 31);
        return path;
      },
      /long\.csv: line 2/,
    ],
  ] as const)
    it(`${what} is refused by name, and changes nothing`, async () => {
      const before = at(`before ${what}`);
      const afterwards = at(`after ${what}`);
      for (const folder of [before, afterwards]) mkdirSync(folder);
      await run('export', '--water', 'Mere', '--to', before);
      const { code, text } = await into(file());
      expect(code).to.equal(1);
      expect(text).to.match(words);
      await run('export', '--water', 'Mere', '--to', afterwards);
      expect(readFileSync(join(afterwards, 'soundings.csv'))).to.deep.equal(readFileSync(join(before, 'soundings.csv')));
    });
});

describe('a server killed in the middle', () => {
  let server: RunningServer;
  afterEach(async () => void (await server.stop('SIGKILL')));
  const json = async <T>(path: string, init?: RequestInit): Promise<T> =>
    (await (await fetch(`${server.url}/api${path}`, init)).json()) as T;
  const until = async (holds: () => Promise<boolean>, what: string): Promise<void> => {
    const end = Date.now() + 180_000;
    while (!(await holds())) {
      if (Date.now() > end) throw new Error(`waited in vain until ${what}`);
      await new Promise((done) => setTimeout(done, 50));
    }
  };

  it('of an import leaves the chart as it was; started again, it takes the import up and ends it once', async () => {
    server = await serve(data.path);
    const [water] = (await json<{ id: string; name: string; soundings: number }[]>('/waters')).filter((w) => w.name === 'Mere');
    const chartOf = async (): Promise<string | null> => (await fetch(`${server.url}/api/waters/${water.id}/chart`)).headers.get('etag');
    const chart = await chartOf();
    const upload = newId();
    await fetch(`${server.url}/api/uploads/${upload}/many.csv`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: [HEADER, ...rows(150_000, 48.215)].join('\n'),
    });
    const { job } = await json<{ job: string }>('/imports', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ upload, water: 'Mere' }),
    });
    const state = (): Promise<{ state: string; share: number }> => json(`/jobs/${job}`);
    await until(async () => (await state()).state === 'running', 'the import ran');
    await server.stop('SIGKILL');

    server = await serve(data.path);
    expect(await chartOf()).to.equal(chart);
    await until(async () => (await state()).state === 'done', 'the import was taken up and ended');
    const surveys = await json<{ source: string; soundings: number }[]>(`/waters/${water.id}/surveys`);
    expect(surveys.filter((s) => s.source === 'many.csv').map((s) => s.soundings)).to.deep.equal([150_000]);
    expect(await chartOf()).not.to.equal(chart);
  }).timeout(180_000);

  it('of a build leaves the chart as it was, and the build is made after all', async () => {
    server = await serve(data.path);
    const [water] = (await json<{ id: string; name: string }[]>('/waters')).filter((w) => w.name === 'Mere');
    const chartOf = async (): Promise<string | null> => (await fetch(`${server.url}/api/waters/${water.id}/chart`)).headers.get('etag');
    const chart = await chartOf();
    const { job } = await json<{ job: string }>(`/waters/${water.id}/chart`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{}',
    });
    await until(async () => (await json<{ state: string }>(`/jobs/${job}`)).state === 'running', 'the build ran');
    await server.stop('SIGKILL');
    server = await serve(data.path);
    expect(await chartOf()).to.equal(chart);
    await until(async () => (await chartOf()) !== chart, 'the chart was built');
  }).timeout(180_000);
});
