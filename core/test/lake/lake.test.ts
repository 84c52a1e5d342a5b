import { expect } from 'chai';
import fc from 'fast-check';
import { seeded } from '../../src/numbers';
import {
  attenuation,
  columnFor,
  fetchAt,
  findThermocline,
  lightAt,
  lightAtDepth,
  onePercentDepth,
  oxygenHoldsTo,
  oxygenSaturation,
  sunHeight,
  tidyProfile,
  waterDensity,
  waveHeight,
} from '../../src/lake';

describe('density of water (Martin & McCutcheon 1999)', () => {
  for (const [celsius, density] of [
    [4, 1000.0],
    [10, 999.728],
    [20, 998.234],
    [25, 997.075],
  ])
    it(`is ${density} kg/m³ at ${celsius} °C`, () => expect(waterDensity(celsius)).to.be.closeTo(density, 0.002));
});

describe('oxygen at saturation (Benson & Krause 1984)', () => {
  for (const [celsius, value] of [
    [0, 14.62],
    [10, 11.29],
    [20, 9.09],
    [30, 7.56],
  ])
    it(`is ${value} mg/l at ${celsius} °C`, () => expect(oxygenSaturation(celsius)).to.be.closeTo(value, 0.006));
  it('is 7.40 mg/l at 20 °C in sea water', () => expect(oxygenSaturation(20, 0, 35)).to.be.closeTo(7.4, 0.01));
  it('falls with temperature and with altitude', () =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 38, noNaN: true }), fc.double({ min: 0, max: 4000, noNaN: true }), (t, altitude) => {
        expect(oxygenSaturation(t + 1, altitude)).below(oxygenSaturation(t, altitude));
        expect(oxygenSaturation(t, altitude + 100)).below(oxygenSaturation(t, altitude));
      }),
    ));
});

describe('light (Poole & Atkins 1929)', () => {
  it('leaves 1 % at 5.42 m when the Secchi depth is 2 m', () => {
    expect(onePercentDepth(2)).to.be.closeTo(5.42, 0.005);
    expect(lightAt(onePercentDepth(2), 2)).to.be.closeTo(0.01, 1e-9);
    expect(attenuation(2)).to.equal(0.85);
  });
  it('is less under a low sun and under cloud: a quarter is left under an overcast sky (Kasten & Czeplak 1980)', () => {
    expect(lightAtDepth(50, 0, 2, 0)).to.equal(1);
    expect(lightAtDepth(50, 1, 2, 0)).to.be.closeTo(0.25, 1e-9);
    expect(lightAtDepth(50, 0.5, 2, 0)).to.be.closeTo(1 - 0.75 * 0.5 ** 3.4, 1e-9);
    expect(lightAtDepth(15, 0, 2, 3)).to.be.closeTo(0.5 * lightAt(3, 2), 1e-9);
    expect(lightAtDepth(-3, 0, 2, 0)).to.equal(0);
  });
  it('knows the height of the sun', () => {
    // Equinox noon on the Greenwich meridian: 90° − latitude, within refraction and the equation of time.
    expect(sunHeight(new Date('2026-03-20T12:07:00Z'), 50, 0)).to.be.closeTo(40, 0.5);
    expect(sunHeight(new Date('2026-03-20T00:07:00Z'), 50, 0)).to.be.below(-30);
  });
});

