import { expose, transfer } from 'comlink';
import { contourLines, unpackChart, type Chart, type ContourLine } from '@restless-shoal/core/chart';
import {
  bestPlaces,
  dayFor,
  fitModel,
  predict,
  reasonsAt,
  unpackModel,
  type Cast,
  type Conditions,
  type Forecast,
  type Model,
  type Place,
  type Reason,
  type WaterFrame,
} from '@restless-shoal/core/forecast';
import type { SpeciesProfile } from '@restless-shoal/core/species';

export interface ForecastRequest {
  conditions: Conditions;
  frame: WaterFrame;
  cast: Cast | null;
  species: SpeciesProfile;
  /** Looks and sightings of the species by cell index: [cell, looked, saw]. */
  tally: [number, number, number][];
}

export interface ForecastAnswer {
  forecast: Forecast;
  places: Place[];
  /** How long the forecast took, ms. */
  took: number;
  /** Looks the fit rests on; 0 when the schools speak alone. */
  looks: number;
  contacts: number;
  trips: number;
}

let chart: Chart | null = null;
let model: Model | null = null;
let last: { request: ForecastRequest; model: Model } | null = null;

function dayOf({ conditions, frame, cast }: ForecastRequest) {
  return dayFor(conditions, frame, cast);
}

// A thin shell round core: what a finger drags is computed here, from data already in the browser.
const api = {
  openChart(bytes: Uint8Array): void {
    chart = unpackChart(bytes);
    model = null;
  },
  openModel(bytes: Uint8Array | null): void {
    model = bytes && unpackModel(bytes);
  },
  contours(): ContourLine[] {
    return chart ? contourLines(chart.depth) : [];
  },
  forecast(request: ForecastRequest): ForecastAnswer {
    if (!chart) throw new Error('no chart is open');
    const used = model?.species === request.species.name ? model : fitModel(request.species, chart.cells, [], () => false);
    const started = performance.now();
    const day = dayOf(request);
    const forecast = predict(used, chart.cells, request.species, day);
    const took = performance.now() - started;
    const tally = new Map(request.tally.map(([cell, looked, saw]) => [cell, { looked, saw }]));
    const places = bestPlaces(used, chart.cells, request.species, day, forecast, tally);
    last = { request, model: used };
    return transfer(
      { forecast, places, took, looks: used.stats.looks, contacts: used.stats.contacts, trips: used.stats.trips },
      Object.values(forecast).map((a) => a.buffer),
    );
  },
  /** Reasons for and against a cell, for the forecast last made. */
  reasons(cell: number): Reason[] {
    return chart && last ? reasonsAt(last.model, chart.cells, last.request.species, dayOf(last.request), cell) : [];
  },
};

export type ForecastWorker = typeof api;

expose(api);
