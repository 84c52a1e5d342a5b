import { distanceToSegment, type Point } from './plane';

/**
 * A line without the points that lie within a tolerance of it. Source: Douglas & Peucker 1973.
 * @param tolerance m
 */
export function simplifyLine(points: Point[], tolerance: number): Point[] {
  if (points.length < 3) return points;
  const keep = new Uint8Array(points.length);
  keep[0] = keep[points.length - 1] = 1;
  const spans: [number, number][] = [[0, points.length - 1]];
  for (let span = spans.pop(); span; span = spans.pop()) {
    const [a, b] = span;
    let [far, at] = [tolerance, -1];
    for (let i = a + 1; i < b; i++) {
      const d = distanceToSegment(points[i], points[a], points[b]);
      if (d > far) [far, at] = [d, i];
    }
    if (at < 0) continue;
    keep[at] = 1;
    spans.push([a, at], [at, b]);
  }
  return points.filter((_, i) => keep[i]);
}
