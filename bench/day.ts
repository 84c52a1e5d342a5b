import {
  conditionsFromLog,
  dayFor,
  fitModel,
  hotSpots,
  indexCells,
  logEffort,
  Predictor,
  seenChance,
  seenEarlier,
  speciesOdds,
  withinDayUpdate,
  type CellTally,
} from '@restless-shoal/core/forecast';
import { bestRoute, chanceAround, chanceAroundEach, type RouteProblem } from '@restless-shoal/core/passage';
import { CELL, type OutlineGeometry, type Point } from '@restless-shoal/core/geo';
import { readOutline } from '@restless-shoal/core/formats';
import type { Contact, Response, Stop, TrackFix } from '@restless-shoal/core/logbook';
import { defaultSpecies, findSpecies } from '@restless-shoal/core/species';
import { FURTHER_WATERS, Outing, Random, type Helm } from '@restless-shoal/demo';
import { looks as deriveTripLooks } from '../server/src/jobs/worker';
import { fitLooksOf, makeWater, profileNamed, readingOn, type MadeWater } from './made-water';
import { finish, held } from './support';

// What a plan is worth: on made-up waters, the demo's and three with other seeds, a boat that follows the plan and re-plans from
// what it sees, against one that visits last season's hot spots nearest-first, and against the angler of the demo. All three have the
// same days and fish, the same boat, sonar and habits once they are at a place: only where they go next differs.

const DAYS = 200;
const HOUR = 3_600_000;
/** A stop with its search and, where fish show, some fishing, minutes. */
const STOP = 15;
/** Speed of the boat between places, m a minute. */
const BOAT = (60 / 9) * 60;
/** Places that may be on a plan. */
const PLACES = 45;
/** Places of a plan lie so far apart, m. */
const APART = 120;

interface Case {
  name: string;
  seed: number;
  scenario?: (typeof FURTHER_WATERS)[number]['scenario'];
  species: string;
}

const cases: Case[] = [
  { name: 'demo', seed: 8, species: 'zander' },
  ...FURTHER_WATERS.map(({ seed, scenario, species }) => ({ name: `${scenario.shape} ${seed}`, seed, scenario, species: species[0] })),
];

/** The best cells of a layer that lie apart, best first. */
function peaks(value: ArrayLike<number>, water: MadeWater, count: number): number[] {
  const { cells } = water;
  const order = Array.from({ length: cells.count }, (_, i) => i)
    .filter((i) => cells.depth[i] > 0)
    .sort((a, b) => value[b] - value[a]);
  const out: number[] = [];
  for (const i of order) {
    if (out.length >= count) break;
    if (out.every((j) => Math.hypot(cells.column[i] - cells.column[j], cells.row[i] - cells.row[j]) * CELL >= APART)) out.push(i);
  }
  return out;
}

