import { expect } from 'chai';
import type { LoggedTrip, StoredGear, TripDetail } from '@restless-shoal/core/contract';
import { newId } from '@restless-shoal/core/logbook';
import { violations } from './access';
import { openPage, PHONE, until } from './browser';
import { ask, runningTrip } from './harness';
import { loggedWater } from './logged-water';

// Gear is kept once and chosen by touch; a tournament's bag is told as it fills.

const served = loggedWater(13, 3);
let trip: LoggedTrip;
const detail = (): Promise<TripDetail> => ask(served(), `/trips/${trip.id}`);
before(async () => {
  trip = (await ask<LoggedTrip[]>(served(), '/logbook')).find((t) => t.landed.length > 0)!;
});

describe('gear', () => {
  it('of the sonar is chosen with its settings on the Deck in two touches, and goes with the marks', async () => {
    await ask(served(), `/gear/${newId()}`, 'PUT', { kind: 'rig', name: 'Bow, deep', settings: 'range 25 m, 200 kHz, gain 55' });
    const { page, context, errors } = await openPage(`${served().url}/deck`, { size: PHONE, at: { latitude: 48.2, longitude: -34.6 } });
    await page.getByRole('button', { name: 'Start the trip' }).click();
    const here = page.getByRole('button', { name: /m\/s|Set the position by hand/ }).first();
    await here.click();
    await page.getByRole('group', { name: 'Sonar settings in use' }).getByRole('button', { name: 'Bow, deep' }).click();
    await page.getByText('range 25 m, 200 kHz, gain 55').waitFor();
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /^Mark .* below/ }).click();
    type Marked = { contacts: { rig: string | null; settings: string | null }[] };
    const marks = async (): Promise<Marked['contacts']> => (await runningTrip<Marked>(served())).contacts;
    await until(async () => (await marks()).length > 0, 'the mark was on the server');
    expect((await marks())[0]).to.include({ rig: 'Bow, deep', settings: 'range 25 m, 200 kHz, gain 55' });
    expect(errors).to.deep.equal([]);
    const { trip: running } = await runningTrip<{ trip: { id: string; water_id: string } }>(served());
    await ask(served(), `/waters/${running.water_id}/trips/${running.id}`, 'DELETE');
    const [{ id }] = await ask<StoredGear[]>(served(), '/gear');
    await ask(served(), `/gear/${id}`, 'DELETE');
    await context.close();
  });

  it('is added, told when a name is taken, found by a word, chosen for a fish with one touch, deleted and brought back', async () => {
    const { page, context, errors } = await openPage(`${served().url}/logbook?show=gear`, { size: PHONE });
    await page.getByText('No gear yet').waitFor();
    expect(await violations(page)).to.deep.equal([]);
    const sheet = page.getByRole('dialog');
    const add = async (name: string, fields: [string, string][]): Promise<void> => {
      await page.getByRole('button', { name: 'Add gear' }).click();
      await sheet.getByLabel('Name').fill(name);
      for (const [label, value] of fields) await sheet.getByLabel(label).fill(value);
      await sheet.getByRole('button', { name: 'Save' }).click();
    };
    await add('Silver spoon', [['Mass, g', 'heavy']]); // prettier-ignore
    await sheet.getByText('Mass must be a number, in g.').waitFor();
    await sheet.getByLabel('Mass, g').fill('18');
    await sheet.getByLabel('Sink rate, m/s').fill('0.6');
    await sheet.getByLabel('Colour').fill('silver');
    await sheet.getByRole('button', { name: 'Save' }).click();
    await page.getByText('18 g · silver · sinks 0.6 m/s').waitFor();
    await add('silver SPOON', []);
    await sheet.getByText('There is one called “silver SPOON” already.').waitFor();
    expect(await violations(page)).to.deep.equal([]);
    await page.keyboard.press('Escape');
    await page.getByLabel('Search all that is written').fill('spinner');
    await page.getByText('No gear matches.').waitFor();

    await page.goto(`${served().url}/logbook/${trip.id}`);
    const fish = (await detail()).responses.filter((r) => r.response === 'landed').sort((a, b) => a.time.localeCompare(b.time))[0];
    await page
      .getByRole('button', { name: /^\d\d:\d\d Landed/ })
      .first()
      .click();
    await sheet.getByRole('group', { name: 'My lures' }).getByRole('button', { name: /^Silver spoon/ }).click(); // prettier-ignore
    await sheet.getByLabel('Angler').fill('A client');
    await sheet.getByRole('button', { name: 'Save' }).click();
    await until(async () => {
      const now = (await detail()).responses.find((r) => r.id === fish.id)!;
      return now.lure === 'Silver spoon' && now.lure_mass_g === 18 && now.lure_colour === 'silver' && now.angler === 'A client';
    }, 'the fish had the lure and the angler');

    await page.goto(`${served().url}/logbook?show=gear`);
    await page.getByRole('button', { name: /^Silver spoon/ }).click();
    await sheet.getByRole('button', { name: 'Delete gear …' }).click();
    await sheet.getByRole('button', { name: 'Delete gear', exact: true }).click();
    await page.getByText('No gear yet').waitFor();
    await page.getByRole('button', { name: /^Undo/ }).click();
    await page.getByRole('button', { name: /^Silver spoon/ }).waitFor();
    await until(async () => (await ask<StoredGear[]>(served(), '/gear')).length === 1, 'it was on the server again');

    // A rod goes with the fish that it took.
    const rod = newId();
    await ask(served(), `/gear/${rod}`, 'PUT', { kind: 'rod', name: 'Short blue', length_m: 2.1 });
    await page.goto(`${served().url}/logbook/${trip.id}`);
    await page.getByRole('button', { name: /^\d\d:\d\d Landed.*Silver spoon/ }).click();
    await sheet.getByRole('group', { name: 'My rods' }).getByRole('button', { name: 'Short blue' }).click();
    await sheet.getByRole('button', { name: 'Save' }).click();
    await until(async () => (await detail()).responses.find((r) => r.id === fish.id)!.rod === 'Short blue', 'the fish had its rod');
    await ask(served(), `/gear/${rod}`, 'DELETE');
    expect(errors).to.deep.equal([]);
    await context.close();
  });
});

