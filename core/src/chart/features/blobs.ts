import { contours } from 'd3-contour';
import type { Point } from '../../geo';
import { blur, centreOf, eachCurvature, knownAt, valueAt, type Field } from './field';

/** A round rise found in a field. */
export interface Blob {
  x: number;
  y: number;
  /** Standard deviation of a Gaussian rise of the same curvature, m. */
  radius: number;
  /** How far it rises above a plane through its surroundings. */
  rise: number;
  /** Steepest fall of its flanks. */
  sharpness: number;
  ring: Point[];
}

export interface BlobOptions {
  /** Scales searched, m. */
  sigmas: number[];
  /** The least rise that is named, for a radius. */
  min: (radius: number) => number;
}

/** Strength of the curvature at a scale: positive on rises, negative in hollows, 0 where it is none in all directions. */
function strengthsAt(blurred: Field, sigma: number): Float32Array {
  const out = new Float32Array(blurred.known.length);
  eachCurvature(blurred, sigma, (k, c) => {
    if (c.low > 0.25 * c.high || -c.high > -0.25 * c.low) out[k] = sigma * sigma * ((c.high + c.low) / 2);
  });
  return out;
}

/**
 * Rises and hollows of any size: places where curvature at a scale, made comparable between scales, is greatest in
 * place and scale, in all directions. Checked against planes through rings round them, so that neither a slope nor a
 * ridge nor a point of the shore passes for one. Source of the choice of scale: Lindeberg 1998.
 * @param fields the field blurred by each of the scales
 */
export function findBlobs(field: Field, fields: Field[], { sigmas, min }: BlobOptions): { rises: Blob[]; hollows: Blob[] } {
  const { width, height } = field;
  const strengths = sigmas.map((sigma, s) => strengthsAt(fields[s], sigma));
  const found: { 1: (Blob & { strength: number })[]; [-1]: (Blob & { strength: number })[] } = { 1: [], [-1]: [] };
  for (let s = 0; s < sigmas.length; s++) {
    const here = strengths[s];
    const reach = Math.max(1, Math.round((0.8 * sigmas[s]) / field.size));
    // A Gaussian rise of height h has a strength of h/4 at its own scale.
    const weakest = min(sigmas[s]) / 8;
    for (let j = reach; j < height - reach; j++)
      for (let i = reach; i < width - reach; i++) {
        const k = j * width + i;
        const v = Math.abs(here[k]);
        if (v < weakest) continue;
        const sign = here[k] > 0 ? 1 : -1;
        if (!isPeak(strengths, s, k, width, reach, sign)) continue;
        // Ground that curves the other way makes a rise look narrower than it is: wider rings are tried too.
        let best: Blob | null = null;
        for (const wider of [1, 1.4, 2]) {
          const blob = measure(field, ...centreOf(field, k), wider * sigmas[s], sign);
          if (blob && blob.rise >= min(blob.radius) && blob.rise > 1.15 * (best?.rise ?? 0)) best = blob;
        }
        if (best) found[sign].push({ ...best, strength: v });
      }
  }
  return { rises: strongest(found[1]), hollows: strongest(found[-1]) };
}

/** Of those that overlap, the strongest stays. */
function strongest(found: (Blob & { strength: number })[]): Blob[] {
  found.sort((a, b) => b.strength - a.strength);
  const kept: Blob[] = [];
  for (const blob of found)
    if (kept.every((o) => Math.hypot(o.x - blob.x, o.y - blob.y) > 1.3 * Math.max(o.radius, blob.radius))) kept.push(blob);
  return kept;
}

function isPeak(strengths: Float32Array[], s: number, k: number, width: number, reach: number, sign: 1 | -1): boolean {
  const v = sign * strengths[s][k];
  // Neighbours first: they rule out nearly all.
  for (const m of [k - 1, k + 1, k - width, k + width]) if (sign * strengths[s][m] > v) return false;
  const [finer, coarser] = [strengths[s - 1], strengths[s + 1]];
  for (let dj = -reach; dj <= reach; dj++)
    for (let di = -reach; di <= reach; di++) {
      const m = k + dj * width + di;
      if (sign * strengths[s][m] > v || (finer && sign * finer[m] > v) || (coarser && sign * coarser[m] > v)) return false;
    }
  return true;
}

