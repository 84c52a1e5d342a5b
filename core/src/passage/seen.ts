import type { Point } from '../geo';
import type { SearchPatch } from './patch';
import { swathOf, type SearchView } from './swath';

/** What is looked for: a pod of so many fish, and how surely one fish of it shows at the boat's line. */
export interface Sought {
  /** Fish in the pod. */
  count: number;
}

/** How surely a view shows fish: learned from the log where that has enough, else usual. */
export interface PassDetection {
  /** Chance that one fish within the swath, near the line, shows on one pass. */
  single: number;
  /** Distance off the line within which it shows well, m, over `depth` m of water; null: as well at the edge as at the line. */
  sigma: number | null;
  /** Change of the logarithm of sigma with a metre of depth. */
  withDepth: number;
  depth: number;
}

/** One fish in the middle of the swath is seen two times in three: a judgement. */
export const USUAL_DETECTION: PassDetection = { single: 0.65, sigma: null, withDepth: 0, depth: 0 };
/** More fish than these hardly raise the chance that a pod is seen. */
const CROWD = 8;

/** Chance that one pass shows a pod whose middle is so far off its line, if that lies within the swath. @param water depth there, m */
export function passChance({ single, sigma, withDepth, depth }: PassDetection, { count }: Sought, off: number, water: number): number {
  const wide = sigma === null ? Infinity : sigma * (Number.isFinite(water) ? Math.exp(withDepth * (water - depth)) : 1);
  const one = single * Math.exp(-(off * off) / (2 * wide * wide));
  return 1 - (1 - Math.min(0.999, one)) ** Math.max(1, Math.min(count, CROWD));
}

/** What passes see of a patch, gathered line by line. */
export class SeenOfPatch {
  /** Passes within whose swath each square lies. */
  readonly passes: Uint8Array;
  /** Chance that a pod on each square is missed by all of them. */
  readonly missed: Float64Array;
  private readonly mark: Int32Array;
  private line = 0;

  constructor(
    private readonly patch: SearchPatch,
    private readonly view: SearchView,
    private readonly detection: PassDetection,
    private readonly sought: Sought,
  ) {
    const n = patch.inside.length;
    this.passes = new Uint8Array(n);
    this.missed = new Float64Array(n).fill(1);
    this.mark = new Int32Array(n);
  }

  /** Adds a pass. @returns what it is the first to see, summed over squares by their worth */
  add(points: Point[], worth: (square: number) => number = () => 1): number {
    const { patch, view } = this;
    const stamp = ++this.line;
    let gain = 0;
    for (let i = 1; i < points.length; i++) {
      const [[xa, ya], [xb, yb]] = [points[i - 1], points[i]];
      const length = Math.hypot(xb - xa, yb - ya);
      if (length < 1e-9) continue;
      const [ux, uy] = [(xb - xa) / length, (yb - ya) / length];
      // Where the bottom falls the swath changes along the pass: it is taken anew every so often.
      const parts = Math.max(1, Math.ceil(length / (4 * patch.size)));
      for (let p = 0; p < parts; p++) {
        const [from, to] = [(length * p) / parts, (length * (p + 1)) / parts];
        const [cx, cy] = [xa + (ux * (from + to)) / 2, ya + (uy * (from + to)) / 2];
        const water = depthAt(patch, cx, cy);
        const { near, far } = swathOf(view, water);
        if (!(far > 0)) continue;
        const reach = far + (to - from) / 2;
        const [i0, i1] = [Math.floor((cx - reach - patch.x0) / patch.size), Math.floor((cx + reach - patch.x0) / patch.size)];
        const [j0, j1] = [Math.floor((cy - reach - patch.y0) / patch.size), Math.floor((cy + reach - patch.y0) / patch.size)];
        for (let j = Math.max(0, j0); j <= Math.min(patch.height - 1, j1); j++)
          for (let n = Math.max(0, i0); n <= Math.min(patch.width - 1, i1); n++) {
            const k = j * patch.width + n;
            if (!patch.inside[k] || this.mark[k] === stamp) continue;
            const [dx, dy] = [patch.x0 + (n + 0.5) * patch.size - xa, patch.y0 + (j + 0.5) * patch.size - ya];
            const along = dx * ux + dy * uy;
            if (along < from || along > to) continue;
            const off = Math.abs(dx * uy - dy * ux);
            if (off < near || off > far) continue;
            this.mark[k] = stamp;
            if (this.passes[k] === 0) gain += worth(k);
            if (this.passes[k] < 255) this.passes[k]++;
            this.missed[k] *= 1 - passChance(this.detection, this.sought, off, water);
          }
      }
    }
    return gain;
  }

  /** Share of the patch that at least one pass sees. */
  share(): number {
    let seen = 0;
    for (let k = 0; k < this.passes.length; k++) if (this.patch.inside[k] && this.passes[k]) seen++;
    return this.patch.squares ? seen / this.patch.squares : 0;
  }

  /** Chance that a pod that is in the patch is seen at least once; it is as likely on each square as that is worth. */
  chance(worth: (square: number) => number = () => 1): number {
    let [sum, total] = [0, 0];
    for (let k = 0; k < this.passes.length; k++) {
      if (!this.patch.inside[k]) continue;
      const w = worth(k);
      total += w;
      sum += w * (1 - this.missed[k]);
    }
    return total > 0 ? sum / total : 0;
  }
}

export function depthAt({ x0, y0, size, width, height, depth }: SearchPatch, x: number, y: number): number {
  const [i, j] = [Math.floor((x - x0) / size), Math.floor((y - y0) / size)];
  return i >= 0 && j >= 0 && i < width && j < height ? depth[j * width + i] : NaN;
}
