import { expect } from 'chai';
import fc from 'fast-check';
import {
  clusterVariance,
  falseDiscovery,
  seeded,
  splitByTrips,
  fitGlm,
  makeClusters,
  normalQuantile,
  rateRatio,
  shareOf,
  straightLine,
  studentQuantile,
  studentTail,
  wilson,
} from '../../src/numbers';

describe('quantiles', () => {
  it('agree with printed tables', () => {
    // Student's t, upper points, from the tables of Fisher & Yates.
    for (const [p, df, t] of [
      [0.975, 1, 12.706],
      [0.9, 3, 1.638],
      [0.95, 5, 2.015],
      [0.975, 10, 2.228],
      [0.995, 30, 2.75],
    ])
      expect(studentQuantile(p, df), `${p} ${df}`).to.be.closeTo(t, 6e-4);
    expect(studentTail(2.228, 10)).to.be.closeTo(0.05, 1e-4);
    expect(normalQuantile(0.975)).to.be.closeTo(1.959964, 1e-6);
    expect(normalQuantile(0.001)).to.be.closeTo(-3.090232, 1e-6);
  });
  it('are the inverse of the tail', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 0.49, noNaN: true }), fc.integer({ min: 1, max: 60 }), (q, df) => {
        expect(studentTail(studentQuantile(1 - q, df), df)).to.be.closeTo(2 * q, 1e-6);
      }),
    ));
});

describe('shares', () => {
  it('have Wilson’s interval as published', () => {
    // Newcombe 1998, Stat. Med. 17, table I: 95 %, no continuity correction.
    for (const [r, n, low, high] of [
      [81, 263, 0.2553, 0.3662],
      [15, 148, 0.0624, 0.1605],
      [0, 20, 0, 0.1611],
      [1, 29, 0.0061, 0.1718],
    ]) {
      const [a, b] = wilson(r, n, 1.959964);
      expect([a, b].map((v) => v.toFixed(4))).to.deep.equal([low, high].map((v) => v.toFixed(4)));
    }
  });
  it('are less sure when trials of a trip are alike', () => {
    // Ten trips of ten: mixed within trips, or each trip all one way.
    const rows = (yes: (trip: number, k: number) => boolean) =>
      Array.from({ length: 100 }, (_, i) => ({ trip: Math.floor(i / 10), yes: yes(Math.floor(i / 10), i % 10) }));
    const mixed = shareOf(rows((_, k) => k % 2 === 0));
    const alike = shareOf(rows((trip) => trip % 2 === 0));
    expect([mixed.share, alike.share]).to.deep.equal([0.5, 0.5]);
    // All one way: ten trials, not a hundred: √10 times as wide, or nearly.
    expect((alike.high - alike.low) / (mixed.high - mixed.low)).to.be.within(2.4, 3.4);
  });
  it('are told apart by trips: of five that all say the same two of 32 signs are as great', () => {
    const rows = (trips: number) =>
      Array.from({ length: trips * 20 }, (_, i) => ({
        trip: i % trips,
        inside: i < trips * 10,
        yes: i < trips * 10 ? Math.floor(i / trips) % 3 > 0 : Math.floor(i / trips) % 3 < 1,
      }));
    const alike = Array.from({ length: 50 }, (_, i) => ({ trip: i % 5, inside: i < 25, yes: i < 25 }));
    expect(splitByTrips(alike)).to.equal(2 / 32);
    expect(splitByTrips(rows(9))).to.be.below(0.02);
    expect(splitByTrips([])).to.equal(1);
  });
  it('stand out no oftener than is said where a whole trip has one lure and its own mood', () => {
    const random = seeded(7);
    let said = 0;
    const logs = 300;
    for (let log = 0; log < logs; log++) {
      const rows = Array.from({ length: 16 }, (_, trip) => ({ trip, lure: random() < 0.4, mood: random() })).flatMap(
        ({ trip, lure, mood }) => Array.from({ length: 8 }, () => ({ trip, inside: lure, yes: random() < mood })),
      );
      if (splitByTrips(rows) < 0.05) said++;
    }
    // 5 % are meant; over 8.5 % comes of it in less than 1 of 100.
    expect(said / logs).to.be.below(0.085);
  });
});

describe('false discoveries', () => {
  it('reject as in Benjamini & Hochberg 1995, their example', () => {
    const p = [0.0001, 0.0004, 0.0019, 0.0095, 0.0201, 0.0278, 0.0298, 0.0344, 0.0459, 0.324, 0.4262, 0.5719, 0.6528, 0.759, 1];
    const q = falseDiscovery(p);
    expect(q.filter((v) => v <= 0.05)).to.have.length(4);
    expect(q[3]).to.be.closeTo((0.0095 * 15) / 4, 1e-12);
    expect(q[14]).to.equal(1);
  });
});

