import { expect } from 'chai';
import { destination, metricPlane, utmEpsg } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import type { LoggedTrip, TripDetail, Water, WaterSummary } from '@restless-shoal/core/contract';
import { violations } from './access';
import { DESK, openPage, PHONE, until } from './browser';
import { ask } from './harness';
import { loggedWater } from './logged-water';

// What somebody else sent stays somebody else's; what is told to others is told by areas of one's own; a spot opens where it lies.

const served = loggedWater(11, 12);
const water = async (): Promise<Water> => {
  const [{ id }] = await ask<WaterSummary[]>(served(), '/waters');
  return ask(served(), `/waters/${id}`);
};
const send = async (path: string, method: string, body: object): Promise<void> => {
  const response = await fetch(`${served().url}/api${path}`, {
    method,
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  });
  expect(response.ok, path).to.equal(true);
};

describe('marks of somebody else', () => {
  it('are brought in by phone as his, pressed on the Chart, in no log of one’s own, and go together', async () => {
    const { outline } = await water();
    const ring = (outline as { coordinates: number[][][][] }).coordinates.flat(3);
    const middle = {
      longitude: (Math.min(...ring.filter((_, k) => k % 2 === 0)) + Math.max(...ring.filter((_, k) => k % 2 === 0))) / 2,
      latitude: (Math.min(...ring.filter((_, k) => k % 2 === 1)) + Math.max(...ring.filter((_, k) => k % 2 === 1))) / 2,
    };
    const far = destination(middle, 90, 400);
    const gpx = `<gpx version="1.1" creator="plotter">${[['Zander corner', middle] as const, ['Old timber', far] as const]
      .map(([name, p]) => `<wpt lat="${p.latitude}" lon="${p.longitude}"><name>${name}</name></wpt>`)
      .join('')}</gpx>`;
    const { page, context, errors } = await openPage(`${served().url}/chart?tool=soundings`, { size: PHONE });
    await page.getByRole('button', { name: /^Import/ }).click();
    const sheet = page.getByRole('dialog');
    await sheet.getByLabel('Files', { exact: true }).setInputFiles({ name: 'friend.gpx', mimeType: 'text/xml', buffer: Buffer.from(gpx) });
    await sheet.getByLabel('These are marks of somebody else').check();
    expect(await sheet.getByRole('button', { name: 'Import' }).isDisabled(), 'whose they are is asked for').to.equal(true);
    await sheet.getByLabel('Who they are from').fill('Fred');
    await sheet.getByLabel('Good to, m').fill('near');
    await sheet.getByText('must be a number, in m').waitFor();
    expect(await sheet.getByRole('button', { name: 'Import' }).isDisabled()).to.equal(true);
    await sheet.getByLabel('Good to, m').fill('60');
    expect(await violations(page)).to.deep.equal([]);
    await sheet.getByRole('button', { name: 'Import' }).click();
    await page.getByText('2 read, 2 added').waitFor();
    await context.close();
    const { cover } = await water();
    expect(cover.filter((c) => c.source === 'Fred').map((c) => [c.kind, c.cover, c.within_m])).to.deep.equal([
      ['mark', null, 60],
      ['mark', null, 60],
    ]);

    const desk = await openPage(`${served().url}/chart`, { size: DESK });
    await desk.page.getByLabel('Look at a position').fill(`${middle.latitude}, ${middle.longitude}`);
    await desk.page.getByRole('button', { name: 'Look there' }).click();
    const map = desk.page.getByRole('application', { name: /^Chart of/ });
    await until(async () => {
      await map.press('Enter');
      return desk.page.getByTestId('chosen-sign').isVisible();
    }, 'the mark in the middle of the map was chosen');
    const chosen = desk.page.getByTestId('chosen-sign');
    expect(await chosen.textContent())
      .to.include('Zander corner')
      .and.to.include('From Fred')
      .and.to.include('good to 60 m');
    expect(await violations(desk.page)).to.deep.equal([]);
    await desk.page.getByRole('button', { name: 'Draw', exact: true }).click();
    await desk.page.getByRole('button', { name: 'Remove the marks from Fred' }).click();
    await desk.page.getByRole('button', { name: 'Remove all' }).click();
    await until(async () => !(await water()).cover.some((c) => c.source === 'Fred'), 'all of his were gone');
    expect((await water()).cover.length, 'one’s own stay').to.equal(cover.length - 2);
    expect([...errors, ...desk.errors]).to.deep.equal([]);
    await desk.context.close();
  });
});

