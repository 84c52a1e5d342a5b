import { patch, type Patch, type Point } from '../geo';
import { coneWidth, DEFAULT_RIG, sideScanStrip } from '../sonar';

/** A fix of the track in the water's metric plane, time in ms. */
export interface Fix {
  at: number;
  x: number;
  y: number;
  mode: string;
  view: string | null;
  depth: number | null;
  heading: number | null;
  port: number | null;
  starboard: number | null;
  sectorAngle: number | null;
  sectorRange: number | null;
}

/** Fixes are joined only when at most this far apart in time and place, and in the same mode. */
export const JOIN_MS = 30_000;
export const JOIN_METRES = 60;
/** Full angle of a sounder's beam where the rig does not say, degrees. */
export const DEFAULT_BEAM = 20;

/** How far a view is taken to have reached where the track does not say, m: a range at which fish are still told from specks. */
export const USUAL_RANGE = 20;
/** How wide a forward-facing view is taken to have looked where the track does not say, degrees: its beam under way, what is swept from a standing boat. */
const USUAL_ANGLE = { scan: 20, sweep: 120 };

type Extent = Pick<Fix, 'mode' | 'view' | 'port' | 'starboard' | 'sectorRange'>;

/** What has to be taken as usual of a fix that scans and does not say how far: both sides, a sector, or nothing. */
function unsaid({ mode, view, port, starboard, sectorRange }: Extent): 'sides' | 'sector' | null {
  if ((mode !== 'scan' && mode !== 'sweep') || port != null || starboard != null || sectorRange != null) return null;
  if (view === 'side-scan') return 'sides';
  return view === 'forward-facing' || (view == null && mode === 'sweep') ? 'sector' : null;
}

/** Whether a fix is of a view whose range must be told, and tells none, so that the usual one is taken. */
export const rangeUnsaid = (fix: Extent): boolean => unsaid(fix) !== null;

/** The fix with what it does not say of its side-scan or forward-facing view taken as usual. */
function completed(fix: Fix): Fix {
  const missing = unsaid(fix);
  if (missing === 'sides') return { ...fix, port: USUAL_RANGE, starboard: USUAL_RANGE };
  const sectorRange = missing === 'sector' ? USUAL_RANGE : fix.sectorRange;
  if (sectorRange == null) return fix;
  return { ...fix, sectorRange, sectorAngle: fix.sectorAngle ?? (fix.mode === 'sweep' ? USUAL_ANGLE.sweep : USUAL_ANGLE.scan) };
}

/** A patch of water that was looked into, from and to (ms). */
export interface Swath {
  from: number;
  to: number;
  patch: Patch;
  /** The view that saw it; where the track does not say: side-scan with ranges, forward-facing with a sector, else the sounder. */
  view: string;
  /** How far off the boat's line it reached over the ground, m: mean of both sides, or the range of a sector. */
  reach: number;
  /** The boat's line while it saw it. */
  line: [Point, Point];
}

/** A line that was trolled. */
export interface TrolledLine {
  from: number;
  to: number;
  a: Point;
  b: Point;
}

const joined = (a: Fix, b: Fix): boolean =>
  a.mode === b.mode && b.at - a.at <= JOIN_MS && b.at >= a.at && Math.hypot(b.x - a.x, b.y - a.y) <= JOIN_METRES;

/** Corners of a round cap, counter-clockwise from `start` (radians) over half a turn. */
function cap(x: number, y: number, radius: number, start: number): Point[] {
  return Array.from({ length: 9 }, (_, i) => {
    const angle = start + (Math.PI * i) / 8;
    return [x + radius * Math.cos(angle), y + radius * Math.sin(angle)];
  });
}

/** What is seen of the ground to either side of the boat: from `near` to `port` and `starboard`, m off its line. */
interface Sides {
  near: number;
  port: number;
  starboard: number;
  cone: boolean;
}

/**
 * A side-scan's ranges are slant ranges, as set on the unit: over the ground they reach √(R² − H²), and the first echo of
 * the bottom covers a strip of √((H + e)² − H²) under the boat. Where nobody knows how deep it is they are taken as they are.
 */
function sides(fix: Fix, depthAt: (x: number, y: number) => number, beam: number): Sides | null {
  const depth = fix.depth ?? depthAt(fix.x, fix.y);
  if (fix.port != null || fix.starboard != null) {
    const height = depth > 0 ? Math.max(0, depth - DEFAULT_RIG.transducerDepth) : 0;
    const over = (range: number | null): number => (range ? sideScanStrip(range, height).far : 0);
    return { near: sideScanStrip(0, height).near, port: over(fix.port), starboard: over(fix.starboard), cone: false };
  }
  if (fix.sectorRange != null || !(depth > 0)) return null;
  const half = coneWidth(depth, beam) / 2;
  return { near: 0, port: half, starboard: half, cone: true };
}

