import { expect } from 'chai';
import { SIMULATED_TIDE, tideOf } from '../../src/tide';
import fc from 'fast-check';
import { buildChart, type Chart } from '../../src/chart';
import type { TimedReading } from '../../src/forecast';
import type { Point } from '../../src/geo';
import type { Look, Reading } from '../../src/logbook';
import {
  chartPlaces,
  classCount,
  classLabel,
  labelKey,
  classOf,
  covariate,
  COVARIATES,
  CovariateValues,
  FARTHEST,
  lookTable,
  Moments,
  stagesOfLog,
  type WaterLogbook,
} from '../../src/patterns';
import { courseOfLatitude } from '../../src/lake';
import { defaultSpecies } from '../../src/species';

const HOUR = 3_600_000;
const [X0, Y0] = [500_000, 6_000_000];
/** A round basin of 1 km with a straight arm of 1 km to the east, 100 m wide, and a hump in the basin. */
const outline: Point[] = [
  [X0, Y0],
  [X0 + 1000, Y0],
  [X0 + 1000, Y0 + 450],
  [X0 + 2000, Y0 + 450],
  [X0 + 2000, Y0 + 550],
  [X0 + 1000, Y0 + 550],
  [X0 + 1000, Y0 + 1000],
  [X0, Y0 + 1000],
];
const HUMP: Point = [X0 + 300, Y0 + 700];
const bottom = (x: number, y: number): number => {
  if (x > X0 + 1000) return 3;
  const basin = 3 + 9 * Math.max(0, 1 - Math.hypot(x - X0 - 600, y - Y0 - 400) / 500);
  return Math.max(1.5, basin - 3 * Math.exp(-((x - HUMP[0]) ** 2 + (y - HUMP[1]) ** 2) / (2 * 45 ** 2)));
};

function chartOf(): Chart {
  const grid = { x: [] as number[], y: [] as number[], depth: [] as number[], hardness: [] as number[] };
  for (let y = Y0 + 10; y < Y0 + 1000; y += 15)
    for (let x = X0 + 10; x < X0 + 2000; x += 15) {
      if (x > X0 + 1000 && (y < Y0 + 450 || y > Y0 + 550)) continue;
      grid.x.push(x);
      grid.y.push(y);
      grid.depth.push(bottom(x, y));
      grid.hardness.push(x < X0 + 500 ? 0.9 : 0.1);
    }
  return buildChart(32_625, [outline], grid);
}
const chart = chartOf();
const places = chartPlaces(chart);
const cellAt = (x: number, y: number): number => {
  const { column, row, count } = chart.cells;
  return Array.from({ length: count }, (_, i) => i).find((i) => column[i] === Math.floor(x / 25) && row[i] === Math.floor(y / 25))!;
};

describe('what does not change about a place', () => {
  it('is how far up an arm it lies: nothing in the open water, all at its end', () => {
    const along = (metres: number): number => places.arm[cellAt(X0 + 1000 + metres, Y0 + 500)];
    expect(places.arm[cellAt(X0 + 500, Y0 + 500)]).to.equal(0);
    expect(along(980)).to.be.closeTo(1, 0.03);
    expect(along(500)).to.be.within(0.4, 0.62);
    for (const [near, far] of [
      [200, 400],
      [400, 700],
      [700, 900],
    ])
      expect(along(near)).to.be.below(along(far));
  });
  it('is the way through the water to the deep, not over land', () => {
    const deep = places.deepDistance;
    expect(deep[cellAt(X0 + 600, Y0 + 400)]).to.equal(0);
    expect(deep[cellAt(X0 + 1980, Y0 + 500)]).to.equal(FARTHEST);
    const along = deep[cellAt(X0 + 1100, Y0 + 500)];
    expect(deep[cellAt(X0 + 1200, Y0 + 500)] - along).to.be.closeTo(100, 26);
  });
  it('is a bulge up on a hump, its top above its mean, and its name', () => {
    const hump = cellAt(...HUMP);
    expect(places.curvature[hump]).to.be.above(0.15);
    expect(places.top[hump]).to.be.at.most(chart.cells.depth[hump]);
    expect(places.shapeKinds[places.shape[hump]]).to.equal('hump');
    expect(places.shapeDistance[hump]).to.be.at.most(50);
    for (let i = 0; i < chart.cells.count; i++) expect(places.shapeDistance[i]).to.be.within(0, FARTHEST);
  });
});

