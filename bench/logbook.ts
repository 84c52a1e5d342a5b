import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { LoggedTrip } from '@restless-shoal/core/contract';
import { benchFolder, finish, held, slowness } from './support';
import { writeLongLog } from './long-log';

// How soon the Logbook answers with ten years of trips: opening it, scrolling through it, searching it, an edit.

process.env.SHOAL_MAIN = fileURLToPath(new URL('./main.mjs', import.meta.url));
const { closeBrowser, openBrowser, DESK } = await import('../e2e/browser');
const { command, serve } = await import('../e2e/harness');

const [TRIPS, CONTACTS] = [Number(process.argv[2] ?? 1500), Number(process.argv[3] ?? 150_000)];
const slower = slowness();
const [OPEN_S, FRAME_MS, SEARCH_MS, EDIT_MS] = [1, 50, 200, 100].map((bar) => bar * slower);
console.log(`this machine is ${slower.toFixed(2)} times as slow as usual: bars of time are scaled by that`);
const p95 = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(0.95 * values.length)];
const median = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)];

const folder = benchFolder();
const name = await writeLongLog(join(folder.path, 'log'), { seed: 8, trips: TRIPS, contacts: CONTACTS });
const done = await command('import', '--water', name, '--create', join(folder.path, 'log'), '--data', join(folder.path, 'data'));
if (done.code !== 0) throw new Error(done.text);
const server = await serve(join(folder.path, 'data'));
const results: boolean[] = [];
try {
  const asked = <T>(path: string): Promise<T> => fetch(`${server.url}/api${path}`).then((r) => r.json() as Promise<T>);
  const [{ id }] = await asked<{ id: string }[]>('/waters');
  for (let busy = true; busy; await new Promise((next) => setTimeout(next, 1000))) {
    const jobs = await asked<{ id: string; kind: string }[]>(`/waters/${id}/jobs`);
    // Forecasts that are made ahead go on for minutes; nobody waits for them here.
    for (const job of jobs) if (job.kind !== 'looks') await fetch(`${server.url}/api/jobs/${job.id}`, { method: 'DELETE' });
    busy = jobs.length > 0;
  }
  const context = await (await openBrowser()).newContext({ viewport: DESK, bypassCSP: true });
  const page = await context.newPage();
  const opened: number[] = [];
  for (let k = 0; k < 5; k++) {
    // Nobody opens it while it is still opening: what the last time began is let come to its end.
    if (k) await page.waitForTimeout(4000);
    const from = performance.now();
    await page.goto(`${server.url}/logbook`, { waitUntil: 'commit' });
    await page.locator('[data-trip]').first().waitFor();
    opened.push((performance.now() - from) / 1000);
  }
  results.push(held(`${TRIPS} trips, the Logbook opens`, median(opened), '<=', OPEN_S, ' s'));

  const gaps = await page.evaluate(async () => {
    const list = document.querySelector('[data-testid=trips]')!;
    const out: number[] = [];
    let last = performance.now();
    for (let k = 0; k < 200; k++) {
      list.scrollTop += 240;
      await new Promise(requestAnimationFrame);
      out.push(performance.now() - last);
      last = performance.now();
    }
    return out;
  });
  results.push(held('frames while it is scrolled, 95 of 100', p95(gaps), '<=', FRAME_MS, ' ms'));

  const field = page.getByLabel('Search all that is written');
  const answers: number[] = [];
  for (const words of ['zander', 'jetty', 'pike', 'spoon', 'wind', 'perch']) {
    await field.fill('');
    await page.waitForTimeout(700);
    // Timed in the page: from the last letter to the list that answers it.
    answers.push(
      await page.evaluate(async (words) => {
        const input = document.querySelector<HTMLInputElement>('input[type=search]')!;
        const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
        const from = performance.now();
        set.call(input, words);
        input.dispatchEvent(new Event('input', { bubbles: true }));
        while (!document.querySelector(`[data-answers="${words}"]`) && performance.now() - from < 5000)
          await new Promise(requestAnimationFrame);
        return performance.now() - from;
      }, words),
    );
  }
  results.push(held('a search is answered, 95 of 100', p95(answers), '<=', SEARCH_MS, ' ms'));

  const trip = (await asked<LoggedTrip[]>('/logbook')).reduce((a, b) => (b.marks > a.marks ? b : a));
  await page.goto(`${server.url}/logbook/${trip.id}`);
  await page.getByTestId('marks').waitFor();
  await page.waitForTimeout(3000);
  const edits: number[] = [];
  for (const at of [3, 4, 5, 6, 7, 8]) {
    const first = page.getByTestId('marks').getByRole('row').nth(1);
    await first.getByRole('checkbox').check();
    const choice = page.getByLabel('Species of all selected marks');
    await choice.waitFor();
    edits.push(
      await page.evaluate(async (at) => {
        const select = document.querySelector<HTMLSelectElement>('select[aria-label="Species of all selected marks"]')!;
        const species = select.options[at].value;
        const set = Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value')!.set!;
        const row = (): string => document.querySelectorAll('[data-testid=marks] [role=row]')[1].textContent.toLowerCase();
        const from = performance.now();
        set.call(select, species);
        select.dispatchEvent(new Event('change', { bubbles: true }));
        while (!row().includes(species) && performance.now() - from < 5000) await new Promise(requestAnimationFrame);
        return performance.now() - from;
      }, at),
    );
    await page.waitForTimeout(500);
  }
  console.log(
    `edits: ${edits.map((ms) => ms.toFixed(0)).join(', ')} ms; searches: ${answers.map((ms) => ms.toFixed(0)).join(', ')} ms; opened: ${opened.map((v) => v.toFixed(2)).join(', ')} s`,
  );
  results.push(held('an edit is done, 95 of 100', p95(edits), '<=', EDIT_MS, ' ms'));
  await context.close();
} finally {
  await closeBrowser();
  await server.stop();
  folder.remove();
}
finish(results);
