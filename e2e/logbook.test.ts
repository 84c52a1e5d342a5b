import { expect } from 'chai';
import { readFileSync } from 'node:fs';
import type { Locator, Page } from 'playwright-core';
import type { LoggedTrip, StoredContact, TripDetail } from '@restless-shoal/core/contract';
import { violations } from './access';
import { DESK, PHONE, dialogGone, openPage, type OpenPage, type PageOptions, until } from './browser';
import { ask } from './harness';
import { loggedWater } from './logged-water';

// Every trip, mark and fish is found, read and put right, by mouse, finger and keyboard, and the way back is always there.

const served = loggedWater(11, 12);
const trips = (): Promise<LoggedTrip[]> => ask(served(), '/logbook');
const detailOf = (trip: string): Promise<TripDetail> => ask(served(), `/trips/${trip}`);
const contactOf = async (trip: string, id: string): Promise<StoredContact | undefined> =>
  (await detailOf(trip)).contacts.find((c) => c.id === id);

async function open(path: string, options: PageOptions = {}): Promise<OpenPage & { rows: Locator }> {
  const opened = await openPage(`${served().url}${path}`, options);
  return { ...opened, rows: opened.page.locator('[data-trip]') };
}
const onTrip = async (page: Page): Promise<void> => {
  await page.getByTestId('day').waitFor();
  await page.getByRole('button', { name: 'Edit trip' }).waitFor();
};
const overflow = (page: Page): Promise<number> =>
  page.evaluate('document.documentElement.scrollWidth - document.documentElement.clientWidth');

describe('the list of trips', () => {
  it('shows every trip, is searched, filtered and kept in the address, and gone through by keys', async () => {
    const { page, context, rows, errors } = await open('/logbook');
    await rows.first().waitFor();
    const all = await trips();
    await page.getByText(`${all.length} trips`).waitFor();
    const target = all.find((t) => t.landed.length > 0)!;
    await page.getByLabel('Search all that is written').fill(target.landed[0][0]);
    await until(
      async () => (await page.locator('header [role=status]').textContent())!.includes(' trip') && page.url().includes('q='),
      'the address held the search',
    );
    await page.reload();
    await rows.first().waitFor();
    expect(await page.getByLabel('Search all that is written').inputValue()).to.equal(target.landed[0][0]);
    await page.getByRole('button', { name: 'Clear filters' }).click();
    await page.getByText(`${all.length} trips`).waitFor();
    await page.getByLabel('Search all that is written').fill('no such word anywhere');
    await page.getByText('No trip matches').waitFor();
    await page.getByRole('button', { name: 'Clear filters' }).click();
    await page.getByTestId('trips').focus();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await onTrip(page);
    expect(page.url()).to.include(all[2].id);
    await page.getByRole('link', { name: 'Later trip' }).click();
    await until(() => Promise.resolve(page.url().includes(all[1].id)), 'the later trip was open');
    await page.getByRole('link', { name: 'All trips' }).click();
    await page.getByRole('radio', { name: 'Calendar' }).click();
    await page.getByTestId('calendar').getByRole('link').first().waitFor();
    expect(errors).to.deep.equal([]);
    await context.close();
  });
  for (const [path, size, theme] of [
    ['/logbook', DESK, 'day'],
    ['/logbook', PHONE, 'night'],
    ['/logbook?show=calendar', DESK, 'night'],
    ['/logbook?show=calendar', PHONE, 'day'],
    ['/logbook?show=seasons', DESK, 'day'],
    ['/logbook?show=seasons&by=seen', PHONE, 'night'],
  ] as const)
    it(`${path} at ${size.width}×${size.height} by ${theme}: nothing an accessibility check minds, no horizontal scroll`, async () => {
      const { page, context } = await open(path, { size, theme });
      await page
        .locator(
          path.includes('calendar') ? '[data-testid=calendar] a' : path.includes('seasons') ? '[data-testid=seasons] td' : '[data-trip]',
        )
        .first()
        .waitFor();
      expect(await overflow(page)).to.equal(0);
      expect(await violations(page)).to.deep.equal([]);
      await context.close();
    });
  for (const [size, theme] of [
    [DESK, 'day'],
    [DESK, 'night'],
    [PHONE, 'day'],
  ] as const)
    it(`a trip at ${size.width}×${size.height} by ${theme}: nothing an accessibility check minds, no horizontal scroll`, async () => {
      const [trip] = await trips();
      const { page, context } = await open(`/logbook/${trip.id}`, { size, theme });
      await onTrip(page);
      await page.getByTestId('marks').waitFor();
      expect(await overflow(page)).to.equal(0);
      expect(await violations(page)).to.deep.equal([]);
      await context.close();
    });
});

