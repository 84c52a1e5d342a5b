import { expect } from 'chai';
import { closeBrowser, openPage, PHONE, until } from './browser';
import { command, prepareWater, serve, temporaryFolder, typed, type RunningServer } from './harness';

const data = temporaryFolder();
const PASSWORD = 'eleven grey herons';
let server: RunningServer;

before(async () => {
  await prepareWater(data.path, 8, 2);
  expect((await command('certificate', '--data', data.path)).code).to.equal(0);
  expect(await typed(PASSWORD, data.path, 'password')).to.equal(0);
  server = await serve(data.path, '--listen', '127.0.0.1');
});
after(async () => {
  await closeBrowser();
  await server.stop();
  data.remove();
});

describe('another device', () => {
  it('signs in once, marks, and is shown how a third one comes in; signed out it keeps what is marked', async () => {
    const { page, context } = await openPage(`${server.url}/deck`, {
      size: PHONE,
      at: { latitude: 48.1869, longitude: -34.5909 },
      anyCertificate: true,
    });
    await page.getByLabel('Password').fill('eleven gray herons');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.getByText('That is not the password.').waitFor();
    await page.getByLabel('Password').fill(PASSWORD);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.getByRole('button', { name: 'Start the trip' }).click();
    await page.getByText('48.18690, -34.59090').waitFor();
    await page.getByRole('button', { name: 'Mark 1 fish below' }).click();
    await page.getByTestId('done').waitFor();
    const sent = (): Promise<number> =>
      page.evaluate(async () => {
        const { trips } = await (await fetch(`/api/waters/${(await (await fetch('/api/waters')).json())[0].id}/log`)).json();
        return (await (await fetch(`/api/trips/${trips.at(-1).id}`)).json()).contacts.length;
      });
    await until(async () => (await sent()) === 1, 'the mark was on the server');
    await page.reload();
    await page.getByRole('button', { name: 'Mark 1 fish below' }).waitFor();

    // Signed out: marking goes on, and what was marked is sent after signing in again.
    await page.evaluate(() => fetch('/api/session', { method: 'DELETE', headers: { 'Content-Type': 'application/json' } }));
    await page.getByText('48.18690, -34.59090').waitFor();
    await page.getByRole('button', { name: 'Mark 1 fish below' }).click();
    const dialog = page.getByRole('dialog', { name: 'Signed out' });
    await dialog.waitFor();
    await dialog.getByRole('button', { name: 'Close' }).click();
    await page.getByRole('button', { name: 'Nothing here', exact: true }).click();
    await page.reload();
    await page.getByLabel('Password').fill(PASSWORD);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.getByText('48.18690, -34.59090').waitFor();
    await until(async () => (await sent()) === 2, 'what was marked signed out was on the server');

    await page.setViewportSize({ width: 1280, height: 800 });
    await page.getByRole('button', { name: 'Phone' }).click();
    await page.getByRole('img', { name: `Code of ${server.url}` }).waitFor();
    await context.close();
  });
});
