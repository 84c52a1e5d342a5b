import { expect } from 'chai';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { closeBrowser, openPage, PHONE, until } from './browser';
import { command, serve, temporaryFolder, writeLogbook, type RunningServer } from './harness';

const data = temporaryFolder();
let server: RunningServer;
let port: string;

before(async () => {
  const folder = join(data.path, 'logbook');
  const name = writeLogbook(folder, 8, 2);
  expect((await command('import', '--data', data.path, '--water', name, '--create', folder)).code).to.equal(0);
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
const contacts = async (): Promise<Contact[]> => {
  const get = async <T>(path: string): Promise<T> => (await (await fetch(`${server.url}/api${path}`)).json()) as T;
  const [water] = await get<{ id: string }[]>('/waters');
  const { trips } = await get<{ trips: { id: string; end: string | null }[] }>(`/waters/${water.id}/log`);
  const running = trips.find((t) => t.end === null)!;
  return (await get<{ contacts: Contact[] }>(`/trips/${running.id}`)).contacts;
};
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
    expect(errors.filter((e) => !/ERR_CONNECTION|Failed to load resource|Failed to fetch/.test(e))).to.deep.equal([]);
    await context.close();
  });
  it('wait through a reload: the device sends them when the page is opened again', async () => {
    const { page, context } = await openPage(`${server.url}/deck`, { at: { latitude: 48.1869, longitude: -34.5909 }, size: PHONE });
    const before = (await contacts()).length;
    await page.getByRole('button', { name: 'Mark 1 fish below' }).waitFor();
    await page.getByText('48.18690, -34.59090').waitFor();
    await server.stop('SIGKILL');
    await page.getByRole('button', { name: 'Nothing here', exact: true }).click();
    await page.getByTestId('done').waitFor();
    const stops = async (): Promise<number> => (await day(page)) - before;
    await until(async () => (await stops()) === 1, 'the blank stood in the day');
    server = await serve(data.path, '--port', port);
    await page.reload();
    await until(async () => (await stops()) === 1, 'the blank was there again');
    await context.close();
  });
});
