import { expect } from 'chai';
import fc from 'fast-check';
import { seeded } from '../../src/numbers';
import { bestRoute, gainOf, nearestFirst, STAYS, timed, type RouteLeg, type RouteProblem } from '../../src/passage';

/** Places strewn over 4 × 2.5 km, some open for an hour or two only, some better at one time of day. */
function instance(seed: number, n: number): RouteProblem {
  const random = seeded(seed);
  const points = Array.from({ length: n + 1 }, () => [random() * 4000, random() * 2500]);
  points.push(points[n]);
  const few = n <= 12;
  const length = few ? 120 : 240;
  return {
    stops: Array.from({ length: n }, () => {
      const [base, peak, opens] = [0.05 + random() ** 2, random() * 16, Math.floor(random() * length * 0.7)];
      const window = random() < 0.3;
      return {
        worth: Array.from({ length: 16 }, (_, k) => base * (0.6 + 0.8 * Math.exp(-((k - peak) ** 2) / 18))),
        pace: 6 + 20 * random(),
        opens: window ? opens : 0,
        closes: window ? opens + 60 : Infinity,
        pinned: false,
        stay: null,
      };
    }),
    step: 15,
    travel: points.map((a) => points.map((b) => Math.ceil(Math.hypot(a[0] - b[0], a[1] - b[1]) / 540))),
    fuel: null,
    length,
    stays: few ? [10, 20, 40] : STAYS,
  };
}

/** The optimum by looking at every order: the best gain by stops visited, last stop and minute, which are whole here. */
function optimum(p: RouteProblem): number {
  const n = p.stops.length;
  let best = 0;
  let layer = new Map<number, Map<number, number>>([[n, new Map([[0, 0]])]]);
  while (layer.size) {
    const next = new Map<number, Map<number, number>>();
    for (const [key, times] of layer) {
      const [mask, last] = [key >> 5, key & 31];
      for (const [time, gain] of times) {
        if (time + p.travel[last][n + 1] <= p.length) best = Math.max(best, gain);
        for (let s = 0; s < n; s++) {
          if (mask & (1 << s)) continue;
          const arrive = Math.max(time + p.travel[last][s], p.stops[s].opens);
          if (arrive > p.stops[s].closes) continue;
          for (const stay of p.stays) {
            const left = arrive + stay;
            if (left + p.travel[s][n + 1] > p.length) break;
            const at = ((mask | (1 << s)) << 5) | s;
            let list = next.get(at);
            if (!list) next.set(at, (list = new Map()));
            const reached = gain + gainOf(p.stops[s], p.step, arrive, stay);
            if (reached > (list.get(left) ?? -1)) list.set(left, reached);
          }
        }
      }
    }
    layer = next;
  }
  return best;
}

describe('the best route', () => {
  it('lies within 3 % of the optimum on 200 days of up to 12 stops, looked through whole', function () {
    this.timeout(300_000);
    const ratios: number[] = [];
    for (let seed = 0; seed < 200; seed++) {
      const p = instance(100 + seed, 6 + (seed % 7));
      const best = optimum(p);
      const found = timed(p, bestRoute(p, seed))!;
      expect(found.gain).to.be.at.most(best + 1e-9);
      ratios.push(best > 0 ? found.gain / best : 1);
    }
    expect(Math.min(...ratios)).to.be.at.least(0.97);
    expect(ratios.reduce((a, b) => a + b, 0) / ratios.length).to.be.at.least(0.995);
  });

  it('is never worse than nearest-first, on 200 days of 60 stops', function () {
    this.timeout(300_000);
    for (let seed = 0; seed < 200; seed++) {
      const p = instance(1000 + seed, 60);
      // Also where it is given hardly any time to think.
      const route = bestRoute(p, seed, seed % 20 ? 400 : undefined);
      expect(timed(p, route)!.gain, `day ${seed}`).to.be.at.least(timed(p, nearestFirst(p))!.gain);
    }
  });

  it('keeps to windows, time, fuel, pinned stops and those that come first', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 4, max: 20 }), (seed, n) => {
        const base = instance(seed, n);
        const use = base.travel.map((row) => Array.from(row, (m) => m * 0.2));
        const [pinned, first] = [seed % n, (seed + 1) % n];
        const p: RouteProblem = {
          ...base,
          stops: base.stops.map((s, i) => ({ ...s, pinned: i === pinned, stay: i === first ? 15 : null })),
          fuel: { use, most: 6 },
          first: [first],
        };
        const route = bestRoute(p, 3, 3000);
        const found = timed(p, route)!;
        expect(found.ends).to.be.at.most(p.length);
        for (const leg of found.legs) {
          expect(leg.arrive).to.be.within(p.stops[leg.stop].opens, p.stops[leg.stop].closes);
          if (leg.stop === first) expect(leg.stay).to.equal(15);
        }
        const order = [n, ...route.map((l) => l.stop), n + 1];
        expect(order.slice(1).reduce((s, b, i) => s + use[order[i]][b], 0)).to.be.at.most(6 + 1e-9);
        expect(new Set(route.map((l) => l.stop)).size).to.equal(route.length);
        const alone = (legs: RouteLeg[]): boolean => timed(p, legs) !== null;
        if (alone([{ stop: first, stay: 15 }])) {
          expect(route[0]?.stop).to.equal(first);
          if (pinned !== first && alone([{ stop: first, stay: 15 }, { stop: pinned, stay: 10 }])) expect(route.some((l) => l.stop === pinned)).to.equal(true); // prettier-ignore
        }
      }),
      { numRuns: 40 },
    );
  });

  it('by hand: of two places as good, the one that is good in the evening comes last', () => {
    const place = (worth: number[]) => ({ worth, pace: 10, opens: 0, closes: Infinity, pinned: false, stay: 30 });
    const p: RouteProblem = {
      stops: [place([1, 1, 1, 1]), place([0.2, 0.2, 2, 2])],
      step: 30,
      travel: [0, 1, 2, 3].map((i) => [0, 1, 2, 3].map((j) => (i === j ? 0 : 5))),
      fuel: null,
      length: 100,
      stays: [30],
    };
    expect(bestRoute(p).map((l) => l.stop)).to.deep.equal([0, 1]);
    const found = timed(p, bestRoute(p))!;
    // Arrives at 5, leaves at 35; arrives at 40, its middle at 55 falls into the second half hour.
    expect(found.legs.map((l) => [l.arrive, l.leave])).to.deep.equal([
      [5, 35],
      [40, 70],
    ]);
    expect(found.gain).to.be.closeTo((1 + 0.2) * (1 - Math.exp(-3)), 1e-12);
  });
});
