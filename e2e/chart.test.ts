import { expect } from 'chai';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fromArrayBuffer } from 'geotiff';
import type { Page } from 'playwright-core';
import { closeBrowser, openPage, until } from './browser';
import { serve, temporaryFolder, writeLogbook, type RunningServer } from './harness';

const data = temporaryFolder();
const files = temporaryFolder();
const folder = join(files.path, 'logbook');
let server: RunningServer;
let name: string;

before(async () => {
  name = writeLogbook(folder, 3, 4);
  server = await serve(data.path);
});
after(async () => {
  await closeBrowser();
  if (server.process.exitCode === null && server.process.signalCode === null) await server.stop();
  data.remove();
  files.remove();
});

interface WaterOf {
  id: string;
  outline: { coordinates: number[][][][] };
  cover: { kind: string; name: string | null; geometry: { type: string } }[];
}
const json = async <T>(path: string): Promise<T> => (await (await fetch(`${server.url}/api${path}`)).json()) as T;
const theWater = async (): Promise<WaterOf> => json<WaterOf>(`/waters/${(await json<{ id: string }[]>('/waters'))[0].id}`);
const number = async (page: Page, testId: string): Promise<number> =>
  Number(/([\d\u202f]+)/.exec((await page.getByTestId(testId).textContent())!)![1].replaceAll('\u202f', ''));

/** The Chart with its map drawn, and where the middle of the map is on the page. */
async function openChart(): Promise<Awaited<ReturnType<typeof openPage>> & { at: (dx: number, dy: number) => { x: number; y: number } }> {
  const opened = await openPage(`${server.url}/chart`);
  const map = opened.page.getByRole('application', { name: /^Chart of/ });
  await map.waitFor();
  await opened.page.waitForTimeout(600);
  const box = (await map.boundingBox())!;
  return { ...opened, at: (dx, dy) => ({ x: box.x + box.width / 2 + 150 + dx, y: box.y + box.height / 2 + dy }) };
}

describe('files brought in by page', () => {
  it('make a water: named, sent, watched while they are read and built, and told of file by file', async () => {
    const { page, context, errors } = await openPage(`${server.url}/`);
    await page.getByRole('button', { name: /^Import what you have/ }).click();
    await page.getByLabel('Name of the water').fill(name);
    const of = (file: string): string => join(folder, file);
    await page
      .locator('input[type=file]')
      .setInputFiles(['soundings.csv', 'outline.geojson', 'water.json', 'trips.csv', 'track.csv'].map(of));
    await page.getByRole('button', { name: 'Import', exact: true }).click();
    const seen = new Set<string>();
    const report = page.getByTestId('import-report');
    await until(async () => {
      if (await report.isVisible()) return true;
      const words = await page
        .getByTestId('progress')
        .textContent({ timeout: 200 })
        .catch(() => null);
      if (words) seen.add(words.replace(/[\d.]+\s*%.*/, '').trim());
      return false;
    }, 'the report was there');
    expect([...seen].length, [...seen].join(' | ')).to.be.at.least(2);
    expect(await report.textContent())
      .to.match(/soundings\.csv[\d\u202f]+ read, [\d\u202f]+ added, 0 known already/)
      .and.to.match(/Chart built from [\d\u202f]+ soundings/);
    await page.getByRole('button', { name: 'Done' }).click();
    await page.getByRole('link', { name: 'Chart', exact: true }).click();
    await page.getByRole('application', { name: `Chart of ${name}` }).waitFor();
    expect(errors).to.deep.equal([]);
    await context.close();
  });
  it('that cannot be read are refused by name, and the sheet stays open to try again', async () => {
    const { page, context } = await openChart();
    await page.getByRole('button', { name: 'Soundings', exact: true }).click();
    await page.getByRole('button', { name: 'Import files' }).click();
    await page
      .locator('input[type=file]')
      .setInputFiles({ name: 'cut.gpx', mimeType: 'text/xml', buffer: Buffer.from('<gpx><trk><trkseg><trkpt lat="4') });
    await page.getByRole('button', { name: 'Import', exact: true }).click();
    await page.getByRole('alert').waitFor();
    expect(await page.getByRole('alert').textContent()).to.include('cut.gpx: line 1');
    expect(await page.getByRole('button', { name: 'Import', exact: true }).isEnabled()).to.equal(true);
    await context.close();
  });
});