describe('a trip of last week', () => {
  it('has a species, a depth and a place put right; the log follows, and each step is taken back', async () => {
    const [trip] = await trips();
    const { contacts } = await detailOf(trip.id);
    const fish = contacts.find((c) => c.kind === 'fish' && c.top_m !== null && c.water_depth_m !== null)!;
    const { page, context, errors } = await open(`/logbook/${trip.id}`);
    await onTrip(page);
    const openMark = async (): Promise<void> => {
      const time = page
        .getByTestId('marks')
        .getByRole('row')
        .nth(1 + [...contacts].sort((a, b) => a.time.localeCompare(b.time)).findIndex((c) => c.id === fish.id));
      await page
        .getByTestId('marks')
        .evaluate('(e) => e.scrollTo(0, 0)')
        .catch(() => undefined);
      await time.scrollIntoViewIfNeeded();
      await time.getByRole('button').first().click();
    };
    await openMark();
    const sheet = page.getByRole('dialog');
    await sheet.getByLabel('Species').selectOption('burbot');
    await until(async () => (await contactOf(trip.id, fish.id))?.species === 'burbot', 'the species was saved');
    await sheet.getByText('Change depth or place').click();
    await sheet.getByRole('slider', { name: 'How deep' }).scrollIntoViewIfNeeded();
    const box = (await sheet.getByRole('slider', { name: 'How deep' }).boundingBox())!;
    await page.mouse.click(box.x + box.width / 2, box.y + box.height * 0.9);
    await sheet.getByRole('button', { name: 'Save depth' }).click();
    await until(async () => (await contactOf(trip.id, fish.id))?.top_m !== fish.top_m, 'the depth was saved');
    await sheet.getByLabel('Position of the mark').fill(`${fish.latitude + 0.0005}, ${fish.longitude}`);
    await sheet.getByRole('button', { name: 'Move it there' }).click();
    await until(async () => Math.abs((await contactOf(trip.id, fish.id))!.latitude - fish.latitude - 0.0005) < 1e-6, 'the place was saved');
    await page.keyboard.press('Escape');

    // What is worked out from the log follows.
    await page.getByRole('link', { name: 'Patterns' }).click();
    await page
      .getByLabel(/^Species/)
      .first()
      .waitFor();
    await until(
      async () => (await ask<{ logged: string[] }>(served(), `/waters/${trip.water_id}`)).logged.includes('burbot'),
      'burbot was among the species logged',
    );
    await page.goBack();
    await onTrip(page);

    const changes = page.getByRole('button', { name: 'History of changes' });
    await changes.click();
    await page
      .getByRole('dialog')
      .getByText(/species: .* → burbot/)
      .waitFor();
    await page.keyboard.press('Escape');
    for (let k = 0; k < 3; k++) await page.getByRole('button', { name: /^Undo/ }).click();
    await until(async () => {
      const now = (await contactOf(trip.id, fish.id))!;
      return now.species === fish.species && now.top_m === fish.top_m && now.latitude === fish.latitude;
    }, 'all three were taken back');
    await page.keyboard.press('Control+Shift+z');
    await until(async () => (await contactOf(trip.id, fish.id))?.species === 'burbot', 'the first was done again');
    await page.keyboard.press('Control+z');
    await until(async () => (await contactOf(trip.id, fish.id))?.species === fish.species, 'and taken back once more');
    expect(errors).to.deep.equal([]);
    await context.close();
  });

  it('has many marks changed at once, and back', async () => {
    const trip = (await trips()).reduce((a, b) => (b.marks > a.marks ? b : a));
    const before = (await detailOf(trip.id)).contacts;
    const { page, context } = await open(`/logbook/${trip.id}`);
    await onTrip(page);
    await page.getByLabel('Select all').check();
    await page.getByText(`${before.length} marks selected`).waitFor();
    await page.getByLabel('Species of all selected marks').selectOption('perch');
    await until(
      async () =>
        (await detailOf(trip.id)).contacts.every((c) =>
          c.kind === 'fish' || c.kind === 'bait' ? c.species === 'perch' : c.species === null,
        ),
      'all that swim were perch, and nothing else was',
    );
    await page.getByRole('button', { name: /^Undo/ }).click();
    const bare = (list: StoredContact[]): object[] => list.map(({ version: _, ...c }) => c).sort((a, b) => a.id.localeCompare(b.id));
    await until(
      async () => JSON.stringify(bare((await detailOf(trip.id)).contacts)) === JSON.stringify(bare(before)),
      'all were as they had been',
    );
    await context.close();
  });

  it('is deleted and brought back, reopened, merged with another and made two again', async () => {
    const [last, before] = await trips();
    const { page, context } = await open(`/logbook/${last.id}`);
    await onTrip(page);
    const edit = async (): Promise<Locator> => {
      await page.getByRole('button', { name: 'Edit trip' }).click();
      return page.getByRole('dialog');
    };
    let sheet = await edit();
    await sheet.getByRole('button', { name: 'Delete trip …' }).click();
    await sheet.getByRole('button', { name: 'Delete trip', exact: true }).click();
    await page.getByTestId('trips').waitFor();
    await until(async () => !(await trips()).some((t) => t.id === last.id), 'it was gone');
    await until(async () => (await page.locator(`[data-trip="${last.id}"]`).count()) === 0, 'it was listed no more');
    await page.goto(`${served().url}/logbook`);
    await page.getByTestId('trips').waitFor();
    await ask(served(), `/waters/${last.water_id}/trips/${last.id}/restore`, 'POST', {});
    await page.goto(`${served().url}/logbook/${last.id}`);
    await onTrip(page);

    sheet = await edit();
    await sheet.getByRole('button', { name: 'Reopen trip' }).click();
    await until(async () => (await trips()).find((t) => t.id === last.id)?.end === null, 'it ran again');
    await page.getByRole('button', { name: /^Undo/ }).click();
    await until(async () => (await trips()).find((t) => t.id === last.id)?.end === last.end, 'it had ended as before');

    sheet = await edit();
    await sheet.getByText('Merge or split').click();
    await sheet.getByLabel('Another trip').selectOption(before.id);
    await sheet.getByRole('button', { name: 'Merge' }).click();
    await until(async () => (await trips()).find((t) => t.id === last.id)?.marks === last.marks + before.marks, 'both were one');
    await page.getByRole('button', { name: /^Undo/ }).click();
    await until(async () => (await trips()).find((t) => t.id === before.id)?.marks === before.marks, 'both were there again');
    await context.close();
  });

  it('has a mark moved on the map', async () => {
    const [trip] = await trips();
    const were = (await detailOf(trip.id)).contacts;
    const { page, context } = await open(`/logbook/${trip.id}`);
    await onTrip(page);
    const map = page.getByRole('application', { name: /^The trip on/ });
    await map.waitFor();
    await page.getByRole('button', { name: 'Move marks' }).click();
    await page.waitForTimeout(1500);
    const box = (await map.boundingBox())!;
    const moved = async (): Promise<boolean> => {
      const now = (await detailOf(trip.id)).contacts;
      return now.some((c) => were.find((w) => w.id === c.id)!.latitude !== c.latitude);
    };
    // Where a mark can be taken hold of, the map says so.
    const held = async (): Promise<[number, number]> => {
      for (let y = 0.2; y < 0.85; y += 0.02)
        for (let x = 0.1; x < 0.9; x += 0.02) {
          const at: [number, number] = [box.x + box.width * x, box.y + box.height * y];
          await page.mouse.move(...at);
          if (/ol-grab/.test((await page.locator('.ol-viewport').getAttribute('class'))!)) return at;
        }
      throw new Error('no mark was found on the map');
    };
    const [x, y] = await held();
    await page.mouse.down();
    await page.mouse.move(x + 40, y + 10, { steps: 5 });
    await page.mouse.up();
    await until(moved, 'a mark was at another place');
    await page.getByRole('button', { name: /^Undo/ }).click();
    await until(async () => !(await moved()), 'it was where it had been');
    await context.close();
  });
});

