import { expect } from 'chai';
import { destination } from '../../src/geo';
import { likelySame } from '../../src/logbook';

const here = { latitude: 48.2, longitude: -34.6 };
const mark = (kind: 'fish' | 'cover' | 'bait', minute: number, metresEast = 0, top = 5) => ({
  kind,
  time: new Date(Date.UTC(2026, 4, 2, 6, minute)).toISOString(),
  ...destination(here, 90, metresEast),
  top_m: top,
  bottom_m: top + 1,
});

describe('whether two marks may be one target', () => {
  const now = mark('fish', 20);
  it('takes the nearest of its kind, near enough for the time that has passed', () => {
    const near = mark('fish', 15, 12);
    expect(likelySame(now, [mark('fish', 15, 20), near, mark('bait', 15, 1)])?.contact).to.equal(near);
    expect(likelySame(now, [near])?.metres).to.be.closeTo(12, 0.1);
    // Eight metres in a minute are within what a mark may be off; thirty are not.
    expect(likelySame(now, [mark('fish', 19, 8)])).not.to.equal(null);
    expect(likelySame(now, [mark('fish', 19, 30)])).to.equal(null);
  });
  it('never joins fish at other depths, from long ago, or marked later', () => {
    expect(likelySame(now, [mark('fish', 18, 2, 8)])).to.equal(null);
    expect(likelySame(mark('fish', 59), [mark('fish', 5, 2)])).to.equal(null);
    expect(likelySame(now, [mark('fish', 25, 2)])).to.equal(null);
  });
  it('lets cover stand where it was, however long ago, and not wander', () => {
    expect(likelySame(mark('cover', 59), [mark('cover', 0, 6)])).not.to.equal(null);
    expect(likelySame(mark('cover', 59), [mark('cover', 0, 25)])).to.equal(null);
  });
});
