import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { DESK, openPage, PHONE, until } from './browser';
import { ask } from './harness';
import { loggedWater } from './logged-water';

const served = loggedWater(8, 2);

interface Detail {
  trip: { id: string; end: string | null };
  stops: { stop: string; start: string; end: string; outcome: string | null; notes: string | null }[];
  contacts: { contact: string; same_as: string | null; stop: string | null }[];
  responses: Record<string, string | number | null>[];
}
const get = <T>(path: string): Promise<T> => ask(served(), path);
/** The newest trip, as the server has it. */
async function stored(): Promise<Detail> {
  const [water] = await get<{ id: string }[]>('/waters');
  const { trips } = await get<{ trips: { id: string; start: string }[] }>(`/waters/${water.id}/log`);
  return get<Detail>(`/trips/${trips.sort((a, b) => a.start.localeCompare(b.start)).at(-1)!.id}`);
}
const press = (page: Page, name: string | RegExp): Promise<void> => page.getByRole('button', { name }).click();

for (const [words, size] of [
  ['at 1280×800', DESK],
  ['at 390×844', PHONE],
] as const)
  describe(`a stop ${words}`, () => {
    it('runs a clock, logs what the fish did in a touch each, and is left with its outcome', async () => {
      const { page, context, errors } = await openPage(`${served().url}/deck`, { size, at: { latitude: 48.1869, longitude: -34.5909 } });
      await press(page, 'Start the trip');
      await page.getByText('48.18690, -34.59090').waitFor();
      await press(page, 'Mark 1 fish below');
      await page.getByTestId('done').waitFor();
      // Marked again after more than a double tap takes, at the same place: asked whether it is the same one, and joined in a tap.
      await page.waitForTimeout(700);
      await press(page, 'Mark 1 fish below');
      await press(page, /^Same as \d\d:\d\d, 0 m off\?/);
      await press(page, 'Fish here');
      const clock = page.getByTestId('stop-clock');
      await until(async () => /^0:0[1-9]$/.test((await clock.textContent()) ?? ''), 'the clock ran');
      await press(page, 'which lure?');
      const sheet = page.getByRole('dialog');
      await sheet.getByLabel('Lure').fill('jig');
      await sheet.getByLabel('Mass, g').fill('many');
      await press(page, 'Fish with it');
      await sheet.getByText('Mass must be a number of grams').waitFor();
      await sheet.getByLabel('Mass, g').fill('14');
      await sheet.getByRole('button', { name: 'on them' }).click();
      await sheet.getByRole('button', { name: 'falling' }).click();
      await press(page, 'Fish with it');
      await page.getByRole('button', { name: 'Cast', exact: true }).click();
      await press(page, /^Cast 1/);
      await press(page, 'Followed');
      await page.getByText('Logged: followed').waitFor();
      await press(page, 'Lost');
      await page.getByText('Logged: lost').waitFor();
      await press(page, 'Undo');
      // The stop is open on this device: it goes on after a reload.
      await page.reload();
      await clock.waitFor();
      // A double tap of a wet finger: one fish.
      await page.getByRole('button', { name: 'Landed' }).first().dblclick();
      const fish = page.getByRole('group', { name: 'The fish landed' });
      await fish.getByLabel('Length, cm').fill('62');
      await fish.getByText(/about 2\.\d kg by its length/).waitFor();
      // Saving the length must not move what is being tapped.
      const below = async (): Promise<number> =>
        (await fish.getByRole('button', { name: 'released' }).boundingBox())!.y - (await fish.boundingBox())!.y;
      const before = await below();
      await fish.getByRole('button', { name: 'released' }).click();
      await fish.getByText('saved').waitFor();
      expect(await below()).to.equal(before);
      await page.getByRole('button', { name: 'Leave', exact: true }).click();
      await page.getByRole('dialog').getByRole('button', { name: 'Fish landed' }).click();
      await clock.waitFor({ state: 'detached' });
      await until(async () => (await stored()).stops[0]?.outcome === 'fish', 'the stop was on the server');
      await until(async () => (await stored()).responses[1]?.fate === 'released', 'what became of the fish was on the server');

      const { stops, contacts, responses } = await stored();
      expect(contacts.map((c) => c.same_as)).to.deep.equal([null, contacts[0].contact]);
      expect(stops).to.have.length(1);
      expect(Date.parse(stops[0].end)).to.be.above(Date.parse(stops[0].start));
      expect(responses.map((r) => r.response)).to.deep.equal(['followed', 'landed']);
      expect(responses[0]).to.include({ lure: 'jig', lure_mass_g: 14, presentation: 'on them, falling', casts: 2, stop: stops[0].stop });
      expect(responses[1]).to.include({ species: 'zander', length_m: 0.62, fate: 'released', lure: 'jig' });
      // 5.9 g at 10 cm to a length of 62 cm: between two and three kilograms.
      expect(responses[1].mass_kg).to.be.within(2, 2.999);

      await press(page, 'End trip');
      await page.getByText('1 target in 2 marks, 0 blanks, 1 stop, 1 fish landed').waitFor();
      await page.getByText('No water readings on this trip').waitFor();
      await page.getByRole('dialog').getByRole('button', { name: 'End the trip' }).click();
      await press(page, 'Start the trip');
      await page.getByText('48.18690, -34.59090').waitFor();
      await press(page, 'Fish here');
      await clock.waitFor();
      await page.getByRole('button', { name: 'Leave', exact: true }).click();
      await press(page, 'blown off');
      await until(async () => (await stored()).stops[0]?.outcome === 'unfishable', 'a place that could not be fished is no blank');
      expect((await stored()).stops[0].notes).to.equal('blown off');
      await press(page, 'End trip');
      await page.getByRole('dialog').getByRole('button', { name: 'End the trip' }).click();
      await page.getByRole('button', { name: 'Start the trip' }).waitFor();
      await until(async () => (await stored()).trip.end !== null, 'the trip had ended');
      expect(errors).to.deep.equal([]);
      await context.close();
    });
  });
