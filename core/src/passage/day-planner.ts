import { chartAtLevel, type Chart } from '../chart';
import {
  bestPlaces,
  chancesOfLarge,
  fitModel,
  indexCells,
  ofLarge,
  Predictor,
  strategyDay,
  withinDayUpdate,
  type Day,
  type Forecast,
  type Model,
  type Place,
  type SeenToday,
} from '../forecast';
import { CELL, cellKey, metricPlane, type Point, type Rings } from '../geo';
import { findSpecies, type SpeciesProfile } from '../species';
import { chanceAroundEach, daySpots, placeId, type OwnSpot, type SpotBrings, type SpotTime, type SpotWish } from './day-spots';
import { fishedStops, learnBites, type StopBites, type StopsLogged } from './learned-bites';
import { NavigableWater, type PassageArea, type PassageBoat, type SpeedZone } from './navigable';
import { patchOf, type PatchWish } from './patch';
import { pressureAt, type Pressure, type StopBefore } from './pressure';
import { accountOf, nextThree, type Hypothesis, type HypothesisAccount, type TestedCell } from './reset';
import { runSheet, type RunSheet, type SheetFuel } from './run-sheet';
import { Sea } from './sea';
import { searchPasses, type PassWish, type SearchPasses } from './search-passes';
import { USUAL_PACE } from './stay-or-leave';
import { WaysFrom, WaysKnown } from './ways';
import { windOfDay, type WeatherHour } from './weather';

/** The water as a boat meets it. */
export interface BoatOnWater {
  rings: Rings;
  hazards: PassageArea[];
  zones: SpeedZone[];
  boat: PassageBoat;
}

export interface DayPlanRequest {
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
  rods: number;
  wishes: Record<string, SpotWish>;
  /** Dawn and dusk, ms. */
  times: Partial<Record<SpotTime, [from: number, to: number]>>;
  /** Stops of the trip that runs: the log has them when it has ended. */
  today: StopBefore[];
  /** All species that the water knows: names of the log are read by them. */
  known: SpeciesProfile[];
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
  pressure: Pressure;
}

export interface DayPlanAnswer {
  sheet: RunSheet;
  spots: PlannedSpot[];
  /** What the sheet counts with, and what of the log it was learned from; null: too little, so what is usual. */
  brings: SpotBrings;
  learned: StopBites | null;
  /** Share of the water whose depth is not charted, 0–1. */
  uncharted: number;
}

export interface PassRequest {
  water: BoatOnWater;
  level: number;
  patch: PatchWish;
  /** Cells of the forecast's best places, where those are to be searched. */
  wish: Omit<PassWish, 'worth'>;
}

export interface ResetRequest extends DayPlanRequest {
  /** What today's looks covered. */
  tested: TestedCell[];
  /** Height of the sun, degrees. */
  sun: number;
  /** Where the boat is, m. */
  at: Point;
}

export interface ResetAnswer {
  account: HypothesisAccount[];
  next: { cell: number; hypothesis: Hypothesis; at: Point; minutes: number }[];
}

/** So many places of the forecast may be on a plan. */
const PLACES = 45;
/** Squares on which ways between all spots are found first. */
const COARSE = 16_000;

/** Records of the log that a plan learns from. */
export type LogForPlans = Pick<StopsLogged, 'responses' | 'contacts'> & {
  stops: (StopsLogged['stops'][number] & { boats_near: number | null })[];
};

/** The water at the level of a day, the model, and the chances of each cell at each step. */
interface Hours {
  cells: Chart['cells'];
  used: Model;
  chances: Float32Array[];
  /** The whole forecast of the middle of the day, and what was seen today did to it. */
  middle: { forecast: Forecast; moved: Float32Array | null };
}

