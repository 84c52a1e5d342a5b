import { expect } from 'chai';
import {
  buildChart,
  FAR,
  packChart,
  riverFlow,
  unpackChart,
  type CellTable,
  type ChartFeature,
  type WaterNature,
} from '@restless-shoal/core/chart';
import { Raster } from '@restless-shoal/core/geo';

interface Spur {
  at: number;
  bank: 1 | -1;
  out: number;
}

const HALF = 60;
const LENGTH = 2000;

/** A straight river of even depth that runs at an angle to the grid, with spurs from its banks. */
function planted(angle: number, spurs: Spur[], depth = (_s: number, _n: number): number => 3): Raster {
  const raster = new Raster(0, 0, 5, 420, 420);
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  for (let j = 0; j < raster.height; j++)
    for (let i = 0; i < raster.width; i++) {
      const [x, y] = [(i + 0.5) * 5 - 100, (j + 0.5) * 5 - 100 - (angle < 0 ? 1900 * Math.sin(-angle) : 0)];
      const [along, off] = [x * c + y * s, -x * s + y * c];
      if (along < 0 || along > LENGTH || Math.abs(off) > HALF) continue;
      if (spurs.some((p) => Math.abs(along - p.at) < 10 && off * p.bank > HALF - p.out)) continue;
      raster.data[j * raster.width + i] = depth(along, off);
    }
  return raster;
}

const SPURS: Spur[] = [
  { at: 600, bank: 1, out: 40 },
  { at: 1200, bank: -1, out: 50 },
];
const ANGLE = 0.6;
const along = (s: number, n: number): [number, number] => [
  s * Math.cos(ANGLE) - n * Math.sin(ANGLE) + 100,
  s * Math.sin(ANGLE) + n * Math.cos(ANGLE) + 100,
];
/** Degrees true of the planted river. */
const SET = 90 - (ANGLE * 180) / Math.PI;
const reading = { x: along(900, 0)[0], y: along(900, 0)[1], set: SET };

describe('how a river runs', () => {
  const flow = riverFlow(planted(ANGLE, SPURS), [reading])!;
  const speed = (s: number, n: number): number => {
    const [e, north] = flow.at(...along(s, n))!;
    return e * Math.cos(ANGLE) + north * Math.sin(ANGLE);
  };
  it('follows the bed, down-stream as was read', () => {
    const [e, n] = flow.at(...along(300, 0))!;
    expect(Math.atan2(n, e)).to.be.closeTo(ANGLE, 0.06);
    expect(speed(300, 0)).to.be.closeTo(1, 0.1);
    const [be, bn] = riverFlow(planted(ANGLE, SPURS), [{ ...reading, set: SET + 180 }])!.at(...along(300, 0))!;
    expect(be * Math.cos(ANGLE) + bn * Math.sin(ANGLE)).to.be.closeTo(-1, 0.1);
  });
  it('is faster past a spur, by what the spur takes of the river', () => {
    // Even depth: speed goes with the width that is left.
    expect(speed(1200, 20) / speed(300, 20)).to.be.closeTo((2 * HALF) / (2 * HALF - 50), 0.25);
  });
  it('finds the eddies where they were planted: behind each spur, on its bank, and nowhere else', () => {
    const eddies = flow.shapes.filter((f) => f.kind === 'eddy');
    expect(eddies).to.have.length(2);
    for (const { at, bank, out } of SPURS) {
      // Just behind it water turns back; before it and on the other bank it runs on.
      expect(speed(at + 40, bank * (HALF - 12))).to.be.below(0);
      expect(speed(at - 80, bank * (HALF - 12))).to.be.above(0.5);
      expect(speed(at - 20, bank * (HALF - 12))).to.be.within(0, 0.4);
      expect(speed(at + 40, -bank * (HALF - 12))).to.be.above(0.5);
      // It ends between four and ten times as far down-stream as the spur stands out.
      expect(speed(at + 10 * out, bank * (HALF - 12))).to.be.above(0.5);
      const near = (f: ChartFeature): number => Math.hypot(f.x - along(at + 60, bank * 40)[0], f.y - along(at + 60, bank * 40)[1]);
      const found = eddies.reduce((a, b) => (near(a) < near(b) ? a : b));
      expect(near(found)).to.be.below(70);
      expect(found.size).to.be.within(4 * out - 40, 10 * out);
    }
  });
  it('has its seams along the edge of the eddies', () => {
    const seams = flow.shapes.filter((f) => f.kind === 'seam');
    expect(seams).to.have.length(2);
    for (const { at, bank, out } of SPURS) {
      const tip = along(at + 20, bank * (HALF - out));
      expect(Math.min(...flow.seams.map(([x, y]) => Math.hypot(x - tip[0], y - tip[1])))).to.be.below(15);
    }
  });
  it('runs faster where it is deep, with depth to the two thirds', () => {
    const deep = riverFlow(
      planted(ANGLE, [], (_, n) => (n > 0 ? 4 : 1.5)),
      [reading],
    )!;
    const at = (n: number): number => Math.hypot(...deep.at(...along(800, n))!);
    expect(at(30) / at(-30)).to.be.closeTo((4 / 1.5) ** (2 / 3), 0.02);
  });
  it('says nothing of a pond, nor of a river of which nobody read which way it runs', () => {
    const pond = new Raster(0, 0, 5, 100, 100);
    for (let k = 0; k < pond.data.length; k++) if (Math.hypot((k % 100) - 50, Math.floor(k / 100) - 50) < 45) pond.data[k] = 3;
    expect(riverFlow(pond, [{ x: 250, y: 250, set: 90 }])).to.equal(null);
    expect(riverFlow(planted(ANGLE, SPURS), [])).to.equal(null);
    expect(riverFlow(planted(ANGLE, SPURS), [{ ...reading, set: SET + 90 }])).to.equal(null);
  });
});

