import { expect } from 'chai';
import { distanceToSegment, type Point } from '../../src/geo';
import { seeded } from '../../src/numbers';
import {
  Follower,
  passChance,
  USUAL_DETECTION,
  passSpacing,
  patchOf,
  searchPasses,
  swathOf,
  type PassWish,
  type SearchPasses,
  type SearchView,
} from '../../src/passage';
import { boatWater, EAST, NORTH, rectangle } from '../support/boat-water';

const sideScan: SearchView = { view: 'side-scan', range: 25, beam: 20, transducerDepth: 0.4 };
const sounder: SearchView = { ...sideScan, view: 'sounder' };
const square = (x0: number, y0: number, x1: number, y1: number) => ({
  type: 'Polygon' as const,
  points: [[EAST + x0, NORTH + y0], [EAST + x1, NORTH + y0], [EAST + x1, NORTH + y1], [EAST + x0, NORTH + y1]] as Point[], // prettier-ignore
});

describe('swaths and spacing, by hand', () => {
  it('side-scan of 25 m, transducer at 0.4 m, over 4, 12 and 22 m', () => {
    // √(25² − 3.6²), √(25² − 11.6²), √(25² − 21.6²); strips √(3.7² − 3.6²) …
    const by = [4, 12, 22].map((depth) => swathOf(sideScan, depth));
    expect(by.map((s) => s.far.toFixed(2))).to.deep.equal(['24.74', '22.15', '12.59']);
    expect(by.map((s) => s.near.toFixed(2))).to.deep.equal(['0.85', '1.53', '2.08']);
    // 10 % overlap: 2·0.9·far where the strips hide at most 5 %, else 0.9·far, so that neighbours see them.
    const spacings = by.map((s) => passSpacing(s, 0.1, 0.95));
    expect(spacings.map((s) => s.metres.toFixed(1))).to.deep.equal(['44.5', '19.9', '11.3']);
    expect(spacings.map((s) => s.stripSeen)).to.deep.equal([false, true, true]);
    expect(spacings[0].seen).to.be.closeTo(1 - 0.854 / 22.26, 0.001);
  });
  it('a cone of 20° is as wide as geometry says, a range short of the bottom sees none of it', () => {
    expect(swathOf(sounder, 10.4).far).to.be.closeTo(10 * Math.tan(Math.PI / 18), 1e-9);
    expect(passSpacing(swathOf(sounder, 10.4), 0, 0.95).metres).to.be.closeTo(3.53, 0.01);
    expect(swathOf(sideScan, 40).far).to.equal(0);
    expect(passSpacing(swathOf(sideScan, 40), 0.1).metres).to.equal(0);
  });
  it('a pod of several is seen more surely than one, the farther off the line the less', () => {
    expect(passChance({ ...USUAL_DETECTION, single: 0.5 }, { count: 1 }, 10, 4)).to.be.closeTo(0.5, 1e-12);
    expect(passChance({ ...USUAL_DETECTION, single: 0.5 }, { count: 3 }, 10, 4)).to.be.closeTo(0.875, 1e-12);
    const falling = { single: 0.5, sigma: 10, withDepth: -0.1, depth: 4 };
    expect(passChance(falling, { count: 1 }, 10, 4)).to.be.closeTo(0.5 * Math.exp(-0.5), 1e-12);
    // Over deeper water it falls sooner; where no depth is known as at the depth it was learned at.
    expect(passChance(falling, { count: 1 }, 10, 9)).to.be.closeTo(0.5 * Math.exp(-0.5 / Math.exp(-0.5) ** 2), 1e-12);
    expect(passChance(falling, { count: 1 }, 10, NaN)).to.be.closeTo(0.5 * Math.exp(-0.5), 1e-12);
  });
});

/** A bay with a sloping, winding bottom, a hump and a hazard. */
const bottom = (x: number, y: number): number =>
  Math.max(0.3, (y - NORTH) / 40 + 1.5 * Math.sin((x - EAST) / 180) - 5 * Math.exp(-(((x - EAST - 900) / 90) ** 2) - ((y - NORTH - 400) / 90) ** 2)); // prettier-ignore
const bay = boatWater({
  rings: rectangle(1400, 700),
  bottom,
  hazards: [{ type: 'Point', points: [[EAST + 500, NORTH + 260]] }],
});