describe('a covariate', () => {
  it('has classes that cover every value, each with a label of its own', () => {
    for (const c of COVARIATES) {
      const names = Array.from({ length: classCount(c) }, (_, k) => labelKey(classLabel(c, k)));
      expect(new Set(names).size, c.key).to.equal(names.length);
      expect(
        names.every((n) => n.length > 0),
        c.key,
      ).to.equal(true);
      expect(classOf(c, NaN)).to.equal(-1);
      if (!c.edges) continue;
      for (let k = 1; k < c.edges.length; k++) expect(c.edges[k], c.key).to.be.above(c.edges[k - 1]);
      fc.assert(
        fc.property(fc.double({ min: -1000, max: 1000, noNaN: true }), (v) => {
          const k = classOf(c, v);
          expect(k).to.be.within(0, c.edges!.length - 1);
          if (v >= c.edges![0]) expect(v).to.be.at.least(c.edges![k]);
          if (k + 1 < c.edges!.length) expect(v).to.be.below(c.edges![k + 1]);
        }),
        { numRuns: 30 },
      );
    }
    expect(classLabel(covariate('depth'), 4)).to.deep.equal({ from: 4, to: 5, unit: 'm' });
    expect(classLabel(covariate('depth'), 16)).to.deep.equal({ from: 30, to: null, unit: 'm' });
    expect(classLabel(covariate('above-thermocline'), 0)).to.deep.equal({ from: null, to: -6, unit: 'm' });
    expect(() => covariate('luck')).to.throw(RangeError);
  });

  const start = Date.UTC(2026, 6, 10, 9);
  const reading = (at: number, more: Partial<Reading>): TimedReading => ({
    at,
    row: { trip: 't', time: new Date(at).toISOString(), ...more } as Reading,
  });
  const days: WaterLogbook = {
    frame: { latitude: 54, longitude: -39, altitude: 0, deepest: 12, lengthKm: 2 },
    readings: [
      reading(start - 20 * HOUR, { wind_from_deg: 90, wind_speed_ms: 6 }),
      reading(start - 2 * HOUR, { surface_temperature_c: 21, secchi_m: 1.5, wind_from_deg: 270, wind_speed_ms: 6, air_pressure_hpa: 1010 }),
      reading(start + HOUR, { air_pressure_hpa: 1012 }),
    ],
    profiles: [
      {
        at: new Date(start - HOUR),
        samples: Array.from({ length: 13 }, (_, z) => ({
          depth: z,
          temperature: z < 6 ? 21 : z > 8 ? 9 : 21 - 4 * (z - 5),
          oxygen: z < 7 ? 9 : 1,
        })),
      },
    ],
    timeZone: 'Etc/GMT+3',
  };
  const look = (x: number, y: number): Look => ({
    column: Math.floor(x / 25),
    row: Math.floor(y / 25),
    visit: 0,
    kind: 'scan',
    from: start,
    to: start + 20_000,
    effort: 500,
    area: 500,
    view: 'side-scan',
    reach: 20,
    targets: [],
  });
  const zander = defaultSpecies.find((s) => s.name === 'zander')!;
  const table = lookTable(
    {
      trips: [
        { id: 't', start, looks: [look(X0 + 20, Y0 + 500), look(X0 + 600, Y0 + 400), look(X0 + 1980, Y0 + 500), look(0, 0)], outside: 0 },
      ],
      contacts: [],
      stops: [],
      responses: [],
    },
    chart,
    days,
  );
  const values = new CovariateValues(table, { species: zander, stageAt: stagesOfLog(zander, days, courseOfLatitude(54)) });
  const of = (key: string): number[] => Array.from(values.of(key));
  it('of depth, thermocline and light says where the bottom lies', () => {
    // The look off the chart is left out, and counted.
    expect([table.count, table.offChart]).to.deep.equal([3, 1]);
    const line = table.moment[0].day.column.thermocline!.depth;
    expect(line).to.be.within(5.5, 8);
    for (const [i, d] of of('depth').entries()) {
      expect(of('above-thermocline')[i]).to.be.closeTo(line - d, 1e-4);
      // 2 m + 4 × Secchi.
      expect(of('above-light')[i]).to.be.closeTo(8 - d, 1e-4);
    }
    const [, deep] = of('bottom-temperature');
    expect(deep).to.be.below(10);
    expect(of('bottom-oxygen')[1]).to.be.below(2);
    expect(of('bottom-oxygen')[2]).to.be.above(8);
  });
  it('of the wind is the shore that it has blown on to, over six hours and over a day', () => {
    // A west wind for the last hours: the west shore is sheltered, the end of the arm wind-blown. The day before was the other way round.
    const [west, , east] = of('blown6');
    expect(west).to.be.below(-0.3);
    expect(east).to.be.above(0.3);
    expect(Math.abs(of('blown24')[0])).to.be.below(Math.abs(west) / 2);
    expect(of('fetch')[2]).to.be.above(of('fetch')[0]);
  });
  it('of the hour, the sun, the pressure and the season is that of the moment', () => {
    // 9 h UTC is 6 on a clock three hours behind.
    expect(of('hour')[0]).to.be.closeTo(6.5, 1e-6);
    expect(of('sun')[0]).to.be.within(10, 40);
    expect(of('pressure')[0]).to.be.closeTo((2 / 3) * 6, 1e-4);
    expect(of('stage')[0]).to.be.at.least(0);
    expect(of('moon')[0]).to.be.within(0, 1);
    // 1.5 m of clarity in the morning: less light the deeper, nothing of a current that nobody read.
    const light = of('light');
    const depth = of('depth');
    expect(light[0]).to.be.within(0, 100);
    expect(Math.log(light[0] / light[2])).to.be.closeTo((1.7 / 1.5) * (depth[2] - depth[0]), 0.01);
    expect(of('current')[0]).to.be.NaN;
    expect(of('surface')[0]).to.be.closeTo(21, 1e-4);
  });
  it('that nobody read is not known: temperature and clarity only for three days', () => {
    const moments = new Moments(days);
    expect(moments.at(start + 2 * 24 * HOUR)).to.include({ surfaceRead: true, clarityRead: true });
    const later = moments.at(start + 9 * 24 * HOUR);
    expect(later).to.include({ surfaceRead: false, clarityRead: false });
    expect(later.pressureTrend).to.be.NaN;
    expect([later.wind6, later.wind24]).to.deep.equal([[], []]);
    for (const key of ['bait200', 'fished', 'boats']) expect(of(key)[0], key).to.be.NaN;
  });
  it('of the tide counts from the nearest high water, and is not known without one', () => {
    expect(of('tide')[0]).to.be.NaN;
    const moments = new Moments({ ...days, frame: { ...days.frame, tide: SIMULATED_TIDE } });
    const tide = tideOf(SIMULATED_TIDE)!;
    const moment = moments.at(start);
    expect(moment.fromHigh).to.be.within(-6.5, 6.5);
    // That many hours ago, or ahead, it neither rises nor falls.
    const high = moment.at - moment.fromHigh * HOUR;
    for (const off of [-0.5, 0.5]) expect(tide.height(high + off * HOUR)).to.be.below(tide.height(high));
  });
  it('of twilight counts from the nearer of sunrise and sunset, and is not known in a polar night', () => {
    const moments = new Moments({ ...days, frame: { ...days.frame, longitude: 0, latitude: 0 } });
    // At the equator the sun rises near 6 and sets near 18.
    const at = (hour: number): number => moments.at(Date.UTC(2026, 2, 20, hour, 30)).fromTwilight;
    expect(at(5)).to.be.within(-1, 0);
    expect(at(8)).to.be.within(2, 3);
    expect(at(15)).to.be.within(-3, -2);
    expect(at(19)).to.be.within(1, 2);
    expect(new Moments({ ...days, frame: { ...days.frame, latitude: 80 } }).at(Date.UTC(2026, 11, 21)).fromTwilight).to.be.NaN;
  });
});
