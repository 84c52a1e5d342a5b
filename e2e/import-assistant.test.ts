import { expect } from 'chai';
import { join } from 'node:path';
import { mkdirSync, writeFileSync } from 'node:fs';
import { strFromU8, unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { distance } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import { unpackLogbook } from '@restless-shoal/core/patterns';
import { closeBrowser, DESK, openPage, until } from './browser';
import { makeForeignFiles, slopeDepth, TRUE_SOUNDINGS, type ForeignFile } from './foreign-files';
import { ask, serve, temporaryFolder, type RunningServer } from './harness';

const data = temporaryFolder();
const files = join(data.path, 'files');
let server: RunningServer;
let foreign: ForeignFile[];
let page: Page;

before(async () => {
  mkdirSync(files);
  foreign = await makeForeignFiles(files);
  server = await serve(join(data.path, 'data'));
});
after(async () => {
  await closeBrowser();
  await server.stop();
  data.remove();
});

/** A water of which nothing is known but where it lies, opened on its Chart. @returns its id */
async function openWater(name: string): Promise<string> {
  const id = newId();
  await ask(server, `/waters/${id}`, 'PUT', { name, kind: 'lake', latitude: 52.4, longitude: 13.1, time_zone: 'Europe/Berlin' });
  await page.goto(`${server.url}/chart?water=${encodeURIComponent(name)}&tool=none`);
  await page.getByRole('application', { name: `Map of ${name}` }).waitFor();
  return id;
}

/** The soundings of a water, as its export has them. */
async function soundingsOf(id: string): Promise<Record<string, string>[]> {
  const zip = unzipSync(new Uint8Array(await (await fetch(`${server.url}/api/waters/${id}/export/water.zip`)).arrayBuffer()));
  const [header, ...lines] = strFromU8(zip['soundings.csv']).trim().split('\n');
  const columns = header.split(',');
  return lines.map((line) => Object.fromEntries(line.split(',').map((v, k) => [columns[k], v])));
}

/** Sends a file to the assistant, answers what it asks, and imports it. */
async function importFile(path: string, answers: ForeignFile['answers']): Promise<void> {
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await page.locator('input[type=file]').setInputFiles(path);
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Import', exact: true }).click();
  const report = page.getByTestId('import-report');
  const take = dialog.getByRole('button', { name: /^Import$|question/ });
  await page
    .getByRole('dialog', { name: /^Import into/ })
    .or(report)
    .waitFor();
  if (await report.isVisible()) return;
  const { unit, zone, sign, level, crs } = answers;
  // Answered for a file that looks the same, it is not asked again.
  if (unit && (await dialog.getByRole('radiogroup', { name: 'Unit of the depths' }).isVisible()))
    await dialog.getByRole('radio', { name: { m: 'metres', ft: 'feet', fathom: 'fathoms', cm: 'cm' }[unit], exact: true }).click();
  if (zone) await dialog.getByLabel('Time zone of the file').selectOption(zone);
  if (sign) await dialog.getByRole('radio', { name: sign }).click();
  if (level) await dialog.getByLabel('Height of the surface, m').fill(level);
  if (crs && (await dialog.getByLabel('EPSG code').isVisible())) await dialog.getByLabel('EPSG code').fill(crs);
  await dialog
    .getByRole('img', { name: /The first soundings on the map/ })
    .first()
    .waitFor();
  await until(async () => (await take.textContent()) === 'Import', 'nothing was open any more');
  await take.click();
  await report.waitFor();
}

describe('the import assistant', () => {
  before(async () => {
    page = (await openPage(server.url, { size: DESK })).page;
  });

  it('takes sixteen kinds of files, each with the right places, depths and times', async () => {
    expect(foreign).to.have.length(16);
    for (const file of foreign) {
      const id = await openWater(file.file);
      await importFile(join(files, file.file), file.answers);
      await page.getByRole('button', { name: 'Done' }).click();
      const stored = await soundingsOf(id);
      const says = `${file.file} (${file.by})`;
      if (file.holds === 'slope') {
        expect(stored.length, says).to.be.above(100);
        for (const s of stored) {
          const truth = slopeDepth({ latitude: Number(s.latitude), longitude: Number(s.longitude) });
          expect(Number(s.depth_m), `${says} at ${s.longitude}`).to.be.closeTo(truth, file.within!);
        }
        continue;
      }
      expect(stored.length, says).to.equal(TRUE_SOUNDINGS.length);
      for (const truth of TRUE_SOUNDINGS) {
        const position = { latitude: truth.latitude, longitude: truth.longitude };
        const found = stored.find((s) => distance(position, { latitude: Number(s.latitude), longitude: Number(s.longitude) }) < 0.2);
        expect(found, `${says}: nothing at ${truth.latitude}, ${truth.longitude}`).not.to.equal(undefined);
        expect(Number(found!.depth_m), says).to.be.closeTo(truth.depth, 0.011);
        if (file.holds === 'soundings') expect(Math.abs(Date.parse(found!.time) - truth.at), `${says}: ${found!.time}`).to.be.below(1000);
      }
    }
  });

  it('remembers what was answered for files that look the same', async () => {
    const id = await openWater('Asked once');
    await page.getByRole('button', { name: 'Import', exact: true }).click();
    await page.locator('input[type=file]').setInputFiles(join(files, 'fathoms.csv'));
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('button', { name: 'Import', exact: true }).click();
    await dialog.getByRole('img', { name: /The first soundings on the map/ }).waitFor();
    expect(await dialog.getByText('Which unit is').isVisible()).to.equal(false);
    await dialog.getByRole('button', { name: 'Import', exact: true }).click();
    await page.getByTestId('import-report').waitFor();
    await page.getByRole('button', { name: 'Done' }).click();
    expect(await soundingsOf(id)).to.have.length(TRUE_SOUNDINGS.length);
  });

  it('says which column and which rows it cannot read, and why', async () => {
    writeFileSync(join(files, 'worn.csv'), 'Lat,Lon,Depth (m),Time UTC\n52.4,13.1,3.1,2024-05-31 06:00\n52.4001,13.1,deep,2024-05-31 06:01\n52.4,13.1,-4,2024-05-31 06:02\nx,13.1,4,2024-05-31 06:02\n52.4,13.1,4,31/31/2024\n52.4002,13.1,5,2024-05-31 06:04\n'); // prettier-ignore
    const id = await openWater('Worn');
    await page.getByRole('button', { name: 'Import', exact: true }).click();
    await page.locator('input[type=file]').setInputFiles(join(files, 'worn.csv'));
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('button', { name: 'Import', exact: true }).click();
    // Positive and negative depths in one column: only the angler knows.
    await dialog.getByRole('radio', { name: '5 is deeper than 2' }).click();
    await until(
      async () => (await dialog.getByRole('button', { name: /^Import$|question/ }).textContent()) === 'Import',
      'it could be imported',
    );
    await dialog.getByText('4 of the first rows cannot be read').click();
    await dialog.getByText('row 3, Depth (m): "deep" is not a number').waitFor();
    await dialog.getByRole('button', { name: 'Import', exact: true }).click();
    const report = page.getByTestId('import-report');
    await report.waitFor();
    await report.getByText('4 left out').click();
    for (const line of ['line 4, Depth (m): lies 4.0 m above the surface', 'line 5, Lat: "x" is no latitude'])
      await report.getByText(line).waitFor();
    await page.getByRole('button', { name: 'Done' }).click();
    expect(await soundingsOf(id)).to.have.length(2);

    // What holds neither is said, and changes nothing.
    writeFileSync(join(files, 'shopping.csv'), 'item,price\nbread,3\nbutter,2\n');
    await page.getByRole('button', { name: 'Import', exact: true }).click();
    await page.locator('input[type=file]').setInputFiles(join(files, 'shopping.csv'));
    await dialog.getByRole('button', { name: 'Import', exact: true }).click();
    await dialog.getByText('The column names do not say what they hold, so this part is skipped').waitFor();
    expect(await dialog.getByRole('button', { name: 'Import', exact: true }).isDisabled()).to.equal(true);
    await dialog.getByRole('button', { name: 'Close' }).click();
  });

  it('makes trips, stops and rates by rod-hour of last year’s spreadsheet', async () => {
    const places = ['North Bay', 'The Point', 'Old Pier', 'Reeds'];
    const rows = Array.from({ length: 140 }, (_, k) => {
      const day = new Date(Date.UTC(2025, 3, 5 + Math.floor(k / 4) * 5));
      const date = `${String(day.getUTCDate()).padStart(2, '0')}.${String(day.getUTCMonth() + 1).padStart(2, '0')}.${day.getUTCFullYear()}`;
      const blank = k % 7 === 3;
      return [date, places[k % 4], blank ? 'nothing' : k % 5 ? 'perch' : 'pike', blank ? 0 : 1 + (k % 3), blank ? '' : 24 + (k % 30), 2 + (k % 6), (8 + (k % 12)).toFixed(1), k % 2 ? 'jig' : 'spoon', 1.5, k % 9 ? '' : 'windy']; // prettier-ignore
    });
    writeFileSync(join(files, 'log 2025.csv'), ['Date;Place;Species;Number;Length (cm);Depth (m);Water temp;Lure;Hours;Notes', ...rows.map((r) => r.join(';'))].join('\n')); // prettier-ignore
    const id = await openWater('Last year');
    await ask(server, `/waters/${id}`, 'PUT', {
      name: 'Last year',
      outline: { type: 'Polygon', coordinates: [[[13.095, 52.398], [13.107, 52.398], [13.107, 52.403], [13.095, 52.403], [13.095, 52.398]]] }, // prettier-ignore
    });
    await page.reload();
    await page.getByRole('application', { name: 'Map of Last year' }).waitFor();
    await page.getByRole('button', { name: 'Import', exact: true }).click();
    await page.locator('input[type=file]').setInputFiles(join(files, 'log 2025.csv'));
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('button', { name: 'Import', exact: true }).click();
    await dialog.getByLabel('Time zone of the file').selectOption('Europe/Berlin');
    await dialog.getByRole('radio', { name: 'that spot' }).click();
    await dialog.getByText('140 rows').waitFor();
    // Two of the four places are put on the map: one by a tap, one typed.
    const map = dialog.getByRole('application', { name: /Tap where/ });
    await dialog.getByRole('button', { name: /^North Bay/ }).click();
    const box = (await map.boundingBox())!;
    await page.mouse.click(box.x + box.width * 0.5, box.y + box.height * 0.4);
    await dialog.getByRole('button', { name: /^The Point/ }).click();
    await dialog.getByLabel('Position of the place').fill('52.4010, 13.1000');
    await dialog.getByRole('button', { name: 'Set', exact: true }).click();
    await until(
      async () => (await dialog.getByRole('button', { name: /^Import$|question/ }).textContent()) === 'Import',
      'nothing was open any more',
    );
    await page.waitForTimeout(600);
    await dialog.getByRole('button', { name: 'Import', exact: true }).click();
    await page.getByText('Places without a position: Old Pier, Reeds').waitFor();
    await page.getByRole('button', { name: 'Done' }).click();

    const { trips } = await ask<{ trips: { start: string; end: string }[] }>(server, `/waters/${id}/log`);
    expect(trips).to.have.length(35);
    const logbook = async () => unpackLogbook(new Uint8Array(await (await fetch(`${server.url}/api/waters/${id}/logbook`)).arrayBuffer()));
    const book = await logbook();
    const fish = rows.reduce((sum, r) => sum + Number(r[3]), 0);
    expect(book.responses).to.have.length(fish);
    expect(book.stops).to.have.length(70);
    expect(book.stops.filter((s) => s.outcome === 'nothing').length).to.equal(rows.filter((r) => r[3] === 0 && ['North Bay', 'The Point'].includes(String(r[1]))).length); // prettier-ignore
    for (const s of book.stops) expect(Date.parse(s.end) - Date.parse(s.start)).to.equal(5_400_000);

    // Importing it again adds nothing.
    await page.getByRole('button', { name: 'Import', exact: true }).click();
    await page.locator('input[type=file]').setInputFiles(join(files, 'log 2025.csv'));
    await dialog.getByRole('button', { name: 'Import', exact: true }).click();
    await dialog.getByText('140 rows').waitFor();
    await dialog.getByRole('button', { name: 'Import', exact: true }).click();
    await page.getByTestId('import-report').waitFor();
    await page.getByRole('button', { name: 'Done' }).click();
    expect((await logbook()).responses).to.have.length(fish);

    // Rates by rod-hour, with trips as units.
    await page.getByRole('link', { name: 'Patterns' }).click();
    const rates = page.getByTestId('rod-hours');
    await rates.waitFor();
    // Four places a day, an hour and a half each: 35 trips of six hours.
    expect(await rates.textContent()).to.match(/210 rod-hours.*35 trips/);
    expect(await rates.textContent()).to.include(`${fish} fish`);
  });
});
