import { expect } from 'chai';
import fc from 'fast-check';
import { columnFor, oxygenHoldsTo, seasonDay, tidyProfile, type DatedProfile } from '../../src/lake';

const inputs = { surface: 20, at: new Date('2027-07-20T12:00:00Z'), latitude: 55, maxDepth: 20, secchi: 2, altitude: 200, lengthKm: 4 };
const plain = columnFor(inputs);

/** A profile with a layer about a depth (none for null), and oxygen all the way down where it is said so. */
const profile = (at: string, line: number | null, { to = 19, oxygen = false, lower = 8 } = {}): DatedProfile => ({
  at: new Date(`${at}T12:00:00Z`),
  samples: tidyProfile(
    Array.from({ length: to + 1 }, (_, depth) => ({
      depth,
      temperature: line === null ? 18 : lower + (20 - lower) / (1 + Math.exp((depth - line) / 0.6)),
      oxygen: oxygen ? 9 - 0.05 * depth : null,
    })),
  ),
});
const julys = (line: number | null, more = {}): DatedProfile[] =>
  ['2024-07-18', '2025-07-24', '2025-07-14', '2026-07-20'].map((at) => profile(at, line, more));

describe('a column without a profile of late, on a water with profiles of other years', () => {
  it('has its layer where theirs lay at that time of year, and is surer of it', () => {
    for (const line of [4, 6, 11]) {
      const { thermocline, modelled, spread } = columnFor({ ...inputs, profiles: julys(line) });
      expect(modelled).to.equal(true);
      expect(thermocline!.depth).to.be.closeTo(line, 0.12 * Math.abs(line - plain.thermocline!.depth) + 0.4);
      expect(spread).to.be.below(plain.spread);
    }
    expect([columnFor({ ...inputs, profiles: julys(6) }).profileAt, plain.profileAt, plain.ofSeason]).to.deep.equal([null, null, 0]);
    expect(columnFor({ ...inputs, profiles: julys(6) }).ofSeason).to.be.within(0.8, 1);
    // The last profile, of half a year ago, is none that today rests on.
    expect(columnFor({ ...inputs, profile: profile('2027-01-20', 6) }).profileAt).to.equal(null);
  });
  it('believes several more than one, and one more than none', () => {
    const off = (profiles: DatedProfile[]): number => Math.abs(columnFor({ ...inputs, profiles }).thermocline!.depth - 4);
    expect(off(julys(4).slice(0, 1))).to.be.below(off([]) - 1);
    expect(off(julys(4))).to.be.below(off(julys(4).slice(0, 1)));
  });
  it('learns nothing from another time of year', () => {
    const profiles = ['2025-10-10', '2026-10-04', '2026-04-20'].map((at) => profile(at, 3));
    expect(columnFor({ ...inputs, profiles }).thermocline!.depth).to.be.closeTo(plain.thermocline!.depth, 0.1);
  });
  it('takes the time of year the right way round in the south, and across the turn of the year', () => {
    const at = new Date('2027-01-02T12:00:00Z');
    const south = { ...inputs, latitude: -38, at };
    const profiles = [profile('2025-12-29', 4), profile('2026-01-06', 4), profile('2024-12-24', 4)];
    expect(columnFor({ ...south, profiles }).thermocline!.depth).to.be.closeTo(4, 0.8);
    expect(seasonDay(at, -38)).to.be.within(170, 190);
  });
  it('has no layer where profiles to the bottom found none then; a shallow profile says nothing of it', () => {
    expect(plain.thermocline).to.not.equal(null);
    expect(columnFor({ ...inputs, profiles: julys(null) }).thermocline).to.equal(null);
    expect(columnFor({ ...inputs, profiles: julys(null, { to: 4 }) }).thermocline).to.deep.equal(plain.thermocline);
    // A sounder shows one today: that is set by hand, and stands.
    expect(columnFor({ ...inputs, profiles: julys(null), thermoclineSet: { top: 6, bottom: 8 } }).thermocline!.depth).to.equal(7);
  });
  it('keeps the oxygen and the cold that were measured below', () => {
    expect(oxygenHoldsTo(plain.samples, 4)).to.not.equal(null);
    const clean = columnFor({ ...inputs, profiles: julys(7, { oxygen: true, lower: 12 }) });
    expect(oxygenHoldsTo(clean.samples, 4)).to.equal(null);
    expect(clean.samples.at(-1)!.temperature).to.be.closeTo(12, 1);
  });
  it('rests on a profile of last week all the same', () => {
    const fresh = profile('2027-07-14', 9);
    const { thermocline } = columnFor({ ...inputs, profile: fresh, profiles: [...julys(4), fresh] });
    expect(thermocline!.depth).to.be.closeTo(9, 1.2);
  });
  it('is a column whatever was measured: warm over cold, its layer within the water', () => {
    const anyCast = fc.record({
      day: fc.integer({ min: 0, max: 1200 }),
      line: fc.option(fc.integer({ min: 1, max: 30 })),
      to: fc.integer({ min: 1, max: 40 }),
      lower: fc.integer({ min: 3, max: 19 }),
    });
    fc.assert(
      fc.property(
        fc.array(anyCast, { maxLength: 12 }),
        fc.integer({ min: 0, max: 364 }),
        fc.double({ min: 1, max: 30, noNaN: true }),
        (list, day, surface) => {
          const profiles = list.map(({ day: d, line, to, lower }) => ({
            ...profile('2024-01-01', line, { to, lower }),
            at: new Date(Date.UTC(2024, 0, 1 + d)),
          }));
          const { samples, thermocline, spread } = columnFor({ ...inputs, surface, at: new Date(Date.UTC(2028, 0, 1 + day)), profiles });
          expect(spread).to.be.within(0, 2);
          for (let k = 1; k < samples.length; k++)
            if (surface >= 3.9) expect(samples[k].temperature).to.be.at.most(samples[k - 1].temperature + 1e-9);
          for (const s of samples) expect(s.oxygen!).to.be.within(0, 20);
          if (thermocline) {
            expect(thermocline.top).to.be.within(0, thermocline.depth);
            expect(thermocline.bottom).to.be.within(thermocline.depth, inputs.maxDepth);
          }
        },
      ),
    );
  });
});
