import { expect } from 'chai';
import fc from 'fast-check';
import { hatAt, smoothPenalty, splineAt } from '../../src/forecast/basis';
import { choleskyInPlace, choleskySolve, inverseEntry, invertFactor } from '../../src/numbers';
import { holdingTable, HOLDING_STEP } from '../../src/forecast/holding-depth';
import { designDay } from '../../src/forecast/design';
import { dayFor, logEffort } from '../../src/forecast';
import { defaultSpecies } from '../../src/species';
import type { Look } from '../../src/logbook';

describe('splines', () => {
  const spec = { low: 0, high: 10, count: 8 };
  it('sum to one, are never negative and stay inside', () =>
    fc.assert(
      fc.property(fc.double({ min: -5, max: 15, noNaN: true }), (v) => {
        const [first, weights] = splineAt(spec, v);
        expect(weights.reduce((a, b) => a + b, 0)).to.be.closeTo(1, 1e-12);
        expect(Math.min(...weights)).to.be.at.least(-1e-12);
        expect(first).to.be.within(0, spec.count - 4);
        const [start, hats] = hatAt(spec, v);
        expect(hats[0] + hats[1]).to.be.closeTo(1, 1e-12);
        expect(start).to.be.within(0, spec.count - 2);
      }),
    ));
  it('are continuous across a knot', () => {
    const at = (v: number): Map<number, number> => new Map(splineAt(spec, v)[1].map((w, k) => [splineAt(spec, v)[0] + k, w]));
    const [below, above] = [at(2 - 1e-9), at(2 + 1e-9)];
    for (let k = 0; k < spec.count; k++) expect(below.get(k) ?? 0).to.be.closeTo(above.get(k) ?? 0, 1e-6);
  });
  it('a straight line costs nothing but the ridge', () => {
    const n = 6;
    const p = smoothPenalty(n, 0);
    const line = Array.from({ length: n }, (_, i) => 3 * i - 1);
    let cost = 0;
    for (let a = 0; a < n; a++) for (let b = 0; b < n; b++) cost += line[a] * p[a * n + b] * line[b];
    // But for its level, which belongs to the intercept: 1/n of the squared sum.
    expect(cost).to.be.closeTo(line.reduce((s, v) => s + v) ** 2 / n, 1e-9);
    expect(smoothPenalty(n, 0).reduce((s, v) => s + v, 0)).to.be.closeTo(n, 1e-9);
  });
});

describe('linear algebra', () => {
  // Not a multiple of the columns that are worked out side by side.
  const n = 11;
  const matrix = (values: number[]): Float64Array => {
    // A·Aᵀ + I is positive definite whatever A.
    const a = new Float64Array(n * n);
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) for (let k = 0; k < n; k++) a[i * n + j] += values[i * n + k] * values[j * n + k];
    for (let i = 0; i < n; i++) a[i * n + i] += 1;
    return a;
  };
  it('solves, and inverts entry by entry', () =>
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: n * n, maxLength: n * n }),
        fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: n, maxLength: n }),
        (values, right) => {
          const a = matrix(values);
          const l = Float64Array.from(a);
          choleskyInPlace(l, n);
          const x = choleskySolve(l, n, Float64Array.from(right));
          for (let i = 0; i < n; i++)
            expect(right[i]).to.be.closeTo(
              x.reduce((s, v, j) => s + a[i * n + j] * v, 0),
              1e-7,
            );
          const inverse = invertFactor(l, n);
          for (let i = 0; i < n; i++)
            for (let j = 0; j < n; j++) {
              let s = 0;
              for (let k = 0; k < n; k++) s += a[i * n + k] * inverseEntry(inverse, n, k, j);
              expect(s).to.be.closeTo(i === j ? 1 : 0, 1e-7);
            }
        },
      ),
    ));
  it('refuses what is not positive definite', () => expect(() => choleskyInPlace(Float64Array.of(1, 0, 2, 1), 2)).to.throw(RangeError));
});

describe('effort as the model sees it', () => {
  const look = (more: Partial<Look>): Look => ({
    column: 0,
    row: 0,
    visit: 0,
    kind: 'scan',
    from: 0,
    to: 0,
    effort: 625,
    area: 625,
    view: null,
    reach: null,
    targets: [],
    ...more,
  });
  it('is one for a whole cell, and never less than a glance', () => {
    expect(logEffort(look({}))).to.equal(0);
    expect(logEffort(look({ effort: 312.5 }))).to.be.closeTo(Math.log(0.5), 1e-9);
    expect(logEffort(look({ effort: 0.1 }))).to.be.closeTo(Math.log(30 / 625), 1e-9);
  });
  it('a blank of no minutes is worth two scans of its circle in the cell', () =>
    expect(logEffort(look({ kind: 'fish', effort: 0, area: 625 }))).to.be.closeTo(Math.log(2), 1e-9));
  it('minutes are minutes', () => expect(logEffort(look({ kind: 'fish', effort: 12 }))).to.be.closeTo(Math.log(12), 1e-9));
});

describe('holding depth', () => {
  const zander = defaultSpecies.find((s) => s.name === 'zander')!;
  const day = designDay(
    zander,
    dayFor(
      {
        at: new Date('2026-07-20T12:00:00Z'),
        surface: 19,
        trend: 0,
        secchi: 1.6,
        windFrom: 0,
        windSpeed: 0,
        level: null,
        levelTrend: null,
        thermoclineSet: null,
      },
      { latitude: 50, longitude: -34, altitude: 0, deepest: 15, lengthKm: 3 },
    ),
  );
  const at = (table: ReturnType<typeof holdingTable>, depth: number): [number, number] => [
    table.top[Math.round(depth / HOLDING_STEP)],
    table.bottom[Math.round(depth / HOLDING_STEP)],
  ];
  it('keeps the height over the bottom of fish that were near it', () => {
    const near = Array.from({ length: 60 }, (_, k) => ({ depth: 5 + (k % 5) * 0.1, bottom: 6, surface: 19 }));
    const [top, bottom] = at(holdingTable(near, zander, day, 15), 7);
    expect(top).to.be.within(5.5, 6.1);
    expect(bottom).to.be.within(6.2, 6.6);
  });
  it('keeps the depth of fish that hung high over deep water', () => {
    const high = Array.from({ length: 60 }, (_, k) => ({ depth: 4.5 + (k % 5) * 0.1, bottom: 12, surface: 19 }));
    const [top, bottom] = at(holdingTable(high, zander, day, 15), 13);
    expect(top).to.be.within(4.2, 4.8);
    expect(bottom).to.be.within(4.7, 5.6);
  });
  it('is a guess inside the day’s window where nothing was logged', () => {
    const [top, bottom] = at(holdingTable([], zander, day, 15), 12);
    expect(top).to.be.at.least(day.strategy.window.top - 0.01);
    expect(bottom).to.be.at.most(day.strategy.window.bottom + 0.01);
  });
});
