import { expect } from 'chai';
import {
  buildChart,
  cellsAtLevel,
  chartAtLevel,
  cleanSoundings,
  packChart,
  unpackChart,
  type Chart,
  type SoundingTable,
} from '../../src/chart';
import type { Point } from '../../src/geo';
import { highWaterSprings, levelsAbout, nextCrossing, SIMULATED_TIDE, tideOf } from '../../src/tide';

const tide = tideOf(SIMULATED_TIDE)!;
const [WIDTH, HEIGHT] = [800, 500];
const shore = highWaterSprings(tide, Date.UTC(2026, 6, 1));
/** A bay that falls from the high-water line in the west to 8 m below datum, with a bank in it that dries by 1 m. */
const bottomAt = (x: number, y: number): number =>
  -shore + ((8 + shore) * x) / WIDTH - 5.2 * Math.exp(-((x - 560) ** 2 + (y - 250) ** 2) / (2 * 70 ** 2));
const rings: Point[][] = [
  [
    [0, 0],
    [WIDTH, 0],
    [WIDTH, HEIGHT],
    [0, HEIGHT],
  ],
];

const rows = (time: number[], x: number[], y: number[], depth: number[]): SoundingTable => ({
  time: Float64Array.from(time),
  x: Float64Array.from(x),
  y: Float64Array.from(y),
  depth: Float32Array.from(depth),
  hardness: new Float32Array(x.length).fill(NaN),
  temperature: new Float32Array(x.length).fill(NaN),
  survey: new Int32Array(x.length),
});

/** Sounded along lines wherever there was half a metre of water, over two weeks' tides. */
function charted(): Chart {
  const [time, x, y, depth]: number[][] = [[], [], [], []];
  const from = Date.UTC(2026, 6, 1);
  for (let py = 10, k = 0; py < HEIGHT; py += 20)
    for (let px = 5; px < WIDTH; px += 5, k++) {
      const at = from + Math.floor(k / 150) * 5 * 3_600_000 + (k % 150) * 2000;
      const water = bottomAt(px, py) + tide.height(at);
      if (water < 0.5) continue;
      time.push(at);
      x.push(px);
      y.push(py);
      depth.push(water);
    }
  const table = rows(time, x, y, depth);
  const { left, ...kept } = cleanSoundings(table, { jumps: false, doubles: false, spikes: false, lag: false }, { levels: levelsAbout(tide, time), altitude: null, tidal: true, salinity: 35 }); // prettier-ignore
  expect(left.some((v) => v === 1)).to.equal(false);
  return buildChart(32625, rings, { ...kept, hardness: kept.x.map(() => NaN) }, { size: 5, shore });
}

describe('ground that falls dry', () => {
  const chart = charted();
  const at = (c: Chart, x: number, y: number): number => c.depth.at(x, y);
  const cellAt = (x: number, y: number): number =>
    chart.cells.column.findIndex((c, i) => c === Math.floor(x / 25) && chart.cells.row[i] === Math.floor(y / 25));

  it('is charted with its height above the datum, from soundings of high water', () => {
    for (const [x, y] of [
      [60, 250],
      [150, 110],
      [230, 390],
      [560, 250],
      [700, 60],
    ])
      // prettier-ignore
      expect(at(chart, x, y), `at ${x}, ${y}`).to.be.closeTo(bottomAt(x, y), 0.25);
    expect(chart.highest).to.be.within(2.5, shore + 0.01);
    expect(at(chart, 560, 250)).to.be.below(-0.5);
  });
  it('is dry at low water and under water at high, on the map and in the cells', () => {
    const [flat, deep] = [cellAt(137, 262), cellAt(737, 262)];
    const { cells } = chart;
    expect(cells.depth[flat]).to.equal(0);
    expect(cells.drying[flat]).to.be.closeTo(-bottomAt(137.5, 262.5), 0.25);
    for (const level of [0, 0.4]) {
      const low = chartAtLevel(chart, level);
      expect(at(low, 137, 262)).to.be.below(0);
      expect(low.cells.depth[flat]).to.be.NaN;
      expect(low.cells.area[flat]).to.equal(0);
      expect(low.cells.depth[deep]).to.be.closeTo(bottomAt(737.5, 262.5) + level, 0.25);
    }
    const high = chartAtLevel(chart, 3.4);
    expect(high.cells.depth[flat]).to.be.closeTo(bottomAt(137.5, 262.5) + 3.4, 0.25);
    expect(high.cells.area[flat]).to.be.above(0);
    expect(high.highest).to.be.closeTo(chart.highest - 3.4, 1e-9);
    // What is at a level already is not brought to it once more.
    expect(cellsAtLevel(high.cells, 0)).to.equal(high.cells);
  });
  it('travels and comes back', () => {
    const back = unpackChart(packChart(chart));
    expect(back.highest).to.equal(chart.highest);
    expect(at(back, 137, 262)).to.be.closeTo(at(chart, 137, 262), 0.006);
    expect([...back.cells.drying]).to.deep.equal([...chart.cells.drying]);
  });
  it('is none on a lake: what stands over its full level is left out', () => {
    const table = rows([0, 2000], [0, 5], [0, 0], [0.5, 4]);
    const levels = [{ at: 0, level: 1 }];
    const kept = (tidal: boolean): number =>
      cleanSoundings(table, {}, { levels, altitude: null, tidal, salinity: 0 }).left.filter((v) => !v).length;
    expect([kept(false), kept(true)]).to.deep.equal([1, 2]);
  });
  it('is covered when the tide has risen to it', () => {
    const from = Date.UTC(2026, 6, 1);
    const first = nextCrossing(tide, 1.9, from)!;
    expect(tide.height(first.at)).to.be.closeTo(1.9, 0.01);
    expect(tide.height(first.at + 1_800_000) > 1.9).to.equal(first.rising);
    const next = nextCrossing(tide, 1.9, first.at + 60_000)!;
    expect(next.rising).to.equal(!first.rising);
    expect(nextCrossing(tide, 9, from)).to.equal(null);
  });
});

describe('the height of a shore line', () => {
  it('is mean high water at springs: of two constituents the sum of both over the mean', () => {
    const plain = { ...SIMULATED_TIDE, mean_m: 2, constants: [{ name: 'M2', amplitude_m: 1.2, phase_deg: 30 }, { name: 'S2', amplitude_m: 0.4, phase_deg: 80 }] }; // prettier-ignore
    expect(highWaterSprings(tideOf(plain)!, Date.UTC(2026, 6, 1))).to.be.closeTo(3.6, 0.06);
  });
  it('comes from a typed table too', () => {
    const turns = Array.from({ length: 80 }, (_, k) => ({
      time: new Date(Date.UTC(2026, 6, 1) + k * 22_357_000).toISOString(),
      height_m: k % 2 ? 0.5 : 3 + 0.6 * Math.cos((2 * Math.PI * k) / 57),
    }));
    expect(highWaterSprings(tideOf({ ...SIMULATED_TIDE, constants: [], turns })!, 0)).to.be.closeTo(3.6, 0.05);
  });
});
