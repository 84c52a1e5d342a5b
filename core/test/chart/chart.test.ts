import { expect } from 'chai';
import {
  bandShare,
  bottomPositions,
  buildChart,
  contourDepths,
  contourLines,
  coverPoints,
  packChart,
  proposeOutline,
  slope,
  unpackChart,
} from '../../src/chart';
import { Raster, ringsArea, type Point } from '../../src/geo';
import { seeded } from '../../src/numbers';

const lake: Point[][] = [
  [
    [500000, 0],
    [501000, 0],
    [501000, 600],
    [500000, 600],
  ],
];
const bottom = (x: number, y: number): number => {
  const edge = Math.min(x - 500000, 501000 - x, y, 600 - y);
  return Math.min(8, edge / 12) - 3 * Math.exp(-((x - 500400) ** 2 + (y - 300) ** 2) / (2 * 45 ** 2));
};
const soundings = (): { x: number[]; y: number[]; depth: number[]; hardness: number[] } => {
  const random = seeded(4);
  const out = { x: [] as number[], y: [] as number[], depth: [] as number[], hardness: [] as number[] };
  for (let y = 15; y < 600; y += 30)
    for (let x = 500005; x < 501000; x += 7) {
      out.x.push(x);
      out.y.push(y);
      out.depth.push(bottom(x, y) + 0.1 * (random() - 0.5));
      out.hardness.push(x < 500500 ? 0.8 : 0.2);
    }
  return out;
};
const chart = buildChart(32625, lake, soundings(), { cover: [{ kind: 'wood', points: [[500700, 300]] }] });
const cell = (x: number, y: number): number => {
  const [c, r] = [Math.floor(x / 25), Math.floor(y / 25)];
  return Array.from({ length: chart.cells.count }, (_, i) => i).find((i) => chart.cells.column[i] === c && chart.cells.row[i] === r)!;
};

describe('a chart from soundings and shore', () => {
  it('finds the bottom between the survey lines', () => {
    let squares = 0;
    let n = 0;
    for (let y = 20; y < 590; y += 13)
      for (let x = 500020; x < 500980; x += 17) {
        squares += (chart.depth.at(x, y) - bottom(x, y)) ** 2;
        n++;
      }
    expect(Math.sqrt(squares / n)).to.be.below(0.3);
  });
  it('is 0 m deep at the shore and unknown on land', () => {
    expect(chart.depth.at(500003, 300)).to.be.below(0.8);
    expect(chart.depth.at(499900, 300)).to.be.NaN;
  });
  it('knows a hump by its bottom position, the cover by its distance, and where hard meets soft', () => {
    expect(chart.cells.positionNear[cell(500400, 300)]).to.be.above(0.5);
    expect(Math.abs(chart.cells.positionNear[cell(500700, 300)])).to.be.below(0.2);
    expect(chart.cells.woodDistance[cell(500700, 300)]).to.equal(0);
    expect(chart.cells.woodDistance[cell(500760, 300)]).to.be.closeTo(50, 13);
    expect(chart.cells.edgeDistance[cell(500488, 200)]).to.be.below(30);
    expect(chart.cells.edgeDistance[cell(500900, 200)]).to.equal(200);
  });
  it('knows how far the wind comes over water', () => {
    const fetch = (x: number, direction: number): number => chart.cells.fetch[cell(x, 300) * 16 + direction];
    expect(fetch(500900, 12)).to.be.closeTo(900, 40);
    expect(fetch(500900, 4)).to.be.closeTo(100, 40);
  });
  it('splits the water by a depth band', () => {
    const share = bandShare(chart.cells, 3, 6);
    expect(share.bottom + share.over + share.out).to.be.closeTo(1, 1e-9);
    expect(bandShare(chart.cells, 0, 20).bottom).to.be.closeTo(1, 1e-6);
    expect(share.over).to.be.within(0.4, 0.85);
  });
  it('survives packing, to the centimetre', () => {
    const back = unpackChart(packChart(chart));
    expect(back.depth.data.length).to.equal(chart.depth.data.length);
    for (let i = 0; i < chart.depth.data.length; i += 97) {
      if (Number.isNaN(chart.depth.data[i])) expect(back.depth.data[i]).to.be.NaN;
      else expect(back.depth.data[i]).to.be.closeTo(chart.depth.data[i], 0.0051);
    }
    expect([...back.cells.depth]).to.deep.equal([...chart.cells.depth]);
    expect([...back.cells.fetch]).to.deep.equal([...chart.cells.fetch]);
  });
});

describe('an outline without soundings', () => {
  it('has cells and no depth: a shore alone says nothing of the bottom', () => {
    const bare = buildChart(32625, lake, { x: [], y: [], depth: [], hardness: [] });
    expect(bare.cells.count).to.equal(chart.cells.count);
    expect(bare.cells.depth.every((d) => Number.isNaN(d))).to.equal(true);
    expect([bare.soundings, bare.deepest]).to.deep.equal([0, 0]);
  });
});

describe('shape of the bottom', () => {
  it('has a slope of 0.1 on a plane that falls 1 m in 10', () => {
    const plane = new Raster(0, 0, 10, 20, 20);
    for (let k = 0; k < 400; k++) plane.data[k] = (k % 20) * 1;
    expect(slope(plane).data[210]).to.be.closeTo(0.1, 1e-6);
    expect(bottomPositions(plane, [50])[0].data[210]).to.be.closeTo(0, 1e-6);
  });
});

describe('contours', () => {
  it('come in sensible steps', () => {
    expect(contourDepths(8)).to.deep.equal([1, 2, 3, 4, 5, 6, 7]);
    expect(contourDepths(22.5)).to.deep.equal([2, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22]);
    expect(contourDepths(5)).to.have.length(9);
  });
  it('run where the depth is theirs', () => {
    const lines = contourLines(chart.depth, [4]);
    expect(lines.length).to.be.above(0);
    const inner = lines.flatMap((l) => l.points).filter(([x, y]) => x > 500100 && x < 500900 && y > 100 && y < 500);
    for (const [x, y] of inner) expect(bottom(x, y)).to.be.closeTo(4, 1.2);
  });
});

describe('an outline proposed from soundings', () => {
  it('covers the water that was sounded and little more', () => {
    const { x, y } = soundings();
    const area = ringsArea(proposeOutline(x, y));
    expect(area).to.be.within(600_000, 600_000 * 1.35);
  });
});

describe('cover as points', () => {
  it('fills areas, follows lines, leaves hazards and access out', () => {
    const metric = ([x, y]: number[]): Point => [x, y];
    const area = coverPoints(
      [
        {
          kind: 'weed',
          cover: null,
          geometry: {
            type: 'Polygon',
            coordinates: [
              [
                [0, 0],
                [40, 0],
                [40, 40],
                [0, 40],
                [0, 0],
              ],
            ],
          },
        },
      ],
      metric,
    )[0];
    expect(area.kind).to.equal('weed');
    expect(area.points.length).to.be.above(15);
    expect(
      coverPoints(
        [
          {
            kind: 'cover',
            cover: 'timber',
            geometry: {
              type: 'LineString',
              coordinates: [
                [0, 0],
                [100, 0],
              ],
            },
          },
        ],
        metric,
      )[0].points.length,
    ).to.be.above(9);
    expect(coverPoints([{ kind: 'hazard', cover: 'timber', geometry: { type: 'Point', coordinates: [0, 0] } }], metric)).to.have.length(0);
  });
});
