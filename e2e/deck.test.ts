import { expect } from 'chai';
import type { BrowserContext, Page } from 'playwright-core';
import { destination, distance, type LatLon } from '@restless-shoal/core/geo';
import { makeLogbook } from '@restless-shoal/demo';
import { DESK, PHONE, closeBrowser, dialogGone, openPage, until } from './browser';
import { prepareWater, serve, temporaryFolder, type RunningServer } from './harness';
import { whyHere } from './why-here';

const SEED = 8;
const TRIPS = 20;
const data = temporaryFolder();
let server: RunningServer;

before(async () => {
  await prepareWater(data.path, SEED, TRIPS);
  server = await serve(data.path);
});
after(async () => {
  await closeBrowser();
  await server.stop();
  data.remove();
});

const api = async <T>(path: string): Promise<T> => (await (await fetch(`${server.url}/api${path}`)).json()) as T;

/** Three humps of the water that are most alike, well apart from each other. */
function likeHumps(): LatLon[] {
  const { world } = makeLogbook({ seed: SEED, trips: 1 });
  const humps = world.humps.map((h) => ({ ...h, crown: world.depth(h.x, h.y) })).filter((h) => h.crown > 3);
  let best: { spread: number; three: typeof humps } | null = null;
  for (const a of humps)
    for (const b of humps)
      for (const c of humps) {
        const three = [a, b, c];
        const apart = Math.min(
          ...[
            [a, b],
            [b, c],
            [a, c],
          ].map(([p, q]) => Math.hypot(p.x - q.x, p.y - q.y)),
        );
        if (apart < 500) continue;
        const crowns = three.map((h) => h.crown);
        const heights = three.map((h) => h.height);
        const spread = Math.max(...crowns) - Math.min(...crowns) + 0.5 * (Math.max(...heights) - Math.min(...heights));
        if (!best || spread < best.spread) best = { spread, three };
      }
  return best!.three.map((h) => world.toLatLon(h.x, h.y));
}

async function startTrip(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Start the trip' }).click();
  await page.getByRole('application', { name: /Where from the boat/ }).waitFor();
}

/** Drives over a place from west to east, 12 m a fix, and does something at three of the fixes. */
async function passOver(context: BrowserContext, page: Page, place: LatLon, act: () => Promise<void>): Promise<void> {
  for (let k = -4; k <= 4; k++) {
    const at = destination(place, 90, k * 12);
    await context.setGeolocation(at);
    await page.getByText(`${at.latitude.toFixed(5)}, ${at.longitude.toFixed(5)}`).waitFor();
    if (k === -1 || k === 0 || k === 1) await act();
  }
}

/** One touch on the Column, one on the Pad: with the kind chosen already, that marks. */
async function markFish(page: Page): Promise<void> {
  const column = (await page.getByRole('slider', { name: 'How deep' }).boundingBox())!;
  await page.mouse.click(column.x + column.width * 0.5, column.y + column.height * 0.45);
  const pad = (await page.getByRole('application', { name: /Where from the boat/ }).boundingBox())!;
  await page.mouse.click(pad.x + pad.width * 0.56, pad.y + pad.height / 2);
  await page.getByTestId('done').waitFor();
}

const entries = (page: Page): Promise<number> => page.getByTestId('day').locator('li').count();

async function openForecast(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Forecast' }).click();
  await page.waitForSelector('[data-testid=places] li');
  await page.getByRole('status').waitFor({ state: 'detached' });
  await page.getByText(/from \d+ trips/).waitFor();
}

