import { expose, transfer } from 'comlink';
import {
  bandShare,
  chartAtLevel,
  contourDepths,
  contourLines,
  hypsographOf,
  unpackChart,
  waveHeights,
  type BandShare,
  type Chart,
  type ContourLine,
} from '@restless-shoal/core/chart';
import {
  bestPlaces,
  cautions,
  fitModel,
  heatHypotheses,
  withinDayUpdate,
  ofLarge,
  Predictor,
  reasonsAt,
  strategyPlans,
  teaching,
  unpackModel,
  waterYearOf,
  waveBrief,
  windowOn,
  type Caution,
  type Day,
  type Forecast,
  type HeatHypothesis,
  type Model,
  type ModelStats,
  type Place,
  type Reason,
  type StrategyPlan,
  type SeenToday,
  type WaterFrame,
  type WaveBrief,
} from '@restless-shoal/core/forecast';
import { columnState, lakeNumber, mixedLayerDepth, schmidtStability, thermoclineTilt, type ColumnState } from '@restless-shoal/core/lake';
import type { DepthWindow, SpeciesProfile } from '@restless-shoal/core/species';

export interface ForecastRequest {
  day: Day;
  species: SpeciesProfile;
  /** Looks and sightings of the species by cell index: [cell, looked, saw]; null while the log is not known. */
  tally: [number, number, number][] | null;
  /** What was looked at and seen earlier on the trip that runs. */
  earlier: SeenToday[];
  /** Large ones alone are asked for, where enough sizes were logged. */
  large: boolean;
}

export interface ForecastAnswer {
  /** By which its reasons are asked for. */
  id: number;
  /** What was asked: the species, and the moment it is for. */
  species: string;
  at: Date;
  forecast: Forecast;
  places: Place[];
  /** Places never looked at that are best to scout. */
  teach: Place[];
  /** How long the forecast took, ms. */
  took: number;
  /** Looks the fit rests on; 0 when only the strategies count. */
  looks: number;
  contacts: number;
  trips: number;
  /** The other water that the fit started from. */
  borrowed: ModelStats['borrowed'];
  /** How many sizes were logged and how many were large, where that is enough to forecast large ones. */
  sizes: { sized: number; large: number } | null;
  /** Whether it is the forecast of large ones. */
  large: boolean;
  /** Whether the places were told of looks. */
  logKnown: boolean;
}

export interface BriefRequest {
  day: Day;
  species: SpeciesProfile;
  /** Whether it spawns, by the season. */
  spawning: boolean;
  frame: WaterFrame;
  /** What was noted of the water's surface these days. */
  signs: string;
}

export interface BriefAnswer {
  window: DepthWindow;
  /** What of the water the window leaves; null while no depth is charted. */
  share: BandShare | null;
  strategies: StrategyPlan[];
  /** Null while no outline says how far the wind blows. */
  waves: WaveBrief | null;
  /** Height of the waves on each cell, m. */
  waveHeights: Float32Array;
  cautions: Caution[];
  heat: HeatHypothesis[];
  /** The column as a limnologist would describe it. */
  water: {
    state: ColumnState;
    mixedLayer: number;
    /** Schmidt stability, J/m². */
    stability: number;
    /** Lake number under the day's wind; null without a thermocline or wind. */
    lakeNumber: number | null;
    /** How much deeper the thermocline lies at the wind-blown end, m. */
    tilt: number;
  };
}

/** So many places are ranked. */
const PLACES = 20;

let chart: Chart | null = null;
let model: Model | null = null;
/** What lasts of the fit on this chart, worked out once. */
let predictor: Predictor | null = null;
/** The fit that it was worked out from; null where only the strategies count. */
let predictorOf: Model | null = null;
/** What the last answers were made from, by their id: reasons are asked for afterwards. */
const made = new Map<number, { day: Day; model: Model; moved: Float32Array | null }>();
const KEPT_ANSWERS = 4;
let answers = 0;

