import { expect } from 'chai';
import { contourDepths, hypsographOf, packSoundings, tripSurface, unpackSoundings, volumeBetween, type CellTable } from '../../src/chart';
import { insideRings, metricPlane, outlineToRings, ringsToOutline, type Point } from '../../src/geo';

describe("the trip's own chart", () => {
  it('is the bottom along the track, from ten soundings on, without a spike', () => {
    const bottom = (x: number, y: number): number => 6 + 2 * Math.sin(x / 60) + y / 100;
    const [time, x, y, depth]: number[][] = [[], [], [], []];
    for (let k = 0; k < 400; k++) {
      const line = Math.floor(k / 100);
      time.push(k * 500);
      x.push(500_000 + (line % 2 ? 198 - (k % 100) * 2 : (k % 100) * 2));
      y.push(1000 + line * 15);
      depth.push(bottom(x[k], y[k]) + (k === 150 ? 9 : 0));
    }
    const first = (n: number) => ({ time: time.slice(0, n), x: x.slice(0, n), y: y.slice(0, n), depth: depth.slice(0, n) });
    expect(tripSurface(32625, first(5))).to.equal(null);
    const early = tripSurface(32625, first(60))!;
    const late = tripSurface(32625, first(400))!;
    const area = (s: typeof early): number => s.depth.data.filter((d) => !Number.isNaN(d)).length;
    expect(area(late)).to.be.above(1.5 * area(early));
    expect(late.soundings).to.equal(399);
    for (const [px, py] of [
      [500_060, 1007],
      [500_100, 1030],
    ])
      expect(late.depth.at(px, py)).to.be.closeTo(bottom(px, py), 0.2);
    expect(late.depth.at(500_600, 1000)).to.be.NaN;
  });
});

describe('soundings for drawing', () => {
  it('come back to the decimetre, with the newest survey named', () => {
    const latitude = [48.2, 48.201, 48.19];
    const longitude = [-34.6, -34.59, -34.61];
    const { all, newest, x, y, survey } = unpackSoundings(packSoundings({ count: 3, latitude, longitude, survey: [-1, 4, 7] }, 32625));
    expect([all, newest, [...survey]]).to.deep.equal([3, 7, [-1, 4, 7]]);
    const plane = metricPlane(32625);
    latitude.forEach((lat, k) => {
      const [px, py] = plane.toMetric({ latitude: lat, longitude: longitude[k] });
      expect(x[k]).to.be.closeTo(px, 0.11);
      expect(y[k]).to.be.closeTo(py, 0.11);
    });
  });
  it('of a water without any are none', () =>
    expect(unpackSoundings(packSoundings({ count: 0, latitude: [], longitude: [], survey: [] }, 32625)).x).to.have.length(0));
});

describe('area and volume by depth', () => {
  it('are those of a box with a step', () => {
    const cells = { count: 2, depth: Float32Array.of(4, 8), area: Float32Array.of(600, 600) } as unknown as CellTable;
    const hypsograph = hypsographOf(cells, 8);
    expect(hypsograph.area[0]).to.equal(1200);
    expect(hypsograph.area[6]).to.equal(600);
    expect(volumeBetween(hypsograph, 1, 3)).to.be.closeTo(2400, 1);
    expect(volumeBetween(hypsograph, 5, 7)).to.be.closeTo(1200, 1);
    expect(volumeBetween(hypsograph, 1, 7)).to.be.closeTo(volumeBetween(hypsograph, 1, 4.5) + volumeBetween(hypsograph, 4.5, 7), 1e-6);
  });
});

describe('contours for the reader', () => {
  it('lie on whole feet for who reads feet, and closer for a closer look', () => {
    const feet = contourDepths(12, 0.3048).map((d) => d / 0.3048);
    expect(feet.every((f) => Math.abs(f - Math.round(f)) < 1e-9)).to.equal(true);
    expect(feet.length).to.be.within(5, 12);
    expect(contourDepths(12, 1, 60).length).to.be.above(contourDepths(12, 1).length);
  });
});

describe('rings as an outline', () => {
  it('keep their islands and their lakes on islands, and come back the same water', () => {
    const ring = (r: number, cx = 0): Point[] => [
      [cx - r, -r],
      [cx + r, -r],
      [cx + r, r],
      [cx - r, r],
    ];
    const rings = [ring(100), ring(50), ring(20), ring(30, 400)];
    const outline = ringsToOutline(rings, ([x, y]) => [x / 1e5, y / 1e5]);
    expect(outline.type === 'MultiPolygon' && outline.coordinates.map((polygon) => polygon.length)).to.deep.equal([2, 1, 1]);
    const back = outlineToRings(outline, (x, y) => [x * 1e5, y * 1e5]);
    for (const [x, inside] of [
      [75, true],
      [35, false],
      [5, true],
      [405, true],
      [200, false],
    ] as const)
      expect(insideRings(back, x, 3), `at ${x}`).to.equal(inside);
  });
});
