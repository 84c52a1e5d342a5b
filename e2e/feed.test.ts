import { expect } from 'chai';
import { join } from 'node:path';
import { bearing, destination, distance, type LatLon } from '@restless-shoal/core/geo';
import { makeLogbook } from '@restless-shoal/demo';
import { closeBrowser, openPage, PHONE, until } from './browser';
import { ask, command, runningTrip, serve, temporaryFolder, writeLogbook, type RunningServer } from './harness';

const SEED = 8;
const data = temporaryFolder();
let server: RunningServer;
let water: string;

const send = <T>(method: string, path: string, body?: unknown): Promise<T> => ask(server, path, method, body);
const get = <T>(path: string): Promise<T> => ask(server, path);

before(async () => {
  const folder = join(data.path, 'logbook');
  const name = writeLogbook(folder, SEED, 4);
  expect((await command('import', '--data', data.path, '--water', name, '--create', folder)).code).to.equal(0);
  server = await serve(data.path);
  [{ id: water }] = await get<{ id: string }[]>('/waters');
});
after(async () => {
  await closeBrowser();
  await server.stop();
  data.remove();
});

interface Contact {
  id: string;
  time: string;
  latitude: number;
  longitude: number;
  water_depth_m: number | null;
}
interface Running {
  contacts: Contact[];
  track: { depth_m: number | null; time: string; mode: string }[];
}
const running = (): Promise<Running> => runningTrip(server);
const truthAt = (at: number): Promise<{ position: LatLon; course: number; depth: number }> => get(`/feed/truth?at=${at}`);

describe('the boat’s network', () => {
  it('gives position, course and depth to the Deck: marks stand within 3 m of the truth, ahead and to both sides, at 2 and at 6 m/s', async () => {
    const { world } = makeLogbook({ seed: SEED, trips: 1 });
    const hump = world.humps.reduce((a, b) => (a.height > b.height ? a : b));
    const start = world.toLatLon(hump.x - 60, hump.y + 40);
    const { page, context, errors } = await openPage(`${server.url}/deck`, { size: PHONE });
    await page.getByRole('button', { name: 'Start the trip' }).click();
    await page.getByRole('button', { name: 'Set the position by hand' }).click();
    // Nothing there: said in words, and the field keeps what was typed.
    await page.getByLabel('Boat’s network').fill('somewhere');
    await page.getByRole('button', { name: 'Listen to the boat’s network' }).click();
    await page.getByText('needs a host and a port').waitFor();

    let marks = 0;
    for (const speed of [2, 6]) {
      const { port } = await send<{ port: number }>('POST', `/waters/${water}/simulated-boat`, {
        ...start,
        course: 90,
        speed,
        length: 120,
        spacing: 15,
      });
      if (speed === 2) {
        await page.getByLabel('Boat’s network').fill(`127.0.0.1:${port}`);
        await page.getByRole('button', { name: 'Listen to the boat’s network' }).click();
      }
      await page.getByText(new RegExp(`${speed}\\.0 m/s · boat’s network`)).waitFor();
      const pad = page.getByRole('application', { name: /Where from the boat/ });
      for (const [right, up] of [
        [0, 0],
        [0.6, 0],
        [-0.6, 0],
        [0, 0.7],
      ]) {
        const box = (await pad.boundingBox())!;
        const radius = box.width / 2 - 8;
        await page.mouse.click(box.x + box.width / 2 + right * radius, box.y + box.height / 2 - up * radius);
        marks++;
        await until(async () => (await running()).contacts.length === marks, `mark ${marks} was on the server`);
        const mark = (await running()).contacts.sort((a, b) => a.time.localeCompare(b.time)).at(-1)!;
        const { position, course, depth } = await truthAt(Date.parse(mark.time));
        // The Pad reaches 1.15 times the range of 25 m.
        const reach = 25 * 1.15;
        const target = destination(destination(position, course, up * reach), course + 90, right * reach);
        expect(distance(target, mark), `${speed} m/s, ${right} right, ${up} ahead`).to.be.below(3);
        if (!right && !up) expect(mark.water_depth_m).to.be.closeTo(depth, 0.6);
      }
    }
    // The track holds what the sounder said, a fix a second and no more.
    await until(async () => (await running()).track.length >= 6, 'the track was on the server');
    const { track } = await running();
    expect(track.filter((f) => f.depth_m !== null).length).to.be.above(track.length * 0.8);
    const times = track.map((f) => Date.parse(f.time)).sort((a, b) => a - b);
    expect((times.at(-1)! - times[0]) / 1000).to.be.above((times.length - 1) * 0.8);

    await send('DELETE', '/feed');
    await page.getByText('The boat’s network is not set').waitFor();
    expect(errors).to.deep.equal([]);
    await context.close();
  });
  it('is dialled again after it was gone, and a bad address is refused by field', async () => {
    const { port } = await send<{ port: number }>('POST', `/waters/${water}/simulated-boat`, {
      latitude: 48.2,
      longitude: -34.6,
      course: 45,
      speed: 3,
    });
    await until(async () => (await get<{ state: string }>('/feed')).state === 'connected', 'it was connected');
    const before = await truthAt(Date.now());
    expect(bearing({ latitude: 48.2, longitude: -34.6 }, before.position)).to.be.closeTo(45, 1);
    await send('PUT', '/feed', { host: '127.0.0.1', port: 1 });
    await until(async () => (await get<{ state: string }>('/feed')).state === 'failing', 'it said that nothing listens there');
    expect(await get('/feed')).to.include({ trouble: 'nothing listens there', port: 1 });
    await send('PUT', '/feed', { host: '127.0.0.1', port });
    await until(async () => (await get<{ state: string }>('/feed')).state === 'connected', 'it was connected again');
    for (const [body, field] of [
      [{ host: '127.0.0.1', port: 70000 }, 'port'],
      [{ host: 'not a host/', port: 10110 }, 'host'],
      [{ port: 10110 }, 'host'],
    ] as const)
      expect(await send('PUT', '/feed', body)).to.include({ field });
    await send('DELETE', '/feed');
  });
});
