import { expect } from 'chai';
import { betterBy, scoresOf, type HeldLook } from '../../src/forecast';
import { seeded } from '../../src/numbers';

const look = (said: number, seen: number, trip = 0, weight = 1): HeldLook => ({ said, seen, trip, weight });

describe('scores of a forecast', () => {
  it('agree with those worked out by hand', () => {
    // Three looks: 0.5 and seen, 0.2 and not, 0.1 and not.
    const s = scoresOf([look(0.5, 1), look(0.2, 0), look(0.1, 0)]);
    expect(s.logScore).to.be.closeTo((Math.log(0.5) + Math.log(0.8) + Math.log(0.9)) / 3, 1e-12);
    expect(s.brier).to.be.closeTo((0.25 + 0.04 + 0.01) / 3, 1e-12);
    expect(s.expectedOverSeen).to.be.closeTo(0.8, 1e-12);
    expect(s.auc).to.equal(1);
    // Hanley & McNeil 1982: the share of pairs that are in order, ties counted half.
    expect(scoresOf([look(0.3, 1), look(0.3, 0), look(0.6, 0), look(0.9, 1)]).auc).to.be.closeTo(2.5 / 4, 1e-12);
  });
  it('weigh looks: a look of weight two is two looks', () => {
    const [a, b] = [scoresOf([look(0.4, 1, 0, 2), look(0.1, 0)]), scoresOf([look(0.4, 1), look(0.4, 1), look(0.1, 0)])];
    for (const k of ['logScore', 'brier', 'auc', 'expectedOverSeen'] as const) expect(a[k]).to.be.closeTo(b[k], 1e-12);
  });
  it('find the slope of a forecast that is too bold or too timid', () => {
    const random = seeded(7);
    const truth = Array.from({ length: 20_000 }, () => -2 + 1.5 * (random() + random() + random() - 1.5));
    const made = (stretch: number): HeldLook[] =>
      truth.map((x, k) => look(1 / (1 + Math.exp(-stretch * x)), random() < 1 / (1 + Math.exp(-x)) ? 1 : 0, k % 20));
    expect(scoresOf(made(1)).slope).to.be.closeTo(1, 0.08);
    expect(scoresOf(made(2)).slope).to.be.closeTo(0.5, 0.05);
    expect(scoresOf(made(0.5)).slope).to.be.closeTo(2, 0.2);
    for (const t of scoresOf(made(1)).curve) expect(Math.abs(t.said - t.seen)).to.be.below(0.04);
  });
  it('an interval of the gain holds no zero where one forecast knows and the other does not, and zero where both are the same', () => {
    const random = seeded(9);
    const seen = Array.from({ length: 600 }, (_, k) => ({ p: k % 3 ? 0.05 : 0.4, trip: Math.floor(k / 30) }));
    const ours = seen.map(({ p, trip }) => look(p, random() < p ? 1 : 0, trip));
    const theirs = ours.map((l) => ({ ...l, said: 1 / 6 }));
    const gain = betterBy(ours, theirs, random);
    expect(gain.low).to.be.above(0);
    expect(gain.value).to.be.within(gain.low, gain.high);
    expect(betterBy(ours, ours, random).value).to.equal(0);
  });
  it('there is nothing to say of no look', () => expect(() => scoresOf([])).to.throw(RangeError));
});
