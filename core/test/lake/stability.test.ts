import { expect } from 'chai';
import fc from 'fast-check';
import {
  buoyancyFrequency,
  centreOfVolume,
  columnState,
  frictionVelocity,
  lakeNumber,
  lightWindows,
  mixedLayerDepth,
  schmidtStability,
  sunHeight,
  thermoclineTilt,
  usableLayer,
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
  const states = (samples: ProfileSample[], trend: number, signs = ''): string => columnState(samples, trend, signs);
  it('is told as a limnologist would', () => {
    expect(states(twoLayers(20, 8, 8), 0.1)).to.equal('stratified');
    expect(states(twoLayers(9, 9, 8), 0.2)).to.equal('mixed');
    expect(states(twoLayers(11, 9, 8), 0.2)).to.equal('weakly stratified');
    expect(states(twoLayers(9, 8.4, 8), -0.3)).to.equal('turning over');
    expect(states(twoLayers(9, 9, 8), -0.3, 'debris, dirty water')).to.equal('turning over');
    expect(states(twoLayers(1, 4, 2), 0)).to.equal('inversely stratified');
  });
  it('has a mixed layer that ends where it is half a degree colder', () => {
    expect(mixedLayerDepth(twoLayers(20, 8, 8))).to.be.closeTo(8, 0.02);
    expect(mixedLayerDepth(twoLayers(9, 9, 8))).to.equal(20);
  });
});

describe('the layer a species can use', () => {
  const squeeze: ProfileSample[] = Array.from({ length: 21 }, (_, depth) => ({
    depth,
    temperature: 24 - depth,
    oxygen: Math.max(0, 10 - 0.7 * depth),
  }));
  it('is squeezed between heat above and want of oxygen below', () => {
    const layer = usableLayer(squeeze, { upper: 18, leastOxygen: 4 })!;
    expect(layer.top).to.be.closeTo(6, 0.06);
    expect(layer.bottom).to.be.closeTo(6 / 0.7, 0.06);
  });
  it('never leaves its limits, and is empty when it is empty', () =>
    fc.assert(
      fc.property(fc.double({ min: 4, max: 26, noNaN: true }), fc.double({ min: 1, max: 9, noNaN: true }), (upper, leastOxygen) => {
        const layer = usableLayer(squeeze, { upper, leastOxygen });
        const possible = 24 - upper <= (10 - leastOxygen) / 0.7 - 0.1;
        if (layer) {
          expect(24 - layer.top).to.be.at.most(upper + 0.051);
          expect(10 - 0.7 * layer.bottom).to.be.at.least(leastOxygen - 0.036);
        }
        if (possible && upper < 24) expect(layer).to.not.equal(null);
      }),
    ));
});

describe('low light', () => {
  it('gives a dawn and a dusk, each while the sun is within 6° of the horizon', () => {
    const windows = lightWindows(new Date('2026-06-14T12:00:00Z'), 48, 0);
    expect(windows.map((w) => w.name)).to.deep.equal(['dawn', 'dusk']);
    for (const w of windows) {
      expect(Math.abs(sunHeight(w.from, 48, 0))).to.be.closeTo(6, 0.3);
      expect(Math.abs(sunHeight(w.to, 48, 0))).to.be.closeTo(6, 0.3);
    }
  });
  it('gives none in polar day', () => expect(lightWindows(new Date('2026-06-21T12:00:00Z'), 80, 0)).to.deep.equal([]));
});
