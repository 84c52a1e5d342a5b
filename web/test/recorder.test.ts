import { expect } from 'chai';
import fc from 'fast-check';
import { distance } from '@restless-shoal/core/geo';
import { HEARTBEAT_MS, isRecorded } from '../src/state/recorded';

const at = (north: number): { latitude: number; longitude: number } => ({ latitude: 48 + north / 111_195, longitude: -34 });

describe('what is recorded of a boat’s positions', () => {
  it('is a fix a second of ten that came, each second', () => {
    let last: Parameters<typeof isRecorded>[0] = { at: 0, position: null };
    const kept: number[] = [];
    for (let now = 0; now < 20_000; now += 100)
      if (isRecorded(last, now, at(now / 1000))) {
        kept.push(now);
        last = { at: now, position: at(now / 1000) };
      }
    // At 1 m/s time decides: every 0.9 s.
    expect(kept.length).to.be.within(20, 24);
  });
  it('leaves no more than 8 m or a second between two fixes, however fast the boat and however often it is heard', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 20, noNaN: true }), fc.integer({ min: 50, max: 900 }), (speed, every) => {
        let last: Parameters<typeof isRecorded>[0] = { at: 0, position: null };
        for (let now = 0; now < 10_000; now += every) {
          const position = at((speed * now) / 1000);
          if (last.position && !isRecorded(last, now, position)) {
            expect(now - last.at).to.be.below(900);
            expect(distance(last.position, position)).to.be.below(8);
          } else last = { at: now, position };
        }
      }),
    );
  });
  it('joins to what came before it, while the boat stands: looks join fixes up to 30 s apart', () =>
    expect(HEARTBEAT_MS).to.be.below(15_000));
});
