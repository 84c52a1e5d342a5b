import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { closeBrowser, openPage, PHONE } from '../e2e/browser';
import { benchFolder, finish, held } from './support';

// Marks on the Deck of a phone, in headless Chromium drawn by the processor alone, with a server that takes them: from
// the touch to the mark on the screen, and to the end of the write to the device's disk.

const MARKS = 100;
const folder = benchFolder();
const main = fileURLToPath(new URL('./main.mjs', import.meta.url));
const data = join(folder.path, 'data');
mkdirSync(data);
const rows = Array.from({ length: 20_000 }, (_, i) => {
  const line = Math.floor(i / 200);
  const along = line % 2 ? 199 - (i % 200) : i % 200;
  return `${new Date(Date.UTC(2026, 4, 2, 6) + i * 1000).toISOString()},${(48.2 + line * 0.00018).toFixed(6)},${(-34.6 + along * 0.00005).toFixed(6)},${(8 + 4 * Math.sin(line / 9)).toFixed(2)}`;
});
writeFileSync(join(folder.path, 'soundings.csv'), ['time,latitude,longitude,depth_m', ...rows].join('\n'));
const made = spawnSync(process.execPath, [
  main,
  'import',
  '--water',
  'Bench mere',
  '--create',
  join(folder.path, 'soundings.csv'),
  '--data',
  data,
]);
if (made.status !== 0) throw new Error(String(made.stdout) + String(made.stderr));

process.env.SHOAL_MAIN = main;
const { serve } = await import('../e2e/harness');
const server = await serve(data);
const results: boolean[] = [];
try {
  const { page, context } = await openPage(`${server.url}/deck`, { size: PHONE, at: { latitude: 48.205, longitude: -34.597 } });
  await page.getByRole('button', { name: 'Start the trip' }).click();
  await page.getByText('48.20500, -34.59700').waitFor();
  await page.waitForTimeout(3000);
  const times = await page.evaluate(async (marks) => {
    // The last write of a contact that reached the disk.
    let safeAt = 0;
    const { add } = IDBObjectStore.prototype;
    IDBObjectStore.prototype.add = function (this: IDBObjectStore, value: { path?: string }, ...rest) {
      if (value.path?.includes('/contacts/')) this.transaction.addEventListener('complete', () => (safeAt = performance.now()));
      return add.call(this, value, ...rest);
    };
    const button = [...document.querySelectorAll('button')].find((b) => b.textContent?.includes('below'))!;
    const day = (): number => document.querySelectorAll('[data-testid=day] li').length;
    const [paint, safe]: [number[], number[]] = [[], []];
    for (let k = 0; k < marks; k++) {
      const before = day();
      const touched = performance.now();
      button.click();
      await new Promise<void>((done) => {
        const look = (): void => {
          // This frame paints it; what is posted now comes after the painting.
          if (day() > before) {
            const after = new MessageChannel();
            after.port1.onmessage = () => done();
            after.port2.postMessage(0);
          } else requestAnimationFrame(look);
        };
        look();
      });
      paint.push(performance.now() - touched);
      safe.push(safeAt - touched);
      await new Promise((done) => setTimeout(done, 700));
    }
    return { paint, safe };
  }, MARKS);
  const at = (list: number[], share: number): number => [...list].sort((a, b) => a - b)[Math.floor(list.length * share)];
  console.log(
    `touch to paint: median ${at(times.paint, 0.5).toFixed(0)} ms; touch to safe: median ${at(times.safe, 0.5).toFixed(0)} ms; n = ${MARKS}`,
  );
  results.push(
    held('touch to paint, median', at(times.paint, 0.5), '<=', 50, ' ms'),
    held('touch to paint, 95 of 100', at(times.paint, 0.95), '<=', 50, ' ms'),
    held('touch to safe on the device, median', at(times.safe, 0.5), '<=', 100, ' ms'),
    held('touch to safe on the device, 95 of 100', at(times.safe, 0.95), '<=', 100, ' ms'),
  );
  await context.close();
  // What the page asks for at once, as it travels.
  const pages = fileURLToPath(new URL('../../web/dist', import.meta.url));
  const scripts = new Set(readFileSync(join(pages, 'index.html'), 'utf8').match(/assets\/[^"]+\.js/g));
  const size = [...scripts].reduce((sum, file) => sum + gzipSync(readFileSync(join(pages, file)), { level: 9 }).length, 0);
  results.push(held(`script of the first load, compressed, ${scripts.size} files`, size / 1000, '<=', 250, ' kB'));
} finally {
  await closeBrowser();
  await server.stop();
  folder.remove();
}
finish(results);
