import { expect } from 'chai';
import { destination } from '@restless-shoal/core/geo';
import { openPage, PHONE, until } from './browser';
import { ask, runningTrip } from './harness';
import { loggedWater } from './logged-water';

const place = { latitude: 48.1869, longitude: -34.5909 };

const served = loggedWater(8, 2);

interface Log {
  trip: { id: string };
  contacts: ({ id: string; count: number; version: number } & Record<string, unknown>)[];
  track: { mode: string }[];
}
const log = (): Promise<Log> => runningTrip<Log>(served());

describe('a mark on a phone', () => {
  it('is judged, told more of, gone back to, set right on two devices; the track says what it was made under', async () => {
    const { page, context, errors } = await openPage(`${served().url}/deck`, { size: PHONE, at: place });
    await page.getByText('Best few').click();
    await page.getByRole('button', { name: 'Start the trip' }).click();
    await page.getByText('48.18690, -34.59090').waitFor();
    await page.getByRole('button', { name: 'Mark 1 fish below' }).click();
    // Big ones are wanted, and of this one nobody knows.
    expect(await page.getByTestId('worth-stopping').textContent()).to.match(
      /^Go on searching: about \d+ % in 8 min \(1 fish of unknown size/,
    );
    await page.getByRole('button', { name: 'How was the position found?' }).click();
    expect(await page.getByTestId('workings').textContent()).to.match(
      /antenna at 48\.186900, -34\.590900, course 0°: target at 48\.186900/,
    );

    // More of it, each touch kept at once.
    const day = page.getByTestId('day').getByRole('button');
    await day.first().click();
    const sheet = page.getByRole('dialog');
    await sheet.getByRole('button', { name: 'One more' }).click();
    await sheet.getByRole('group', { name: 'Size' }).getByRole('button', { name: 'large' }).click();
    await sheet.getByRole('group', { name: 'Form' }).getByRole('button', { name: 'arches' }).click();
    await sheet.getByRole('group', { name: 'Cover' }).getByRole('button', { name: 'timber' }).click();
    await sheet.getByRole('group', { name: 'Side of it' }).getByRole('button', { name: 'sheltered' }).click();
    await sheet.getByRole('group', { name: 'Bait near' }).getByRole('button', { name: 'tight' }).click();
    const wanted = {
      count: 2,
      size: 'large',
      form: 'arches',
      cover: 'timber',
      side_of_cover: 'sheltered',
      notes: 'bait tight within 20 m',
    };
    await until(async () => (await log()).contacts[0].notes === wanted.notes, 'the last touch was kept');
    expect((await log()).contacts[0]).to.include(wanted);

    // Back to it from 40 m south: the caster stands 2 m forward of the antenna, the bow to the south.
    await sheet.getByRole('button', { name: 'Go back to it' }).click();
    await context.setGeolocation(destination(place, 180, 40));
    const way = page.getByTestId('go-back');
    await until(async () => /^42 m from the bow, 180° (port|starboard)/.test((await way.textContent()) ?? ''), 'it told the way back');
    await page.getByText(/stay 1?\d m off/).waitFor();
    await page.getByRole('button', { name: 'No longer go back' }).click();

    // Another device changes it; what is changed here meanwhile is not lost, nor written over the other.
    await page.waitForTimeout(1000);
    // This one does not hear of it before it writes, however slow the machine is.
    await context.route(/\/pulse$/, (route) => setTimeout(() => void route.continue().catch(() => undefined), 30_000));
    const { trip, contacts } = await log();
    const { id, version: _version, trip_id: _trip, trip: _name, deleted_at: _deleted, ...row } = contacts[0];
    await ask(served(), `/trips/${trip.id}/contacts/${id}`, 'PUT', { ...row, count: 9 });
    await day.first().click();
    await sheet.getByRole('group', { name: 'Core' }).getByRole('button', { name: 'strong' }).click();
    await sheet.getByRole('button', { name: 'Close' }).click();
    await page.getByText('Another device changed the same record').waitFor();
    await context.unroute(/\/pulse$/);
    expect((await log()).contacts[0]).to.include({ count: 9, core: null });
    await page.getByRole('button', { name: 'Keep mine' }).click();
    await until(async () => (await log()).contacts[0].core === 'strong', 'mine was written');
    expect((await log()).contacts[0]).to.include({ count: 2 });

    // The boat was under way, not looking: said afterwards.
    await page.getByRole('button', { name: 'End trip' }).click();
    await page.getByText(/^You looked at \d+\.\d ha/).waitFor();
    await page.getByRole('button', { name: 'Review the track' }).click();
    await page
      .getByLabel(/What the boat did from/)
      .first()
      .selectOption('transit');
    await until(async () => {
      const { track } = await log();
      return track.length > 0 && track.some((f) => f.mode === 'transit');
    }, 'the track was set right');
    expect(errors.filter((e) => !e.includes('409'))).to.deep.equal([]);
    await context.close();
  });
});
