import { expect } from 'chai';
import fc from 'fast-check';
import { Raster } from '../../src/geo';

/** A plane sloping east and north. */
const plane = new Raster(1000, 2000, 5, 12, 9);
for (let k = 0; k < plane.data.length; k++) {
  const [x, y] = plane.centre(k);
  plane.data[k] = 3 + 0.1 * (x - 1000) - 0.2 * (y - 2000);
}

describe('a raster read between the centres of its cells', () => {
  it('gives a plane exactly, anywhere between them', () => {
    fc.assert(
      fc.property(fc.double({ min: 1002.5, max: 1057.4, noNaN: true }), fc.double({ min: 2002.5, max: 2042.4, noNaN: true }), (x, y) => {
        expect(plane.between(x, y)).to.be.closeTo(3 + 0.1 * (x - 1000) - 0.2 * (y - 2000), 1e-4);
      }),
    );
  });
  it('gives the cell’s own value at the rim and beside what is not known, and nothing outside', () => {
    expect(plane.between(1001, 2001)).to.equal(plane.at(1001, 2001));
    expect(plane.between(900, 2001)).to.be.NaN;
    const holed = plane.like();
    holed.data.set(plane.data);
    holed.data[0] = NaN;
    expect(holed.between(1006, 2006)).to.equal(holed.at(1006, 2006));
    expect(holed.between(1002.6, 2002.6)).to.be.NaN;
    expect(holed.between(1013, 2013)).to.equal(plane.between(1013, 2013));
  });
});
