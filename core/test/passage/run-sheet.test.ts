import { expect } from 'chai';
import { buildChart } from '../../src/chart';
import type { Point } from '../../src/geo';
import { waveHeight } from '../../src/lake';
import { seeded } from '../../src/numbers';
import {
  accountOf,
  homeRoughFrom,
  nextThree,
  readWeather,
  runSheet,
  Sea,
  simulatedWeather,
  thunderFrom,
  weatherAt,
  weatherGaps,
  windAgainstTideFrom,
  windOfDay,
  type SheetInputs,
  type SheetSpot,
} from '../../src/passage';
import { extremesOf, SIMULATED_TIDE, tideOf } from '../../src/tide';
import { boatWater, EAST, NORTH, rectangle } from '../support/boat-water';

const HOUR = 3_600_000;
const rings = rectangle(3000, 1500);
const water = boatWater({ rings });
const ramp: Point = [EAST + 100, NORTH + 100];
const spot = (id: string, x: number, y: number, more: Partial<SheetSpot> = {}): SheetSpot => ({
  id,
  at: [EAST + x, NORTH + y],
  chance: [0.5],
  brings: 1,
  pace: 10,
  opens: null,
  closes: null,
  pinned: false,
  stay: null,
  ...more,
});
const inputs = (more: Partial<SheetInputs> = {}): SheetInputs => ({
  spots: [spot('near', 600, 300), spot('middle', 1500, 700), spot('far', 2800, 1400, { chance: [0.1] })],
  waters: [water],
  start: ramp,
  end: ramp,
  from: 0,
  to: 2 * HOUR,
  step: 60,
  fuel: null,
  waveLimit: null,
  sea: null,
  wind: () => ({ from: 270, speed: 4, gust: 6 }),
  ...more,
});

describe('the run sheet', () => {
  it('has ways, times and what is left out, and comes home in time', () => {
    const sheet = runSheet(inputs());
    expect(sheet.legs.map((l) => l.id).sort()).to.include.members(['middle', 'near']);
    let at = 0;
    for (const leg of sheet.legs) {
      expect(leg.depart).to.be.closeTo(at, 1);
      // The way at 9 m/s, and five minutes to set up.
      expect(leg.arrive - leg.depart).to.be.closeTo((leg.way.metres / 9) * 1000 + 5 * 60_000, 20);
      expect(leg.leave - leg.arrive).to.be.closeTo(leg.stay * 60_000, 1e-6);
      at = leg.leave;
    }
    expect(sheet.home!.arrive).to.be.at.most(2 * HOUR);
    expect(sheet.expected).to.be.closeTo(
      sheet.legs.reduce((s, l) => s + l.expected, 0),
      1e-9,
    );
    expect(sheet.legs.length + sheet.leftOut.length).to.equal(3);
  });

  it('a poor spot that is put in by hand costs what the sheet said it would', () => {
    const short = inputs({ to: HOUR });
    const free = runSheet(short);
    const out = free.leftOut.find((l) => l.id === 'far')!;
    expect(out.says.code).to.equal('left-out.less');
    const forced = runSheet({ ...short, spots: short.spots.map((s) => (s.id === 'far' ? { ...s, pinned: true } : s)) });
    expect(forced.legs.map((l) => l.id)).to.include('far');
    expect(free.expected - forced.expected).to.be.closeTo(Number(out.says.values.cost), 0.03);
  });

  it('keeps the order that is set by hand, at the stays that bring most', () => {
    const sheet = runSheet(inputs({ order: ['far', 'near'], orderIsAll: true }));
    expect(sheet.legs.map((l) => l.id)).to.deep.equal(['far', 'near']);
    expect(sheet.legs[1].stay).to.be.above(sheet.legs[0].stay);
  });

  it('says what is missing, and plans what it can', () => {
    const trouble = (more: Partial<SheetInputs>): string[] => runSheet(inputs(more)).troubles.map((t) => t.code);
    expect(trouble({ to: 0 })).to.deep.equal(['sheet.end-before-start']);
    expect(trouble({ spots: [] })).to.deep.equal(['sheet.no-spots']);
    expect(trouble({ end: [EAST - 400, NORTH] })).to.deep.equal(['sheet.end-on-land']);
    expect(trouble({ start: [EAST - 400, NORTH] })).to.deep.equal(['sheet.start-on-land']);
    expect(trouble({ to: 5 * 60_000 })).to.deep.equal(['sheet.none-fits']);
    const blind = runSheet(inputs({ wind: () => null, waters: [boatWater({ rings, bottom: () => NaN })] }));
    expect(blind.troubles.map((t) => t.code)).to.have.members(['sheet.no-wind', 'sheet.uncharted']);
    expect(blind.legs.length).to.be.above(0);
    expect(blind.legs[0].waves).to.equal(null);
    const closed = runSheet(inputs({ spots: [spot('shut', 600, 300, { closes: 1 }), spot('open', 700, 300)] }));
    expect(closed.leftOut[0].says.code).to.equal('left-out.window');
    expect(runSheet(inputs({ fuel: { cruise: 30, most: 0.05 } })).troubles.at(-1)!.code).to.equal('sheet.none-fits');
  });
});

