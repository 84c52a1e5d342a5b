import { expect } from 'chai';
import exifr from 'exifr';
import { readFileSync } from 'node:fs';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import type { LoggedTrip, TripDetail } from '@restless-shoal/core/contract';
import { violations } from './access';
import { openPage, ownErrors, PHONE, until } from './browser';
import { ask } from './harness';
import { loggedWater } from './logged-water';
import { phonePicture } from './phone-picture';

// A photo of a fish: taken without signal, sent later, shown to the client without what the camera wrote into it.

const served = loggedWater(12, 4);
let trip: LoggedTrip;
const detail = (): Promise<TripDetail> => ask(served(), `/trips/${trip.id}`);
before(async () => {
  trip = (await ask<LoggedTrip[]>(served(), '/logbook')).find((t) => t.landed.length > 0)!;
});

/** All words of a PDF, in order. */
async function wordsOf(pdf: Buffer): Promise<string> {
  const document = await getDocument({ data: new Uint8Array(pdf), useSystemFonts: true, verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let n = 1; n <= document.numPages; n++) {
    const { items } = await (await document.getPage(n)).getTextContent();
    pages.push(items.map((i) => ('str' in i ? i.str : '')).join(' '));
  }
  await document.destroy();
  return pages.join(' ').replace(/\s+/g, ' ');
}

describe('a photo of a fish', () => {
  it('is kept on the phone without a server, sent once there is one, and offers what the camera knew', async () => {
    const { page, context, errors } = await openPage(`${served().url}/logbook/${trip.id}`, { size: PHONE, installed: true });
    const fish = (await detail()).responses.filter((r) => r.response === 'landed').sort((a, b) => a.time.localeCompare(b.time))[0];
    const taken = new Date(Date.parse(fish.time) + 120_000);
    const written = taken.toISOString().slice(0, 19).replaceAll('-', ':').replace('T', ' ');
    const buffer = await phonePicture(written, 40);
    await page.getByRole('button', { name: /^\d\d:\d\d Landed/ }).first().click(); // prettier-ignore
    const sheet = page.getByRole('dialog', { name: /what it did$/ });
    await until(() => page.evaluate(() => navigator.serviceWorker.controller !== null), 'the application was on the phone');
    await context.setOffline(true);
    await sheet.locator('input[type=file]').setInputFiles({ name: 'IMG_0001.jpg', mimeType: 'image/jpeg', buffer });
    const photo = page.getByRole('dialog', { name: /^Photo/ });
    await photo.getByText(/Taken on .* Place: 48\.20000, -34\.60000/).waitFor();
    // Upright as it was held, from this device: no server has it yet.
    const size = await photo.locator('img').evaluate(async (img: HTMLImageElement) => {
      await img.decode();
      return [img.naturalWidth, img.naturalHeight];
    });
    expect(size).to.deep.equal([80, 120]);
    expect(await violations(page)).to.deep.equal([]);
    await photo.getByRole('button', { name: 'Use this time for the fish' }).click();
    await photo.getByLabel('Caption').fill('By the reeds');
    await photo.getByRole('button', { name: 'Done' }).click();
    expect((await detail()).photos, 'photos on the server, offline').to.deep.equal([]);
    await context.setOffline(false);
    await until(async () => ((await detail()).photos[0]?.bytes ?? 0) > 0, 'the picture was on the server');
    await until(async () => (await detail()).photos[0].caption === 'By the reeds', 'its words were too');
    const after = await detail();
    expect(after.photos).to.have.length(1);
    expect(Date.parse(after.responses.find((r) => r.id === fish.id)!.time)).to.equal(1000 * Math.floor(taken.getTime() / 1000));
    expect(Date.parse(after.photos[0].response_time!)).to.equal(1000 * Math.floor(taken.getTime() / 1000));
    // One too large, and one that is none, are refused in words; nothing is kept of them.
    await sheet.locator('input[type=file]').setInputFiles({ name: 'note.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture') });
    await sheet.getByText('note.jpg is not a picture that this browser can open').waitFor();
    await sheet
      .locator('input[type=file]')
      .setInputFiles({ name: 'huge.jpg', mimeType: 'image/jpeg', buffer: Buffer.alloc(26 * 1024 * 1024) });
    await sheet.getByText('huge.jpg is larger than 25 MB').waitFor();
    expect((await detail()).photos).to.have.length(1);
    expect(ownErrors(errors)).to.deep.equal([]);
    await context.close();
  });

  it('stands in the report without where, when and with what it was taken; the printed page can be read', async () => {
    const { page, context, errors } = await openPage(`${served().url}/logbook/${trip.id}/report`);
    await page.getByLabel('With photos (1)').waitFor();
    await page.getByLabel(/^The day in your words/).fill('Fog until ten, then sun.');
    await page.locator('article.report img').waitFor();
    expect(await violations(page)).to.deep.equal([]);
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as a file' }).click()]);
    const html = readFileSync(await download.path(), 'utf8');
    const [source] = /data:image\/jpeg;base64,[^"]+/.exec(html)!;
    const picture = Buffer.from(source.split(',')[1], 'base64');
    expect(await exifr.parse(picture)).to.equal(undefined);
    expect(picture.includes('A phone')).to.equal(false);
    expect(html).to.include('By the reeds').and.to.not.include('48.2').and.to.not.include('IMG_0001');
    await page.emulateMedia({ media: 'print' });
    const words = await wordsOf(await page.pdf({ format: 'A4' }));
    const landed = (await detail()).responses.filter((r) => r.response === 'landed').length;
    expect(words).to.include(trip.water).and.to.include(`${landed} fish landed`).and.to.include('Fog until ten, then sun.');
    expect(words).to.include('By the reeds').and.to.not.include('Save as a file');
    await page.emulateMedia({ media: 'screen' });
    await page.getByLabel('With photos (1)').uncheck();
    expect(await page.locator('article.report img').count()).to.equal(0);
    // A picture of the screen would tell where: it is never in it.
    const [{ id, photo, time }] = (await detail()).photos;
    await ask(served(), `/trips/${trip.id}/photos/${id}`, 'PUT', { photo, time, shows: 'screen' });
    await page.reload();
    await page.locator('article.report').waitFor();
    expect(await page.getByLabel(/^With photos/).count()).to.equal(0);
    expect(errors).to.deep.equal([]);
    await context.close();
  });
});
