import type { Point } from '@restless-shoal/core/geo';
import type { Random } from './random';

/** Something that rises from the bottom of a made-up water. Metres. */
export interface Rise {
  x: number;
  y: number;
  radius: number;
  height: number;
  /** A bank of sand or mud: no harder than the ground about it. */
  soft?: boolean;
}

export interface CoverThing {
  kind: 'cover' | 'weed' | 'hazard' | 'access';
  cover: string | null;
  /** One point, or the corners of an area. */
  points: Point[];
}

/** How the water of a made-up river runs at a place. */
export interface Flow {
  /** Against the mean: to the east and to the north. */
  along: [east: number, north: number];
  /** Metres from the seam behind a spur; null far from any. */
  seam: number | null;
  eddy: boolean;
}

/** The bare bottom of a made-up water, before humps. Metres, local to its corner. */
export interface Shape {
  width: number;
  height: number;
  /** Depth, m; zero or less on land and on ground that falls dry. */
  flatDepth: (x: number, y: number) => number;
  /** 1 at a drowned channel, 0 away from it. */
  channelAt: (x: number, y: number) => number;
  /** Height of the shore line over where depths are 0, m: high water of a coast; else 0. */
  shore?: number;
  /** About where boats are launched. */
  launch: Point;
  /** How a river runs at a place. */
  flowAt?: (x: number, y: number) => Flow;
  /** Rises of its own, before any that are put in by chance, and up to how many there are in all (16). */
  rises?: Rise[];
  most?: number;
  /** Its cover, in place of what stands in a drowned valley. */
  cover?: (depth: (x: number, y: number) => number, random: Random) => CoverThing[];
}

/** Depth of a valley of a given half-width and middle depth, at a distance from its line; negative on land. */
export const valley = (deep: number, wide: number, off: number): number => deep * (1 - (off / wide) ** 1.7);
