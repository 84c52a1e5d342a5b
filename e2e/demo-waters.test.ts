import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { unpackChart } from '@restless-shoal/core/chart';
import { metricPlane } from '@restless-shoal/core/geo';
import { makeLogbook, REACH, SOUND, type DemoOptions } from '@restless-shoal/demo';
import { closeBrowser, openPage, ownErrors } from './browser';
import { ask, command, serve, temporaryFolder, type RunningServer } from './harness';

// Nothing of a lake is said of a water that is none: through all views of a sound and of a reach, and of a lake, where it is said.

const MADE: Record<'lake' | 'sound' | 'river', DemoOptions & { species: string }> = {
  lake: { seed: 8, trips: 6, species: 'zander' },
  sound: { seed: 21, trips: 6, scenario: SOUND, species: 'pollack' },
  river: { seed: 5, trips: 6, scenario: REACH, species: 'barbel' },
};

/** What is of lakes: layers and their end, and the rule of light. */
const OF_LAKES =
  /stratif|turnover|thermocline|lake number|\blakes?\b|reservoir|mixed down|stability|oxygen (holds|at|inside)|light limit|clearer than this/i;

/** All that a page says to eye and ear, choices of species and waters apart: they name all there are. */
const said = (page: Page): Promise<string[]> =>
  page.evaluate(() =>
    [...document.body.querySelectorAll('*')]
      .filter((n) => !n.closest('select'))
      .flatMap((n) => [
        ...['aria-label', 'title', 'placeholder'].map((a) => n.getAttribute(a) ?? ''),
        ...[...n.childNodes].filter((t) => t.nodeType === 3).map((t) => t.textContent ?? ''),
      ])
      .map((t) => t.trim())
      .filter(Boolean),
  );

describe('every view of the demo waters', () => {
  let served: RunningServer;
  const data = temporaryFolder();
  const names: Record<string, string> = {};
  before(async function () {
    this.timeout(400_000);
    for (const [which, { species: _, ...options }] of Object.entries(MADE)) {
      const { folder, world } = makeLogbook(options);
      names[which] = world.name;
      const to = join(data.path, `made-${which}`);
      mkdirSync(to, { recursive: true });
      for (const [name, text] of folder) writeFileSync(join(to, name), text);
      const { code, text } = await command('import', '--data', data.path, '--water', world.name, '--create', to);
      expect(code, text).to.equal(0);
    }
    served = await serve(data.path);
  });
  after(async () => {
    await closeBrowser();
    await served.stop();
    data.remove();
  });

  /** Goes through all views of a water. @returns by view, what of it is of lakes */
  async function ofLakes(which: keyof typeof MADE): Promise<Record<string, string[]>> {
    const at = (view: string): string => `${served.url}/${view}?water=${encodeURIComponent(names[which])}`;
    const { page, context, errors } = await openPage(at('brief'), { fresh: true });
    await page.evaluate((species) => localStorage.setItem('species', species), MADE[which].species);
    const found: Record<string, string[]> = {};
    const look = async (view: string): Promise<void> => {
      const told = (await said(page)).filter((t) => OF_LAKES.test(t));
      if (told.length) found[view] = told;
    };
    const show = async (view: string, ready: string): Promise<void> => {
      await page.goto(at(view));
      await page.getByText(names[which]).first().waitFor({ state: 'attached' });
      await page.locator(ready).first().waitFor();
    };
    await show('brief', '[data-testid=headline]');
    await look('brief');
    await page.getByRole('button', { name: /^What .* need/ }).click();
    await page.getByRole('dialog').waitFor();
    await look('what they need');
    await show('chart', 'canvas');
    await page.getByRole('button', { name: 'Shapes' }).click();
    await page.getByTestId('shapes-count').waitFor();
    await look('chart');
    await show('forecast', 'text=Best places');
    await page.getByText(/chance per scan/).waitFor();
    await look('forecast');
    await page.getByRole('button', { name: 'Set the strategies' }).click();
    await page.getByRole('dialog').waitFor();
    await look('strategies');
    await show('forecast', 'text=Best places');
    await page.getByText('What if…').first().click();
    await page.getByRole('dialog').waitFor();
    await look('what if');
    await show('plan', 'canvas');
    await look('plan');
    await show('deck', 'text=Which fish are you after?');
    await look('deck');
    await show('patterns', '[data-testid=headline]');
    await look('patterns');
    // What the choices of a chart offer is asked too.
    const offered = await page.getByRole('option').allTextContents();
    const own = offered.filter((t) => OF_LAKES.test(t) && t !== 'lake trout' && !Object.values(names).includes(t));
    if (own.length) found['patterns, offered'] = own;
    for (const tab of ['Rod-hours', 'Bait and mood', 'Debates', 'Years', 'Similar spots']) {
      await page
        .getByRole('link', { name: tab, exact: true })
        .or(page.getByRole('tab', { name: tab, exact: true }))
        .first()
        .click();
      await page.waitForTimeout(1200);
      await look(`patterns, ${tab}`);
    }
    await show('bench', 'canvas, svg');
    await look('bench');
    await show('logbook', '[data-testid=trips]');
    await look('logbook');
    const water = (await ask<{ id: string; name: string }[]>(served, '/waters')).find((w) => w.name === names[which])!;
    const { trips } = await ask<{ trips: { id: string }[] }>(served, `/waters/${water.id}/log`);
    await show(`logbook/${trips[0].id}`, '[data-testid=day]');
    await look('a trip');
    expect(ownErrors(errors)).to.deep.equal([]);
    await context.close();
    return found;
  }

  it('says nothing of a lake on the sound', async () => {
    expect(await ofLakes('sound')).to.deep.equal({});
  });
  it('says of ground that falls dry when it is covered, and of the shallows beside it when they are bared', async () => {
    const { id } = (await ask<{ id: string; name: string }[]>(served, '/waters')).find((w) => w.name === names.sound)!;
    const bytes = new Uint8Array(await (await fetch(`${served.url}/api/waters/${id}/chart`)).arrayBuffer());
    const { depth, epsg, highest } = unpackChart(bytes);
    expect(highest).to.be.within(3, 4);
    const { page, context, errors } = await openPage(`${served.url}/chart?water=${encodeURIComponent(names.sound)}`);
    await page.getByLabel('Look at a position').waitFor();
    const told = async (height: number): Promise<string> => {
      const { latitude, longitude } = metricPlane(epsg).toLatLon(depth.centre(depth.data.findIndex((d) => Math.abs(d + height) < 0.1)));
      await page.getByLabel('Look at a position').fill(`${latitude}, ${longitude}`);
      await page.getByRole('button', { name: 'Look there' }).click();
      await page.getByText(`${longitude.toFixed(5)}`).waitFor();
      return page.getByTestId('under-finger').innerText();
    };
    expect(await told(3.3)).to.match(/Dry\s+[\d.]+ m above the water, 3\.\d m above the datum/);
    // Whatever the tide of the log's last moment is, this height is passed by it within the day.
    expect(await told(0.9)).to.match(/(covered from|falls dry at) about \d\d:\d\d/);
    expect(ownErrors(errors)).to.deep.equal([]);
    await context.close();
  });
  it('says nothing of a lake on the river', async () => {
    expect(await ofLakes('river')).to.deep.equal({});
  });
  it('says it of the lake', async () => {
    const lake = await ofLakes('lake');
    expect(Object.keys(lake)).to.include.members(['brief', 'what they need', 'what if', 'patterns, offered']);
  });
});
