import { expect } from 'chai';
import { streamIn } from '../../src/forecast';
import { cells } from '../support/planted-log';

describe('the stream at a place', () => {
  const read = { set: 250, rate: 0.6 };
  const flowing = (east: number, north: number) => ({
    ...cells,
    flowEast: new Float32Array(cells.count).fill(east),
    flowNorth: new Float32Array(cells.count).fill(north),
  });
  it('of a river goes by its bed: down-stream as fast as its section allows, back in an eddy', () => {
    const fast = streamIn(flowing(-1.5, 0), 3, read);
    expect(fast.set).to.be.closeTo(270, 1e-6);
    expect(fast.rate).to.be.closeTo(0.9, 1e-6);
    const eddy = streamIn(flowing(0.2, 0.15), 3, read);
    expect(eddy.set).to.be.closeTo(53.13, 0.01);
    expect(eddy.rate).to.be.closeTo(0.15, 1e-6);
  });
  it('is as it was read where no bed says otherwise', () => {
    expect(streamIn(flowing(0, 0), 3, read)).to.equal(read);
  });
});
