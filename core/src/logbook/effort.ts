import { patch, type Patch, type Point } from '../geo';
import { coneWidth } from '../sonar';

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
  /** How far off the boat's line it reached, m: mean of both sides, or the range of a sector. */
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

function sides(
  fix: Fix,
  depthAt: (x: number, y: number) => number,
  beam: number,
): { port: number; starboard: number; cone: boolean } | null {
  if (fix.port != null || fix.starboard != null) {
    return { port: fix.port ?? 0, starboard: fix.starboard ?? 0, cone: false };
  }
  if (fix.sectorRange != null) return null;
  const depth = fix.depth ?? depthAt(fix.x, fix.y);
  if (!(depth > 0)) return null;
  const half = coneWidth(depth, beam) / 2;
  return { port: half, starboard: half, cone: true };
}

function between(a: Fix, b: Fix, depthAt: (x: number, y: number) => number, beam: number): Point[] | null {
  const here = sides(a, depthAt, beam);
  if (!here) return null;
  const next = (a.view === b.view && sides(b, depthAt, beam)) || here;
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  const length = Math.hypot(dx, dy);
  if (here.cone) {
    // A cone also sees half its width before the first and beyond the last ping: round ends.
    const angle = length > 1e-6 ? Math.atan2(dy, dx) : 0;
    return [...cap(b.x, b.y, next.port, angle - Math.PI / 2), ...cap(a.x, a.y, here.port, angle + Math.PI / 2)];
  }
  if (length < 1e-6) return null;
  const [ux, uy] = [dx / length, dy / length];
  return [
    [a.x - uy * here.port, a.y + ux * here.port],
    [b.x - uy * next.port, b.y + ux * next.port],
    [b.x + uy * next.starboard, b.y - ux * next.starboard],
    [a.x + uy * here.starboard, a.y - ux * here.starboard],
  ];
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
 * The patches of water that a trip's scanning saw: a band between two joined fixes (to the ranges of the sides, or
 * the cone's width of a sounder), and the swept sector of each forward-facing fix. Ranges and angles that a side-scan's
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
      const band = between(fix, next, depthAt, beam);
      const side = band && sides(fix, depthAt, beam);
      if (band && side)
        swaths.push({
          from: fix.at,
          to: next.at,
          patch: patch(band),
          view: fix.view ?? (side.cone ? 'sounder' : 'side-scan'),
          reach: (side.port + side.starboard) / (side.port > 0 && side.starboard > 0 ? 2 : 1),
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
