import type { ChartFeature, FeatureKind } from '@restless-shoal/core/chart';

export interface ShapeFilter {
  /** Kinds shown; empty: all. */
  kinds: FeatureKind[];
  depth: [number, number];
  /** Least size, m. */
  size: number;
}

/** The shapes that pass, surest first; of those as sure, the one that stands out most. */
export function filterShapes(shapes: ChartFeature[], { kinds, depth, size }: ShapeFilter): ChartFeature[] {
  // A kind that this water has none of narrows nothing down.
  const wanted = kinds.filter((kind) => shapes.some((s) => s.kind === kind));
  return shapes
    .filter((s) => (!wanted.length || wanted.includes(s.kind)) && s.depth >= depth[0] && s.depth <= depth[1] && s.size >= size)
    .sort((a, b) => Math.round(20 * (b.confidence - a.confidence)) || b.rise * Math.sqrt(b.size) - a.rise * Math.sqrt(a.size));
}

/** Shown until somebody chooses otherwise: what one would put a boat on. The rest is a press away. */
export const FIRST_KINDS: FeatureKind[] = [
  'hump',
  'hole',
  'point',
  'ledge',
  'saddle',
  'channel swing',
  'reef',
  'bank',
  'drop-off',
  'gully',
  'eddy',
  'seam',
];
