import { expect } from 'chai';
import { statement } from '../../src/statements';
import { makeClusters, rateRatio, seeded } from '../../src/numbers';
import { finish, jacobsIndex, manlyRatio, searchCombinations, selection, selectionCurve } from '../../src/patterns';
import { conditionsOfMade, makeUpLooks } from './made-up-looks';

/** Looks given one by one, each of a place of its own. */
const laidOut = (looks: { trip: number; class: number; effort: number; used: number }[]) => ({
  used: looks.map((l) => l.used),
  effort: looks.map((l) => l.effort),
  classes: looks.map((l) => l.class),
  clusters: makeClusters(
    Int32Array.from(looks, (l) => l.trip),
    Math.max(...looks.map((l) => l.trip)) + 1,
    Int32Array.from(looks, (_, i) => i),
    looks.length,
  ),
});

describe('selection ratios', () => {
  it('agree with a table worked by hand', () => {
    // 60 of 100 animals in a habitat that is 30 % of the area: w = 2; D = (0.6 − 0.3)/(0.6 + 0.3 − 0.36) = 0.5556.
    expect(manlyRatio(60, 100, 3, 10)).to.be.closeTo(2, 1e-12);
    expect(jacobsIndex(0.6, 0.3)).to.be.closeTo(0.5556, 1e-4);
    expect(jacobsIndex(0, 0.3)).to.equal(-1);
    expect(jacobsIndex(1, 0.3)).to.be.closeTo(1, 1e-12);
    expect(jacobsIndex(0.3, 0.3)).to.be.closeTo(0, 1e-12);
  });
  it('agree with two trips worked by hand, and give no interval for so few', () => {
    // Trip 0: 6 and 2 seen in 3 and 6 ha, so 8·3/9 and 8·6/9 expected; trip 1: 4 and 9 in 1 and 9 ha, so 1.3 and 11.7.
    const rows = selection(
      laidOut([
        { trip: 0, class: 0, effort: 3, used: 6 },
        { trip: 0, class: 1, effort: 6, used: 2 },
        { trip: 1, class: 0, effort: 1, used: 4 },
        { trip: 1, class: 1, effort: 9, used: 9 },
      ]),
      { classes: 2 },
    );
    expect(rows[0].ratio).to.be.closeTo(10 / (8 / 3 + 1.3), 1e-9);
    expect(rows[1].ratio).to.be.closeTo(11 / (16 / 3 + 11.7), 1e-9);
    expect(rows[0].rate).to.be.closeTo(2.5, 1e-9);
    expect(rows[0].low).to.be.NaN;
  });
  it('are one where the fish care for nothing', () => {
    const looks = [0, 1].flatMap((c) => [0, 1, 2, 3].map((trip) => ({ trip, class: c, effort: c + 1, used: 3 * (c + 1) })));
    for (const c of selection(laidOut(looks), { classes: 2 })) for (const v of [c.ratio, c.low, c.high]) expect(v).to.be.closeTo(1, 1e-9);
  });
  it('take availability within each trip: season mixed with depth is not a choice', () => {
    // In spring the boat looks shallow and fish are many, in summer deep and few; within a trip they care for nothing.
    const random = seeded(3);
    const looks = [];
    for (let trip = 0; trip < 40; trip++) {
      const spring = trip % 2 === 0;
      for (let k = 0; k < 40; k++) {
        const deep = random() < (spring ? 0.15 : 0.85) ? 1 : 0;
        looks.push({ trip, class: deep, effort: 1, used: random() < (spring ? 0.4 : 0.05) ? 1 : 0 });
      }
    }
    const [shallow, deep] = selection(laidOut(looks), { classes: 2 });
    for (const c of [shallow, deep]) {
      expect(c.low).to.be.below(1);
      expect(c.high).to.be.above(1);
    }
    const pooled = manlyRatio(shallow.used, shallow.used + deep.used, shallow.effort, shallow.effort + deep.effort);
    expect(pooled).to.be.above(1.3);
  });
  it('leave out what had no effort or no class', () => {
    const rows = selection(
      laidOut([
        { trip: 0, class: 0, effort: 0, used: 5 },
        { trip: 0, class: -1, effort: 2, used: 5 },
      ]),
      { classes: 1 },
    );
    expect(rows[0]).to.include({ used: 0, looks: 0 });
  });
  it('say how much there may yet be where nothing was seen', () => {
    const looks = Array.from({ length: 80 }, (_, i) => ({ trip: i % 8, class: (i >> 3) % 2, effort: 1, used: (i >> 3) % 2 }));
    const [none] = selection(laidOut(looks), { classes: 2 });
    // 20 expected and none seen: at most −ln 0.1 / 20.
    expect(none.low).to.equal(0);
    expect(none.high).to.be.closeTo(-Math.log(0.1) / 20, 1e-12);
  });
});

