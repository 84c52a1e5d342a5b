import { createServer } from 'node:http';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { violations } from './access';
import { DESK, PHONE, dialogGone, openPage, until } from './browser';
import { ask } from './harness';
import { loggedWater } from './logged-water';

const water = loggedWater(5, 14);

const VIEWS = ['brief', 'chart', 'deck', 'patterns', 'forecast'];
const READY: Record<string, string> = {
  brief: '[data-testid=headline]',
  chart: '[aria-label="Tools of the chart"]',
  deck: 'text=Start the trip',
  patterns: '[data-testid=basis]',
  forecast: '[data-testid=places] li',
};

/** Waits until a view shows its content and nothing is being computed any more. */
async function settle(page: Page, view: string): Promise<void> {
  await page.waitForSelector(READY[view]);
  await page.getByRole('status').waitFor({ state: 'detached' });
  await page.waitForTimeout(300);
}

const overflow = (page: Page): Promise<number> =>
  page.evaluate('document.documentElement.scrollWidth - document.documentElement.clientWidth');

describe('each view', () => {
  for (const theme of ['day', 'night'] as const)
    for (const view of VIEWS)
      it(`${view} by ${theme} at 1280×800: no console error, no horizontal scroll, nothing an accessibility check minds`, async () => {
        const { page, context, errors } = await openPage(`${water().url}/${view}`, { theme, size: DESK });
        await settle(page, view);
        expect(await overflow(page)).to.equal(0);
        expect(await violations(page)).to.deep.equal([]);
        expect(errors).to.deep.equal([]);
        await context.close();
      });
  for (const view of VIEWS)
    it(`${view} at 390×844: no console error, no horizontal scroll`, async () => {
      const { page, context, errors } = await openPage(`${water().url}/${view}`, { size: PHONE });
      await settle(page, view);
      expect(await overflow(page)).to.equal(0);
      expect(errors).to.deep.equal([]);
      await context.close();
    });
});

describe('when the thread of the forecast breaks', () => {
  it('it is begun again; where it cannot be, the page says so instead of computing for ever', async () => {
    const { page, context } = await openPage(`${water().url}/waters`);
    let broken = 0;
    await page.route(/forecast\.worker/, (route) => (broken++ === 0 ? route.abort() : route.continue()));
    await page.goto(`${water().url}/forecast`);
    await page.locator(READY.forecast).first().waitFor();
    expect(broken).to.be.above(1);
    await page.unroute(/forecast\.worker/);
    await page.route(/forecast\.worker/, (route) => route.abort());
    for (const view of ['forecast', 'brief']) {
      await page.goto(`${water().url}/${view}`);
      await page.getByText('The computing of this page broke off').first().waitFor();
    }
    await context.close();
  });
});

