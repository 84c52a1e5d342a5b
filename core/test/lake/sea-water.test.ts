import { expect } from 'chai';
import { oxygenSaturation, seaWaterDensity, waterDensity } from '../../src/lake';

describe('sea water', () => {
  it('has the density of the check values of UNESCO 1983', () => {
    for (const [celsius, salinity, density] of [
      [5, 0, 999.96675],
      [25, 0, 997.04796],
      [5, 35, 1027.67547],
      [25, 35, 1023.34306],
    ])
      expect(seaWaterDensity(celsius, salinity)).to.be.closeTo(density, 1e-5);
    // Without salt it is fresh water by another formula.
    for (let t = 0; t <= 30; t += 5) expect(seaWaterDensity(t, 0)).to.be.closeTo(waterDensity(t), 0.03);
  });
  it('holds less oxygen than fresh water: Benson & Krause, 20 °C, 35', () => {
    expect(oxygenSaturation(20, 0, 35)).to.be.closeTo(7.4, 0.01);
  });
});