const chart = ((): ReturnType<typeof buildChart> => {
  const grid = { x: [] as number[], y: [] as number[], depth: [] as number[], hardness: [] as number[] };
  for (let y = 10; y < 1500; y += 40)
    for (let x = 10; x < 3000; x += 40) {
      grid.x.push(EAST + x);
      grid.y.push(NORTH + y);
      grid.depth.push(x < 1500 ? 3 : 10);
      grid.hardness.push(y > 750 ? 0.9 : 0.2);
    }
  return buildChart(32631, rings, grid);
})();

describe('the sea along a run', () => {
  const sea = new Sea(chart.cells);
  it('is that of fetch and depth: hardly any under the weather shore, and what the formula says at the far end', () => {
    const west = sea.at([EAST + 40, NORTH + 750], 270, 10);
    const east = sea.at([EAST + 2960, NORTH + 750], 270, 10);
    expect(west).to.be.below(0.1);
    // 2,960 m straight; to either side the shores of 750 m cut it: between half of it and all.
    expect(east).to.be.within(waveHeight(10, 1400, 7), waveHeight(10, 2960, 8.5));
    expect(sea.along([[EAST + 40, NORTH + 750], [EAST + 2960, NORTH + 750]], 270, 10)).to.be.closeTo(east, 0.02); // prettier-ignore
  });
  it('tells from when on the way home is too rough, gusts counted', () => {
    const home = { points: [[EAST + 2900, NORTH + 700], [EAST + 2500, NORTH + 700]] as Point[], metres: 400, seconds: 45 }; // prettier-ignore
    const wind = (at: number) => ({ from: 270, speed: 2 + at / HOUR, gust: 4 + at / HOUR });
    const from = homeRoughFrom(sea, home, wind, 0, 12 * HOUR, 0.25)!;
    const at = (t: number): number => sea.along(home.points, 270, (wind(t).speed + wind(t).gust) / 2);
    expect(at(from)).to.be.above(0.25);
    expect(at(from - 900_000)).to.be.at.most(0.25);
    expect(homeRoughFrom(sea, home, () => ({ from: 270, speed: 1, gust: 1 }), 0, 12 * HOUR, 0.25)).to.equal(null);
  });
});

