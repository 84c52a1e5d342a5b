import { expect } from 'chai';
import { destination, type LatLon } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import { violations } from './access';
import { DESK, openPage, PHONE, until } from './browser';
import { ask, runningTrip } from './harness';
import { loggedWater } from './logged-water';

// The sonar's arithmetic as it is asked for on the water: one slider, and what follows from it.

const served = loggedWater(14, 2);

describe('the Bench', () => {
  it('says what a beam shows and hides as its sliders are moved, by keys too, and keeps them', async () => {
    const { page, context, errors } = await openPage(`${served().url}/bench`, { size: PHONE });
    const says = page.getByRole('list', { name: 'What follows' });
    await says.getByText('it draws an arch').waitFor();
    const slider = async (name: string, keys: string, times: number): Promise<void> => {
      await page.getByRole('slider', { name }).focus();
      for (let k = 0; k < times; k++) await page.keyboard.press(keys);
    };
    // 10 m and 20°: 3.53 m at the bottom.
    await says.getByText('The beam is 3.5 m wide at the bottom').waitFor();
    await slider('Slope of the bottom', 'ArrowRight', 20);
    await says.getByText('at the deep edge of the beam').waitFor();
    await slider('Ping rate', 'Home', 1);
    await slider('Boat speed', 'End', 1);
    await says.getByText(/Only \d pings meet the fish/).waitFor();
    await slider('Range', 'Home', 1);
    await says.getByText('The range ends above the bottom').waitFor();
    await page.reload();
    await says.getByText('The range ends above the bottom').waitFor();
    expect(await violations(page)).to.deep.equal([]);
    expect(errors).to.deep.equal([]);
    await context.close();
  });

  it('reads a side-scan with errors, and never puts a shadow before its echo', async () => {
    const { page, context, errors } = await openPage(`${served().url}/bench?show=side-scan`, { size: DESK, theme: 'night' });
    const shadow = page.getByRole('slider', { name: 'Slant range of its shadow' });
    // 8 m over the bottom, echo at 14, shadow at 18: 8·(1 − 14/18) = 1.78 m over the bottom, √(14² − 6.22²) = 12.54 m off.
    await page.getByText(/^1\.78 m ±|^1\.8 m ±/).waitFor();
    await page.getByText(/^12\.5\d? m ±|^13 m ±/).waitFor();
    await shadow.focus();
    await page.keyboard.press('Home');
    await page.getByText(/^0\.0 m ±/).waitFor();
    await page.getByRole('radio', { name: 'Stands' }).click();
    await page.getByText('Height of the object').waitFor();
    expect(await violations(page)).to.deep.equal([]);
    expect(errors).to.deep.equal([]);
    await context.close();
  });

  it('tells offset and delay of a simulated boat, and a mark on the Deck moves by what was kept', async () => {
    const at = { latitude: 48.2, longitude: -34.6 };
    const { page, context, errors } = await openPage(`${served().url}/bench?show=tuning`, { size: PHONE, at });
    await page.getByLabel('With the simulated boat').first().check();
    const mounted = (await page.getByText(/passes of a simulated boat/).textContent())!;
    const [forward] = [...mounted.matchAll(/([-−]?[\d.]+) m/g)].map((m) => Number(m[1].replace('−', '-')));
    const said = (await page.getByLabel('What the passes tell').textContent())!;
    expect(Number(/antenna([-−]?[\d.]+) m/.exec(said)![1].replace('−', '-')), `${said}, ${mounted}`).to.be.closeTo(forward, 1.5);
    await page.getByRole('button', { name: 'Use on this device’s rig' }).click();
    await page.getByRole('button', { name: 'In use: new marks are placed by it' }).waitFor();
    const rig = await page.evaluate(() => JSON.parse(localStorage.getItem('rig')!) as { forward: number; starboard: number });
    await page.getByRole('link', { name: 'Deck' }).click();
    await page.getByRole('button', { name: 'Start the trip' }).click();
    await page.getByRole('button', { name: 'Mark 1 fish below' }).click();
    type Running = { trip: { id: string; water_id: string }; contacts: LatLon[] };
    await until(async () => (await runningTrip<Running>(served())).contacts.length > 0, 'the mark was on the server');
    const { trip, contacts } = await runningTrip<Running>(served());
    const off = Math.hypot((contacts[0].latitude - at.latitude) * 111_195, (contacts[0].longitude - at.longitude) * 74_100);
    expect(off, 'm from the antenna').to.be.closeTo(Math.hypot(rig.forward, rig.starboard), 0.3);
    expect(errors).to.deep.equal([]);
    await ask(served(), `/waters/${trip.water_id}/trips/${trip.id}`, 'DELETE');
    await context.close();
  });

  it('finds the gain for the smallest target with the simulated boat, keeps it, and says how far fish are seen with it', async () => {
    const { page, context, errors } = await openPage(`${served().url}/bench?show=tuning`, { size: PHONE });
    const run = page.getByRole('region', { name: 'Gain: the smallest target' });
    await run.getByLabel('With the simulated boat').check();
    await run.getByRole('img', { name: /sounder picture/ }).waitFor();
    await run.getByText('Six tries at least').waitFor();
    const step = async (name: string, times: number): Promise<void> => {
      for (let k = 0; k < times; k++) await run.getByRole('button', { name }).click();
    };
    /** Looks at the picture as drawn, where the target hangs: dark echoes on light water. */
    const shows = (): Promise<boolean> =>
      run.getByRole('img', { name: /sounder picture/ }).evaluate((canvas: HTMLCanvasElement) => {
        const { width, height } = canvas;
        const range = Math.ceil((6 + 3) * 1.2);
        const [from, to] = [5.2, 6.9].map((d) => Math.round(((d - 0.4) / range) * height));
        const { data } = canvas.getContext('2d')!.getImageData(Math.round(0.15 * width), from, Math.round(0.8 * width), to - from);
        let dark = 0;
        for (let i = 0; i < data.length; i += 4) if (data[i] + data[i + 1] + data[i + 2] < 400) dark++;
        return dark > 0.01 * (data.length / 4);
      });
    await step('Lower gain', 8);
    const said: boolean[] = [];
    for (let level = 0; level <= 100; level += 10) {
      said.push(await shows());
      await run.getByRole('button', { name: said.at(-1) ? 'I see it' : 'I do not' }).click();
      await step('Higher gain', 2);
    }
    // At no gain it is lost, at full gain it shows.
    expect(said[0], said.join()).to.equal(false);
    expect(said.at(-1), said.join()).to.equal(true);
    const use = Number(/Gain to use: (\d+)/.exec((await run.getByText(/^Gain to use/).textContent())!)![1]);
    expect(use).to.be.within(10 * said.indexOf(true) - 15, 10 * said.lastIndexOf(false) + 40);
    expect(await violations(page)).to.deep.equal([]);
    await run.getByRole('button', { name: 'Keep it on this device’s rig' }).click();
    await page.getByRole('radio', { name: 'Beams' }).click();
    await page.getByRole('list', { name: 'What follows' }).getByText(`At your tuned gain (${use}) this fish is seen to`).waitFor();
    const advice = page.getByRole('region', { name: 'Settings to begin with' });
    await advice.getByText('Gain for fish').waitFor();
    await advice.getByRole('radio', { name: 'Hard and soft bottom' }).click();
    await advice.getByText('second echo of the bottom').waitFor();
    expect(errors).to.deep.equal([]);
    await context.close();
  });

  it('finds the gain at which hard bottom stands out most from soft', async () => {
    const { page, context, errors } = await openPage(`${served().url}/bench?show=tuning`, { size: PHONE, theme: 'night' });
    const run = page.getByRole('region', { name: 'Gain: hard and soft bottom' });
    const set = async (hard: number, soft: number): Promise<void> => {
      for (const [name, value] of [['Hard bottom', hard], ['Soft bottom', soft]] as const) await run.getByRole('slider', { name }).fill(String(value)); // prettier-ignore
      await run.getByRole('button', { name: 'Note it' }).click();
      await run.getByRole('button', { name: 'Higher gain' }).click();
    };
    for (const [hard, soft] of [[4, 2], [8, 3], [10, 8]]) await set(hard, soft); // prettier-ignore
    await run.getByText('stand apart most at gain 45: 5').waitFor();
    expect(await violations(page)).to.deep.equal([]);
    expect(errors).to.deep.equal([]);
    await context.close();
  });

  it('tells offset and delay from four passes by one object, and new marks on the Deck are placed by them', async () => {
    const [{ id: water, latitude, longitude }] = await ask<({ id: string } & LatLon)[]>(served(), '/waters');
    const object: LatLon = { latitude: latitude ?? 48.187, longitude: longitude ?? -34.59 };
    const truth = { forward: -2, starboard: 0.5, delay: 2 };
    const trip = newId();
    const start = Date.now() - 3_600_000;
    await ask(served(), `/waters/${water}/trips/${trip}`, 'PUT', {
      trip: 'passes',
      start: new Date(start).toISOString(),
      end: null,
      purpose: 'practice',
    });
    for (const [k, [course, speed]] of [
      [40, 1],
      [220, 1],
      [40, 3],
      [220, 3],
    ].entries()) {
      // prettier-ignore
      // The antenna is where the object would be, had it no offset and the picture no delay.
      const along = -truth.forward + speed * truth.delay;
      const antenna = destination(destination(object, course, along), course - 90, truth.starboard);
      const at = start + 300_000 * (k + 1);
      const fixes = Array.from({ length: 21 }, (_, j) => ({
        time: new Date(at + 1000 * (j - 10)).toISOString(),
        ...destination(antenna, course, speed * (j - 10)),
        mode: 'scan',
        view: 'sounder',
      }));
      await ask(served(), `/trips/${trip}/track`, 'POST', fixes);
      await ask(served(), `/trips/${trip}/contacts/${newId()}`, 'PUT', {
        time: new Date(at).toISOString(),
        ...antenna,
        kind: 'cover',
        view: 'sounder',
      });
    }
    const { page, context, errors } = await openPage(`${served().url}/bench?show=tuning`, { at: object });
    const says = page.getByLabel('What the passes tell');
    await says.getByText(/^[-−]2(\.\d)? m \(/).waitFor();
    const told = (await says.textContent())!;
    expect(told, told).to.match(/starboard\s*0\.5\d? m \(/);
    expect(told, told).to.match(/picture\s*(1\.9|2\.0|2\.1|2) s \(/);
    expect(await violations(page)).to.deep.equal([]);
    await page.getByRole('button', { name: 'Use on this device’s rig' }).click();
    await page.getByRole('button', { name: 'In use: new marks are placed by it' }).waitFor();
    // What the passes tell stays as it was: their marks were placed by the rig of their time.
    await page.reload();
    await says.waitFor();
    expect(await says.textContent()).to.equal(told);
    // A mark straight below lies where the transducer is, not where the antenna is.
    await page.getByRole('link', { name: 'Deck' }).click();
    await page.getByRole('button', { name: 'Mark 1 fish below' }).click();
    const fish = async () =>
      (await runningTrip<{ contacts: ({ kind: string } & LatLon)[] }>(served())).contacts.find((c) => c.kind === 'fish');
    await until(async () => Boolean(await fish()), 'the mark was on the server');
    const rig = await page.evaluate(() => JSON.parse(localStorage.getItem('rig')!) as { forward: number; delay: number });
    expect(rig.forward).to.be.closeTo(-2, 0.1);
    expect(rig.delay).to.be.closeTo(2, 0.1);
    const off = Math.hypot(((await fish())!.latitude - object.latitude) * 111_195, ((await fish())!.longitude - object.longitude) * 74_100);
    expect(off, 'm from the antenna').to.be.closeTo(Math.hypot(2, 0.5), 0.3);
    expect(errors).to.deep.equal([]);
    await ask(served(), `/waters/${water}/trips/${trip}`, 'DELETE');
    await context.close();
  });
});
