import { expect } from 'chai';
import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { distance } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import { makeLogbook } from '@restless-shoal/demo';
import { violations } from './access';
import { PHONE, dialogGone, openPage, ownErrors, until } from './browser';
import { ask, runningTrip } from './harness';
import { loggedWater } from './logged-water';

const SEED = 8;
const { world } = makeLogbook({ seed: SEED, trips: 1 });
const hump = world.humps.find((h) => world.depth(h.x, h.y) > 8.5 && world.depth(h.x, h.y) < 9.2)!;
const at = world.toLatLon(hump.x - 40, hump.y);
const served = loggedWater(SEED, 8);
let water: string;
before(async () => {
  [{ id: water }] = await ask<{ id: string }[]>(served(), '/waters');
});

interface DayPlan {
  stops: { id: string; name: string; latitude: number; longitude: number; arrive: number; leave: number; way: [number, number][] }[];
  passes: { lines: [number, number][][] } | null;
}
const plan = async (): Promise<DayPlan | undefined> => (await ask<DayPlan[]>(served(), `/waters/${water}/day-plan`))[0];

const rows = (page: Page) => page.getByTestId('run-sheet').getByRole('listitem');
const settled = (page: Page): Promise<void> => until(async () => (await page.getByTestId('expected').getAttribute('aria-busy')) === 'false', 'the plan was worked out'); // prettier-ignore
const expected = async (page: Page): Promise<number> => Number(/(?:expected at|about) ([\d.]+)/.exec((await page.getByTestId('expected').textContent())!)![1]); // prettier-ignore

describe('planning a morning', () => {
  it('chooses and orders stops; one that is dragged shows its cost; the run is exported', async () => {
    const { page, context, errors } = await openPage(`${served().url}/plan`);
    await rows(page).nth(2).waitFor();
    await settled(page);
    const before = await expected(page);
    const first = await rows(page).nth(0).locator('b').first().textContent();
    expect(await violations(page)).to.deep.equal([]);
    const handle = (k: number) =>
      rows(page)
        .nth(k)
        .getByRole('button', { name: /^Move / });
    const [from, to] = [(await handle(0).boundingBox())!, (await handle(2).boundingBox())!];
    await page.mouse.move(from.x + 20, from.y + 20);
    await page.mouse.down();
    await page.mouse.move(to.x + 20, to.y + 10, { steps: 8 });
    await page.mouse.move(to.x + 20, to.y + 30, { steps: 4 });
    await page.mouse.up();
    await page.getByText('In your own order.').waitFor();
    await settled(page);
    expect(await rows(page).nth(2).locator('b').first().textContent()).to.equal(first);
    expect(await expected(page)).to.be.at.most(before);
    // A stop that is left out is put in again by hand.
    await page.getByRole('button', { name: 'Find the best order' }).click();
    await settled(page);
    // The last one only at dawn: it comes at once.
    const last = rows(page).last();
    const begins = async (row: ReturnType<typeof rows>): Promise<string> => /\d\d:\d\d/.exec((await row.textContent())!)![0];
    const late = await begins(last);
    const name = (await last.locator('b').first().textContent())!;
    await last.getByRole('button', { name }).first().click();
    await page.getByLabel(/^When to be at/).selectOption('at dawn');
    await settled(page);
    const dawn = rows(page).filter({ has: page.getByLabel(/^When to be at/) }).filter({ hasText: 'at dawn' }).first(); // prettier-ignore
    expect((await begins(dawn)) < late).to.equal(true);
    await dawn.getByLabel(/^When to be at/).selectOption('any time');
    await settled(page);
    // An hour for search passes comes off the time for stops.
    const stops = await rows(page).count();
    await page.getByText('Ramp, boat and weather').click();
    await page.getByLabel('Search passes first').fill('90');
    await page.getByText('Search passes, before the first stop').waitFor();
    await settled(page);
    expect(await rows(page).count()).to.be.below(stops);
    await page.getByLabel('Search passes first').fill('0');
    await page.getByText('Ramp, boat and weather').click();
    await settled(page);
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'GPX' }).click();
    const gpx = readFileSync((await (await download).path())!, 'utf8');
    expect(gpx.match(/<wpt /g)!.length).to.equal(await rows(page).count());
    expect(gpx).to.include('<rte>');
    expect(gpx.match(/<rtept /g)!.length).to.be.above(await rows(page).count());
    expect(errors).to.deep.equal([]);
    await context.close();
  });

  it('an end before the start, and a ramp on land, are said; the rest stays', async () => {
    const { page, context } = await openPage(`${served().url}/plan`);
    await rows(page).first().waitFor();
    await page.getByLabel('The day starts at').fill('08:00');
    await page.getByLabel('Back by').fill('07:00');
    await page.getByTestId('trouble').filter({ hasText: 'The day ends before it starts' }).waitFor();
    await page.getByLabel('Back by').fill('11:00');
    await rows(page).first().waitFor();
    await page.getByText('Ramp, boat and weather').click();
    await page.getByRole('button', { name: 'Set the ramp on the map' }).click();
    const map = page.getByRole('application', { name: /^Plan for/ });
    const box = (await map.boundingBox())!;
    await map.click({ position: { x: 20, y: box.height - 20 } });
    await page.getByTestId('trouble').filter({ hasText: 'The ramp lies on land' }).or(page.getByTestId('trouble').filter({ hasText: 'The start lies on land' })).waitFor(); // prettier-ignore
    await context.close();
  });
});