describe('wind against tide', () => {
  it('is told from the hour on at which a fresh wind stands against the stream; not without a stream or a wind', () => {
    const high = extremesOf(tideOf(SIMULATED_TIDE)!, 0, 26 * HOUR).find((t) => t.high)!.at;
    // Two hours before high water the stream sets to 70°; a wind from there stands against it, until it turns.
    const wind = () => ({ from: 70, speed: 9, gust: 12 });
    const from = windAgainstTideFrom(SIMULATED_TIDE, wind, high - 9 * HOUR, high + 6 * HOUR)!;
    expect((from - high) / HOUR).to.be.within(-6, -2);
    expect(windAgainstTideFrom(SIMULATED_TIDE, () => ({ from: 250, speed: 9, gust: 9 }), high - 4 * HOUR, high)).to.equal(null);
    expect(windAgainstTideFrom(SIMULATED_TIDE, () => null, high - 6 * HOUR, high)).to.equal(null);
    expect(windAgainstTideFrom(null, wind, high - 6 * HOUR, high)).to.equal(null);
  });
});

describe('weather by hour', () => {
  it('is read in any order of columns, faults named by line, and told between hours as a vector', async () => {
    const { hours, faults, unknown } = await readWeather(
      'wind_speed_ms;time;wind_from_deg;mood\n4;2026-05-02T06:00:00Z;350;good\n\n6;2026-05-02T08:00:00Z;30;\nx;2026-05-02T09:00:00Z;700;\n5;tomorrow;10;\n5;2026-05-02T06:00:00Z;10;\n',
    );
    expect(hours.map((h) => [new Date(h.at).getUTCHours(), h.windSpeed, h.windFrom])).to.deep.equal([
      [6, 4, 350],
      [8, 6, 30],
      [9, null, null],
    ]);
    expect(faults.map((f) => [f.line, f.column, f.reason])).to.deep.equal([
      [5, 'wind_speed_ms', 'number'],
      [5, 'wind_from_deg', 'impossible'],
      [6, 'time', 'time'],
      [7, 'time', 'twice'],
    ]);
    expect(unknown).to.deep.equal(['mood']);
    const seven = weatherAt(hours, Date.parse('2026-05-02T07:00:00Z'));
    expect(seven.windSpeed).to.equal(5);
    // Through north, a little nearer to the stronger wind.
    expect(seven.windFrom).to.be.within(10, 18);
    expect(weatherAt(hours, Date.parse('2026-05-02T12:00:00Z')).windSpeed).to.equal(null);
    const gaps = weatherGaps(hours, Date.parse('2026-05-02T05:00:00Z'), Date.parse('2026-05-02T10:00:00Z'));
    expect(gaps.map((g) => g.map((t) => new Date(t).toISOString().slice(11, 16)))).to.deep.equal([
      ['05:00', '05:30'],
      ['08:45', '10:00'],
    ]);
  });
  it('says what is no table of it, and takes a decimal comma', async () => {
    const failed = async (text: string): Promise<string> => readWeather(text).then(() => '', (e: Error) => e.message); // prettier-ignore
    expect(await failed('')).to.match(/empty/);
    expect(await failed('when,wind_speed_ms\n')).to.match(/"time"/);
    expect(await failed('time,mood\n')).to.match(/wind_from_deg/);
    expect((await readWeather('time;wind_speed_ms\n2026-05-02T06:00:00Z;4,5\n')).hours[0].windSpeed).to.equal(4.5);
  });
  it('gives the wind of a day: the table’s, with its gusts, nothing in a gap of it, and the reading where there is none', async () => {
    const read = { windFrom: 200, windSpeed: 3 };
    expect(windOfDay([], read)(0)).to.deep.equal({ from: 200, speed: 3, gust: 3 });
    const { hours } = await readWeather('time,wind_from_deg,wind_speed_ms,gust_ms\n2026-06-01T06:00Z,90,4,7\n2026-06-01T16:00Z,90,5,\n');
    const wind = windOfDay(hours, read);
    expect(wind(Date.parse('2026-06-01T06:00Z'))).to.deep.equal({ from: 90, speed: 4, gust: 7 });
    expect(wind(Date.parse('2026-06-01T16:00Z'))).to.deep.equal({ from: 90, speed: 5, gust: 5 });
    expect(wind(Date.parse('2026-06-01T11:00Z'))).to.equal(null);
  });
  it('a simulated day has no gaps and freshens in the afternoon', () => {
    const day = Date.parse('2026-06-10T05:00:00Z');
    const hours = simulatedWeather(
      day,
      day + 12 * HOUR,
      { windFrom: 240, windSpeed: 4, cloud: 0.5, airTemperature: 18, pressure: 1013 },
      0,
    );
    expect(weatherGaps(hours, day, day + 12 * HOUR)).to.deep.equal([]);
    expect(thunderFrom(hours, day, day + 12 * HOUR)).to.equal(null);
    // From nothing at the sixth hour to one half at the seventh: a fifth after 24 minutes, seen on the quarter.
    const stormy = hours.map((h, i) => ({ ...h, thunder: i >= 7 ? 0.5 : 0 }));
    expect(thunderFrom(stormy, day, day + 12 * HOUR)).to.equal(day + 6.5 * HOUR);
    expect(weatherAt(hours, day + 10 * HOUR).windSpeed!).to.be.above(weatherAt(hours, day + HOUR).windSpeed! + 1);
  });
});

