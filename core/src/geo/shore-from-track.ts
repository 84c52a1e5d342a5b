import type { Point } from './plane';
import { ringsArea, type Rings } from './outline';

/** Why a track is no shore: 'short' holds too few places, 'open' does not come back to where it began. */
export type NoShore = 'short' | 'open';

/** Places closer than this tell nothing more of a shore, m; and at most so many corners are kept. */
const LEAST_STEP = 4;
const MOST_CORNERS = 800;
/** Ends further apart than this share of the way, or this many metres, do not close. */
const CLOSES = { share: 0.2, metres: 250 };
const LEAST_AREA = 400;

/** A track thinned to steps of at least so many metres. */
function thinned(track: Point[], step: number): Point[] {
  const out: Point[] = [];
  for (const p of track) {
    const last = out.at(-1);
    if (!last || Math.hypot(p[0] - last[0], p[1] - last[1]) >= step) out.push(p);
  }
  return out;
}

/** Where two segments cross, strictly inside both; null where they do not. */
function crossing([ax, ay]: Point, [bx, by]: Point, [cx, cy]: Point, [dx, dy]: Point): Point | null {
  const [rx, ry, sx, sy] = [bx - ax, by - ay, dx - cx, dy - cy];
  const det = rx * sy - ry * sx;
  if (Math.abs(det) < 1e-12) return null;
  const [t, u] = [((cx - ax) * sy - (cy - ay) * sx) / det, ((cx - ax) * ry - (cy - ay) * rx) / det];
  return t > 1e-9 && t < 1 - 1e-9 && u > 1e-9 && u < 1 - 1e-9 ? [ax + t * rx, ay + t * ry] : null;
}

/** The largest loop of a closed line that does not cross itself. */
function largestLoop(ring: Point[]): Point[] {
  const loops: Point[][] = [];
  const open = [ring];
  while (open.length) {
    const line = open.pop()!;
    let cut: [Point[], Point[]] | null = null;
    search: for (let i = 0; i < line.length && !cut; i++)
      for (let j = i + 2; j < line.length; j++) {
        if (i === 0 && j === line.length - 1) continue;
        const at = crossing(line[i], line[i + 1], line[j], line[(j + 1) % line.length]);
        if (!at) continue;
        cut = [
          [at, ...line.slice(i + 1, j + 1)],
          [...line.slice(0, i + 1), at, ...line.slice(j + 1)],
        ];
        break search;
      }
    if (cut) open.push(...cut.filter((part) => part.length > 2));
    else loops.push(line);
  }
  return loops.reduce((a, b) => (ringsArea([b]) > ringsArea([a]) ? b : a));
}

/**
 * The shore that a boat drove along: its track closed to a ring, without the loops where it turned or crossed itself.
 * @param track places in the order of time, m in the water's plane
 * @returns one ring, or why there is none
 */
export function shoreFromTrack(track: Point[]): { rings: Rings } | { fault: NoShore } {
  let line = thinned(track, LEAST_STEP);
  for (let step = LEAST_STEP * 1.5; line.length > MOST_CORNERS; step *= 1.5) line = thinned(track, step);
  if (line.length < 4) return { fault: 'short' };
  // A way round that was gone on with beyond its beginning closes where it came nearest to it.
  const length = line.reduce((sum, p, i) => (i ? sum + Math.hypot(p[0] - line[i - 1][0], p[1] - line[i - 1][1]) : 0), 0);
  let end = line.length - 1;
  let gap = Infinity;
  for (let i = Math.floor(line.length / 2); i < line.length; i++) {
    const apart = Math.hypot(line[i][0] - line[0][0], line[i][1] - line[0][1]);
    if (apart < gap) [gap, end] = [apart, i];
  }
  if (gap > Math.max(20, Math.min(CLOSES.metres, CLOSES.share * length))) return { fault: 'open' };
  const ring = largestLoop(line.slice(0, end + 1));
  return ring.length < 3 || ringsArea([ring]) < LEAST_AREA ? { fault: 'short' } : { rings: [ring] };
}
