import { expect } from 'chai';
import fc from 'fast-check';
import { makeClusters, seeded } from '../../src/numbers';
import { departure, persistence, shifts } from '../../src/patterns/shifts';

/** Looks of some trips at some places. */
function made(seed: number, used: (look: number, trip: number, place: number) => number) {
  const random = seeded(seed);
  const n = 240;
  const trip = Int32Array.from({ length: n }, (_, i) => Math.floor(i / 20));
  const place = Int32Array.from({ length: n }, () => Math.floor(15 * random()));
  return {
    used: Array.from({ length: n }, (_, i) => used(i, trip[i], place[i])),
    effort: Array.from({ length: n }, () => 0.1 + random()),
    clusters: makeClusters(trip, 12, place, 15),
  };
}

describe('sightings shifted along the boat’s way', () => {
  it('stay on their trip, all of them, and only where it is counted', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const looks = made(seed, (i) => (i * 7919 + seed) % 3);
        const keep = (i: number): boolean => i % 4 !== 1;
        const count = (visit: (add: (look: number, n: number) => void) => void): number[] => {
          const byTrip = Array.from({ length: 12 }, () => 0);
          visit((look, n) => {
            expect(keep(look)).to.equal(true);
            byTrip[looks.clusters.trip[look]] += n;
          });
          return byTrip;
        };
        const own = count((add) => looks.used.forEach((n, i) => keep(i) && add(i, n)));
        expect(count(shifts(looks, seeded(seed), keep))).to.deep.equal(own);
      }),
      { numRuns: 30 },
    ));
  it('fall by effort: where half of it was spent, half of them', () => {
    const looks = made(3, (i) => (i % 20 === 5 ? 3 : 0));
    const half = looks.effort.map((_, i) => i % 20 < 10);
    let expected = 0;
    for (let t = 0; t < 12; t++) {
      const own = looks.effort.map((e, i) => (looks.clusters.trip[i] === t ? e : 0));
      expected += (3 * own.reduce((s, e, i) => s + (half[i] ? e : 0), 0)) / own.reduce((s, e) => s + e, 0);
    }
    const draw = shifts(looks, seeded(8));
    let sum = 0;
    const draws = 2000;
    for (let d = 0; d < draws; d++) draw((look, n) => (sum += half[look] ? n : 0));
    expect(sum / draws).to.be.closeTo(expected, 0.5);
  });
  it('depart by square roots: not at all as expected, more one way than the other', () => {
    expect(departure(4, 4)).to.equal(0);
    expect(departure(9, 4)).to.be.greaterThan(0);
    expect(departure(0, 4)).to.be.lessThan(-1);
  });
});

describe('places that last', () => {
  it('make a sum vary more when they have fish on every trip, and no less when they have none of their own', () => {
    const random = seeded(5);
    const luck = Array.from({ length: 15 }, () => (random() < 0.3 ? 6 : 0));
    const inside = (looks: ReturnType<typeof made>) => [looks.used.map((_, i) => Number(looks.clusters.place[i] % 2 === 0))];
    const lasting = made(6, (_i, _t, place) => luck[place]);
    const passing = made(6, (i) => (i * 31) % 5);
    expect(persistence(lasting, inside(lasting))).to.be.greaterThan(2);
    expect(persistence(passing, inside(passing))).to.be.within(1, 2);
  });
  it('are not mistaken for what the division itself does', () => {
    const random = seeded(9);
    const looks = made(7, (_i, _t, place) => (random() < (place % 2 === 0 ? 0.5 : 0.1) ? 1 : 0));
    const inside = looks.used.map((_, i) => Number(looks.clusters.place[i] % 2 === 0));
    expect(persistence(looks, [inside])).to.be.within(1, 2);
  });
});
