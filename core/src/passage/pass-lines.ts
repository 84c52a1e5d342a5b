import { contours } from 'd3-contour';
import { distanceField, lineLength, simplifyLine, type Point } from '../geo';
import type { NavigableWater } from './navigable';
import { squareCentre, type SearchPatch } from './patch';

/** Shorter pieces of a pass are not worth a turn, m. */
const SHORTEST = 15;
/** A gap in a pass no longer than this is driven through where the boat can, m. */
const DRIVEN_THROUGH = 40;
/** How far a curved pass may cut its bends, m. */
const BENDS = 2;

/**
 * Direction of the contours in a patch, degrees clockwise from grid north: across the mean fall of the bottom; where nothing falls,
 * or nothing is known, the patch's own long axis.
 */
export function contourHeading(patch: SearchPatch): number {
  const { inside, depth, width, size } = patch;
  let [xx, xy, yy] = [0, 0, 0];
  for (let k = 0; k < inside.length; k++) {
    const column = k % width;
    if (!inside[k] || column === 0 || column === width - 1 || k < width || k + width >= inside.length) continue;
    const gx = (depth[k + 1] - depth[k - 1]) / (2 * size);
    const gy = (depth[k + width] - depth[k - width]) / (2 * size);
    if (!(Number.isFinite(gx) && Number.isFinite(gy))) continue;
    xx += gx * gx;
    xy += gx * gy;
    yy += gy * gy;
  }
  // The mean fall has to be told from none: 1 cm a metre on every square.
  if (Math.hypot(xx - yy, 2 * xy) > 1e-4 * patch.squares * 0.2) {
    const fall = 0.5 * Math.atan2(2 * xy, xx - yy);
    return headingOf(fall + Math.PI / 2);
  }
  return longAxis(patch, squaresOf(patch));
}

/** Direction of the long axis of some squares of a patch, degrees clockwise from grid north. */
export function longAxis(patch: SearchPatch, squares: readonly number[]): number {
  let [sx, sy] = [0, 0];
  for (const k of squares) {
    const [x, y] = squareCentre(patch, k);
    sx += x;
    sy += y;
  }
  const [mx, my] = [sx / squares.length, sy / squares.length];
  let [xx, xy, yy] = [0, 0, 0];
  for (const k of squares) {
    const [x, y] = squareCentre(patch, k);
    xx += (x - mx) ** 2;
    xy += (x - mx) * (y - my);
    yy += (y - my) ** 2;
  }
  return headingOf(0.5 * Math.atan2(2 * xy, xx - yy));
}

/** All squares of a patch. */
export function squaresOf({ inside }: SearchPatch): number[] {
  const out: number[] = [];
  for (let k = 0; k < inside.length; k++) if (inside[k]) out.push(k);
  return out;
}

/** @param angle counter-clockwise from east, radians */
const headingOf = (angle: number): number => (((90 - (angle * 180) / Math.PI) % 180) + 180) % 180;

/** Parts of a line that lie over squares wanted and in water that the boat may go in. Small gaps are driven through. */
function clipped(line: Point[], patch: SearchPatch, water: NavigableWater, wanted: (square: number) => boolean): Point[][] {
  const step = patch.size / 2;
  const over = (x: number, y: number): boolean => {
    const i = Math.floor((x - patch.x0) / patch.size);
    const j = Math.floor((y - patch.y0) / patch.size);
    return i >= 0 && j >= 0 && i < patch.width && j < patch.height && wanted(j * patch.width + i);
  };
  const out: Point[][] = [];
  let piece: Point[] = [];
  let idle = 0;
  let kept = 0;
  const end = (): void => {
    const own = piece.slice(0, kept);
    if (own.length > 1 && lineLength(own) >= SHORTEST) out.push(simplifyLine(own, 0.01));
    [piece, idle, kept] = [[], 0, 0];
  };
  for (let i = 1; i < line.length; i++) {
    const [[xa, ya], [xb, yb]] = [line[i - 1], line[i]];
    const steps = Math.max(1, Math.ceil(Math.hypot(xb - xa, yb - ya) / step));
    for (let s = i === 1 ? 0 : 1; s <= steps; s++) {
      const at: Point = [xa + ((xb - xa) * s) / steps, ya + ((yb - ya) * s) / steps];
      const before = piece.at(-1);
      if (!water.isOpen(...at) || (before && !Number.isFinite(water.straight(before, at)))) {
        end();
        if (!water.isOpen(...at)) continue;
      }
      if (over(...at)) {
        piece.push(at);
        kept = piece.length;
        idle = 0;
      } else if (piece.length) {
        idle += step;
        if (idle > DRIVEN_THROUGH) end();
        else piece.push(at);
      }
    }
  }
  end();
  return out;
}

