import { expect } from 'chai';
import fc from 'fast-check';
import { seeded } from '../../src/numbers';
import {
  absorption,
  deadZone,
  detectionCurve,
  echoLoss,
  farthestFish,
  fastestFor,
  mountOffsets,
  passing,
  readSideScan,
  separation,
  sideScanPlace,
  sounderPing,
  targetStrength,
  type MountOffsets,
  type OffsetPass,
  type Scene,
} from '../../src/sonar';

const random = seeded(23);
const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

describe('the dead zone', () => {
  it('on flat ground is that of the literature at the edge, half a pulse under the boat', () => {
    const zone = deadZone(12, 20, 0.0001);
    expect(zone.deepEdge).to.be.closeTo(0.26, 0.005); // Ona & Mitson 1996
    expect(zone.shallowEdge).to.be.closeTo(zone.deepEdge, 1e-12);
    expect(zone.under).to.be.closeTo(0.0725, 1e-9);
    expect(zone.firstBottom).to.equal(12);
  });
  it('on a slope is worked out by hand: 10 m, 20°, falling 20°', () => {
    // The perpendicular lies outside the beam: the bottom shows from the shallow edge on, at 10·cos 20°/cos 10° = 9.5418 m; straight
    // below it lies at 10 m, at the deep edge at 10·cos 20°/cos 30° = 10.8506 m; half a pulse of 0.1 ms is 0.0725 m.
    const zone = deadZone(10, 20, 0.0001, 20);
    expect(zone.firstBottom).to.be.closeTo(9.5418, 1e-4);
    expect(zone.under).to.be.closeTo(0.5307, 1e-4);
    expect(zone.deepEdge).to.be.closeTo(1.3813, 1e-4);
    expect(zone.shallowEdge).to.be.closeTo(0.0725, 1e-4);
  });
  it('is never less on a steeper slope, and most at the deep edge', () => {
    fc.assert(
      fc.property(fc.double({ min: 2, max: 40, noNaN: true }), fc.double({ min: 6, max: 40, noNaN: true }), fc.double({ min: 0, max: 35, noNaN: true }), (depth, beam, slope) => {
        const [flat, steep] = [deadZone(depth, beam, 0.0002, 0), deadZone(depth, beam, 0.0002, slope)];
        expect(steep.under).to.be.at.least(flat.under - 1e-9);
        expect(steep.deepEdge).to.be.at.least(steep.under - 1e-9);
        expect(steep.deepEdge).to.be.at.least(steep.shallowEdge - 1e-9);
      }),
    ); // prettier-ignore
  });
  it('is what the synthesised echoes show: on a slope the bottom comes from its nearest point in the beam', () => {
    const slope = Math.tan((15 * Math.PI) / 180);
    const scene: Scene = { depthAt: (x) => 10 + x * slope, hardnessAt: () => 0.8, near: () => [], thermocline: null };
    const how = { beam: 40, range: 16, samples: 1600, pulse: 0.0001, soundSpeed: 1450, gain: 0, random: seeded(3) };
    const ping = sounderPing(scene, { x: 0, y: 0, depth: 0, heading: 0 }, how);
    const first = ping.findIndex((level, i) => i > 300 && level > 120) / 100;
    expect(first).to.be.within(deadZone(10, 40, 0.0001, 15).firstBottom - 0.05, 10 - 0.1);
  });
});

