import { expect } from 'chai';
import { newId } from '@restless-shoal/core/logbook';
import { PHONE, closeBrowser, dialogGone, openPage, until } from './browser';
import { runningTrip, serve, temporaryFolder, type RunningServer } from './harness';

const data = temporaryFolder();
let server: RunningServer;
const water = newId();
const HERE = { latitude: 48.2, longitude: -34.6 };

const put = (path: string, body: object): Promise<Response> =>
  fetch(`${server.url}/api${path}`, { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) });

before(async () => {
  server = await serve(data.path);
});
after(async () => {
  await closeBrowser();
  await server.stop();
  data.remove();
});

describe('what stands where nothing is yet', () => {
  it('without a water, the one thing to do next', async () => {
    const { page, context, errors } = await openPage(`${server.url}/`);
    for (const way of ['Start a water', 'Import what you have', 'Try the demo'])
      await page.getByRole('button', { name: new RegExp(`^${way}`) }).waitFor();
    expect(errors).to.deep.equal([]);
    await context.close();
  });
  it('without a chart, each view says how to get one, and the Deck works all the same', async () => {
    expect((await put(`/waters/${water}`, { name: 'New mere', time_zone: 'Etc/GMT+2' })).status).to.equal(201);
    for (const [view, words] of [
      ['brief', 'An outline would help most'],
      ['chart', 'New mere has no chart yet'],
      ['patterns', 'Log stops on the Deck, or import last year’s spreadsheet'],
      ['forecast', 'The forecast needs depths'],
    ]) {
      const { page, context, errors } = await openPage(`${server.url}/${view}`);
      await page.getByText(words).waitFor();
      await page.getByRole('button', { name: 'Import files' }).waitFor();
      expect(errors, view).to.deep.equal([]);
      await context.close();
    }
    const { page, context, errors } = await openPage(`${server.url}/deck`, { at: HERE, size: PHONE });
    await page.getByRole('button', { name: 'Start the trip' }).click();
    await page.getByText('48.20000, -34.60000').waitFor();
    await page.getByRole('button', { name: 'Mark 1 fish below' }).click();
    await page.getByTestId('done').waitFor();
    // The day is read from the device again, a moment after the word.
    await page.getByTestId('day').locator('li').first().waitFor();
    expect(await page.getByTestId('day').locator('li').count()).to.equal(1);
    expect(errors).to.deep.equal([]);
    await context.close();
  });
});

describe('without a position', () => {
  it('the boat is set by hand, and bad input is told apart from good', async () => {
    const { page, context } = await openPage(`${server.url}/deck`);
    await page.getByRole('button', { name: 'Set the position by hand' }).click();
    await page.getByLabel('Position').fill('north of the island');
    await page.getByRole('button', { name: 'Set by hand' }).click();
    expect(await page.getByRole('alert').first().textContent()).to.include('could not be read. Latitude first');
    // Beside what was pressed, not where it has to be scrolled to.
    expect((await page.getByRole('alert').first().boundingBox())!.y).to.be.within(0, 800);
    await page.getByLabel('Position').fill('48°12.600′N 34°36.600′W');
    await page.getByLabel('Course').fill('400');
    await page.getByRole('button', { name: 'Set by hand' }).click();
    expect(await page.getByRole('alert').first().textContent()).to.include('from 0 to 360');
    await page.getByLabel('Course').fill('90');
    await page.getByRole('button', { name: 'Set by hand' }).click();
    await page.getByText('48.21000, -34.61000').waitFor();
    await context.close();
  });
});

describe('a reading of the water', () => {
  it('takes other units, and names what it cannot take', async () => {
    const { page, context } = await openPage(`${server.url}/deck`, { at: HERE });
    await page.getByRole('button', { name: 'Log water readings' }).click();
    await page.getByLabel('Surface temperature').fill('warm');
    await page.getByRole('button', { name: 'Log it' }).click();
    await page.getByText('Surface temperature is not a number').waitFor();
    await page.getByLabel('Surface temperature').fill('68 °F');
    await page.getByLabel('Wind from').fill('200');
    await page.getByLabel('Wind speed').fill('10 kn');
    await page.getByRole('button', { name: 'Log it' }).click();
    await dialogGone(page);
    await until(async () => (await page.getByRole('banner').textContent())!.includes('20.0 °C'), 'the Strip shows the reading');
    expect(await page.getByRole('banner').textContent()).to.include('SSW 5 m/s');
    await context.close();
  });
});

describe('when the server is slow', () => {
  it('a mark stands in the day at once, though the trip is still being asked for', async () => {
    const { page, context } = await openPage(`${server.url}/deck`, { at: HERE });
    await page.route(/\/api\/trips\/[^/]+$/, () => undefined);
    await page.reload();
    await page.getByText('48.20000, -34.60000').waitFor();
    await page.getByRole('button', { name: 'Nothing here', exact: true }).click();
    await page.getByTestId('day').locator('li').first().waitFor({ timeout: 5000 });
    await page.getByText('saved').first().waitFor();
    expect(await page.getByTestId('day').locator('li').count()).to.equal(1);
    // Saved on the device is not yet at the server, where the next page asks for it.
    await until(async () => (await runningTrip<{ stops: unknown[] }>(server)).stops.length === 1, 'the server has it');
    await context.close();
  });
});

describe('when the server is gone', () => {
  it('a mark stands in the day, safe on the device, and the Deck says that it waits', async () => {
    const { page, context } = await openPage(`${server.url}/deck`, { at: HERE, size: PHONE });
    await page.getByText('48.20000, -34.60000').waitFor();
    // Of before.
    await page.getByTestId('day').locator('li').first().waitFor();
    const before = await page.getByTestId('day').locator('li').count();
    await server.stop();
    await page.getByRole('button', { name: 'Nothing here', exact: true }).click();
    await page
      .getByText(/\d+ to be sent/)
      .first()
      .waitFor();
    expect(await page.getByTestId('day').locator('li').count()).to.equal(before + 1);
    await context.close();
    server = await serve(data.path);
  });
});
