import { expect } from 'chai';
import { readdirSync, readFileSync } from 'node:fs';
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

  it('can be read by whoever gets it', async () => {
    const into = temporaryFolder();
    const { code, text } = await command('import', '--water', 'Theirs', '--create', folder(1000), '--data', into.path);
    into.remove();
    expect(code, text).to.equal(0);
  });
});
