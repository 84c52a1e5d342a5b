import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { CDPSession, Page } from 'playwright-core';
import { benchFolder, finish, held } from './support';
import { writeLongLog } from './long-log';

// How soon a view answers on a weak device: Chromium with a processor four times slower and 10 Mbit/s, on a log of 60
// trips and on one of ten years. Cold is a device that never saw the application; warm is the second time.

process.env.SHOAL_MAIN = fileURLToPath(new URL('./main.mjs', import.meta.url));
const { closeBrowser, openBrowser, DESK } = await import('../e2e/browser');
const { command, serve } = await import('../e2e/harness');

const LOGS: [name: string, trips: number, contacts: number][] = [
  ['60 trips', 60, 3_500],
  ['1,500 trips', 1_500, 150_000],
];
const VIEWS: [name: string, path: string, answer: string][] = [
  ['Waters', '/waters', 'main li'],
  ['Brief', '/brief', '[data-testid=headline]'],
  ['Chart', '/chart', 'main canvas'],
  ['Deck', '/deck', '[data-testid=past-trips]'],
  ['Patterns', '/patterns', '[data-testid=headline]'],
  ['Forecast', '/forecast', '[data-testid=places] li'],
];
const [COLD_S, WARM_S, MB, SEARCH_S, FILTER_MS, STILL_MS] = [2, 0.5, 2, 3, 300, 500];

/** Slows a page down as said above. @returns bytes that came over the network so far */
async function weak(page: Page): Promise<{ cdp: CDPSession; bytes: () => number }> {
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Network.enable');
  await cdp.send('Network.emulateNetworkConditions', { offline: false, latency: 20, downloadThroughput: 1.25e6, uploadThroughput: 1.25e6 });
  await cdp.send('Emulation.setCPUThrottlingRate', { rate: 4 });
  let bytes = 0;
  cdp.on('Network.loadingFinished', ({ encodedDataLength }) => (bytes += encodedDataLength));
  return { cdp, bytes: () => bytes };
}

const results: boolean[] = [];
for (const [log, trips, contacts] of LOGS.filter(([, n]) => !process.argv[2] || n <= Number(process.argv[2]))) {
  const folder = benchFolder();
  const name = await writeLongLog(join(folder.path, 'log'), { seed: 8, trips, contacts });
  const began = performance.now();
  const done = await command('import', '--water', name, '--create', join(folder.path, 'log'), '--data', join(folder.path, 'data'));
  if (done.code !== 0) throw new Error(done.text);
  console.log(`${log}: imported in ${((performance.now() - began) / 1000).toFixed(0)} s`);
  const server = await serve(join(folder.path, 'data'));
  try {
    const [{ id }] = (await (await fetch(`${server.url}/api/waters`)).json()) as { id: string }[];
    // A device meets a water whose looks and forecast have been made; how good that is on trips held out, which goes on
    // for minutes beside, is left off.
    const asked = (method: string, path: string, body?: object): Promise<Response> =>
      fetch(`${server.url}/api${path}`, { method, headers: { 'Content-Type': 'application/json' }, body: body && JSON.stringify(body) });
    await asked('POST', `/waters/${id}/models`, { species: 'zander' });
    for (let busy = true; busy; await new Promise((next) => setTimeout(next, 1000))) {
      const jobs = (await (await asked('GET', `/waters/${id}/jobs`)).json()) as { id: string; kind: string }[];
      for (const job of jobs) if (job.kind === 'score') await asked('DELETE', `/jobs/${job.id}`);
      busy = jobs.length > 0;
    }
    await asked('GET', `/waters/${id}/logbook`);
    for (const [view, path, answer] of VIEWS) {
      const context = await (await openBrowser()).newContext({ viewport: DESK, bypassCSP: true });
      await context.addInitScript(`localStorage.getItem('species') ?? localStorage.setItem('species', 'zander')`);
      const page = await context.newPage();
      const { bytes } = await weak(page);
      const open = async (): Promise<number> => {
        const from = performance.now();
        await page.goto(`${server.url}${path}`, { waitUntil: 'commit' });
        await page.locator(answer).first().waitFor({ timeout: 300_000 });
        return (performance.now() - from) / 1000;
      };
      const cold = await open();
      const came = bytes() / 1e6;
      // What is put on the device for the next time is put there.
      await page.waitForTimeout(4000);
      const warm = await open();
      console.log(`${log}, ${view}: ${came.toFixed(2)} MB`);
      results.push(held(`${log}, ${view}, cold`, cold, '<=', COLD_S, ' s'), held(`${log}, ${view}, warm`, warm, '<=', WARM_S, ' s'));
      if (view === 'Patterns') {
        results.push(held(`${log}, ${view}, cold`, came, '<=', MB, ' MB'), ...(await inPatterns(page, log)));
      }
      await context.close();
    }
  } finally {
    await server.stop();
    folder.remove();
  }
}
await closeBrowser();
finish(results);

/** How soon Patterns answers while it is used, and whether the page can be used while it searches. */
async function inPatterns(page: Page, log: string): Promise<boolean[]> {
  const combinations = page.locator('[data-testid=combinations] li').first();
  const searching = page.locator('[aria-label="Combinations"] [data-testid=progress]');
  await combinations.waitFor({ timeout: 300_000 });
  await page.evaluate(() => {
    const gaps: number[] = ((window as unknown as { gaps: number[] }).gaps = []);
    let last = performance.now();
    const frame = (): void => {
      gaps.push(performance.now() - last);
      last = performance.now();
      requestAnimationFrame(frame);
    };
    requestAnimationFrame(frame);
  });
  const [waits, searches]: [number[], number[]] = [[], []];
  for (const odds of ['0.7', '0.5', '0.9', '0.5', '0.6', '0.5', '0.8', '0.5']) {
    const before = await page.locator('[data-testid=basis]').textContent();
    await page.getByRole('button', { name: 'narrow' }).click();
    const dialog = page.getByRole('dialog', { name: 'Narrow the log' });
    await dialog.getByRole('combobox', { name: 'Minimum odds of the species' }).selectOption(odds);
    const from = performance.now();
    await dialog.getByRole('button', { name: 'Ask', exact: true }).click();
    await page.waitForFunction((text) => document.querySelector('[data-testid=basis]')?.textContent !== text, before, {
      timeout: 60_000,
      polling: 16,
    });
    waits.push(performance.now() - from);
    await searching.waitFor({ state: 'detached', timeout: 300_000 });
    await combinations.waitFor({ timeout: 300_000 });
    searches.push((performance.now() - from) / 1000);
  }
  const gaps = await page.evaluate(() => (window as unknown as { gaps: number[] }).gaps);
  return [
    held(`${log}, the answer to a filter, 95 of 100`, waits.sort((a, b) => a - b)[Math.floor(0.95 * waits.length)], '<=', FILTER_MS, ' ms'),
    held(`${log}, combinations`, Math.max(...searches), '<=', SEARCH_S, ' s'),
    held(`${log}, the longest that the page stood still`, Math.max(...gaps), '<=', STILL_MS, ' ms'),
  ];
}
