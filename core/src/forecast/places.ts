import type { CellTable } from '../chart';
import { CELL, cellKey } from '../geo';
import { Design, designDay, type DesignDay } from './design';
import { indexCells, regionFrom } from './region';
import { statement, type Statement } from '../statements';
import { Contributions, reasonsFor, type Reason } from './reasons';
import type { Day } from './conditions';
import type { Model } from './fit';
import { BEYOND_TERMS, type Forecast } from './predict';

export type PlaceShape =
  | 'steep bank'
  | 'hump'
  | 'reef'
  | 'bank'
  | 'gully'
  | 'point'
  | 'channel'
  | 'drop-off'
  | 'open basin'
  | 'hard-to-soft edge'
  | 'hard flat'
  | 'flat';
/** A shape alone, or with the cover on it: `shape` is a PlaceShape. */
export type PlaceCode = 'place.shape' | 'place.timber' | 'place.reef' | 'place.weed';

/** A place one would fish: a local best with the cells round it that are nearly as good. */
export interface Place {
  cell: number;
  /** Metres in the chart's plane. */
  x: number;
  y: number;
  name: Statement<PlaceCode>;
  probability: number;
  low: number;
  high: number;
  /** Chance that ten minutes of one rod at its best meet the species; null where too little fishing is logged to tell. */
  fishing: number | null;
  depth: number;
  depthTop: number;
  depthBottom: number;
  /** Water in the place, m², and its cells. */
  area: number;
  cells: number[];
  reasons: Reason[];
  /** How often this log looked within the place, and how often it saw the species. */
  looked: number;
  saw: number;
}

/** Places closer than this are one, m. */
const APART = 120;
/** A neighbouring cell belongs to the place while it has at least this share of the best one's chance. */
const NEARLY = 0.7;

/** Cells that no neighbour betters, from the highest value down, leaving out those near a higher one: the flank of a place is no place of its own. */
function peaks(value: Float32Array, cells: CellTable, count: number, indexOf: Map<number, number>): number[] {
  const bettered = (i: number): boolean => {
    for (let dc = -1; dc <= 1; dc++)
      for (let dr = -1; dr <= 1; dr++) {
        const j = indexOf.get(cellKey(cells.column[i] + dc, cells.row[i] + dr));
        if (j !== undefined && value[j] > value[i]) return true;
      }
    return false;
  };
  const order = Array.from({ length: cells.count }, (_, i) => i)
    .filter((i) => !Number.isNaN(cells.depth[i]) && !bettered(i))
    .sort((a, b) => value[b] - value[a]);
  const chosen: number[] = [];
  for (const i of order) {
    if (chosen.length >= count) break;
    if (chosen.every((j) => Math.hypot(cells.column[i] - cells.column[j], cells.row[i] - cells.row[j]) * CELL >= APART)) chosen.push(i);
  }
  return chosen;
}

/** The cells about a place's best one that are nearly as good, as far as they are not another place's. */
function grow(start: number, value: Float32Array, cells: CellTable, indexOf: Map<number, number>, taken: Set<number>): number[] {
  const least = value[start] * NEARLY;
  const far = (j: number): number => Math.hypot(cells.column[j] - cells.column[start], cells.row[j] - cells.row[start]) * CELL;
  const belongs = (j: number): boolean => value[j] >= least && value[j] <= value[start] && far(j) <= APART * 0.75 && !taken.has(j);
  return [...regionFrom(start, cells, indexOf, belongs, 40)];
}

/** What the chart shows there, as a name. */
export function placeName(
  cells: CellTable,
  i: number,
  { thermocline, coast }: Pick<DesignDay, 'thermocline' | 'coast'>,
): Statement<PlaceCode> {
  const shape = coast
    ? onCoast(placeShape(cells, i, thermocline), cells.hardness[i], cells.shoreDistance[i])
    : placeShape(cells, i, thermocline);
  // A reef on a reef is a reef.
  const wood = cells.woodDistance[i] < 25 && shape !== 'reef';
  const code: PlaceCode = wood ? (coast ? 'place.reef' : 'place.timber') : cells.weedDistance[i] < 25 ? 'place.weed' : 'place.shape';
  return statement(code, { shape });
}

/** A rise nearer to the shore is part of its slope, m: no reef or bank of its own. */
const OFF_SHORE = 120;