describe('the thermocline of a profile (Read et al. 2011)', () => {
  const twoLayers = (line: number, step: number, sharp: number): { depth: number; temperature: number }[] =>
    Array.from({ length: Math.floor(18 / step) + 1 }, (_, i) => ({
      depth: i * step,
      temperature: 8 + 12 / (1 + Math.exp((i * step - line) / sharp)),
    }));
  it('is found within half a step', () =>
    fc.assert(
      fc.property(fc.double({ min: 4, max: 12, noNaN: true }), fc.constantFrom(0.5, 1), (line, step) => {
        expect(findThermocline(twoLayers(line, step, 0.5))!.depth).to.be.closeTo(line, step / 2 + 0.1);
      }),
    ));
  it('is found within half a step with a noise of 0.2 °C', () =>
    fc.assert(
      fc.property(fc.double({ min: 4, max: 12, noNaN: true }), fc.integer({ min: 1, max: 1e6 }), (line, seed) => {
        const random = seeded(seed);
        const noisy = twoLayers(line, 1, 0.5).map((s) => ({
          ...s,
          temperature: s.temperature + 0.2 * (random() + random() + random() + random() - 2) * Math.sqrt(3),
        }));
        expect(findThermocline(noisy)!.depth).to.be.closeTo(line, 0.6);
      }),
    ));
  it('is found within half a step with five points only', () =>
    fc.assert(
      fc.property(fc.double({ min: 5, max: 13, noNaN: true }), (line) => {
        expect(findThermocline(twoLayers(line, 4, 0.5).slice(0, 5))!.depth).to.be.closeTo(line, 2.1);
      }),
    ));
  it('has a clear answer for one reading and for an inversion, and a clear error for none', () => {
    expect(findThermocline(tidyProfile([{ depth: 0, temperature: 18 }]))).to.equal(null);
    const inverted = [18, 18, 19, 18.5, 9, 8, 8].map((temperature, depth) => ({ depth, temperature }));
    expect(findThermocline(inverted)!.depth).to.be.closeTo(3.5, 0.5);
    expect(() => tidyProfile([])).to.throw('the profile has no reading');
  });
  it('is not found in a mixed column, nor under ice', () => {
    expect(findThermocline([0, 2, 4, 6].map((depth) => ({ depth, temperature: 9.5 })))).to.equal(null);
    expect(findThermocline([0, 2, 4, 6].map((depth) => ({ depth, temperature: 1 + depth / 2 })))).to.equal(null);
  });
  it('sorts a profile and merges repeated depths', () => {
    expect(
      tidyProfile([
        { depth: 2, temperature: 10 },
        { depth: 0, temperature: 14 },
        { depth: 2, temperature: 12 },
      ]),
    ).to.deep.equal([
      { depth: 0, temperature: 14, oxygen: null },
      { depth: 2, temperature: 11, oxygen: null },
    ]);
    expect(() => tidyProfile([{ depth: -1, temperature: 10 }])).to.throw('depth -1 m is impossible');
  });
});

describe('the modelled column', () => {
  const inputs = { surface: 21, at: new Date('2026-07-20T12:00:00Z'), latitude: 55, maxDepth: 20, secchi: 1.6, altitude: 200, lengthKm: 4 };
  it('has a thermocline in summer and oxygen only above it in fertile water', () => {
    const column = columnFor(inputs);
    expect(column.modelled).to.equal(true);
    expect(column.thermocline!.depth).to.be.within(4, 12);
    expect(oxygenHoldsTo(column.samples, 4)).to.be.within(column.thermocline!.top, column.thermocline!.bottom + 2);
  });
  it('has none at 8 °C in spring or in late autumn', () => {
    expect(columnFor({ ...inputs, surface: 7, at: new Date('2026-04-10T12:00:00Z') }).thermocline).to.equal(null);
    expect(columnFor({ ...inputs, surface: 8, at: new Date('2026-11-10T12:00:00Z') }).thermocline).to.equal(null);
  });
  it('rests on a recent profile', () => {
    const samples = Array.from({ length: 20 }, (_, depth) => ({ depth, temperature: 8 + 13 / (1 + Math.exp((depth - 9) / 0.5)) }));
    const column = columnFor({ ...inputs, profile: { samples, at: new Date('2026-07-14T12:00:00Z') } });
    expect(column.thermocline!.depth).to.be.closeTo(9, 0.8);
  });
});

describe('a surface that cools after a profile', () => {
  it('mixes down to where the profile was as cold as it is now', () => {
    const samples = Array.from({ length: 20 }, (_, depth) => ({ depth, temperature: 8 + 13 / (1 + Math.exp((depth - 9) / 0.8)) }));
    const column = (surface: number) =>
      columnFor({
        surface,
        at: new Date('2026-09-20T12:00:00Z'),
        latitude: 48,
        maxDepth: 20,
        secchi: 1.6,
        altitude: 200,
        lengthKm: 4,
        profile: { samples, at: new Date('2026-09-14T12:00:00Z') },
      });
    const depths = [21, 17, 14, 12.5].map((t) => column(t).thermocline!.depth);
    for (let k = 1; k < depths.length; k++) expect(depths[k]).to.be.at.least(depths[k - 1]);
    expect(depths[3]).to.be.above(depths[0] + 0.4);
  });
});

describe('waves (Shore Protection Manual 1984)', () => {
  it('are 0.33 m high at 10 m/s over 3 km of 8 m deep water', () => expect(waveHeight(10, 3000, 8)).to.be.closeTo(0.33, 0.01));
  it('have no height without wind or fetch', () => expect([waveHeight(0, 3000, 8), waveHeight(10, 0, 8)]).to.deep.equal([0, 0]));
  it('need a fetch that ends at the shore', () => {
    const square: [number, number][] = [
      [0, 0],
      [1000, 0],
      [1000, 1000],
      [0, 1000],
    ];
    expect(fetchAt([square], 900, 500, 270)).to.be.closeTo(900, 25);
    expect(fetchAt([square], 900, 500, 90)).to.be.closeTo(100, 25);
  });
});