/** Straight passes at a heading over some squares of a patch, side by side, all of them within the water that is open to the boat. */
export function straightPasses(
  patch: SearchPatch,
  water: NavigableWater,
  heading: number,
  spacing: number,
  squares: readonly number[] = squaresOf(patch),
): Point[][] {
  const chosen = new Set(squares);
  const wanted = (k: number): boolean => chosen.has(k);
  const angle = (heading * Math.PI) / 180;
  const [ux, uy] = [Math.sin(angle), Math.cos(angle)];
  // To starboard of the heading.
  const [vx, vy] = [uy, -ux];
  let [u0, u1, v0, v1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const k of squares) {
    const [x, y] = squareCentre(patch, k);
    const [u, v] = [x * ux + y * uy, x * vx + y * vy];
    u0 = Math.min(u0, u);
    u1 = Math.max(u1, u);
    v0 = Math.min(v0, v);
    v1 = Math.max(v1, v);
  }
  if (u1 < u0) return [];
  const half = patch.size / 2;
  const lines = Math.max(1, Math.ceil((v1 - v0 + 2 * half) / spacing - 0.05));
  // The lines share what is left over evenly to both edges.
  const first = (v0 + v1) / 2 - ((lines - 1) * spacing) / 2;
  return Array.from({ length: lines }, (_, n) => {
    const v = first + n * spacing;
    const at = (u: number): Point => [u * ux + v * vx, u * uy + v * vy];
    return clipped([at(u0 - half), at(u1 + half)], patch, water, wanted);
  }).flat();
}

/**
 * Passes that follow the edge of a depth band, each a spacing from the last: lines of equal distance from its deep edge (from its
 * whole edge where nothing near is deeper), so that they bend with the contours and still lie evenly.
 */
export function contourPasses(patch: SearchPatch, water: NavigableWater, spacing: number): Point[][] {
  const { inside, depth, width, height, size, band } = patch;
  const deeper = Uint8Array.from(inside, (m, k) => (!m && band !== null && depth[k] > band[1] ? 1 : 0));
  const seeds = deeper.includes(1) ? deeper : inside.map((m) => (m ? 0 : 1));
  const field = distanceField(seeds, width, height);
  let most = 0;
  for (let k = 0; k < field.length; k++) if (inside[k] && Number.isFinite(field[k])) most = Math.max(most, field[k]);
  const values = Array.from(field, (d) => (Number.isFinite(d) ? (d - 0.5) * size : -1));
  const levels: number[] = [];
  for (let d = spacing / 2; d < Math.max(spacing / 2 + 1e-9, most * size); d += spacing) levels.push(d);
  return contours()
    .size([width, height])
    .thresholds(levels)(values)
    .flatMap((shape) => shape.coordinates.flat())
    .map((ring) => ring.map(([x, y]): Point => [patch.x0 + x * size, patch.y0 + y * size]))
    .flatMap((ring) => clipped(opened(ring, patch), patch, water, (k) => inside[k] === 1))
    .map((line) => tamed(line, water));
}

/** A closed line begun where it lies outside the patch, so that no pass is cut in two at its seam. */
function opened(ring: Point[], patch: SearchPatch): Point[] {
  const out = ring.findIndex(([x, y]) => {
    const i = Math.floor((x - patch.x0) / patch.size);
    const j = Math.floor((y - patch.y0) / patch.size);
    return i < 0 || j < 0 || i >= patch.width || j >= patch.height || !patch.inside[j * patch.width + i];
  });
  return out <= 0 ? ring : [...ring.slice(out, -1), ...ring.slice(0, out + 1)];
}

/** Without the steps of the squares, where the smoother line is open too. */
function tamed(line: Point[], water: NavigableWater): Point[] {
  const smooth = simplifyLine(line, BENDS);
  for (let i = 1; i < smooth.length; i++) if (!Number.isFinite(water.straight(smooth[i - 1], smooth[i]))) return line;
  return smooth;
}