/** Plans days on one water, from its chart, what was fitted to its log, and the log's stops. */
export class DayPlanner {
  private stopsBefore: StopBefore[] | null = null;
  private bitesOf: { species: string; found: StopBites | null } | null = null;
  private predictor: { species: string; cells: object; ready: Predictor } | null = null;
  private hours: { key: string; found: Hours } | null = null;
  private readonly ways = new WaysKnown();
  private waters: { key: string; grids: NavigableWater[] } | null = null;
  /** The chances of the middle of the last plan: what search passes are worth. */
  private chances: Float32Array | null = null;

  /** @param model of one species; others, and a water without one, are planned by the strategies @param log null where there is none */
  constructor(
    private readonly chart: Chart,
    private readonly model: Model | null,
    private readonly log: LogForPlans | null,
  ) {}

  private gridsOf(on: BoatOnWater, level: number): NavigableWater[] {
    const key = JSON.stringify([level, on.boat, on.hazards, on.zones, on.rings.length, on.rings[0]?.[0]]);
    if (this.waters?.key === key) return this.waters.grids;
    const inputs = { ...on, depth: this.chart.depth, level };
    const grids = [new NavigableWater(inputs, COARSE), new NavigableWater(inputs)];
    if (grids[0].size === grids[1].size) grids.shift();
    this.waters = { key, grids };
    return grids;
  }

  private predictorFor(species: SpeciesProfile, cells: Chart['cells']): Predictor {
    const own = this.model?.profile.name === species.name ? this.model : null;
    const key = own ? species.name : JSON.stringify(species);
    if (this.predictor?.species !== key || this.predictor.cells !== cells)
      this.predictor = { species: key, cells, ready: new Predictor(own ?? fitModel(species, cells, []), cells) };
    return this.predictor.ready;
  }

  /** The chance of each cell at each step, what was seen today counted. */
  private hoursOf({ days, species, earlier, large }: Pick<DayPlanRequest, 'days' | 'species' | 'earlier' | 'large'>): Hours {
    // What is dragged or kept on the plan changes no chance.
    const key = JSON.stringify([days, species, earlier, large]);
    if (this.hours?.key === key) return this.hours.found;
    const { cells } = chartAtLevel(this.chart, days[0].level);
    const ready = this.predictorFor(species, cells);
    const used = ready.model;
    const size = large ? used.size : null;
    const movedBy = (day: Day): Float32Array | null =>
      earlier.length ? withinDayUpdate(used.today, earlier, ready.chances(day), cells, day.conditions.at.getTime()) : null;
    const chances = days.map((day) => {
      const any = ready.chances(day, movedBy(day));
      return size ? chancesOfLarge(any, size, cells, used.profile, day) : any;
    });
    // Places are chosen in the middle of the day.
    const day = days[Math.floor(days.length / 2)];
    const moved = movedBy(day);
    const any = ready.on(day, moved);
    const middle = { forecast: size ? ofLarge(any, size, cells, used.profile, day) : any, moved };
    this.hours = { key, found: { cells, used, chances, middle } };
    return this.hours.found;
  }

  private loggedStops(): StopBefore[] {
    const plane = metricPlane(this.chart.epsg);
    return (this.stopsBefore ??= (this.log?.stops ?? []).map((s) => ({
      at: plane.toMetric(s),
      end: Date.parse(s.end),
      boats: s.boats_near,
    })));
  }

  /** What the stops of the log say of bites. */
  private learnedBites({ species, known }: Pick<DayPlanRequest, 'species' | 'known'>): StopBites | null {
    if (!this.log) return null;
    if (this.bitesOf?.species !== species.name) {
      const is = (name: string): boolean => findSpecies(name, known)?.name === species.name;
      this.bitesOf = { species: species.name, found: learnBites(fishedStops(this.log, is)) };
    }
    return this.bitesOf.found;
  }

