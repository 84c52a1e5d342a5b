import { expect } from 'chai';
import {
  archRange,
  bottomOf,
  fastestPings,
  forwardPicture,
  forwardPlace,
  layback,
  objectHeight,
  pingsOnTarget,
  screenDelayDistance,
  shadowLength,
  sideScanDistance,
  sideScanPing,
  slantRange,
  sounderPing,
  targetStrength,
  timeInCone,
  traces,
  type Listening,
  type Scene,
  type SceneTarget,
  type SounderColumn,
} from '../../src/sonar';

describe('arithmetic of the picture, by hand', () => {
  it('slant range, shadow, layback, screen delay', () => {
    expect(slantRange(15, 8)).to.equal(17);
    // A stump 2 m high, 12 m away by slant, under a transducer 8 m up: 12·2/6.
    expect(shadowLength(8, 12, 2)).to.equal(4);
    expect(objectHeight(8, 12, shadowLength(8, 12, 2))).to.be.closeTo(2, 1e-12);
    expect(shadowLength(8, 12, 9)).to.equal(Infinity);
    expect(layback(13, 5)).to.equal(12);
    expect(screenDelayDistance(6, 3.5)).to.equal(21);
  });
  it('arch, time in the cone, pings', () => {
    expect(archRange(8, 2, 3)).to.equal(10);
    expect(archRange(8, 2, 0)).to.equal(8);
    // 20° at 10 m is 3.53 m wide: 1.76 s at 2 m/s.
    expect(timeInCone(10, 20, 2)).to.be.closeTo(1.763, 0.001);
    expect(fastestPings(72.5)).to.equal(10);
    // (0.5 m + 1.5 m) · 10/s ÷ 4 m/s.
    expect(pingsOnTarget(0.5, 1.5, 10, 4)).to.equal(5);
  });
  it('a fish of 30 cm at 200 kHz sends back −35.9 dB (Love 1977)', () => expect(targetStrength(0.3, 200)).to.be.closeTo(-35.9, 0.05));
  it('a point of the forward-facing picture lies ahead and below', () => {
    const { ahead, depth } = forwardPlace(10, 30, 0.5);
    expect(ahead).to.be.closeTo(8.66, 0.005);
    expect(depth).to.be.closeTo(5.5, 1e-9);
  });
});

/** Reproducible noise. */
function noise(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16807) % 2147483647) / 2147483647;
}
const how = (random: () => number, more: Partial<Listening> = {}): Listening => ({
  beam: 20,
  range: 16,
  samples: 400,
  pulse: 0.0001,
  soundSpeed: 1450,
  gain: 0,
  random,
  ...more,
});
const fish = (x: number, y: number, depth: number, length = 0.4): SceneTarget => ({
  id: `${x} ${y}`,
  kind: 'fish',
  x,
  y,
  depth,
  radius: 0,
  half: 0,
  strength: targetStrength(length),
});
const scene = (depth: number, hard: number, targets: SceneTarget[] = [], thermocline: Scene['thermocline'] = null): Scene => ({
  depthAt: () => depth,
  hardnessAt: () => hard,
  near: (x, y, reach) => targets.filter((t) => Math.hypot(t.x - x, t.y - y) <= reach + t.radius),
  thermocline,
});
const at = (x: number, y = 0): { x: number; y: number; depth: number; heading: number } => ({ x, y, depth: 0.4, heading: 90 });
/** Passes along y = 0 at 2 m/s with ten pings a second. */
const pass = (water: Scene, seed: number, from = -10, to = 10, more: Partial<Listening> = {}): SounderColumn[] => {
  const random = noise(seed);
  return Array.from({ length: Math.round((to - from) / 0.2) }, (_, i) => ({
    levels: sounderPing(water, at(from + i * 0.2), how(random, more)),
    range: 16,
    transducerDepth: 0.4,
  }));
};
/** Where a level stays above, in metres along the range. */
const loudestAfter = (levels: Uint8Array, range: number, from: number): number => {
  let best = Math.floor((from / range) * levels.length);
  for (let i = best; i < levels.length; i++) if (levels[i] > levels[best]) best = i;
  return (best * range) / levels.length;
};

