import { CELL, cellKey } from '../geo';
import type { Look } from '../logbook';
import { logScore } from './scores';

/** A forecast as it was shown, kept to be held against what the trip saw. */
export interface Outlook {
  species: string;
  /** When it was shown, ms. */
  at: number;
  /** Cells of the water, and the chance that one scan of each shows the species. */
  columns: number[];
  rows: number[];
  chances: number[];
  /** The best places, each as its cells. */
  places: { name: string; chance: number; cells: [column: number, row: number][] }[];
}

/** What a trip saw of what was forecast. */
export interface Outcome {
  species: string;
  /** Best places that were named, and how many of them were looked at. */
  places: number;
  placesLooked: number;
  /** Scans that were judged. */
  looks: number;
  /** Contacts that the forecast expected on the water that was scanned, with an 80 % interval of their number, and those seen. */
  expected: number;
  low: number;
  high: number;
  saw: number;
  /** Log score a look, of the forecast and of saying the same everywhere; higher is better. */
  logScore: number;
  evenScore: number;
}

/** Packs come in bunches: the variance of a count is so many times its mean. */
const BUNCHED = 1.5;

/**
 * Holds a forecast against the scans of the trip that were made after it was shown. Contacts are counted as the log
 * names them. What was expected is for the water that was scanned, however good or poor.
 * @param isSpecies whether a name in the log means the species
 */
export function outcomeOf(outlook: Outlook, looks: Look[], isSpecies: (name: string) => boolean): Outcome {
  const chanceAt = new Map(outlook.columns.map((c, i) => [cellKey(c, outlook.rows[i]), outlook.chances[i]]));
  const looked = new Set<number>();
  let [expected, saw, own, even, n] = [0, 0, 0, 0, 0];
  const judged: [rate: number, seen: number][] = [];
  for (const look of looks) {
    if (look.to < outlook.at) continue;
    const key = cellKey(look.column, look.row);
    looked.add(key);
    const chance = chanceAt.get(key);
    if (look.kind !== 'scan' || chance === undefined) continue;
    const rate = -Math.log1p(-Math.min(0.999, chance)) * (look.effort / (CELL * CELL));
    const here = look.targets.filter((t) => t.kind === 'fish' && t.species != null && isSpecies(t.species)).length;
    expected += rate;
    saw += here;
    judged.push([rate, here ? 1 : 0]);
    n++;
  }
  const mean = judged.reduce((s, [, seen]) => s + seen, 0) / Math.max(1, n);
  for (const [rate, seen] of judged) {
    own += logScore(-Math.expm1(-rate), seen);
    even += logScore(mean, seen);
  }
  const reach = 1.2815515655 * Math.sqrt(BUNCHED * expected);
  return {
    species: outlook.species,
    places: outlook.places.length,
    placesLooked: outlook.places.filter(({ cells }) => cells.some(([c, r]) => looked.has(cellKey(c, r)))).length,
    looks: n,
    expected,
    low: Math.max(0, expected - reach),
    high: expected + reach,
    saw,
    logScore: n ? own / n : 0,
    evenScore: n ? even / n : 0,
  };
}
