import { expect } from 'chai';
import { distanceField, distanceToSegment, insideRings, simplifyLine, type Point } from '../../src/geo';
import { seeded } from '../../src/numbers';
import { HAZARD_ROOM, NavigableWater, searchPasses, patchOf, WaysFrom, type PassageArea, type Way } from '../../src/passage';
import { boatWater, EAST, NORTH, raggedWater, rectangle } from '../support/boat-water';

/** Distance to a hazard worked out anew, point by point along its edges. */
function clearOf({ type, points }: PassageArea, p: Point): number {
  if (type === 'Point') return Math.hypot(p[0] - points[0][0], p[1] - points[0][1]);
  if (type === 'Polygon' && insideRings([points], ...p)) return 0;
  const edges = points.map((b, i): [Point, Point] => [points[(i + points.length - 1) % points.length], b]);
  return Math.min(...edges.slice(type === 'Polygon' ? 0 : 1).map(([a, b]) => distanceToSegment(p, a, b)));
}

/** Every metre of a line. */
function* along(points: Point[]): Generator<Point> {
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1], points[i]];
    const n = Math.max(1, Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / 1));
    for (let s = 0; s <= n; s++) yield [a[0] + ((b[0] - a[0]) * s) / n, a[1] + ((b[1] - a[1]) * s) / n];
  }
}

describe('ways by water', () => {
  it('never cross a hazard, the shore or too little water: ways and search passes on 1,000 random waters', function () {
    this.timeout(300_000);
    let [ways, passes] = [0, 0];
    for (let seed = 1; seed <= 1000; seed++) {
      const { inputs, bottom } = raggedWater(seed);
      const water = new NavigableWater(inputs, 6000);
      const random = seeded(seed + 5000);
      const at = (): Point => [EAST + 460 * (random() - 0.5), NORTH + 460 * (random() - 0.5)];
      // The first and last bit may lead off a ramp or into a shallow: the ways between open squares are looked at.
      const open = (): Point | null => {
        const found = water.nearestOpen(at(), 300);
        return found && water.centre(found.square);
      };
      const [a, b] = [open(), open()];
      const lines: Point[][] = [];
      if (a && b) {
        const way = new WaysFrom(water, a).to(b);
        if (way) {
          lines.push(way.points);
          ways++;
        }
      }
      const found = searchPasses(water, patchOf(water, { band: [2, 4] }), {
        view: { view: 'side-scan', range: 20, beam: 20, transducerDepth: 0.3 },
        pattern: seed % 2 ? 'along' : 'across',
        start: a,
      });
      passes += found.passes.length;
      lines.push(...found.passes, ...found.between.map((w) => w.points));
      const fault = (p: Point): string | null =>
        !insideRings(inputs.rings, ...p)
          ? 'land'
          : // Between the middles of the chart's squares the bottom is no shallower than charted by more than its slope.
            bottom(...p) < 0.9 - 0.35
            ? 'shallow'
            : inputs.hazards.some((h) => clearOf(h, p) < HAZARD_ROOM - 1e-6)
              ? 'at a hazard'
              : null;
      for (const line of lines)
        for (const p of along(line)) {
          const wrong = fault(p);
          if (wrong) expect.fail(`water ${seed}, ${p.map((v) => v.toFixed(1)).join(' ')} is ${wrong}`);
        }
    }
    expect(ways).to.be.above(600);
    expect(passes).to.be.above(3000);
  });

  it('go round an island on the shorter side, no longer than a taut string and a square', () => {
    const island: Point[] = [
      [EAST + 400, NORTH + 150],
      [EAST + 600, NORTH + 150],
      [EAST + 600, NORTH + 500],
      [EAST + 400, NORTH + 500],
    ];
    const water = boatWater({ rings: [...rectangle(1000, 600), island] });
    const way = new WaysFrom(water, [EAST + 100, NORTH + 300]).to([EAST + 900, NORTH + 300])!;
    // By hand: from (100, 300) under the corners (400, 150) and (600, 150) to (900, 300).
    const taut = 2 * Math.hypot(300, 150) + 200;
    expect(way.metres).to.be.within(taut, taut * 1.03);
    expect(way.seconds).to.be.closeTo(way.metres / 9, 0.5);
  });

  it('take the open side of a slow zone where that is quicker, and go through it where it is not', () => {
    const zone = (limit: number) => ({
      limit,
      area: { type: 'Polygon' as const, points: [[EAST + 450, NORTH], [EAST + 550, NORTH], [EAST + 550, NORTH + 300], [EAST + 450, NORTH + 300]] as Point[] }, // prettier-ignore
    });
    const ends: [Point, Point] = [
      [EAST + 100, NORTH + 150],
      [EAST + 900, NORTH + 150],
    ];
    const way = (limit: number): Way =>
      new WaysFrom(boatWater({ rings: rectangle(1000, 600), zones: [zone(limit)] }), ends[0]).to(ends[1])!;
    expect(way(9).metres).to.be.closeTo(800, 1);
    // 100 m at 6 m/s cost 5.6 s more than at 9; the way round is 60 m longer at least, 6.6 s.
    expect(way(6).metres).to.be.closeTo(800, 25);
    expect(way(1).metres).to.be.within(856, 960);
    expect(way(1).seconds).to.be.below(800 / 9 + 20);
  });

  it('say that there is none: a ramp far from the water, a lake in two parts', () => {
    const dam: Point[] = [
      [EAST + 490, NORTH - 10],
      [EAST + 510, NORTH - 10],
      [EAST + 510, NORTH + 610],
      [EAST + 490, NORTH + 610],
    ];
    const water = boatWater({ rings: [...rectangle(1000, 600), dam] });
    const [west, east]: Point[] = [
      [EAST + 200, NORTH + 300],
      [EAST + 800, NORTH + 300],
    ];
    expect(new WaysFrom(water, west).to(east)).to.equal(null);
    expect(new WaysFrom(water, [EAST - 500, NORTH]).afloat).to.equal(false);
    expect(new WaysFrom(water, west).to([EAST + 300, NORTH + 100])!.metres).to.be.closeTo(Math.hypot(100, 200), 1);
  });

  it('keep to deep enough water as the level falls', () => {
    const bottom = (x: number): number => (x > EAST + 400 && x < EAST + 600 ? 1.2 : 6);
    const rings = rectangle(1000, 300);
    const ends: [Point, Point] = [
      [EAST + 100, NORTH + 150],
      [EAST + 900, NORTH + 150],
    ];
    expect(new WaysFrom(boatWater({ rings, bottom }), ends[0]).to(ends[1])).to.not.equal(null);
    expect(new WaysFrom(boatWater({ rings, bottom, level: -0.5 }), ends[0]).to(ends[1])).to.equal(null);
  });
});

