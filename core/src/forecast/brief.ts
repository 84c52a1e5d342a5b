import { waveHeights, type CellTable } from '../chart';
import type { SpeciesProfile } from '../species';
import { statement, type Statement } from '../statements';
import type { Day } from './conditions';
import { indexCells, regionFrom } from './region';
import { STRATEGIES, strategyDay, strategyScore, type Strategy, type StrategyDay } from './strategies';

export type PlanCode =
  | 'plan.depth'
  | 'plan.comfort.none'
  | 'plan.comfort'
  | 'plan.bottom'
  | 'plan.structure'
  | 'plan.structure.coast'
  | 'plan.cover.coast'
  | 'plan.cover.weed'
  | 'plan.cover.timber'
  | 'plan.bait.calm'
  | 'plan.bait'
  | 'plan.current'
  | 'plan.quiet'
  | 'plan.known';

/** What a strategy would do today, with how many places it names. */
export interface StrategyPlan {
  strategy: Strategy;
  says: Statement<PlanCode>;
  /** Null where no depth is charted: nobody can count them. */
  places: number | null;
}

/** Whether any depth of a water is charted. */
const sounded = (cells: CellTable): boolean => cells.depth.some((d) => !Number.isNaN(d));

/** Cells joined side by side into places; those smaller than two cells are left out. */
function countPlaces(chosen: Set<number>, cells: CellTable, indexOf: Map<number, number>): number {
  let places = 0;
  const seen = new Set<number>();
  for (const start of chosen) {
    if (seen.has(start)) continue;
    const region = regionFrom(start, cells, indexOf, (cell) => chosen.has(cell));
    region.forEach((cell) => seen.add(cell));
    if (region.size >= 2) places++;
  }
  return places;
}

function says(strategy: Strategy, d: StrategyDay, coast: boolean): Statement<PlanCode> {
  switch (strategy) {
    case 'depth':
      return statement('plan.depth', { depth: d.holding });
    case 'comfort':
      return d.window.empty ? statement('plan.comfort.none') : statement('plan.comfort', { depth: d.window.bottom });
    case 'bottom':
      return statement('plan.bottom');
    case 'structure':
      return statement(coast ? 'plan.structure.coast' : 'plan.structure', { depth: d.holding });
    case 'cover':
      if (coast) return statement('plan.cover.coast');
      return statement(d.species.drawnTo.weed > d.species.drawnTo.wood ? 'plan.cover.weed' : 'plan.cover.timber');
    case 'bait':
      return statement(d.windSpeed < 1 ? 'plan.bait.calm' : 'plan.bait');
    case 'current':
      return statement('plan.current');
    case 'quiet':
      return statement('plan.quiet');
    case 'known':
      return statement('plan.known');
  }
}

/** One line for each strategy: what it would do today and how many places it has. A place scores in the best tenth, and well. */
export function strategyPlans(species: SpeciesProfile, day: Day, cells: CellTable): StrategyPlan[] {
  const today = strategyDay(species, day);
  const indexOf = indexCells(cells);
  const counted = sounded(cells);
  // Where nothing runs there is no side for a current to favour.
  return STRATEGIES.filter((s) => s !== 'current' || day.stream !== null).map((strategy) => {
    if (!counted) return { strategy, says: says(strategy, today, day.sort === 'coast'), places: null };
    const scores = Float32Array.from({ length: cells.count }, (_, i) => strategyScore(strategy, today, cells, i));
    const bar = Math.max(0.25, Float32Array.from(scores).sort()[Math.floor(cells.count * 0.9)] ?? 0);
    const chosen = new Set<number>();
    scores.forEach((s, i) => s >= bar && !Number.isNaN(cells.depth[i]) && chosen.add(i));
    return { strategy, says: says(strategy, today, day.sort === 'coast'), places: countPlaces(chosen, cells, indexOf) };
  });
}

/** The waves of the day: how high they get, and on which side of the water. */
export interface WaveBrief {
  highest: number;
  /** Compass direction from the middle of the water to the highest tenth, degrees; null in a calm. */
  side: number | null;
  /** What a stronger wind from there would build, m. */
  stronger: { wind: number; highest: number };
}

