import { expect } from 'chai';
import fc from 'fast-check';
import { insideRings, distance } from '@restless-shoal/core/geo';
import { coneWidth } from '@restless-shoal/core/sonar';
import { VIEWS, type Row } from '@restless-shoal/core/logbook';
import { oxygenSaturation } from '@restless-shoal/core/lake';
import { drawnScenario, FURTHER_WATERS, makeLogbook, type MadeLogbook } from '../src';
import { Climate } from '../src/climate';
import { makeWorld } from '../src/world';
import { Random } from '../src/random';

// What judges the forecast has to be sound itself: waters, days, logs and the yardstick, of any seed and shape.

const seeds = fc.integer({ min: 1, max: 5000 });
const shapes = fc.constantFrom('valley' as const, 'bowl' as const, 'trench' as const, 'pans' as const);

describe('any made-up water', () => {
  it('is one: water inside its outline and land outside, humps that rise, soft and hard within bounds', () => {
    fc.assert(
      fc.property(seeds, shapes, (seed, shape) => {
        const world = makeWorld(seed, shape);
        const random = new Random(seed + 1);
        let [wrong, deepest] = [0, 0];
        for (let k = 0; k < 1500; k++) {
          const [x, y] = [random.even(0, world.width), random.even(0, world.height)];
          const depth = world.depth(x, y);
          deepest = Math.max(deepest, depth);
          expect(world.hardness(x, y)).to.be.within(0, 1);
          // A pond apart from the main water is left out of the outline; the shore between is traced in steps of 20 m.
          if (insideRings(world.outline, x, y) ? depth <= 0 : depth > 1) wrong++;
        }
        expect(wrong, 'points on the wrong side of the shore').to.be.at.most(60);
        expect(world.depth(...world.deepest)).to.be.at.least(deepest - 0.3);
        expect(world.humps.length, 'humps').to.be.above(2);
        for (const hump of world.humps) {
          const around = [0, 1, 2, 3, 4, 5].map((k) =>
            world.depth(hump.x + 2.2 * hump.radius * Math.cos(k), hump.y + 2.2 * hump.radius * Math.sin(k)),
          );
          expect(Math.max(...around), 'water beside a hump').to.be.above(world.depth(hump.x, hump.y) + 0.5);
        }
        for (const { points, kind } of world.cover) {
          if (kind !== 'access') expect(Math.max(...points.map((p) => world.depth(...p))), kind).to.be.above(0.3);
        }
      }),
      // The second narrows to nothing at an end.
      { numRuns: 12, examples: [[3748, 'trench']] },
    );
  });
  it('has days that water can have: cold below, dense to the bottom, no more oxygen than it can hold for long, layers in the warm months alone', () => {
    fc.assert(
      fc.property(seeds, fc.constantFrom(...FURTHER_WATERS.map((w) => w.scenario.water)), (seed, kind) => {
        const [first, last] = [Date.UTC(2025, 0, 1), Date.UTC(2026, 11, 31)];
        const climate = new Climate(seed, first, last, kind);
        for (let t = first; t <= last; t += 9 * 86_400_000) {
          const w = climate.on(t);
          const month = new Date(t).getUTCMonth();
          if (w.thermocline !== null) {
            expect(month, 'month of a layered day').to.be.within(4, 9);
            expect(kind.layers).to.equal(true);
          }
          expect(w.surface).to.be.within(0, 32);
          expect(w.secchi).to.be.above(0.3);
          expect(w.windFrom).to.be.within(0, 360);
          for (let z = 0; z < 25; z++) {
            const [here, below] = [Climate.temperature(w, z), Climate.temperature(w, z + 1)];
            expect(below, `${z + 1} m`).to.be.at.most(here + 1e-9);
            const oxygen = Climate.oxygen(w, z);
            expect(oxygen).to.be.within(0, 1.25 * oxygenSaturation(here, 310));
          }
        }
      }),
      { numRuns: 12 },
    );
  });
});

const times = (rows: Row[], column = 'time'): number[] => rows.map((r) => Date.parse(String(r[column])));
const position = (r: Row): { latitude: number; longitude: number } => ({ latitude: Number(r.latitude), longitude: Number(r.longitude) });

