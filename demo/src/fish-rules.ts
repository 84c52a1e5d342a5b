import type { StreamNow } from '@restless-shoal/core/tide';
import type { Weather } from './climate';
import type { Random } from './random';

/** A place of the world with what fish care about. */
export interface Ground {
  x: number;
  y: number;
  depth: number;
  hard: number;
  channel: number;
  wood: number;
  weed: number;
  /** How much higher than the water round it, m. */
  rise: number;
  /** How far the shore lies in each of eight directions, m. */
  reach: number[];
  /** Which way the bottom rises, metres per metre to the east and north. */
  uphill: [east: number, north: number];
  /** The way to the nearest cover, of length one; nothing at the cover itself and far from any. */
  toCover: [east: number, north: number];
  /** How the water runs here in a river, against its mean: to the east and north; and how near a seam is, 0–1. */
  flow: [east: number, north: number] | null;
  seam: number;
}

/** What a species knows of a day before it chooses its places. */
export interface Setting {
  weather: Weather;
  /** Height of the sun, degrees. */
  sun: number;
  /** The surface is warmer than twelve days before. */
  rising: boolean;
  /** Depth below which the oxygen is gone, m; 40 where it is not. */
  floor: number;
  /** Water that runs, with the tide or as a river; null in a lake. */
  stream: StreamNow | null;
  /** Hours from high water; 0 where there is no tide. */
  fromHigh: number;
  /** How far the water stands over its datum by the tide, m. */
  tide: number;
}

/** How strongly the water runs at a place, and whether the place is up-stream of a rise (face) and of cover (cover): 1 fully, −1 behind it. */
export function runOf(g: Ground, { stream }: Pick<Setting, 'stream'>): { strong: number; face: number; cover: number } {
  if (!stream) return { strong: 0, face: 0, cover: 0 };
  const [fe, fn] = g.flow ?? [Math.sin((stream.set * Math.PI) / 180), Math.cos((stream.set * Math.PI) / 180)];
  const own = Math.max(1e-6, Math.hypot(fe, fn));
  const [e, n] = [fe / own, fn / own];
  const strong = Math.min(1, (own * stream.rate) / 0.8);
  const along = 12 * (e * g.uphill[0] + n * g.uphill[1]);
  return {
    strong,
    face: strong * Math.min(1, Math.max(-1, along)),
    cover: strong * (e * g.toCover[0] + n * g.toCover[1]),
  };
}

/** One kind of fish in a made-up water: where it goes, how it stands, how it is read and what it takes. */
export interface FishKind {
  name: string;
  bait: boolean;
  /** Mean packs on the whole water. */
  packs: number;
  /** Fish in a pack. */
  count: [min: number, max: number];
  /** Seed of its lasting places, and how much they count (log scale). */
  places: number;
  lasting?: number;
  /** How much it wants a place, before its lasting places and the day's own chance. */
  want: (g: Ground, s: Setting, blown: number) => number;
  /** Depth of a pack's middle, m, before it is kept inside the water. */
  depth: (water: number, s: Setting, random: Random) => number;
  /** How many times as much it wants a place with bait. */
  food: number;
  /** Bites a minute of a rod. */
  bites: number;
  /** Mean and spread of its length, m. */
  length: [mean: number, spread: number];
  form: string[];
  core: string[];
  /** What a mark of it is taken for, and how often. */
  takenFor: [name: string, share: number][];
  /** How much likelier large fish get with each metre below 5 m. */
  largerBelow: number;
}

/** All that lives in a made-up water, bait first: the others look for it. */
export type FishRules = FishKind[];

/** 1 at a mean depth, falling off to both sides. */
export const bell = (depth: number, mean: number, spread: number): number => Math.exp(-0.5 * ((depth - mean) / spread) ** 2);

/** Under a ceiling and above the bottom, so many metres up on average. */
export const overBottom =
  (spread: number) =>
  (water: number, { weather }: Setting, random: Random): number => {
    const ceiling = weather.thermocline != null && weather.deepOxygen < 4 ? weather.thermocline : water;
    return Math.min(water, ceiling) - Math.abs(random.normal(0, spread)) - 0.15;
  };
