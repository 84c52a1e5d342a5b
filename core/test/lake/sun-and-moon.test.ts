import { expect } from 'chai';
import { sunAndMoon } from '../../src/lake';

const minutes = (a: Date | null, b: string): number => Math.abs(a!.getTime() - Date.parse(b)) / 60_000;

describe('sun and moon', () => {
  it('rise, set and stand highest as the almanac has it for the equinox on the meridian', () => {
    // At 0° E on the equator, 20 March 2026: the day is 12 h 7 min long (refraction and the sun's disc), noon is at 12 h + 7.4 min
    // (equation of time; Meeus, Astronomical Algorithms, ch. 28).
    const { sunrise, sunset, noon } = sunAndMoon(new Date('2026-03-20T12:00:00Z'), 0, 0);
    expect(minutes(noon, '2026-03-20T12:07:24Z')).to.be.below(1);
    expect((sunset!.getTime() - sunrise!.getTime()) / 60_000).to.be.closeTo(727, 2);
  });

  it('say nothing of a sun that does not rise, nor of one that does not set', () => {
    const winter = sunAndMoon(new Date('2026-12-21T12:00:00Z'), 75, 20);
    expect([winter.sunrise, winter.sunset]).to.deep.equal([null, null]);
    const summer = sunAndMoon(new Date('2026-06-21T12:00:00Z'), 75, 20);
    expect([summer.sunrise, summer.sunset]).to.deep.equal([null, null]);
  });

  it('have the moon full and new as the almanac has it', () => {
    // Full moon of 1992 April 17, 4:44; new moon of 1977 February 18, 3:37 (Meeus, example 49.a).
    const full = sunAndMoon(new Date('1992-04-17T04:44:00Z'), 0, 0);
    expect(full.lit).to.be.above(0.99);
    // By the angle between sun and moon, which the moon's own latitude (5° at the most, of 360°) keeps from a half.
    expect(full.phase).to.be.closeTo(0.5, 0.014);
    const fresh = sunAndMoon(new Date('1977-02-18T03:37:00Z'), 0, 0);
    expect(fresh.lit).to.be.below(0.01);
    expect(Math.min(fresh.phase, 1 - fresh.phase)).to.be.below(0.014);
  });
});