  /** The run sheet of a day, from what the forecast, the log, the weather and the boat say. */
  plan(request: DayPlanRequest): DayPlanAnswer {
    const { days, step, weather } = request;
    const { cells, used, chances, middle } = this.hoursOf(request);
    const charted = this.chart.soundings > 0;
    this.chances = charted ? middle.forecast.probability : null;
    const indexOf = indexCells(cells);
    // By what a stop there looks at or fishes, all round it.
    const around = chanceAroundEach(cells, indexOf, middle.forecast.probability);
    const at = days[Math.floor(days.length / 2)];
    const places = charted ? bestPlaces(used, cells, at, middle.forecast, new Map(), PLACES, around, middle.moved) : [];
    // Where no depth is charted nothing is forecast.
    const hours = charted ? chances : null;
    const learned = this.learnedBites(request);
    const brings = bringsOf(learned, request.rods);
    const before = [...this.loggedStops(), ...request.today];
    const pressure = (at: Point): Pressure => pressureAt(at, before, request.from);
    const spots = daySpots(places, request.own, indexOf, hours, brings, request.wishes, request.times, (at) => pressure(at).rested);
    const grids = this.gridsOf(request.water, days[0].level);
    const sheet = runSheet({
      ...request,
      known: this.ways,
      spots,
      waters: grids,
      step,
      sea: cells.count ? new Sea(cells) : null,
      wind: windOfDay(weather, days[0].conditions),
    });
    const byId = new Map(places.map((p) => [placeId(p), p]));
    return {
      sheet,
      spots: spots.map((s): PlannedSpot => {
        const place = byId.get(s.id) ?? null;
        const depth = place?.depth ?? this.chart.depth.at(...s.at) + days[0].level;
        return {
          id: s.id,
          at: s.at,
          place,
          depth: Number.isFinite(depth) ? depth : null,
          chance: hours && Math.max(...Array.from(s.chance)),
          pressure: pressure(s.at),
        };
      }),
      brings,
      learned,
      uncharted: grids[grids.length - 1].uncharted,
    };
  }

  /** Search passes; where a plan was made before, by what it held likely. */
  passes({ water, level, patch, wish }: PassRequest): SearchPasses {
    const grids = this.gridsOf(water, level);
    const on = grids[grids.length - 1];
    const { cells } = chartAtLevel(this.chart, level);
    const known = this.chances;
    const indexOf = known && indexCells(cells);
    const worth =
      known && ((p: Point): number => known[indexOf!.get(cellKey(Math.floor(p[0] / CELL), Math.floor(p[1] / CELL))) ?? -1] ?? 0);
    return searchPasses(on, patchOf(on, patch), { ...wish, worth: worth ?? undefined });
  }

  /** After a blank: what today's looks have tested, and the next three stops. */
  reset(request: ResetRequest): ResetAnswer {
    const { days, species } = request;
    const { cells, chances } = this.hoursOf(request);
    const now = chances[0];
    const strategies = fitModel(species, cells, []);
    const alone = new Predictor(strategies, cells).chances(days[0]);
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
      laterHours: chances.length > 1 ? Math.max(...chances.slice(1).map(mean)) / Math.max(1e-9, mean(now)) : null,
      holding: strategyDay(species, days[0]).holding,
    });
    const grids = this.gridsOf(request.water, days[0].level);
    const ways = new WaysFrom(grids[0], request.at);
    const centre = (cell: number): Point => [(cells.column[cell] + 0.5) * CELL, (cells.row[cell] + 0.5) * CELL];
    const minutes = (cell: number): number => (ways.to(centre(cell))?.seconds ?? Infinity) / 60;
    return {
      account,
      next: nextThree(account, minutes, (cell) => now[cell]).map((n) => ({ ...n, at: centre(n.cell), minutes: minutes(n.cell) })),
    };
  }
}

/** Until the log tells it, a stop with fish counts as one. */
function bringsOf(learned: StopBites | null, rods: number): SpotBrings {
  const pace = (learned?.pace ?? USUAL_PACE) / Math.max(1, rods);
  return { willing: learned?.willing ?? 1, bites: learned?.bites ?? 1, pace };
}