/** Drives the passes with a helm that wanders, and counts what a side-scan over the true bottom sees of random places. */
function simulated(found: SearchPasses, wanted: (x: number, y: number) => boolean, single: number, seed: number) {
  const random = seeded(seed);
  const places: Point[] = [];
  while (places.length < 4000) {
    const p: Point = [EAST + 1400 * random(), NORTH + 700 * random()];
    if (wanted(...p)) places.push(p);
  }
  const passes = places.map(() => 0);
  for (const pass of found.passes) {
    // The wander is slow: one offset for each stretch of some 30 m, ±1.5 m.
    const hit = new Set<number>();
    for (let i = 1; i < pass.length; i++) {
      const [a, b] = [pass[i - 1], pass[i]];
      const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
      const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
      for (let from = 0; from < length; from += 5) {
        const to = Math.min(length, from + 5);
        const wander = 1.5 * Math.sin((from + 997 * i) / 20);
        const start: Point = [a[0] + ux * from + uy * wander, a[1] + uy * from - ux * wander];
        const end: Point = [a[0] + ux * to + uy * wander, a[1] + uy * to - ux * wander];
        const height = bottom(...start) - 0.4;
        const [near, far] = [Math.sqrt(0.2 * height + 0.01), Math.sqrt(Math.max(0, 625 - height * height))];
        places.forEach((p, n) => {
          if (hit.has(n) || Math.abs(p[0] - start[0]) > 30 || Math.abs(p[1] - start[1]) > 30) return;
          const along = (p[0] - start[0]) * ux + (p[1] - start[1]) * uy;
          const off = distanceToSegment(p, start, end);
          if (along >= 0 && along <= to - from && off >= near && off <= far) hit.add(n);
        });
      }
    }
    hit.forEach((n) => passes[n]++);
  }
  const covered = passes.filter((n) => n > 0).length / places.length;
  const detected = passes.filter((n) => random() > (1 - single) ** n).length / places.length;
  return { covered, detected };
}

describe('search passes', () => {
  const wish = (more: Partial<PassWish> = {}): PassWish => ({ view: sideScan, pattern: 'along', sought: { count: 1 }, ...more });

  it('see 95 % of a patch and more as it is truly driven: a depth band, a drawn patch, a hump; along and across', function () {
    this.timeout(60_000);
    const cases: [string, Parameters<typeof patchOf>[1], (x: number, y: number) => boolean][] = [
      ['band', { band: [3, 7] }, (x, y) => bottom(x, y) >= 3 && bottom(x, y) <= 7],
      ['drawn', { areas: [square(200, 350, 620, 610)] }, (x, y) => x > EAST + 200 && x < EAST + 620 && y > NORTH + 350 && y < NORTH + 610],
      [
        'hump',
        { round: { points: [[EAST + 900, NORTH + 400]], radius: 120 } },
        (x, y) => Math.hypot(x - EAST - 900, y - NORTH - 400) < 120,
      ],
    ];
    for (const [name, what, wanted] of cases)
      for (const pattern of ['along', 'across'] as const) {
        const found = searchPasses(bay, patchOf(bay, what), wish({ pattern, detection: { ...USUAL_DETECTION, single: 0.6 } }));
        const { covered, detected } = simulated(found, wanted, 0.6, 7);
        expect(found.trouble, name).to.equal(null);
        // Water that no pass may go near is not seen: the patches here have hardly any.
        expect(covered, `${name} ${pattern}`).to.be.at.least(0.95);
        expect(covered, `${name} ${pattern}`).to.be.closeTo(found.seen, 0.025);
        expect(detected, `${name} ${pattern}: chance`).to.be.closeTo(found.chance, 0.03);
        // Half of what it drives at most lies outside.
        expect(found.searched * 2 * 24 * 0.9).to.be.below(2.6 * found.hectares * 10_000);
      }
  });

  it('follow the contours: along passes change depth less than across passes do', () => {
    const fall = (pattern: 'along' | 'across'): number => {
      const found = searchPasses(bay, patchOf(bay, { band: [3, 7] }), wish({ pattern }));
      let [change, length] = [0, 0];
      for (const pass of found.passes)
        for (let i = 1; i < pass.length; i++) {
          change += Math.abs(bottom(...pass[i]) - bottom(...pass[i - 1]));
          length += Math.hypot(pass[i][0] - pass[i - 1][0], pass[i][1] - pass[i - 1][1]);
        }
      return change / length;
    };
    expect(fall('along')).to.be.below(0.6 * fall('across'));
  });

  it('fit into the time there is, and take the water that is worth most first', () => {
    const patch = patchOf(bay, { areas: [square(100, 200, 1300, 650)] });
    const start: Point = [EAST + 60, NORTH + 300];
    const worth = ([x]: Point): number => (x > EAST + 1000 ? 1 : 0.05);
    const all = searchPasses(bay, patch, wish({ start }));
    const some = searchPasses(bay, patch, wish({ start, minutes: 25, worth, pattern: 'across', heading: 0 }));
    expect(all.seconds).to.be.above(25 * 60);
    expect(some.seconds).to.be.at.most(25 * 60);
    expect(some.leftOut).to.be.above(0);
    const mean = some.passes.flat().reduce((s, p) => s + p[0] - EAST, 0) / some.passes.flat().length;
    expect(mean).to.be.above(1000);
    // The chance counts where the pod is likely.
    expect(some.chance).to.be.above(2 * some.seen * 0.65 * 0.9);
  });

  it('wide passes see half of it in less than half the time; then close ones round the contacts', () => {
    const patch = patchOf(bay, { areas: [square(100, 300, 800, 620)] });
    const [wide, close] = [searchPasses(bay, patch, wish({ stage: 'wide' })), searchPasses(bay, patch, wish())];
    expect(wide.seen / close.seen).to.be.within(0.4, 0.62);
    expect(wide.seconds / close.seconds).to.be.within(0.2, 0.65);
    const round = patchOf(bay, { round: { points: [[EAST + 300, NORTH + 400]], radius: 60 } });
    const again = searchPasses(bay, round, wish());
    expect(again.hectares).to.be.closeTo((Math.PI * 3600) / 10_000, 0.03);
    expect(again.seen).to.be.above(0.95);
  });

  it('say what is missing: no patch, a range that does not reach the bottom, no time', () => {
    expect(searchPasses(bay, patchOf(bay, { band: [40, 50] }), wish()).trouble).to.equal('no-patch');
    const deep = boatWater({ rings: rectangle(400, 400), bottom: () => 60 });
    expect(searchPasses(deep, patchOf(deep, { band: [50, 70] }), wish()).trouble).to.equal('nothing-seen');
    expect(searchPasses(bay, patchOf(bay, { band: [3, 7] }), wish({ minutes: 0.2 })).trouble).to.equal('no-time');
  });

  it('plan without a chart as well: ranges are as they are set', () => {
    const blank = boatWater({ rings: rectangle(500, 400), bottom: () => NaN });
    const found = searchPasses(blank, patchOf(blank, { areas: [square(50, 50, 450, 350)] }), wish());
    expect(blank.uncharted).to.equal(1);
    expect(found.spacing.metres).to.be.closeTo(45, 1e-9);
    expect(found.seen).to.be.above(0.95);
  });
});

