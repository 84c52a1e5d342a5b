import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { DESK, openPage, PHONE, until } from './browser';
import { loggedWater } from './logged-water';

// Another language is as good as the first: no words left behind, nothing that runs out of its place.

const water = loggedWater(5, 14);

const VIEWS: [path: string, ready: string][] = [
  ['brief', '[data-testid=headline]'],
  ['chart', '[aria-label="Werkzeuge der Karte"]'],
  ['deck', 'text=Ausfahrt beginnen'],
  ['patterns', '[data-testid=basis] b'],
  ['patterns?page=mood', 'main h1'],
  ['patterns?page=marks', 'main h1'],
  ['patterns?page=debates', 'main h1'],
  ['patterns?page=hours', '[data-testid=rod-hours] h1'],
  ['forecast', '[data-testid=places] li'],
  ['waters', 'main h1'],
];

/** Every text of the page with its labels, those of its pictures too; not what the log itself says. */
const texts = (page: Page): Promise<string[]> =>
  page.evaluate(`[...document.querySelectorAll('body *')].flatMap((e) => [
    ...[...e.childNodes].filter((n) => n.nodeType === 3).map((n) => n.textContent),
    e.getAttribute('aria-label'), e.getAttribute('title'), e.getAttribute('placeholder'),
  ]).filter((t) => t && t.trim())`);

/** Words that English sentences are made of and German ones are not. */
const ENGLISH = /\b(the|and|with|from|of|at|is|are|not|no|looks?|trips?|waters?|bottom|deep|scan|marks?)\b/;

const overflow = (page: Page): Promise<number> =>
  page.evaluate('document.documentElement.scrollWidth - document.documentElement.clientWidth');

describe('read in German', () => {
  for (const [size, at] of [
    [DESK, '1280×800'],
    [PHONE, '390×844'],
  ] as const)
    it(`each view at ${at} speaks no English, and fits`, async () => {
      const { page, context, errors } = await openPage(`${water().url}/brief`, { size, language: 'de-DE' });
      for (const [path, ready] of VIEWS) {
        await page.goto(`${water().url}/${path}`);
        await page.locator(ready).first().waitFor();
        await page.getByRole('status').waitFor({ state: 'detached' });
        await until(async () => (await texts(page)).length > 8, `${path} was there`);
        await page.waitForTimeout(500);
        const english = (await texts(page)).filter((t) => ENGLISH.test(t));
        expect(english, path).to.deep.equal([]);
        expect(await overflow(page), path).to.equal(0);
        expect(errors, path).to.deep.equal([]);
      }
      await context.close();
    });
  it('is chosen where the units are, and stays chosen', async () => {
    const { page, context } = await openPage(`${water().url}/waters`);
    await page.getByRole('button', { name: 'Units' }).click();
    await page
      .getByRole('radio', { name: 'Deutsch' })
      .or(page.getByRole('button', { name: 'Deutsch' }))
      .first()
      .click();
    await page.getByRole('heading', { name: 'Deine Gewässer' }).waitFor();
    expect(await page.locator('html').getAttribute('lang')).to.equal('de');
    await page.reload();
    await page.getByRole('heading', { name: 'Deine Gewässer' }).waitFor();
    await context.close();
  });
});
