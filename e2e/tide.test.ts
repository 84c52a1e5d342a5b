import { expect } from 'chai';
import { newId } from '@restless-shoal/core/logbook';
import { violations } from './access';
import { closeBrowser, openPage, ownErrors, until } from './browser';
import { ask, temporaryFolder, serve, type RunningServer } from './harness';

const water = newId();
const [west, south] = [-34.7, 48.3];
const ring = [[west, south], [west + 0.03, south], [west + 0.03, south + 0.02], [west, south + 0.02], [west, south]]; // prettier-ignore

describe('a coast with a tide', () => {
  let served: RunningServer;
  const data = temporaryFolder();
  before(async () => {
    served = await serve(data.path);
    await ask(served, `/waters/${water}`, 'PUT', { name: 'Sallow Sound', kind: 'coast', time_zone: 'Etc/UTC', outline: { type: 'Polygon', coordinates: [ring] } }); // prettier-ignore
  });
  after(async () => {
    await closeBrowser();
    await served.stop();
    data.remove();
  });
  const kept = () => ask<{ tide: { constants: object[]; turns: object[] } | null }>(served, `/waters/${water}`);

  it('has no layers of a lake; its tide is given by a made-up set or a typed table, shown as a curve on the Brief and in the Strip, and removed', async () => {
    const { page, context, errors } = await openPage(`${served.url}/brief?water=Sallow+Sound`);
    const tide = page.getByTestId('tide');
    await tide.getByText('No tide is known for this coast').waitFor();
    const strip = page.getByRole('banner');
    expect(await strip.textContent()).to.not.match(/thermocline|oxygen/i);
    expect(await page.getByTestId('brief').textContent()).to.not.match(/Lake number|A thermocline/);
    await tide.getByRole('button', { name: 'Simulated tide' }).click();
    await tide.getByTestId('tide-curve').waitFor();
    expect((await kept()).tide!.constants.length).to.be.above(5);
    await strip.getByTestId('strip-tide').waitFor();
    await strip.getByText(/(rising|falling), HW [+−]\d:\d\d/).waitFor();
    expect(await violations(page)).to.deep.equal([]);

    // A typed table about now takes its place; a line that can't be read is told and loses nothing.
    const hour = 3_600_000;
    const now = Math.floor(Date.now() / hour) * hour;
    const row = (hours: number, height: number): string => `${new Date(now + hours * hour).toISOString()},${height}`;
    const table = ['time,height_m', row(-8, 3.9), row(-2, 0.8), row(4, 4.1), row(10, 'high' as never), row(16, 4.0), row(22, 1.0)].join(
      '\n',
    );
    await tide.getByLabel('Import tide table (CSV)').setInputFiles({ name: 'tide.csv', mimeType: 'text/csv', buffer: Buffer.from(table) });
    await tide.getByText('Line 5, height_m: “high” is not a number. Left out.').waitFor();
    await tide.getByText(/over the datum, rising\. High water .*4\.1 m/).waitFor();
    expect((await kept()).tide).to.deep.include({ constants: [] });
    expect((await kept()).tide!.turns.length).to.equal(5);
    await tide
      .getByLabel('Import tide table (CSV)')
      .setInputFiles({ name: 'tide.csv', mimeType: 'text/csv', buffer: Buffer.from('a,b\n1,2\n') });
    await tide.getByText('tide.csv needs the columns').waitFor();
    expect((await kept()).tide!.turns.length).to.equal(5);

    // Fresh water over salt: a profile with salinities shows where one ends.
    await page.getByRole('button', { name: 'Add temperature profile' }).click();
    const form = page.getByRole('dialog');
    await form.getByLabel('Readings').fill('0 14.2 9\n1 14.1 10\n2 13.9 12\n3 12.8 26\n4 12.4 29\n6 12.2 30');
    await form.getByText(/^halocline 2\.\d–2\.\d m, 10 over 28$/).waitFor();
    await form.getByRole('button', { name: 'Log this profile, 6 readings' }).click();
    await page.getByText(/Halocline at 2\.\d–2\.\d m: salinity 10 above it, 28 below\./).waitFor();
    const salt = async (): Promise<string> =>
      (await ask<{ profiles: { salinity: number | null }[] }>(served, `/waters/${water}/log`)).profiles.map((p) => p.salinity).join(' ');
    await until(async () => (await salt()) === '9 10 12 26 29 30', 'the profile was sent');
    expect(await violations(page)).to.deep.equal([]);

    await tide.getByRole('button', { name: 'Remove the tide' }).click();
    await tide.getByText('No tide is known').waitFor();
    expect((await kept()).tide).to.equal(null);
    expect(ownErrors(errors)).to.deep.equal([]);
    await context.close();
  });
});
