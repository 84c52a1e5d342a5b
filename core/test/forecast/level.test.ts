import { expect } from 'chai';
import { cellsAtLevel, chartAtLevel, emptyChart } from '../../src/chart';
import { atTheirLevels, conditionsFromLog, dayFor, fitModel, levelBaseOf, predict, windowOn, type FitLook } from '../../src/forecast';
import type { Reading } from '../../src/logbook';
import { cells, certain, conditions, frame, log, look, zander } from '../support/planted-log';

const reading = (time: string, level: number) => ({ at: Date.parse(time), row: { time, water_level_m: level } as Reading });
/** Share of what is expected over bottoms between two depths. */
const share = (probability: Float32Array, depth: Float32Array, from: number, to: number): number => {
  let [inside, all] = [0, 0];
  probability.forEach((p, i) => {
    all += p;
    if (depth[i] >= from && depth[i] < to) inside += p;
  });
  return inside / all;
};

describe('a reservoir that is drawn down', () => {
  const low = cellsAtLevel(cells, -3);
  it('has shallower water, and ground that has fallen dry', () => {
    let dry = 0;
    for (let i = 0; i < cells.count; i++) {
      if (cells.depth[i] <= 3.05) {
        dry++;
        expect(low.depth[i]).to.be.NaN;
        expect(low.area[i]).to.equal(0);
      } else expect(low.depth[i]).to.be.closeTo(cells.depth[i] - 3, 1e-5);
    }
    expect(dry).to.be.above(100);
    expect(cellsAtLevel(cells, 0)).to.equal(cells);
  });
  it('keeps its chart for as long as it stands at a level', () => {
    const chart = { ...emptyChart(32625, [500000, 0]), cells, deepest: 9 };
    expect(chartAtLevel(chart, -3.02)).to.equal(chartAtLevel(chart, -2.98));
    expect(chartAtLevel(chart, -3).deepest).to.equal(6);
    expect(chartAtLevel(chart, 0.02)).to.equal(chart);
  });
  it('is as deep as it is today, in the column and the window', () => {
    const at = (level: number) => dayFor(conditions({ level }), frame);
    expect([at(-3).maxDepth, at(-3).level, at(0).maxDepth]).to.deep.equal([6, -3, 9]);
    expect(windowOn(zander, at(-6)).bottom).to.be.at.most(3);
  });
  it('is read from a gauge that tells metres above the sea as well', () => {
    const readings = [reading('2026-07-01T10:00:00Z', 310.4), reading('2026-07-10T10:00:00Z', 304), reading('2026-07-19T10:00:00Z', 303.5)];
    const base = levelBaseOf(readings, 310);
    expect(base).to.equal(310);
    const { conditions: now } = conditionsFromLog(readings, new Date('2026-07-20T12:00:00Z'), { ...frame, levelBase: base });
    expect(dayFor(now, { ...frame, levelBase: base }).level).to.be.closeTo(-6.5, 1e-9);
  });
  it('holds no chance where it is dry, and the fish of a depth where that depth now is', () => {
    const model = fitModel(zander, cells, certain(log(20, 200, 8, 5)));
    const before = predict(model, cells, dayFor(conditions({ level: 0 }), frame));
    const after = predict(model, low, dayFor(conditions({ level: -3 }), frame));
    after.probability.forEach((p, i) => Number.isNaN(low.depth[i]) && expect(p).to.be.below(1e-3));
    expect(share(before.probability, cells.depth, 4, 6)).to.be.above(0.3);
    expect(share(after.probability, low.depth, 4, 6)).to.be.above(0.3);
  });
  it('takes looks at the depths that there were: a log at two levels tells one depth', () => {
    // Fish keep to 4–6 m of water, whatever the level; half of the log was made 3 m down.
    const full = log(16, 120, 1, 9, 0);
    const looks = full.map((l, k): FitLook => {
      const level = l.trip % 2 ? -3 : 0;
      const depth = cells.depth[l.cell] + level;
      const seen = depth >= 4 && depth <= 6 && k % 2 === 0 ? 1 : 0;
      return { ...l, day: dayFor(conditions({ level }), frame), look: look(l.cell, seen, { from: l.look.from, to: l.look.to }) };
    });
    const own = atTheirLevels(cells, looks);
    expect(own.cells.count).to.equal(2 * cells.count);
    expect(own.looks.length).to.be.below(looks.length);
    const at = dayFor(conditions({ level: 0 }), frame);
    const told = (model: ReturnType<typeof fitModel>): number => share(predict(model, cells, at).probability, cells.depth, 4, 6);
    expect(told(fitModel(zander, own.cells, certain(own.looks)))).to.be.above(told(fitModel(zander, cells, certain(looks))) + 0.04);
    const still = atTheirLevels(cells, full);
    expect(still).to.deep.equal({ cells, looks: full });
  });
});
