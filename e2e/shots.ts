import { mkdirSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { chromium, type BrowserContext, type Page } from 'playwright-core';

// Pictures of the views from a running demo: npx tsx e2e/shots.ts --to FOLDER [--only chart-day,…]
const { values } = parseArgs({
  options: {
    url: { type: 'string', default: 'http://127.0.0.1:4870' },
    to: { type: 'string', default: 'docs/screenshots' },
    only: { type: 'string' },
    // A server without a water, for what a first start shows.
    empty: { type: 'string' },
    at: { type: 'string', default: '48.18690,-34.59090' },
  },
});
mkdirSync(values.to, { recursive: true });

const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-quic'] });
/** Over the demo water. */
const HERE = { latitude: Number(values.at.split(',')[0]), longitude: Number(values.at.split(',')[1]) };
const DESK = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };
const SIDEWAYS = { width: 844, height: 390 };

const shots: { name: string; path: string; size: typeof DESK; theme: 'day' | 'night'; wait: string; before?: string; species?: string }[] =
  [
    { name: 'brief-day', path: '/brief', size: DESK, theme: 'day', wait: '[data-testid=headline]' },
    { name: 'chart-day', path: '/chart', size: DESK, theme: 'day', wait: '[data-testid=share]', before: 'band' },
    { name: 'patterns-day', path: '/patterns', size: DESK, theme: 'day', wait: '[data-testid=combinations] li' },
    { name: 'forecast-day', path: '/forecast', size: DESK, theme: 'day', wait: '[data-testid=places] li' },
    { name: 'plan-day', path: '/plan', size: DESK, theme: 'day', wait: '[data-testid=run-sheet] li' },
    { name: 'plan-passes', path: '/plan?tab=passes', size: DESK, theme: 'night', wait: '[data-testid=passes]' },
    { name: 'plan-phone', path: '/plan?tab=spot', size: PHONE, theme: 'day', wait: '[data-testid=come-in]' },
    { name: 'deck-day', path: '/deck', size: DESK, theme: 'day', wait: 'main' },
    { name: 'deck-phone', path: '/deck', size: PHONE, theme: 'day', wait: 'main' },
    { name: 'deck-sideways', path: '/deck', size: SIDEWAYS, theme: 'night', wait: 'main' },
    { name: 'import-assistant', path: '/chart?tool=soundings', size: DESK, theme: 'day', wait: 'canvas', before: 'import' },
    { name: 'bench', path: '/bench', size: DESK, theme: 'night', wait: 'main svg' },
    {
      name: 'sound-brief',
      path: '/brief?water=Tessel+Sound',
      size: DESK,
      theme: 'night',
      wait: '[data-testid=tide-curve]',
      species: 'pollack',
    },
    {
      name: 'sound-chart',
      path: '/chart?water=Tessel+Sound',
      size: DESK,
      theme: 'day',
      wait: 'canvas',
      before: 'shapes',
      species: 'pollack',
    },
    {
      name: 'sound-ebb',
      path: '/forecast?water=Tessel+Sound&if-at=2026-09-15T10:20Z',
      size: DESK,
      theme: 'day',
      wait: '[data-testid=places] li',
      species: 'pollack',
    },
    {
      name: 'sound-flood',
      path: '/forecast?water=Tessel+Sound&if-at=2026-09-15T16:30Z',
      size: DESK,
      theme: 'day',
      wait: '[data-testid=places] li',
      species: 'pollack',
    },
    { name: 'logbook', path: '/logbook', size: DESK, theme: 'day', wait: '[data-trip]' },
    { name: 'logbook-trip', path: '/logbook', size: DESK, theme: 'night', wait: '[data-trip]', before: 'trip' },
    { name: 'first-start', path: '/', size: PHONE, theme: 'day', wait: 'text=Start a water', before: 'empty' },
  ];