describe('running the plan on the water', () => {
  it('the Deck follows it; a blank is logged and the plan made anew; passes are followed; a reset; all of it without a server', async () => {
    const { page, context, errors } = await openPage(`${served().url}/deck`, {
      at,
      size: PHONE,
      installed: true,
    });
    await page.getByRole('button', { name: 'Start the trip' }).click();
    await page.getByRole('button', { name: 'Mark 1 fish below' }).waitFor();
    await page.getByRole('link', { name: 'Plan', exact: true }).click();
    await rows(page).first().waitFor();
    await settled(page);
    await page.getByRole('button', { name: 'Use this plan' }).click();
    await page.getByText('The Deck follows this plan.').waitFor();
    await until(async () => (await plan()) !== undefined, 'the plan was on the server');
    const kept = (await plan())!;
    expect(kept.stops.length).to.be.above(1);
    // From where the boat is.
    const [longitude, latitude] = kept.stops[0].way[0];
    expect(distance(at, { latitude, longitude })).to.be.below(5);
    await page.getByRole('link', { name: 'Deck' }).click();
    await until(async () => (await page.getByTestId('plan-line').textContent())!.startsWith(kept.stops[0].name), 'the Deck named the first stop'); // prettier-ignore
    await page.getByRole('button', { name: 'Go', exact: true }).click();
    await page.getByTestId('go-back').waitFor();
    await page.getByRole('button', { name: 'No longer go back' }).click();
    // There, nothing bites.
    await context.setGeolocation(kept.stops[0]);
    await page.getByRole('button', { name: 'Fish here' }).click();
    await page.getByTestId('stay').waitFor();
    expect(await page.getByTestId('stay').textContent()).to.match(/Chance they are here now: \d+ %\. (Leave|No other)/);
    await page
      .getByRole('button', { name: /^Leave/ })
      .first()
      .click();
    await page.getByRole('dialog').getByRole('button', { name: /Nothing/ }).first().click(); // prettier-ignore
    await dialogGone(page);
    await until(async () => (await runningTrip<{ stops: { outcome: string | null }[] }>(served())).stops.length === 1, 'the stop was on the server'); // prettier-ignore
    // The next one is on the line, and the plan is made anew from here.
    await until(async () => !(await page.getByTestId('plan-line').textContent())!.startsWith(kept.stops[0].name) || kept.stops[1].name === kept.stops[0].name, 'the Deck went on to the next'); // prettier-ignore
    await until(() => page.evaluate(() => navigator.serviceWorker.controller !== null), 'the application was on the phone');
    await page.getByRole('link', { name: 'Plan', exact: true }).click();
    await settled(page);
    await page.waitForTimeout(1500);
    await context.setOffline(true);
    await page.getByRole('button', { name: 'Update the plan' }).click();
    await page.getByText('The Deck follows this plan.').waitFor();
    await page.getByRole('radio', { name: 'Passes' }).click();
    await page
      .getByTestId('passes')
      .getByText(/chance to see it/)
      .waitFor();
    await page.getByRole('button', { name: 'Follow on the Deck' }).click();
    await page.getByText('The Deck follows these passes.').waitFor();
    await page.getByRole('radio', { name: 'Reset' }).click();
    await page.getByRole('button', { name: 'What has not been tested?' }).click();
    await page.getByTestId('next-three').getByRole('listitem').nth(2).waitFor();
    expect(await page.getByTestId('account').getByRole('row').count()).to.be.above(4);
    await page.getByRole('link', { name: 'Deck' }).click();
    await page.getByTestId('follow').waitFor();
    await context.setOffline(false);
    await until(async () => ((await plan())?.passes?.lines.length ?? 0) > 0, 'the passes were on the server');
    // Along the first pass it says how far off the boat is.
    const line = (await plan())!.passes!.lines[0];
    const [x, y] = line[Math.min(1, line.length - 1)];
    await context.setGeolocation({ latitude: y, longitude: x });
    await until(async () => /line/.test((await page.getByTestId('follow').textContent())!), 'the boat was on the line');
    expect(ownErrors(errors)).to.deep.equal([]);
    await context.close();
  });
});