describe('helpers of ways', () => {
  it('the distance field is that of the nearest marked square, looked up one by one', () => {
    const random = seeded(4);
    const [width, height] = [23, 17];
    const marked = Uint8Array.from({ length: width * height }, () => (random() < 0.03 ? 1 : 0));
    const field = distanceField(marked, width, height);
    for (let k = 0; k < field.length; k++) {
      let nearest = Infinity;
      marked.forEach((m, n) => {
        if (m) nearest = Math.min(nearest, Math.hypot((n % width) - (k % width), Math.floor(n / width) - Math.floor(k / width)));
      });
      expect(field[k]).to.be.closeTo(nearest, 1e-9);
    }
    expect([...distanceField(new Uint8Array(4), 2, 2)]).to.deep.equal([Infinity, Infinity, Infinity, Infinity]);
  });

  it('a simplified line keeps its ends and leaves no point out that lies farther off than asked', () => {
    const line = Array.from({ length: 60 }, (_, i): Point => [i, 8 * Math.sin(i / 6)]);
    const short = simplifyLine(line, 0.5);
    expect(short[0]).to.equal(line[0]);
    expect(short.at(-1)).to.equal(line.at(-1));
    expect(short.length).to.be.below(25);
    for (const p of line) expect(Math.min(...short.slice(1).map((b, i) => distanceToSegment(p, short[i], b)))).to.be.at.most(0.5);
  });
});
