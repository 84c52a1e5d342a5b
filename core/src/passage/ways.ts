import FlatQueue from 'flatqueue';
import { lineLength, type Point } from '../geo';
import type { NavigableWater } from './navigable';

/** A way by water. */
export interface Way {
  points: Point[];
  metres: number;
  /** At the speeds allowed. */
  seconds: number;
}

/** How far from open water a ramp or a spot may lie and still be reached, m: the last of it is paddled, or cast. */
export const NEAR_WATER = 80;

/**
 * Quickest ways from one place to all others: over squares that touch, then drawn tight wherever the straight line is clear and no
 * slower. Source: Dijkstra 1959; the tightening is plain line of sight.
 */
export class WaysFrom {
  private readonly before: Int32Array;
  private readonly cost: Float64Array;
  private readonly from: { square: number; metres: number } | null;

  constructor(
    private readonly water: NavigableWater,
    readonly start: Point,
    /** What a metre costs more on each square, at least 0: waves that one would rather go round. */
    private readonly extra: Float32Array | null = null,
    /** Where only the way to one place is asked for: looking ends there. */
    only: Point | null = null,
  ) {
    const { open, speed, size, width } = water;
    const n = open.length;
    this.before = new Int32Array(n).fill(-1);
    this.cost = new Float64Array(n).fill(Infinity);
    this.from = water.nearestOpen(start, NEAR_WATER);
    if (!this.from) return;
    const queue = new FlatQueue<number>();
    const { before, cost } = this;
    const goal = only && (water.nearestOpen(only, NEAR_WATER)?.square ?? -1);
    cost[this.from.square] = 0;
    queue.push(this.from.square, 0);
    const steps = [1, -1, width, -width, width + 1, width - 1, -width + 1, -width - 1];
    while (queue.length) {
      const reached = queue.peekValue()!;
      const k = queue.pop()!;
      if (k === goal) break;
      if (reached > cost[k]) continue;
      const column = k % width;
      for (let s = 0; s < 8; s++) {
        const m = k + steps[s];
        if (m < 0 || m >= n || !open[m]) continue;
        const dc = (m % width) - column;
        if (dc > 1 || dc < -1) continue;
        const diagonal = s >= 4;
        // Past the corner of a closed square there is no way between two open ones.
        if (diagonal && !(open[k + dc] && open[m - dc])) continue;
        const worse = extra ? 1 + (extra[k] + extra[m]) / 2 : 1;
        const next = reached + (diagonal ? Math.SQRT2 : 1) * size * worse * (0.5 / speed[k] + 0.5 / speed[m]);
        if (next < cost[m]) {
          cost[m] = next;
          before[m] = k;
          queue.push(m, next);
        }
      }
    }
  }

  /** Whether the start is on the water at all. */
  get afloat(): boolean {
    return this.from !== null;
  }

  /** The way to a place; null where none leads there. */
  to(end: Point): Way | null {
    const { water, from } = this;
    if (!from) return null;
    const to = water.nearestOpen(end, NEAR_WATER);
    if (!to || !Number.isFinite(this.cost[to.square])) return null;
    const direct = this.extra ? Infinity : water.straight(this.start, end);
    if (Number.isFinite(direct) && this.oneSpeed(direct, this.start, end))
      return { points: [this.start, end], metres: lineLength([this.start, end]), seconds: direct };
    const squares: number[] = [];
    for (let k = to.square; k >= 0; k = this.before[k]) squares.push(k);
    squares.reverse();
    const points = squares.map((k) => water.centre(k));
    // The ends themselves where they lie in open water; else the last bit leads on to land or into a shallow.
    if (from.metres === 0) points[0] = this.start;
    if (to.metres === 0) points[points.length - 1] = end;
    const tight = this.extra ? points : this.tightened(this.dense(this.tightened(points)).toReversed()).toReversed();
    const seconds = secondsOf(water, tight);
    const [head, tail] = [from.metres > 0 ? [this.start] : [], to.metres > 0 ? [end] : []];
    const all = [...head, ...tight, ...tail];
    return { points: all, metres: lineLength(all), seconds: seconds + (from.metres + to.metres) / SLOW };
  }

  /** A straight way that no zone slows needs no comparison. */
  private oneSpeed(seconds: number, a: Point, b: Point): boolean {
    return seconds <= (lineLength([a, b]) / this.water.inputs.boat.cruise) * 1.0001;
  }

  /** With a point every square's length, so that corners may lie anywhere on it. */
  private dense(points: Point[]): Point[] {
    const out = [points[0]];
    for (let i = 1; i < points.length; i++) {
      const [[xa, ya], [xb, yb]] = [points[i - 1], points[i]];
      const n = Math.max(1, Math.round(Math.hypot(xb - xa, yb - ya) / this.water.size));
      for (let s = 1; s <= n; s++) out.push([xa + ((xb - xa) * s) / n, ya + ((yb - ya) * s) / n]);
    }
    return out;
  }

  /** Leaves out corners where the straight line is clear and no slower than the way round. */
  private tightened(points: Point[]): Point[] {
    const { water } = this;
    if (points.length < 3) return points;
    const reached = [0];
    for (let i = 1; i < points.length; i++) reached.push(reached[i - 1] + secondsOf(water, [points[i - 1], points[i]]));
    const out = [points[0]];
    const last = points.length - 1;
    const clear = (a: number, b: number): boolean => water.straight(points[a], points[b]) <= reached[b] - reached[a] + 1e-6;
    for (let at = 0; at < last;) {
      let [far, blocked] = [at + 1, last + 1];
      for (let reach = 2; far < last; reach *= 2) {
        const next = Math.min(at + reach, last);
        if (!clear(at, next)) {
          blocked = next;
          break;
        }
        far = next;
      }
      while (blocked - far > 1 && blocked <= last) {
        const middle = (far + blocked) >> 1;
        if (clear(at, middle)) far = middle;
        else blocked = middle;
      }
      out.push(points[far]);
      at = far;
    }
    return out;
  }
}

/** In the shallows by the ramp, m/s. */
const SLOW = 1;

function secondsOf(water: NavigableWater, points: Point[]): number {
  let sum = 0;
  for (let i = 1; i < points.length; i++) {
    const seconds = water.straight(points[i - 1], points[i]);
    // Between the middles of two open squares that touch there is always a way; rounding may say otherwise.
    sum += Number.isFinite(seconds) ? seconds : lineLength([points[i - 1], points[i]]) / water.inputs.boat.cruise;
  }
  return sum;
}

/** Most places whose ways are kept. */
const KEPT = 200;

/** Ways that were found from places, kept from one sheet to the next as long as the water and its waves are the same. */
export class WaysKnown {
  private waters: readonly NavigableWater[] = [];
  private waves = '';
  private readonly found = new Map<string, WaysFrom>();

  /** Forgets what does not hold on these waters in these waves. @param waves says which they are */
  holdFor(waters: readonly NavigableWater[], waves: string): void {
    const same = waves === this.waves && waters.length === this.waters.length && waters.every((w, k) => w === this.waters[k]);
    if (!same || this.found.size > KEPT) this.found.clear();
    [this.waters, this.waves] = [waters, waves];
  }

  /** Ways from a place on one of the waters; `make` looks for them where they are not known. */
  from(water: number, [x, y]: Point, make: () => WaysFrom): WaysFrom {
    const key = `${water} ${x} ${y}`;
    let known = this.found.get(key);
    if (!known) this.found.set(key, (known = make()));
    return known;
  }
}