/** A short trip over the demo water, so that the Deck has something to show. */
async function logSome(page: Page, context: BrowserContext): Promise<void> {
  const start = page.getByRole('button', { name: 'Start the trip' });
  if (!(await start.isVisible())) {
    await page.getByRole('button', { name: /^Mark .* below/ }).waitFor();
    return;
  }
  await start.click();
  const pad = page.getByRole('application', { name: /Where from the boat/ });
  await pad.waitFor();
  for (let k = 0; k < 9; k++) {
    await context.setGeolocation({ latitude: HERE.latitude + k * 0.00011, longitude: HERE.longitude + k * 0.00009 });
    await page.waitForTimeout(900);
    if (k % 4 === 3) await page.getByRole('button', { name: 'Nothing here', exact: true }).click();
    else {
      await page.getByRole('radio', { name: k % 3 === 1 ? 'Bait' : 'Fish', exact: true }).click();
      const column = (await page.getByRole('slider', { name: 'How deep' }).boundingBox())!;
      await page.mouse.click(column.x + column.width / 2, column.y + column.height * (0.3 + 0.04 * k));
      const box = (await pad.boundingBox())!;
      await page.mouse.click(box.x + box.width * (k % 2 ? 0.75 : 0.3), box.y + box.height * 0.55);
    }
    await page.waitForTimeout(700);
  }
}

for (const shot of shots) {
  if (values.only && !values.only.split(',').includes(shot.name)) continue;
  const context = await browser.newContext({
    locale: 'en-GB',
    viewport: shot.size,
    deviceScaleFactor: 1,
    permissions: ['geolocation'],
    geolocation: HERE,
  });
  await context.addInitScript(
    `localStorage.setItem('theme', '${shot.theme}'); localStorage.setItem('species', '${shot.species ?? 'zander'}'); localStorage.setItem('units', '${process.env.UNITS ?? '{}'}')`,
  );
  const page = await context.newPage();
  page.on('console', (message) => message.type() === 'error' && console.error(`${shot.name}: ${message.text()}`));
  page.on('pageerror', (error) => console.error(`${shot.name}: ${error.message}`));
  // Pictures show no folder of the machine that took them.
  await page.route('**/api/backups', async (route) => {
    const response = await route.fetch();
    await route.fulfill({ response, json: { ...((await response.json()) as object), folder: '/media/stick/logbook' } });
  });
  if (shot.before === 'empty' && !values.empty) {
    await context.close();
    continue;
  }
  await page.goto((shot.before === 'empty' ? values.empty! : values.url) + shot.path);
  if (shot.before === 'band') await page.getByText('Shade a depth band').click();
  await page.waitForSelector(shot.wait, { timeout: 60_000 });
  await page.waitForTimeout(1500);
  if (shot.path === '/deck') await logSome(page, context);
  if (shot.before === 'shapes') await page.getByRole('button', { name: 'Shapes' }).click();
  if (shot.before === 'import') {
    await page.getByRole('button', { name: 'Import files' }).click();
    const rows = Array.from({ length: 60 }, (_, k) => `${(48.187 + k * 4e-5).toFixed(5)};${(-34.591 + 6e-4 * Math.sin(k / 9)).toFixed(5)};${(18 + 12 * Math.sin(k / 7)).toFixed(1)};14.05.2026;${String(6 + Math.floor(k / 60)).padStart(2, '0')}:${String(k % 60).padStart(2, '0')}`); // prettier-ignore
    await page.locator('input[type=file]').setInputFiles({ name: 'plotter.csv', mimeType: 'text/csv', buffer: Buffer.from(['Breite;Länge;Depth;Date;Time', ...rows].join('\n')) }); // prettier-ignore
    await page.getByRole('dialog').getByRole('button', { name: 'Import', exact: true }).click();
    await page.getByRole('radio', { name: 'feet' }).click();
    await page.getByLabel('Time zone of the file').selectOption({ index: 1 });
    await page.getByRole('img', { name: /The first soundings on the map/ }).waitFor();
  }
  if (shot.before === 'trip') {
    await page.locator('[data-trip]').nth(1).click();
    await page.getByTestId('marks').waitFor();
  }
  if (shot.path === '/forecast') {
    await page.getByRole('status').waitFor({ state: 'detached', timeout: 240_000 });
    await page.getByTestId('board').waitFor({ timeout: 400_000 });
    await page
      .getByText(/looks?, (seen in|no fish)|Never looked at/)
      .first()
      .waitFor();
  }
  await page.waitForTimeout(700);
  await page.screenshot({ path: `${values.to}/${shot.name}.png` });
  await context.close();
}
await browser.close();
