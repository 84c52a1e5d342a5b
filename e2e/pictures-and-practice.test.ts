import { expect } from 'chai';
import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import type { Locator, Page } from 'playwright-core';
import type { TripDetail } from '@restless-shoal/core/contract';
import { violations } from './access';
import { DESK, openPage, ownErrors, PHONE, until, type PageOptions } from './browser';
import { ask } from './harness';
import { loggedWater } from './logged-water';

// The sonar's pictures: made up for practice, drawn by the page, saved, loaded back and read.

const served = loggedWater(12, 4);
const open = (show: string, options: PageOptions = {}) => openPage(`${served().url}/bench?show=${show}`, options);

/** Saves the picture of practice as it is drawn. */
async function drawn(page: Page): Promise<{ range: number; saved: Buffer }> {
  const canvas = page.getByRole('img', { name: /picture/ });
  const range = Number(/(\d+(?:\.\d+)?) m/.exec((await canvas.getAttribute('aria-label'))!)![1]);
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save the picture' }).click()]);
  return { range, saved: readFileSync(await download.path()) };
}

/** How dark each pixel is, row by row: echoes are dark by day. */
async function darkness(png: Buffer): Promise<{ width: number; height: number; at: (x: number, y: number) => number }> {
  const { data, info } = await sharp(png).greyscale().raw().toBuffer({ resolveWithObject: true });
  return { ...info, at: (x, y) => 255 - data[(y * info.width + x) * info.channels] };
}

/** Touches the picture that is read at shares of its width and height. */
async function touch(picture: Locator, x: number, y: number): Promise<void> {
  await picture.scrollIntoViewIfNeeded();
  const box = (await picture.boundingBox())!;
  await picture.click({ position: { x: x * box.width, y: y * box.height } });
}
const load = async (page: Page, buffer: Buffer, name = 'screen.png', mimeType = 'image/png'): Promise<void> =>
  page.locator('input[type=file]').setInputFiles({ name, mimeType, buffer });

describe('practice', () => {
  it('asks, judges, shows what the picture holds and why, and brings back what went wrong', async () => {
    const { page, context, errors } = await open('practice', { size: PHONE, fresh: true });
    const question = page.getByTestId('question');
    await question.waitFor();
    expect(await violations(page)).to.deep.equal([]);
    const seen = new Set<string>();
    for (let round = 0; round < 10; round++) {
      seen.add((await question.textContent())!);
      const answers = page.getByRole('group', { name: 'Answers' });
      if (await answers.count()) await answers.getByRole('button').first().click();
      else await page.getByRole('button', { name: 'This is my answer' }).click();
      const said = page.getByRole('status').filter({ hasText: /Right|Not quite/ });
      await said.waitFor();
      expect((await said.textContent())!.length, 'a reason').to.be.above(60);
      // An answer counts once.
      expect(await page.getByRole('button', { name: 'This is my answer' }).filter({ visible: true }).count()).to.equal(0);
      await page
        .getByText(`${round + 1} picture`)
        .first()
        .waitFor();
      await page.getByRole('button', { name: 'Next picture' }).click();
      await said.waitFor({ state: 'detached' });
    }
    expect(seen.size, 'questions of several skills').to.be.above(3);
    await page.reload();
    await page.getByText('10 pictures read').waitFor();
    expect(errors).to.deep.equal([]);
    await context.close();
  });
});