describe('after a blank', () => {
  const { cells } = chart;
  const random = seeded(5);
  const forecast = Float64Array.from({ length: cells.count }, (_, i) => (cells.hardness[i] > 0.6 ? 0.2 : 0.02) * (0.9 + 0.2 * random()));
  const base = { cells, forecast, strategies: forecast, windFrom: 270, windSpeed: 6, sun: 30, laterHours: null, holding: 3, tested: [] };
  it('the best untested water comes first: hard bottom, until it has been tested', () => {
    const before = accountOf(base);
    expect(before[0].value).to.be.above(0.9);
    const hard = before.find((a) => a.hypothesis === 'hard')!;
    expect(hard.tested).to.equal(0);
    const tested = Array.from({ length: cells.count }, (_, i) => i)
      .filter((i) => cells.hardness[i] > 0.6)
      .slice(0, 400)
      .map((cell) => ({ cell, effort: 1 }));
    const after = accountOf({ ...base, tested });
    expect(after.find((a) => a.hypothesis === 'hard')!.score).to.be.below(0.1 * hard.score);
    expect(after[0].hypothesis).to.not.equal('hard');
  });
  it('names no side in a calm, no shade without sun, another hour only where a better one comes', () => {
    const calm = accountOf({ ...base, windSpeed: 0.5, sun: -5 });
    for (const name of ['wind-blown', 'sheltered', 'shade']) expect(calm.find((a) => a.hypothesis === name)!.cells).to.equal(0);
    const later = (laterHours: number | null): number =>
      accountOf({ ...base, laterHours, tested: Array.from({ length: cells.count }, (_, cell) => ({ cell, effort: 2 })) }).find(
        (a) => a.hypothesis === 'other-hour',
      )!.score;
    expect(later(null)).to.equal(0);
    expect(later(0.8)).to.equal(0);
    expect(later(1.6)).to.be.closeTo(0.6, 0.1);
  });
  it('the next three stops lie apart, can be reached, and test the best hypothesis', () => {
    const account = accountOf(base);
    const three = nextThree(
      account,
      (cell) => (cells.column[cell] % 2 ? 5 : Infinity),
      (cell) => forecast[cell],
    );
    expect(three).to.have.length(3);
    expect(three[0].hypothesis).to.equal(account[0].hypothesis);
    for (const { cell } of three) expect(cells.column[cell] % 2).to.equal(1);
    const at = three.map(({ cell }) => [cells.column[cell] * 25, cells.row[cell] * 25]);
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < i; j++)
        if (three[i].hypothesis === three[j].hypothesis) expect(Math.hypot(at[i][0] - at[j][0], at[i][1] - at[j][1])).to.be.at.least(150);
  });
});
