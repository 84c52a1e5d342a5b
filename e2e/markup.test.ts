import { expect } from 'chai';
import { newId } from '@restless-shoal/core/logbook';
import { openPage } from './browser';
import { ask } from './harness';
import { loggedWater } from './logged-water';

// Names are anybody's words: of waters, species, lures, spots. Wherever they are shown they are text.

const served = loggedWater(8, 2);
const told = async (path: string, method: string, body: object): Promise<void> => {
  expect(await ask<object>(served(), path, method, body), path).to.not.have.property('error');
};
const MARKUP = '<img src=x onerror=alert(1)>';

describe('a name that is markup', () => {
  before(async () => {
    const server = served();
    const [{ id: water }] = await ask<{ id: string }[]>(server, '/waters');
    await told(`/waters/${water}`, 'PUT', { name: `${MARKUP} Mere` });
    const { trips } = await ask<{ trips: { id: string; start: string }[] }>(server, `/waters/${water}/log`);
    const trip = await ask<{ contacts: { id: string; latitude: number; longitude: number; time: string }[] }>(
      server,
      `/trips/${trips[0].id}`,
    );
    // Where fish were seen, so that the new species is among what Patterns and Forecast can show.
    for (const { latitude, longitude, time } of trip.contacts.slice(0, 12)) {
      const contact = newId();
      await told(`/trips/${trips[0].id}/contacts/${contact}`, 'PUT', { contact, time, latitude, longitude, kind: 'fish', species: MARKUP, top_m: 3, notes: MARKUP }); // prettier-ignore
    }
    const [{ time }] = trip.contacts;
    await told(`/trips/${trips[0].id}/responses/${newId()}`, 'PUT', {
      time,
      response: 'landed',
      species: MARKUP,
      lure: MARKUP,
      notes: MARKUP,
    });
    const { latitude, longitude } = trip.contacts[0];
    await told(`/waters/${water}/plan`, 'POST', { places: [{ id: newId(), name: MARKUP, latitude, longitude, depth_m: 4 }] });
    const cover = { kind: 'hazard', name: MARKUP, geometry: { type: 'Point', coordinates: [longitude, latitude] } };
    await told(`/waters/${water}/cover`, 'POST', cover);
  });
  for (const path of [
    '/waters',
    '/brief',
    '/chart?tool=shapes',
    '/deck',
    '/patterns',
    `/patterns?by=shape&beside=${encodeURIComponent(`fish:${MARKUP}`)}`,
    '/patterns?page=mood',
    '/forecast',
  ])
    it(`is text on ${path}`, async () => {
      const { page, context } = await openPage(`${served().url}${path}`);
      let asked = false;
      page.on('dialog', (dialog) => {
        asked = true;
        void dialog.dismiss();
      });
      // The choice of waters holds the name too, and is not seen until it opens.
      await page.getByText('Mere').filter({ visible: true }).first().waitFor({ timeout: 150_000 });
      await page.waitForTimeout(1500);
      expect((await page.locator('body').textContent())!).to.include(MARKUP);
      expect(await page.locator('img[src="x"]').count()).to.equal(0);
      expect(asked).to.equal(false);
      await context.close();
    });
});
