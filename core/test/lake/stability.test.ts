import { expect } from 'chai';
import fc from 'fast-check';
import {
  buoyancyFrequency,
  centreOfVolume,
  columnState,
  frictionVelocity,
  lakeNumber,
  courseOfLatitude,
  lowLight,
  waterYear,
  mixedLayerDepth,
  schmidtStability,
  sunHeight,
  thermoclineTilt,
  waterDensity,
  wedderburnNumber,
  type Hypsograph,
  type ProfileSample,
} from '../../src/lake';

const box: Hypsograph = { depth: [0, 19.999, 20], area: [1e6, 1e6, 0] };
/** Two layers with a sharp step. */
const twoLayers = (upper: number, lower: number, step: number, bottom = 20): ProfileSample[] => [
  { depth: 0, temperature: upper },
  { depth: step - 0.01, temperature: upper },
  { depth: step + 0.01, temperature: lower },
  { depth: bottom, temperature: lower },
];
const line = { depth: 8, top: 7.5, bottom: 8.5 };

describe('stability of the column', () => {
  it('of two layers in a box is g·(ρ2 − ρ1)·h1·h2/2, worked by hand', () => {
    const expected = (9.81 * (waterDensity(8) - waterDensity(20)) * 8 * 12) / 2;
    expect(schmidtStability(twoLayers(20, 8, 8), box)).to.be.closeTo(expected, expected * 0.01);
    expect(centreOfVolume(box)).to.be.closeTo(10, 0.06);
  });
  it('is 0 for a mixed column and grows with the step', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 20, noNaN: true }),
        fc.double({ min: 0.5, max: 8, noNaN: true }),
        fc.double({ min: 3, max: 15, noNaN: true }),
        (lower, step, depth) => {
          expect(Math.abs(schmidtStability(twoLayers(lower, lower, depth), box))).to.be.below(5);
          expect(schmidtStability(twoLayers(lower + step + 1, lower, depth), box)).to.be.above(
            schmidtStability(twoLayers(lower + step, lower, depth), box),
          );
        },
      ),
      { numRuns: 30 },
    ));
  it('buoyancy frequency is (g/ρ)·dρ/dz', () => {
    const [n] = buoyancyFrequency([
      { depth: 0, temperature: 20 },
      { depth: 2, temperature: 10 },
    ]);
    expect(n.depth).to.equal(1);
    expect(n.n2).to.be.closeTo((9.81 / 998.981) * ((999.728 - 998.234) / 2), 1e-5);
  });
});

describe('the wind on the thermocline', () => {
  const samples = twoLayers(20, 8, 8);
  it('Wedderburn number is g′h²/(u*²L)', () => {
    const reduced = (9.81 * (waterDensity(8) - waterDensity(20))) / waterDensity(8);
    const u2 = (1.2 * 1.3e-3 * 25) / waterDensity(20);
    expect(frictionVelocity(5, 20) ** 2).to.be.closeTo(u2, 1e-12);
    expect(wedderburnNumber(samples, line, 5, 4000)).to.be.closeTo((reduced * 64) / (u2 * 4000), 0.01);
  });
  it('tilts it more in a stronger wind, and not at all in a calm', () => {
    expect(thermoclineTilt(samples, line, 0, 4000)).to.equal(0);
    const tilts = [3, 6, 9, 30].map((wind) => thermoclineTilt(samples, line, wind, 4000));
    expect([...tilts].sort((a, b) => a - b)).to.deep.equal(tilts);
    expect(tilts[1] / tilts[0]).to.be.closeTo(4, 0.01);
    expect(tilts[3]).to.be.at.most(line.depth);
  });
  it('the lake number falls with the square of the wind', () => {
    expect(lakeNumber(samples, line, 5, box) / lakeNumber(samples, line, 10, box)).to.be.closeTo(4, 0.01);
    const expected =
      (schmidtStability(samples, box) * 16) / (2 * waterDensity(8) * frictionVelocity(5, 20) ** 2 * 1000 * centreOfVolume(box));
    expect(lakeNumber(samples, line, 5, box)).to.be.closeTo(expected, expected * 0.001);
  });
});

