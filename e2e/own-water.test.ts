import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { destination, metricPlane, ringsArea, outlineToRings, utmEpsg, type OutlineGeometry } from '@restless-shoal/core/geo';
import { DESK, PHONE, closeBrowser, dialogGone, openPage, until } from './browser';
import { ask, serve, temporaryFolder, type RunningServer } from './harness';

const data = temporaryFolder();
const HERE = { latitude: 52.4012, longitude: 13.1007 };
let server: RunningServer;

before(async () => {
  server = await serve(data.path);
});
after(async () => {
  await closeBrowser();
  await server.stop();
  data.remove();
});

interface Water {
  id: string;
  name: string;
  kind: string;
  outline: OutlineGeometry | null;
  deepest_m: number | null;
  time_zone: string;
}
const waters = (): Promise<Water[]> => ask(server, '/waters');
const waterNamed = async (name: string): Promise<Water> => (await waters()).find((w) => w.name === name)!;
const press = (page: Page, name: string | RegExp): Promise<void> => page.getByRole('button', { name }).first().click();
const areaOf = ({ outline }: Water): number => {
  const plane = metricPlane(utmEpsg(HERE));
  return ringsArea(outlineToRings(outline!, (longitude, latitude) => plane.toMetric({ latitude, longitude })));
};