describe('the bag of a tournament', () => {
  it('says on the Deck what counts, what may go back and what the next fish has to weigh; its rules are set there', async () => {
    const running = newId();
    const start = new Date(Date.now() - 3 * 3_600_000).toISOString();
    await ask(served(), `/waters/${trip.water_id}/trips/${running}`, 'PUT', { trip: 'the cup', start, end: null, purpose: 'tournament' });
    for (const mass_kg of [1.1, 2.4, 0.7])
      await ask(served(), `/trips/${running}/responses/${newId()}`, 'PUT', { time: start, response: 'landed', species: 'zander', mass_kg });
    const { page, context, errors } = await openPage(`${served().url}/deck`, { size: PHONE });
    await page.getByRole('button', { name: 'Bag 3/5' }).click();
    const sheet = page.getByRole('dialog', { name: 'Bag' });
    await sheet.getByText('Room for 2 more.').waitFor();
    expect(await violations(page)).to.deep.equal([]);
    await sheet.getByLabel('Fish that count').fill('2');
    await sheet.getByRole('button', { name: 'Save rules' }).click();
    await page.getByRole('button', { name: 'Bag 2/2' }).click();
    await sheet.getByText('2 of 2 fish, 3.5 kg').waitFor();
    await sheet.getByText('The next fish has to weigh more than 1.1 kg.').waitFor();
    expect(await sheet.getByRole('list', { name: 'Can be released' }).textContent()).to.include('0.7 kg');
    await until(async () => (await ask<TripDetail>(served(), `/trips/${running}`)).trip.bag === 2, 'the rule was on the server');
    await page.goto(`${served().url}/logbook?show=seasons`);
    const records = page.getByRole('region', { name: 'Records' });
    expect(await records.getByRole('row', { name: /^Zander/ }).textContent()).to.include('2.4 kg');
    expect(await violations(page)).to.deep.equal([]);
    expect(errors).to.deep.equal([]);
    await ask(served(), `/waters/${trip.water_id}/trips/${running}`, 'DELETE');
    await context.close();
  });
});