describe('a picture of a screen', () => {
  it('gives the planted depth of a fish within 3 %, and goes into the log with it, without a server too', async () => {
    const { page, context, errors } = await open('practice', { size: DESK, installed: true });
    await page.getByRole('button', { name: /^Depth/ }).click();
    const answered = page.getByRole('status').filter({ hasText: 'you said' });
    let [range, planted] = [0, 0];
    let saved: Buffer;
    // Deep enough that a tenth of a metre, as depths are shown, is less than 3 %.
    do {
      if (planted > 0) await page.getByRole('button', { name: 'Next picture' }).click();
      ({ range, saved } = await drawn(page));
      await page.getByRole('button', { name: 'This is my answer' }).click();
      planted = Number(/([\d.]+) m; you said/.exec((await answered.textContent())!)![1]);
    } while (planted < 5);
    // Where its echo is darkest above the bottom, away from the scale at the left.
    const dark = await darkness(saved);
    const rows = Array.from({ length: dark.height }, (_, y) => {
      let sum = 0;
      for (let x = Math.round(0.2 * dark.width); x < dark.width; x++) sum += dark.at(x, y);
      return sum / dark.width;
    });
    const bottom = rows.indexOf(Math.max(...rows));
    let [best, fishX, fishY] = [0, 0, 0];
    for (let y = Math.round(0.04 * dark.height); y < 0.93 * bottom; y++)
      for (let x = Math.round(0.2 * dark.width); x < 0.95 * dark.width; x++) {
        const sum = dark.at(x, y) + dark.at(x + 1, y) + dark.at(x - 1, y);
        if (sum > best) [best, fishX, fishY] = [sum, x, y];
      }
    // The echo begins at its upper edge.
    while (dark.at(fishX, fishY - 1) > 0.6 * (best / 3)) fishY--;
    await page.getByRole('radio', { name: 'Picture' }).click();
    await until(() => page.evaluate(() => navigator.serviceWorker.controller !== null), 'the application was on the device');
    const taken = (): Promise<boolean> =>
      page.evaluate(async () =>
        (await (await caches.open('restless-shoal-water')).keys()).some((k) => /\/api\/trips\/(?!running)/.test(k.url)),
      );
    await until(taken, 'the last trip was on the device');
    await context.setOffline(true);
    await load(page, saved);
    const picture = page.getByRole('application');
    await picture.waitFor();
    const next = page.getByTestId('do-next');
    // The transducer is 0.4 m below the surface.
    const rowOf = (depth: number): number => (depth - 0.4) / range;
    const [shallow, deep] = [Math.ceil(0.15 * range), Math.floor(0.9 * range)];
    await touch(picture, 0.5, rowOf(shallow));
    await page.getByLabel('The depth, m').fill(String(shallow));
    await next.getByText('Touch another depth mark').waitFor();
    await touch(picture, 0.5, rowOf(deep));
    await page.getByLabel('The other depth, m').fill(String(shallow));
    await page.getByText('Both marks say the same').waitFor();
    await page.getByLabel('The other depth, m').fill(String(deep));
    await next.getByText('Touch each fish').waitFor();
    await touch(picture, (fishX + 0.5) / dark.width, (fishY + 0.5) / dark.height);
    const says = page.getByRole('list', { name: 'What was read' }).getByRole('listitem');
    const told = (await says.getByText('m deep').textContent())!;
    const read = Number(/([\d.]+) m ±/.exec(told)![1]);
    expect(Math.abs(read - planted) / planted, `${told}, planted ${planted}`).to.be.below(0.03);
    expect(await violations(page)).to.deep.equal([]);
    await page.getByText('Placed by the boat’s track').waitFor();
    await page.getByRole('button', { name: 'Save 1 mark with the picture' }).click();
    await page.getByText('1 mark saved.').waitFor();
    await context.setOffline(false);
    const trip = /\/logbook\/([\w-]+)/.exec((await page.getByRole('link', { name: 'Open the trip' }).getAttribute('href'))!)![1];
    const detail = (): Promise<TripDetail> => ask(served(), `/trips/${trip}`);
    await until(async () => ((await detail()).photos[0]?.bytes ?? 0) > 0, 'the picture was on the server');
    await until(async () => (await detail()).contacts.some((c) => c.settings?.startsWith('picture ')), 'the mark was too');
    const { contacts, photos } = await detail();
    const mark = contacts.find((c) => c.settings?.startsWith('picture '))!;
    expect(mark.top_m).to.be.closeTo(read, 0.06);
    expect(mark).to.include({ kind: 'fish', view: 'sounder', count: 1 });
    expect(photos[0]).to.include({ shows: 'screen', contact: mark.contact });
    expect(mark.settings).to.include(photos[0].photo);
    expect(ownErrors(errors)).to.deep.equal([]);
    await context.close();
  });

  it('gives the planted height of a fish by its shadow within 3 %, straightened from a photo', async () => {
    const { page, context, errors } = await open('practice', { size: DESK });
    await page.getByRole('button', { name: /^Height by shadow/ }).click();
    const { range, saved } = await drawn(page);
    await page.getByRole('button', { name: 'This is my answer' }).click();
    const reason = (await page.getByRole('status').filter({ hasText: 'echo ÷ shadow' }).textContent())!;
    const [height, echo, shadow] = [...reason.split('echo ÷ shadow')[1].matchAll(/([\d.]+) m/g)].map((m) => Number(m[1]));
    const side = await page.getByRole('img', { name: /picture/ }).isVisible();
    expect(side).to.equal(true);
    // As a phone takes it: the screen somewhere in the picture.
    const { width, height: tall } = await sharp(saved).metadata();
    const framed = await sharp({
      create: { width: Math.round(width * 1.25), height: Math.round(tall * 1.5), channels: 3, background: '#334' },
    })
      .composite([{ input: saved, left: Math.round(0.125 * width), top: Math.round(0.25 * tall) }])
      .jpeg({ quality: 95 })
      .toBuffer();
    await page.getByRole('radio', { name: 'Picture' }).click();
    await load(page, framed, 'photo.jpg', 'image/jpeg');
    const picture = page.getByRole('application');
    await picture.waitFor();
    await page.getByRole('button', { name: 'Straighten and crop' }).click();
    const box = (await picture.boundingBox())!;
    for (const [from, to] of [
      [
        [0.06, 0.06],
        [0.1, 1 / 6],
      ],
      [
        [0.94, 0.06],
        [0.9, 1 / 6],
      ],
      [
        [0.94, 0.94],
        [0.9, 5 / 6],
      ],
      [
        [0.06, 0.94],
        [0.1, 5 / 6],
      ],
    ]) {
      // prettier-ignore
      await page.mouse.move(box.x + from[0] * box.width, box.y + from[1] * box.height);
      await page.mouse.down();
      await page.mouse.move(box.x + to[0] * box.width, box.y + to[1] * box.height, { steps: 4 });
      await page.mouse.up();
    }
    await page.getByRole('button', { name: 'Straighten now' }).click();
    await until(async () => {
      const now = (await picture.boundingBox())!;
      return Math.abs(now.width / now.height - width / tall) < 0.05 * (width / tall);
    }, 'it was as wide as high as the screen');
    await page.getByRole('region', { name: 'Scale' }).getByRole('radio', { name: 'Side-scan' }).click();
    const across = (metres: number): number => 0.5 + metres / range / 2;
    const mark = Math.floor(0.9 * range);
    await touch(picture, across(0), 0.3);
    await touch(picture, across(mark), 0.3);
    await page.getByLabel('The range, m').fill(String(mark));
    await touch(picture, across(height), 0.3);
    await page.getByTestId('do-next').getByText('Touch each fish').waitFor();
    const says = page.getByRole('list', { name: 'What was read' }).getByRole('listitem').first();
    await touch(picture, across(echo), 0.4);
    await says.getByText('No shadow touched').waitFor();
    await page.getByRole('button', { name: 'Its shadow' }).click();
    await touch(picture, across(-echo), 0.4);
    await says.getByText('on the other side').waitFor();
    await page.getByRole('button', { name: 'Its shadow' }).click();
    await touch(picture, across(shadow), 0.4);
    await says.getByText('over the bottom').waitFor();
    const told = (await says.getByText('over the bottom').textContent())!;
    const read = Number(/([\d.]+) m ± [\d.]+ m over the bottom/.exec(told)![1]);
    const over = height * (1 - echo / shadow);
    // 3 % of what it is worked out from: heights of a metre or two are read to a tenth.
    expect(Math.abs(read - over), `${told}, planted ${over}`).to.be.below(Math.max(0.03 * over, 0.03 * echo * (height / shadow), 0.06));
    expect(errors).to.deep.equal([]);
    await context.close();
  });

  it('of 12 megapixels is counted on a phone; what is no picture, cut short or too large is said, and changes nothing', async () => {
    const { page, context, errors } = await open('picture', { size: PHONE, theme: 'night' });
    await page.getByText('Set its scale by two marks').waitFor();
    expect(await violations(page)).to.deep.equal([]);
    // Twelve light echoes on dark water, in a picture as large as a phone's.
    const [width, height] = [4000, 3000];
    const at = Array.from({ length: 12 }, (_, k) => ({ x: 1200 + 420 * (k % 4), y: 900 + 380 * Math.floor(k / 4) }));
    const dots = `<svg width="${width}" height="${height}">${at.map((p) => `<circle cx="${p.x}" cy="${p.y}" r="38" fill="#ffa"/>`).join('')}</svg>`;
    const large = await sharp({ create: { width, height, channels: 3, background: '#102' } })
      .composite([{ input: Buffer.from(dots) }])
      .blur(26)
      .jpeg()
      .toBuffer();
    await load(page, large, 'school.jpg', 'image/jpeg');
    const picture = page.getByRole('application');
    await picture.waitFor();
    await page.getByRole('button', { name: 'Count a school' }).click();
    await picture.scrollIntoViewIfNeeded();
    const box = (await picture.boundingBox())!;
    const round = [[0.22, 0.2], [0.72, 0.2], [0.72, 0.68], [0.22, 0.68], [0.22, 0.21]]; // prettier-ignore
    await page.mouse.move(box.x + round[0][0] * box.width, box.y + round[0][1] * box.height);
    await page.mouse.down();
    for (const [x, y] of round.slice(1)) await page.mouse.move(box.x + x * box.width, box.y + y * box.height, { steps: 6 });
    await page.mouse.up();
    const says = page.getByRole('list', { name: 'What was read' }).getByRole('listitem').first();
    await says.getByText('Counted 12').waitFor();
    await says.getByRole('button', { name: 'One more' }).click();
    await says.getByText('13', { exact: true }).waitFor();
    const hundred = await sharp({ create: { width: 11_000, height: 9100, channels: 3, background: '#102' } }).png({ compressionLevel: 9 }).toBuffer(); // prettier-ignore
    for (const [buffer, name, words] of [
      [Buffer.from('no picture at all'), 'note.png', 'note.png is not a PNG, JPEG or WebP picture'],
      [large.subarray(0, large.length / 2), 'half.jpg', 'half.jpg is incomplete'],
      [hundred, 'huge.png', 'huge.png has more than 60 megapixels'],
      [Buffer.concat([large, Buffer.alloc(26 * 1024 * 1024)]), 'heavy.jpg', 'heavy.jpg is larger than 25 MB'],
    ] as const) {
      await load(page, buffer, name, 'image/jpeg');
      await page.getByText(words).waitFor();
      expect(await says.isVisible(), name).to.equal(true);
    }
    expect(errors).to.deep.equal([]);
    await context.close();
  });
});