describe('what sound loses', () => {
  it('to fresh water is the published term of pure water', () => {
    // Francois & Garrison 1982: A3 at 10 °C = 3.108e-4, at 25 °C = 1.904e-4 dB/km/kHz².
    expect(absorption(200, 10) * 1000).to.be.closeTo(3.108e-4 * 200 ** 2, 0.05);
    expect(absorption(50, 25) * 1000).to.be.closeTo(1.904e-4 * 50 ** 2, 0.01);
    // Both branches meet.
    expect(absorption(800, 20)).to.be.closeTo(absorption(800, 20.0001), 2e-3);
    expect(absorption(800, 10)).to.equal(16 * absorption(200, 10));
  });
  it('to the salts of the sea is what fisheries acoustics goes by: at 10 °C about 10, 38 and 54 dB/km at 38, 120 and 200 kHz', () => {
    const sea = (kHz: number): number => 1000 * absorption(kHz, 10, 0, 35);
    expect(sea(38)).to.be.closeTo(10, 0.6);
    expect(sea(120)).to.be.closeTo(38, 1.5);
    expect(sea(200)).to.be.closeTo(54, 2);
    // High above both relaxations they add what they are, and no more: viscosity rules.
    expect((sea(1200) - 1000 * absorption(1200, 10)) / (sea(800) - 1000 * absorption(800, 10))).to.be.closeTo(1, 0.05);
    expect(1000 * absorption(200, 10, 0, 17.5)).to.be.within(1000 * absorption(200, 10), sea(200));
  });
  it('lets a high frequency reach less far, and a larger fish be seen farther off', () => {
    expect(echoLoss(10, 0)).to.equal(40);
    const reach = (kHz: number, length = 0.5): number => farthestFish(length, kHz, 15, -95);
    expect(reach(800)).to.be.below(reach(200));
    expect(reach(200, 1)).to.be.above(reach(200, 0.3));
    const r = reach(200);
    expect(targetStrength(0.5, 200) - echoLoss(r, absorption(200, 15))).to.be.closeTo(-95, 0.01);
    expect(farthestFish(0.05, 200, 15, 0)).to.equal(0);
  });
  it('parts targets by half a pulse, or by what it sweeps over', () => {
    expect(separation({ length: 0.0001 })).to.be.closeTo(0.0725, 1e-9);
    expect(separation({ bandwidth: 60_000 })).to.be.closeTo(1450 / 120_000, 1e-9);
  });
});

describe('a fish that is passed over', () => {
  it('draws a bow at a walk, specks at speed, a streak when the boat stands', () => {
    const at = (speed: number): string => passing(8, 20, 0.5, speed, 15, 0.02).shape;
    expect([at(1), at(15)]).to.deep.equal(['arch', 'specks']);
    expect(passing(8, 20, 0.5, 0, 15, 0.02).shape).to.equal('streak');
    // Eight metres down a cone of 20° is 2.82 m wide: 15 pings a second at 2 m/s meet a fish of half a metre 24.9 times.
    expect(passing(8, 20, 0.5, 2, 15, 0.02).pings).to.be.closeTo(24.9, 0.05);
    expect(passing(8, 20, 0.5, fastestFor(5, 8, 20, 0.5, 15), 15, 0.02).pings).to.be.closeTo(5, 1e-9);
  });
});

describe('a side-scan reading', () => {
  const exact = (value: number): { value: number; error: number } => ({ value, error: 0 });
  it('gives distance and heights as worked by hand', () => {
    const { distance, over } = readSideScan({ height: exact(8), range: exact(12), shadow: exact(16), shadowLength: null });
    expect(over!.value).to.equal(2);
    expect(distance.value).to.be.closeTo(Math.sqrt(144 - 36), 1e-9);
    expect(readSideScan({ height: exact(8), range: exact(12), shadow: null, shadowLength: exact(4) }).tall!.value).to.equal(2);
  });
  it('has the errors that a simulation of reading errors has', () => {
    const read = { height: { value: 8, error: 0.1 }, range: { value: 14, error: 0.15 }, shadow: { value: 19, error: 0.25 } };
    const told = readSideScan({ ...read, shadowLength: null });
    const runs = Array.from({ length: 20_000 }, () => {
      const off = ({ value, error }: { value: number; error: number }) => exact(value + error * normal());
      return readSideScan({ height: off(read.height), range: off(read.range), shadow: off(read.shadow), shadowLength: null });
    });
    const spread = (of: (a: (typeof runs)[number]) => number): number => {
      const values = runs.map(of);
      const mean = values.reduce((a, b) => a + b) / values.length;
      return Math.sqrt(values.reduce((s, v) => s + (v - mean) ** 2, 0) / values.length);
    };
    expect(told.distance.error / spread((a) => a.distance.value)).to.be.closeTo(1, 0.04);
    expect(told.over!.error / spread((a) => a.over!.value)).to.be.closeTo(1, 0.04);
  });
  it('refuses a shadow nearer than its echo, and an echo of the bottom nearer than the bottom', () => {
    expect(() => readSideScan({ height: exact(8), range: exact(12), shadow: exact(11), shadowLength: null })).to.throw('shadow');
    expect(() => readSideScan({ height: exact(8), range: exact(6), shadow: null, shadowLength: null })).to.throw('range');
  });
  it('on the Deck too never lies below the bottom, and takes no shadow nearer than the echo', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 40, noNaN: true }), fc.double({ min: 0.1, max: 60, noNaN: true }), fc.option(fc.double({ min: 0.1, max: 90, noNaN: true })), fc.option(fc.double({ min: 0, max: 60, noNaN: true })), (bottom, range, shadow, depth) => {
        const place = sideScanPlace({ side: 'port', range, bottom, transducerDepth: 0.4, shadow, depth });
        expect(place.depth).to.be.at.most(Math.max(bottom, 0.4));
        if (shadow !== null && shadow <= range) expect(place.workings.map((w) => w.code)).to.not.include('working.shadow');
      }),
    ); // prettier-ignore
  });
});

