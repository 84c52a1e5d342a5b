import { expose } from 'comlink';
import { chartAtLevel, unpackChart, type Chart } from '@restless-shoal/core/chart';
import {
  bestPlaces,
  fitModel,
  indexCells,
  ofLarge,
  Predictor,
  strategyDay,
  unpackModel,
  withinDayUpdate,
  type Day,
  type Model,
  type Place,
  type SeenToday,
} from '@restless-shoal/core/forecast';
import type { Point, Rings } from '@restless-shoal/core/geo';
import {
  accountOf,
  chanceAroundEach,
  daySpots,
  NavigableWater,
  nextThree,
  patchOf,
  placeId,
  runSheet,
  Sea,
  searchPasses,
  WaysFrom,
  weatherAt,
  type HypothesisAccount,
  type Hypothesis,
  type OwnSpot,
  type PassageArea,
  type PassageBoat,
  type PassWish,
  type PatchWish,
  type RunSheet,
  type SearchPasses,
  type SheetFuel,
  type SpeedZone,
  type WeatherHour,
} from '@restless-shoal/core/passage';
import type { SpeciesProfile } from '@restless-shoal/core/species';

/** The water as a boat meets it. */
export interface BoatOnWater {
  rings: Rings;
  hazards: PassageArea[];
  zones: SpeedZone[];
  boat: PassageBoat;
}

export interface PlanRequest {
  water: BoatOnWater;
  /** One for each step of the day, in order. */
  days: Day[];
  /** Minutes between them. */
  step: number;
  species: SpeciesProfile;
  large: boolean;
  earlier: SeenToday[];
  own: OwnSpot[];
  start: Point;
  end: Point;
  from: number;
  to: number;
  stays: readonly number[];
  fuel: SheetFuel | null;
  waveLimit: number | null;
  weather: WeatherHour[];
  brings: { bites: number; pace: number };
  more: Record<string, { pinned?: boolean; stay?: number | null }>;
  order: readonly string[];
  orderIsAll: boolean;
}

/** What is known of a spot that may be on the plan. */
export interface PlannedSpot {
  id: string;
  at: Point;
  /** Of the forecast's; null for one's own. */
  place: Place | null;
  depth: number | null;
  /** Null where nothing forecasts it. */
  chance: number | null;
}

export interface PlanAnswer {
  sheet: RunSheet;
  spots: PlannedSpot[];
  /** ms */
  took: number;
  /** Share of the water whose depth is charted. */
  uncharted: number;
}

export interface PassRequest {
  water: BoatOnWater;
  level: number;
  patch: PatchWish;
  /** Cells of the forecast's best places, where those are to be searched. */
  wish: Omit<PassWish, 'worth'>;
}

export interface ResetAnswer {
  account: HypothesisAccount[];
  next: { cell: number; hypothesis: Hypothesis; at: Point; minutes: number }[];
}

/** So many places of the forecast may be on a plan. */
const PLACES = 45;
/** Squares on which ways between all spots are found first. */
const COARSE = 16_000;

let chart: Chart | null = null;
let model: Model | null = null;
let predictor: { of: Model | null; species: string; cells: object; ready: Predictor } | null = null;
let waters: { key: string; level: number; grids: NavigableWater[] } | null = null;
/** The chances of the middle of the last plan: what search passes are worth. */
let chances: Float32Array | null = null;

function gridsOf(on: BoatOnWater, level: number): NavigableWater[] {
  const key = JSON.stringify([on.boat, on.hazards, on.zones, on.rings.length, on.rings[0]?.[0]]);
  if (waters?.key === key && waters.level === level) return waters.grids;
  const inputs = { ...on, depth: chart!.depth, level };
  const grids = [new NavigableWater(inputs, COARSE), new NavigableWater(inputs)];
  if (grids[0].size === grids[1].size) grids.shift();
  waters = { key, level, grids };
  return grids;
}

function predictorFor(species: SpeciesProfile, cells: Chart['cells']): Predictor {
  const of = model?.profile.name === species.name ? model : null;
  const key = JSON.stringify(species);
  if (!predictor || predictor.of !== of || predictor.cells !== cells || (!of && predictor.species !== key))
    predictor = { of, species: key, cells, ready: new Predictor(of ?? fitModel(species, cells, []), cells) };
  return predictor.ready;
}

/** The chance of each cell at each step, what was seen today counted. */
function hoursOf({ days, species, earlier, large }: Pick<PlanRequest, 'days' | 'species' | 'earlier' | 'large'>) {
  const { cells } = chartAtLevel(chart!, days[0].level);
  const ready = predictorFor(species, cells);
  const used = ready.model;
  const all = days.map((day) => {
    const before = ready.on(day);
    const moved = withinDayUpdate(used.today, earlier, before.probability, cells, day.conditions.at.getTime());
    const any = moved ? ready.on(day, moved) : before;
    return { forecast: large && used.size ? ofLarge(any, used.size, cells, used.profile, day) : any, moved };
  });
  return { cells, used, all };
}

