import { FETCH_DIRECTIONS, type CellTable } from '../chart';
import { firstGuessDepth, strategySetting, STRATEGIES, type DepthWindow, type Strategy, type SpeciesProfile } from '../species';
import type { StreamNow } from '../tide';
import { spawnsOn, windowOn, type Day } from './conditions';
import { STREAM_SIDES, streamSides } from './stream-sides';

export { STRATEGIES, type Strategy };

/** What the strategies need of a species on a day; computed once, not per cell. */
export interface StrategyDay {
  species: SpeciesProfile;
  window: DepthWindow;
  holding: number;
  thermocline: number | null;
  windFrom: number;
  windSpeed: number;
  /** How the water runs; null where that is not known. */
  stream: StreamNow | null;
  /** What each strategy counts for in the prior, in their order. */
  weights: number[];
}

export function strategyDay(species: SpeciesProfile, day: Day): StrategyDay {
  const spawning = spawnsOn(species, day);
  const window = windowOn(species, day, spawning);
  return {
    species,
    window,
    holding: firstGuessDepth(species, window, day.column, spawning),
    thermocline: day.column.thermocline?.depth ?? null,
    windFrom: day.conditions.windFrom,
    windSpeed: day.conditions.windSpeed,
    stream: day.stream,
    weights: STRATEGIES.map((strategy) => strategySetting(species, `${strategy}.weight`)),
  };
}

/**
 * How far the wind has blown on to a cell: −1 sheltered … 1 wind-blown. The open water upwind against the open
 * water downwind, weighted by wind speed.
 */
export function windBlown(cells: CellTable, i: number, from: number, speed: number): number {
  return blownBy(fetchToward(cells, i, from), fetchToward(cells, i, from + 180), speed);
}

/** How much more open water lies upwind of a cell than downwind, 0–1 at 1.5 km, in a wind that stirs. */
export const openToWind = (cells: CellTable, i: number, from: number, speed: number): number =>
  openBy(fetchToward(cells, i, from), fetchToward(cells, i, from + 180), speed);

/** `windBlown` and `openToWind` from the open water up and down the wind, m, where that is known already. */
export const blownBy = (upwind: number, downwind: number, speed: number): number =>
  ((upwind - downwind) / (upwind + downwind + 100)) * Math.min(1, speed / 6);
export const openBy = (upwind: number, downwind: number, speed: number): number =>
  Math.min(1, Math.max(0, upwind - downwind) / 1500) * Math.min(1, speed / 4);

/** Which of the directions kept is nearest to one in degrees. */
export const fetchIndex = (direction: number): number =>
  ((Math.round((direction / 360) * FETCH_DIRECTIONS) % FETCH_DIRECTIONS) + FETCH_DIRECTIONS) % FETCH_DIRECTIONS;

/** Open water from a cell in a direction, m (nearest of the sixteen kept). */
export const fetchToward = (cells: CellTable, i: number, direction: number): number =>
  cells.fetch[i * FETCH_DIRECTIONS + fetchIndex(direction)];

const known = (v: number, otherwise: number): number => (Number.isNaN(v) ? otherwise : v);
const clamp = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));

/** How near the bottom of a cell is to the holding depth, 0–1: structure and cover count there, not in the deep. */
const atDepth = (d: StrategyDay, depth: number): number => Math.exp(-(((depth - d.holding) / (1.5 + 0.3 * d.holding)) ** 2));

/** What being fully wind-blown is worth to the strategy of bait, log-odds. */
export const baitWind = (d: StrategyDay): number => strategySetting(d.species, 'bait.wind');

/**
 * A strategy's log-odds in parts: what follows from the depth of the bottom on a day, what lasts at a cell, and what the
 * day's wind brings. The score is their sum, the lasting part counting by how near the bottom is to the holding depth
 * where `atDepth` says so. In parts, so that a day's forecast need not work out again what lasts.
 */
interface StrategyParts {
  ofDepth?: (d: StrategyDay, depth: number) => number;
  ofPlace?: (species: SpeciesProfile, cells: CellTable, i: number) => number;
  atDepth?: boolean;
  ofWind?: (d: StrategyDay, cells: CellTable, i: number) => number;
  ofStream?: (d: StrategyDay, sides: Float64Array) => number;
}

/** What the up-stream side of a rise and of cover are worth to the strategy of current, log-odds, in the order of the sides. */
export const currentSides = (d: StrategyDay): [face: number, cover: number] => {
  const side = strategySetting(d.species, 'current.side');
  return [0.7 * side, 1.4 * side];
};

