import type { CellTable } from '../chart';
import { CELL } from '../geo';
import type { SpeciesProfile } from '../species';
import { Design, designDay, SparseRow } from './design';
import { HOLDING_STEP, holdingTable } from './holding-depth';
import type { Day } from './conditions';
import type { Model } from './fit';

/** The forecast of a water for a day, one entry a cell. */
export interface Forecast {
  /** Chance that one scan of the whole cell shows the species. */
  probability: Float32Array;
  /** 80 % interval of it. */
  low: Float32Array;
  high: Float32Array;
  /** Where 80 % of the targets would be, m. */
  depthTop: Float32Array;
  depthBottom: Float32Array;
}

/** Nodes and weights of five-point Gauss–Hermite quadrature for a standard normal. */
const NODES = [-2.8569700138728056, -1.355626179974266, 0, 1.355626179974266, 2.8569700138728056];
const WEIGHTS = [0.011257411327720689, 0.2220759220056126, 0.5333333333333333, 0.2220759220056126, 0.011257411327720689];

/** Half-width of a central 80 % interval in standard deviations. */
const EIGHTY = 1.2815515655446004;

/** Chance of at least one target for a log rate, with the spread between trips integrated over. */
export function chance(logRate: number, tripSpread: number): number {
  let total = 0;
  for (let k = 0; k < NODES.length; k++) total += WEIGHTS[k] * -Math.expm1(-Math.exp(Math.min(6, logRate + tripSpread * NODES[k])));
  return total;
}

/** Forecasts a day for every cell of a water. */
export function predict(model: Model, cells: CellTable, species: SpeciesProfile, day: Day): Forecast {
  const design = new Design(model.spec, cells);
  const today = designDay(species, day);
  const { beta, covariance, tripSpread } = model;
  const kept = Math.round(Math.sqrt(covariance.length));
  const placePrecision = model.lambda.place;
  const row = new SparseRow();
  const n = cells.count;
  const out: Forecast = {
    probability: new Float32Array(n),
    low: new Float32Array(n),
    high: new Float32Array(n),
    depthTop: new Float32Array(n),
    depthBottom: new Float32Array(n),
  };
  const holding = holdingTable(model.holding, species, today, day.maxDepth);
  for (let i = 0; i < n; i++) {
    const unheld = design.fill(row, i, today, 0, -1);
    let eta = design.prior(i, today) + Math.log(Math.max(1, cells.area[i]) / (CELL * CELL));
    let variance = unheld / placePrecision;
    for (let a = 0; a < row.n; a++) {
      const [ia, va] = [row.index[a], row.value[a]];
      eta += va * beta[ia];
      const base = ia * kept;
      for (let b = 0; b < a; b++) variance += 2 * va * row.value[b] * covariance[base + row.index[b]];
      variance += va * va * covariance[base + ia];
    }
    const spread = Math.sqrt(Math.max(0, variance));
    out.probability[i] = chance(eta, tripSpread);
    out.low[i] = chance(eta - EIGHTY * spread, tripSpread);
    out.high[i] = chance(eta + EIGHTY * spread, tripSpread);
    const depth = cells.depth[i];
    const k = Number.isNaN(depth) ? 0 : Math.min(holding.top.length - 1, Math.round(depth / HOLDING_STEP));
    out.depthTop[i] = holding.top[k];
    out.depthBottom[i] = holding.bottom[k];
  }
  return out;
}