describe('a water from nothing', () => {
  it('on a phone: drawn, a trip with three marks, and a Brief for the day, without a file', async () => {
    const began = Date.now();
    const { page, context, errors } = await openPage(server.url, { size: PHONE, at: HERE, fresh: true });
    await press(page, /^Start a water/);
    await page.getByLabel('Name').fill('Alder Mere');
    await press(page, 'I am there');
    await page.getByRole('textbox', { name: 'Where it lies' }).and(page.locator('[value^="52.40120"]')).waitFor();
    await page.getByLabel(/^Deepest water/).fill('9');
    await press(page, /^Draw the outline/);
    const map = page.getByRole('application', { name: 'Map of Alder Mere' });
    await map.waitFor();
    await page.getByText('200 m').waitFor();
    const box = (await map.boundingBox())!;
    for (const [x, y] of [
      [0.3, 0.46],
      [0.7, 0.46],
      [0.75, 0.72],
      [0.5, 0.88],
      [0.25, 0.75],
    ]) {
      await page.mouse.click(box.x + box.width * x, box.y + box.height * y);
      // Two taps in a row would be one double tap, which ends the drawing.
      await page.waitForTimeout(350);
    }
    await press(page, 'Close it');
    await press(page, 'Save outline');
    await until(async () => (await waterNamed('Alder Mere')).outline !== null, 'the outline was saved');
    expect(areaOf(await waterNamed('Alder Mere'))).to.be.within(5e4, 1e6);

    // The fish is asked for at the first start, and remembered.
    await page.getByRole('link', { name: 'Deck' }).click();
    await press(page, 'Start the trip');
    expect(await page.getByRole('button', { name: 'Start the trip' }).isVisible(), 'no trip before a fish was chosen').to.equal(true);
    await page.getByLabel('Which fish are you after?').selectOption('pike');
    await press(page, 'Start the trip');
    const mark = page.getByRole('button', { name: /^Mark 1 fish below/ });
    await page.getByText('52.40120').waitFor();
    for (let k = 0; k < 3; k++) {
      const at = destination(HERE, 90, 15 * k);
      await context.setGeolocation(at);
      await page.getByText(`${at.latitude.toFixed(5)}, ${at.longitude.toFixed(5)}`).waitFor();
      await mark.click();
      await until(async () => (await page.getByTestId('day').locator('li').count()) === k + 1, 'the mark stood in the day');
    }
    await page.getByRole('link', { name: 'Brief' }).click();
    expect(await page.getByTestId('headline').textContent()).to.match(/^Pike .*m\.$/);
    await page.getByText('Depth first').waitFor();
    await page.getByText('No depths yet').waitFor();
    expect(Date.now() - began).to.be.below(180_000);

    const { id, deepest_m: deepest, kind } = await waterNamed('Alder Mere');
    expect({ deepest, kind }).to.deep.equal({ deepest: 9, kind: 'lake' });
    await until(async () => (await ask<unknown[]>(server, `/waters/${id}/contacts`)).length === 3, 'three marks were on the server');
    const contacts = await ask<{ species: string; top_m: number; bottom_m: number }[]>(server, `/waters/${id}/contacts`);
    for (const c of contacts) {
      expect(c.species).to.equal('pike');
      expect(c.bottom_m).to.be.at.most(9);
    }
    // Looks are derived with an outline alone.
    const looks = await ask<{ looks: unknown[] }[]>(server, `/waters/${id}/looks`);
    expect(looks.flatMap((t) => t.looks).length).to.be.above(0);
    // The other views say what would make them better.
    for (const view of ['Chart', 'Forecast', 'Patterns']) {
      await page.getByRole('link', { name: view }).click();
      await page
        .getByText(/Import|import soundings/)
        .first()
        .waitFor();
    }
    expect(errors).to.deep.equal([]);
    await context.close();
  });

  it('by driving round it: the track becomes the shore', async () => {
    const centre = { latitude: 52.5, longitude: 13.3 };
    const onShore = (k: number) => destination(centre, (360 * k) / 40, 160 + 30 * Math.sin((4 * Math.PI * k) / 40));
    const { page, context } = await openPage(`${server.url}/waters`, { size: PHONE, at: onShore(0), fresh: true });
    await press(page, 'Start a water');
    await page.getByLabel('Name').fill('Round Pond');
    await press(page, 'I am there');
    await page.locator('[value^="52.5"]').waitFor();
    await press(page, /^Drive round it/);
    await press(page, 'Start driving');
    for (let k = 0; k <= 40; k++) {
      await context.setGeolocation(onShore(k));
      await page.waitForTimeout(300);
    }
    await press(page, 'Make this track the shore');
    await until(async () => (await waterNamed('Round Pond')).outline !== null, 'the shore was saved');
    expect(areaOf(await waterNamed('Round Pond')) / (Math.PI * 160 ** 2)).to.be.within(0.9, 1.15);
    await context.close();
  });

  it('with nothing but a name: a trip is logged, and the Brief works', async () => {
    const { page, context, errors } = await openPage(`${server.url}/waters`, {
      size: PHONE,
      at: { latitude: 51, longitude: 12 },
      fresh: true,
    });
    await press(page, 'Start a water');
    await page.getByLabel('Name').fill('Bare Water');
    await press(page, /^Start a trip here/);
    await page.getByLabel('Which fish are you after?').selectOption('not sure');
    await press(page, 'Start the trip');
    await page.getByText('51.00000').waitFor();
    await press(page, /^Mark 1 fish below/);
    await page.getByTestId('done').waitFor();
    const { id } = await waterNamed('Bare Water');
    await until(async () => (await ask<unknown[]>(server, `/waters/${id}/contacts`)).length === 1, 'the mark was on the server');
    expect((await ask<{ species: string | null }[]>(server, `/waters/${id}/contacts`))[0].species).to.equal(null);
    await page.getByRole('link', { name: 'Brief' }).click();
    await page.getByTestId('headline').waitFor();
    await page.getByText('An outline would help most').waitFor();
    expect(errors).to.deep.equal([]);
    await context.close();
  });
});

