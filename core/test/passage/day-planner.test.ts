import { expect } from 'chai';
import { buildChart, emptyChart } from '../../src/chart';
import { dayFor } from '../../src/forecast';
import type { LatLon, Point } from '../../src/geo';
import { metricPlane } from '../../src/geo';
import { DEFAULT_BOAT, DayPlanner, pressureAt, type DayPlanRequest, type LogForPlans } from '../../src/passage';
import { defaultSpecies } from '../../src/species';
import { EAST, NORTH, rectangle } from '../support/boat-water';
import { conditions, frame, zander } from '../support/planted-log';

const HOUR = 3_600_000;
const EPSG = 32631;
const plane = metricPlane(EPSG);
const rings = rectangle(1500, 800);
const chart = ((): ReturnType<typeof buildChart> => {
  const grid = { x: [] as number[], y: [] as number[], depth: [] as number[], hardness: [] as number[] };
  for (let y = 10; y < 800; y += 20)
    for (let x = 10; x < 1500; x += 20) {
      grid.x.push(EAST + x);
      grid.y.push(NORTH + y);
      grid.depth.push(3 + 6 * Math.exp(-(((x - 750) / 250) ** 2)) - 3 * Math.exp(-((x - 1100) ** 2 + (y - 400) ** 2) / 3000));
      grid.hardness.push(0.5);
    }
  return buildChart(EPSG, rings, grid);
})();
const start = Date.parse('2026-07-20T06:00:00Z');
const ramp: Point = [EAST + 60, NORTH + 60];
const request = (more: Partial<DayPlanRequest> = {}): DayPlanRequest => ({
  water: { rings, hazards: [], zones: [], boat: DEFAULT_BOAT },
  days: [0, 1, 2, 3, 4, 5, 6, 7].map((k) => dayFor(conditions({ at: new Date(start + (k + 0.5) * HOUR / 2) }), frame)), // prettier-ignore
  step: 30,
  species: zander,
  known: defaultSpecies,
  large: false,
  earlier: [],
  own: [],
  start: ramp,
  end: ramp,
  from: start,
  to: start + 4 * HOUR,
  stays: [5, 10, 15, 20, 30, 45, 60],
  fuel: null,
  waveLimit: null,
  weather: [],
  rods: 2,
  wishes: {},
  times: {},
  today: [],
  order: [],
  orderIsAll: false,
  ...more,
});

describe('a day planned from a chart and a log', () => {
  const planner = new DayPlanner(chart, null, null);
  const plain = planner.plan(request());

  it('has stops from the strategies alone where nothing was fitted, and says that nothing was learned', () => {
    expect(plain.sheet.legs.length).to.be.above(2);
    expect(plain.learned).to.equal(null);
    expect(plain.brings).to.deep.equal({ willing: 1, bites: 1, pace: 10 });
    for (const s of plain.spots) expect(s.chance).to.be.within(0, 1);
  });

  it('counts with bites and pace of the stops that were logged', () => {
    const at: LatLon = plane.toLatLon([EAST + 1100, NORTH + 400]);
    const log: LogForPlans = { stops: [], responses: [], contacts: [] };
    for (let k = 0; k < 40; k++) {
      const begins = start - (k + 2) * 86_400_000;
      const iso = (minutes: number): string => new Date(begins + minutes * 60_000).toISOString();
      log.stops.push({ ...at, trip_id: `${k}`, stop: 's', start: iso(0), end: iso(60), rods: 1, outcome: 'fish', boats_near: null });
      for (const minutes of [2, 6, 14])
        log.responses.push({ trip_id: `${k}`, stop: 's', time: iso(minutes), response: 'landed', species: 'zander' });
    }
    const learned = new DayPlanner(chart, null, log).plan(request());
    expect(learned.learned).to.include({ stops: 40, bitten: 120 });
    expect(learned.brings.bites).to.be.closeTo(3, 0.2);
    // A mean of 7⅓ minutes to a bite, with one rod; two make it half.
    expect(learned.brings.pace).to.be.within(3, 4.5);
    expect(learned.sheet.expected).to.be.above(1.5 * plain.sheet.expected);
    // Perch were not caught.
    const perch = defaultSpecies.find((s) => s.name === 'perch')!;
    expect(new DayPlanner(chart, null, log).plan(request({ species: perch })).learned).to.equal(null);
  });

  it('keeps a spot for the time of day that was set for it', () => {
    const own = [{ id: 'own', at: [EAST + 1100, NORTH + 400] as Point }];
    const dusk: [number, number] = [start + 2.5 * HOUR, start + 3 * HOUR];
    const { sheet } = planner.plan(request({ own, wishes: { own: { when: 'dusk', pinned: true } }, times: { dusk } }));
    expect(sheet.legs.find((l) => l.id === 'own')!.arrive).to.be.within(...dusk);
    // Where the day has no such time, as in a night without one, the spot is open.
    const without = planner.plan(request({ own, wishes: { own: { when: 'dusk', pinned: true } } }));
    expect(without.sheet.legs.map((l) => l.id)).to.include('own');
  });

  it('plans one’s own spots where no depth is charted, without a chance', () => {
    const own = [{ id: 'own', at: [EAST + 700, NORTH + 400] as Point }];
    const bare = new DayPlanner(emptyChart(EPSG, ramp), null, null).plan(request({ own }));
    expect(bare.sheet.legs.map((l) => l.id)).to.deep.equal(['own']);
    expect(bare.spots[0]).to.include({ chance: null, depth: null });
    expect(bare.uncharted).to.equal(1);
  });

  it('gives passes worth by the forecast, and after a blank three stops where today has not looked', () => {
    const passes = planner.passes({ water: request().water, level: 0, patch: { band: [4, 7] }, wish: { view: { view: 'side-scan', range: 25, beam: 20, transducerDepth: 0.3 }, pattern: 'along', minutes: 30, start: ramp, sought: { count: 3 } } }); // prettier-ignore
    expect(passes.seconds).to.be.at.most(1800);
    expect(passes.chance).to.be.within(0.05, 1);
    const tested = Array.from({ length: chart.cells.count }, (_, i) => i).filter((i) => chart.cells.depth[i] < 5).map((cell) => ({ cell, effort: 3 })); // prettier-ignore
    const { account, next } = planner.reset({ ...request(), tested, sun: 40, at: ramp });
    expect(account[0].score).to.be.at.least(account.at(-1)!.score);
    expect(next.length).to.equal(3);
    for (const { cell } of next) expect(chart.cells.depth[cell]).to.be.at.least(5);
  });
});

describe('pressure on a spot', () => {
  const now = start;
  const DAY = 24 * HOUR;
  const at: Point = [0, 0];
  it('is by the last stop near it, back after days, and by boats that were there', () => {
    expect(pressureAt(at, [], now)).to.deep.equal({ days: null, boats: null, rested: 1 });
    const once = (days: number, boats: number | null = null) => pressureAt(at, [{ at: [30, 30], end: now - days * DAY, boats }], now);
    expect(once(0).rested).to.be.closeTo(0.7, 1e-9);
    expect(once(4).rested).to.be.closeTo(1 - 0.3 / Math.E, 1e-9);
    expect(once(30).rested).to.be.above(0.99);
    expect(once(400, 3).rested).to.be.closeTo(0.92 ** 3, 1e-9);
    // Elsewhere, and later than now, is no matter.
    expect(pressureAt(at, [{ at: [50, 50], end: now - DAY, boats: 5 }, { at, end: now + DAY, boats: 5 }], now).days).to.equal(null); // prettier-ignore
  });
});
