import type { Point } from '../../geo';

/** The field's names for shapes that hold fish. */
export const FEATURE_KINDS = [
  'hump',
  'hole',
  'point',
  'inside turn',
  'ledge',
  'saddle',
  'channel',
  'channel swing',
  'flat',
  'irregularity',
  'hard spot',
  'hard-to-soft edge',
  // On the coast.
  'reef',
  'bank',
  'drop-off',
  'gully',
  // In a river.
  'eddy',
  'seam',
] as const;
export type FeatureKind = (typeof FEATURE_KINDS)[number];

/** A shape of the bottom with a name and an edge, in metres of the water's plane. */
export interface ChartFeature {
  kind: FeatureKind;
  /** Where one would put the marker: a top, a lip, the outside of a bend. */
  x: number;
  y: number;
  /** Depth there, m below datum. */
  depth: number;
  /**
   * How much it stands out: height of a hump, drop of a ledge, depth of a channel below its shoulders, m; contrast of
   * a hard spot or an edge, 0–1.
   */
  rise: number;
  /** How far it reaches: diameter, or length of a line, m. */
  size: number;
  /** How sharp its edge is: steepest fall, metres per metre (of hardness: per metre). */
  sharpness: number;
  /** 0–1: how far above the least that would be named, and how near to soundings. */
  confidence: number;
  edge: { type: 'area'; ring: Point[] } | { type: 'line'; points: Point[] };
}

/** 0.5 at the least that is named, rising towards 1 with how far it lies above. */
export const confidenceOf = (value: number, min: number, support: number): number =>
  Math.max(0.05, Math.min(0.99, (1 - 0.5 * Math.exp(-(value - min) / min)) * support));
