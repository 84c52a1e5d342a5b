import { sawSpecies } from '@restless-shoal/core/forecast';
import { cellKey } from '@restless-shoal/core/geo';
import { selection, type SelectionClass } from '@restless-shoal/core/patterns';
import { findSpecies, type SpeciesProfile } from '@restless-shoal/core/species';
import type { Chart } from '@restless-shoal/core/chart';
import type { TripLooks } from '../../api/queries';

/** Selection of bottom depth by a species, a class a metre; the last class takes all that is deeper. */
export interface DepthSelection {
  classes: (SelectionClass & { from: number; to: number })[];
  looks: number;
  trips: number;
  targets: number;
  hectares: number;
  outside: number;
}

const LAST = 16;

/** Where a species was seen by depth of the bottom, against where the boat scanned, within each trip. */
export function depthSelection(
  trips: TripLooks[],
  chart: Chart,
  cellIndex: Map<number, number>,
  species: SpeciesProfile,
  known: SpeciesProfile[],
): DepthSelection {
  const is = (name: string): boolean => findSpecies(name, known)?.name === species.name;
  const rows = trips.flatMap(({ looks }, trip) =>
    looks.flatMap((look) => {
      const cell = cellIndex.get(cellKey(look.column, look.row));
      const depth = cell === undefined ? NaN : chart.cells.depth[cell];
      if (look.kind !== 'scan' || Number.isNaN(depth)) return [];
      const used = sawSpecies(look, is) ? look.targets.filter((t) => t.kind === 'fish' && t.species && is(t.species)).length : 0;
      return [{ trip, class: Math.min(LAST, Math.floor(depth)), effort: look.effort / 10_000, used }];
    }),
  );
  const classes = selection(rows, { classes: LAST + 1 });
  return {
    classes: classes
      .map((c) => ({ ...c, from: c.class, to: c.class === LAST ? Math.ceil(chart.deepest) : c.class + 1 }))
      .filter((c) => c.looks > 0),
    looks: rows.length,
    trips: new Set(rows.map((r) => r.trip)).size,
    targets: rows.reduce((s, r) => s + r.used, 0),
    hectares: rows.reduce((s, r) => s + r.effort, 0),
    outside: trips.reduce((s, t) => s + t.outside, 0),
  };
}

/** Fewest targets and trips for which a pattern is spoken of. */
export const LEAST_TARGETS = 12;
export const LEAST_TRIPS = 4;

/** The neighbouring classes that are surely chosen (their whole interval above 1), widest run first; null when there are none. */
export function chosenRun(classes: DepthSelection['classes']): { from: number; to: number } | null {
  let best: { from: number; to: number; used: number } | null = null;
  let run: { from: number; to: number; used: number } | null = null;
  for (const c of classes) {
    if (c.low > 1) {
      run = run && run.to === c.from ? { from: run.from, to: c.to, used: run.used + c.used } : { from: c.from, to: c.to, used: c.used };
      if (!best || run.used > best.used) best = run;
    } else run = null;
  }
  return best && { from: best.from, to: best.to };
}

/** The shortest run of classes that holds at least half of what the boat scanned. */
export function mostlyLooked(classes: DepthSelection['classes']): { from: number; to: number } | null {
  const total = classes.reduce((s, c) => s + c.effort, 0);
  let best: { from: number; to: number } | null = null;
  for (let a = 0; a < classes.length; a++) {
    let sum = 0;
    for (let b = a; b < classes.length; b++) {
      sum += classes[b].effort;
      if (sum >= total / 2) {
        if (!best || classes[b].to - classes[a].from < best.to - best.from) best = { from: classes[a].from, to: classes[b].to };
        break;
      }
    }
  }
  return best;
}
