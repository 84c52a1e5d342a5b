import { expect } from 'chai';
import fc from 'fast-check';
import { rateOf, seeded } from '../../src/numbers';

describe('a rate over trips', () => {
  it('is events per effort, its interval as worked out by hand', () => {
    // Three trips of 2, 4 and 6 hours with 4, 4 and 10 fish: 18 / 12 = 1.5; residuals 1, −2, 1; deviation √(6 × 3 / 2) / 12 = 0.25;
    // t of 2 degrees of freedom at 90 % is 1.8856, the factor e^(1.8856 × 0.25 / 1.5).
    const found = rateOf([
      { events: 4, effort: 2 },
      { events: 4, effort: 4 },
      { events: 10, effort: 6 },
    ])!;
    expect(found.rate).to.equal(1.5);
    expect(found.low).to.be.closeTo(1.5 / Math.exp(0.31427), 1e-3);
    expect(found.high).to.be.closeTo(1.5 * Math.exp(0.31427), 1e-3);
    expect(found.n).to.equal(3);
  });
  it('has no interval from one trip, none at all without effort, and an upper limit where nothing happened', () => {
    expect(rateOf([{ events: 3, effort: 2 }, { events: 9, effort: 0 }])).to.deep.equal({ rate: 1.5, low: null, high: null, n: 1 }); // prettier-ignore
    expect(rateOf([])).to.equal(null);
    const none = rateOf([{ events: 0, effort: 5 }, { events: 0, effort: 5 }])!; // prettier-ignore
    expect([none.rate, none.low]).to.deep.equal([0, 0]);
    expect(none.high).to.be.closeTo(0.2303, 1e-4);
  });
  it('lies in its interval, whatever the trips, and scales with the unit of effort', () => {
    const unit = fc.record({ events: fc.integer({ min: 0, max: 60 }), effort: fc.double({ min: 0.1, max: 14, noNaN: true }) });
    fc.assert(
      fc.property(fc.array(unit, { minLength: 2, maxLength: 30 }), fc.double({ min: 0.1, max: 60, noNaN: true }), (units, k) => {
        const [a, b] = [rateOf(units)!, rateOf(units.map((u) => ({ ...u, effort: u.effort * k })))!];
        expect(a.rate).to.be.within(a.low!, a.high!);
        for (const name of ['rate', 'low', 'high'] as const) expect(b[name]! * k).to.be.closeTo(a[name]!, 1e-9 + 1e-9 * a[name]!);
      }),
    );
  });
  it('is covered by its 80 % interval in about 80 of 100 logs of trips that differ', () => {
    const random = seeded(3);
    const gamma = (): number => -Math.log(random()) - Math.log(random());
    const poisson = (mean: number): number => {
      let [k, p] = [0, Math.exp(-mean)];
      for (let u = random(), sum = p; u > sum && k < 1000; sum += p) p *= mean / ++k;
      return k;
    };
    let covered = 0;
    for (let log = 0; log < 600; log++) {
      // The fish are as willing on one trip as on another only in the mean: 0.8 an hour.
      const trips = Array.from({ length: 25 }, () => 3 + 5 * random()).map((effort) => ({
        effort,
        events: poisson(0.4 * gamma() * effort),
      }));
      const { low, high } = rateOf(trips)!;
      if (low! <= 0.8 && 0.8 <= high!) covered++;
    }
    expect(covered / 600).to.be.within(0.74, 0.86);
  });
});