// A thin shell round core: what a finger drags is computed here, from data already in the browser.
const api = {
  openChart(bytes: Uint8Array): void {
    chart = unpackChart(bytes);
    model = null;
    made.clear();
  },
  openModel(bytes: Uint8Array | null): void {
    const read = bytes && unpackModel(bytes);
    // One of an earlier version of the application, kept on the device, means other things: the strategies count until the next comes.
    model = read && 'profile' in read ? read : null;
  },
  /** @param unit length of the unit that depths are read in, m @param atMost so many depths */
  contours(unit: number, atMost: number, level: number): ContourLine[] {
    if (!chart) return [];
    const { depth, deepest } = chartAtLevel(chart, level);
    return contourLines(depth, contourDepths(deepest, unit, atMost));
  },
  forecast(request: ForecastRequest): ForecastAnswer {
    if (!chart) throw new Error('no chart is open');
    const fit = model?.profile.name === request.species.name ? model : null;
    const known = predictor;
    const { cells } = chartAtLevel(chart, request.day.level);
    // A fit stands on the strategies it was made with; without one they follow at once as they are set.
    const reset = !fit && JSON.stringify(known?.model.profile) !== JSON.stringify(request.species);
    if (!known || predictorOf !== fit || known.cells !== cells || reset) {
      predictor = new Predictor(fit ?? fitModel(request.species, cells, []), cells);
      predictorOf = fit;
    }
    const ready = predictor!;
    const used = ready.model;
    const started = performance.now();
    const { day } = request;
    const before = ready.on(day);
    const moved = withinDayUpdate(used.today, request.earlier, before.probability, cells, day.conditions.at.getTime());
    const any = moved ? ready.on(day, moved) : before;
    const large = request.large && used.size != null;
    const forecast = large ? ofLarge(any, used.size!, cells, used.profile, day) : any;
    const took = performance.now() - started;
    const tally = new Map((request.tally ?? []).map(([cell, looked, saw]) => [cell, { looked, saw }]));
    const places = bestPlaces(used, cells, day, forecast, tally, PLACES, forecast.probability, moved);
    const teach = bestPlaces(used, cells, day, forecast, tally, 8, teaching(forecast, tally), moved);
    const id = ++answers;
    made.set(id, { day, model: used, moved });
    made.delete(id - KEPT_ANSWERS);
    return transfer(
      {
        id,
        species: request.species.name,
        at: day.conditions.at,
        forecast,
        places,
        teach,
        took,
        looks: used.stats.looks,
        contacts: used.stats.contacts,
        trips: used.stats.trips,
        borrowed: used.stats.borrowed,
        sizes: used.size && { sized: used.size.sized, large: used.size.large },
        large,
        logKnown: request.tally != null,
      },
      Object.values(forecast).map((a) => a.buffer),
    );
  },
  /** What the water says today, for one species. */
  brief(request: BriefRequest): BriefAnswer {
    if (!chart) throw new Error('no chart is open');
    const { day, species } = request;
    const { cells, soundings } = chartAtLevel(chart, day.level);
    const { samples, thermocline } = day.column;
    const { windSpeed, trend } = day.conditions;
    const window = windowOn(species, day, request.spawning);
    const waves = waveBrief(day, cells);
    const hypsograph = hypsographOf(cells, day.maxDepth);
    return {
      window,
      share: !soundings ? null : window.empty ? { bottom: 0, over: 0, out: 1 } : bandShare(cells, window.top, window.bottom),
      strategies: strategyPlans(species, day, cells),
      waves,
      waveHeights: waveHeights(cells, day.conditions.windFrom, windSpeed, day.maxDepth / 2),
      cautions: cautions(species, day, waves),
      heat: heatHypotheses(species, day, cells),
      water: {
        state: columnState(samples, trend, waterYearOf(request.frame), day.seasonDay, request.signs),
        mixedLayer: mixedLayerDepth(samples),
        stability: Math.max(0, schmidtStability(samples, hypsograph)),
        lakeNumber: thermocline && windSpeed > 0.5 ? lakeNumber(samples, thermocline, windSpeed, hypsograph) : null,
        tilt: thermocline ? thermoclineTilt(samples, thermocline, windSpeed, request.frame.lengthKm * 1000) : 0,
      },
    };
  },
  /** Reasons for and against a cell of an answer; none once that is forgotten. */
  reasons(id: number, cell: number): Reason[] {
    const from = made.get(id);
    return chart && from ? reasonsAt(from.model, chartAtLevel(chart, from.day.level).cells, from.day, cell, from.moved) : [];
  },
};

export type ForecastWorker = typeof api;

expose(api);
