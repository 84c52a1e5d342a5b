import { expect } from 'chai';
import { buildChart } from '../../src/chart';
import { borrowFrom, fitModel, predict, type Model } from '../../src/forecast';
import type { Point } from '../../src/geo';
import { cells, certain, day, log, mean, zander } from '../support/planted-log';

/** Another water, twice as deep: a straight slope to 18 m. */
const shore: Point[][] = [
  [
    [510_000, 0],
    [510_900, 0],
    [510_900, 500],
    [510_000, 500],
  ],
];
const grid = { x: [] as number[], y: [] as number[], depth: [] as number[], hardness: [] as number[] };
for (let y = 10; y < 500; y += 20)
  for (let x = 510_010; x < 510_900; x += 20) {
    grid.x.push(x);
    grid.y.push(y);
    grid.depth.push((x - 510_000) / 50);
    grid.hardness.push(0.5);
  }
const other = buildChart(32625, shore, grid).cells;
const at = (low: number, high: number) => (i: number) => other.area[i] > 600 && other.depth[i] > low && other.depth[i] < high;
const preference = (model: Model): number => {
  const { probability } = predict(model, other, day);
  return mean(probability, at(4.2, 5.8)) / mean(probability, (i) => at(2, 3.2)(i) || at(7.5, 11)(i));
};

describe('a second water', () => {
  const first = fitModel(zander, cells, certain(log(30, 120, 6, 41)));
  const borrowed = borrowFrom(first, 'Long Mere')!;

  it('starts from the preference for a depth that the first one taught, as a depth, and says whence', () => {
    const alone = fitModel(zander, other, []);
    const begun = fitModel(zander, other, [], { borrowed });
    expect(preference(begun) / preference(alone)).to.be.above(1.3);
    expect(begun.stats.borrowed).to.deep.equal({ water: 'Long Mere', trips: 30, contacts: first.stats.contacts });
    expect([begun.stats.looks, alone.stats.borrowed]).to.deep.equal([0, null]);
  });
  it('is as unsure as the strategies alone are, until it has a log of its own', () => {
    const width = (model: Model): number => {
      const { low, high } = predict(model, other, day);
      return mean(high.map((h, i) => Math.log(h / low[i])));
    };
    expect(width(fitModel(zander, other, [], { borrowed }))).to.be.at.least(0.95 * width(fitModel(zander, other, [])));
  });
  it('believes its own log against what was borrowed', () => {
    const own = certain(log(30, 120, 1 / 4, 43));
    const plain = fitModel(zander, cells, own);
    const begun = fitModel(zander, cells, own, { borrowed });
    const ratio = (model: Model): number => {
      const { probability } = predict(model, cells, day);
      const liked = (i: number): boolean => cells.depth[i] > 4 && cells.depth[i] < 6;
      return mean(probability, liked) / mean(probability, (i) => !liked(i));
    };
    expect(ratio(begun)).to.be.within(0.8 * ratio(plain), 1.35 * ratio(plain));
    expect(ratio(begun)).to.be.below(0.7);
  });
  it('borrows nothing of a handful of trips, or of a fish hardly seen', () => {
    expect(borrowFrom(fitModel(zander, cells, certain(log(5, 120, 6, 44))), 'Long Mere')).to.equal(null);
    expect(borrowFrom(fitModel(zander, cells, certain(log(20, 40, 1, 45, 0.005))), 'Long Mere')).to.equal(null);
  });
});