/** Measures a rise against the plane through a ring of two radii; null when it is not one all round. */
function measure(field: Field, x: number, y: number, radius: number, sign: 1 | -1): Blob | null {
  const ring = ringAt(field, x, y, 2.1 * radius);
  if (ring.length < 0.9 * RAYS) return null;
  const [a, b, c] = plane(ring);
  const off = (px: number, py: number): number => sign * (a * px + b * py + c - valueAt(field, x + px, y + py));
  // The middle of the rise, not of the cell.
  let [tx, ty, rise] = [0, 0, -Infinity];
  const step = Math.max(field.size / 2, radius / 6);
  for (let py = -radius; py <= radius; py += step)
    for (let px = -radius; px <= radius; px += step)
      if (px * px + py * py <= radius * radius && off(px, py) > rise) [tx, ty, rise] = [px, py, off(px, py)];
  if (!(rise > 0)) return null;
  // With land this near it is the shore's own ground, or an island.
  if ([0.3, 0.75, 1.2].some((r) => ringAt(field, x + tx, y + ty, r * radius).length < RAYS)) return null;
  // It has to fall away nearly all round; a neighbour may stand on one side.
  let held = 0;
  for (const [px, py] of ring) if (off(px, py) < 0.3 * rise) held++;
  if (held < NEARLY_ALL * ring.length) return null;
  // A plane may lean: where two slopes meet an even floor, the foot of the corner lies far below one, and is no hole;
  // nor is a stretch of a valley that one leaves along it without climbing.
  if (sign < 0 && ring.some((p) => riseTo(field, [x + tx, y + ty], [x + p[0], y + p[1]]) < OUT_OF_HOLE * rise)) return null;
  // And to stand out from the ground farther off as well: a tongue inside the bend of a channel does not.
  const outer = ringAt(field, x, y, 3.2 * radius);
  if (outer.length >= 0.6 * RAYS) {
    const [oa, ob, oc] = plane(outer);
    const above = (px: number, py: number): number => sign * (oa * px + ob * py + oc - valueAt(field, x + px, y + py));
    const stands = above(tx, ty);
    if (stands < 0.5 * rise || ring.filter(([px, py]) => above(px, py) < 0.5 * stands).length < NEARLY_ALL * ring.length) return null;
  }
  let sharpness = 0;
  for (const [px, py] of ring) {
    const length = Math.hypot(px, py);
    const [ux, uy] = [px / length, py / length];
    for (let r = step; r < length; r += step)
      sharpness = Math.max(sharpness, (off(tx + ux * (r - step), ty + uy * (r - step)) - off(tx + ux * r, ty + uy * r)) / step);
  }
  const edge = halfHeight(off, x, y, radius, rise, tx, ty);
  if (sign < 0 && !isRoundish(edge)) return null;
  return { x: x + tx, y: y + ty, radius, rise, sharpness, ring: edge };
}

const RAYS = 24;
/** Share of the directions in which a rise has to fall away: a neighbour may stand on one side. */
const NEARLY_ALL = 0.82;
/** Share of its depth below a plane that one has to climb to leave a hole. */
const OUT_OF_HOLE = 0.2;

/** How many times as long as wide a hole may be: beyond that it is a stretch of a channel. */
const LONGEST_HOLE = 2.5;

function isRoundish(ring: Point[]): boolean {
  const widths = Array.from({ length: 12 }, (_, k) => {
    const [c, s] = [Math.cos((k * Math.PI) / 12), Math.sin((k * Math.PI) / 12)];
    const along = ring.map(([x, y]) => x * c + y * s);
    return Math.max(...along) - Math.min(...along);
  });
  return Math.max(...widths) <= LONGEST_HOLE * Math.min(...widths);
}

/** How far the bottom rises on the way from one place to another, m. */
function riseTo(field: Field, [x, y]: Point, [tx, ty]: Point): number {
  const from = valueAt(field, x, y);
  return Math.max(...[0.25, 0.5, 0.75, 1].map((s) => from - valueAt(field, x + s * (tx - x), y + s * (ty - y))));
}

/** Known depths on a ring, by place relative to its middle. */
function ringAt(field: Field, x: number, y: number, radius: number): [number, number, number][] {
  const ring: [number, number, number][] = [];
  for (let a = 0; a < RAYS; a++) {
    const [px, py] = [radius * Math.cos((a * 2 * Math.PI) / RAYS), radius * Math.sin((a * 2 * Math.PI) / RAYS)];
    if (knownAt(field, x + px, y + py)) ring.push([px, py, valueAt(field, x + px, y + py)]);
  }
  return ring;
}

function plane(points: [number, number, number][]): [number, number, number] {
  let [sx, sy, sz, xx, xy, yy, xz, yz] = [0, 0, 0, 0, 0, 0, 0, 0];
  for (const [x, y, z] of points) {
    sx += x;
    sy += y;
    sz += z;
    xx += x * x;
    xy += x * y;
    yy += y * y;
    xz += x * z;
    yz += y * z;
  }
  const n = points.length;
  const [cxx, cxy, cyy] = [xx - (sx * sx) / n, xy - (sx * sy) / n, yy - (sy * sy) / n];
  const [cxz, cyz] = [xz - (sx * sz) / n, yz - (sy * sz) / n];
  const det = cxx * cyy - cxy * cxy;
  if (Math.abs(det) < 1e-9) return [0, 0, sz / n];
  const a = (cxz * cyy - cyz * cxy) / det;
  const b = (cyz * cxx - cxz * cxy) / det;
  return [a, b, (sz - a * sx - b * sy) / n];
}

/** The line at half height round a top: the edge of what is named. */
function halfHeight(
  off: (x: number, y: number) => number,
  x: number,
  y: number,
  radius: number,
  rise: number,
  tx: number,
  ty: number,
): Point[] {
  const n = 24;
  const step = (4.2 * radius) / n;
  const values: number[] = [];
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) values.push(off((i + 0.5) * step - 2.1 * radius, (j + 0.5) * step - 2.1 * radius));
  const shape = contours()
    .size([n, n])
    .thresholds([rise / 2])(values)[0];
  const place = ([i, j]: number[]): Point => [x + i * step - 2.1 * radius, y + j * step - 2.1 * radius];
  const rings = shape.coordinates.map((polygon) => polygon[0].map(place));
  const top: Point = [x + tx, y + ty];
  const near = (ring: Point[]): number => Math.min(...ring.map((p) => Math.hypot(p[0] - top[0], p[1] - top[1])));
  rings.sort((p, q) => near(p) - near(q));
  return rings[0] ?? [];
}

/** The same field at several scales, made once for all that search in it. */
export const scalesOf = (field: Field, sigmas: number[]): Field[] => sigmas.map((sigma) => blur(field, sigma));