describe('a synthesised picture, read back by a plain detector', () => {
  it('gives the bottom within 2 %, hard or soft, shallow or deep', () => {
    for (const hard of [0.1, 0.5, 0.95])
      for (const depth of [2.5, 6, 13])
        for (const column of pass(scene(depth, hard), 7, 0, 2)) {
          const read = bottomOf(column);
          expect(read, `hardness ${hard}`).to.be.within(depth * 0.98, depth * 1.02);
        }
  });
  it('gives each planted fish, where it is and its depth within 2 %, and no more', () => {
    const planted = [fish(-6, 0, 3.2), fish(0, 0.1, 7.5, 0.6), fish(6, -0.1, 9.1, 0.3)];
    for (const seed of [3, 11, 29]) {
      const found = traces(pass(scene(11, 0.6, planted), seed), 4);
      expect(found.map((t) => (t.ping * 0.2 - 10).toFixed(0))).to.have.length(3);
      found.forEach((t, k) => {
        expect(t.depth).to.be.within(planted[k].depth * 0.98, planted[k].depth * 1.02);
        expect(t.ping * 0.2 - 10).to.be.closeTo(planted[k].x, 0.5);
      });
    }
  });
  it('shows a fish as an arch: farther off by the geometry before and after, longer for a stronger fish', () => {
    const columns = pass(scene(12, 0.5, [fish(0, 0, 9)]), 5);
    for (const ping of [42, 46, 50, 54, 58]) {
      const range = loudestAfter(columns[ping].levels.subarray(0, Math.round((10.4 / 16) * 400)), 10.4, 5);
      expect(range, `ping ${ping}`).to.be.closeTo(archRange(8.6, 2, (ping - 50) / 10), 0.1);
    }
    const long = (length: number): number => traces(pass(scene(12, 0.5, [fish(0, 0, 9, length)]), 5), 2)[0].pings;
    expect(long(0.6)).to.be.above(long(0.08) * 1.3);
    expect(traces(pass(scene(12, 0.5, [fish(0, 9, 5)]), 5), 4), 'outside the cone').to.deep.equal([]);
  });
  it('loses a fish in the dead zone and shows it a metre higher', () => {
    expect(traces(pass(scene(12, 0.7, [fish(0, 0, 11.9)]), 9), 4)).to.deep.equal([]);
    expect(traces(pass(scene(12, 0.7, [fish(0, 0, 10.9)]), 9), 4)).to.have.length(1);
  });
  it('has a second echo over hard bottom only, and fills with noise when the gain is too high', () => {
    const second = (hard: number): number => {
      const { levels } = pass(scene(6, hard), 4, 0, 0.2)[0];
      const i = Math.round(((2 * 5.6 + 0.4) / 16) * levels.length);
      return Math.max(...levels.subarray(i - 3, i + 8));
    };
    expect(second(0.95)).to.be.above(second(0.2) + 60);
    const middle = (gain: number): number => [...pass(scene(12, 0.5), 4, 0, 0.2, { gain })[0].levels].sort((a, b) => a - b)[200];
    expect(middle(30)).to.be.above(middle(0) + 80);
  });
  it('shows the thermocline as clutter, densest in the middle', () => {
    const columns = pass(scene(14, 0.5, [], { top: 5, bottom: 8 }), 6);
    const mean = (from: number, to: number): number =>
      columns.reduce((s, c) => {
        const part = c.levels.subarray(Math.round(((from - 0.4) / 16) * 400), Math.round(((to - 0.4) / 16) * 400));
        return s + part.reduce((a, b) => a + b, 0) / part.length / columns.length;
      }, 0);
    expect(mean(6, 7)).to.be.above(mean(5, 5.6) + 3);
    expect(mean(6, 7)).to.be.above(mean(3, 4) + 12);
  });
});

describe('a synthesised side-scan', () => {
  it('has a suspended fish at its slant range on its side, which its height turns into its distance', () => {
    // 12 m to starboard of a boat heading east: south of it. 4 m over a bottom 10 m down.
    const water = scene(10, 0.1, [fish(0, -12, 6, 1)]);
    const { port, starboard } = sideScanPing(water, at(0), how(noise(3), { range: 30, samples: 600, beam: 3 }));
    const height = 10 - 0.4;
    const range = loudestAfter(starboard, 30, 2);
    expect(range).to.be.closeTo(Math.hypot(12, 6 - 0.4), 0.25);
    expect(sideScanDistance(range, height, 4)).to.be.closeTo(12, 0.3);
    // Taken for something on the bottom it would be read three metres too near.
    expect(sideScanDistance(range, height)).to.be.below(9.6);
    const i = Math.round((range / 30) * 600);
    expect(Math.max(...port.subarray(i - 3, i + 4))).to.be.below(starboard[i] - 60);
  });
  it('is dark down to the bottom, and behind a stump', () => {
    const water = scene(8, 0.8, [{ ...fish(0, 10, 7.2), kind: 'timber', radius: 0.4, half: 0.8, strength: -22 }]);
    const { port } = sideScanPing(water, at(0), how(noise(5), { range: 30, samples: 600, beam: 3 }));
    const mean = (from: number, to: number): number => {
      const part = port.subarray((from / 30) * 600, (to / 30) * 600);
      return part.reduce((a, b) => a + b, 0) / part.length;
    };
    expect(mean(2, 7)).to.be.below(mean(8.5, 11) - 60);
    expect(mean(13, 13.6)).to.be.below(mean(16, 20) - 40);
  });
});

describe('a synthesised forward-facing picture', () => {
  it('has a fish where it is: ahead by its range and angle', () => {
    const water = scene(12, 0.3, [fish(9, 0, 4.4, 0.8)]);
    const picture = forwardPicture(water, at(0), how(noise(8), { range: 20, samples: 200 }), 20, 31);
    let best = 0;
    // Above the bottom: 12 m down.
    for (let row = 0; row < 12; row++) for (let i = 20; i < 200; i++) if (picture[row * 200 + i] > picture[best]) best = row * 200 + i;
    const { ahead, depth } = forwardPlace(((best % 200) * 20) / 200, Math.floor(best / 200) * 3, 0.4);
    expect(ahead).to.be.closeTo(9, 0.3);
    expect(depth).to.be.closeTo(4.4, 0.4);
  });
});
