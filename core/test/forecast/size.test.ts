import { expect } from 'chai';
import { fitModel, chancesOfLarge, ofLarge, predict, type SpeciesLook } from '../../src/forecast';
import { seeded } from '../../src/numbers';
import { cells, certain, day, log, mean, zander } from '../support/planted-log';

/** A log whose fish are large by a chance that follows from the depth; sizes of two thirds were logged. */
function sized(share: (depth: number) => number, seed: number): SpeciesLook[] {
  const random = seeded(seed);
  return certain(log(30, 120, 1, seed)).map((l) => ({
    ...l,
    look: {
      ...l.look,
      targets: l.look.targets.map((t) => ({
        ...t,
        target: `${l.trip} ${random()}`,
        size: random() < 2 / 3 ? (random() < share(cells.depth[l.cell]) ? 'large' : 'medium') : null,
      })),
    },
  }));
}
const whole = (low: number, high: number) => (i: number) => cells.area[i] > 600 && cells.depth[i] > low && cells.depth[i] < high;
const shareOf = (looks: SpeciesLook[], low: number, high: number): number => {
  const model = fitModel(zander, cells, looks);
  const any = predict(model, cells, day);
  const large = ofLarge(any, model.size!, cells, zander, day);
  return mean(large.probability, whole(low, high)) / mean(any.probability, whole(low, high));
};

describe('large fish', () => {
  it('are forecast where they were large: the share of them follows the depth that was planted', () => {
    const looks = sized((depth) => (depth > 5.5 ? 0.6 : 0.1), 61);
    expect(shareOf(looks, 7, 9)).to.be.within(0.45, 0.75);
    expect(shareOf(looks, 1, 3)).to.be.within(0.02, 0.2);
  });
  it('are an even share of all where size follows nothing', () => {
    const looks = sized(() => 0.3, 62);
    for (const [low, high] of [
      [1, 3],
      [4, 6],
      [7, 9],
    ])
      expect(shareOf(looks, low, high), `${low}–${high} m`).to.be.within(0.2, 0.42);
  });
  it('are less likely and less sure than fish of any size, cell by cell', () => {
    const model = fitModel(
      zander,
      cells,
      sized(() => 0.3, 63),
    );
    const any = predict(model, cells, day);
    const large = ofLarge(any, model.size!, cells, zander, day);
    expect(chancesOfLarge(any.probability, model.size!, cells, zander, day)).to.deep.equal(large.probability);
    for (let i = 0; i < cells.count; i += 7) {
      expect(large.probability[i]).to.be.below(any.probability[i]);
      expect(large.low[i]).to.be.at.most(large.probability[i]);
      expect(large.high[i]).to.be.at.least(large.probability[i]);
      expect(large.high[i] / large.low[i]).to.be.at.least(0.99 * (any.high[i] / any.low[i]));
    }
    expect(large.depthTop).to.deep.equal(any.depthTop);
  });
  it('are not told of where sizes were hardly logged', () =>
    expect(fitModel(zander, cells, certain(log(5, 60, 1, 64))).size).to.equal(null));
});