describe('selection by fish that are alike by trip and by place', () => {
  const preference = [-1, 0, 0.7, 0.3, -0.5, -1];
  it('has 80 % intervals that hold the truth about as often as they say (the long run: bench patterns)', () => {
    let [held, all, ratioHeld, ratios] = [0, 0, 0, 0];
    for (let seed = 1; seed <= 40; seed++) {
      const made = makeUpLooks({ seed, preference, rate: 6 });
      const looks = { ...made, classes: made.depth };
      const found = selection(looks, { classes: 6, resamples: 200, seed });
      const truth = selection({ ...looks, used: made.wanted }, { classes: 6, resamples: 0 });
      for (const row of found) {
        if (Number.isNaN(row.low) || row.expected < 5) continue;
        all++;
        if (row.low <= truth[row.class].ratio && truth[row.class].ratio <= row.high) held++;
      }
      const inside = made.depth.map((d) => (d === 2 ? 1 : 0));
      const ratio = rateRatio(made.used, made.effort, inside, made.clusters);
      const real = rateRatio(made.wanted, made.effort, inside, made.clusters).ratio;
      if (Number.isNaN(ratio.low)) continue;
      ratios++;
      if (ratio.low <= real && real <= ratio.high) ratioHeld++;
    }
    expect(all).to.be.above(180);
    expect(held / all).to.be.within(0.7, 0.88);
    expect(ratioHeld / ratios).to.be.within(0.65, 0.95);
  });
  it('reports no depth for fish that care for none, however the boat looks', () => {
    let [wrong, all] = [0, 0];
    for (let seed = 1; seed <= 20; seed++) {
      const made = makeUpLooks({ seed, rate: 6, boat: [0, 1, 2, 2, 0, -1] });
      for (const row of selection({ ...made, classes: made.depth }, { classes: 6, resamples: 200, seed })) {
        if (Number.isNaN(row.low)) continue;
        all++;
        if (row.low > 1 || row.high < 1) wrong++;
      }
    }
    expect(wrong / all).to.be.below(0.3);
  });
  it('draws a smooth curve through what the classes say', () => {
    const made = makeUpLooks({ seed: 5, preference, rate: 8, trips: 60 });
    const values = Float64Array.from(made.depth, (d, i) => d + (i % 97) / 97);
    const curve = selectionCurve(made, values, { resamples: 100 })!;
    const at = (x: number): number => curve.ratio[curve.x.findIndex((v) => v >= x)];
    expect(at(2.6)).to.be.above(1.2);
    expect(at(5.5)).to.be.below(0.8);
    for (let i = 0; i < curve.x.length; i++) if (!Number.isNaN(curve.low[i])) expect(curve.low[i]).to.be.at.most(curve.high[i]);
    expect(selectionCurve({ ...made, used: made.used.map((u, i) => (i < 5 ? u : 0)) }, values)).to.equal(null);
  });
});

describe('the search for what goes together', () => {
  it('reports nothing where there is nothing, although trips and places have their ups and downs', () => {
    let reported = 0;
    for (let seed = 1; seed <= 12; seed++) {
      const made = makeUpLooks({ seed: seed + 300, traits: 8, rate: 4 });
      const { found, tried } = finish(searchCombinations(made, conditionsOfMade(made)));
      expect(tried).to.be.above(8);
      if (found.length) reported++;
    }
    expect(reported).to.be.at.most(2);
  });
  it('finds two that only count together, and says so in what it lists', () => {
    let hits = 0;
    for (let seed = 1; seed <= 6; seed++) {
      const made = makeUpLooks({ seed: seed + 600, traits: 6, trips: 150, rate: 4, together: { traits: [1, 4], log: 1.6 } });
      const { found } = finish(searchCombinations(made, conditionsOfMade(made)));
      const pair = found.find((f) => ['1', '4'].every((k) => f.conditions.some((c) => c.key === k)));
      if (!pair) continue;
      hits++;
      expect(pair.rate.ratio).to.be.above(2);
      expect(pair.falseShare).to.be.at.most(0.05);
    }
    expect(hits).to.be.at.least(3);
  });
  it('never joins two conditions on one covariate, and leaves out what holds too seldom', () => {
    const made = makeUpLooks({ seed: 9, traits: 2, rate: 6, preference: [2, 2, 0, 0, -2, -2] });
    const { found } = finish(
      searchCombinations(made, [
        ...conditionsOfMade(made),
        { key: 'rare', says: statement('condition.sun'), covariate: 'rare', holds: Uint8Array.from(made.depth, (_, i) => Number(i < 10)) },
      ]),
    );
    for (const f of found) {
      expect(new Set(f.conditions.map((c) => c.covariate)).size).to.equal(f.conditions.length);
      expect(f.conditions.some((c) => c.key === 'rare')).to.equal(false);
    }
  });
});
