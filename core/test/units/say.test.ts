import { expect } from 'chai';
import fc from 'fast-check';
import { fromUnit, metric, numbersIn, parseMeasure, sayIn, toUnit, unitIn, UNIT_CHOICES, type UnitSystem } from '../../src/units';

const us: UnitSystem = { depth: 'ft', temperature: '°F', speed: 'mph' };

describe('a text with measures, in the reader’s units', () => {
  it('converts depths, temperatures and speeds, and numbers that share a unit', () => {
    const said: [string, string][] = [
      ['Zander between 4.6 and 7.0 m.', 'Zander between 15 and 23 ft.'],
      ['thermocline 5.0–6.6 m, modelled ±0.4 m', 'thermocline 16–22 ft, modelled ±1.3 ft'],
      ['shallow at 1.2 m', 'shallow at 4 ft'],
      ['bottom at 3 to 6 m', 'bottom at 10 to 20 ft'],
      ['water above 2.0 m is warmer than 24 °C', 'water above 7 ft is warmer than 75 °F'],
      ['18.2 °C at the surface', '64.8 °F at the surface'],
      ['+0.5 °C a day', '+0.9 °F a day'],
      ['Waves at SW 6 m/s: up to 0.3 m', 'Waves at SW 13 mph: up to 1.0 ft'],
      ['at 1\u202f200 m', 'at 3937 ft'],
      ['2.5 km off', '1.6 mi off'],
      ['hump, 4.4\u00a0m', 'hump, 14\u00a0ft'],
    ];
    for (const [si, read] of said) expect(sayIn(us, si)).to.equal(read);
  });
  it('converts numbers whose unit stands elsewhere', () => {
    expect(['0 to 1', '10 to 12', '12 +'].map((name) => numbersIn(us, 'm', name))).to.deep.equal(['0 to 3', '33 to 39', '39 +']);
    expect(numbersIn(us, '°C', '6 to 10')).to.equal('43 to 50');
    expect([numbersIn(us, 'mg/l', '4 to 6'), numbersIn(metric, 'm', '4 to 6'), unitIn(us, 'm'), unitIn(us, 'hPa')]).to.deep.equal([
      '4 to 6',
      '4 to 6',
      'ft',
      'hPa',
    ]);
  });
  it('leaves alone what is no such measure', () => {
    for (const text of [
      'stability 40 J/m²',
      '12 min',
      '3 marks',
      '4.2 mg/l',
      '14 of 20 m² of it',
      '2 h, 3 ha',
      'M. of 7',
      '100 mm',
      '2.5-month',
    ])
      expect(sayIn(us, text)).to.equal(text);
  });
  it('changes nothing where the reader’s units are SI, and only what is asked where some are', () => {
    const text = 'between 4.6 and 7.0 m, 18.2 °C, SW 6 m/s, 2.5 km';
    expect(sayIn(metric, text)).to.equal(text);
    expect(sayIn({ ...metric, speed: 'kn' }, text)).to.equal('between 4.6 and 7.0 m, 18.2 °C, SW 12 kn, 2.5 km');
    expect(sayIn({ ...metric, temperature: '°F' }, text)).to.equal('between 4.6 and 7.0 m, 64.8 °F, SW 6 m/s, 2.5 km');
  });
  it('says what was measured: read back, it is the same to the digits shown', () => {
    const kinds = [
      ['depth', 'm', 0.16],
      ['temperature', '°C', 0.03],
      ['speed', 'm/s', 0.28],
    ] as const;
    fc.assert(
      fc.property(
        fc.constantFrom(...kinds),
        fc.double({ min: 0, max: 40, noNaN: true }),
        fc.record({
          depth: fc.constantFrom(...UNIT_CHOICES.depth),
          temperature: fc.constantFrom(...UNIT_CHOICES.temperature),
          speed: fc.constantFrom(...UNIT_CHOICES.speed),
        }),
        ([kind, unit, digits], value, units) => {
          const said = sayIn(units, `at ${value.toFixed(1)} ${unit}`);
          expect(said).to.match(new RegExp(` ${units[kind]}$`));
          expect(parseMeasure(said.slice(3), kind, units[kind])).to.be.closeTo(Number(value.toFixed(1)), digits);
          expect(fromUnit(toUnit(value, kind, units), kind, units)).to.be.closeTo(value, 1e-9);
          // Said twice it is the same: what is in the reader's units already is no SI.
          expect(sayIn(units, said)).to.equal(said);
        },
      ),
    );
  });
});
