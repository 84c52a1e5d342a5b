import { conditionsFromLog, dayFor, fitModel, speciesOdds } from '@restless-shoal/core/forecast';
import { outlineToRings, type OutlineGeometry, type Point } from '@restless-shoal/core/geo';
import { readOutline } from '@restless-shoal/core/formats';
import { DayPlanner, DEFAULT_BOAT, NavigableWater, patchOf, type DayPlanRequest } from '@restless-shoal/core/passage';
import { defaultSpecies } from '@restless-shoal/core/species';
import { fitLooksOf, makeWater, profileNamed, readingOn } from './made-water';
import { finish, held, slowness } from './support';

// How long a plan takes on the demo's water: 60 candidates, the same again from the water, and passes over 100 ha.

const HOUR = 3_600_000;
const slower = slowness();
const water = makeWater(8, undefined);
const { made, cells, chart, frame } = water;
const zander = profileNamed('zander');
const model = fitModel(zander, cells, speciesOdds(fitLooksOf(water), zander, defaultSpecies, cells));
const outline = readOutline(made.folder.get('outline.geojson')!, 'outline.geojson') as OutlineGeometry;
const rings = outlineToRings(outline, (longitude, latitude) => made.world.plane.toMetric({ latitude, longitude }));
const from = Date.UTC(2027, 4, 20, 8);
const { conditions } = conditionsFromLog([...water.readings, { at: from, row: readingOn(water, from) }], new Date(from), frame);
const start: Point = [made.world.ramp[0] + made.world.origin[0], made.world.ramp[1] + made.world.origin[1]];
const charted = Array.from({ length: cells.count }, (_, i) => i).filter((i) => cells.depth[i] > 2);
const own = Array.from({ length: 25 }, (_, k) => {
  const cell = charted[Math.floor(((k + 0.5) / 25) * charted.length)];
  return { id: `own ${k}`, at: [(cells.column[cell] + 0.5) * 25, (cells.row[cell] + 0.5) * 25] as Point };
});
const request: DayPlanRequest = {
  water: { rings, hazards: [], zones: [], boat: DEFAULT_BOAT },
  days: Array.from({ length: 8 }, (_, k) => dayFor({ ...conditions, at: new Date(from + (k + 0.5) * HOUR) }, frame, water.profiles)),
  step: 60,
  species: zander,
  known: defaultSpecies,
  large: false,
  earlier: [],
  own,
  start,
  end: start,
  from,
  to: from + 8 * HOUR,
  stays: [5, 10, 15, 20, 30, 45, 60],
  fuel: { cruise: 20, most: 60 },
  waveLimit: 0.4,
  weather: [],
  rods: 2,
  wishes: {},
  times: {},
  today: [],
  order: [],
  orderIsAll: false,
};
const timed = <T>(work: () => T): [number, T] => {
  const began = performance.now();
  const found = work();
  return [(performance.now() - began) / 1000 / slower, found];
};
const planner = new DayPlanner(chart, model, null);
const [first, answer] = timed(() => planner.plan(request));
const again = [1, 2, 3].map((k) => timed(() => planner.plan({ ...request, start: own[k].at, from: from + k * HOUR }))[0]);
const grid = new NavigableWater({ ...request.water, depth: chart.depth, level: 0 });
const whole = patchOf(grid, { band: [0, 100] });
const wish = { view: { view: 'side-scan', range: 25, beam: 20, transducerDepth: 0.3 }, pattern: 'along', minutes: null, start, sought: { count: 3 } } as const; // prettier-ignore
const [passes, found] = timed(() => planner.passes({ water: request.water, level: 0, patch: { band: [0, 100] }, wish }));
console.log(`${answer.spots.length} candidates, ${answer.sheet.legs.length} stops; ${whole.hectares.toFixed(0)} ha in ${found.passes.length} passes`); // prettier-ignore
console.log(`times are divided by ${slower.toFixed(2)}`);
finish([
  held('candidates', answer.spots.length, '>=', 60),
  held('a plan', first, '<=', 2, ' s'),
  held('a re-plan', Math.max(...again), '<=', 1, ' s'),
  held('passes over 100 ha', (passes * 100) / whole.hectares, '<=', 0.5, ' s'),
]);
