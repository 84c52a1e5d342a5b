import type { ChartFeature } from '@restless-shoal/core/chart';

/** A mark of the log on the map, m. */
export interface MapMark {
  id: string;
  kind: string;
  x: number;
  y: number;
}

/** A numbered place on it, m. */
export interface MapPlace {
  number: number;
  x: number;
  y: number;
}

/** What a press on the map hit. */
export interface MapHit {
  place: number | null;
  shape: ChartFeature | null;
  /** Id of a mark. */
  mark: string | null;
  /** A spot, or a mark that somebody sent. */
  sign: string | null;
}

/** The chance layer: one value a cell, and the chance that is painted fully. */
export interface ChanceLayer {
  probability: Float32Array;
  low: Float32Array;
  high: Float32Array;
  full: number;
  /** Where it is to show a change instead: by how much each chance rises or falls. */
  change?: Float32Array;
}
