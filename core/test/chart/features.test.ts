import { expect } from 'chai';
import { buildChart, type Chart } from '../../src/chart';
import type { Point } from '../../src/geo';
import { cleanedOf } from '../support/clean';
import { addScore, score, type Score } from '../support/score';
import { makeSoundedWater, survey, type Planted } from '../support/sounded-water';

const KINDS: Planted['kind'][] = ['hump', 'ledge', 'saddle', 'channel swing', 'hard spot'];

/** A square of water with a bottom of one's own, sounded every 12 m. */
function square(depthAt: (x: number, y: number) => number, island: Point[] | null = null): Chart {
  const shore: Point[] = [
    [0, 0],
    [600, 0],
    [600, 600],
    [0, 600],
  ];
  const [x, y, depth]: number[][] = [[], [], []];
  for (let px = 6; px < 600; px += 12)
    for (let py = 3; py < 600; py += 6) {
      if (depthAt(px, py) <= 0) continue;
      x.push(px);
      y.push(py);
      depth.push(depthAt(px, py));
    }
  return buildChart(32625, island ? [shore, island] : [shore], { x, y, depth, hardness: x.map(() => NaN) }, { size: 5 });
}
/** Falls away from its shore on all sides. */
const basin = (x: number, y: number): number => Math.min(9, Math.min(x, y, 600 - x, 600 - y) / 12);

describe('shapes of the bottom', () => {
  // A small version of the bench: two waters have two ledges, so of these one is enough.
  it('planted in made-up waters are found, and little else is claimed', () => {
    const totals = new Map<string, Score>();
    let area = 0;
    for (const seed of [41, 42]) {
      const water = makeSoundedWater(seed);
      const chart = buildChart(32625, water.rings, cleanedOf(survey(water, { seed, spacing: 25, spikes: 0.005, doubles: 2 })));
      area += water.width * water.height;
      for (const kind of KINDS) totals.set(kind, addScore(totals.get(kind), score(water, chart.features, kind)));
    }
    for (const [kind, s] of totals) {
      expect(s.found / s.planted, `recall of ${kind}`).to.be.at.least(kind === 'ledge' ? 0.5 : 0.8);
      expect(s.right / s.claimed, `precision of ${kind}`).to.be.at.least(kind === 'ledge' ? 0.5 : 0.8);
      expect(s.area / area, `area claimed as ${kind}`).to.be.below(0.1);
    }
  }).timeout(60_000);

  it('have a place, a depth and a size one could go to', () => {
    const [hx, hy] = [330, 250];
    const { features } = square((x, y) => basin(x, y) - 2 * Math.exp(-((x - hx) ** 2 + (y - hy) ** 2) / (2 * 25 ** 2)));
    const humps = features.filter((f) => f.kind === 'hump');
    expect(humps).to.have.length(1);
    const [hump] = humps;
    expect(Math.hypot(hump.x - hx, hump.y - hy)).to.be.below(12);
    expect(hump.depth).to.be.closeTo(7, 0.4);
    expect(hump.rise).to.be.closeTo(2, 0.6);
    expect(hump.confidence).to.be.above(0.7);
    expect(hump.edge.type === 'area' && hump.edge.ring.length).to.be.above(8);
  });
  it('are as wide as they are at half their height, whatever the scale they were found at', () => {
    for (const [sign, kind] of [
      [-1, 'hump'],
      [1, 'hole'],
    ] as const)
      for (const spread of [16, 21, 30, 45]) {
        const { features } = square((x, y) => basin(x, y) + sign * 2.5 * Math.exp(-((x - 310) ** 2 + (y - 290) ** 2) / (2 * spread ** 2)));
        const named = features.filter((f) => f.kind === 'hump' || f.kind === 'hole');
        // Nor is a corner where the feet of two slopes meet the floor a hole of its own.
        expect(named.map((f) => f.kind)).to.deep.equal([kind]);
        const [found] = named;
        // A Gaussian has half its height 1.177 times its spread from the middle.
        expect(found.size / (2 * 1.177 * spread), `${kind} of ${spread} m`).to.be.within(0.85, 1.15);
      }
  });
  it('are none where there are none: neither an even slope nor the ground of an island', () => {
    const slope = square((x) => 1 + x / 80);
    // The foot of the deep end's wall is a trough, and may be called a channel.
    const found = slope.features.filter(
      (f) => ['hump', 'hole', 'saddle', 'ledge', 'channel', 'irregularity'].includes(f.kind) && f.x < 500,
    );
    expect(found).to.deep.equal([]);
    const rim = Array.from({ length: 24 }, (_, k): Point => [
      300 + 30 * Math.cos((k / 24) * 2 * Math.PI),
      300 + 30 * Math.sin((k / 24) * 2 * Math.PI),
    ]);
    const island = square((x, y) => Math.min(basin(x, y), (Math.hypot(x - 300, y - 300) - 30) / 6), rim);
    expect(island.features.filter((f) => f.kind === 'hump' && Math.hypot(f.x - 300, f.y - 300) < 80)).to.deep.equal([]);
  });
  it('a hole may be twice as long as wide, and lie in a channel; the bend of a channel that goes on is none', () => {
    const oval = square((x, y) => basin(x, y) + 2.5 * Math.exp(-((x - 310) ** 2 / (2 * 40 ** 2) + (y - 290) ** 2 / (2 * 20 ** 2))));
    expect(oval.features.filter((f) => f.kind === 'hole')).to.have.length(1);
    const bend = (x: number, y: number): number => y - 300 - 60 * Math.sin(x / 70);
    const valley = square((x, y) => 4 + 5 * Math.exp(-(bend(x, y) ** 2) / (2 * 30 ** 2)));
    expect(valley.features.filter((f) => f.kind === 'hole')).to.deep.equal([]);
    const pit = square(
      (x, y) => 5 + 1.5 * Math.exp(-((y - 300) ** 2) / (2 * 18 ** 2)) + 4 * Math.exp(-((x - 300) ** 2 + (y - 300) ** 2) / (2 * 20 ** 2)),
    );
    const holes = pit.features.filter((f) => f.kind === 'hole');
    expect(holes).to.have.length(1);
    expect(Math.hypot(holes[0].x - 300, holes[0].y - 300)).to.be.below(15);
  });
  it('a deep stretch of a channel is the channel, not a hole', () => {
    const { features } = square((x, y) => 5 + 2.5 * Math.exp(-((y - 300) ** 2) / (2 * 18 ** 2)) * (1 + 0.25 * Math.sin(x / 40)));
    expect(features.some((f) => f.kind === 'channel')).to.equal(true);
    expect(features.filter((f) => f.kind === 'hole')).to.deep.equal([]);
  });
});
