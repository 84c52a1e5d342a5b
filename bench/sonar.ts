import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { benchFolder, finish, held } from './support';

// The Bench: how soon a beam is drawn anew as a slider moves, and how long a picture of 12 megapixels takes to be opened,
// straightened and counted in its worker, in headless Chromium drawn by the processor alone.

const MOVES = 80;
const [REDRAW_MS, PICTURE_S] = [50, 2];
/** What the reference work takes on a machine as the bars were set for, ms: they are scaled where it takes longer. */
const USUAL_MS = 400;

const folder = benchFolder();
const main = fileURLToPath(new URL('./main.mjs', import.meta.url));
const data = join(folder.path, 'data');
mkdirSync(data);
process.env.SHOAL_MAIN = main;
const { closeBrowser, openPage, PHONE } = await import('../e2e/browser');
const { serve, writeLogbook } = await import('../e2e/harness');
const name = writeLogbook(join(folder.path, 'log'), 8, 1);
const made = spawnSync(process.execPath, [main, 'import', '--water', name, '--create', join(folder.path, 'log'), '--data', data]);
if (made.status !== 0) throw new Error(String(made.stdout) + String(made.stderr));
const server = await serve(data);
const results: boolean[] = [];
try {
  const { page, context } = await openPage(`${server.url}/bench`, { size: PHONE });
  await page.getByRole('list', { name: 'What follows' }).waitFor();
  await page.waitForTimeout(5000);
  const reference = await page.evaluate(() => {
    const from = performance.now();
    let sum = 0;
    for (let k = 1; k < 2e7; k++) sum += Math.sqrt(k) * Math.sin(k);
    return sum === 0 ? 0 : performance.now() - from;
  });
  const slower = Math.max(1, reference / USUAL_MS);
  console.log(`reference work: ${reference.toFixed(0)} ms; bars are scaled by ${slower.toFixed(2)}`);
  const times = await page.evaluate(async (moves) => {
    const slider = document.querySelector<HTMLInputElement>('input[type=range]')!;
    const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
    const drawing = document.querySelector('svg[role=img]')!;
    const out: number[] = [];
    for (let k = 0; k < moves; k++) {
      const before = drawing.getAttribute('aria-label');
      const from = performance.now();
      set.call(slider, String(5 + (k % 40)));
      slider.dispatchEvent(new Event('input', { bubbles: true }));
      await new Promise<void>((done) => {
        requestAnimationFrame(function look() {
          if (drawing.getAttribute('aria-label') === before) return void requestAnimationFrame(look);
          // Painted by the time the next task runs.
          const after = new MessageChannel();
          after.port1.onmessage = () => done();
          after.port2.postMessage(null);
        });
      });
      out.push(performance.now() - from);
    }
    return out;
  }, MOVES);
  times.sort((a, b) => a - b);
  results.push(held('a beam drawn anew, p95', times[Math.floor(0.95 * MOVES)], '<=', Math.round(REDRAW_MS * slower), ' ms'));

  const [width, height] = [4000, 3000];
  const echoes = Array.from(
    { length: 60 },
    (_, k) => `<circle cx="${700 + 260 * (k % 10)}" cy="${600 + 320 * Math.floor(k / 10)}" r="34" fill="#ffa"/>`,
  );
  const picture = await sharp({ create: { width, height, channels: 3, background: '#102' } })
    .composite([{ input: Buffer.from(`<svg width="${width}" height="${height}">${echoes.join('')}</svg>`) }])
    .blur(22)
    .jpeg()
    .toBuffer();
  await page.getByRole('radio', { name: 'Picture' }).click();
  await page.getByText('Set its scale by two marks').waitFor();
  await page.waitForTimeout(1000);
  /** When the page next has words, or a part of this role, looked for at each frame: a test's own waiting is no part of it. */
  const appears = (role: string | null, words: string): Promise<number> =>
    page.evaluate(
      ([role, words]) =>
        new Promise<number>((done) => {
          const pattern = new RegExp(words);
          requestAnimationFrame(function look() {
            if ((role ? document.querySelector(`[role=${role}]`) : true) && pattern.test(document.body.innerText)) done(Date.now());
            else requestAnimationFrame(look);
          });
        }),
      [role, words] as const,
    );
  const shown = page.getByRole('application');
  let waits = appears('application', 'Straighten and crop');
  let began = Date.now();
  await page.locator('input[type=file]').setInputFiles({ name: 'school.jpg', mimeType: 'image/jpeg', buffer: picture });
  const opened = (await waits) - began;
  await page.getByRole('button', { name: 'Straighten and crop' }).click();
  const now = page.getByRole('button', { name: 'Straighten now' });
  await now.waitFor();
  waits = appears(null, 'Straighten and crop');
  began = Date.now();
  await now.click();
  const straight = (await waits) - began;
  await page.getByRole('button', { name: 'Count a school' }).click();
  const box = (await shown.boundingBox())!;
  const at = (x: number, y: number): [number, number] => [box.x + x * box.width, box.y + y * box.height];
  await page.mouse.move(...at(0.02, 0.02));
  await page.mouse.down();
  for (const [x, y] of [[0.98, 0.02], [0.98, 0.98], [0.02, 0.98]]) await page.mouse.move(...at(x, y), { steps: 3 }); // prettier-ignore
  waits = appears(null, 'Counted \\d+|about \\d+');
  began = Date.now();
  await page.mouse.up();
  const counted = (await waits) - began;
  console.log(`opened ${opened} ms, straightened ${straight} ms, counted ${counted} ms`);
  results.push(
    held(
      'a picture of 12 megapixels opened, straightened and counted',
      (opened + straight + counted) / 1000,
      '<=',
      Number((PICTURE_S * slower).toFixed(2)),
      ' s',
    ),
  );
  await context.close();
} finally {
  await closeBrowser();
  await server.stop();
  folder.remove();
}
finish(results);