describe('the report for the client', () => {
  it('tells the day and the catch, prints without what was chosen for it, and leaves spots out until they are asked for', async () => {
    const trip = (await trips()).find((t) => t.landed.length > 0)!;
    const { responses, stops } = await detailOf(trip.id);
    const landed = responses.filter((r) => r.response === 'landed');
    const { page, context, errors } = await open(`/logbook/${trip.id}/report`);
    const report = page.locator('article.report');
    await report.getByText(`${landed.length} fish landed`).waitFor();
    expect(await report.locator('tbody tr').count()).to.equal(landed.length);
    expect(await report.locator('svg').count()).to.equal(0);
    expect(await violations(page)).to.deep.equal([]);

    await page.getByLabel(/^The day in your words/).fill('Fog until ten, then sun.');
    await page.getByLabel(/^Next time/).fill('Earlier.');
    await page.emulateMedia({ media: 'print' });
    expect(await page.getByRole('button', { name: 'Print or save as PDF' }).isVisible()).to.equal(false);
    expect(await page.getByRole('navigation').isVisible()).to.equal(false);
    expect((await page.pdf({ format: 'A4' })).subarray(0, 5).toString()).to.equal('%PDF-');
    await page.emulateMedia({ media: 'screen' });

    // A position of the log, to any digits that would find the spot, is nowhere in what is sent.
    const saved = async (): Promise<string> => {
      const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as a file' }).click()]);
      expect(download.suggestedFilename()).to.match(/^trip-\d{4}-\d\d-\d\d\.html$/);
      return readFileSync(await download.path(), 'utf8');
    };
    const plain = await saved();
    expect(plain)
      .to.include('Fog until ten, then sun.')
      .and.to.include('Earlier.')
      .and.to.not.include('<script')
      .and.to.not.include('<svg');
    await page.getByRole('radio', { name: 'Blurred' }).click();
    await report.locator('svg rect').first().waitFor();
    const blurred = await saved();
    expect(blurred).to.include('<rect').and.to.not.include('<circle');
    for (const { latitude, longitude } of stops) for (const v of [latitude, longitude]) expect(blurred).to.not.include(v.toFixed(3));
    await page.getByRole('radio', { name: 'Shown' }).click();
    expect(await report.locator('svg circle').count()).to.be.above(0);
    expect(errors).to.deep.equal([]);
    await context.close();
  });
});

