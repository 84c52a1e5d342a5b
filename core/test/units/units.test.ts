import { expect } from 'chai';
import { formatDepth, formatSpeed, formatTemperature, MeasureError, parseMeasure } from '../../src/units';

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
  it('writes with a unit and sensible digits', () => {
    const us = { depth: 'ft', temperature: '°F', speed: 'mph' } as const;
    expect([formatDepth(5.4), formatDepth(5.4864, us), formatTemperature(20, us), formatSpeed(5), formatSpeed(5, us)]).to.deep.equal([
      '5.4 m',
      '18 ft',
      '68.0 °F',
      '5 m/s',
      '11 mph',
    ]);
  });
});