// Last: another water stands before the demo's from then on.
describe('a water without a chart', () => {
  it('is planned by its shore and spots of one’s own, and says that no depth is known; passes over a drawn patch as well', async () => {
    const bare = newId();
    const [west, south] = [-34.7, 48.3];
    const ring = [[west, south], [west + 0.02, south], [west + 0.02, south + 0.01], [west, south + 0.01], [west, south]]; // prettier-ignore
    const outline = { type: 'Polygon', coordinates: [ring] };
    await ask(served(), `/waters/${bare}`, 'PUT', { name: 'Bare Mere', latitude: south, longitude: west, time_zone: 'Etc/GMT+2', outline });
    const { page, context, errors } = await openPage(`${served().url}/plan?water=Bare+Mere`);
    await page.getByText('Where do you launch?').waitFor();
    await page.getByText('Ramp, boat and weather', { exact: true }).click();
    await page.getByRole('button', { name: 'Set the ramp on the map' }).click();
    const map = page.getByRole('application', { name: /^Plan for/ });
    const box = (await map.boundingBox())!;
    await map.click({ position: { x: box.width / 2, y: box.height / 2 } });
    await page.getByTestId('trouble').filter({ hasText: 'No spots to choose from' }).waitFor();
    const own = { id: newId(), name: 'Reed corner', latitude: south + 0.007, longitude: west + 0.005 };
    await ask(served(), `/waters/${bare}/plan`, 'POST', { places: [own] });
    await page.reload();
    await rows(page).filter({ hasText: 'Reed corner' }).waitFor();
    await page.getByTestId('trouble').filter({ hasText: 'No depth is known for 100 %' }).waitFor();
    // Nothing forecasts it: that is no chance of 0.
    await rows(page).getByText('chance not known').waitFor();
    if (process.env.SHOT) await page.screenshot({ path: process.env.SHOT });
    await page.getByRole('radio', { name: 'Passes' }).click();
    await page.getByText('Tap the corners on the map').waitFor();
    for (const [x, y] of [[-80, -40], [80, -40], [80, 40], [-80, 40]]) await map.click({ position: { x: box.width / 2 + x, y: box.height / 2 + y } }); // prettier-ignore
    await map.dblclick({ position: { x: box.width / 2 - 80, y: box.height / 2 } });
    await page
      .getByTestId('passes')
      .getByText(/chance to see it/)
      .waitFor();
    expect(errors).to.deep.equal([]);
    await context.close();
  });
});
