import { expect } from 'chai';
import { standOut, type Question } from '../../src/patterns';
import { makeClusters, seeded } from '../../src/numbers';
import { patternsOf } from '../support/made-up-logbook';

const question: Question = { species: 'zander' };

describe('a headline', () => {
  it('stands on few logs in which the fish care for nothing, though the boat does', () => {
    let said = 0;
    const logs = 24;
    for (let seed = 1; seed <= logs; seed++) {
      const patterns = patternsOf({ seed, trips: 10, packs: () => 1.2, boat: (depth) => (depth < 4 ? 1 : 0.25) });
      if (patterns.where(question, 'depth', { resamples: 20 }).standOut?.run) said++;
    }
    // 5 % are meant; of 24 more than 4 by chance in 1 of 100.
    expect(said).to.be.at.most(4);
  });
  it('stands where they keep to a depth twice as much, and names it', () => {
    let right = 0;
    for (let seed = 1; seed <= 8; seed++) {
      const patterns = patternsOf({ seed, trips: 30, packs: (depth) => (depth >= 3 && depth < 5 ? 3 : 1), boat: () => 1 });
      const { standOut: test } = patterns.where(question, 'depth', { resamples: 20 });
      if (!test?.run) continue;
      const [from, to] = test.run.classes;
      if (from >= 2 && to <= 5 && test.run.low > 1) right++;
    }
    expect(right).to.be.at.least(6);
  });
  it('is the same test whichever classes are empty, and none with a single class', () => {
    const random = seeded(3);
    const n = 400;
    const trip = Int32Array.from({ length: n }, (_, i) => Math.floor(i / 40));
    const place = Int32Array.from({ length: n }, () => Math.floor(random() * 30));
    const clusters = makeClusters(trip, 10, place, 30);
    const classes = Array.from({ length: n }, () => 2 + Math.floor(random() * 3));
    const used = classes.map((c) => (random() < (c === 3 ? 0.3 : 0.1) ? 1 : 0));
    const effort = classes.map(() => 1);
    const wide = standOut({ used, effort, classes, clusters }, { classes: 9 });
    const narrow = standOut({ used, effort, classes: classes.map((c) => c - 2), clusters }, { classes: 3 });
    expect(wide.p).to.equal(narrow.p);
    expect(wide.run?.classes).to.deep.equal([3, 3]);
    expect(wide.run?.ratio).to.be.closeTo(narrow.run!.ratio, 1e-12).and.to.be.greaterThan(1.4);
    expect(standOut({ used, effort, classes: classes.map(() => 0), clusters }, { classes: 3 })).to.deep.equal({
      run: null,
      p: 1,
      compared: 1,
    });
  });
});