describe('following passes', () => {
  const lines: Point[][] = [
    [[0, 0], [100, 0]], // prettier-ignore
    [[100, 20], [0, 20]], // prettier-ignore
    [[0, 40], [100, 40]], // prettier-ignore
  ];
  it('tells how far off and to which side, what comes next, and the share done', () => {
    const follower = new Follower(lines);
    const first = follower.at([30, 4])!;
    // East of north is clockwise: north of an eastbound line is to port.
    expect(first).to.deep.include({ line: 0, off: -4, toEnd: 70, finished: false });
    expect(first.done).to.be.closeTo(0.1, 1e-9);
    // Up the side to the next line: a turn to port.
    expect(first.turn).to.be.closeTo(-90, 1e-9);
    expect(first.steer).to.be.above(90).and.below(120);
  });
  it('goes from pass to pass as a wandering boat does, and never back', () => {
    const follower = new Follower(lines);
    let last = 0;
    const route: Point[] = [];
    for (const [a, b] of [
      [lines[0][0], lines[0][1]],
      [lines[0][1], lines[1][0]],
      [lines[1][0], lines[1][1]],
      [lines[1][1], lines[2][0]],
      [lines[2][0], lines[2][1]],
    ])
      // prettier-ignore
      for (let t = 0; t <= 1; t += 0.02) route.push([a[0] + (b[0] - a[0]) * t + Math.sin(t * 20), a[1] + (b[1] - a[1]) * t + 2 * Math.cos(t * 9)]);
    const seen = new Set<number>();
    for (const p of route) {
      const now = follower.at(p)!;
      expect(now.line).to.be.at.least(last);
      last = now.line;
      seen.add(last);
    }
    expect([...seen]).to.deep.equal([0, 1, 2]);
    expect(follower.at([99, 40])).to.deep.include({ finished: true, turn: null });
    expect(new Follower([]).at([0, 0])).to.equal(null);
  });
});
