import { chromium } from 'playwright-core';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-quic'] });
const theme = process.argv[3] ?? 'day';
const [w, h] = (process.argv[4] ?? '1280x800').split('x').map(Number);
const context = await browser.newContext({
  viewport: { width: w, height: h },
  permissions: ['geolocation'],
  geolocation: { latitude: 48.1869, longitude: -34.5909 },
});
await context.addInitScript(`localStorage.setItem('theme', '${theme}')`);
const page = await context.newPage();
page.on('console', (m) => m.type() === 'error' && console.error(m.text()));
page.on('pageerror', (e) => console.error(e.message));
for (const job of process.argv[2].split(',')) {
  const [name, query, press] = job.split('|');
  await page.goto('http://127.0.0.1:4870/patterns?' + query);
  await page.waitForSelector('[data-testid=basis] b', { timeout: 60000 });
  await page.waitForTimeout(4500);
  if (press) {
    await page.locator(press).first().click();
    await page.waitForTimeout(1500);
  }
  await page.screenshot({ path: `/tmp/p-${name}.png` });
}
await browser.close();
