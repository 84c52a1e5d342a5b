import { expect } from 'chai';
import fc from 'fast-check';
import { conditionsFromLog, dayFor, groupProfiles } from '../../src/forecast';
import { findHalocline, oxygenSaturation, seaWaterDensity, type ProfileSample } from '../../src/lake';
import type { Reading } from '../../src/logbook';
import { conditions, frame } from '../support/planted-log';

/** Fresher water over the sea, the rise a logistic about a depth. */
const wedge = (middle: number, half: number, above = 8, below = 31, step = 0.5): ProfileSample[] =>
  Array.from({ length: Math.round(12 / step) + 1 }, (_, k) => ({
    depth: k * step,
    temperature: 14 - 0.1 * k * step,
    salinity: above + (below - above) / (1 + Math.exp((-4 * (k * step - middle)) / (2 * half))),
  }));

describe('a halocline', () => {
  it('is found where it was planted, with the water above and below', () => {
    const found = findHalocline(wedge(4.2, 0.8))!;
    expect(found.depth).to.be.closeTo(4.2, 0.3);
    expect(found.top).to.be.within(2.6, 3.9);
    expect(found.bottom).to.be.within(4.5, 5.8);
    expect(found.above).to.be.within(7.9, 9.5);
    expect(found.below).to.be.within(29.5, 31.1);
    expect(found.step).to.be.closeTo(seaWaterDensity(13, found.below) - seaWaterDensity(14, found.above), 1);
  });
  it('is none in mixed water, in a lake without salinities, from two readings, and where salt grows less downwards', () => {
    expect(findHalocline(wedge(4, 0.8, 30, 30.6))).to.equal(null);
    expect(findHalocline(wedge(4, 0.8).map(({ salinity: _, ...s }) => s))).to.equal(null);
    expect(findHalocline(wedge(4, 0.8).slice(0, 2))).to.equal(null);
    expect(findHalocline(wedge(4, 0.8, 31, 8))).to.equal(null);
    expect(findHalocline([])).to.equal(null);
  });
  it('lies within half a step of where the salt rises, whatever the profile’s steps and order', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 9, noNaN: true }),
        fc.constantFrom(0.25, 0.5, 1),
        fc.integer({ min: 1, max: 1000 }),
        (middle, step, seed) => {
          const profile = wedge(middle, 0.6, 12, 28, step);
          profile.sort((a, b) => ((a.depth * seed) % 7) - ((b.depth * seed) % 7));
          const found = findHalocline(profile)!;
          expect(found.depth).to.be.closeTo(middle, step / 2 + 1e-6);
          expect(found.top).to.be.below(found.bottom);
          expect(found.above).to.be.below(found.below);
        },
      ),
    );
  });
});

describe('the salt of a day', () => {
  const coast = { ...frame, kind: 'estuary' };
  const at = new Date('2026-07-20T12:00:00Z');
  const rows = (time: string) =>
    wedge(4, 0.8).map((s) => ({ trip: 't', profile: 'p', time, depth_m: s.depth, temperature_c: s.temperature, oxygen_mg_l: null, salinity: s.salinity })); // prettier-ignore
  const read = (time: string) => [{ at: Date.parse(time), row: { time, salinity: 17 } as Reading }];

  it('is what was read lately, else the profile’s, else that of the sea on a coast and none elsewhere', () => {
    const lately = groupProfiles(rows('2026-07-19T12:00:00Z') as never);
    const long = groupProfiles(rows('2026-07-10T12:00:00Z') as never);
    expect(dayFor(conditions(), coast).salinity).to.equal(35);
    expect(dayFor(conditions(), frame).salinity).to.equal(0);
    expect(dayFor(conditions(), coast, long).salinity).to.equal(35);
    expect(dayFor(conditions(), coast, lately).salinity).to.be.closeTo(8, 0.2);
    const logged = (time: string): number => dayFor(conditionsFromLog(read(time), at, coast).conditions, coast, lately).salinity;
    expect(logged('2026-07-19T20:00:00Z')).to.equal(17);
    expect(logged('2026-07-12T20:00:00Z')).to.be.closeTo(8, 0.2);
  });
  it('has the halocline of a profile of these days, and no lake has one', () => {
    const lately = groupProfiles(rows('2026-07-19T12:00:00Z') as never);
    expect(dayFor(conditions(), coast, lately).halocline!.depth).to.be.closeTo(4, 0.3);
    expect(dayFor(conditions(), coast, groupProfiles(rows('2026-07-10T12:00:00Z') as never)).halocline).to.equal(null);
    expect(dayFor(conditions(), frame, lately).halocline).to.equal(null);
  });
  it('takes oxygen from the water', () => {
    const oxygen = (salinity: number): number => dayFor(conditions({ salinity }), coast).column.samples[0].oxygen!;
    expect(oxygen(35) / oxygen(0)).to.be.closeTo(oxygenSaturation(19, 200, 35) / oxygenSaturation(19, 200, 0), 1e-6);
    expect(oxygen(35) / oxygen(0)).to.be.within(0.79, 0.84);
  });
});