describe('shapes', () => {
  it('are filtered by kind and by depth, and reached with a press', async () => {
    const { page, context } = await openChart();
    await page.getByRole('button', { name: 'Shapes', exact: true }).click();
    const kinds = page.getByRole('group', { name: 'Kinds of shape' }).getByRole('button');
    for (const kind of await kinds.all()) if ((await kind.getAttribute('aria-pressed')) === 'true') await kind.click();
    const all = await number(page, 'shapes-count');
    const humps = page.getByRole('button', { name: /^hump \d/ });
    const n = Number(/\d+/.exec((await humps.textContent())!)![0]);
    await humps.click();
    expect(await number(page, 'shapes-count'))
      .to.equal(n)
      .and.to.be.below(all);
    const list = page.getByRole('list', { name: 'Shapes' }).getByRole('button');
    expect(await list.count()).to.equal(n);
    const deep = page.getByRole('slider', { name: /Deep edge/ });
    await deep.focus();
    while (Number(await deep.inputValue()) > 5) await page.keyboard.press('ArrowLeft');
    expect(await number(page, 'shapes-count')).to.be.below(n);
    const shown = await list.first().textContent();
    await list.first().click();
    const chosen = (await page.getByTestId('chosen-shape').textContent())!;
    expect(chosen)
      .to.match(/^Hump/)
      .and.to.include(/top at [\d.]+ m/.exec(shown!)![0]);
    expect(await page.getByTestId('under-finger').textContent()).to.match(/\d+\.\d m± \d/);
    await context.close();
  });
});

describe('measuring and drawing', () => {
  it('tells the distance and bearing of a line and the size of an area', async () => {
    const { page, context, at } = await openChart();
    await page.getByRole('button', { name: 'Measure', exact: true }).click();
    const press = async (dx: number, dy: number): Promise<void> => {
      await page.mouse.click(at(dx, dy).x, at(dx, dy).y);
      // Two presses within a moment are a double press.
      await page.waitForTimeout(350);
    };
    await press(0, 0);
    await press(100, 0);
    await page.mouse.dblclick(at(200, 0).x, at(200, 0).y);
    const line = (await page.getByTestId('measured').textContent())!;
    const metres = Number(/([\d.]+) (k?m)/.exec(line)![1]) * (line.includes('km') ? 1000 : 1);
    // On the screen it is 200 px to the east; the scale bar tells how long that is.
    expect(line).to.match(/(8[5-9]|9[0-5])° true/);
    expect(metres).to.be.above(50);
    await page.getByRole('radio', { name: 'Area' }).click();
    await press(0, 0);
    await press(100, 0);
    await press(100, 100);
    await page.mouse.dblclick(at(0, 100).x, at(0, 100).y);
    const hectares = Number(/([\d.]+) ha/.exec((await page.getByTestId('measured').textContent())!)![1]);
    expect(hectares).to.be.closeTo((metres / 2) ** 2 / 10_000, 0.15 * hectares + 0.1);
    await context.close();
  });
  it('places a hazard that is there afterwards, and takes it away', async () => {
    const { page, context, at } = await openChart();
    await page.getByRole('button', { name: 'Draw', exact: true }).click();
    await page.mouse.click(at(40, 10).x, at(40, 10).y);
    await page.getByLabel('Name', { exact: true }).fill('Sunken post');
    await page.getByRole('button', { name: 'Save hazard' }).click();
    const placed = page.getByRole('list', { name: 'Placed already' });
    await placed.getByText('Sunken post').waitFor();
    expect((await theWater()).cover.find((c) => c.name === 'Sunken post')).to.deep.include({ kind: 'hazard' });
    await page.getByRole('button', { name: 'Remove Sunken post' }).click();
    await placed.getByText('Sunken post').waitFor({ state: 'detached' });
    expect((await theWater()).cover.some((c) => c.name === 'Sunken post')).to.equal(false);
    await context.close();
  });
  it('measures and places by keyboard alone', async () => {
    const { page, context } = await openChart();
    const map = page.getByRole('application', { name: /^Chart of/ });
    const move = async (key: string, times: number): Promise<void> => {
      for (let k = 0; k < times; k++) {
        await page.keyboard.press(key);
        await page.waitForTimeout(200);
      }
    };
    await page.getByRole('button', { name: 'Measure', exact: true }).click();
    await map.focus();
    await page.keyboard.press('Enter');
    await move('ArrowRight', 1);
    await page.keyboard.press('Enter');
    // Twice in one place ends it.
    await page.keyboard.press('Enter');
    const line = (await page.getByTestId('measured').textContent())!;
    expect(line)
      .to.match(/^[\d.]+ k?m/)
      .and.to.match(/(8[5-9]|9[0-5])° true/);
    await move('ArrowRight', 1);
    expect(await page.getByTestId('measured').textContent()).to.equal(line);
    await page.getByRole('button', { name: 'Draw', exact: true }).click();
    await page.getByLabel('Name', { exact: true }).fill('Keyed rock');
    await map.focus();
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Save hazard' }).click();
    await page.getByRole('list', { name: 'Placed already' }).getByText('Keyed rock').waitFor();
    expect((await theWater()).cover.find((c) => c.name === 'Keyed rock')!.geometry.type).to.equal('Point');
    await page.getByRole('button', { name: 'Remove Keyed rock' }).click();
    await context.close();
  });
  it('says of a build that came to nothing that it did, and builds again when asked', async () => {
    const { page, context } = await openChart();
    const water = await theWater();
    const etag = async (): Promise<string | null> => (await fetch(`${server.url}/api/waters/${water.id}/chart`)).headers.get('etag');
    await until(async () => (await json<unknown[]>(`/waters/${water.id}/jobs`)).length === 0, 'earlier builds were done');
    const before = await etag();
    // A build that waits its turn behind another can be stopped in time.
    await fetch(`${server.url}/api/waters/${water.id}/chart`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{}',
    });
    await page.getByRole('button', { name: 'Soundings', exact: true }).click();
    await page.getByLabel('Speed of sound set in the unit, m/s').fill('340');
    await page.getByRole('button', { name: 'Rebuild the chart' }).click();
    expect(await page.getByRole('alert').textContent()).to.include('must be from 1300 to 1700');
    await page.getByLabel('Speed of sound set in the unit, m/s').fill('1500');
    await page.getByLabel('Depth of the transducer below the surface, m').fill('0.3');
    const asked = page.waitForResponse((r) => r.url().endsWith('/cleaning'));
    await page.getByRole('button', { name: 'Rebuild the chart' }).click();
    await asked;
    for (const { id } of await json<{ id: string }[]>(`/waters/${water.id}/jobs`))
      await fetch(`${server.url}/api/jobs/${id}`, { method: 'DELETE', headers: { 'Content-Type': 'application/json' } });
    const note = page.getByRole('alert').filter({ hasText: 'New chart cancelled' });
    await note.waitFor();
    expect(await note.textContent()).to.include('The previous chart is still used');
    await note.getByRole('button', { name: 'Build the chart again' }).click();
    await until(async () => (await etag()) !== before && (await json<unknown[]>(`/waters/${water.id}/jobs`)).length === 0, 'it was built');
    await note.waitFor({ state: 'detached' });
    await context.close();
  });
  it('draws an outline anew, and the chart is built in it', async () => {
    const { page, context, at } = await openChart();
    const water = await theWater();
    const etag = async (): Promise<string | null> => (await fetch(`${server.url}/api/waters/${water.id}/chart`)).headers.get('etag');
    await until(async () => (await json<unknown[]>(`/waters/${water.id}/jobs`)).length === 0, 'earlier builds were done');
    const before = await etag();
    await page.getByRole('button', { name: 'Draw', exact: true }).click();
    await page.getByRole('combobox', { name: 'What' }).selectOption('Outline of the water');
    await page.getByRole('button', { name: 'Draw a new outline' }).click();
    for (const [dx, dy] of [
      [-150, -80],
      [150, -80],
      [150, 80],
    ]) {
      await page.mouse.click(at(dx, dy).x, at(dx, dy).y);
      await page.waitForTimeout(350);
    }
    await page.mouse.dblclick(at(-150, 80).x, at(-150, 80).y);
    await page.getByRole('button', { name: 'Save outline' }).click();
    await until(async () => (await etag()) !== before, 'the chart was built anew');
    const drawn = (await theWater()).outline.coordinates;
    expect(drawn).to.have.length(1);
    expect(drawn[0][0]).to.have.length(5);
    await context.close();
  });
});