describe('a spot', () => {
  it('is saved from a stop of a trip, listed with what it yielded, changed, deleted and brought back', async () => {
    const trip = (await trips()).find((t) => t.landed.length > 0)!;
    const { responses, stops } = await detailOf(trip.id);
    const key = responses.find((r) => r.response === 'landed' && r.stop !== null)!.stop;
    const { page, context, errors } = await open(`/logbook/${trip.id}`);
    await onTrip(page);
    const inTime = [...stops.map((s) => ({ at: s.start, key: s.stop })), ...(await detailOf(trip.id)).contacts.map((c) => ({ at: c.time, key: null }))].sort((a, b) => Date.parse(a.at) - Date.parse(b.at)); // prettier-ignore
    await page
      .getByTestId('day')
      .getByRole('button')
      .nth(inTime.findIndex((e) => e.key === key))
      .click();
    await page.getByRole('button', { name: 'Save as a spot' }).click();
    const sheet = page.getByRole('dialog');
    await sheet.getByLabel('Name').fill('Long point');
    await sheet.getByRole('button', { name: 'Save' }).click();
    // Once it is safe on the device the sheet closes.
    await dialogGone(page);
    await page.goto(`${served().url}/logbook?show=spots`);
    const spot = page.getByTestId('spots').getByRole('button', { name: /^Long point/ });
    await spot.getByText(/\d+ stops?, [\d.]+ h · .*Landed/).waitFor();
    expect(await violations(page)).to.deep.equal([]);
    await spot.click();
    await sheet.getByLabel('Notes').fill('Hard bottom to 5 m');
    await sheet.getByRole('button', { name: 'Save' }).click();
    await dialogGone(page);
    await page.getByTestId('spots').getByText('Hard bottom to 5 m').waitFor();
    await spot.click();
    await sheet.getByRole('button', { name: 'Delete spot …' }).click();
    await sheet.getByRole('button', { name: 'Delete spot', exact: true }).click();
    await page.getByText('No spot yet').waitFor();
    await page.getByRole('button', { name: /^Undo/ }).click();
    await spot.waitFor();
    expect(errors).to.deep.equal([]);
    await context.close();
  });
});
