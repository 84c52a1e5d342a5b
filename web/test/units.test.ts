import { expect } from 'chai';
import fc from 'fast-check';
import type { UnitSystem } from '@restless-shoal/core/units';
import { depthTicks, METRES_PER, scaleBar } from '../src/parts/format';
import { readProfile } from '../src/views/brief/read-profile';

const us: UnitSystem = { depth: 'ft', temperature: '°F', speed: 'mph' };

describe('a typed cast', () => {
  it('is read in the reader’s units, or in those typed behind a number', () => {
    const metres = readProfile('0 19.4 9.1\n1 19.3 9,0mg/l\n\n2;19.1');
    expect(metres.wrong).to.deep.equal([]);
    expect(metres.samples).to.deep.equal([
      { depth: 0, temperature: 19.4, oxygen: 9.1 },
      { depth: 1, temperature: 19.3, oxygen: 9 },
      { depth: 2, temperature: 19.1, oxygen: null },
    ]);
    const feet = readProfile('0 67 9.1\n10 66.2\n5m 18°C\n20ft 64.4°F', us);
    expect(feet.wrong).to.deep.equal([]);
    expect(feet.samples.map((s) => s.depth)).to.deep.equal([0, 10 * 0.3048, 5, 20 * 0.3048]);
    feet.samples.forEach((s, k) => expect(s.temperature).to.be.closeTo([19.444, 19, 18, 18][k], 0.001));
  });
  it('has salinity before oxygen on a coast, and a dash for what was not measured', () => {
    const cast = readProfile('0 14.2 12\n2 14 14,5 8.8mg/l\n4 12.1 - 7\n6 12 50', undefined, true);
    expect(cast.samples).to.deep.equal([
      { depth: 0, temperature: 14.2, oxygen: null, salinity: 12 },
      { depth: 2, temperature: 14, oxygen: 8.8, salinity: 14.5 },
      { depth: 4, temperature: 12.1, oxygen: 7 },
    ]);
    expect(cast.wrong).to.deep.equal(['line 4: "6 12 50" is impossible']);
  });
  it('names the line of what is none, and points slips out in the reader’s units', () => {
    const cast = readProfile('0 68\nten 65\n10 64 8 1\n20 30\n15 66\n-3 60', us);
    expect(cast.wrong).to.deep.equal([
      'line 2: "ten 65" is no depth and temperature',
      'line 3: "10 64 8 1" is no depth and temperature',
      'line 6: "-3 60" is impossible',
    ]);
    expect(cast.slips).to.deep.equal([
      'line 4: a jump of 38 °F',
      'line 5: the depth goes up, from 20 ft to 15 ft',
      'line 5: a jump of 36 °F',
    ]);
    // Fahrenheit typed where degrees Celsius are read is seen to be impossible.
    expect(readProfile('0 68').wrong).to.deep.equal(['line 1: "0 68" is impossible']);
  });
});

describe('scales', () => {
  const unit = fc.constantFrom('m' as const, 'ft' as const);
  it('of depths stand at whole numbers of the unit, down to the bottom, with labels enough and not too many', () => {
    fc.assert(
      fc.property(unit, fc.double({ min: 4, max: 80, noNaN: true }), (of, max) => {
        const ticks = depthTicks(max, of);
        const labels = ticks.flatMap(({ label, depth }) => (label === null ? [] : [[Number(label), depth / METRES_PER[of]]]));
        for (const [label, value] of labels) expect(value).to.be.closeTo(label, 1e-9);
        expect(labels.length).to.be.within(2, 21);
        expect(Math.max(...ticks.map((t) => t.depth))).to.be.at.most(max + 1e-9);
        expect(max - Math.max(...ticks.map((t) => t.depth))).to.be.below(max / 3);
      }),
    );
  });
  it('of a map are as long as they say, and fit', () => {
    fc.assert(
      fc.property(unit, fc.double({ min: 0.2, max: 60, noNaN: true }), (of, resolution) => {
        const { label, pixels } = scaleBar(resolution, of);
        const [, number, name] = /^([\d.]+) (km|m|ft|mi)$/.exec(label)!;
        expect(pixels * resolution).to.be.closeTo(Number(number) * { km: 1000, m: 1, ft: 0.3048, mi: 1609.344 }[name]!, 1e-6);
        expect(pixels).to.be.within(40, 110);
      }),
    );
  });
});
