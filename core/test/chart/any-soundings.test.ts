import { expect } from 'chai';
import fc from 'fast-check';
import { bandShare, buildChart, CELL_COLUMNS, contourDepths, contourLines, packChart, unpackChart, type CellTable } from '../../src/chart';
import { bestPlaces, dayFor, fitModel, predict } from '../../src/forecast';
import { ringsArea, type Point } from '../../src/geo';
import { conditions, frame, zander } from '../support/planted-log';

// Whatever was sounded on whatever water: a chart that could be one, and a forecast on it that could be one.

/** A shore like a star: any number of bays, never crossing itself. */
const anyShore: fc.Arbitrary<Point[]> = fc.array(fc.integer({ min: 40, max: 260 }), { minLength: 5, maxLength: 14 }).map((reaches) =>
  reaches.map((r, k): Point => {
    const turn = (2 * Math.PI * k) / reaches.length;
    return [500_400 + r * Math.cos(turn), 5_300_400 + r * Math.sin(turn)];
  }),
);
const sounding = fc.record({
  x: fc.integer({ min: 500_100, max: 500_700 }),
  y: fc.integer({ min: 5_300_100, max: 5_300_700 }),
  depth: fc.oneof(
    { weight: 9, arbitrary: fc.double({ min: 0, max: 12, noNaN: true }) },
    { weight: 1, arbitrary: fc.constantFrom(0, 95, 400) },
  ),
  hardness: fc.oneof(fc.double({ min: 0, max: 1, noNaN: true }), fc.constant(NaN)),
});
/** Scattered, all at one place, or in a line: as they come. */
const anySoundings = fc.oneof(
  fc.array(sounding, { maxLength: 120 }),
  fc.tuple(sounding, fc.integer({ min: 1, max: 40 })).map(([s, n]) => Array.from({ length: n }, () => s)),
  fc
    .tuple(sounding, fc.integer({ min: 2, max: 60 }))
    .map(([s, n]) => Array.from({ length: n }, (_, k) => ({ ...s, x: 500_200 + 7 * k, y: 5_300_400 }))),
);

/** With one deep place sounded near its shore, the surface would go on falling where nobody sounded. */
const SLANTING_BAY: Point[] = [
  [500_440, 5_300_400],
  [500_412.4, 5_300_438],
  [500_367.6, 5_300_423.5],
  [500_337.7, 5_300_354.7],
  [500_416.4, 5_300_349.6],
];

const day = dayFor(conditions(), frame);
const known = (cells: CellTable): number[] => Array.from({ length: cells.count }, (_, i) => i).filter((i) => !Number.isNaN(cells.depth[i]));

describe('a chart of any soundings', () => {
  it('lies in its shore, is hardly deeper than what was sounded, and survives packing; it can be forecast on', () =>
    fc.assert(
      fc.property(anyShore, anySoundings, fc.constantFrom(1, 1, 1, 6), (near, soundings, times) => {
        // A pond or a lake of two or three kilometres.
        const wide = (x: number, y: number): Point => [500_400 + times * (x - 500_400), 5_300_400 + times * (y - 5_300_400)];
        const shore = near.map(([x, y]) => wide(x, y));
        const columns = { x: [], y: [], depth: [], hardness: [] } as Record<'x' | 'y' | 'depth' | 'hardness', number[]>;
        for (const s of soundings) {
          const [x, y] = wide(s.x, s.y);
          for (const [name, v] of Object.entries({ ...s, x, y })) columns[name as 'x'].push(v);
        }
        const chart = buildChart(32625, [shore], columns);
        const { cells } = chart;
        const most = Math.max(0, ...columns.depth);
        const area = cells.area.reduce((s, a) => s + a, 0);
        expect(area).to.be.closeTo(ringsArea([shore]), 0.02 * ringsArea([shore]) + 50);
        for (let i = 0; i < cells.count; i++) {
          expect(cells.area[i]).to.be.within(0, 625.01);
          if (!Number.isNaN(cells.depth[i])) expect(cells.depth[i]).to.be.within(0, most * 1.3 + 0.3);
          if (!Number.isNaN(cells.hardness[i])) expect(cells.hardness[i]).to.be.within(0, 1);
          if (!Number.isNaN(cells.slope[i])) expect(cells.slope[i]).to.be.at.least(0);
          expect(cells.shoreDistance[i]).to.be.within(0, 400 * times);
        }
        expect(chart.deepest).to.be.within(0, most * 1.3 + 0.3);
        for (const line of contourLines(chart.depth, contourDepths(chart.deepest))) expect(line.depth).to.be.within(0, chart.deepest);
        for (const { x, y, confidence } of chart.features) {
          expect([x, y].every(Number.isFinite)).to.equal(true);
          expect(confidence).to.be.within(0, 1);
        }
        const back = unpackChart(packChart(chart)).cells;
        for (const name of CELL_COLUMNS)
          for (let i = 0; i < cells.count; i++)
            if (!Number.isNaN(cells[name][i])) expect(back[name][i], name).to.be.closeTo(cells[name][i], 0.02);
        const { bottom, over, out } = bandShare(cells, 2, 5);
        if (known(cells).length) expect(bottom + over + out).to.be.closeTo(1, 1e-6);

        const forecast = predict(fitModel(zander, cells, []), cells, day);
        for (const i of known(cells)) {
          expect(forecast.probability[i]).to.be.within(forecast.low[i], forecast.high[i]);
          expect(forecast.low[i]).to.be.at.least(0);
          expect(forecast.high[i]).to.be.at.most(1);
        }
        for (const place of bestPlaces(fitModel(zander, cells, []), cells, day, forecast, new Map())) {
          expect(place.depth).to.be.within(0, most * 1.3 + 0.3);
          for (const { says } of place.reasons) expect(JSON.stringify(says)).to.not.match(/null|Infinity/);
        }
      }),
      {
        numRuns: 20,
        examples: [[SLANTING_BAY, Array.from({ length: 4 }, () => ({ x: 500_371, y: 5_300_395, depth: 400, hardness: NaN })), 1]],
      },
    ));
});
