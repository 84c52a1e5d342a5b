import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { closeBrowser, DESK, openPage, PHONE } from '../e2e/browser';
import { benchFolder, finish, held } from './support';

// The sonar's picture as it scrolls, fed by the simulated boat over real sockets, in headless Chromium drawn by the
// processor alone: frames a second, and how long a touch on it takes until the reading stands there.

const SECONDS = 10;
const TOUCHES = 40;
const folder = benchFolder();
const main = fileURLToPath(new URL('./main.mjs', import.meta.url));
const data = join(folder.path, 'data');
mkdirSync(data);
process.env.SHOAL_MAIN = main;
const { ask, serve, writeLogbook } = await import('../e2e/harness');
const name = writeLogbook(join(folder.path, 'log'), 8, 2);
const made = spawnSync(process.execPath, [main, 'import', '--water', name, '--create', join(folder.path, 'log'), '--data', data]);
if (made.status !== 0) throw new Error(String(made.stdout) + String(made.stderr));
const server = await serve(data);
const results: boolean[] = [];
try {
  for (const [words, size] of [
    ['phone', PHONE],
    ['1280×800', DESK],
  ] as const) {
    await ask(server, '/feed', 'DELETE');
    const { page, context } = await openPage(`${server.url}/deck`, { size });
    const start = page.getByRole('button', { name: 'Start the trip' });
    await start
      .or(page.getByRole('button', { name: 'Fish here' }))
      .first()
      .waitFor();
    if (await start.isVisible()) await start.click();
    await page.getByRole('button', { name: 'Set the position by hand' }).click();
    await page.getByRole('button', { name: 'Simulated boat' }).click();
    await page.getByLabel('Sonar view in use').selectOption('sounder');
    await page.getByRole('button', { name: 'Picture' }).click();
    await page.waitForTimeout(20_000);
    const { frames, touches } = await page.evaluate(
      async ([seconds, touches]) => {
        const { putImageData } = CanvasRenderingContext2D.prototype;
        let drawn = 0;
        CanvasRenderingContext2D.prototype.putImageData = function (this: CanvasRenderingContext2D, ...rest: unknown[]) {
          drawn++;
          return (putImageData as (...all: unknown[]) => void).apply(this, rest);
        };
        await new Promise((done) => setTimeout(done, seconds * 1000));
        const frames = drawn / seconds;
        const canvas = document.querySelector('canvas')!;
        const says = document.querySelector('[data-testid=picture-says]')!;
        const times: number[] = [];
        for (let k = 0; k < touches; k++) {
          const box = canvas.getBoundingClientRect();
          const before = says.textContent;
          const touched = performance.now();
          canvas.dispatchEvent(
            new PointerEvent('pointerdown', {
              bubbles: true,
              clientX: box.left + box.width * (0.4 + 0.01 * k),
              clientY: box.top + box.height * (0.2 + 0.01 * k),
            }),
          );
          await new Promise<void>((done) => {
            requestAnimationFrame(function look() {
              if (says.textContent === before) requestAnimationFrame(look);
              else {
                const after = new MessageChannel();
                after.port1.onmessage = () => done();
                after.port2.postMessage(0);
              }
            });
          });
          times.push(performance.now() - touched);
          await new Promise((done) => setTimeout(done, 150));
        }
        return { frames, touches: times.sort((a, b) => a - b) };
      },
      [SECONDS, TOUCHES] as const,
    );
    results.push(
      held(`${words}: frames a second`, frames, '>=', 30),
      held(`${words}: touch to reading on the screen, median of ${TOUCHES}`, touches[TOUCHES / 2], '<=', 50, ' ms'),
      held(`${words}: touch to reading on the screen, 95 of 100`, touches[Math.floor(TOUCHES * 0.95)], '<=', 100, ' ms'),
    );
    await context.close();
  }
} finally {
  await closeBrowser();
  await server.stop();
  folder.remove();
}
finish(results);