describe('a spot on the Chart', () => {
  it('says what it yielded when it is pressed, and opens with months and conditions', async () => {
    const w = await water();
    const trips = await ask<LoggedTrip[]>(served(), '/logbook');
    const details = await Promise.all(trips.map((t) => ask<TripDetail>(served(), `/trips/${t.id}`)));
    const stops = details.flatMap((d) => d.stops);
    const plane = metricPlane(utmEpsg(stops[0]));
    const near = (a: (typeof stops)[0], b: (typeof stops)[0]): boolean => {
      const [p, q] = [plane.toMetric(a), plane.toMetric(b)];
      return Math.hypot(p[0] - q[0], p[1] - q[1]) < 60;
    };
    const visits = (s: (typeof stops)[0]): number => new Set(stops.filter((t) => near(s, t)).map((t) => t.trip)).size;
    const most = stops.reduce((a, b) => (visits(b) > visits(a) ? b : a));
    expect(visits(most), 'trips that fished there').to.be.at.least(2);
    await send(`/waters/${w.id}/spots/${newId()}`, 'PUT', { name: 'Long point', latitude: most.latitude, longitude: most.longitude });
    const { page, context, errors } = await openPage(`${served().url}/chart`, { size: DESK });
    await page.getByLabel('Look at a position').fill(`${most.latitude}, ${most.longitude}`);
    await page.getByRole('button', { name: 'Look there' }).click();
    const map = page.getByRole('application', { name: /^Chart of/ });
    await until(async () => {
      await map.press('Enter');
      return page.getByTestId('chosen-sign').isVisible();
    }, 'the spot in the middle of the map was chosen');
    await page
      .getByTestId('chosen-sign')
      .getByText(/\d+ stops, [\d.]+ h/)
      .waitFor();
    await page.getByRole('button', { name: 'Open the spot' }).click();
    const sheet = page.getByRole('dialog', { name: 'Long point' });
    await sheet.getByRole('table', { name: 'By month, all years' }).waitFor();
    const table = sheet.getByRole('table', { name: /^By water temperature|^By clarity|^By wind$|^By light/ }).first();
    await table.waitFor();
    // Stops by condition are those of the spot: none counts twice.
    const said = Number(/(\d+) stops/.exec((await page.getByTestId('chosen-sign').textContent())!)![1]);
    const counts = await table.locator('tbody tr td:nth-of-type(1)').allTextContents();
    expect(counts.reduce((n, c) => n + Number(c), 0)).to.be.within(2, said);
    expect(await violations(page)).to.deep.equal([]);
    expect(errors).to.deep.equal([]);
    await context.close();
  });
});

describe('the report by areas of one’s own', () => {
  it('names the area, draws it in place of squares, and tells no position', async () => {
    const w = await water();
    const trip = (await ask<LoggedTrip[]>(served(), '/logbook')).find((t) => t.landed.length > 0)!;
    const { stops } = await ask<TripDetail>(served(), `/trips/${trip.id}`);
    const around = [45, 135, 225, 315, 45].map((b) => destination(stops[0], b, 6000));
    await send(`/waters/${w.id}/cover`, 'POST', {
      kind: 'area',
      cover: null,
      name: 'The whole lake',
      geometry: { type: 'Polygon', coordinates: [around.map((p) => [p.longitude, p.latitude])] },
    });
    const { page, context, errors } = await openPage(`${served().url}/logbook/${trip.id}/report`, { size: DESK });
    await page.getByRole('radio', { name: 'Blurred' }).click();
    await page.getByLabel('Size of the squares').selectOption({ label: 'my own areas' });
    const report = page.locator('article.report');
    await report.getByText('Fish were landed in The whole lake.').waitFor();
    expect(await report.locator('svg rect').count()).to.equal(0);
    expect(await report.locator('svg circle').count()).to.equal(0);
    expect(await report.locator('svg path').count()).to.equal(2);
    expect(errors).to.deep.equal([]);
    await context.close();
  });
});