describe('the state of the column', () => {
  const year = waterYear(courseOfLatitude(50), { maxDepth: 20, lengthKm: 2, kind: null });
  const [MAY, OCTOBER] = [130, 290];
  const states = (samples: ProfileSample[], trend: number, signs = '', day = OCTOBER): string =>
    columnState(samples, trend, year, day, signs);
  it('is told as a limnologist would', () => {
    expect(states(twoLayers(20, 8, 8), 0.1)).to.equal('stratified');
    expect(states(twoLayers(9, 9, 8), 0.2)).to.equal('mixed');
    expect(states(twoLayers(11, 9, 8), 0.2)).to.equal('weakly stratified');
    expect(states(twoLayers(9, 8.4, 8), -0.3)).to.equal('turning over');
    expect(states(twoLayers(9, 9, 8), -0.3, 'debris, dirty water')).to.equal('turning over');
    expect(states(twoLayers(1, 4, 2), 0)).to.equal('inversely stratified');
  });
  it('does not turn over in a cold front of May, nor where there never was a layer', () => {
    expect(states(twoLayers(9, 8.4, 8), -0.3, 'debris', MAY)).to.equal('mixed');
    const river = waterYear(courseOfLatitude(50), { maxDepth: 20, lengthKm: 2, kind: 'river' });
    expect(columnState(twoLayers(9, 8.4, 8), -0.3, river, OCTOBER)).to.equal('mixed');
  });
  it('has a mixed layer that ends where it is half a degree colder', () => {
    expect(mixedLayerDepth(twoLayers(20, 8, 8))).to.be.closeTo(8, 0.02);
    expect(mixedLayerDepth(twoLayers(9, 9, 8))).to.equal(20);
  });
});

describe('low light', () => {
  const at = (time: string, latitude: number, longitude: number) => lowLight(new Date(time), latitude, longitude);
  it('gives a dawn and a dusk, each while the sun is within 6° of the horizon', () => {
    const { windows, day } = at('2026-06-14T12:00:00Z', 48, 0);
    expect(windows.map((w) => w.name)).to.deep.equal(['dawn', 'dusk']);
    expect(day).to.equal('usual');
    for (const w of windows) {
      expect(Math.abs(sunHeight(w.from, 48, 0))).to.be.closeTo(6, 0.3);
      expect(Math.abs(sunHeight(w.to, 48, 0))).to.be.closeTo(6, 0.3);
    }
  });
  it('gives both, whatever the hour that is asked for and wherever on the globe', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 364 }),
        fc.double({ min: 0, max: 23.99, noNaN: true }),
        fc.double({ min: -55, max: 55, noNaN: true }),
        fc.double({ min: -179, max: 179, noNaN: true }),
        (day, hour, latitude, longitude) => {
          // The asked moment lies in the same day by the sun as its noon.
          const noon = Date.UTC(2026, 0, 1 + day, 12) - (longitude / 360) * 86_400_000;
          const asked = new Date(noon + (hour - 12) * 0.97 * 3_600_000);
          const { windows } = lowLight(asked, latitude, longitude);
          expect(windows.map((w) => w.name)).to.deep.equal(['dawn', 'dusk']);
          for (const w of windows) {
            expect(Math.abs(sunHeight(w.from, latitude, longitude))).to.be.at.most(6.1);
            expect(w.to.getTime()).to.be.above(w.from.getTime());
          }
          expect(windows[0].to.getTime()).to.be.below(noon);
          expect(windows[1].from.getTime()).to.be.above(noon);
        },
      ),
      { numRuns: 60 },
    ));
  it('has its dusk at 41°N 74°W when asked in the morning there', () => {
    const { windows } = at('2026-07-10T12:30:00Z', 41, -74);
    expect(windows[1].name).to.equal('dusk');
    expect(windows[1].from.toISOString().slice(0, 13)).to.be.oneOf(['2026-07-10T23', '2026-07-11T00']);
  });
  it('says a low sun all day, a white night, a sun that does not set and one that does not rise', () => {
    const december = at('2026-12-21T10:00:00Z', 61, 25);
    expect(december.day).to.equal('low all day');
    for (const w of december.windows) expect(w.to.getTime() - w.from.getTime()).to.be.below(4.5 * 3_600_000);
    expect(at('2026-06-21T10:00:00Z', 64, 25).day).to.equal('white night');
    expect(at('2026-06-21T12:00:00Z', 80, 0)).to.deep.equal({ windows: [], day: 'midnight sun' });
    expect(at('2026-12-21T12:00:00Z', 80, 0)).to.deep.equal({ windows: [], day: 'polar night' });
  });
});
