import type { LogContact } from './look-table';

/** What the screen shows of a target, and when, each as one of a few classes; null where nobody said. */
export interface Signs {
  form: string | null;
  density: string | null;
  core: string | null;
  /** In the column. */
  place: string | null;
  cover: string | null;
  /** Classes of how many, how deep, and quarters of the year from December on, by number. */
  count: string | null;
  depth: string | null;
  season: string | null;
}

export const SIGNS: (keyof Signs)[] = ['form', 'density', 'core', 'place', 'cover', 'count', 'depth', 'season'];

/** A target seen on a screen whose species was settled later, by a catch, a camera or an eye. */
export interface Settled {
  trip: string;
  signs: Signs;
  /** What it was taken for on the screen, and how sure; null where nobody said. */
  guessed: string | null;
  confidence: number | null;
  was: string;
}

/** Where in the column something stands: near the surface, in mid-water, near the bottom or on it. */
export function placeInColumn(contact: Pick<LogContact, 'top_m' | 'bottom_m' | 'water_depth_m'>): string | null {
  if (contact.top_m == null || contact.water_depth_m == null || !(contact.water_depth_m > 0)) return null;
  const middle = (contact.top_m + (contact.bottom_m ?? contact.top_m)) / 2;
  const over = contact.water_depth_m - middle;
  if (over < 0.6) return 'on the bottom';
  if (over < Math.min(2.5, 0.35 * contact.water_depth_m)) return 'near the bottom';
  return middle < 0.25 * contact.water_depth_m ? 'near the surface' : 'mid-water';
}

/** Edges of classes: a number falls into the first whose edge it lies below. */
const COUNTS = [2, 5, 20];
const DEPTHS = [3, 6, 10];
const classed = (value: number, edges: readonly number[]): string => {
  const k = edges.findIndex((edge) => value < edge);
  return String(k < 0 ? edges.length : k);
};

/** What a mark shows. */
export const signsOf = (
  c: Pick<LogContact, 'time' | 'form' | 'density' | 'core' | 'cover' | 'count' | 'top_m' | 'bottom_m' | 'water_depth_m'>,
): Signs => ({
  form: c.form,
  density: c.density,
  core: c.core,
  place: placeInColumn(c),
  cover: c.cover,
  count: c.count == null ? null : classed(c.count, COUNTS),
  depth: c.top_m == null ? null : classed((c.top_m + (c.bottom_m ?? c.top_m)) / 2, DEPTHS),
  season: String(Math.floor(((new Date(c.time).getUTCMonth() + 1) % 12) / 3)),
});