// A thin shell round core: a day is planned here, from data already in the browser.
const api = {
  open(bytes: Uint8Array, fit: Uint8Array | null): void {
    chart = unpackChart(bytes);
    const read = fit && unpackModel(fit);
    model = read && 'profile' in read ? read : null;
    waters = null;
    chances = null;
  },
  plan(request: PlanRequest): PlanAnswer {
    if (!chart) throw new Error('no chart is open');
    const started = performance.now();
    const { days, step, weather } = request;
    const { cells, used, all } = hoursOf(request);
    const middle = all[Math.floor(all.length / 2)];
    const charted = chart.soundings > 0;
    chances = charted ? middle.forecast.probability : null;
    const indexOf = indexCells(cells);
    // By what a stop there looks at or fishes, all round it.
    const around = chanceAroundEach(cells, indexOf, middle.forecast.probability);
    const at = days[Math.floor(days.length / 2)];
    const places = charted ? bestPlaces(used, cells, at, middle.forecast, new Map(), PLACES, around, middle.moved) : [];
    // Where no depth is charted nothing is forecast.
    const hours = charted ? all.map((h) => h.forecast.probability) : null;
    const spots = daySpots(places, request.own, indexOf, hours, request.brings, request.more);
    const grids = gridsOf(request.water, days[0].level);
    const { windFrom, windSpeed } = days[0].conditions;
    const sheet = runSheet({
      ...request,
      spots,
      waters: grids,
      step,
      sea: cells.count ? new Sea(cells) : null,
      wind: (at) => {
        const w = weatherAt(weather, at);
        if (w.windSpeed !== null && w.windFrom !== null) return { from: w.windFrom, speed: w.windSpeed, gust: w.gust ?? w.windSpeed };
        // Without a table the wind as it was last read stands for the day; in a gap of one nothing is said.
        return weather.length ? null : { from: windFrom, speed: windSpeed, gust: windSpeed };
      },
    });
    const byId = new Map(places.map((p) => [placeId(p), p]));
    return {
      sheet,
      spots: spots.map((s): PlannedSpot => {
        const place = byId.get(s.id) ?? null;
        const depth = place?.depth ?? chart!.depth.at(...s.at) + days[0].level;
        return {
          id: s.id,
          at: s.at,
          place,
          depth: Number.isFinite(depth) ? depth : null,
          chance: hours && Math.max(...Array.from(s.chance)),
        };
      }),
      took: performance.now() - started,
      uncharted: grids[grids.length - 1].uncharted,
    };
  },
  /** @returns passes, and how long they took, ms */
  passes({ water, level, patch, wish }: PassRequest): { passes: SearchPasses; took: number } {
    if (!chart) throw new Error('no chart is open');
    const started = performance.now();
    const grids = gridsOf(water, level);
    const on = grids[grids.length - 1];
    const { cells } = chartAtLevel(chart, level);
    const known = chances;
    const indexOf = known && indexCells(cells);
    const worth = known && ((p: Point): number => known[indexOf!.get(Math.floor(p[1] / 25) * 65536 + Math.floor(p[0] / 25)) ?? -1] ?? 0);
    const passes = searchPasses(on, patchOf(on, patch), { ...wish, worth: worth ?? undefined });
    return { passes, took: performance.now() - started };
  },
  reset(request: PlanRequest & { tested: { cell: number; effort: number }[]; sun: number; at: Point }): ResetAnswer {
    if (!chart) throw new Error('no chart is open');
    const { days, species } = request;
    const { cells, all } = hoursOf(request);
    const now = all[0].forecast.probability;
    const strategies = fitModel(species, cells, []);
    const alone = new Predictor(strategies, cells).on(days[0]).probability;
    const mean = (chance: Float32Array): number => chance.reduce((s, v) => s + v, 0) / Math.max(1, chance.length);
    const { windFrom, windSpeed } = days[0].conditions;
    const account = accountOf({
      cells,
      forecast: now,
      strategies: alone,
      tested: request.tested,
      windFrom,
      windSpeed,
      sun: request.sun,
      laterHours: all.length > 1 ? Math.max(...all.slice(1).map((h) => mean(h.forecast.probability))) / Math.max(1e-9, mean(now)) : null,
      holding: strategyDay(species, days[0]).holding,
    });
    const grids = gridsOf(request.water, days[0].level);
    const ways = new WaysFrom(grids[0], request.at);
    const centre = (cell: number): Point => [(cells.column[cell] + 0.5) * 25, (cells.row[cell] + 0.5) * 25];
    const minutes = (cell: number): number => (ways.to(centre(cell))?.seconds ?? Infinity) / 60;
    return {
      account,
      next: nextThree(account, minutes, (cell) => now[cell]).map((n) => ({ ...n, at: centre(n.cell), minutes: minutes(n.cell) })),
    };
  },
};

export type PlanWorker = typeof api;

expose(api);