/** The bands of ground that were seen between two fixes: one round the line, or one to either side of the strip under the boat. */
function between(a: Fix, b: Fix, here: Sides, next: Sides): Point[][] {
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  const length = Math.hypot(dx, dy);
  if (here.cone) {
    // A cone also sees half its width before the first and beyond the last ping: round ends.
    const angle = length > 1e-6 ? Math.atan2(dy, dx) : 0;
    return [[...cap(b.x, b.y, next.port, angle - Math.PI / 2), ...cap(a.x, a.y, here.port, angle + Math.PI / 2)]];
  }
  if (length < 1e-6) return [];
  const [ux, uy] = [dx / length, dy / length];
  // To port where it is above 0.
  const off = (p: Fix, by: number): Point => [p.x - uy * by, p.y + ux * by];
  const band = (a0: number, b0: number, a1: number, b1: number): Point[] => [off(a, a1), off(b, b1), off(b, b0), off(a, a0)];
  if (!here.near && !next.near) return [band(-here.starboard, -next.starboard, here.port, next.port)];
  const [a0, b0] = [here.near, next.near];
  const bands: Point[][] = [];
  if (here.port > a0 || next.port > b0) bands.push(band(a0, b0, Math.max(a0, here.port), Math.max(b0, next.port)));
  if (here.starboard > a0 || next.starboard > b0) bands.push(band(-Math.max(a0, here.starboard), -Math.max(b0, next.starboard), -a0, -b0));
  return bands;
}

function sector(fix: Fix, heading: number): Point[] {
  const angle = fix.sectorAngle ?? 0;
  const range = fix.sectorRange ?? 0;
  const steps = Math.max(2, Math.ceil(angle / 5));
  const arc: Point[] = Array.from({ length: steps + 1 }, (_, i) => {
    const t = ((heading - angle / 2 + (angle * i) / steps) * Math.PI) / 180;
    return [fix.x + range * Math.sin(t), fix.y + range * Math.cos(t)];
  });
  return angle >= 360 ? arc : [[fix.x, fix.y], ...arc];
}

/**
 * The patches of water that a trip's scanning saw: bands between two joined fixes (as far over the ground as the ranges
 * of the sides reach, without the strip under the boat; or the cone's width of a sounder), and the swept sector of each forward-facing fix. Ranges and angles that a side-scan's
 * or a forward-facing view's fix does not give are taken as usual.
 * @param fixes the trip's track, sorted by time
 * @param depthAt depth from the chart, m, for fixes without their own
 */
export function scanSwaths(fixes: Fix[], depthAt: (x: number, y: number) => number, beam = DEFAULT_BEAM): Swath[] {
  const swaths: Swath[] = [];
  for (let i = 0; i < fixes.length; i++) {
    if (fixes[i].mode !== 'scan' && fixes[i].mode !== 'sweep') continue;
    const fix = completed(fixes[i]);
    if (fix.sectorRange != null && fix.sectorRange > 0 && (fix.sectorAngle ?? 0) > 0) {
      const heading = fix.heading ?? courseAt(fixes, i);
      if (heading != null)
        swaths.push({
          from: fix.at,
          to: fix.at,
          patch: patch(sector(fix, heading)),
          view: fix.view ?? 'forward-facing',
          reach: fix.sectorRange,
          line: [
            [fix.x, fix.y],
            [fix.x, fix.y],
          ],
        });
    }
    const next = fixes[i + 1] && completed(fixes[i + 1]);
    if (next && joined(fix, next)) {
      const side = sides(fix, depthAt, beam);
      const then = side && ((fix.view === next.view && sides(next, depthAt, beam)) || side);
      for (const band of side && then ? between(fix, next, side, then) : [])
        swaths.push({
          from: fix.at,
          to: next.at,
          patch: patch(band),
          view: fix.view ?? (side!.cone ? 'sounder' : 'side-scan'),
          reach: (side!.port + side!.starboard) / (side!.port > 0 && side!.starboard > 0 ? 2 : 1),
          line: [
            [fix.x, fix.y],
            [next.x, next.y],
          ],
        });
    }
  }
  return swaths;
}

function courseAt(fixes: Fix[], i: number): number | null {
  const [a, b] = fixes[i + 1] && joined(fixes[i], fixes[i + 1]) ? [fixes[i], fixes[i + 1]] : [fixes[i - 1], fixes[i]];
  if (!a || !joined(a, b) || (a.x === b.x && a.y === b.y)) return null;
  return (Math.atan2(b.x - a.x, b.y - a.y) * 180) / Math.PI;
}

/** The lines a trip trolled, between joined fixes. */
export function trolledLines(fixes: Fix[]): TrolledLine[] {
  const lines: TrolledLine[] = [];
  for (let i = 0; i + 1 < fixes.length; i++) {
    const [a, b] = [fixes[i], fixes[i + 1]];
    if (a.mode === 'troll' && joined(a, b)) lines.push({ from: a.at, to: b.at, a: [a.x, a.y], b: [b.x, b.y] });
  }
  return lines;
}
