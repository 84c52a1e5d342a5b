import { expect } from 'chai';
import { bearing, destination, distance, type LatLon } from '@restless-shoal/core/geo';
import { makeLogbook } from '@restless-shoal/demo';
import { openPage, PHONE, until } from './browser';
import { ask, runningTrip } from './harness';
import { loggedWater } from './logged-water';

const SEED = 8;
let water: string;

const send = <T>(method: string, path: string, body?: unknown): Promise<T> => ask(served(), path, method, body);
const get = <T>(path: string): Promise<T> => ask(served(), path);

const served = loggedWater(SEED, 4);
before(async () => {
  [{ id: water }] = await ask<{ id: string }[]>(served(), '/waters');
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
const running = (): Promise<Running> => runningTrip(served());
const truthAt = (at: number): Promise<{ position: LatLon; course: number; depth: number }> => get(`/feed/truth?at=${at}`);

describe('the boat’s network', () => {
  it('gives position, course and depth to the Deck: marks stand within 3 m of the truth, ahead and to both sides, at 2 and at 6 m/s', async () => {
    const { world } = makeLogbook({ seed: SEED, trips: 1 });
    const hump = world.humps.reduce((a, b) => (a.height > b.height ? a : b));
    const start = world.toLatLon(hump.x - 60, hump.y + 40);
    const { page, context, errors } = await openPage(`${served().url}/deck`, { size: PHONE });
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
      await page.getByText(new RegExp(`${speed}\\.0 m/s · simulated boat`)).waitFor();
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
        // By slant range to the Column's 5 m, or to the bottom where that is nearer, from a transducer 0.4 m down.
        const range = Math.hypot(up, right) * reach;
        const flat = range ? Math.sqrt(range ** 2 - (Math.min(5, depth) - 0.4) ** 2) / range : 0;
        const target = destination(destination(position, course, up * reach * flat), course + 90, right * reach * flat);
        expect(distance(target, mark), `${speed} m/s, ${right} right, ${up} ahead`).to.be.below(3);
        if (!right && !up) expect(mark.water_depth_m).to.be.closeTo(depth, 0.6);
      }
    }
    // The track holds what the sounder said, a fix a second and no more.
    await until(async () => (await running()).track.length >= 6, 'the track was on the server');
    const { track } = await running();
    // No fix is written before the sounder has spoken, neither of the first boat nor of the second.
    expect(track.filter((f) => f.depth_m === null)).to.deep.equal([]);
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