describe('a fish on the screen', () => {
  it('says what it may be, from the settled marks of its water, and takes it with one touch', async () => {
    const [{ id: water }] = await ask<{ id: string }[]>(served(), '/waters');
    type Mark = TripDetail['contacts'][number];
    const all = await ask<Mark[]>(served(), `/waters/${water}/contacts`);
    // One that nothing settled.
    const open = (c: Mark): boolean => c.kind === 'fish' && c.confirmed !== 'catch' && c.confirmed !== 'camera' && c.confirmed !== 'sight';
    const mark = all.find(
      (c) => open(c) && c.form !== null && all.filter((o) => o.trip_id === c.trip_id && o.time === c.time).length === 1,
    )!;
    const detail = (): Promise<TripDetail> => ask(served(), `/trips/${mark.trip_id}`);
    const { contacts, stops } = await detail();
    const { page, context, errors } = await openPage(`${served().url}/logbook/${mark.trip_id}`, { size: PHONE });
    await page.getByTestId('day').getByRole('button').first().waitFor();
    const inTime = [...stops.map((s) => ({ at: s.start, id: '' })), ...contacts.map((c) => ({ at: c.time, id: c.id }))].sort((a, b) => Date.parse(a.at) - Date.parse(b.at)); // prettier-ignore
    await page
      .getByTestId('day')
      .getByRole('button')
      .nth(inTime.findIndex((e) => e.id === mark.id))
      .click();
    const likely = page.getByRole('dialog').getByRole('group', { name: 'What it may be' });
    await likely.getByText(/from \d+ settled marks of this water/).waitFor();
    const first = likely.getByRole('button').first();
    const [, name, odds] = /^(.+) >?([\d.]+) %$/.exec((await first.textContent())!)!;
    expect(Number(odds)).to.be.above(20);
    await first.click();
    await until(async () => {
      const now = (await detail()).contacts.find((c) => c.id === mark.id)!;
      return now.species === name.toLowerCase() && Math.abs((now.confidence ?? 0) - Number(odds) / 100) < 0.06;
    }, 'the mark had the species and its odds');
    expect(await violations(page)).to.deep.equal([]);
    expect(errors).to.deep.equal([]);
    await context.close();
  });
});
