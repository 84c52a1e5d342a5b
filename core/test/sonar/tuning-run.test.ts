import { expect } from 'chai';
import {
  adviseSettings,
  bestContrast,
  detectionCurve,
  echoLoss,
  farthestFish,
  absorption,
  targetStrength,
  tuningPicture,
  type LookPlan,
} from '../../src/sonar';

const plan: LookPlan = {
  view: 'sounder',
  purpose: 'fish',
  depth: 10,
  temperature: 15,
  salinity: 0,
  length: 0.5,
  beam: 20,
  rate: 15,
  frequencies: [200, 800],
  least: null,
};
const of = (change: Partial<LookPlan>) => new Map(adviseSettings({ ...plan, ...change }).map((s) => [s.code, s.values]));

describe('a run over a small target', () => {
  it('ends at the gain at which the simulated boat’s picture shows it', () => {
    // An echo of −58 dB is drawn at (−58 + 78)/70 of the scale: 73 of 255; at 110 from 10 dB of gain on.
    const seen = (gain: number, seed: number): boolean => {
      const { pings, range, transducerDepth } = tuningPicture(6, -58, gain, seed);
      const from = Math.floor(((5.2 - transducerDepth) / range) * 300);
      const to = Math.ceil(((6.9 - transducerDepth) / range) * 300);
      return pings.filter((p) => Math.max(...p.slice(from, to)) >= 110).length > pings.length / 2;
    };
    const tries = [0, 4, 8, 12, 16, 20].flatMap((level) => [1, 2].map((k) => ({ level, seen: seen(level, 10 * level + k) })));
    const curve = detectionCurve(tries);
    expect(curve.decided).to.equal(true);
    expect(curve.threshold.value).to.be.within(7, 13);
  });
  it('stands for a weakest echo from which follows how far a fish is seen', () => {
    const least = targetStrength(0.08, 200) - echoLoss(6, absorption(200, 15));
    expect(farthestFish(0.08, 200, 15, least)).to.be.closeTo(6, 0.01);
    expect(farthestFish(0.5, 200, 15, least)).to.be.above(12);
    // Salt takes more of an echo.
    expect(farthestFish(0.5, 200, 15, least, 35)).to.be.below(farthestFish(0.5, 200, 15, least));
  });
  it('advises the lower frequency sooner at sea', () => {
    const deep = { depth: 60, frequencies: [50, 200] as const };
    expect(of(deep).has('settings.frequency.high')).to.equal(true);
    expect(of({ ...deep, salinity: 35 }).has('settings.frequency.low')).to.equal(true);
  });
});

describe('a run over hard and soft bottom', () => {
  it('has its best setting before both are at the top of the scale', () => {
    const tries = [20, 30, 40, 50, 60].flatMap((level) =>
      [0, 1].map((k) => ({ level, hard: Math.min(10, 0.22 * level) + 0.2 * k, soft: Math.min(10, 0.1 * level) + 0.2 * k })),
    );
    const { best, levels } = bestContrast(tries)!;
    expect(best.level).to.equal(50);
    expect(levels.map((l) => l.n)).to.deep.equal([2, 2, 2, 2, 2]);
    expect(bestContrast(tries.slice(0, 2))).to.equal(null);
    expect(bestContrast([{ level: 1, hard: 3, soft: 1 }, { level: 2, hard: 3, soft: 1 }])!.best.level, 'of equals the lower').to.equal(1); // prettier-ignore
  });
});

describe('settings to begin with', () => {
  it('hold the bottom for fish, and its second echo for hardness', () => {
    expect(of({}).get('settings.range.sounder')!.range).to.equal(15);
    expect(of({ purpose: 'bottom' }).get('settings.range.sounder')!.range).to.be.at.least(20);
    expect([...of({ purpose: 'bottom' }).keys()]).to.include('settings.gain.bottom');
  });
  it('take the high frequency while the water takes little of it, the low one beyond', () => {
    expect(of({}).has('settings.frequency.high')).to.equal(true);
    const deep = of({ depth: 40 });
    expect(deep.has('settings.frequency.low')).to.equal(true);
    expect(deep.get('settings.frequency.low')!.taken).to.be.closeTo(2 * absorption(800, 15) * 50, 1e-9);
  });
  it('say when the tuned rig does not see the fish as far, and go no faster than five pings allow', () => {
    expect(of({ least: -60 }).get('settings.range.seen')!.far).to.be.below(15);
    expect(of({ least: -120 }).has('settings.range.seen')).to.equal(false);
    // 10 m and 20°: (0.5 + 3.527)·5/5 at 5 pings a second.
    expect(of({ rate: 5 }).get('settings.speed')!.speed).to.be.closeTo(4.027, 0.001);
  });
});