describe('a river round an island', () => {
  // 120 m wide, the island 30 m of it, off the middle: 200 m long, blunt at both ends.
  const ISLAND = { from: 900, to: 1100, inner: 5, outer: 35 };
  const bed = planted(ANGLE, [], (s, n) => (s > ISLAND.from && s < ISLAND.to && n > ISLAND.inner && n < ISLAND.outer ? NaN : 3));
  const flow = riverFlow(bed, [{ ...reading, ...{ x: along(300, 0)[0], y: along(300, 0)[1] } }])!;
  const speed = (s: number, n: number): number => {
    const [e, north] = flow.at(...along(s, n))!;
    return e * Math.cos(ANGLE) + north * Math.sin(ANGLE);
  };
  it('runs on both sides of it, faster by what it takes of the river', () => {
    for (const n of [-40, -10, 48]) expect(speed(1000, n) / speed(300, -10), `at ${n}`).to.be.closeTo(120 / 90, 0.2);
  });
  it('has slack water behind it that ends where both arms meet, and none along the banks', () => {
    expect(speed(ISLAND.to + 25, 20)).to.be.below(0);
    expect(speed(ISLAND.from - 5, 20)).to.be.within(0, 0.4);
    for (const s of [ISLAND.to + 25, ISLAND.to + 120, ISLAND.to + 300]) expect(speed(s, 52), `by the bank, at ${s}`).to.be.above(0.5);
    // Both streams widen by one in six into 30 m: they meet after 90 m.
    expect(speed(ISLAND.to + 160, 20)).to.be.above(0.5);
    const eddies = flow.shapes.filter((f) => f.kind === 'eddy');
    expect(eddies.length).to.equal(1);
    expect(eddies[0].size).to.be.within(40, 140);
    const [x, y] = along(ISLAND.to + 35, 20);
    expect(Math.hypot(eddies[0].x - x, eddies[0].y - y)).to.be.below(40);
  });
});

describe('the cells of a river', () => {
  // Two kilometres on the grid itself, so that cells, seams and shapes can be counted.
  const rings: [number, number][][] = [
    [
      [0, 0],
      [2000, 0],
      [2000, 125],
      [0, 125],
    ],
  ];
  const grid = { x: [] as number[], y: [] as number[], depth: [] as number[], hardness: [] as number[] };
  for (let x = 5; x < 2000; x += 10)
    for (let y = 5; y < 125; y += 10) {
      grid.x.push(x);
      grid.y.push(y);
      grid.depth.push(3);
      grid.hardness.push(0.5);
    }
  const at = (nature: WaterNature) => unpackChart(packChart(buildChart(32625, rings, grid, { shore: null, nature })));
  const middle = (cells: CellTable): number[] =>
    Array.from({ length: cells.count }, (_, i) => i).filter((i) => cells.row[i] === 2 && cells.column[i] > 10 && cells.column[i] < 70);
  it('keep how it runs through packing: as fast as the mean, down-stream, with no seam where nothing stands out', () => {
    const { cells } = at({ sort: 'river', currents: [{ x: 1000, y: 60, set: 270 }] });
    for (const i of middle(cells)) {
      expect(cells.flowEast[i]).to.be.closeTo(-1, 0.15);
      expect(cells.flowNorth[i]).to.be.closeTo(0, 0.1);
      expect(cells.seamDistance[i]).to.equal(FAR);
    }
  });
  it('say nothing on a lake, and where nobody read which way it runs', () => {
    for (const nature of [{ sort: 'lake', currents: [{ x: 1000, y: 60, set: 270 }] }, { sort: 'river' }] as WaterNature[]) {
      const { cells, features } = at(nature);
      expect(cells.flowEast.every((v) => v === 0)).to.equal(true);
      expect(features.filter((f) => f.kind === 'eddy' || f.kind === 'seam')).to.deep.equal([]);
    }
  });
});
