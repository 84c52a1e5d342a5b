import { buildChart } from '../../src/chart';
import { dayFor, type Conditions, type FitLook, type SpeciesLook, type WaterFrame } from '../../src/forecast';
import type { Point } from '../../src/geo';
import type { Look } from '../../src/logbook';
import { seeded } from '../../src/numbers';
import { defaultSpecies } from '../../src/species';
import { seenTarget } from './seen-target';

// A small lake with three humps, and logs in which fish like a depth as much as a test wants them to.
export const zander = defaultSpecies.find((s) => s.name === 'zander')!;
const lake: Point[][] = [
  [
    [500000, 0],
    [501500, 0],
    [501500, 600],
    [500000, 600],
  ],
];
/** Three humps alike, and a flat bottom that slopes from the shore. */
export const HUMPS: Point[] = [
  [500350, 300],
  [500750, 300],
  [501150, 300],
];
const bottom = (x: number, y: number): number =>
  Math.min(9, Math.min(x - 500000, 501500 - x, y, 600 - y) / 12) -
  HUMPS.reduce((s, [hx, hy]) => s + 3.2 * Math.exp(-((x - hx) ** 2 + (y - hy) ** 2) / (2 * 40 ** 2)), 0);
const grid = { x: [] as number[], y: [] as number[], depth: [] as number[], hardness: [] as number[] };
for (let y = 10; y < 600; y += 20)
  for (let x = 500010; x < 501500; x += 20) {
    grid.x.push(x);
    grid.y.push(y);
    grid.depth.push(bottom(x, y));
    grid.hardness.push(0.5);
  }
export const { cells } = buildChart(32625, lake, grid);
export const frame: WaterFrame = { latitude: 55, longitude: -34, altitude: 200, deepest: 9, lengthKm: 1.7 };
export const conditions = (more: Partial<Conditions> = {}): Conditions => ({
  at: new Date('2026-07-20T12:00:00Z'),
  surface: 19,
  trend: 0.1,
  secchi: 1.6,
  windFrom: 270,
  windSpeed: 4,
  level: null,
  levelTrend: null,
  thermoclineSet: null,
  ...more,
});
export const day = dayFor(conditions(), frame);
export const indexAt = (x: number, y: number): number =>
  Array.from({ length: cells.count }, (_, i) => i).find(
    (i) => cells.column[i] === Math.floor(x / 25) && cells.row[i] === Math.floor(y / 25),
  )!;

export const look = (cell: number, seen: number, more: Partial<Look> = {}): Look => ({
  column: cells.column[cell],
  row: cells.row[cell],
  visit: 0,
  kind: 'scan',
  from: Date.parse('2026-07-20T10:00:00Z'),
  to: Date.parse('2026-07-20T10:05:00Z'),
  effort: 500,
  area: 500,
  view: null,
  reach: null,
  targets: Array.from({ length: seen }, (_, k) => seenTarget({ target: `${cell} ${k}`, top: 4.5, bottom: 5.5 })),
  ...more,
});
/** Every mark is taken at its word. */
export const certain = (looks: FitLook[]): SpeciesLook[] => looks.map((l) => ({ ...l, odds: l.look.targets.map(() => 1) }));

/** A log in which cells of 4–6 m hold `factor` times as many fish as the others. */
export function log(trips: number, looksEach: number, factor: number, seed: number, rate = 0.05): FitLook[] {
  const random = seeded(seed);
  const out: FitLook[] = [];
  for (let trip = 0; trip < trips; trip++) {
    const mood = Math.exp(0.4 * (random() + random() + random() - 1.5));
    for (let k = 0; k < looksEach; k++) {
      const cell = Math.floor(random() * cells.count);
      const liked = cells.depth[cell] > 4 && cells.depth[cell] < 6;
      const mu = rate * mood * (liked ? factor : 1) * 0.8;
      out.push({ look: look(cell, random() < 1 - Math.exp(-mu) ? 1 : 0), cell, trip, day });
    }
  }
  return out;
}
export const mean = (values: ArrayLike<number>, keep: (i: number) => boolean = () => true): number => {
  let [s, n] = [0, 0];
  for (let i = 0; i < values.length; i++)
    if (keep(i)) {
      s += values[i];
      n++;
    }
  return s / n;
};
export const liked = (i: number): boolean => cells.depth[i] > 4 && cells.depth[i] < 6;
