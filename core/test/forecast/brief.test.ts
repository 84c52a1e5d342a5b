import { expect } from 'chai';
import { buildChart, effectiveFetch, hypsographOf, waveHeights } from '../../src/chart';
import {
  cautions,
  dayFor,
  heatHypotheses,
  strategyPlans,
  STRATEGIES,
  waveBrief,
  windBlown,
  type Conditions,
  type WaterFrame,
} from '../../src/forecast';
import { waveHeight } from '../../src/lake';
import { defaultSpecies, depthWindow } from '../../src/species';
import type { Point } from '../../src/geo';

const zander = defaultSpecies.find((s) => s.name === 'zander')!;
/** A long lake that runs east to west, 2 km by 500 m, with one hump. */
const lake: Point[][] = [
  [
    [500000, 0],
    [502000, 0],
    [502000, 500],
    [500000, 500],
  ],
];
const bottom = (x: number, y: number): number =>
  Math.min(12, Math.min(x - 500000, 502000 - x, y, 500 - y) / 10) - 4 * Math.exp(-((x - 501000) ** 2 + (y - 250) ** 2) / (2 * 45 ** 2));
const points = { x: [] as number[], y: [] as number[], depth: [] as number[], hardness: [] as number[] };
for (let y = 10; y < 500; y += 20)
  for (let x = 500010; x < 502000; x += 20) {
    points.x.push(x);
    points.y.push(y);
    points.depth.push(bottom(x, y));
    points.hardness.push(Math.hypot(x - 501000, y - 250) < 60 ? 0.9 : 0.3);
  }
const chart = buildChart(32625, lake, points, {
  cover: [
    {
      kind: 'weed',
      points: [
        [500300, 60],
        [500330, 60],
        [500360, 60],
      ],
    },
  ],
});
const { cells } = chart;
const frame: WaterFrame = { latitude: 50, longitude: -34, altitude: 0, deepest: chart.deepest, lengthKm: 2 };
const day = (more: Partial<Conditions> = {}) =>
  dayFor(
    {
      at: new Date('2026-07-20T12:00:00Z'),
      surface: 20,
      trend: 0,
      secchi: 1.6,
      windFrom: 270,
      windSpeed: 6,
      level: null,
      levelTrend: null,
      thermoclineSet: null,
      ...more,
    },
    frame,
  );
const cell = (x: number, y: number): number =>
  Array.from({ length: cells.count }, (_, i) => i).find(
    (i) => cells.column[i] === Math.floor(x / 25) && cells.row[i] === Math.floor(y / 25),
  )!;

describe('wind on the water', () => {
  it('an arm’s width shortens the effective fetch: less than the straight way, more at the far end', () => {
    const [east, west] = [effectiveFetch(cells, cell(501950, 250), 270), effectiveFetch(cells, cell(500050, 250), 270)];
    expect(east).to.be.below(1975);
    expect(east).to.be.above(3 * west);
  });
  it('the highest waves stand on the wind-blown side, and agree with the formula', () => {
    const heights = waveHeights(cells, 270, 8);
    expect(heights[cell(501900, 250)]).to.be.above(heights[cell(500100, 250)] * 1.5);
    const i = cell(501900, 250);
    expect(heights[i]).to.be.at.most(waveHeight(8, 2000, 12) + 1e-6);
    const brief = waveBrief(day({ windSpeed: 8 }), cells)!;
    expect(brief.side).to.be.closeTo(90, 25);
    expect(brief.stronger.highest).to.be.above(brief.highest);
    expect(waveBrief(day({ windSpeed: 0 }), cells)!.side).to.equal(null);
  });
  it('tells the wind-blown from the sheltered shore, more so in a stronger wind', () => {
    const [blown, sheltered] = [cell(501950, 250), cell(500050, 250)];
    expect(windBlown(cells, blown, 270, 6)).to.be.above(0.5);
    expect(windBlown(cells, sheltered, 270, 6)).to.be.below(-0.5);
    expect(windBlown(cells, blown, 270, 2)).to.be.below(windBlown(cells, blown, 270, 6));
    expect(windBlown(cells, blown, 90, 6)).to.be.closeTo(-windBlown(cells, blown, 270, 6), 1e-6);
  });
});

describe('the water by depth', () => {
  it('loses area with depth and starts with all of it', () => {
    const { depth, area } = hypsographOf(cells, chart.deepest);
    expect(area[0]).to.be.closeTo(1e6, 2000);
    for (let k = 1; k < area.length; k++) {
      expect(area[k]).to.be.at.most(area[k - 1]);
      expect(depth[k]).to.be.above(depth[k - 1]);
    }
    expect(area[area.length - 1]).to.equal(0);
  });
});

describe('the Brief', () => {
  it('has a line for every strategy, and the strategies find what is there', () => {
    const plans = strategyPlans(zander, day(), cells);
    // A lake does not run.
    expect(plans.map((p) => p.strategy)).to.deep.equal(STRATEGIES.filter((s) => s !== 'current'));
    expect(plans.find((p) => p.strategy === 'depth')!.says.values.depth).to.be.within(0, 12);
    expect(plans.find((p) => p.strategy === 'bottom')!.places).to.equal(1);
    expect(plans.find((p) => p.strategy === 'depth')!.places).to.be.above(0);
  });
  it('cautions where there is cause, and never clears anyone to go', () => {
    const codes = (more: Partial<Conditions>): string[] => cautions(zander, day(more), waveBrief(day(more), cells)).map((c) => c.says.code);
    expect(codes({})).to.include('caution.waves');
    expect(codes({ surface: 8, at: new Date('2026-04-10T12:00:00Z') })).to.include('caution.cold');
    expect(codes({ surface: 27 })).to.include('caution.warm');
    expect(codes({ surface: 18 })).to.not.include('caution.warm');
    const rough = cautions(zander, day({ windSpeed: 20 }), waveBrief(day({ windSpeed: 20 }), cells), 3)[0];
    expect(rough.level).to.equal('warning');
    expect(rough.says).to.deep.include({ code: 'caution.waves.steep' });
  });
  it('sets rival readings of great heat side by side, each with its places, only in great heat', () => {
    expect(heatHypotheses(zander, day({ surface: 20 }), cells)).to.deep.equal([]);
    const heat = heatHypotheses(zander, day({ surface: 29 }), cells);
    expect(heat.map((h) => h.says.code)).to.deep.equal(['heat.deeper', 'heat.moving', 'heat.weed', 'heat.slower']);
    expect(heat.find((h) => h.says.code === 'heat.weed')!.places).to.equal(1);
  });
  it('follows the water’s own depth rule', () => {
    const inputs = { column: day().column, secchi: 1.6, maxDepth: 12, sunHeight: 40 };
    const strict = depthWindow(zander, { ...inputs, rule: { lightBase: 1, lightFactor: 2, clearFrom: 3 } });
    expect(strict.bottom).to.be.closeTo(4.2, 1e-9);
    expect(strict.bottomReason).to.deep.equal({ code: 'window.light', values: { depth: 4.2, base: 1, factor: 2 } });
    expect(depthWindow(zander, inputs).bottom).to.be.above(4.2);
  });
});