describe('several waters', () => {
  it('say that a trip runs elsewhere, keep to the one that a link names, and say when there is none such', async () => {
    const { page, context } = await openPage(`${server.url}/brief?water=Alder+Mere`, { size: DESK, fresh: true });
    await page.getByTestId('headline').waitFor();
    expect(await page.title()).to.equal('Brief · Alder Mere · Restless Shoal');
    await page.reload();
    await page.getByTestId('headline').waitFor();
    expect(await page.title()).to.contain('Alder Mere');
    // Trips run on the others, too.
    await page.getByText(/A trip is running on/).waitFor();
    await page.getByLabel('Water', { exact: true }).selectOption('Round Pond');
    await until(async () => (await page.title()).includes('Round Pond'), 'the other water was shown');
    await page.reload();
    await until(async () => (await page.title()).includes('Round Pond'), 'a reload came back to it');
    await page.goto(`${server.url}/brief?water=No+Such+Lake`);
    await page.getByText('There is no water called “No Such Lake” here').waitFor();
    await context.close();
  });

  it('are renamed, put aside, deleted with a way back', async () => {
    const { page, context } = await openPage(`${server.url}/waters`, { size: PHONE, fresh: true });
    await press(page, 'Settings of Bare Water');
    const sheet = page.getByRole('dialog');
    await sheet.getByRole('textbox', { name: 'Name' }).fill('Alder Mere');
    await sheet.getByRole('button', { name: 'Save' }).click();
    await sheet.getByText('Another water is called “Alder Mere”').waitFor();
    await sheet.getByRole('textbox', { name: 'Name' }).fill('Reed Water');
    await sheet.getByLabel('Time zone').selectOption('America/Chicago');
    await sheet.getByRole('button', { name: 'Save' }).click();
    await page.getByRole('list', { name: 'Waters' }).getByText('Reed Water').waitFor();
    expect((await waterNamed('Reed Water')).time_zone).to.equal('America/Chicago');

    await press(page, 'Settings of Reed Water');
    await page.getByRole('button', { name: /^Archive/ }).click();
    await page.getByText('Archived: 1').waitFor();
    await page.getByText('Archived: 1').click();
    await press(page, 'Settings of Reed Water');
    await page.getByRole('button', { name: /^Take it out of the archive/ }).click();
    await page.getByText('Archived: 1').waitFor({ state: 'detached' });

    await press(page, 'Settings of Reed Water');
    await page.getByRole('button', { name: /^Delete water/ }).click();
    await page.getByText('Reed Water goes, with 1 trip, 1 mark and its chart').waitFor();
    await page.getByRole('button', { name: 'Delete water', exact: true }).click();
    await until(async () => (await waters()).length === 2, 'the water was deleted');
    await press(page, /^Trash/);
    await page.getByText('90 days left').waitFor();
    await page.getByRole('button', { name: 'Bring back Reed Water' }).click();
    await until(async () => (await waters()).length === 3, 'the water was back');
    await context.close();
  });

  it('close a dialog with Back before the view is left, and keep what-if in the address', async () => {
    const { page, context } = await openPage(`${server.url}/brief?water=Alder+Mere`, { size: DESK, fresh: true });
    await page.getByTestId('headline').waitFor();
    await page.getByRole('link', { name: 'Deck' }).click();
    await page.getByRole('link', { name: 'Brief' }).click();
    await page.getByTestId('headline').waitFor();
    await page.getByText('What if…').click();
    await page.getByLabel('Surface', { exact: true }).fill('21');
    await until(async () => page.url().includes('if-surface=21'), 'the address said it');
    await page.goBack();
    await dialogGone(page);
    expect(new URL(page.url()).pathname).to.equal('/brief');
    expect(await page.getByRole('button', { name: /Back to the log/ }).isVisible()).to.equal(true);
    await until(async () => page.url().includes('if-surface=21'), 'the address says it there, too');
    await page.reload();
    await page.getByTestId('headline').waitFor();
    expect(await page.getByRole('banner', { name: 'Conditions' }).innerText()).to.contain('21.0');
    await context.close();
  });

  it('show on a second device within five seconds what the first one marked, and that its trip ended', async () => {
    const first = await openPage(`${server.url}/deck?water=Alder+Mere`, { size: PHONE, at: HERE, fresh: true });
    const second = await openPage(`${server.url}/deck?water=Alder+Mere`, { size: DESK, at: HERE, fresh: true });
    const count = (page: Page): Promise<number> => page.getByTestId('day').locator('li').count();
    await until(async () => (await count(first.page)) === 3 && (await count(second.page)) === 3, 'both showed the day');
    await first.page.getByText('52.40120').waitFor();
    await press(first.page, 'Nothing here');
    const marked = Date.now();
    await until(async () => (await count(second.page)) === 4, 'the other device showed it');
    expect(Date.now() - marked).to.be.below(5500);
    await press(first.page, 'End trip');
    await first.page.getByRole('dialog').getByRole('button', { name: 'End the trip' }).click();
    const ended = Date.now();
    await second.page.getByRole('button', { name: 'Start the trip' }).waitFor();
    expect(Date.now() - ended).to.be.below(5500);
    await first.context.close();
    await second.context.close();
  });
});
