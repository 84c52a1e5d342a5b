import { expect } from 'chai';
import { MeasureError, parseMeasure } from '../../src/units';

describe('units at the edge', () => {
  it('reads what people type', () => {
    expect(parseMeasure('18 ft', 'depth', 'm')).to.be.closeTo(5.4864, 1e-9);
    expect(parseMeasure('5,4', 'depth', 'm')).to.equal(5.4);
    expect(parseMeasure('68 °F', 'temperature', '°C')).to.be.closeTo(20, 1e-9);
    expect(parseMeasure('10 kn', 'speed', 'm/s')).to.be.closeTo(5.144, 0.001);
  });
  it('says what is wrong', () => {
    expect(() => parseMeasure('deep', 'depth', 'm')).to.throw(MeasureError, 'is not a number');
    expect(() => parseMeasure('3 stone', 'depth', 'm')).to.throw('"stone" is not a unit of depth');
  });
  it('reads the length and the mass of a fish, pounds and ounces too', () => {
    expect(parseMeasure('54', 'fishLength', 'cm')).to.equal(0.54);
    expect(parseMeasure('21 in', 'fishLength', 'cm')).to.be.closeTo(0.5334, 1e-9);
    expect(parseMeasure('3 lb 4 oz', 'mass', 'kg')).to.be.closeTo(1.474, 5e-4);
    expect(parseMeasure('2,5', 'mass', 'lb')).to.be.closeTo(1.134, 5e-4);
  });
});