describe('regression', () => {
  it('of counts agrees with Dobson 1990, the randomised controlled trial', () => {
    const counts = [18, 17, 15, 20, 10, 20, 25, 13, 12];
    const rows = counts.map((_, i) => [
      1,
      i % 3 === 1 ? 1 : 0,
      i % 3 === 2 ? 1 : 0,
      Math.floor(i / 3) === 1 ? 1 : 0,
      Math.floor(i / 3) === 2 ? 1 : 0,
    ]);
    const fit = fitGlm(rows, counts, 'counts');
    expect(fit.beta.slice(0, 3).map((v) => v.toFixed(4))).to.deep.equal(['3.0445', '-0.4543', '-0.2930']);
    expect(fit.beta[3]).to.be.closeTo(0, 1e-6);
    expect(fit.error.map((v) => v.toFixed(4))).to.deep.equal(['0.1709', '0.2022', '0.1927', '0.2000', '0.2000']);
  });
  it('of yes and no is the logarithm of the odds ratio in a table of two by two', () => {
    // 12 of 20 and 5 of 25: ln((12/8)/(5/20)) = ln 6, standard error √(1/12 + 1/8 + 1/5 + 1/20).
    const rows = [...Array.from({ length: 20 }, () => [1, 1]), ...Array.from({ length: 25 }, () => [1, 0])];
    const fit = fitGlm(
      rows,
      [...Array.from({ length: 20 }, (_, i) => Number(i < 12)), ...Array.from({ length: 25 }, (_, i) => Number(i < 5))],
      'yes or no',
    );
    expect(fit.beta[1]).to.be.closeTo(Math.log(6), 1e-7);
    expect(fit.error[1]).to.be.closeTo(Math.sqrt(1 / 12 + 1 / 8 + 1 / 5 + 1 / 20), 1e-7);
  });
  it('by a line agrees with Anscombe 1973, the first of his four', () => {
    const x = [10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5];
    const y = [8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68];
    const line = straightLine(
      x.map((v, i) => [v, y[i]]),
      0.95,
    )!;
    expect([line.slope.toFixed(3), line.intercept.toFixed(2), line.explained.toFixed(3)]).to.deep.equal(['0.500', '3.00', '0.667']);
    // Standard error 0.1179, t(9) at 97.5 % 2.262.
    expect((line.high - line.slope) / 2.262).to.be.closeTo(0.1179, 1e-4);
  });
  it('refuses a column that repeats another', () =>
    expect(() =>
      fitGlm(
        [
          [1, 2, 2],
          [1, 3, 3],
          [1, 5, 5],
          [1, 1, 1],
        ],
        [1, 2, 3, 1],
        'counts',
      ),
    ).to.throw(RangeError));
});

describe('the variance of what is alike', () => {
  it('is worked out by hand for two trips and two places', () => {
    // Scores 1, 2 | 3, −4 in trips; places A, B | A, B: trips (3, −1) → 10, places (4, −2) → 20, each alone 1 + 4 + 9 + 16 = 30.
    const clusters = makeClusters(Int32Array.of(0, 0, 1, 1), 2, Int32Array.of(0, 1, 0, 1), 2);
    const found = clusterVariance(Float64Array.of(1, 2, 3, -4), clusters);
    // 10 + 20 − 30 = 0, so half of the trips' part stands.
    expect([found.byTrip, found.variance]).to.deep.equal([10, 5]);
    // Trips carry (9 + 1)²/(81 + 1), places (16 + 4)²/(256 + 16).
    expect(found.trips).to.be.closeTo(100 / 82, 1e-12);
    expect(found.places).to.be.closeTo(400 / 272, 1e-12);
  });
  it('gives the Mantel–Haenszel rate ratio of two strata worked by hand', () => {
    // Trip 0: 6 in 3 ha inside, 2 in 6 ha outside; trip 1: 4 in 1 ha inside, 9 in 9 ha outside.
    // (6·6/9 + 4·9/10) / (2·3/9 + 9·1/10) = 7.6 / 1.5667 = 4.8511.
    const trip = Int32Array.of(0, 0, 1, 1);
    const clusters = makeClusters(trip, 2, Int32Array.of(0, 1, 2, 3), 4);
    const found = rateRatio([6, 2, 4, 9], [3, 6, 1, 9], [1, 0, 1, 0], clusters);
    expect(found.ratio).to.be.closeTo(7.6 / (6 / 9 + 0.9), 1e-9);
    expect(found).to.deep.include({ used: [10, 11], effort: [4, 15], looks: [2, 2], trips: 2 });
  });
  it('compares nothing where no trip looked at both', () => {
    const clusters = makeClusters(Int32Array.of(0, 1), 2, Int32Array.of(0, 1), 2);
    expect(rateRatio([5, 0], [1, 1], [1, 0], clusters)).to.include({ p: 1, trips: 0 });
    expect(rateRatio([5, 0], [1, 1], [1, 0], clusters).ratio).to.be.NaN;
  });
});
