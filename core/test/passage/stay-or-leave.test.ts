import { expect } from 'chai';
import fc from 'fast-check';
import { chanceAfter, chanceAtSimilar, rateElsewhere, rateHere, stayOrLeave, type SpotOdds, type Tried } from '../../src/passage';

const odds: SpotOdds = { chance: 0.5, bites: 2, pace: 10 };
const blank = (minutes: number, more: Partial<Tried> = {}): Tried => ({ minutes, rods: 1, scans: 0, detection: 0, bites: 0, ...more });

describe('a blank at a stop, by hand', () => {
  it('ten minutes at a pace of ten leave 0.27 of one half', () => {
    const q = Math.exp(-1);
    expect(chanceAfter(odds, blank(10))).to.be.closeTo((0.5 * q) / (0.5 + 0.5 * q), 1e-12);
    expect(chanceAfter(odds, blank(10))).to.be.closeTo(0.2689, 1e-4);
  });
  it('two rods tell as much in half the time; a scan with a detection of 0.8 leaves a sixth of one half', () => {
    expect(chanceAfter(odds, blank(5, { rods: 2 }))).to.be.closeTo(chanceAfter(odds, blank(10)), 1e-12);
    expect(chanceAfter(odds, blank(0, { scans: 1, detection: 0.8 }))).to.be.closeTo(1 / 6, 1e-9);
    expect(chanceAfter(odds, blank(60, { bites: 1 }))).to.equal(1);
  });
  it('a spot like others that were blank is worth less, like one that held more', () => {
    // Four spots' worth of one in two; one sure blank: 2 of 5. One that held: 3 of 5.
    expect(chanceAtSimilar(0.5, [{ sure: 1, held: false }])).to.be.closeTo(2 / 5, 1e-12);
    expect(chanceAtSimilar(0.5, [{ sure: 1, held: true }])).to.be.closeTo(3 / 5, 1e-12);
    expect(chanceAtSimilar(0.5, [{ sure: 0.5, held: false }])).to.be.closeTo(2 / 4.5, 1e-12);
    expect(chanceAtSimilar(0.3, [])).to.be.closeTo(0.3, 1e-12);
  });
});

describe('stay or leave', () => {
  it('the rate of going elsewhere is that of its best stay, travel included', () => {
    // 1 bite, pace 10, 5 min away: the best stay t solves 1 − e^(−t/10) = e^(−t/10)(5 + t)/10, t = 8.6 min.
    const { rate, stay } = rateElsewhere({ chance: 1, bites: 1, pace: 10 }, 5, 1);
    expect(stay).to.be.within(8, 9);
    expect(rate).to.be.closeTo((1 - Math.exp(-0.86)) / 13.6, 2e-3);
  });
  it('leaves when the rate here falls below that, worked out to the minute', () => {
    const other = { chance: 0.5, bites: 2, pace: 10, travel: 5 };
    const best = rateElsewhere(other, 5, 1).rate;
    const answer = stayOrLeave(odds, blank(0), [other], 300);
    // p·2/10 with p after t blank minutes of one half.
    let t = 3;
    while ((0.5 * Math.exp(-t / 10) * 0.2) / (0.5 + 0.5 * Math.exp(-t / 10)) >= best) t++;
    expect(answer.minutes).to.equal(t);
    expect(answer.reason.code).to.equal('leave.soon');
    expect(stayOrLeave(odds, blank(t), [other], 300).reason.code).to.equal('leave.now');
  });
  it('the longer the blank the sooner it says leave; a bite lets it stay; a nearer spot calls sooner', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 0.95, noNaN: true }),
        fc.double({ min: 0.3, max: 5, noNaN: true }),
        fc.integer({ min: 3, max: 40 }),
        fc.double({ min: 1, max: 25, noNaN: true }),
        (chance, bites, minutes, travel) => {
          const here = { chance, bites, pace: 12 };
          const other = { chance: 0.4, bites: 1.5, pace: 12, travel };
          const left = (tried: Tried, away = travel): number =>
            stayOrLeave(here, tried, [{ ...other, travel: away }], 600).minutes ?? Infinity;
          expect(left(blank(minutes + 5))).to.be.at.most(left(blank(minutes)));
          expect(left(blank(minutes), travel + 5)).to.be.at.least(left(blank(minutes)));
          expect(rateHere(here, blank(minutes))).to.be.at.least(rateHere(here, blank(minutes + 5)));
        },
      ),
    );
    const other = { chance: 0.4, bites: 1.5, pace: 12, travel: 6 };
    expect(stayOrLeave(odds, blank(8, { bites: 2 }), [other], 600).advice).to.equal('stay');
  });
  it('says when there is nowhere else, or no day left, and gives the first casts their time', () => {
    expect(stayOrLeave(odds, blank(60), [], 100).reason.code).to.equal('leave.nowhere');
    expect(stayOrLeave(odds, blank(5), [{ ...odds, travel: 5 }], 0).reason.code).to.equal('leave.day-over');
    expect(stayOrLeave({ ...odds, chance: 0.01 }, blank(0), [{ ...odds, travel: 2 }], 100).minutes).to.equal(3);
  });
});
