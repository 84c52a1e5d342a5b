import { expect } from 'chai';
import type { Locator, Page } from 'playwright-core';
import { openPage, until } from './browser';
import { runningTrip } from './harness';
import { loggedWater } from './logged-water';

const served = loggedWater(8, 2);
const HERE = { latitude: 48.1869, longitude: -34.5909 };
const SIZES = [
  [360, 640],
  [390, 844],
  [844, 390],
  [768, 1024],
  [820, 1180],
  [1024, 768],
  [1280, 800],
] as const;

/** On a trip, started if none runs. @returns the button that marks */
async function onTrip(page: Page): Promise<Locator> {
  const start = page.getByRole('button', { name: 'Start the trip' });
  const mark = page.getByRole('button', { name: /^Mark 1 fish below/ });
  await start.or(mark).waitFor();
  if (await start.isVisible()) await start.click();
  await mark.waitFor();
  await page.getByText(/ m\/s$/).waitFor();
  return mark;
}

/** Whether an element can be hit as a whole: inside the window, nothing over its corners. */
async function expectWhole(page: Page, what: string, locator: Locator, least = 44): Promise<void> {
  const box = (await locator.boundingBox())!;
  const { width, height } = page.viewportSize()!;
  const says = `${what}: ${JSON.stringify(box)} in ${width}×${height}`;
  expect(Math.min(box.width, box.height), says).to.be.at.least(least - 0.5);
  expect(box.x, says).to.be.at.least(0);
  expect(box.y, says).to.be.at.least(0);
  expect(box.x + box.width, says).to.be.at.most(width + 0.5);
  expect(box.y + box.height, says).to.be.at.most(height + 0.5);
  const element = (await locator.elementHandle())!;
  for (const [dx, dy] of [
    [0.1, 0.5],
    [0.9, 0.5],
    [0.5, 0.1],
    [0.5, 0.9],
  ]) {
    const at = [box.x + box.width * dx, box.y + box.height * dy];
    const hit = await element.evaluate((e, [x, y]) => e.contains(document.elementFromPoint(x, y)), at);
    expect(hit, `${says}, something else lies at ${at.join(', ')}`).to.equal(true);
  }
}

/** Relative luminance of an element's text and of its ground (WCAG 2). */
async function paint(element: Locator): Promise<number[]> {
  const pixels = await element.evaluate((e) =>
    (['color', 'backgroundColor'] as const).map((of) => {
      const canvas = document.createElement('canvas').getContext('2d')!;
      canvas.fillStyle = getComputedStyle(e)[of];
      canvas.fillRect(0, 0, 1, 1);
      return [...canvas.getImageData(0, 0, 1, 1).data];
    }),
  );
  return pixels.map((rgb) => {
    const [r, g, b] = rgb.map((v) => (v <= 10 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4));
    return 0.2126 * r + 0.7152 * g + 0.0722 * b;
  });
}

