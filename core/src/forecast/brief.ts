import { waveHeights, type CellTable } from '../chart';
import type { SpeciesProfile } from '../species';
import type { Day } from './conditions';
import { indexCells, regionFrom } from './region';
import { SCHOOL_NAMES, SCHOOLS, schoolDay, schoolScore, type School, type SchoolDay } from './schools';

/** What a school would do today, with how many places it names. */
export interface SchoolPlan {
  school: School;
  name: string;
  words: string;
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

function words(school: School, d: SchoolDay): string {
  const m = (v: number): string => `${v.toFixed(1)} m`;
  switch (school) {
    case 'depth':
      return `bottom near ${m(d.holding)}`;
    case 'comfort':
      return d.window.empty ? 'no depth suits today' : `where the bottom meets ${m(d.window.bottom)}`;
    case 'bottom':
      return 'hard bottom and its edges';
    case 'structure':
      return `humps, points, drop-offs at ${m(d.holding)}`;
    case 'cover':
      return d.species.drawnTo.weed > d.species.drawnTo.wood ? 'weed, then timber and brush' : 'timber and brush, then weed';
    case 'bait':
      return d.windSpeed < 1 ? 'no wind to say where it drifts' : 'the wind-blown side';
    case 'quiet':
      return 'away from shore and ramp';
    case 'known':
      return 'what stands out on the chart';
  }
}

/** One line for each school: what it would do today and how many places it has. A place scores in the best tenth, and well. */
export function schoolPlans(species: SpeciesProfile, day: Day, cells: CellTable): SchoolPlan[] {
  const today = schoolDay(species, day);
  const indexOf = indexCells(cells);
  const counted = sounded(cells);
  return SCHOOLS.map((school) => {
    if (!counted) return { school, name: SCHOOL_NAMES[school], words: words(school, today), places: null };
    const scores = Float32Array.from({ length: cells.count }, (_, i) => schoolScore(school, today, cells, i));
    const bar = Math.max(0.25, Float32Array.from(scores).sort()[Math.floor(cells.count * 0.9)] ?? 0);
    const chosen = new Set<number>();
    scores.forEach((s, i) => s >= bar && !Number.isNaN(cells.depth[i]) && chosen.add(i));
    return { school, name: SCHOOL_NAMES[school], words: words(school, today), places: countPlaces(chosen, cells, indexOf) };
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

export interface Caution {
  level: 'care' | 'warning';
  title: string;
  words: string;
}

/** Cautions that follow from the conditions. They advise; local rules and the skipper decide. */
export function cautions(species: SpeciesProfile, day: Day, waves: WaveBrief | null, boatLength = 4.6): Caution[] {
  const out: Caution[] = [];
  const m = (v: number): string => `${v.toFixed(1)} m`;
  const steep = waves !== null && waves.highest > boatLength / 10;
  const weather = { level: steep ? ('warning' as const) : ('care' as const), title: 'Arithmetic, not a weather forecast.' };
  if (!waves)
    out.push({
      ...weather,
      words: 'How high the waves get is not worked out without an outline. A sheltered shore hides the sea outside. The skipper decides.',
    });
  else
    out.push({
      ...weather,
      words: `Now up to ${m(waves.highest)} of wave${steep ? `: short and steep for a boat of ${m(boatLength)}` : ''}; at ${waves.stronger.wind} m/s from there up to ${m(waves.stronger.highest)}. A sheltered shore hides the sea outside. The skipper decides.`,
    });
  const surface = day.conditions.surface;
  if (surface < 12)
    out.push({ level: 'warning', title: 'Cold water.', words: `At ${surface.toFixed(1)} °C it kills fast: life-jacket on.` });
  if (surface > species.handlingStress)
    out.push({
      level: 'warning',
      title: 'Warm water.',
      words: `Above ${species.handlingStress} °C many released ${species.name} do not live: stop, or keep them in the water. Check the rules for this water.`,
    });
  const window = schoolDay(species, day).window;
  if (!window.empty && window.bottom > 8)
    out.push({
      level: 'care',
      title: 'Deep fish.',
      words: 'Released from below 8 m many do not live. Do not target deep fish for release; check the rules for this water.',
    });
  return out;
}

/** In great heat, four rival readings of what the fish do, none taken for granted. */
export interface HeatHypothesis {
  name: string;
  words: string;
  places: number | null;
}

/** @returns an empty list while the surface is no warmer than the species seeks */
export function heatHypotheses(species: SpeciesProfile, day: Day, cells: CellTable): HeatHypothesis[] {
  if (day.conditions.surface <= species.preferred[1]) return [];
  const line = day.column.thermocline;
  const window = schoolDay(species, day).window;
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
      name: 'Deeper',
      words: `down to the lower edge of the window (${window.bottom.toFixed(1)} m), not below it`,
      places: count((i) => cells.depth[i] >= low && cells.depth[i] <= window.bottom + 0.5),
    },
    {
      name: 'Moving water',
      words: 'to the channel, inflows and where the wind stirs',
      places: count((i) => cells.positionWide[i] < -1 && cells.depth[i] < window.bottom + 3),
    },
    { name: 'Weed', words: 'into living weed in daylight', places: count((i) => cells.weedDistance[i] < 15) },
    {
      name: 'Only slower',
      words: 'the same places as before, fewer bites: saturated water still holds oxygen enough',
      places: count((i) => cells.depth[i] >= window.top && cells.depth[i] <= window.bottom),
    },
  ];
}
