import { FETCH_DIRECTIONS, type CellTable } from '../chart';
import { firstGuessDepth, type DepthWindow, type SpeciesProfile } from '../species';
import { windowOn, type Day } from './conditions';

export const SCHOOLS = ['depth', 'comfort', 'bottom', 'structure', 'cover', 'bait', 'quiet', 'known'] as const;
export type School = (typeof SCHOOLS)[number];

export const SCHOOL_NAMES: Record<School, string> = {
  depth: 'Depth first',
  comfort: 'Comfort first',
  bottom: 'Bottom first',
  structure: 'Structure first',
  cover: 'Cover first',
  bait: 'Bait first',
  quiet: 'Quiet first',
  known: 'Known spots first',
};

/** What each school counts for in the prior, before any log. */
export const SCHOOL_WEIGHTS: Record<School, number> = {
  depth: 0.6,
  comfort: 0.5,
  bottom: 0.4,
  structure: 0.4,
  cover: 0.4,
  bait: 0.3,
  quiet: 0.1,
  known: 0.1,
};

/** What the schools need of a species on a day; computed once, not per cell. */
export interface SchoolDay {
  species: SpeciesProfile;
  window: DepthWindow;
  holding: number;
  thermocline: number | null;
  windFrom: number;
  windSpeed: number;
}

export function schoolDay(species: SpeciesProfile, day: Day): SchoolDay {
  const window = windowOn(species, day);
  return {
    species,
    window,
    holding: firstGuessDepth(species, window, day.column),
    thermocline: day.column.thermocline?.depth ?? null,
    windFrom: day.conditions.windFrom,
    windSpeed: day.conditions.windSpeed,
  };
}

/**
 * How far the wind has blown on to a cell: −1 sheltered … 1 wind-blown. The open water upwind against the open
 * water downwind, weighted by wind speed.
 */
export function windBlown(cells: CellTable, i: number, from: number, speed: number): number {
  const upwind = fetchToward(cells, i, from);
  const downwind = fetchToward(cells, i, from + 180);
  return ((upwind - downwind) / (upwind + downwind + 100)) * Math.min(1, speed / 6);
}

/** Open water from a cell in a direction, m (nearest of the sixteen kept). */
export function fetchToward(cells: CellTable, i: number, direction: number): number {
  const d = ((Math.round((direction / 360) * FETCH_DIRECTIONS) % FETCH_DIRECTIONS) + FETCH_DIRECTIONS) % FETCH_DIRECTIONS;
  return cells.fetch[i * FETCH_DIRECTIONS + d];
}

const known = (v: number, otherwise: number): number => (Number.isNaN(v) ? otherwise : v);
const clamp = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));

/** How near the bottom of a cell is to the holding depth, 0–1: structure and cover count there, not in the deep. */
const atDepth = (d: SchoolDay, depth: number): number => Math.exp(-(((depth - d.holding) / (1.5 + 0.3 * d.holding)) ** 2));

const score: Record<School, (d: SchoolDay, cells: CellTable, i: number) => number> = {
  depth: (d, cells, i) => {
    const off = cells.depth[i] - d.holding;
    // Over deeper water fish may hang at their depth; in shallower water they cannot be.
    const width = off < 0 ? 0.5 + 0.22 * d.holding : 1.2 + 0.4 * d.holding;
    return 1.2 - Math.min(3, (off / width) ** 2 / 1.5);
  },
  comfort: (d, cells, i) => {
    const depth = cells.depth[i];
    if (d.window.empty) return 0;
    if (depth < d.window.top) return -1.5 * clamp((d.window.top - depth) / 2, 0, 1);
    if (d.thermocline == null) return depth <= d.window.bottom ? 0.4 : 0;
    // The layer's edge where it meets the bottom.
    return depth > d.window.bottom + 3 ? -0.4 : 1.2 * Math.exp(-(((depth - d.window.bottom + 0.8) / 2) ** 2)) - 0.2;
  },
  bottom: (d, cells, i) => {
    const hard = known(cells.hardness[i], 0.4);
    const edge = Math.exp(-cells.edgeDistance[i] / 40);
    return (2 * d.species.drawnTo.hard * (hard - 0.4) + 0.6 * d.species.drawnTo.hard * edge) * 1.2;
  },
  structure: (d, cells, i) =>
    atDepth(d, cells.depth[i]) *
      clamp(0.9 * known(cells.positionNear[i], 0) + 0.35 * known(cells.positionWide[i], 0) + 5 * known(cells.slope[i], 0), -1, 2) -
    0.1,
  cover: (d, cells, i) => {
    const wood = Math.exp(-cells.woodDistance[i] / 25);
    const weed = Math.exp(-cells.weedDistance[i] / 25);
    return atDepth(d, cells.depth[i]) * 2 * (d.species.drawnTo.wood * wood + d.species.drawnTo.weed * weed) - 0.15;
  },
  bait: (d, cells, i) => 1.2 * windBlown(cells, i, d.windFrom, d.windSpeed),
  quiet: (_, cells, i) => clamp((cells.shoreDistance[i] - 60) / 140, -0.5, 0.5),
  known: (d, cells, i) => atDepth(d, cells.depth[i]) * clamp(0.5 * known(cells.positionWide[i], 0), -0.5, 1),
};

/** Log-odds that a school gives a cell on a day, about −2 … 2; 0 is the average place. */
export const schoolScore = (school: School, d: SchoolDay, cells: CellTable, i: number): number =>
  Number.isNaN(cells.depth[i]) ? 0 : score[school](d, cells, i);

/** The schools combined, with their weights: the prior of the forecast on the log scale. */
export function combinedScore(d: SchoolDay, cells: CellTable, i: number, weights: Record<School, number> = SCHOOL_WEIGHTS): number {
  let total = 0;
  for (const school of SCHOOLS) total += weights[school] * schoolScore(school, d, cells, i);
  return total;
}
