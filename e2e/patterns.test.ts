import { readFile } from 'node:fs/promises';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { csvRows, emptyReport, readGpx, type Waypoint } from '@restless-shoal/core/formats';
import { violations } from './access';
import { openPage, PHONE, until } from './browser';
import { loggedWater } from './logged-water';

const water = loggedWater(5, 14);

const json = async <T>(path: string): Promise<T> => (await fetch(`${water().url}/api${path}`)).json() as Promise<T>;
const theWater = async (): Promise<{ id: string }> => (await json<{ id: string }[]>('/waters'))[0];

/** The counts over all charts: contacts, looks, trips, hectares. */
async function basis(page: Page): Promise<number[]> {
  const texts = await page.getByTestId('basis').locator('b').allTextContents();
  return texts.map((t) => Number(t.replace(/[^\d.]/g, '')));
}

/** Waits until the view has answered and searches no more. */
async function answered(page: Page): Promise<void> {
  await page.getByTestId('basis').locator('b').first().waitFor();
  await page.getByRole('status').waitFor({ state: 'detached' });
}

async function saved(page: Page, button: string): Promise<Buffer> {
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: button, exact: true }).click();
  return readFile(await (await waiting).path());
}

/** The rows of a chart's table, with its header. */
async function table(page: Page, name: string): Promise<string[][]> {
  const rows: string[][] = [];
  for await (const some of csvRows([await saved(page, `${name} as CSV`)])) rows.push(...some.map((r) => r.fields));
  return rows;
}
const column = (rows: string[][], name: string): number[] => rows.slice(1).map((r) => Number(r[rows[0].indexOf(name)]));
const sum = (list: number[]): number => list.reduce((a, b) => a + b, 0);

async function narrow(page: Page, how: (dialog: ReturnType<Page['getByRole']>) => Promise<void>): Promise<void> {
  await page.getByRole('button', { name: 'narrow' }).click();
  const dialog = page.getByRole('dialog', { name: 'Narrow the log' });
  await how(dialog);
  await dialog.getByRole('button', { name: 'Ask', exact: true }).click();
}