describe('a day on the Deck', () => {
  it('marks over a hump raise it in the forecast, a like hump less, and blanks lower a third', async () => {
    const [one, two, three] = likeHumps();
    const { page, context, errors } = await openPage(`${server.url}/deck`, { at: destination(one, 270, 300) });
    await startTrip(page);
    await page.getByRole('button', { name: 'Log water readings' }).click();
    await page.getByLabel('Surface temperature').fill('18.5');
    await page.getByLabel('Clarity (Secchi)').fill('1.7');
    await page.getByLabel('Wind from').fill('240');
    await page.getByLabel('Wind speed').fill('4');
    await page.getByRole('button', { name: 'Log it' }).click();
    await dialogGone(page);

    await openForecast(page);
    const before = [(await whyHere(page, one)).chance, (await whyHere(page, two)).chance, (await whyHere(page, three)).chance];

    await page.getByRole('link', { name: 'Deck' }).click();
    await passOver(context, page, one, () => markFish(page));
    await passOver(context, page, three, () => page.getByRole('button', { name: 'Nothing here', exact: true }).click());
    await until(async () => (await entries(page)) === 6, 'all six marks stood in the day');

    await openForecast(page);
    await page.getByRole('button', { name: /^Update forecast/ }).click();
    await page.getByRole('status').waitFor();
    await page.getByRole('status').waitFor({ state: 'detached', timeout: 120_000 });
    await page.getByText(`from ${TRIPS + 1} trips`).waitFor();
    const after = [(await whyHere(page, one)).chance, (await whyHere(page, two)).chance, (await whyHere(page, three)).chance];

    const change = after.map((p, i) => p / before[i]);
    expect(change[0], `changes ${change.join(', ')}`).to.be.above(1.02);
    expect(change[1], `changes ${change.join(', ')}`).to.be.below(change[0]);
    expect(change[2], `changes ${change.join(', ')}`).to.be.below(1);
    expect(errors).to.deep.equal([]);
    await context.close();
  });

  it('puts the mark where the Pad was touched, and the server holds it', async () => {
    const [one] = likeHumps();
    const { page, context } = await openPage(`${server.url}/deck`, { at: one });
    await page.getByText(`${one.latitude.toFixed(5)}`).waitFor();
    // Course east: 12 m in one fix.
    const east = destination(one, 90, 12);
    await context.setGeolocation(east);
    await page.getByText(`${east.latitude.toFixed(5)}, ${east.longitude.toFixed(5)}`).waitFor();
    await page.waitForSelector('[data-testid=day] li');
    const n = await entries(page);
    const [{ id }] = await api<{ id: string }[]>('/waters');
    const stored = (): Promise<(LatLon & { time: string })[]> => api(`/waters/${id}/contacts`);
    const known = (await stored()).length;
    const pad = (await page.getByRole('application', { name: /Where from the boat/ }).boundingBox())!;
    // A quarter of the way to the edge, to starboard: the Pad reaches 1.15 times the range of 25 m.
    const radius = pad.width / 2 - 8;
    await page.mouse.click(pad.x + pad.width / 2 + radius / 2, pad.y + pad.height / 2);
    await page.getByTestId('done').waitFor();
    expect(await entries(page)).to.equal(n + 1);
    // It stands in the day at once and is sent behind that.
    await until(async () => (await stored()).length > known, 'the mark was on the server');
    const contacts = await stored();
    const newest = contacts.reduce((a, b) => (Date.parse(b.time) > Date.parse(a.time) ? b : a));
    // Starboard of a boat that heads east is south of it. What the side-scan shows is the slant range to 5 m below the
    // surface, from a transducer 0.4 m down.
    const truth = destination(east, 180, Math.sqrt(((25 * 1.15) / 2) ** 2 - 4.6 ** 2));
    expect(distance(newest, truth)).to.be.below(0.6);
    await page.getByRole('button', { name: 'Undo' }).click();
    await until(async () => (await entries(page)) === n, 'the mark was gone');
    await context.close();
  });

  it('marks by keyboard alone', async () => {
    const [one] = likeHumps();
    const { page, context } = await openPage(`${server.url}/deck`, { at: one });
    await page.getByText(`${one.latitude.toFixed(5)}`).waitFor();
    // What was logged before has been read.
    await page.waitForSelector('[data-testid=day] li');
    const n = await entries(page);
    await page.getByRole('radio', { name: 'Bait' }).focus();
    await page.keyboard.press('Enter');
    const column = page.getByRole('slider', { name: 'How deep' });
    await column.focus();
    const depth = Number(await column.getAttribute('aria-valuenow'));
    await page.keyboard.press('Shift+ArrowUp');
    expect(Number(await column.getAttribute('aria-valuenow'))).to.be.closeTo(depth - 1, 0.11);
    await page.getByRole('application', { name: /Where from the boat/ }).focus();
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Enter');
    expect(await page.getByTestId('done').textContent()).to.match(
      // 5 m by slant, a metre less deep than it was, from 0.4 m down.
      new RegExp(
        `Marked bait at .* ${Math.sqrt(25 - (depth - 1.4) ** 2)
          .toFixed(1)
          .replace('.', '\\.')}\u00a0m starboard`,
      ),
    );
    expect(await entries(page)).to.equal(n + 1);
    await context.close();
  });

  it('keeps what was logged over a restart of the server', async () => {
    const [one] = likeHumps();
    const first = await openPage(`${server.url}/deck`, { at: one });
    await first.page.waitForSelector('[data-testid=day] li');
    const n = await entries(first.page);
    expect(n).to.be.above(5);
    await first.context.close();
    await server.stop();
    server = await serve(data.path);
    const second = await openPage(`${server.url}/deck`, { at: one });
    await second.page.waitForSelector('[data-testid=day] li');
    expect(await entries(second.page)).to.equal(n);
    await second.context.close();
  });

  for (const [size, theme] of [
    [DESK, 'day'],
    [DESK, 'night'],
    [PHONE, 'day'],
  ] as const)
    it(`fits ${size.width}×${size.height} by ${theme} while a trip runs, its targets 44 px and more`, async () => {
      const [one] = likeHumps();
      const { page, context, errors } = await openPage(`${server.url}/deck`, { size, theme, at: one });
      await page.waitForSelector('[data-testid=day] li');
      expect(await page.evaluate('document.documentElement.scrollWidth - document.documentElement.clientWidth')).to.equal(0);
      const small = (await page.evaluate(
        `[...document.querySelectorAll('main button, main select')].map(e => [e.textContent.slice(0, 30), e.getBoundingClientRect()]).filter(([, r]) => r.height < 43.5 || r.width < 43.5).map(([t, r]) => t + ' ' + Math.round(r.width) + '×' + Math.round(r.height))`,
      )) as string[];
      expect(small).to.deep.equal([]);
      expect(errors).to.deep.equal([]);
      await context.close();
    });

  it('ends the trip, and a new one can be started', async () => {
    const { page, context } = await openPage(`${server.url}/deck`);
    await page.getByRole('button', { name: 'End trip' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'End the trip' }).click();
    await page.getByRole('button', { name: 'Start the trip' }).waitFor();
    await context.close();
  });
});
