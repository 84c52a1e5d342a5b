import { expect } from 'chai';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { blurCell, BLUR_SIZES, destination, distance, metricPlane, utmEpsg } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import { seeded } from '@restless-shoal/core/numbers';
import { command, serve, temporaryFolder, type RunningServer } from '../../e2e/harness';
import { phonePicture } from '../../e2e/phone-picture';

// What others get: what was seen and caught, and nothing that finds the place again, however it is asked for and added up.

const [data, files] = [temporaryFolder(), temporaryFolder()];
let server: RunningServer;
const [water, trip] = [newId(), newId()];
const SPOT = { latitude: 48.20137, longitude: -34.60291 };
const SECRETS = ['Old jetty', 'A. Client', 'Skiff', 'left of the tower', 'IMG-jetty'];
const MARKS = 200;

const send = async (path: string, method: string, body: object): Promise<void> => {
  const response = await fetch(`${server.url}/api${path}`, {
    method,
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  });
  expect(response.ok, `${path} ${response.ok ? '' : await response.text()}`).to.equal(true);
};
const folder = (size: number): string => join(files.path, String(size));
const textOf = (size: number, file: string): string => readFileSync(join(folder(size), file), 'utf8');
/** Positions of a CSV, by its header. */
function placesIn(csv: string): { latitude: number; longitude: number }[] {
  const [header, ...rows] = csv.trim().split('\n').map((line) => line.split(',')); // prettier-ignore
  const [a, o] = ['latitude', 'longitude'].map((name) => header.indexOf(name));
  return rows.filter((r) => r[a]).map((r) => ({ latitude: Number(r[a]), longitude: Number(r[o]) }));
}

before(async function () {
  this.timeout(120_000);
  server = await serve(data.path);
  await send(`/waters/${water}`, 'PUT', { name: 'Long Mere', latitude: 48.2, longitude: -34.6 });
  await send(`/waters/${water}/trips/${trip}`, 'PUT', { trip: 'Old jetty', start: '2026-05-02T05:00:00Z', end: '2026-05-02T11:30:00Z', crew: 'A. Client', boat: 'Skiff', notes: 'left of the tower' }); // prettier-ignore
  const random = seeded(7);
  const edits = Array.from({ length: MARKS }, (_, k) => ({
    record: 'contacts',
    id: newId(),
    done: 'put',
    row: {
      contact: `Old jetty ${k}`,
      time: new Date(Date.UTC(2026, 4, 2, 6, 0, k)).toISOString(),
      ...destination(SPOT, 360 * random(), 30 * random()),
      kind: 'fish',
      species: 'perch',
      water_depth_m: 7.34,
      notes: 'left of the tower',
    },
  }));
  await send(`/trips/${trip}/records`, 'POST', { edits });
  await send(`/trips/${trip}/stops/${newId()}`, 'PUT', { stop: 'Old jetty', start: '2026-05-02T07:00:00Z', end: '2026-05-02T07:20:00Z', ...SPOT, notes: 'Old jetty' }); // prettier-ignore
  await send(`/trips/${trip}/responses/${newId()}`, 'PUT', { time: '2026-05-02T07:10:00Z', response: 'landed', species: 'pike', stop: 'Old jetty', angler: 'A. Client' }); // prettier-ignore
  await send(`/trips/${trip}/conditions/${newId()}`, 'PUT', { time: '2026-05-02T07:00:00Z', ...SPOT, surface_temperature_c: 11, signs: 'left of the tower' }); // prettier-ignore
  await send(`/waters/${water}/spots/${newId()}`, 'PUT', { name: 'Old jetty', ...SPOT });
  for (const [shows, name] of [
    ['fish', 'IMG-jetty'],
    ['spot', 'IMG-jetty-2'],
  ]) {
    // prettier-ignore
    const id = newId();
    await send(`/trips/${trip}/photos/${id}`, 'PUT', { photo: name, time: '2026-05-02T07:10:00Z', shows, caption: 'Old jetty' });
    const body = new Uint8Array(await phonePicture('2026:05:02 07:10:00'));
    await fetch(`${server.url}/api/trips/${trip}/photos/${id}/picture`, { method: 'PUT', headers: { 'Content-Type': 'application/octet-stream' }, body }); // prettier-ignore
  }
  for (const size of BLUR_SIZES)
    expect(
      (await command('export', '--water', 'Long Mere', '--to', folder(size), '--blur', String(size), '--data', data.path)).code,
    ).to.equal(0);
});
after(async () => {
  await server.stop();
  [data, files].forEach((f) => f.remove());
});

