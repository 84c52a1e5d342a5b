import { spawnSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { closeBrowser, openPage } from '../e2e/browser';
import { benchFolder, finish, held } from './support';

// The Chart with a hundred thousand soundings shown, panned with the mouse in headless Chromium, drawn by the processor
// alone: how long frames take while the map moves.

const SOUNDINGS = 100_000;
const folder = benchFolder();
const main = fileURLToPath(new URL('./main.mjs', import.meta.url));
const data = join(folder.path, 'data');
mkdirSync(data);
const rows = Array.from({ length: SOUNDINGS }, (_, i) => {
  const line = Math.floor(i / 500);
  const along = line % 2 ? 499 - (i % 500) : i % 500;
  const depth = 8 + 4 * Math.sin(line / 9) * Math.cos(along / 60) + 0.05 * Math.sin(i * 12.9898);
  return `${new Date(Date.UTC(2026, 4, 2, 6) + i * 1000).toISOString()},${(48.2 + line * 0.00018).toFixed(6)},${(-34.6 + along * 0.00005).toFixed(6)},${depth.toFixed(2)}`;
});
const file = join(folder.path, 'soundings.csv');
writeFileSync(file, ['time,latitude,longitude,depth_m', ...rows].join('\n'));

const run = (...args: string[]): void => {
  const done = spawnSync(process.execPath, [main, ...args, '--data', data], { encoding: 'utf8' });
  if (done.status !== 0) throw new Error(done.stdout + done.stderr);
};

process.env.SHOAL_MAIN = main;
const { serve } = await import('../e2e/harness');
run('import', '--water', 'Bench mere', '--create', file);
const server = await serve(data);
try {
  const { page, context } = await openPage(`${server.url}/chart`);
  await page.getByRole('application', { name: /^Chart of/ }).waitFor();
  await page.getByRole('button', { name: 'Layers' }).first().click();
  await page.getByRole('radio', { name: /^all / }).click();
  await page.getByRole('button', { name: 'Layers' }).first().click();
  await page.waitForTimeout(3000);
  const results: boolean[] = [];
  for (const [where, presses] of [
    ['all of the water', 0],
    ['closer', 3],
  ] as const) {
    for (let k = 0; k < presses; k++) {
      await page.getByRole('button', { name: 'Nearer' }).click();
      await page.waitForTimeout(400);
    }
    await page.waitForTimeout(1500);
    await page.evaluate(() => {
      const times: number[] = [];
      const beat = (t: number): void => {
        times.push(t);
        if (times.length < 5000) requestAnimationFrame(beat);
      };
      requestAnimationFrame(beat);
      Object.assign(window, { frameTimes: times });
    });
    await page.mouse.move(800, 400);
    const frames: number[] = [];
    for (let stroke = 0; stroke < 4; stroke++) {
      await page.mouse.down();
      const from = await page.evaluate(() => (window as unknown as { frameTimes: number[] }).frameTimes.length);
      for (let step = 1; step <= 60; step++) {
        await page.mouse.move(800 + (stroke % 2 ? 3 : -3) * step, 400 + (stroke < 2 ? 2 : -2) * step);
        await page.waitForTimeout(8);
      }
      const times = await page.evaluate((n) => (window as unknown as { frameTimes: number[] }).frameTimes.slice(n), from);
      for (let k = 1; k < times.length; k++) frames.push(times[k] - times[k - 1]);
      await page.mouse.up();
      await page.mouse.move(800, 400);
      await page.waitForTimeout(700);
    }
    frames.sort((a, b) => a - b);
    const at = (share: number): number => frames[Math.floor(share * (frames.length - 1))];
    console.log(
      `${where}: ${frames.length} frames, median ${at(0.5).toFixed(1)} ms, p95 ${at(0.95).toFixed(1)} ms, longest ${at(1).toFixed(1)} ms`,
    );
    results.push(held(`p95 of a frame, ${where}`, at(0.95), '<=', 50, ' ms'));
  }
  await context.close();
  finish(results);
} finally {
  await closeBrowser();
  await server.stop();
  folder.remove();
}