describe('any address', () => {
  const JUNK = [
    'water=no+such+mere',
    'water=%00&fish=%F0%9F%90%9F',
    'species=dragon&fish=dragon',
    'fish=zander&depth=9..1&by=moon&beside=moon:moon',
    'page=nowhere&of=somewhere&like=%3Cb%3Ex',
    'of=91,181&page=similar',
    'from=2026-13-45&to=yesterday&size=999&stage=%5B%5D',
    `by=${'x'.repeat(3000)}`,
  ];
  for (const view of VIEWS)
    it(`of ${view}, whatever it asks for, shows the view or says what is not there`, async () => {
      const { page, context, errors } = await openPage(`${water().url}/${view}`);
      for (const asked of JUNK) {
        await page.goto(`${water().url}/${view}?${asked}`);
        await until(async () => /\w{3}/.test((await page.locator('main').textContent()) ?? ''), `${view} said something`);
        await page.waitForTimeout(400);
        const words = (await page.locator('main').textContent())!;
        expect(words, asked).to.not.match(/NaN|undefined|\[object|is not a function|of null/);
        expect(errors, asked).to.deep.equal([]);
      }
      await context.close();
    });
  it('that is no view leads to one', async () => {
    const { page, context, errors } = await openPage(`${water().url}/no/such/view`);
    await page.getByRole('navigation').first().waitFor();
    expect(errors).to.deep.equal([]);
    await context.close();
  });
});

describe('the Chart', () => {
  it('shades a depth band and says what share of the water is left', async () => {
    const { page, context } = await openPage(`${water().url}/chart`);
    await page.getByText('Shade a depth band').click();
    const share = async (): Promise<number> => parseFloat((await page.getByTestId('share').textContent())!);
    const wide = await share();
    const deep = page.getByRole('slider', { name: /Deep edge/ });
    const value = Number(await deep.inputValue());
    await deep.focus();
    for (let k = 0; k < 20; k++) await page.keyboard.press('ArrowLeft');
    expect(Number(await deep.inputValue())).to.be.closeTo(value - 2, 0.01);
    expect(await share()).to.be.below(wide);
    await context.close();
  });
  it('shows the depth under the pointer, by keyboard for the middle of the map', async () => {
    const { page, context } = await openPage(`${water().url}/chart`);
    const map = page.getByRole('application', { name: /^Chart of/ });
    await map.waitFor();
    await page.waitForTimeout(500);
    await page.mouse.move(830, 430);
    await page.waitForSelector('[data-testid=under-finger]');
    expect(await page.getByTestId('under-finger').textContent()).to.match(/\d+\.\d m|Land/);
    await map.focus();
    await page.keyboard.press('Enter');
    await page.mouse.move(40, 400);
    expect(await page.getByTestId('under-finger').textContent()).to.match(/\d+\.\d m|Land/);
    await context.close();
  });
});

describe('the Strip', () => {
  it('answers what if at once, shows that it does, and goes back to the log', async () => {
    const { page, context } = await openPage(`${water().url}/forecast`);
    await settle(page, 'forecast');
    const best = (): Promise<string | null> => page.getByTestId('places').textContent();
    const logged = await best();
    await page.keyboard.press('w');
    await page.getByRole('spinbutton', { name: 'Surface, °C' }).fill('8');
    await page.getByRole('spinbutton', { name: 'Clarity (Secchi), m' }).fill('6');
    await page.getByRole('button', { name: 'Done' }).click();
    await until(async () => (await best()) !== logged, 'the forecast changed');
    expect(await page.getByRole('banner').textContent())
      .to.include('what if')
      .and.include('8.0 °C')
      .and.include('6.0 m');
    await page.getByRole('button', { name: /Back to the log/ }).click();
    await until(async () => (await best()) === logged, 'the forecast of the log was back');
    await context.close();
  });
});

describe('the Brief', () => {
  const headline = (page: Page): Promise<string | null> => page.getByTestId('headline').textContent();
  const setSurface = async (page: Page, celsius: string): Promise<void> => {
    await page.keyboard.press('w');
    await page.getByRole('spinbutton', { name: 'Surface, °C' }).fill(celsius);
    // Clear water: a mixed lake then has no depth limit, a layered one has.
    await page.getByRole('spinbutton', { name: 'Clarity (Secchi), m' }).fill('4');
    await page.getByRole('button', { name: 'Done' }).click();
  };
  it('follows the surface temperature from 12 to 29 °C: stage, oxygen, window and the rival readings of heat', async () => {
    const { page, context } = await openPage(`${water().url}/brief`);
    await settle(page, 'brief');
    await setSurface(page, '12');
    await until(async () => /cooling|turnover|autumn/.test((await page.getByRole('banner').textContent())!), 'the stage followed');
    const cold = await headline(page);
    expect(await page.getByText('Moving water').count()).to.equal(0);
    await setSurface(page, '29');
    await until(async () => (await page.getByText('Moving water').count()) === 1, 'the heat was spoken of');
    expect(await page.getByText('Warm water.').count()).to.equal(1);
    expect(await page.getByRole('banner').textContent()).to.include('summer');
    expect(await headline(page)).to.not.equal(cold);
    await context.close();
  });
  it('takes a typed profile: the curve draws, a slip is pointed out, thermocline and windows change', async () => {
    const { page, context, errors } = await openPage(`${water().url}/brief`);
    await settle(page, 'brief');
    const before = await headline(page);
    await page.getByRole('button', { name: 'Add temperature profile' }).click();
    const readings = page.getByRole('textbox', { name: 'Readings' });
    await readings.fill('0 18.5 9\n1 18.5 9\n2 18.4 8.9\n3 4.5 1\n2 18');
    expect(await page.getByRole('dialog').textContent())
      .to.include('line 4: a jump of 14 °C')
      .and.include('line 5: the depth goes up');
    await readings.fill('0 deep');
    expect(await page.getByRole('dialog').textContent()).to.include('is no depth and temperature');
    const typed = Array.from(
      { length: 16 },
      (_, z) => `${z} ${(7 + 11.5 / (1 + Math.exp((z - 3.5) / 0.4))).toFixed(1)} ${(1 + 8 / (1 + Math.exp((z - 4) / 0.4))).toFixed(1)}`,
    );
    await readings.fill(typed.join('\n'));
    expect(await page.getByTestId('profile-line').textContent()).to.match(/thermocline [12]\.\d–[45]\.\d m/);
    await page.getByRole('button', { name: /Log this profile, 16 readings/ }).click();
    await dialogGone(page);
    await until(async () => (await headline(page)) !== before, 'the window changed');
    const bottom = Number(/(\d+\.\d) m\./.exec((await headline(page))!)![1]);
    expect(bottom).to.be.below(5);
    expect(errors).to.deep.equal([]);
    await context.close();
  });
  it('takes a thermocline dragged on the Column, and goes back to the log', async () => {
    const { page, context } = await openPage(`${water().url}/brief`);
    await settle(page, 'brief');
    const hand = page.getByRole('button', { name: 'A thermocline on the sounder' });
    if (await hand.isVisible()) await hand.click();
    const top = page.getByRole('slider', { name: 'Top of the thermocline' });
    const at = Number(await top.getAttribute('aria-valuenow'));
    const box = (await top.boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 12, { steps: 4 });
    await page.mouse.up();
    await until(async () => Number(await top.getAttribute('aria-valuenow')) < at - 0.2, 'the top followed the drag');
    expect(await page.getByRole('banner').textContent()).to.include('what if');
    await page.getByRole('button', { name: /Back to the log/ }).click();
    await page.getByRole('radio', { name: 'Waves' }).click();
    expect(await page.getByRole('radio', { name: 'Waves' }).getAttribute('aria-checked')).to.equal('true');
    await context.close();
  });
  it('lets the needs of a species and the depth rule be edited, and refuses limits out of order', async () => {
    // By day: zander need no light at night.
    const { page, context } = await openPage(`${water().url}/brief?if-at=2026-07-15T14:00Z`);
    await settle(page, 'brief');
    await page.getByRole('button', { name: 'What zander need' }).click();
    await page.getByLabel('Leaves water warmer than').fill('10');
    await page.getByRole('button', { name: 'Keep these' }).click();
    await page.getByText('upperAvoidance must not lie below').waitFor();
    await page.getByLabel('Leaves water warmer than').fill('28');
    await page.getByLabel('Light limit: this').fill('0.5');
    await page.getByLabel('and so many times the clarity').fill('1');
    await page.getByRole('button', { name: 'Keep these' }).click();
    await dialogGone(page);
    await page.getByText('(0.5 m + 1 × clarity)').waitFor();
    await context.close();
  });
  it('takes a species of one’s own, begun from another, and refuses a name that is another’s', async () => {
    const { page, context } = await openPage(`${water().url}/brief`);
    await settle(page, 'brief');
    await page.getByRole('button', { name: 'Add a species' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('button', { name: /^Add, and set/ }).click();
    await dialog.getByText('Give it a name.').waitFor();
    await dialog.getByLabel('Name, as you log it').fill('Pikeperch');
    await dialog.getByRole('button', { name: /^Add, and set/ }).click();
    await dialog.getByText('is a name of zander already').waitFor();
    await dialog.getByLabel('Name, as you log it').fill('Moonfin');
    await dialog.getByLabel('Begins with the needs of').selectOption('arctic char');
    await dialog.getByRole('button', { name: /^Add, and set/ }).click();
    const needs = page.getByRole('dialog', { name: 'What moonfin need' });
    await needs.waitFor();
    expect(await needs.getByLabel('Leaves water warmer than').inputValue()).to.equal('16');
    await page.keyboard.press('Escape');
    await until(async () => (await page.getByTestId('headline').textContent())!.includes('Moonfin'), 'the Brief was of it');
    await context.close();
  });
  it('shows a reservoir drawn down as deep as it is, in the Brief and on the Chart', async () => {
    const { page, context } = await openPage(`${water().url}/brief`);
    await settle(page, 'brief');
    const deepest = async (): Promise<number> => Number(/deepest ([\d.]+)/.exec((await page.getByRole('main').textContent())!)![1]);
    const full = await deepest();
    await page.goto(`${water().url}/brief?if-level=-6`);
    await page.getByText('Depths are at today’s level, 6.0 m below the chart’s datum.').waitFor();
    expect(await deepest()).to.be.below(full - 4);
    await page.goto(`${water().url}/chart?if-level=-6`);
    await page.getByText('At today’s level: 6.0 m below the chart’s datum.').waitFor();
    await context.close();
  });
  it('opens the Chart shaded the same way', async () => {
    const { page, context } = await openPage(`${water().url}/brief`);
    await settle(page, 'brief');
    await page.getByRole('link', { name: 'open the Chart', exact: true }).click();
    await page.waitForURL(/band=/);
    expect(await page.getByTestId('share').textContent()).to.match(/%/);
    await context.close();
  });
  it('prints on one page', async () => {
    const { page, context } = await openPage(`${water().url}/brief`);
    await settle(page, 'brief');
    const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1');
    expect(pdf.match(/\/Type\s*\/Page[^s]/g)).to.have.length(1);
    await context.close();
  });
});

describe('keys', () => {
  it('? lists them, digits change the view, n the theme', async () => {
    const { page, context } = await openPage(`${water().url}/chart`);
    await page.waitForSelector(READY.chart);
    await page.keyboard.press('?');
    await page.getByRole('dialog', { name: 'Keys' }).waitFor();
    // At once after it: the closing dialog's step back in the history must not undo it.
    await page.keyboard.press('Escape');
    await page.keyboard.press('4');
    await page.waitForURL(/patterns/);
    await page.waitForTimeout(200);
    expect(new URL(page.url()).pathname).to.equal('/patterns');
    await page.goBack();
    await page.waitForURL(/chart/);
    await page.keyboard.press('n');
    expect(await page.evaluate('document.documentElement.dataset.theme')).to.equal('night');
    await context.close();
  });
});

describe('a page of another origin', () => {
  it('can neither read from nor post to the local server', async () => {
    const other = createServer((_, response) => response.setHeader('Content-Type', 'text/html').end('<title>other</title>'));
    await new Promise<void>((done) => other.listen(0, '127.0.0.1', done));
    const { port } = other.address() as { port: number };
    const { page, context } = await openPage(`http://127.0.0.1:${port}/`);
    const attempt = (init: string): Promise<string> =>
      page.evaluate(
        `fetch('${water().url}/api/waters', ${init}).then(r => r.type === 'opaque' ? 'opaque' : r.text(), e => 'refused')`,
      ) as Promise<string>;
    expect(await attempt('{}')).to.equal('refused');
    expect(await attempt(`{ method: 'POST', headers: { 'Content-Type': 'application/json' }, body: '{}' }`)).to.equal('refused');
    const before = await (await fetch(`${water().url}/api/waters`)).text();
    await attempt(`{ method: 'POST', mode: 'no-cors', headers: { 'Content-Type': 'text/plain' }, body: '{"name":"stolen"}' }`);
    expect(await (await fetch(`${water().url}/api/waters`)).text()).to.equal(before);
    await context.close();
    other.close();
  });
});

describe('read in feet, °F and mph', () => {
  /** Measures in SI that a page shows or says to a screen reader, each with what stands before it. */
  const leftInSi = (page: Page): Promise<string[]> =>
    page.evaluate(`(() => {
      const said = [document.body.innerText, ...[...document.querySelectorAll('svg text')].map((t) => t.textContent)];
      for (const e of document.querySelectorAll('[aria-label],[aria-valuetext],[title]'))
        for (const name of ['aria-label', 'aria-valuetext', 'title']) said.push(e.getAttribute(name) ?? '');
      return said.join('\\n').match(/[^\\n]{0,40}(?:\\d\\s?(?:m\\/s|m)(?![\\w²])|°C)/g) ?? [];
    })()`) as Promise<string[]>;

  it('no view shows or says metres, °C or m/s', async () => {
    const { page, context, errors } = await openPage(`${water().url}/brief`);
    await settle(page, 'brief');
    const metres = (await page.getByTestId('headline').textContent())!;
    expect((await leftInSi(page)).length, 'SI measures before').to.be.above(15);
    await page.getByRole('button', { name: 'Units' }).click();
    for (const unit of ['ft', '°F', 'mph']) await page.getByRole('radio', { name: unit, exact: true }).click();
    await page.keyboard.press('Escape');
    // "between 1.5 and 8.4 m", or "from the surface to 8.4 m".
    const depths = (text: string): number[] => (text.match(/\d+(?:\.\d+)?(?= (?:and|m|ft))/g) ?? []).map(Number);
    const feet = depths((await page.getByTestId('headline').textContent())!);
    expect(feet).to.not.deep.equal([]);
    // Feet of the depth itself, not of the metres it was rounded to.
    expect(feet).to.have.length(depths(metres).length);
    depths(metres).forEach((m, k) => expect(feet[k]).to.be.closeTo(m / 0.3048, 0.7));
    for (const view of VIEWS) {
      await page
        .getByRole('link', { name: new RegExp(view, 'i') })
        .first()
        .click();
      await settle(page, view);
      expect(await leftInSi(page), view).to.deep.equal([]);
      expect(await overflow(page), view).to.equal(0);
    }
    for (const name of ['Bait and mood', 'Rod-hours', 'Identification', 'Debates', 'Years']) {
      await page.getByRole('link', { name: 'Patterns' }).click();
      await page.getByRole('tab', { name }).click();
      await page.getByRole('status').waitFor({ state: 'detached' });
      await page.waitForTimeout(500);
      expect(await leftInSi(page), name).to.deep.equal([]);
      if (name !== 'Bait and mood') continue;
      for (const factor of ['depth', 'clarity', 'water temperature']) {
        await page.getByRole('navigation', { name: 'By what' }).getByRole('button', { name: factor, exact: true }).click();
        await page.waitForTimeout(500);
        expect(await leftInSi(page), factor).to.deep.equal([]);
      }
    }
    expect(errors).to.deep.equal([]);
    await context.close();
  });

  it('what is typed without a unit is in them, what is kept is SI, on a phone as well', async () => {
    const { page, context } = await openPage(`${water().url}/deck`, { size: PHONE, at: { latitude: 48.2, longitude: -34.6 } });
    await page.getByRole('button', { name: 'What if…' }).click();
    await page.getByText('Read in m, °C, m/s').click();
    for (const unit of ['ft', '°F', 'mph']) await page.getByRole('radio', { name: unit, exact: true }).click();
    await page.getByRole('spinbutton', { name: 'Surface, °F' }).fill('70');
    await page.getByRole('button', { name: 'Done' }).click();
    await page.getByText('70.0 °F').waitFor();
    await page.getByRole('button', { name: 'Back to the log' }).click();
    await page.getByRole('button', { name: 'Start the trip' }).click();
    await page.getByRole('button', { name: 'Log water readings' }).click();
    await page.getByLabel('Surface temperature').fill('66');
    await page.getByLabel('Clarity (Secchi)').fill('7');
    await page.getByLabel('Wind speed').fill('4 m/s');
    await page.getByRole('button', { name: 'Log it' }).click();
    await dialogGone(page);
    await page.getByText('66.0 °F').waitFor();
    expect(await leftInSi(page), 'the Deck while a trip runs').to.deep.equal([]);
    const [{ id }] = await ask<{ id: string }[]>(water(), '/waters');
    type Reading = { time: string; surface_temperature_c: number; secchi_m: number; wind_speed_ms: number };
    const readings = async (): Promise<Reading[]> => (await ask<{ readings: Reading[] }>(water(), `/waters/${id}/log`)).readings;
    // It is on the page as soon as the device has it, and with the server a little later.
    const newest = async (): Promise<Reading> => (await readings()).reduce((a, b) => (b.time > a.time ? b : a));
    await until(async () => Math.abs((await newest()).surface_temperature_c - 18.889) < 0.01, 'the reading was with the server');
    const last = await newest();
    expect(last.secchi_m).to.be.closeTo(2.134, 0.01);
    expect(last.wind_speed_ms).to.equal(4);
    await context.close();
  });
});
