import { expect } from 'chai';
import fc from 'fast-check';
import { bearing, destination, distance } from '../../src/geo';
import { goBack, holdOff, worthStopping, type Prospect } from '../../src/passage';

const boat = { position: { latitude: 48.2, longitude: -34.6 }, course: 90 };
const calm = { from: 0, speed: 0 };

describe('the way back to a mark', () => {
  it('is measured from the person who casts, by hand: mark 34 m east, caster 2 m forward of the antenna', () => {
    const mark = { ...destination(boat.position, 90, 34), depth: 6, swims: true };
    const way = goBack(boat, 2, mark, 5, calm, 2);
    expect(way.metres).to.be.closeTo(32, 0.01);
    expect(way.bearing).to.be.closeTo(90, 0.1);
    expect(way.turn).to.be.closeTo(0, 0.1);
    expect(way.moved).to.equal(15);
    expect(way.holdOff).to.be.closeTo(30 * Math.exp(-6 / 4), 1e-9);
  });
  it('holds downwind of it, bow to the wind, so that the cast lands past it', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 359, noNaN: true }),
        fc.double({ min: 1, max: 12, noNaN: true }),
        fc.double({ min: 0, max: 12, noNaN: true }),
        fc.double({ min: 0.3, max: 8, noNaN: true }),
        fc.double({ min: -3, max: 6, noNaN: true }),
        (from, speed, depth, secchi, bow) => {
          const mark = { ...destination(boat.position, 30, 80), depth, swims: true };
          const way = goBack(boat, bow, mark, 3, { from, speed }, secchi);
          expect(Math.abs(((bearing(way.hold, mark) - from + 540) % 360) - 180)).to.be.below(0.5);
          // The caster stands `bow` nearer than the antenna, and nearer than that the boat does not go.
          const caster = distance(way.hold, mark) - bow;
          expect(caster)
            .to.be.at.least(way.holdOff - 0.05)
            .and.at.least(9.95);
          expect(way.cast).to.be.closeTo(caster + 3, 0.05);
        },
      ),
    );
  });
  it('knows that timber stays where it is, and turns the short way', () => {
    const mark = { ...destination(boat.position, 60, 50), depth: null, swims: false };
    const way = goBack(boat, 0, mark, 600, calm, 2);
    expect(way.moved).to.equal(0);
    expect(way.turn).to.be.closeTo(-30, 0.1);
    // In a calm: on the way it comes.
    expect(bearing(way.hold, mark)).to.be.closeTo(way.bearing, 0.1);
  });
  it('keeps farther off in shallow and in clear water', () => {
    expect(holdOff(1, 4)).to.be.above(holdOff(6, 4));
    expect(holdOff(4, 4)).to.be.above(holdOff(4, 0.8));
    expect(holdOff(30, 0.5)).to.equal(5);
  });
});

const prospect = (change: Partial<Prospect>): Prospect => ({
  goal: 'action',
  count: 3,
  size: null,
  odds: 0.7,
  left: 300,
  patience: 8,
  tried: 0,
  paid: 0,
  ...change,
});

describe('worth stopping?', () => {
  it('is worked out as by hand: three fish at one in twelve, taken for it at 70 %', () => {
    const { chance, advice, reason } = worthStopping(prospect({}));
    expect(chance).to.be.closeTo(0.7 * (1 - (11 / 12) ** 3), 1e-12);
    expect(advice).to.equal('stop');
    expect(reason).to.deep.equal({ code: 'advice.chance', values: { chance, minutes: 8, count: 3, size: 'any', tried: 0, paid: 0 } });
  });
  it('goes by the goal: a crowd of small ones for action, one large one where size is wanted', () => {
    expect(worthStopping(prospect({ count: 20, size: 'small' })).advice).to.equal('stop');
    expect(worthStopping(prospect({ count: 20, size: 'small', goal: 'best' })).advice).to.equal('go on');
    expect(worthStopping(prospect({ count: 1, size: 'large', goal: 'best' })).advice).to.equal('stop');
    expect(worthStopping(prospect({ count: 1 })).advice).to.equal('go on');
  });
  it('learns from the day, minds the light, and looks again at what it is not sure of', () => {
    expect(worthStopping(prospect({ tried: 8, paid: 0 })).advice).to.equal('go on');
    expect(worthStopping(prospect({ tried: 8, paid: 5 })).chance).to.be.above(0.35);
    expect(worthStopping(prospect({ left: 5, count: 1 }))).to.deep.include({
      advice: 'stop',
      reason: { code: 'advice.dusk', values: { minutes: 5 } },
    });
    expect(worthStopping(prospect({ odds: 0.4 })).advice).to.equal('look again');
  });
  it('never falls as there are more fish, surer ones, or more stops that paid', () => {
    fc.assert(
      fc.property(fc.nat(30), fc.double({ min: 0, max: 1, noNaN: true }), fc.nat(10), fc.nat(10), (count, odds, paid, blank) => {
        const { chance } = worthStopping(prospect({ count, odds, tried: paid + blank, paid }));
        expect(chance).to.be.within(0, 1);
        for (const more of [{ count: count + 1 }, { odds: Math.min(1, odds + 0.1) }, { paid: paid + 1, tried: paid + blank + 1 }])
          expect(worthStopping(prospect({ count, odds, tried: paid + blank, paid, ...more })).chance).to.be.at.least(chance - 1e-12);
      }),
    );
  });
});
