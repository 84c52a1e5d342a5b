import { expect } from 'chai';
import fc from 'fast-check';
import {
  bearing,
  destination,
  distance,
  insideMask,
  insideRings,
  mayOverlap,
  parseCellKey,
  cellKey,
  patch,
  Raster,
  unionArea,
  type Point,
} from '../../src/geo';
import { placeTarget } from '../../src/sonar';

const position = fc.record({
  latitude: fc.double({ min: -75, max: 75, noNaN: true }),
  longitude: fc.double({ min: -179, max: 179, noNaN: true }),
});
const ring = (n: number) =>
  fc
    .array(fc.double({ min: 20, max: 100, noNaN: true }), { minLength: n, maxLength: n })
    .map((radii): Point[] => radii.map((r, k) => [150 + r * Math.cos((k * 2 * Math.PI) / n), 150 + r * Math.sin((k * 2 * Math.PI) / n)]));

describe('the sphere', () => {
  it('a destination lies as far off and in the direction that was asked for', () =>
    fc.assert(
      fc.property(
        position,
        fc.double({ min: 0, max: 359, noNaN: true }),
        fc.double({ min: 5, max: 20000, noNaN: true }),
        (from, course, metres) => {
          const to = destination(from, course, metres);
          expect(distance(from, to)).to.be.closeTo(metres, metres * 1e-6 + 1e-3);
          const off = Math.abs(bearing(from, to) - course);
          expect(Math.min(off, 360 - off)).to.be.below(0.05);
        },
      ),
    ));
  it('a target on the Pad lies as far off as it was touched, whatever the course', () =>
    fc.assert(
      fc.property(
        position,
        fc.double({ min: 0, max: 360, noNaN: true }),
        fc.double({ min: -40, max: 40, noNaN: true }),
        fc.double({ min: -40, max: 40, noNaN: true }),
        (at, course, ahead, starboard) => {
          const target = placeTarget({ position: at, course, speed: 2 }, ahead, starboard);
          expect(distance(at, target)).to.be.closeTo(Math.hypot(ahead, starboard), 0.01);
        },
      ),
    ));
});

describe('grids', () => {
  it('a mask says the same as asking each point', () =>
    fc.assert(
      fc.property(ring(9), fc.double({ min: 3, max: 17, noNaN: true }), (shore, size) => {
        const n = Math.ceil(300 / size);
        const mask = insideMask([shore], 0, 0, size, n, n);
        for (let j = 0; j < n; j += 3)
          for (let i = 0; i < n; i += 3)
            expect(mask[j * n + i] === 1, `${i} ${j}`).to.equal(insideRings([shore], (i + 0.5) * size, (j + 0.5) * size));
      }),
      { numRuns: 50 },
    ));
  it('a patch that surely misses a box has no area in it', () =>
    fc.assert(
      fc.property(ring(8), fc.integer({ min: 0, max: 11 }), fc.integer({ min: 0, max: 11 }), (points, c, r) => {
        const box: [number, number, number, number] = [c * 25, r * 25, c * 25 + 25, r * 25 + 25];
        const p = patch(points);
        if (!mayOverlap(p, box)) expect(unionArea([p], box)).to.be.below(1e-6);
      }),
    ));
  it('keys of cells go there and back', () =>
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 40000 }), fc.integer({ min: 0, max: 400000 }), (column, row) => {
        expect(parseCellKey(cellKey(column, row))).to.deep.equal([column, row]);
      }),
    ));
  it('a raster finds the cell of each of its centres, and none outside', () => {
    const raster = new Raster(100, 200, 7, 13, 9);
    for (let k = 0; k < 13 * 9; k++) expect(raster.index(...raster.centre(k))).to.equal(k);
    expect([raster.index(99, 210), raster.index(100 + 7 * 13, 210)]).to.deep.equal([-1, -1]);
    expect(raster.at(0, 0)).to.be.NaN;
  });
});