/** What a shape is called on the coast. */
function onCoast(shape: PlaceShape, hardness: number, shore: number): PlaceShape {
  if (shape === 'hump' && shore < OFF_SHORE) return 'point';
  if (shape === 'hump') return hardness >= 0.5 ? 'reef' : 'bank';
  return shape === 'channel' ? 'gully' : shape;
}

function placeShape(cells: CellTable, i: number, thermocline: number | null): PlaceShape {
  const [near, wide, slope] = [cells.positionNear[i], cells.positionWide[i], cells.slope[i]];
  if (cells.shoreDistance[i] < 40 && slope > 0.1) return 'steep bank';
  if (near > 0.3 && wide > 0.6) return 'hump';
  if (wide > 0.8) return 'point';
  if (wide < -1) return 'channel';
  if (slope > 0.07) return 'drop-off';
  if (thermocline != null && cells.depth[i] > thermocline + 2) return 'open basin';
  if (cells.edgeDistance[i] < 20) return 'hard-to-soft edge';
  return cells.hardness[i] > 0.6 ? 'hard flat' : 'flat';
}

/**
 * What a first scan of each cell would teach: half the log of how much one look narrows the log rate, from the spread of
 * the interval and the looks' information (the rate itself). Cells that were looked at teach nothing new here.
 * Source: the expected information of a look (Lindley 1956) under a normal approximation.
 */
export function teaching(forecast: Forecast, tally: Map<number, { looked: number }>): Float32Array {
  return forecast.probability.map((p, i) => {
    if (tally.get(i)?.looked) return 0;
    const spread = Math.log(Math.max(1e-6, forecast.high[i]) / Math.max(1e-6, forecast.low[i])) / (2 * 1.2815515655);
    // What no look can teach stays unknown.
    const taught = Math.max(0, spread * spread - BEYOND_TERMS ** 2);
    return 0.5 * Math.log1p(taught * -Math.log1p(-Math.min(0.99, p)));
  });
}

/** Fishing below which the log cannot tell what ten minutes of it would meet, rod-hours: a judgement. */
const LEAST_ROD_HOURS = 5;

/**
 * The best places of a forecast, each with reasons for and against.
 * @param tally looks and sightings by cell index @param value what makes a place better; the chance where none is said
 */
export function bestPlaces(
  model: Model,
  cells: CellTable,
  day: Day,
  forecast: Forecast,
  tally: Map<number, { looked: number; saw: number }>,
  count = 10,
  value = forecast.probability,
  moved: Float32Array | null = null,
): Place[] {
  const today = designDay(model.profile, day);
  const contributions = new Contributions(new Design(model.spec, cells), model.beta, today);
  const mean = contributions.mean();
  const indexOf = indexCells(cells);
  const minutes = model.beta[1] - model.beta[0] + Math.log(10);
  const best = peaks(value, cells, count, indexOf);
  const taken = new Set(best);
  return best.map((i) => {
    const inside = grow(i, value, cells, indexOf, taken);
    inside.forEach((j) => taken.add(j));
    return {
      cell: i,
      x: (cells.column[i] + 0.5) * CELL,
      y: (cells.row[i] + 0.5) * CELL,
      name: placeName(cells, i, today),
      probability: forecast.probability[i],
      low: forecast.low[i],
      high: forecast.high[i],
      fishing:
        model.stats.rodHours < LEAST_ROD_HOURS
          ? null
          : -Math.expm1(Math.log1p(-Math.min(0.999, forecast.probability[i])) * Math.exp(minutes)),
      depth: cells.depth[i],
      depthTop: forecast.depthTop[i],
      depthBottom: forecast.depthBottom[i],
      area: inside.reduce((s, j) => s + cells.area[j], 0),
      cells: inside,
      reasons: reasonsFor(contributions, mean, cells, i, today, model.profile.name, moved),
      looked: inside.reduce((s, j) => s + (tally.get(j)?.looked ?? 0), 0),
      saw: inside.reduce((s, j) => s + (tally.get(j)?.saw ?? 0), 0),
    };
  });
}

/** Reasons for and against any cell, as for the places: "why not here?" */
export function reasonsAt(model: Model, cells: CellTable, day: Day, cell: number, moved: Float32Array | null = null): Reason[] {
  const today = designDay(model.profile, day);
  const contributions = new Contributions(new Design(model.spec, cells), model.beta, today);
  return reasonsFor(contributions, contributions.mean(), cells, cell, today, model.profile.name, moved);
}
