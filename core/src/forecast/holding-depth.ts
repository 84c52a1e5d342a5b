import type { CellTable } from '../chart';
import type { SpeciesProfile } from '../species';
import type { DesignDay } from './design';
import type { SpeciesLook } from './look-likelihood';

/** Where in the column a target stood: its middle, the bottom under it, and the day's surface temperature. */
export interface HoldingObservation {
  depth: number;
  bottom: number;
  surface: number;
}

/** The newest this many targets speak for the depth. */
const MOST = 500;

export function holdingObservations(looks: SpeciesLook[], cells: CellTable): HoldingObservation[] {
  const out: (HoldingObservation & { at: number })[] = [];
  for (const { look, cell, day, odds } of looks)
    for (const [k, t] of look.targets.entries()) {
      if (!(odds[k] >= 0.5) || t.top == null) continue;
      const bottom = cells.depth[cell];
      const depth = (t.top + (t.bottom ?? t.top)) / 2;
      if (!Number.isNaN(bottom)) out.push({ depth, bottom: Math.max(bottom, depth), surface: day.conditions.surface, at: t.at });
    }
  return out
    .sort((a, b) => b.at - a.at)
    .slice(0, MOST)
    .map(({ depth, bottom, surface }) => ({ depth, bottom, surface }));
}

/** Step of the table, m. */
export const HOLDING_STEP = 0.25;

/** Before any log: fish spread over a share of the column that their habit suggests, inside the day's window. */
function guesses(species: SpeciesProfile, day: DesignDay, bottom: number): number[] {
  const { top, bottom: limit } = day.strategy.window;
  const floor = Math.min(bottom, Math.max(limit, top));
  const ceiling = Math.min(top, floor * 0.8);
  const shares = {
    bottom: [0.9, 0.95, 1],
    'near bottom': [0.65, 0.8, 0.9, 0.97],
    suspended: [0.3, 0.45, 0.6, 0.75],
    cover: [0.4, 0.6, 0.8, 0.9],
    surface: [0.05, 0.15, 0.3],
  }[species.place];
  return shares.map((s) => ceiling + (floor - ceiling) * s);
}

/**
 * Depths, m, between which 80 % of the targets would be, by depth of the bottom in steps of HOLDING_STEP.
 * Logged targets speak for like bottoms and temperatures (Gaussian weights): those near the bottom keep their
 * height over it, those high in the column keep their depth.
 */
export function holdingTable(
  observations: HoldingObservation[],
  species: SpeciesProfile,
  day: DesignDay,
  deepest: number,
): { top: Float32Array; bottom: Float32Array } {
  const count = Math.ceil(deepest / HOLDING_STEP) + 2;
  const top = new Float32Array(count);
  const bottom = new Float32Array(count);
  for (let k = 0; k < count; k++) {
    const floor = Math.max(0.3, k * HOLDING_STEP);
    const points: [depth: number, weight: number][] = guesses(species, day, floor).map((z) => [z, 0.5]);
    for (const o of observations) {
      const w = Math.exp(-0.5 * ((o.bottom - floor) / (0.8 + 0.15 * floor)) ** 2 - 0.5 * ((o.surface - day.surface) / 4) ** 2);
      if (w < 0.01) continue;
      const height = o.bottom - o.depth;
      const nearBottom = Math.min(1, Math.max(0, (3 - height) / 2));
      const z = nearBottom * (floor - height) + (1 - nearBottom) * Math.min(o.depth, floor - 0.2);
      points.push([Math.min(floor, Math.max(0.1, z)), w]);
    }
    points.sort((a, b) => a[0] - b[0]);
    [top[k], bottom[k]] = [quantile(points, 0.1), quantile(points, 0.9)];
  }
  return { top, bottom };
}

function quantile(points: [number, number][], q: number): number {
  const total = points.reduce((s, p) => s + p[1], 0);
  let run = 0;
  for (const [value, weight] of points) {
    run += weight;
    if (run >= q * total) return value;
  }
  return points[points.length - 1][0];
}
