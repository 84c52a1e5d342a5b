import type { ChartFeature } from '../../src/chart';
import type { Point } from '../../src/geo';
import type { Planted, SoundedWater } from './sounded-water';

/** How well a kind of planted thing was found. */
export interface Score {
  planted: number;
  found: number;
  claimed: number;
  right: number;
  /** Area claimed, m². */
  area: number;
}

const distanceTo = (at: Point[], x: number, y: number): number => Math.min(...at.map((p) => Math.hypot(p[0] - x, p[1] - y)));

/** Area that a claim covers: of its ring, or of a band of 10 m round its line. */
function areaOf({ edge, size }: ChartFeature): number {
  if (edge.type === 'line') return 20 * size;
  const { ring } = edge;
  return Math.abs(
    ring.reduce(
      (sum, [x, y], i) => sum + ring[(i + ring.length - 1) % ring.length][0] * y - x * ring[(i + ring.length - 1) % ring.length][1],
      0,
    ) / 2,
  );
}

/**
 * Holds the claims of a kind against what was planted. A planted thing is found when a claim's middle lies near it (a
 * ledge: when half of its length lies near a claimed line); a claim is right when it lies near a planted thing.
 */
export function score(water: SoundedWater, claims: ChartFeature[], kind: Planted['kind']): Score {
  const planted = water.planted.filter((p) => p.kind === kind);
  const own = claims.filter((c) => c.kind === kind);
  const pointsOf = (c: ChartFeature): Point[] => (kind === 'ledge' && c.edge.type === 'line' ? c.edge.points : [[c.x, c.y]]);
  const found = planted.filter((p) => {
    const near = p.at.filter(([x, y]) => own.some((c) => distanceTo(pointsOf(c), x, y) <= p.near));
    return near.length >= p.at.length / 2;
  });
  const right = own.filter((c) => {
    const points = pointsOf(c);
    return planted.some((p) => points.filter(([x, y]) => distanceTo(p.at, x, y) <= p.near).length >= points.length / 2);
  });
  return {
    planted: planted.length,
    found: found.length,
    claimed: own.length,
    right: right.length,
    area: own.reduce((sum, c) => sum + areaOf(c), 0),
  };
}

/** Scores of one kind over several waters. */
export function addScore(sum: Score | undefined, one: Score): Score {
  if (!sum) return { ...one };
  for (const key of Object.keys(one) as (keyof Score)[]) sum[key] += one[key];
  return sum;
}