describe('Patterns', () => {
  it('shows the same numbers in its heading and its tables, and all of them fall when the log is narrowed', async () => {
    const { page, context, errors } = await openPage(`${water().url}/patterns`);
    await answered(page);
    const measure = async (): Promise<Record<string, number>> => {
      const [contacts, looks, trips, hectares] = await basis(page);
      const where = await table(page, 'Selection by depth of the bottom');
      const heat = await table(page, 'Two against each other');
      const windows = await table(page, 'Depth windows');
      expect(sum(column(where, 'looks'))).to.equal(looks);
      expect(sum(column(heat, 'looks'))).to.equal(looks);
      return {
        contacts,
        looks,
        trips,
        hectares,
        seen: sum(column(where, 'seen')),
        'in the heat map': sum(column(heat, 'contacts')),
        'in the windows': sum(column(windows, 'contacts')),
      };
    };
    const all = await measure();
    // Seen in scans; some more only at stops.
    expect(all.seen)
      .to.be.within(0.8 * all.contacts, 1.3 * all.contacts)
      .and.to.equal(all['in the heat map']);
    await narrow(page, async (dialog) => {
      await dialog.getByLabel('Surface temperature from, °C').fill('14');
      await dialog.getByRole('combobox', { name: 'Minimum odds of the species' }).selectOption('0.7');
    });
    await page.getByRole('button', { name: 'Without: odds over 0.7' }).waitFor();
    await until(async () => (await basis(page))[0] < all.contacts, 'the contacts fell');
    await answered(page);
    await until(async () => sum(column(await table(page, 'Selection by depth of the bottom'), 'seen')) < all.seen, 'the chart fell');
    const fewer = await measure();
    for (const [what, n] of Object.entries(all)) expect(fewer[what], what).to.be.below(n);
    await page.getByRole('button', { name: 'Without: surface 14–45 °C' }).click();
    await page.getByRole('button', { name: 'Without: odds over 0.7' }).click();
    await until(async () => (await basis(page))[0] === all.contacts, 'all came back');
    // A PNG is one.
    expect((await saved(page, 'Selection by depth of the bottom as PNG')).subarray(1, 4).toString()).to.equal('PNG');
    expect(errors).to.deep.equal([]);
    await context.close();
  });

  it('says what is wrong with a filter, and changes nothing', async () => {
    const { page, context } = await openPage(`${water().url}/patterns`);
    await answered(page);
    const before = await basis(page);
    await narrow(page, async (dialog) => {
      await dialog.getByLabel('Clarity from, m').fill('4');
      await dialog.getByLabel('Clarity to, m').fill('2');
    });
    expect(await page.getByRole('alert').textContent()).to.include('Clarity: from 4 to 2 is the wrong way round');
    await page.getByLabel('Clarity from, m').fill('deep');
    await page.getByRole('button', { name: 'Ask', exact: true }).click();
    expect(await page.getByRole('alert').textContent()).to.include('Clarity: numbers from 0 to 60');
    await page.keyboard.press('Escape');
    expect(await basis(page)).to.deep.equal(before);
    await context.close();
  });

  it('shows the contacts behind a bar, as Columns and on the map', async () => {
    const { page, context } = await openPage(`${water().url}/patterns`);
    await answered(page);
    const rows = await table(page, 'Selection by depth of the bottom');
    const seen = column(rows, 'seen');
    const most = seen.indexOf(Math.max(...seen));
    // The bar of the class with most contacts: the charts' bars are paths, one a class, in order.
    const box = (await page.getByTestId('where').boundingBox())!;
    const [left, right] = [box.x + 44, box.x + box.width - 14];
    const x = left + ((most + 0.5) * (right - left)) / seen.length;
    await page.mouse.click(x, box.y + box.height - 50 - 56);
    const panel = page.getByTestId('picked');
    await panel.waitFor();
    await until(async () => /\d/.test((await page.getByTestId('picked-count').textContent()) ?? ''), 'they were looked up');
    // Each target once, although a later visit may have seen it again.
    const targets = parseInt((await page.getByTestId('picked-count').textContent())!);
    expect(targets).to.be.within(0.8 * seen[most], seen[most]);
    const columns = panel.getByRole('list', { name: 'Contacts as Columns' }).getByRole('button');
    expect(await columns.count()).to.equal(Math.min(120, targets));
    await columns.first().click();
    await panel.getByRole('button', { name: 'Find similar spots' }).click();
    await page.getByTestId('similar-spots').getByRole('listitem').first().waitFor();
    expect(new URL(page.url()).searchParams.get('of')).to.match(/^-?\d+\.\d{5},-?\d+\.\d{5}$/);
    await context.close();
  });

  it('finds spots similar to a good stop, and sends them to the plan, where the Deck leads to them, and out as GPX', async () => {
    const { page, context, errors } = await openPage(`${water().url}/patterns?page=similar`, { at: { latitude: 48, longitude: -34 } });
    await answered(page);
    const stops = page.getByRole('combobox', { name: 'Similar to a stop' });
    await until(async () => (await stops.getByRole('option').count()) > 2, 'there were stops');
    await stops.selectOption({ index: 2 });
    const rows = page.getByTestId('similar-spots').getByRole('listitem');
    await rows.first().waitFor();
    const n = await rows.count();
    expect(n).to.be.within(3, 12);
    const first = (await rows.first().textContent())!;
    expect(first)
      .to.match(/% alike/)
      .and.to.match(/same: /);
    expect(first).to.match(/not looked at yet|looks, no|in \d/);
    // Other weights, other spots.
    const before = await rows.allTextContents();
    await page.getByText('What counts as similar').click();
    for (const [name, weight] of [
      [/^hardness/, '0'],
      [/^depth of the bottom/, '0.5'],
    ] as const) {
      const shown = (await rows.allTextContents()).join();
      await page.getByRole('slider', { name }).fill(weight);
      await until(async () => (await rows.allTextContents()).join() !== shown, `the spots changed with ${name}`);
    }
    expect((await rows.allTextContents()).join()).to.not.equal(before.join());
    // Of two weights in a row the answer to the last one counts.
    let last = '';
    await until(async () => {
      const now = (await rows.allTextContents()).join();
      await new Promise((done) => setTimeout(done, 700));
      return now === last || ((last = now), false);
    }, 'the spots stood');
    const gpx = await saved(page, 'GPX');
    const points: Waypoint[] = [];
    // Waypoints alone: there are no track points to be had.
    for await (const rows of readGpx([gpx], emptyReport('similar-spots.gpx', 'soundings'), points)) expect(rows).to.deep.equal([]);
    expect(points.length).to.equal(await rows.count());
    await page.getByRole('button', { name: 'Add all to the plan' }).click();
    await page.getByText('spots added to the plan').waitFor();
    // Spots are kept on the device first and sent one after another.
    let plan: { name: string; latitude: number; words: string }[] = [];
    await until(
      async () => (plan = await json(`/waters/${(await theWater()).id}/plan`)).length === points.length,
      'the server had the plan',
    );
    expect(plan[0].latitude).to.be.closeTo(points[0].latitude, 1e-6);
    expect(plan[0].words).to.include('like the stop of');

    await page.getByRole('link', { name: 'Deck' }).click();
    await page.getByRole('button', { name: 'Start the trip' }).click();
    await page.getByRole('button', { name: `Plan ${plan.length}` }).click();
    const sheet = page.getByRole('dialog', { name: /^Plan/ });
    await until(async () => (await sheet.getByRole('listitem').count()) === plan.length, 'all were listed');
    await sheet
      .getByRole('button', { name: /^Remove .* from the plan$/ })
      .first()
      .click();
    await until(async () => (await sheet.getByRole('listitem').count()) === plan.length - 1, 'one was taken off');
    await sheet.getByRole('button', { name: 'Go' }).first().click();
    await page.getByTestId('go-back').waitFor();
    expect(await page.getByTestId('go-back').textContent()).to.match(/\d k?m from the bow/);
    expect(errors).to.deep.equal([]);
    await context.close();
  });

  it('comes back the same from its address, also on another device', async () => {
    const { page, context } = await openPage(`${water().url}/patterns`);
    await answered(page);
    await page.getByRole('combobox', { name: 'What is asked about' }).selectOption('perch');
    await page.getByRole('combobox', { name: 'By', exact: true }).selectOption('hardness');
    await page.getByRole('combobox', { name: 'Beside it' }).selectOption('fish:zander');
    await narrow(page, async (dialog) => {
      await dialog.getByRole('checkbox', { name: 'summer', exact: true }).check();
      await dialog.getByLabel('First day').fill('2025-01-01');
    });
    await page.getByRole('button', { name: 'Without: summer' }).waitFor();
    await answered(page);
    await page.getByTestId('headline').getByText('Perch').waitFor();
    const shown = async (p: Page): Promise<unknown> => [
      await basis(p),
      await p.getByTestId('headline').textContent(),
      await p.getByRole('list', { name: 'Filters' }).textContent(),
      (await table(p, 'Selection by hardness of the bottom')).join(';'),
    ];
    const first = await shown(page);
    await page.reload();
    await answered(page);
    await page.getByTestId('headline').getByText('Perch').waitFor();
    expect(await shown(page)).to.deep.equal(first);
    const other = await openPage(page.url());
    await answered(other.page);
    await other.page.getByTestId('headline').getByText('Perch').waitFor();
    expect(await shown(other.page)).to.deep.equal(first);
    // The Strip's species is the address's.
    expect(await other.page.getByRole('combobox', { name: 'Species' }).inputValue()).to.equal('perch');
    await other.page.getByRole('combobox', { name: 'Species' }).selectOption('zander');
    await until(async () => new URL(other.page.url()).searchParams.get('fish') === 'zander', 'the address followed the Strip');
    await context.close();
    await other.context.close();
  });

  it('loses none of several choices made before it has drawn the first', async () => {
    const { page, context } = await openPage(`${water().url}/patterns`);
    await answered(page);
    const choices = [
      ['What is asked about', 'perch'],
      ['By', 'hardness'],
      ['Beside it', 'fish:zander'],
    ];
    await page.evaluate(async (list) => {
      for (const [name, value] of list) {
        const select = document.querySelector<HTMLSelectElement>(`select[aria-label="${name}"]`)!;
        select.value = value;
        select.dispatchEvent(new Event('change', { bubbles: true }));
        await new Promise((next) => setTimeout(next));
      }
    }, choices);
    await page.getByTestId('headline').getByText('Perch').waitFor();
    const asked = new URL(page.url()).searchParams;
    expect(['fish', 'by', 'beside'].map((key) => asked.get(key))).to.deep.equal(choices.map(([, value]) => value));
    await context.close();
  });

  it('stops searching for what goes together when told, and searches again', async () => {
    const { page, context } = await openPage(`${water().url}/patterns?fish=perch&page=years`);
    await answered(page);
    // Pressed the moment it is there: a search of a short log is soon over.
    await page.evaluate(() => {
      const observer = new MutationObserver(() => {
        const cancel = document.querySelector<HTMLButtonElement>('[aria-label="Combinations"] [data-testid=progress] button');
        if (!cancel) return;
        observer.disconnect();
        setTimeout(() => cancel.click());
      });
      observer.observe(document.body, { childList: true, subtree: true });
    });
    await page.getByRole('tab', { name: 'Where' }).click();
    await page.getByText('Stopped.').waitFor();
    await page.getByRole('button', { name: 'Search again' }).click();
    await page.getByText(/Corrected for \d/).waitFor();
    await context.close();
  });

  for (const name of ['mood', 'marks', 'debates', 'years', 'similar'])
    it(`${name}: readable by day and by night, nothing an accessibility check minds, no scroll sideways on a phone`, async () => {
      for (const theme of ['day', 'night'] as const) {
        const { page, context, errors } = await openPage(`${water().url}/patterns?page=${name}`, { theme });
        await answered(page);
        await page.getByRole('tabpanel').getByRole('heading').first().waitFor();
        await page.waitForTimeout(500);
        expect(await violations(page), theme).to.deep.equal([]);
        expect(errors).to.deep.equal([]);
        await context.close();
      }
      const { page, context } = await openPage(`${water().url}/patterns?page=${name}`, { size: PHONE });
      await answered(page);
      expect(await page.evaluate('document.documentElement.scrollWidth - document.documentElement.clientWidth')).to.equal(0);
      await context.close();
    });
});
