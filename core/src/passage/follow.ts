import { distanceToSegment, lineLength, type Point } from '../geo';

/** Where a boat is on a run of lines that it follows. */
export interface Following {
  /** Which line it is on. */
  line: number;
  /** Metres off it: to starboard of it (+) or to port (−). */
  off: number;
  /** To the end of the line, m. */
  toEnd: number;
  /** Direction in which to go now, degrees from grid north: along the line, leaning back to it. */
  steer: number;
  /** Turn at the end: degrees to starboard (+) or port (−); null after the last. */
  turn: number | null;
  /** Share of all lines done, by length. */
  done: number;
  finished: boolean;
}

/** How far ahead on the line it aims, m. */
const AHEAD = 15;
/** Nearer to its end than this a line is done, m. */
const AT_END = 6;

const heading = ([xa, ya]: Point, [xb, yb]: Point): number => ((Math.atan2(xb - xa, yb - ya) * 180) / Math.PI + 360) % 360;

/**
 * Where a boat is on a run: kept from fix to fix, since a place alone does not tell which of two passes side by side is meant.
 * The boat goes on to the next line at the end of one, or when it is nearer to the next one's beginning and past this one's middle.
 */
export class Follower {
  private line: number;
  private readonly lengths: number[];

  constructor(
    readonly lines: Point[][],
    line = 0,
  ) {
    this.line = Math.min(line, Math.max(0, lines.length - 1));
    this.lengths = lines.map(lineLength);
  }

  at(place: Point): Following | null {
    if (!this.lines.length) return null;
    let now = this.along(place);
    while (this.line + 1 < this.lines.length && this.isDone(place, now)) {
      this.line++;
      now = this.along(place);
    }
    const total = this.lengths.reduce((a, b) => a + b, 0);
    const before = this.lengths.slice(0, this.line).reduce((a, b) => a + b, 0);
    const own = this.lengths[this.line];
    const toEnd = Math.max(0, own - now.along);
    const finished = this.line === this.lines.length - 1 && toEnd < AT_END;
    const next = this.lines[this.line + 1];
    const points = this.lines[this.line];
    const aim = now.off > 3 * AHEAD && now.along < AHEAD ? points[0] : this.pointAt(now.along + AHEAD);
    const end = heading(points[points.length - 2] ?? points[0], points[points.length - 1]);
    return {
      line: this.line,
      off: now.side * now.off,
      toEnd,
      steer: Math.hypot(aim[0] - place[0], aim[1] - place[1]) > 0.5 ? heading(place, aim) : end,
      turn: next ? ((heading(points[points.length - 1], next[0]) - end + 540) % 360) - 180 : null,
      done: total > 0 ? Math.min(1, (before + now.along) / total) : 0,
      finished,
    };
  }

  private isDone(place: Point, now: { along: number }): boolean {
    const own = this.lengths[this.line];
    if (own - now.along < AT_END) return true;
    const next = this.lines[this.line + 1][0];
    const end = this.lines[this.line].at(-1)!;
    const away = Math.hypot(place[0] - next[0], place[1] - next[1]);
    return now.along > own / 2 && away < Math.hypot(place[0] - end[0], place[1] - end[1]) && away < 4 * AT_END;
  }

  private pointAt(along: number): Point {
    const points = this.lines[this.line];
    let left = along;
    for (let i = 1; i < points.length; i++) {
      const [[xa, ya], [xb, yb]] = [points[i - 1], points[i]];
      const length = Math.hypot(xb - xa, yb - ya);
      if (left <= length) return [xa + ((xb - xa) * left) / (length || 1), ya + ((yb - ya) * left) / (length || 1)];
      left -= length;
    }
    return points[points.length - 1];
  }

  /** The nearest place on the line, from its beginning, and how far off. */
  private along(place: Point): { along: number; off: number; side: 1 | -1 } {
    const points = this.lines[this.line];
    let best = { along: 0, off: Infinity, side: 1 as 1 | -1 };
    let before = 0;
    for (let i = 1; i < points.length; i++) {
      const [a, b] = [points[i - 1], points[i]];
      const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
      const length = Math.hypot(dx, dy);
      const off = distanceToSegment(place, a, b);
      if (off < best.off && length > 0) {
        const t = Math.min(1, Math.max(0, ((place[0] - a[0]) * dx + (place[1] - a[1]) * dy) / (length * length)));
        // Clockwise of the line is starboard.
        const side = (place[0] - a[0]) * dy - (place[1] - a[1]) * dx >= 0 ? 1 : -1;
        best = { along: before + t * length, off, side };
      }
      before += length;
    }
    return best;
  }
}