describe('the Deck by the room there is', () => {
  for (const [width, height] of SIZES)
    it(`shows all that marks at ${width}×${height}, 44 px and more, and a tap on the Column is where it fell`, async () => {
      const { page, context, errors } = await openPage(`${served().url}/deck`, { size: { width, height }, at: HERE });
      const mark = await onTrip(page);
      await mark.click();
      await page.getByTestId('done').waitFor();
      const button = (name: string): Locator => page.getByRole('button', { name, exact: true });
      const column = page.getByRole('slider', { name: 'How deep' });
      await expectWhole(page, 'the Column', column, 120);
      await expectWhole(page, 'the Pad', page.getByRole('application', { name: /Where from the boat/ }), 160);
      for (const kind of ['Fish', 'Bait', 'Cover', 'Bottom', 'Weed edge', 'Thermocline', 'Hazard'])
        await expectWhole(page, kind, page.getByRole('radio', { name: kind }));
      await expectWhole(page, 'Mark', mark);
      for (const name of ['Nothing here', 'Fish here', 'Undo']) await expectWhole(page, name, button(name));
      expect(await page.evaluate('document.documentElement.scrollWidth - document.documentElement.clientWidth')).to.equal(0);

      // By hand and eye: a tap in the middle of the Column, also where the edges of the span stand.
      const box = (await column.boundingBox())!;
      const floor = Number(await column.getAttribute('aria-valuemax'));
      const depth = async (): Promise<number> => Number(await column.getAttribute('aria-valuenow'));
      const scaleOf = async (share: number): Promise<number> => {
        const y = box.y + box.height * share;
        await page.mouse.move(box.x + box.width * 0.5, y);
        await page.mouse.down();
        await page.mouse.move(box.x + box.width * 0.5, y + 3);
        await page.mouse.up();
        return depth();
      };
      // Three taps make a straight line of depths: equal steps of the finger are equal steps of depth.
      const [a, b, c] = [await scaleOf(0.3), await scaleOf(0.4), await scaleOf(0.5)];
      expect(b - a, `${a} ${b} ${c} of ${floor} m`).to.be.closeTo(c - b, 0.21);
      expect(b - a).to.be.above(floor * 0.07);
      // On the edge of the span that stands there now: still a tap.
      const edge = 0.5 - (0.5 / (c - b)) * 0.1;
      expect(await scaleOf(edge)).to.be.closeTo(c - 0.5, 0.25);
      expect(errors).to.deep.equal([]);
      await context.close();
    });

  it('stores what the Column says, a double tap once, and an unsure mark without a species', async () => {
    const { page, context } = await openPage(`${served().url}/deck`, { size: { width: 390, height: 844 }, at: HERE });
    interface Trip {
      contacts: { species: string | null; top_m: number; bottom_m: number; time: string }[];
    }
    const stored = async (): Promise<Trip['contacts']> => (await runningTrip<Trip>(served())).contacts;
    const mark = await onTrip(page);
    const before = (await stored()).length;
    await page.getByLabel('Species of the marks').selectOption('not sure');
    const column = page.getByRole('slider', { name: 'How deep' });
    const box = (await column.boundingBox())!;
    await page.mouse.click(box.x + box.width / 2, box.y + box.height * 0.35);
    const depth = Number(await column.getAttribute('aria-valuenow'));
    await mark.dblclick();
    await until(async () => (await stored()).length === before + 1, 'the mark was on the server');
    await page.waitForTimeout(800);
    const marks = await stored();
    expect(marks).to.have.length(before + 1);
    const newest = marks.sort((p, q) => p.time.localeCompare(q.time)).at(-1)!;
    expect(newest.species).to.equal(null);
    expect((newest.top_m + newest.bottom_m) / 2).to.be.closeTo(depth, 0.06);

    // It is opened, put right, deleted in words and brought back.
    await page.getByTestId('day').getByRole('button').last().click();
    const sheet = page.getByRole('dialog');
    await sheet.getByText('Change depth or place').click();
    await sheet.getByLabel('Position of the mark').fill('48.18700, -34.59100');
    await sheet.getByRole('button', { name: 'Move it there' }).click();
    await until(async () => JSON.stringify(await stored()).includes('48.187'), 'the mark had been moved');
    await sheet.getByRole('button', { name: 'Delete mark' }).click();
    await sheet.getByText(/The mark of 1 fish at \d\d:\d\d goes/).waitFor();
    await sheet.getByRole('button', { name: 'Delete mark', exact: true }).click();
    await until(async () => (await stored()).length === before, 'the mark was deleted');
    await page.getByRole('button', { name: 'Undo' }).click();
    await until(async () => (await stored()).length === before + 1, 'the mark was back');
    await context.close();
  });

  it('deletes a trip only after saying in words that can be read what goes, and brings it back', async () => {
    for (const theme of ['day', 'night'] as const) {
      const { page, context } = await openPage(`${served().url}/deck`, { theme, size: { width: 390, height: 844 }, at: HERE });
      await onTrip(page);
      await page.getByRole('button', { name: 'End trip' }).click();
      const sheet = page.getByRole('dialog');
      await sheet.getByRole('button', { name: 'Delete trip' }).click();
      await sheet.getByText(/The trip goes, with \d+ marks?/).waitFor();
      const button = sheet.getByRole('button', { name: 'Delete trip', exact: true });
      const [ink, ground] = await paint(button);
      const contrast = (Math.max(ink, ground) + 0.05) / (Math.min(ink, ground) + 0.05);
      expect(contrast, theme).to.be.above(4.5);
      await button.click();
      await page.getByText('Trip deleted').waitFor();
      await page.getByRole('button', { name: 'Undo' }).click();
      await page.getByRole('button', { name: 'End trip' }).waitFor();
      await context.close();
    }
  });
});
