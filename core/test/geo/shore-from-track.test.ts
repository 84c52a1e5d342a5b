import { expect } from 'chai';
import { insideRings, ringsArea, shoreFromTrack, type Point, type Rings } from '../../src/geo';

/** A drive round an ellipse, trembling as a receiver does. */
function drive(share: number, tremble: number): Point[] {
  return Array.from({ length: Math.round(400 * share) }, (_, i): Point => {
    const t = (i / 400) * 2 * Math.PI;
    return [500 + 300 * Math.cos(t) + tremble * Math.sin(7.3 * i), 200 + 120 * Math.sin(t) + tremble * Math.cos(5.1 * i)];
  });
}
const ringsOf = (track: Point[]): Rings => {
  const shore = shoreFromTrack(track);
  if ('fault' in shore) throw new Error(shore.fault);
  return shore.rings;
};

describe('a shore from a drive round the water', () => {
  const area = Math.PI * 300 * 120;
  it('closes to one ring of the right size, also where the drive went on past its beginning', () => {
    for (const share of [0.99, 1, 1.12]) {
      const rings = ringsOf(drive(share, 1.5));
      expect(rings).to.have.length(1);
      expect(ringsArea(rings) / area).to.be.closeTo(1, 0.03);
      expect(insideRings(rings, 500, 200)).to.equal(true);
    }
  });
  it('leaves out a loop that the boat turned on the way', () => {
    const track = drive(1, 0);
    const loop = Array.from({ length: 30 }, (_, i): Point => [
      track[100][0] + 25 * Math.sin((i / 30) * 2 * Math.PI),
      track[100][1] - 25 + 25 * Math.cos((i / 30) * 2 * Math.PI),
    ]);
    const rings = ringsOf([...track.slice(0, 101), ...loop, ...track.slice(100)]);
    expect(ringsArea(rings) / area).to.be.closeTo(1, 0.05);
  });
  it('says why there is none: too short, or not closed', () => {
    expect(shoreFromTrack(drive(1, 0).slice(0, 3))).to.deep.equal({ fault: 'short' });
    expect(shoreFromTrack(drive(0.6, 0))).to.deep.equal({ fault: 'open' });
    expect(shoreFromTrack(Array.from({ length: 50 }, (): Point => [5, 5]))).to.deep.equal({ fault: 'short' });
  });
});