/** @returns null where no outline says how far the wind blows over water */
export function waveBrief(day: Day, cells: CellTable): WaveBrief | null {
  if (!cells.count) return null;
  const { windFrom, windSpeed } = day.conditions;
  const heights = waveHeights(cells, windFrom, windSpeed, day.maxDepth / 2);
  const order = Array.from({ length: cells.count }, (_, i) => i).sort((a, b) => heights[b] - heights[a]);
  const most = order.slice(0, Math.max(1, Math.floor(order.length / 10)));
  const middle = (list: number[]): [number, number] => [
    list.reduce((s, i) => s + cells.column[i], 0) / list.length,
    list.reduce((s, i) => s + cells.row[i], 0) / list.length,
  ];
  const [[cx, cy], [mx, my]] = [middle(order), middle(most)];
  const wind = Math.max(9, Math.ceil(windSpeed + 4));
  return {
    highest: heights[order[0]] ?? 0,
    side: windSpeed < 0.5 ? null : ((Math.atan2(mx - cx, my - cy) * 180) / Math.PI + 360) % 360,
    stronger: { wind, highest: waveHeights(cells, windFrom, wind, day.maxDepth / 2).reduce((a, b) => Math.max(a, b), 0) },
  };
}

export type CautionCode =
  'caution.waves.unknown' | 'caution.waves' | 'caution.waves.steep' | 'caution.cold' | 'caution.warm' | 'caution.deep';

export interface Caution {
  level: 'care' | 'warning';
  says: Statement<CautionCode>;
}

/** Fish released from below this depth often die of it, m. */
const DEEP_RELEASE = 8;

/** Cautions that follow from the conditions. They advise; local rules and the skipper decide. */
export function cautions(species: SpeciesProfile, day: Day, waves: WaveBrief | null, boatLength = 4.6): Caution[] {
  const out: Caution[] = [];
  const steep = waves !== null && waves.highest > boatLength / 10;
  out.push({
    level: steep ? 'warning' : 'care',
    says: waves
      ? statement(steep ? 'caution.waves.steep' : 'caution.waves', {
          highest: waves.highest,
          boat: boatLength,
          wind: waves.stronger.wind,
          then: waves.stronger.highest,
        })
      : statement('caution.waves.unknown'),
  });
  const surface = day.conditions.surface;
  if (surface < 12) out.push({ level: 'warning', says: statement('caution.cold', { surface }) });
  if (surface > species.handlingStress)
    out.push({ level: 'warning', says: statement('caution.warm', { limit: species.handlingStress, species: species.name }) });
  const window = strategyDay(species, day).window;
  if (!window.empty && window.bottom > DEEP_RELEASE) out.push({ level: 'care', says: statement('caution.deep', { depth: DEEP_RELEASE }) });
  return out;
}

/** In great heat, four rival readings of what the fish do, none taken for granted. */
export type HeatCode = 'heat.deeper' | 'heat.moving' | 'heat.weed' | 'heat.slower';

export interface HeatHypothesis {
  says: Statement<HeatCode>;
  places: number | null;
}

/** @returns an empty list while the surface is no warmer than the species seeks */
export function heatHypotheses(species: SpeciesProfile, day: Day, cells: CellTable): HeatHypothesis[] {
  if (day.conditions.surface <= species.preferred[1]) return [];
  const line = day.column.thermocline;
  const window = strategyDay(species, day).window;
  const indexOf = indexCells(cells);
  const counted = sounded(cells);
  const count = (fits: (i: number) => boolean): number | null =>
    !counted
      ? null
      : countPlaces(
          new Set(Array.from({ length: cells.count }, (_, i) => i).filter((i) => !Number.isNaN(cells.depth[i]) && fits(i))),
          cells,
          indexOf,
        );
  const low = line ? line.top - 1 : window.bottom - 2;
  return [
    {
      says: statement('heat.deeper', { bottom: window.bottom }),
      places: count((i) => cells.depth[i] >= low && cells.depth[i] <= window.bottom + 0.5),
    },
    {
      says: statement('heat.moving'),
      places: count((i) => cells.positionWide[i] < -1 && cells.depth[i] < window.bottom + 3),
    },
    { says: statement('heat.weed'), places: count((i) => cells.weedDistance[i] < 15) },
    {
      says: statement('heat.slower'),
      places: count((i) => cells.depth[i] >= window.top && cells.depth[i] <= window.bottom),
    },
  ];
}
