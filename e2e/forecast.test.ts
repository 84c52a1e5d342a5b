import { expect } from 'chai';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { csvLine, packParts, unpackParts } from '@restless-shoal/core/formats';
import { destination, type LatLon } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import { makeLogbook } from '@restless-shoal/demo';
import { violations } from './access';
import { PHONE, closeBrowser, dialogGone, openPage, until } from './browser';
import { ask, command, serve, temporaryFolder, type RunningServer } from './harness';
import { whyHere } from './why-here';

const SEED = 5;
const TRIPS = 12;
const data = temporaryFolder();
let server: RunningServer;
const { folder, world } = makeLogbook({ seed: SEED, trips: TRIPS });
/** The same water without a log: only the strategies count. */
const BARE = 'Bare Mere';
const NOISE = 'Noise Mere';

/** The same log with its marks dealt out at random over all scans: what was seen says nothing of where or when. */
function dealtOut(): Map<string, string> {
  const lines = (name: string): string[][] =>
    folder
      .get(name)!
      .trim()
      .split('\n')
      .map((l) => l.split(','));
  const [trackHead, ...track] = lines('track.csv');
  const scans = track.filter((fix) => fix[trackHead.indexOf('mode')] === 'scan');
  const [head, ...contacts] = lines('contacts.csv');
  const at = (column: string): number => head.indexOf(column);
  const dealt = contacts
    .filter((c) => c[at('view')] !== 'line')
    .map((c, k) => {
      const fix = scans[(k * 7919 + 13) % scans.length];
      const moved = [...c];
      for (const column of ['trip', 'time', 'latitude', 'longitude']) moved[at(column)] = fix[trackHead.indexOf(column)];
      for (const column of ['same_as', 'stop', 'water_depth_m', 'top_m', 'bottom_m']) moved[at(column)] = '';
      return moved;
    });
  const noise = new Map(folder);
  noise.set('contacts.csv', [head, ...dealt].map((r) => csvLine(r)).join(''));
  noise.delete('responses.csv');
  noise.set('water.json', folder.get('water.json')!.replace(/"name": "[^"]*"/, `"name": "${NOISE}"`));
  return noise;
}

async function importFolder(files: Map<string, string>, name: string): Promise<void> {
  const to = join(data.path, name.replace(/\W/g, '-'));
  mkdirSync(to, { recursive: true });
  for (const [file, text] of files) writeFileSync(join(to, file), text);
  const { code, text } = await command('import', '--data', data.path, '--water', name, '--create', to);
  expect(code, text).to.equal(0);
}

before(async () => {
  await importFolder(folder, world.name);
  await importFolder(dealtOut(), NOISE);
  const bare = new Map(['outline.geojson', 'cover.geojson', 'soundings.csv', 'water.json'].map((name) => [name, folder.get(name)!]));
  bare.set('water.json', bare.get('water.json')!.replace(/"name": "[^"]*"/, `"name": "${BARE}"`));
  await importFolder(bare, BARE);
  server = await serve(data.path);
});
after(async () => {
  await closeBrowser();
  await server.stop();
  data.remove();
});

const waterId = async (name: string): Promise<string> =>
  (await ask<{ id: string; name: string }[]>(server, '/waters')).find((w) => w.name === name)!.id;

/** The page of perch, once the log has been fitted. */
async function openForecast(name: string, more: Parameters<typeof openPage>[1] = {}): Promise<Awaited<ReturnType<typeof openPage>>> {
  const opened = await openPage(`${server.url}/forecast?water=${encodeURIComponent(name)}`, more);
  await opened.page.getByRole('combobox', { name: 'Species' }).selectOption('perch');
  await opened.page.waitForSelector('[data-testid=places] li');
  await opened.page.getByText(/from \d+ trips/).waitFor();
  return opened;
}

async function setWind(page: Page, from: string, speed: string): Promise<void> {
  await page.keyboard.press('w');
  await page.getByRole('slider', { name: 'Wind from' }).fill(from);
  await page.getByRole('spinbutton', { name: 'Wind, m/s' }).fill(speed);
  await page.getByRole('button', { name: 'Done' }).click();
}

/** Two places near opposite shores of the middle of the water, each over two to four metres. */
function shores(): { north: LatLon; south: LatLon } {
  const near = (from: number, to: number, step: number, x: number): number | null => {
    for (let y = from; step > 0 ? y < to : y > to; y += step) if (world.depth(x, y) > 2 && world.depth(x, y) < 4.5) return y;
    return null;
  };
  let best: { x: number; south: number; north: number } | null = null;
  for (let x = world.width * 0.3; x < world.width * 0.8; x += 20) {
    const [south, north] = [near(0, world.height, 10, x), near(world.height, 0, -10, x)];
    if (south !== null && north !== null && (!best || north - south > best.north - best.south)) best = { x, south, north };
  }
  return { north: world.toLatLon(best!.x, best!.north), south: world.toLatLon(best!.x, best!.south) };
}

describe('the Forecast', () => {
  it('raises the wind-blown shore when the wind turns on to it, and says why', async () => {
    const { page, context } = await openPage(`${server.url}/forecast?water=${encodeURIComponent(BARE)}`);
    await page.getByText(/from the strategies alone: no log yet/).waitFor();
    const { north, south } = shores();
    await setWind(page, '180', '9');
    const blownNorth = await whyHere(page, north);
    const shelteredSouth = await whyHere(page, south);
    await setWind(page, '0', '9');
    const shelteredNorth = await whyHere(page, north);
    const blownSouth = await whyHere(page, south);
    expect(blownNorth.chance).to.be.above(shelteredNorth.chance * 1.02);
    expect(blownSouth.chance).to.be.above(shelteredSouth.chance * 1.02);
    expect(blownNorth.words).to.include('wind-blown');
    expect(blownSouth.words).to.include('wind-blown');
    await context.close();
  });

  it('goes on undisturbed while the page puts itself on the device', async () => {
    const { page, context, errors } = await openPage(`${server.url}/forecast?water=${encodeURIComponent(BARE)}`, { installed: true });
    await page.getByTestId('places').getByRole('listitem').first().waitFor();
    const threads: string[] = [];
    page.on('worker', (worker) => threads.push(worker.url()));
    const controlled = (): Promise<boolean> => page.evaluate(() => navigator.serviceWorker.controller !== null);
    await until(controlled, 'the page was kept on the device');
    // All that was read is then read once more.
    await page.waitForTimeout(2500);
    expect(await page.getByRole('alert').count(), 'nothing broke off').to.equal(0);
    expect(threads, 'the thread with the chart stays').to.deep.equal([]);
    expect(errors).to.deep.equal([]);
    await context.close();
  });
  it('lets the strategies be set otherwise: the places follow, and what is beyond reason is refused by name', async () => {
    const { page, context } = await openPage(`${server.url}/forecast?water=${encodeURIComponent(BARE)}`);
    await page.getByText(/from the strategies alone: no log yet/).waitFor();
    const places = page.getByTestId('places');
    const before = await places.textContent();
    await page.getByRole('button', { name: 'Set the strategies' }).click();
    await page.getByLabel('Depth first: counts, before any log').fill('20');
    await page.getByRole('button', { name: 'Keep these' }).click();
    await page.getByText('Depth first, counts, before any log: a number from 0 to 2 is needed').waitFor();
    await page.getByLabel('Depth first: counts, before any log').fill('0');
    await page.getByRole('button', { name: 'Keep these' }).click();
    await dialogGone(page);
    await until(async () => (await places.textContent()) !== before, 'the places followed');
    await page.getByRole('button', { name: 'Set the strategies' }).click();
    await page.getByRole('button', { name: 'Reset to defaults' }).click();
    await page.getByRole('button', { name: 'Keep these' }).click();
    await dialogGone(page);
    await until(async () => (await places.textContent()) === before, 'the places were as before');
    await context.close();
  });

  it('is fitted anew, unasked, when what a species needs is set otherwise on the Brief', async () => {
    const { page, context } = await openForecast(world.name);
    const id = await waterId(world.name);
    const stands = async (): Promise<{ at: string | null; stale: string | null }> => {
      const { headers } = await fetch(`${server.url}/api/waters/${id}/models/perch`);
      return { at: headers.get('X-Fitted-At'), stale: headers.get('X-Stale') };
    };
    const before = await stands();
    expect(before.stale).to.equal('false');
    await page.keyboard.press('1');
    await page.getByRole('button', { name: 'What perch need' }).click();
    const warmest = page.getByLabel('Leaves water warmer than');
    await warmest.fill(String(Number(await warmest.inputValue()) + 0.5));
    await page.getByRole('button', { name: 'Keep these' }).click();
    await dialogGone(page);
    expect(await stands()).to.deep.equal({ at: before.at, stale: 'true' });
    await page.keyboard.press('5');
    await until(async () => {
      const now = await stands();
      return now.at !== before.at && now.stale === 'false';
    }, 'the new needs were in the fit');
    await page.getByText(/from \d+ trips/).waitFor();
    await context.close();
  });

  it('passes over a fit that an earlier version of it left on the device, and shows the strategies', async () => {
    const { page, context, errors } = await openForecast(world.name);
    // As it was before a fit carried the species that it was made with.
    await page.route('**/models/perch', async (route) => {
      if (route.request().method() !== 'GET') return route.fallback();
      const response = await route.fetch();
      const { header, parts } = unpackParts<Record<string, unknown>>(new Uint8Array(await response.body()));
      delete header.profile;
      await route.fulfill({ response, body: Buffer.from(packParts({ ...header, species: 'perch' }, parts)) });
    });
    await page.reload();
    await page.getByText(/from the strategies alone/).waitFor();
    await page.waitForSelector('[data-testid=places] li');
    expect(errors).to.deep.equal([]);
    await context.close();
  });

  it('says at the top when what was logged predicts nothing, and shows the strategies', async () => {
    const { page, context } = await openForecast(NOISE);
    const banner = page.getByTestId('worse');
    await banner.waitFor({ timeout: 180_000 });
    expect(await banner.textContent()).to.match(/does worse than (the strategies|the same chance everywhere)/);
    await page.getByText(/from the strategies alone/).waitFor();
    await banner.getByRole('button', { name: 'Show the log anyway' }).click();
    await page.getByText(/from \d+ trips/).waitFor();
    await context.close();
  });

  it('scores itself on trips held out, with a model card', async () => {
    const { page, context } = await openForecast(world.name);
    const board = page.getByTestId('board');
    await board.waitFor({ timeout: 180_000 });
    expect(await board.locator('tbody tr').count()).to.equal(8);
    await page.getByRole('button', { name: 'Model card' }).click();
    const card = await page.getByTestId('card').textContent();
    for (const words of ['log score', 'Brier score', 'expected over seen', 'calibration slope', 'the hot spots', 'Bottom first'])
      expect(card).to.include(words);
    expect(await page.getByRole('dialog').textContent()).to.match(/scans of 12 trips/);
    await context.close();
  });

  it('shows the change from today to tomorrow, and places best to scout', async () => {
    const { page, context } = await openForecast(world.name);
    await page.getByRole('button', { name: 'Change by tomorrow' }).click();
    await page.getByTestId('compared').waitFor();
    await page.getByRole('img', { name: /^change of the chance/ }).waitFor();
    expect(await page.getByRole('banner').textContent()).to.include('what if');
    await page.getByRole('button', { name: 'Stop comparing' }).click();
    await page.getByRole('img', { name: /^painted from/ }).waitFor();
    const first = page.getByTestId('places').locator('li').first();
    const best = await first.textContent();
    await page.getByRole('radio', { name: 'Best to scout' }).click();
    await until(async () => (await first.textContent()) !== best, 'other places were listed');
    for (const row of await page.getByTestId('places').locator('li').allTextContents()) expect(row).to.include('Never looked at');
    await context.close();
  });

  it('forecasts large fish when they are asked for: less likely, and said so', async () => {
    const { page, context } = await openForecast(world.name);
    const best = page.getByTestId('places').locator('li').first().locator('b.text-fish');
    const any = Number.parseFloat((await best.textContent())!);
    await page.getByRole('radio', { name: /^Large, \d+ of \d+/ }).click();
    await page.getByText('shows a large one').waitFor();
    await until(async () => Number.parseFloat((await best.textContent())!) < 0.8 * any, 'the best place promised less');
    await context.close();
  });

  it('starts a water without a log from what another taught, and says so', async () => {
    const { page, context } = await openPage(`${server.url}/forecast?water=${encodeURIComponent(BARE)}`);
    await page.getByRole('combobox', { name: 'Species' }).selectOption('perch');
    // Where this water was looked at before the other had a fit, the new start is offered.
    const basis = page.getByText(/no log here yet; started from .+: 12 trips, \d+ contacts/);
    const refit = page.getByRole('button', { name: 'Update forecast: there is new data' });
    await basis.or(refit).first().waitFor();
    if (await refit.isVisible()) await refit.click();
    await basis.waitFor();
    await context.close();
  });

  it('hands the forecast out as CSV, GeoJSON and GPX', async () => {
    const { page, context } = await openForecast(world.name);
    const saved = async (button: string): Promise<string> => {
      const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: button }).click()]);
      const chunks: Buffer[] = [];
      for await (const chunk of await download.createReadStream()) chunks.push(chunk as Buffer);
      return Buffer.concat(chunks).toString();
    };
    const csv = (await saved('Forecast as CSV')).trim().split('\n');
    expect(csv[0]).to.equal('latitude,longitude,probability,low,high,depth_top_m,depth_bottom_m,species,at');
    // Another species: no number of the one before is shown or saved under its name, also in the moment after.
    await page.getByRole('combobox', { name: 'Species' }).selectOption('zander');
    const button = page.getByRole('button', { name: 'Forecast as CSV' });
    if (await button.isEnabled()) {
      const next = (await saved('Forecast as CSV')).trim().split('\n');
      expect(next[1]).to.include(',zander,');
      expect(next.slice(1).map((r) => r.split(',')[2])).to.not.deep.equal(csv.slice(1).map((r) => r.split(',')[2]));
    } else expect(await page.getByTestId('basis').textContent()).to.include('computing');
    await page.getByRole('combobox', { name: 'Species' }).selectOption('perch');
    await until(() => button.isEnabled(), 'the forecast of perch was there again');
    const geo = JSON.parse(await saved('Forecast as GeoJSON')) as { features: { properties: { probability: number } }[] };
    expect(geo.features).to.have.length(csv.length - 1);
    expect(geo.features.every((f) => f.properties.probability > 0 && f.properties.probability < 1)).to.equal(true);
    expect((await saved('Best places as GPX')).match(/<wpt /g)).to.have.length(await page.getByTestId('places').locator('li').count());
    await context.close();
  });

  it('keeps what was shown on a trip, and says when it ends what came of it', async () => {
    const id = await waterId(world.name);
    const deck = await openPage(`${server.url}/deck?water=${encodeURIComponent(world.name)}`, { at: world.toLatLon(...world.deepest) });
    await deck.page.getByRole('button', { name: 'Start the trip' }).click();
    await deck.page.getByRole('application', { name: /Where from the boat/ }).waitFor();
    await deck.context.close();
    // It is sent a moment after the forecast is shown: the page is listened to before that.
    const { page, context } = await openPage(`${server.url}/brief?water=${encodeURIComponent(world.name)}`);
    const sent = page.waitForResponse(
      (r) => r.url().includes('/outlooks/') && r.request().method() === 'PUT' && r.request().postDataJSON().species === 'perch',
      { timeout: 120_000 },
    );
    await page.goto(`${server.url}/forecast?water=${encodeURIComponent(world.name)}`);
    await page.getByRole('combobox', { name: 'Species' }).selectOption('perch');
    await page.waitForSelector('[data-testid=places] li');
    const kept = await sent;
    expect(kept.status()).to.equal(200);
    const outlook = kept.request().postDataJSON() as { places: { cells: [number, number][] }[]; species: string };
    expect(outlook.places.length).to.be.above(9);
    // The boat scans its way over the best place, and marks two there.
    const { trips } = await ask<{ trips: { id: string; end: string | null }[] }>(server, `/waters/${id}/log`);
    const trip = trips.find((t) => t.end === null)!.id;
    const [column, row] = outlook.places[0].cells[0];
    const place = world.plane.toLatLon([column * 25 + 12.5, row * 25 + 12.5]);
    const now = Date.now() + 2000;
    const fixes = Array.from({ length: 9 }, (_, k) => ({
      time: new Date(now + k * 6000).toISOString(),
      ...destination(place, 90, (k - 4) * 12),
      mode: 'scan',
      view: 'side-scan',
      port_range_m: 25,
      starboard_range_m: 25,
    }));
    await ask(server, `/trips/${trip}/track`, 'POST', fixes);
    for (let k = 0; k < 2; k++) {
      const key = newId(now + k);
      await ask(server, `/trips/${trip}/contacts/${key}`, 'PUT', {
        time: new Date(now + 24_000).toISOString(),
        ...destination(place, 90, k * 5),
        kind: 'fish',
        contact: key,
        species: outlook.species,
        view: 'side-scan',
      });
    }
    await page.goto(`${server.url}/deck?water=${encodeURIComponent(world.name)}`);
    await page.getByRole('button', { name: 'End trip' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'End the trip' }).click();
    await page.getByRole('button', { name: 'Start the trip' }).waitFor();
    // The trip itself says what the forecast was worth on it, at once; so does the Forecast.
    const lastTrip = page.getByTestId('past-trips');
    await lastTrip.getByText(/as forecast/).waitFor();
    const came = /You looked at \d+\.\d ha\. 2 targets.*you looked at \d+ of the \d+ best places.*saw 2\./;
    await until(async () => came.test((await lastTrip.textContent())!), 'the trip said what came of it');
    // Those before it are a press away, each with its own log.
    await page.getByRole('button', { name: 'The trip before' }).click();
    await lastTrip.getByText(`Trip ${TRIPS} of ${TRIPS + 1}`).waitFor();
    await lastTrip.getByText(/You looked at/).waitFor();
    expect(await lastTrip.textContent()).to.not.match(/as forecast|2 targets/);
    await page.getByRole('button', { name: 'The trip after' }).click();
    await lastTrip.getByText(/as forecast/).waitFor();
    await page.goto(`${server.url}/forecast?water=${encodeURIComponent(world.name)}`);
    const outcome = page.getByTestId('outcome');
    await outcome.waitFor({ timeout: 60_000 });
    expect(await outcome.textContent()).to.match(/you looked at \d+ of the \d+ best places.*Expected \d+\.\d contacts.*saw 2\./);
    await context.close();
  });

  it('fits a phone, by day and by night, without a breach of access', async () => {
    for (const theme of ['day', 'night'] as const) {
      const { page, context, errors } = await openForecast(world.name, { theme, size: PHONE });
      expect(await page.evaluate('document.documentElement.scrollWidth - document.documentElement.clientWidth')).to.equal(0);
      expect(await violations(page)).to.deep.equal([]);
      expect(errors).to.deep.equal([]);
      await context.close();
    }
  });
});