describe('the log of any made-up water', () => {
  const check = ({ rows, world, truth }: MadeLogbook): void => {
    const inside = (r: Row): boolean => {
      const [x, y] = world.plane.toMetric(position(r));
      return insideRings(world.outline, x - world.origin[0], y - world.origin[1]);
    };
    for (const s of rows.soundings.filter((_, k) => k % 40 === 0)) {
      const [x, y] = world.plane.toMetric(position(s));
      // The antenna is known to a metre or three, the sounder to a few hundredths; the bottom there may be steep.
      const about = [-3, 0, 3].flatMap((dx) => [-3, 0, 3].map((dy) => world.depth(x - world.origin[0] + dx, y - world.origin[1] + dy)));
      expect(Number(s.depth_m), 'a sounding').to.be.within(Math.min(...about) - 0.3, Math.max(...about) + 0.3);
    }
    for (const trip of rows.trips) {
      const of = (list: Row[]): Row[] => list.filter((r) => r.trip === trip.trip);
      const [from, to] = [Date.parse(String(trip.start)), Date.parse(String(trip.end))];
      const track = of(rows.track);
      const at = times(track);
      expect(track.length, 'fixes').to.be.above(100);
      for (let k = 1; k < track.length; k++) {
        expect(at[k], 'the track goes on').to.be.above(at[k - 1]);
        expect(distance(position(track[k - 1]), position(track[k])) / ((at[k] - at[k - 1]) / 1000), 'm/s').to.be.below(25);
      }
      // Under way it goes straight, over a spit of land where one is in the way; what it looks at is water,
      // now and then the strip of it that an outline traced in steps of 20 m leaves out.
      const looking = track.filter((r) => r.mode !== 'transit');
      for (const r of looking) {
        const [x, y] = world.plane.toMetric(position(r));
        expect(world.depth(x - world.origin[0], y - world.origin[1]), `water under ${r.mode}`).to.be.above(-0.05);
      }
      expect(looking.filter((r) => !inside(r)).length / track.length, 'share of looking outside the outline').to.be.below(0.02);
      expect(track.filter((r) => !inside(r)).length / track.length, 'share of the track on land').to.be.below(0.2);
      for (const list of [rows.contacts, rows.responses, rows.conditions].map(of))
        for (const t of times(list)) expect(t, 'within the trip').to.be.within(from - 60_000, to + 60_000);
      for (const c of of(rows.contacts)) {
        expect([...VIEWS, 'line', null]).to.include(c.view as string | null);
        if (c.top_m == null || c.bottom_m == null) continue;
        expect(Number(c.top_m)).to.be.at.most(Number(c.bottom_m));
        // What was seen lies within what the view reached: the side-scan's range, the sounder's cone.
        const k = at.findLastIndex((t) => t <= Date.parse(String(c.time)));
        if (c.view !== 'sounder' || k < 0 || at[k + 1] - at[k] > 20_000) continue;
        const off = Math.min(...[k, k + 1].filter((j) => track[j]).map((j) => distance(position(c), position(track[j]))));
        expect(off, 'a mark of the sounder, m off').to.be.below(coneWidth(Number(c.water_depth_m), 20) / 2 + 16);
      }
      for (const s of of(rows.stops)) expect(Date.parse(String(s.end))).to.be.at.least(Date.parse(String(s.start)));
    }
    const marks = new Map(rows.contacts.map((c) => [String(c.contact), c]));
    for (const { packs, seen, trip } of truth)
      for (const [id, mark] of seen) {
        const [pack, row] = [packs.find((p) => p.id === id)!, marks.get(mark)!];
        expect(row.trip).to.equal(trip);
        expect(row.kind).to.equal(pack.bait ? 'bait' : 'fish');
        expect(distance(position(row), world.toLatLon(pack.x, pack.y)), 'from its pack, m').to.be.below(14);
        if (row.confirmed === 'catch') expect(row.species, 'a fish in the hand is named right').to.equal(pack.species);
      }
  };
  it('is what a boat could have logged, and marks what was there', () => {
    fc.assert(
      fc.property(seeds, shapes, (seed, shape) => check(makeLogbook({ seed, trips: 3, scenario: drawnScenario(seed, shape) }))),
      // The second has a pack so close under the shore that beside it is land.
      { numRuns: 4, examples: [[3733, 'valley']] },
    );
  });
});

describe('who knows the rules', () => {
  it('says as often as it is: of places given a chance, that share has a pack on days drawn anew', () => {
    fc.assert(
      fc.property(seeds, shapes, (seed, shape) => {
        const { fish } = makeLogbook({ seed, trips: 1, scenario: drawnScenario(seed, shape) });
        const noon = Date.UTC(2027, 6, 9, 12);
        const name = fish.rules.find((kind) => !kind.bait)!.name;
        const known = fish.knownChance(name, noon, 50, () => 1, 60, new Random(seed));
        const DAYS = 60;
        const has = new Float64Array(known.length);
        const index = new Map(fish.ground.map((g, i) => [`${Math.floor(g.x / 25)} ${Math.floor(g.y / 25)}`, i]));
        for (let day = 0; day < DAYS; day++) {
          const there = new Set<number>();
          for (const pack of fish.packsOn(noon, 50, new Random(seed * 100 + day)))
            if (pack.species === name) there.add(index.get(`${Math.floor(pack.x / 25)} ${Math.floor(pack.y / 25)}`)!);
          there.forEach((i) => has[i]++);
        }
        const order = Array.from(known.keys()).sort((a, b) => known[b] - known[a]);
        const half = order.length >> 1;
        // The best tenth, the rest of the better half, the worse half.
        for (const [from, to] of [
          [0, Math.floor(order.length / 10)],
          [Math.floor(order.length / 10), half],
          [half, order.length],
        ]) {
          const part = order.slice(from, to);
          const [said, came] = [part.reduce((s, i) => s + known[i], 0), part.reduce((s, i) => s + has[i], 0) / DAYS];
          // Days have a mood and bait of their own: sixty of them are known to about a twelfth, and a few fish to less.
          expect(came, `packs a day in places ${from}–${to}`).to.be.closeTo(said, 0.22 * said + 1);
        }
      }),
      { numRuns: 2 },
    );
  });
});