describe('a log for others', () => {
  it('has every place in the middle of a cell: two hundred marks of one spot, averaged, tell no more than one', () => {
    const plane = metricPlane(utmEpsg({ latitude: 48.2, longitude: -34.6 }));
    for (const size of BLUR_SIZES) {
      const places = ['contacts.csv', 'stops.csv', 'conditions.csv'].flatMap((file) => placesIn(textOf(size, file)));
      expect(places.length, 'marks, the stop, the reading').to.equal(MARKS + 2);
      for (const place of places) {
        const at = plane.toMetric(place);
        const { from } = blurCell(at, size);
        for (const k of [0, 1]) expect(at[k] - from[k], `${size} m`).to.be.closeTo(size / 2, 1);
        // Not far off either.
        expect(distance(place, SPOT)).to.be.below(size);
      }
    }
  });

  it('asked for in every size, one after the other, tells the finest cell and nothing within it', () => {
    const plane = metricPlane(utmEpsg({ latitude: 48.2, longitude: -34.6 }));
    const inCell = (size: (typeof BLUR_SIZES)[number]): { from: number[]; to: number[] }[] =>
      placesIn(textOf(size, 'stops.csv')).map((p) => blurCell(plane.toMetric(p), size));
    const [finest] = inCell(BLUR_SIZES[0]);
    for (const size of BLUR_SIZES) {
      const [cell] = inCell(size);
      for (const k of [0, 1]) {
        expect(cell.from[k]).to.be.at.most(finest.from[k] + 1e-6);
        expect(cell.to[k]).to.be.at.least(finest.to[k] - 1e-6);
      }
    }
  });

  it('holds no name, no free words, no position to more than its cell, no picture of a spot, and is the same each time', async () => {
    const size = 1000;
    const all = (path: string): Buffer[] =>
      readdirSync(path, { withFileTypes: true }).flatMap((f) =>
        f.isDirectory() ? all(join(path, f.name)) : [readFileSync(join(path, f.name))],
      );
    const names = readdirSync(folder(size), { recursive: true }).map(String).sort();
    expect(names.filter((n) => n.includes('photo'))).to.deep.equal(['photos', 'photos/photo-001.jpg']);
    expect(names).to.not.include.members(['spots.csv', 'track.csv', 'soundings.csv', 'cover.geojson']);
    for (const bytes of all(folder(size))) {
      for (const secret of SECRETS) expect(bytes.includes(secret), secret).to.equal(false);
      for (const v of [SPOT.latitude, SPOT.longitude]) expect(bytes.includes(Math.abs(v).toFixed(3))).to.equal(false);
    }
    expect(textOf(size, 'contacts.csv')).to.include(',7,').and.to.not.include('7.34');
    const ask = async (): Promise<Buffer> =>
      Buffer.from(await (await fetch(`${server.url}/api/waters/${water}/export/shared.zip?blur=${size}`)).arrayBuffer());
    const [once, again] = [await ask(), await ask()];
    expect(once.equals(again)).to.equal(true);
    expect(once.length).to.be.above(1000);
    expect((await fetch(`${server.url}/api/waters/${water}/export/shared.zip?blur=7`)).status).to.equal(400);
  });

  it('says an area that the owner has drawn and named instead of a square: for every mark the same place, and no other name', async () => {
    const around = (metres: number, name: string): object => ({
      kind: 'area',
      cover: null,
      name,
      geometry: {
        type: 'Polygon',
        coordinates: [[45, 135, 225, 315, 45].map((b) => destination(SPOT, b, metres)).map(({ latitude, longitude }) => [longitude, latitude])], // prettier-ignore
      },
    });
    for (const area of [around(900, 'North arm'), around(2500, 'All of the lake')]) await send(`/waters/${water}/cover`, 'POST', area);
    const into = join(files.path, 'areas');
    const { code, text } = await command('export', '--water', 'Long Mere', '--to', into, '--blur', 'areas', '--data', data.path);
    expect(code, text).to.equal(0);
    const contacts = placesIn(readFileSync(join(into, 'contacts.csv'), 'utf8'));
    expect(contacts).to.have.length(MARKS);
    expect(new Set(contacts.map((p) => JSON.stringify(p))).size).to.equal(1);
    // The middle of the area; that the spot is its middle too is how the test drew it.
    const marks = JSON.parse(readFileSync(join(into, 'marks.geojson'), 'utf8')) as {
      features: { properties: { area: string; within_m: number } }[];
    };
    for (const { properties } of marks.features) expect(properties.area).to.equal('North arm');
    expect(marks.features[0].properties.within_m).to.be.within(880, 920);
    const cover = readFileSync(join(into, 'cover.geojson'), 'utf8');
    expect(cover).to.include('North arm').and.to.not.include('All of the lake');
  });

  it("is read as marks of somebody else: with how far off they may lie, and as no trip, look or catch of one's own", async () => {
    const into = temporaryFolder();
    const { code, text } = await command('import', '--water', 'Theirs', '--create', folder(1000), '--data', into.path);
    expect(code, text).to.equal(0);
    const theirs = await serve(into.path);
    try {
      const [{ id }] = (await (await fetch(`${theirs.url}/api/waters`)).json()) as { id: string }[];
      const { cover } = (await (await fetch(`${theirs.url}/api/waters/${id}`)).json()) as {
        cover: { kind: string; name: string; source: string; within_m: number }[];
      };
      expect(cover.length).to.be.within(1, 4);
      for (const mark of cover) expect(mark).to.deep.include({ kind: 'mark', source: 'others', within_m: 708 });
      expect(cover.reduce((n, m) => n + Number(/perch(?: × (\d+))?/.exec(m.name)?.[1] ?? 1), 0)).to.equal(MARKS);
      const { trips } = (await (await fetch(`${theirs.url}/api/waters/${id}/log`)).json()) as { trips: object[] };
      expect(trips).to.have.length(0);
    } finally {
      await theirs.stop();
      into.remove();
    }
  });

  it('of a plotter: waypoints with whose they are, whatever their words; its tracks are left, and the same file adds nothing again', async () => {
    const into = temporaryFolder();
    const gpx = join(into.path, 'friend.gpx');
    const [a, b] = [destination(SPOT, 90, 300), destination(SPOT, 180, 400)];
    const point = (tag: string, p: typeof a, more: string): string => `<${tag} lat="${p.latitude}" lon="${p.longitude}">${more}</${tag}>`;
    writeFileSync(
      gpx,
      `<gpx version="1.1" creator="plotter">${point('wpt', a, '<name>Old timber</name>')}${point('wpt', b, '<name>Zander corner</name>')}<trk><trkseg>${[
        0, 1, 2,
      ]
        .map((k) =>
          point('trkpt', destination(SPOT, 0, 20 * k), `<time>2026-05-02T06:00:0${k}Z</time><extensions><depth>5</depth></extensions>`),
        )
        .join('')}</trkseg></trk></gpx>`,
    );
    const bring = (): ReturnType<typeof command> => command('import', '--water', 'Theirs', '--create', gpx, '--from', 'Fred', '--within', '30', '--data', into.path); // prettier-ignore
    const first = await bring();
    expect(first.code, first.text).to.equal(0);
    expect(first.text).to.include('read 2, added 2');
    expect((await bring()).text).to.include('read 2, added 0, known already 2');
    const out = join(into.path, 'out');
    expect((await command('export', '--water', 'Theirs', '--to', out, '--data', into.path)).code).to.equal(0);
    const cover = JSON.parse(readFileSync(join(out, 'cover.geojson'), 'utf8')) as { features: { properties: object }[] };
    expect(cover.features.map((f) => f.properties)).to.deep.equal([
      { kind: 'mark', cover: null, name: 'Old timber', source: 'Fred', within_m: 30 },
      { kind: 'mark', cover: null, name: 'Zander corner', source: 'Fred', within_m: 30 },
    ]);
    expect(readFileSync(join(out, 'soundings.csv'), 'utf8').trim().split('\n'), 'a header alone').to.have.length(1);
    // Marks that this program wrote elsewhere are no product here: they are all that he sent.
    const sent = await command('import', '--water', 'Theirs', join(folder(1000), 'marks.gpx'), '--from', 'Ann', '--data', into.path);
    expect(sent.text).to.match(/marks\.gpx: read 200, added [1-4],/);
    // What was written is read again as it was.
    const again = join(into.path, 'again');
    expect((await command('import', '--water', 'Copy', '--create', out, '--data', into.path)).code).to.equal(0);
    expect((await command('export', '--water', 'Copy', '--to', again, '--data', into.path)).code).to.equal(0);
    expect(readFileSync(join(again, 'cover.geojson'), 'utf8')).to.equal(readFileSync(join(out, 'cover.geojson'), 'utf8'));
    into.remove();
  });
});
