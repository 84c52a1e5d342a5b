import { expect } from 'chai';
import { jacobsIndex, manlyRatio, seeded, selection, type ClassedLook } from '../../src/patterns';

describe('selection ratios', () => {
  it('agree with a table worked by hand', () => {
    // 60 of 100 animals in a habitat that is 30 % of the area: w = 2; D = (0.6 − 0.3)/(0.6 + 0.3 − 0.36) = 0.5556.
    expect(manlyRatio(60, 100, 3, 10)).to.be.closeTo(2, 1e-12);
    expect(jacobsIndex(0.6, 0.3)).to.be.closeTo(0.5556, 1e-4);
    expect(jacobsIndex(0, 0.3)).to.equal(-1);
    expect(jacobsIndex(1, 0.3)).to.be.closeTo(1, 1e-12);
    expect(jacobsIndex(0.3, 0.3)).to.be.closeTo(0, 1e-12);
  });
  it('are one where the fish care for nothing', () => {
    const looks: ClassedLook[] = [0, 1].flatMap((c) => [0, 1, 2].map((trip) => ({ trip, class: c, effort: c + 1, used: 3 * (c + 1) })));
    for (const c of selection(looks, { classes: 2 })) expect([c.ratio, c.low, c.high]).to.deep.equal([1, 1, 1]);
  });
  it('take availability within each trip: season mixed with depth is not a choice', () => {
    // In spring the boat looks shallow and fish are many, in summer deep and few; within a trip they care for nothing.
    const random = seeded(3);
    const looks: ClassedLook[] = [];
    for (let trip = 0; trip < 40; trip++) {
      const spring = trip % 2 === 0;
      for (let k = 0; k < 40; k++) {
        const deep = random() < (spring ? 0.15 : 0.85) ? 1 : 0;
        looks.push({ trip, class: deep, effort: 1, used: random() < (spring ? 0.4 : 0.05) ? 1 : 0 });
      }
    }
    const [shallow, deep] = selection(looks, { classes: 2 });
    expect(shallow.low).to.be.below(1);
    expect(shallow.high).to.be.above(1);
    expect(deep.low).to.be.below(1);
    expect(deep.high).to.be.above(1);
    const pooled = manlyRatio(shallow.used, shallow.used + deep.used, shallow.effort, shallow.effort + deep.effort);
    expect(pooled).to.be.above(1.3);
  });
  it('find a planted preference, and their 90 % intervals cover it', () => {
    let covered = 0;
    const runs = 60;
    for (let run = 0; run < runs; run++) {
      const random = seeded(100 + run);
      const looks: ClassedLook[] = [];
      for (let trip = 0; trip < 25; trip++) {
        const mood = 0.05 + 0.2 * random();
        for (let k = 0; k < 30; k++) {
          const c = random() < 0.7 ? 0 : 1;
          looks.push({ trip, class: c, effort: 1, used: random() < mood * (c === 1 ? 2 : 1) ? 1 : 0 });
        }
      }
      // Availability 0.7 : 0.3, twice the rate in class 1: w = 2 / (0.7 + 0.6).
      const truth = 2 / 1.3;
      const c = selection(looks, { classes: 2, resamples: 200 })[1];
      if (c.low <= truth && truth <= c.high) covered++;
    }
    expect(covered / runs).to.be.within(0.78, 1);
  });
  it('leave out what had no effort', () =>
    expect(selection([{ trip: 0, class: 0, effort: 0, used: 5 }], { classes: 1 })[0].used).to.equal(0));
});