describe('offset and delay from passes', () => {
  const truth = { forward: -2.4, starboard: 0.7, delay: 1.8, x: 12, y: -7 };
  const marked = (course: number, speed: number, noise: number): OffsetPass => {
    const [east, north] = [Math.sin((course * Math.PI) / 180), Math.cos((course * Math.PI) / 180)];
    const along = -truth.forward + speed * truth.delay;
    return {
      course,
      speed,
      x: truth.x + along * east - truth.starboard * north + noise * normal(),
      y: truth.y + along * north + truth.starboard * east + noise * normal(),
    };
  };
  const four = (noise: number): OffsetPass[] => [marked(30, 1, noise), marked(210, 1, noise), marked(30, 3, noise), marked(210, 3, noise)];
  it('are those that were planted', () => {
    const found = mountOffsets(four(0)) as MountOffsets;
    for (const key of ['forward', 'starboard', 'delay'] as const) expect(found[key].value, key).to.be.closeTo(truth[key], 1e-6);
    expect(found.object.x).to.be.closeTo(truth.x, 1e-6);
  });
  it('with a metre of noise come within a tenth of the Cramér–Rao bound; their 80 % intervals hold 75 to 85 %', () => {
    // Opposite ways at 1 and 3 m/s: along the track a pass says ±P − a + v·t, so that a and t come from the mean of both ways at each
    // speed, each with σ/√2; t = (m₃ − m₁)/2, a = (3m₁ − m₃)/2 up to sign. Across it b is the mean of four: σ/2.
    const bound = { forward: Math.sqrt((9 + 1) / 4 / 2), starboard: 0.5, delay: Math.sqrt(1 / 4) };
    const runs = Array.from({ length: 4000 }, () => mountOffsets(four(1)) as MountOffsets);
    for (const key of ['forward', 'starboard', 'delay'] as const) {
      const rmse = Math.sqrt(runs.reduce((s, r) => s + (r[key].value - truth[key]) ** 2, 0) / runs.length);
      expect(rmse / bound[key], key).to.be.within(0.95, 1.1);
      const held = runs.filter((r) => r[key].low <= truth[key] && truth[key] <= r[key].high).length / runs.length;
      expect(held, `intervals of ${key}`).to.be.within(0.75, 0.85);
    }
  });
  it('say when the passes cannot tell', () => {
    expect(mountOffsets(four(1).slice(0, 2))).to.equal('too-few');
    expect(mountOffsets([marked(30, 2, 1), marked(210, 2, 1), marked(30, 2.2, 1), marked(210, 2, 1)])).to.equal('one-speed');
    expect(mountOffsets([marked(30, 1, 1), marked(35, 3, 1), marked(25, 2, 1)])).to.equal('one-direction');
  });
});

describe('the detection curve', () => {
  it('finds a planted threshold and the setting that shows it nine times in ten', () => {
    const [threshold, width] = [52, 3];
    const errors: number[] = [];
    let held = 0;
    for (let run = 0; run < 60; run++) {
      const tries = Array.from({ length: 48 }, (_, k) => {
        const level = 30 + 4 * (k % 12);
        return { level, seen: random() < 1 / (1 + Math.exp(-(level - threshold) / width)) };
      });
      const curve = detectionCurve(tries);
      errors.push(curve.threshold.value - threshold);
      if (curve.threshold.low <= threshold && threshold <= curve.threshold.high) held++;
    }
    expect(Math.abs(errors.reduce((a, b) => a + b) / errors.length)).to.be.below(0.8);
    expect(Math.sqrt(errors.reduce((s, e) => s + e * e, 0) / errors.length)).to.be.below(2);
    expect(held / 60).to.be.within(0.62, 0.95);
  });
  it('has an answer where tries part cleanly, and says when they do not decide', () => {
    const clean = detectionCurve([30, 40, 50, 60].map((level) => ({ level, seen: level > 45 })));
    expect(clean.threshold.value).to.be.within(40, 50);
    expect(clean.use.value).to.be.above(clean.threshold.value);
    expect(clean.decided).to.equal(true);
    expect(detectionCurve([{ level: 30, seen: false }]).decided).to.equal(false);
  });
});