const results: boolean[] = [];
const totals = { plan: [] as number[], spots: [] as number[], angler: [] as number[] };
for (const { name, seed, scenario, species } of cases) {
  const water = makeWater(seed, scenario);
  const { made, cells, frame } = water;
  const profile = profileNamed(species);
  const looks = speciesOdds(fitLooksOf(water), profile, defaultSpecies, cells);
  const predictor = new Predictor(fitModel(profile, cells, looks), cells);
  const indexOf = indexCells(cells);
  const tally = (): CellTally => ({ seen: new Float64Array(cells.count), effort: new Float64Array(cells.count) });
  const halves: [CellTally, CellTally] = [tally(), tally()];
  for (const l of looks)
    if (l.look.kind === 'scan') {
      halves[l.trip % 2].seen[l.cell] += seenChance(l);
      halves[l.trip % 2].effort[l.cell] += Math.exp(logEffort(l.look));
    }
  const local = (i: number): Point => [
    (cells.column[i] + 0.5) * CELL - made.world.origin[0],
    (cells.row[i] + 0.5) * CELL - made.world.origin[1],
  ];
  const hot = peaks(hotSpots(halves, cells), water, 30).map(local);
  const outline = readOutline(made.folder.get('outline.geojson')!, 'outline.geojson') as OutlineGeometry;
  const is = (n: string): boolean => findSpecies(n, defaultSpecies)?.name === profile.name;
  const afloat = ([x, y]: Point): boolean => made.world.depth(x, y) > 0.6;

  for (let k = 0; k < DAYS / cases.length; k++) {
    const date = Date.UTC(2027, 3, 20) + Math.floor(((k + 0.5) * cases.length * 185) / DAYS) * 86_400_000;
    const start = date + 8 * HOUR;
    const end = start + 6 * HOUR;
    const { conditions } = conditionsFromLog([...water.readings, { at: start, row: readingOn(water, start) }], new Date(start), frame);

    /** Visited, nearest first. */
    const nearestHot = (): Helm => {
      const rest = hot.filter(afloat);
      return (boat) => {
        rest.sort((a, b) => Math.hypot(a[0] - boat.x, a[1] - boat.y) - Math.hypot(b[0] - boat.x, b[1] - boat.y));
        return rest.shift() ?? null;
      };
    };
    const planned = (): Helm => {
      let visited = 0;
      let before: Float32Array | null = null;
      return (boat, rows) => {
        const at = new Date(boat.t);
        const day = dayFor({ ...conditions, at }, frame, water.profiles);
        const first = predictor.on(day);
        before ??= first.probability;
        const trip = {
          id: 'today',
          level: 0,
          track: rows.track as unknown as TrackFix[],
          stops: rows.stops as unknown as Stop[],
          contacts: rows.contacts as unknown as Contact[],
          responses: rows.responses as unknown as Response[],
        };
        const seen = deriveTripLooks({ epsg: made.world.plane.epsg, outline, chart: null, beam: 20, trips: [trip] })[0].looks;
        const earlier = seenEarlier(seen, is, indexOf);
        const moved = withinDayUpdate(predictor.model.today, earlier, before, cells, boat.t);
        const chances = (moved ? predictor.on(day, moved) : first).probability;
        const scanned = new Map<number, number>();
        for (const look of earlier) scanned.set(look.cell, (scanned.get(look.cell) ?? 0) + look.effort);
        // What was looked through shows little new.
        const fresh = chances.map((p, i) => p * (scanned.has(i) ? Math.exp(-1.5 * scanned.get(i)!) : 1));
        const places = peaks(chanceAroundEach(cells, indexOf, fresh), water, PLACES).filter((i) => afloat(local(i)));
        const points = places.map(local);
        const worth = places.map((i) => chanceAround([(cells.column[i] + 0.5) * CELL, (cells.row[i] + 0.5) * CELL], indexOf, [fresh]));
        const here: Point = [boat.x, boat.y];
        const nodes = [...points, here, here];
        const travel = nodes.map((a) =>
          Float64Array.from(nodes, (b, j) => (j === nodes.length - 1 ? 0 : Math.hypot(a[0] - b[0], a[1] - b[1]) / BOAT)),
        );
        const problem: RouteProblem = {
          stops: worth.map((w) => ({ worth: w, pace: 4, opens: 0, closes: Infinity, pinned: false, stay: STOP })),
          step: 1e6,
          travel,
          fuel: null,
          length: Math.max(STOP + 5, (end - 25 * 60_000 - boat.t) / 60_000),
          stays: [STOP],
        };
        const route = bestRoute(problem, 1 + visited, 12_000);
        const goal = route.length ? points[route[0].stop] : null;
        visited++;
        return goal;
      };
    };
    const met = (helm: Helm | null): number => {
      const outing = new Outing(`day-${k}`, start, end, made.fish, new Random(seed * 7919 + k), [...hot.slice(0, 8)], helm);
      outing.run();
      return outing.packs.filter((p) => p.species === species && outing.seen.has(p.id)).reduce((n, p) => n + p.count, 0);
    };
    totals.plan.push(met(planned()));
    totals.spots.push(met(nearestHot()));
    totals.angler.push(met(null));
  }
  const n = DAYS / cases.length;
  const mean = (list: number[]): string => (list.slice(-n).reduce((a, b) => a + b, 0) / n).toFixed(1);
  console.log(
    `${name}, ${species}: fish met a day: plan ${mean(totals.plan)}, hot spots ${mean(totals.spots)}, angler ${mean(totals.angler)}`,
  );
}

/** Ratio of sums with a 90 % interval by resampling days. */
function ratio(a: number[], b: number[]): { ratio: number; low: number; high: number } {
  const random = new Random(11);
  const of = (days: number[]): number =>
    days.reduce((s, d) => s + a[d], 0) /
    Math.max(
      1,
      days.reduce((s, d) => s + b[d], 0),
    );
  const own = a.map((_, d) => d);
  const drawn = Array.from({ length: 1000 }, () => of(own.map(() => Math.floor(random.even(0, own.length))))).sort((x, y) => x - y);
  return { ratio: of(own), low: drawn[50], high: drawn[949] };
}
for (const [rival, list] of [
  ['hot spots nearest-first', totals.spots],
  ['the angler', totals.angler],
] as const) {
  const r = ratio(totals.plan, list);
  const lost = totals.plan.filter((v, d) => v < list[d]).length;
  const even = totals.plan.filter((v, d) => v === list[d]).length;
  console.log(
    `against ${rival}: ${r.ratio.toFixed(2)} times as many (90 % interval ${r.low.toFixed(2)}–${r.high.toFixed(2)}), ${lost} of ${list.length} days lost, ${even} even`,
  );
  results.push(held(`fish met against ${rival}`, r.ratio, '>=', 1.4));
}
finish(results);