describe('taken out', () => {
  it('the depth raster opens in a library', async () => {
    const { page, context } = await openChart();
    await page.getByRole('button', { name: 'Soundings', exact: true }).click();
    await page.getByText('Export').click();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Depth, GeoTIFF' }).click()]);
    const bytes = readFileSync(await download.path());
    const image = await (
      await fromArrayBuffer(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer)
    ).getImage();
    expect(image.getGeoKeys()!.ProjectedCSTypeGeoKey).to.equal(32625);
    const [values] = (await image.readRasters()) as unknown as Float32Array[];
    const depths = values.filter((v) => v !== -9999);
    expect(depths.length).to.be.above(500);
    expect(depths.every((v) => v >= 0 && v < 60)).to.equal(true);
    await context.close();
  });
});

describe("the trip's own chart", () => {
  it('grows on the device while the boat goes, and stands when the server is gone', async () => {
    const { page, context } = await openChart();
    await page.getByRole('link', { name: 'Deck' }).click();
    await page.getByRole('button', { name: 'Start the trip' }).click();
    await page.getByRole('button', { name: 'Set the position by hand' }).click();
    await page.getByRole('button', { name: 'Simulated boat' }).click();
    await page.getByRole('link', { name: 'Chart', exact: true }).click();
    await page.getByTestId('trip-chart').waitFor({ timeout: 20_000 });
    const first = await number(page, 'trip-chart');
    await until(async () => (await number(page, 'trip-chart')) > first + 15, 'the trip’s own chart had grown');
    await server.stop();
    const then = await number(page, 'trip-chart');
    await page.getByRole('link', { name: 'Deck' }).click();
    await page.getByRole('link', { name: 'Chart', exact: true }).click();
    expect(await number(page, 'trip-chart')).to.be.at.least(then);
    await context.close();
  });
});
