import { expect } from 'chai';
import { patch } from '../../src/geo';
import { areaLookedAt } from '../../src/logbook';

const box = (x: number, y: number, w: number, h: number) =>
  patch([
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ]);

describe('water looked at', () => {
  it('counts each place once, over the borders of its squares and far from the origin', () => {
    const [x, y] = [512_340, 5_338_850];
    expect(areaLookedAt([])).to.equal(0);
    expect(areaLookedAt([box(x, y, 250, 40)])).to.be.closeTo(10_000, 0.5);
    // Two passes 40 m wide that cross at right angles share 1,600 m².
    expect(areaLookedAt([box(x, y, 250, 40), box(x + 100, y - 100, 40, 250)])).to.be.closeTo(10_000 + 10_000 - 1600, 1);
    expect(areaLookedAt([box(x, y, 250, 40), box(x, y, 250, 40)])).to.be.closeTo(10_000, 0.5);
  });
});
