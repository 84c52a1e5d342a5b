import { expect } from 'chai';
import fc from 'fast-check';
import { distance, destination } from '../../src/geo';
import { boatAt, forwardPoint, padPlace, sideScanPlace, type BoatFix } from '../../src/sonar';

describe('where a point of the screen lies', () => {
  it('a side-scan target on the bottom, and one that hangs (by hand: R 17, H 8; R 8, H 10, h 7)', () => {
    const bottom = sideScanPlace({ side: 'starboard', range: 17, bottom: 8.4, transducerDepth: 0.4 });
    expect(bottom.starboard).to.be.closeTo(15, 1e-9);
    expect(bottom.depth).to.equal(8.4);
    const hanging = sideScanPlace({ side: 'port', range: 8, bottom: 10.4, transducerDepth: 0.4, depth: 3.4 });
    expect(hanging.starboard).to.be.closeTo(-7.42, 0.005);
    expect(hanging.workings[0].code).to.equal('working.slant');
    expect(hanging.workings[0].values).to.deep.include({ range: 8, below: 3 });
    expect(hanging.workings[0].values.flat).to.be.closeTo(7.42, 0.005);
  });
  it('its shadow says how high it hangs, and goes before the depth that was set (by hand: H 8, 12, 16: 2 m up)', () => {
    const { starboard, depth, workings } = sideScanPlace({
      side: 'starboard',
      range: 12,
      bottom: 8.4,
      transducerDepth: 0.4,
      shadow: 16,
      depth: 3,
    });
    expect(depth).to.be.closeTo(6.4, 1e-9);
    expect(starboard).to.be.closeTo(Math.sqrt(144 - 36), 1e-9);
    expect(workings).to.have.length(2);
  });
  it('on the Pad by slant range: nearer than the target is deep is under the boat; without a depth it stays as touched', () => {
    expect(padPlace(0, -10, 6.4, 0.4, true).starboard).to.be.closeTo(-8, 1e-9);
    expect(padPlace(3, 4, 6.4, 0.4, true)).to.include({ ahead: 0, starboard: 0 });
    expect(padPlace(3, 4, 6.4, 0.4, false)).to.include({ ahead: 3, starboard: 4 });
    expect(padPlace(3, 4, null, 0.4, true)).to.include({ ahead: 3, starboard: 4 });
    expect(padPlace(0, 0, 6.4, 0.4, true).workings).to.deep.equal([]);
  });
  it('ahead of a forward-facing view, aside by its bearing', () => {
    const { ahead, starboard, depth } = forwardPoint(10, 30, 90, 0.5);
    expect([ahead, starboard, depth].map((v) => Number(v!.toFixed(3)))).to.deep.equal([0, 8.66, 5.5]);
  });
});

describe('where the boat was at a time', () => {
  const start = { latitude: 48.2, longitude: -34.6 };
  it('is on its way between two fixes, whatever the course, and goes on for two seconds', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 360, noNaN: true }),
        fc.double({ min: 0.5, max: 8, noNaN: true }),
        fc.double({ min: 0, max: 11.9, noNaN: true }),
        (course, speed, after) => {
          const fixes: BoatFix[] = Array.from({ length: 51 }, (_, i) => ({
            at: 1000 + i * 200,
            position: destination(start, course, speed * i * 0.2),
            course,
            speed,
          }));
          const was = boatAt(fixes, 1000 + after * 1000)!;
          expect(distance(was.position, destination(start, course, speed * after))).to.be.below(0.02);
        },
      ),
    );
  });
  it('turns the short way round, and is not known before the first fix, long after the last, or in a gap', () => {
    const fix = (at: number, course: number): BoatFix => ({ at, position: start, course, speed: 1 });
    expect(boatAt([fix(0, 350), fix(1000, 20)], 500)!.course).to.be.closeTo(5, 1e-9);
    expect(boatAt([fix(0, 350)], -1)).to.equal(null);
    expect(boatAt([fix(0, 350)], 2001)).to.equal(null);
    expect(boatAt([fix(0, 0), fix(20_000, 0)], 10_000)).to.equal(null);
    expect(boatAt([], 0)).to.equal(null);
  });
});
