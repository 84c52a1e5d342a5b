import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { closeBrowser, openPage, ownErrors, PHONE, until } from './browser';
import { ask, prepareWater, runningTrip, serve, temporaryFolder, type RunningServer } from './harness';

const data = temporaryFolder();
let server: RunningServer;
let port: string;

before(async () => {
  await prepareWater(data.path, 8, 2);
  server = await serve(data.path);
  ({ port } = new URL(server.url));
});
after(async () => {
  await closeBrowser();
  await server.stop();
  data.remove();
});

interface Contact {
  id: string;
  kind: string;
  time: string;
}
const allContacts = async (): Promise<Contact[]> => {
  const [water] = await ask<{ id: string }[]>(server, '/waters');
  return ask<Contact[]>(server, `/waters/${water.id}/contacts`);
};
const contacts = async (): Promise<Contact[]> => (await runningTrip<{ contacts: Contact[] }>(server)).contacts;
const day = (page: Page): Promise<number> => page.getByTestId('day').locator('li').count();

describe('marks without a server', () => {
  it('are safe on the device, in two tabs, through its death; sent in order, once, when it is back', async () => {
    const { page, context, errors } = await openPage(`${server.url}/deck`, { at: { latitude: 48.1869, longitude: -34.5909 } });
    await page.getByRole('button', { name: 'Start the trip' }).click();
    const fish = page.getByRole('button', { name: 'Mark 1 fish below' });
    await fish.waitFor();
    await fish.click();
    await until(async () => (await contacts()).length === 1, 'the first mark was on the server');
    const other = await context.newPage();
    await other.goto(`${server.url}/deck`);
    await other.getByRole('button', { name: 'Mark 1 fish below' }).waitFor();
    // Nothing is marked where nobody knows where the boat is.
    for (const tab of [page, other]) await tab.getByText('48.18690, -34.59090').waitFor();

    await server.stop('SIGKILL');
    for (let k = 0; k < 8; k++) {
      const tab = k % 2 ? other : page;
      await tab.getByRole('radio', { name: k < 4 ? 'Fish' : 'Bait', exact: true }).click();
      await tab.getByRole('button', { name: k < 4 ? 'Mark 1 fish below' : /^Mark bait below/ }).click();
      await tab.getByTestId('done').waitFor();
    }
    expect(await page.getByText(/\d+ to be sent, safe on this device/).textContent()).to.match(/^(8|9|\d\d) /);
    await until(async () => (await day(page)) === 9, 'both tabs’ marks stood in the day');

    server = await serve(data.path, '--port', port);
    await until(async () => (await contacts()).length === 9, 'all were on the server');
    const stored = (await contacts()).sort((a, b) => a.time.localeCompare(b.time));
    expect(stored.map((c) => c.kind)).to.deep.equal([...Array<string>(5).fill('fish'), ...Array<string>(4).fill('bait')]);
    expect(new Set(stored.map((c) => c.id)).size).to.equal(9);
    await until(async () => (await page.getByText(/to be sent/).count()) === 0, 'nothing waited any more');
    for (const tab of [page, other]) expect(await day(tab)).to.equal(9);
    await page.reload();
    await until(async () => (await day(page)) === 9, 'the day was there after a reload');
    expect(await contacts()).to.have.length(9);
    // What could not be reached is no error of the page's own.
    expect(ownErrors(errors)).to.deep.equal([]);
    await context.close();
  });
  it('go on being made in an application opened without any server: a trip begun there, twenty marks in two tabs', async () => {
    const at = { latitude: 48.1869, longitude: -34.5909 };
    const { page, context } = await openPage(`${server.url}/deck`, { at, size: PHONE, installed: true });
    await page.getByRole('button', { name: 'Mark 1 fish below' }).waitFor();
    await page.getByRole('button', { name: 'End trip' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'End the trip' }).click();
    await page.getByRole('button', { name: 'Start the trip' }).waitFor();
    // All of it has come to the device once the water has been read through the service worker.
    await until(
      () =>
        page.evaluate(
          async () =>
            !!navigator.serviceWorker.controller &&
            (await (await caches.open('restless-shoal-water')).keys()).some((k) => k.url.includes('/models/')) &&
            (await (await caches.open('restless-shoal-water')).keys()).some((k) => k.url.endsWith('/chart')),
        ),
      'the water was on the device',
    );
    const before = new Set((await allContacts()).map((c) => c.id));
    await server.stop('SIGKILL');

    await page.reload();
    await page.getByRole('button', { name: 'Start the trip' }).click();
    await page.getByRole('button', { name: 'Mark 1 fish below' }).waitFor();
    await page.getByText('no server').waitFor();
    const other = await context.newPage();
    await other.goto(`${server.url}/deck`);
    await other.getByRole('button', { name: 'Mark 1 fish below' }).waitFor();
    for (const tab of [page, other]) await tab.getByText('48.18690, -34.59090').waitFor();
    const kinds: string[] = [];
    for (let k = 0; k < 20; k++) {
      const tab = k % 3 ? page : other;
      const kind = k % 4 ? 'Fish' : 'Bait';
      kinds.push(kind.toLowerCase());
      await tab.getByRole('radio', { name: kind, exact: true }).click();
      await tab.getByRole('button', { name: kind === 'Fish' ? 'Mark 1 fish below' : /^Mark bait below/ }).click();
      await until(async () => (await day(page)) === k + 1, `mark ${k + 1} stood in the day`);
    }
    await page.reload();
    await until(async () => (await day(page)) === 20, 'all twenty were there after a reload without a server');
    await page.getByRole('link', { name: 'Chart' }).click();
    await page.getByText('Not for navigation').waitFor();
    await page.getByRole('link', { name: 'Forecast' }).click();
    await page
      .getByRole('list', { name: /places/i })
      .getByRole('listitem')
      .first()
      .waitFor();
    await page.getByRole('link', { name: 'Deck' }).click();

    server = await serve(data.path, '--port', port);
    const added = async (): Promise<Contact[]> => (await allContacts()).filter((c) => !before.has(c.id));
    await until(async () => (await added()).length === 20, 'twenty were on the server');
    expect((await added()).sort((a, b) => a.time.localeCompare(b.time)).map((c) => c.kind)).to.deep.equal(kinds);
    await until(async () => (await page.getByText(/to be sent/).count()) === 0, 'nothing waited any more');
    await until(async () => (await page.getByText('no server').count()) === 0, 'the server was there again');
    await other.reload();
    await until(async () => (await day(other)) === 20, 'the other tab had them all');
    expect(await added()).to.have.length(20);
    await context.close();
  });
  it('are refused aloud by a device that is full, and not shown as logged', async () => {
    const { page, context } = await openPage(`${server.url}/deck`, { at: { latitude: 48.1869, longitude: -34.5909 } });
    await page.getByRole('button', { name: 'Mark 1 fish below' }).waitFor();
    await page.getByText('48.18690, -34.59090').waitFor();
    // The marks of before come with the trip's log.
    await until(async () => (await day(page)) > 0, 'the day was there');
    const before = await day(page);
    // A browser says so in this way.
    await page.evaluate(() => {
      const { add } = IDBObjectStore.prototype;
      addEventListener('room', () => (IDBObjectStore.prototype.add = add), { once: true });
      IDBObjectStore.prototype.add = () => {
        throw new DOMException('full', 'QuotaExceededError');
      };
    });
    await page.getByRole('button', { name: 'Mark 1 fish below' }).click();
    await page.getByText(/Not saved: this device cannot keep it: its storage is full/).waitFor();
    expect(await day(page)).to.equal(before);
    await page.evaluate(() => void dispatchEvent(new Event('room')));
    await page.getByRole('button', { name: 'Mark 1 fish below' }).click();
    await page.getByTestId('done').waitFor();
    await until(async () => (await day(page)) === before + 1, 'it was kept once there was room');
    await context.close();
  });
});