const parts: Record<Strategy, StrategyParts> = {
  depth: {
    ofDepth: (d, depth) => {
      const off = depth - d.holding;
      // Over deeper water fish may hang at their depth; in shallower water they cannot be.
      const width = (off < 0 ? 0.5 + 0.22 * d.holding : 1.2 + 0.4 * d.holding) * strategySetting(d.species, 'depth.tolerance');
      return 1.2 - Math.min(3, (off / width) ** 2 / 1.5);
    },
  },
  comfort: {
    ofDepth: (d, depth) => {
      if (d.window.empty) return 0;
      if (depth < d.window.top) return -1.5 * clamp((d.window.top - depth) / 2, 0, 1);
      if (d.thermocline == null) return depth <= d.window.bottom ? 0.4 : 0;
      // The layer's edge where it meets the bottom.
      const edge = strategySetting(d.species, 'comfort.edge');
      return depth > d.window.bottom + 1.5 * edge ? -0.4 : 1.2 * Math.exp(-(((depth - d.window.bottom + 0.8) / edge) ** 2)) - 0.2;
    },
  },
  bottom: {
    ofPlace: (species, cells, i) => {
      const hard = known(cells.hardness[i], 0.4);
      const edge = Math.exp(-cells.edgeDistance[i] / strategySetting(species, 'bottom.edge'));
      return (2 * species.drawnTo.hard * (hard - 0.4) + 0.6 * species.drawnTo.hard * edge) * 1.2;
    },
  },
  structure: {
    ofDepth: () => -0.1,
    ofPlace: (species, cells, i) => {
      const drop = 10 * strategySetting(species, 'structure.slope') * known(cells.slope[i], 0);
      return clamp(0.9 * known(cells.positionNear[i], 0) + 0.35 * known(cells.positionWide[i], 0) + drop, -1, 2);
    },
    atDepth: true,
  },
  cover: {
    ofDepth: () => -0.15,
    ofPlace: (species, cells, i) => {
      const reach = strategySetting(species, 'cover.reach');
      const { wood, weed } = species.drawnTo;
      return 2 * (wood * Math.exp(-cells.woodDistance[i] / reach) + weed * Math.exp(-cells.weedDistance[i] / reach));
    },
    atDepth: true,
  },
  bait: { ofWind: (d, cells, i) => baitWind(d) * windBlown(cells, i, d.windFrom, d.windSpeed) },
  current: {
    ofStream: (d, sides) => {
      const [face, cover] = currentSides(d);
      return face * sides[1] + cover * sides[2];
    },
  },
  quiet: {
    ofPlace: (species, cells, i) => clamp((cells.shoreDistance[i] - strategySetting(species, 'quiet.from')) / 140, -0.5, 0.5),
  },
  known: {
    ofPlace: (species, cells, i) => clamp(strategySetting(species, 'known.prominence') * known(cells.positionWide[i], 0), -0.5, 1),
    atDepth: true,
  },
};

/** Strategies all of whose score lasts, and those of which a part does that counts by the day. */
export const STATIC_STRATEGIES = STRATEGIES.filter(
  (s) => parts[s].ofPlace && !parts[s].ofDepth && !parts[s].atDepth && !parts[s].ofWind && !parts[s].ofStream,
);
export const STATIC_SCALED_BY_DAY = STRATEGIES.filter((s) => parts[s].ofPlace && !STATIC_STRATEGIES.includes(s));

/** What of a strategy's score lasts at a cell, 0 where the strategy has nothing that lasts or the depth is not known. */
export const staticPart = (strategy: Strategy, species: SpeciesProfile, cells: CellTable, i: number): number =>
  Number.isNaN(cells.depth[i]) ? 0 : (parts[strategy].ofPlace?.(species, cells, i) ?? 0);

/** What of a strategy's score follows from the depth on a day: a sum, and what the lasting part is multiplied by. */
export const strategyOfDepth = (strategy: Strategy, d: StrategyDay, depth: number): [added: number, times: number] => [
  parts[strategy].ofDepth?.(d, depth) ?? 0,
  parts[strategy].atDepth ? atDepth(d, depth) : 1,
];

const sidesHere = new Float64Array(STREAM_SIDES.length);

/** Log-odds that a strategy gives a cell on a day, about −2 … 2; 0 is the average place. */
export function strategyScore(strategy: Strategy, d: StrategyDay, cells: CellTable, i: number): number {
  const depth = cells.depth[i];
  if (Number.isNaN(depth)) return 0;
  const [added, times] = strategyOfDepth(strategy, d, depth);
  const { ofWind, ofStream } = parts[strategy];
  const run = ofStream && d.stream ? ofStream(d, streamSides(sidesHere, cells, i, d.stream)) : 0;
  return added + times * staticPart(strategy, d.species, cells, i) + (ofWind?.(d, cells, i) ?? 0) + run;
}

/** What a sonar loses at the top, m: its transducer hangs some 0.3 m down, and what is next to it drowns in its own pulse. */
const TOP_LOST = 0.4;
/** A scan looks to the sides too: in the shallowest water it still shows this share of what there is. */
const LEAST_SHOWN = 0.15;

/**
 * Log of the share of the water column over a bottom that a scan shows. In half a metre of water that is a
 * fifth, whatever a strategy makes of the place. 0 where the depth is not known.
 */
export const shownOfColumn = (depth: number): number =>
  Number.isNaN(depth) ? 0 : Math.log(Math.max(LEAST_SHOWN, 1 - TOP_LOST / Math.max(TOP_LOST, depth)));

/** The strategies combined, with their weights, and what a scan shows there: the prior of the forecast on the log scale. */
export function combinedScore(d: StrategyDay, cells: CellTable, i: number): number {
  let total = shownOfColumn(cells.depth[i]);
  for (let k = 0; k < STRATEGIES.length; k++) total += d.weights[k] * strategyScore(STRATEGIES[k], d, cells, i);
  return total;
}
