import { expect } from 'chai';
import fc from 'fast-check';
import {
  areaAt,
  blurCell,
  blurred,
  BLUR_SIZES,
  distance,
  insideRings,
  metricPlane,
  middleOfArea,
  utmEpsg,
  type NamedArea,
  type Point,
} from '../../src/geo';

const place = fc.record({
  latitude: fc.double({ min: -70, max: 70, noNaN: true }),
  longitude: fc.double({ min: -179, max: 179, noNaN: true }),
});
const size = fc.constantFrom(...BLUR_SIZES);

describe('a blurred place', () => {
  it('lies within half a diagonal of the true one, and is the same for every place of its cell', () => {
    fc.assert(
      fc.property(
        place,
        size,
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        (p, s, u, v) => {
          const epsg = utmEpsg(p);
          const there = blurred(p, s, epsg);
          // UTM is true to 0.1 % within its zone.
          expect(distance(p, there)).to.be.at.most((s / Math.SQRT2) * 1.002);
          const { from } = blurCell(metricPlane(epsg).toMetric(p), s);
          const neighbour = metricPlane(epsg).toLatLon([from[0] + 0.5 + u * (s - 1), from[1] + 0.5 + v * (s - 1)]);
          expect(blurred(neighbour, s, epsg)).to.deep.equal(there);
        },
      ),
      { numRuns: 300 },
    );
  });
  it('is not found by averaging: a hundred fixes of one spot tell no more than its cell', () => {
    const spot = { latitude: 48.2003, longitude: -34.6007 };
    const epsg = utmEpsg(spot);
    const { from } = blurCell(metricPlane(epsg).toMetric(spot), 500);
    // A boat on anchor swings; the spot lies 40 m inside the cell's corner.
    const inside = metricPlane(epsg).toLatLon([from[0] + 40, from[1] + 40]);
    const fixes = Array.from({ length: 100 }, (_, k) => ({ latitude: inside.latitude + 1e-4 * Math.cos(k), longitude: inside.longitude + 1e-4 * Math.sin(k) })); // prettier-ignore
    const answers = fixes.map((f) => blurred(f, 500, epsg));
    const mean = {
      latitude: answers.reduce((a, p) => a + p.latitude, 0) / 100,
      longitude: answers.reduce((a, p) => a + p.longitude, 0) / 100,
    };
    expect(distance(mean, inside)).to.be.above(250);
    expect(new Set(answers.map((a) => JSON.stringify(a))).size).to.equal(1);
  });
  it('lies in the cells of all greater sizes that the true one lies in: asking for several sizes tells no more than the finest', () => {
    fc.assert(
      fc.property(place, (p) => {
        const plane = metricPlane(utmEpsg(p));
        const at = plane.toMetric(p);
        for (const [k, fine] of BLUR_SIZES.entries())
          for (const coarse of BLUR_SIZES.slice(k + 1)) {
            const [a, b] = [blurCell(at, fine), blurCell(at, coarse)];
            expect(a.from[0] >= b.from[0] && a.from[1] >= b.from[1] && a.to[0] <= b.to[0] && a.to[1] <= b.to[1]).to.equal(true);
          }
      }),
    );
  });
});

describe('a place said as an area', () => {
  /** A polygon round a middle, its corners as near and far as they like. */
  const areas = fc.array(fc.double({ min: 20, max: 900, noNaN: true }), { minLength: 3, maxLength: 14 }).map((radii): NamedArea => {
    const ring = radii.map((r, k): Point => {
      const angle = (2 * Math.PI * k) / radii.length;
      return [4000 + r * Math.cos(angle), 7000 + r * Math.sin(angle)];
    });
    return { name: 'North arm', rings: [ring] };
  });

  it('is one place inside it, whatever its form, and no corner lies farther than it says', () => {
    fc.assert(
      fc.property(areas, (area) => {
        const { at, within } = middleOfArea(area);
        expect(insideRings(area.rings, ...at)).to.equal(true);
        for (const corner of area.rings[0]) expect(Math.hypot(corner[0] - at[0], corner[1] - at[1])).to.be.at.most(within);
      }),
      { numRuns: 300 },
    );
  });

  it('lies in a horseshoe, not in what it bends round; of an area in pieces in the largest, and not in a hole', () => {
    const square = (x: number, y: number, side: number): Point[] => [[x, y], [x + side, y], [x + side, y + side], [x, y + side]]; // prettier-ignore
    const horseshoe: Point[] = [[0, 0], [300, 0], [300, 300], [200, 300], [200, 100], [100, 100], [100, 300], [0, 300]]; // prettier-ignore
    for (const rings of [[horseshoe], [square(0, 0, 10), square(100, 500, 90)], [square(0, 0, 100), square(30, 30, 40)]])
      expect(insideRings(rings, ...middleOfArea({ name: 'Bay', rings }).at), JSON.stringify(rings)).to.equal(true);
  });

  it('is that of the smallest that holds it, however they are listed, and of none outside of all', () => {
    const square = (name: string, side: number): NamedArea => ({ name, rings: [[[0, 0], [side, 0], [side, side], [0, side]]] }); // prettier-ignore
    const list = [square('Lake', 1000), square('Bay', 100), square('Arm', 400)];
    for (const order of [list, list.toReversed()]) {
      expect(areaAt(order, [50, 50])?.name).to.equal('Bay');
      expect(areaAt(order, [200, 50])?.name).to.equal('Arm');
      expect(areaAt(order, [2000, 50])).to.equal(null);
    }
  });
});
