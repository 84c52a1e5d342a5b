import { expect } from 'chai';
import fc from 'fast-check';
import { blurCell, blurred, BLUR_SIZES, distance, metricPlane, utmEpsg } from '../../src/geo';

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
