import {
  CELL,
  cellKey,
  cellOf,
  distanceToSegment,
  mayOverlap,
  parseCellKey,
  patch,
  unionArea,
  type Patch,
  type Point,
  type WaterCells,
} from '../geo';
import { DEFAULT_BEAM, scanSwaths, trolledLines, type Fix, type Swath } from './effort';
import { joinTargets, type Sighting, type Target } from './targets';
import type { Stop, Response } from './records';

/** Another visit begins after a gap longer than this. */
export const VISIT_GAP_MS = 60 * 60_000;
/** Radius of a stop that does not say, m. */
export const DEFAULT_RADIUS = 25;

export type EffortKind = 'scan' | 'fish' | 'troll';

/** What a look saw of one target. */
export interface SeenTarget {
  target: string;
  kind: string;
  species: string | null;
  confidence: number | null;
  confirmed: Target['confirmed'];
  size: string | null;
  count: number;
  top: number | null;
  bottom: number | null;
  at: number;
  /** By which view it was first marked in this look; null where nobody said. */
  view: string | null;
  /** How far off the boat's line it lay in a scan, m; null in other looks. */
  off: number | null;
  /** What it was taken for on the screen before anything confirmed it, and how sure; null where nobody said. */
  named: string | null;
  stated: number | null;
  /** What else it was taken for on the screen, a name a further sighting. */
  alsoNamed: string[];
  form: string | null;
  core: string | null;
}

/** One 25 m cell, scanned or fished during one visit of one trip, with what was seen there; zero included. */
export interface Look {
  column: number;
  row: number;
  /** 0 for the trip's first visit to the cell, then 1, 2 … */
  visit: number;
  kind: EffortKind;
  from: number;
  to: number;
  /** scan: m² seen; fish: rod-minutes; troll: metres of line. The three never share one offset. */
  effort: number;
  /** fish: m² of the stops' circles in the cell (a blank of no minutes has an area but no minutes); scan: as effort. */
  area: number;
  /** scan: the view that saw most of it, and how far that reached off the boat's line, m; else null. */
  view: string | null;
  reach: number | null;
  targets: SeenTarget[];
}

export interface StopInPlane {
  x: number;
  y: number;
  from: number;
  to: number;
  row: Stop;
}

/** One trip in the water's metric plane. */
export interface TripInPlane {
  fixes: Fix[];
  stops: StopInPlane[];
  sightings: Sighting[];
  responses: { at: number; row: Response }[];
}

export interface LookOptions {
  depthAt?: (x: number, y: number) => number;
  beam?: number;
}

interface Piece {
  kind: EffortKind;
  from: number;
  to: number;
  swath?: Swath;
  amount?: number;
  area?: number;
  stop?: StopInPlane;
}

/** Calls back for each cell that a box touches. */
function eachCell(p: Patch, visit: (key: number, box: [number, number, number, number]) => void): void {
  const [c0, r0] = cellOf(p.minX, p.minY);
  const [c1, r1] = cellOf(p.maxX, p.maxY);
  for (let row = r0; row <= r1; row++)
    for (let column = c0; column <= c1; column++)
      visit(cellKey(column, row), [column * CELL, row * CELL, (column + 1) * CELL, (row + 1) * CELL]);
}

function boxOf(key: number): [number, number, number, number] {
  const [column, row] = parseCellKey(key);
  return [column * CELL, row * CELL, (column + 1) * CELL, (row + 1) * CELL];
}

function circle(x: number, y: number, radius: number): Point[] {
  return Array.from({ length: 36 }, (_, i) => [x + radius * Math.cos((i * Math.PI) / 18), y + radius * Math.sin((i * Math.PI) / 18)]);
}

/** Length of a segment inside each cell it crosses: cut at every line of the grid. */
function lengthByCell(a: Point, b: Point, add: (key: number, length: number) => void): void {
  const cuts = [0, 1];
  for (const axis of [0, 1] as const) {
    const d = b[axis] - a[axis];
    if (Math.abs(d) < 1e-9) continue;
    const low = Math.min(a[axis], b[axis]);
    const high = Math.max(a[axis], b[axis]);
    for (let line = Math.ceil(low / CELL) * CELL; line < high; line += CELL) cuts.push((line - a[axis]) / d);
  }
  cuts.sort((p, q) => p - q);
  const whole = Math.hypot(b[0] - a[0], b[1] - a[1]);
  for (let i = 1; i < cuts.length; i++) {
    const share = cuts[i] - cuts[i - 1];
    if (share <= 1e-12) continue;
    const t = (cuts[i] + cuts[i - 1]) / 2;
    const [column, row] = cellOf(a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t);
    add(cellKey(column, row), share * whole);
  }
}

/** A stop says what it saw, or that it saw nothing; one that says "fish" but names none tells no species apart. */
function stopCounts(stop: StopInPlane, trip: TripInPlane): boolean {
  const outcome = stop.row.outcome;
  if (outcome === 'unfishable') return false;
  if (outcome == null || outcome === 'nothing') return true;
  return trip.responses.some((r) => r.row.stop === stop.row.stop) || trip.sightings.some((s) => atStop(s, stop));
}

const atStop = (s: Sighting, stop: StopInPlane): boolean =>
  s.row.stop === stop.row.stop ||
  (s.row.stop == null &&
    s.at >= stop.from &&
    s.at <= stop.to &&
    Math.hypot(s.x - stop.x, s.y - stop.y) <= (stop.row.radius_m ?? DEFAULT_RADIUS) + CELL);

function gather(trip: TripInPlane, cells: WaterCells, options: LookOptions): Map<number, Piece[]> {
  const pieces = new Map<number, Piece[]>();
  const add = (key: number, piece: Piece): void => {
    if (!cells.area.has(key)) return;
    const list = pieces.get(key);
    if (list) list.push(piece);
    else pieces.set(key, [piece]);
  };
  for (const swath of scanSwaths(trip.fixes, options.depthAt ?? (() => NaN), options.beam ?? DEFAULT_BEAM))
    eachCell(swath.patch, (key, box) => {
      if (mayOverlap(swath.patch, box)) add(key, { kind: 'scan', from: swath.from, to: swath.to, swath });
    });
  for (const line of trolledLines(trip.fixes))
    lengthByCell(line.a, line.b, (key, length) => add(key, { kind: 'troll', from: line.from, to: line.to, amount: length }));
  for (const stop of trip.stops) {
    if (!stopCounts(stop, trip)) continue;
    const ring = patch(circle(stop.x, stop.y, Math.max(1, stop.row.radius_m ?? DEFAULT_RADIUS)));
    const shares: [number, number][] = [];
    eachCell(ring, (key, box) => {
      if (!cells.area.has(key)) return;
      const area = unionArea([ring], box, cells.shoreOf(key));
      if (area > 0.5) shares.push([key, area]);
    });
    const total = shares.reduce((sum, [, area]) => sum + area, 0);
    const minutes = ((stop.to - stop.from) / 60_000) * (stop.row.rods ?? 1);
    for (const [key, area] of shares)
      add(key, { kind: 'fish', from: stop.from, to: stop.to, amount: (minutes * area) / total, area, stop });
  }
  return pieces;
}

function visitsOf(pieces: Piece[]): Piece[][] {
  const sorted = [...pieces].sort((a, b) => a.from - b.from);
  const visits: Piece[][] = [];
  let end = -Infinity;
  for (const piece of sorted) {
    if (piece.from - end > VISIT_GAP_MS) visits.push([]);
    visits[visits.length - 1].push(piece);
    end = Math.max(end, piece.to);
  }
  return visits;
}

/** The view of most of a scan's swaths, and its mean reach. */
function mostly(pieces: Piece[]): Pick<Look, 'view' | 'reach'> {
  const byView = new Map<string, { n: number; reach: number }>();
  for (const { swath } of pieces) {
    if (!swath) continue;
    const tally = byView.get(swath.view) ?? { n: 0, reach: 0 };
    byView.set(swath.view, { n: tally.n + 1, reach: tally.reach + swath.reach });
  }
  let max: { view: string; n: number; reach: number } | null = null;
  for (const [view, tally] of byView) if (!max || tally.n > max.n) max = { view, ...tally };
  return { view: max?.view ?? null, reach: max && Math.round((10 * max.reach) / max.n) / 10 };
}

/** Distance of a sighting from the boat's line in the swaths of a look, m; of those of its own view where there are some. */
function offTheLine(s: Sighting, pieces: Piece[]): number | null {
  const swaths = pieces.flatMap((p) => p.swath ?? []);
  const own = swaths.filter((w) => w.view === s.row.view);
  let nearest = Infinity;
  for (const { line } of own.length ? own : swaths) nearest = Math.min(nearest, distanceToSegment([s.x, s.y], line[0], line[1]));
  return Number.isFinite(nearest) ? Math.round(10 * nearest) / 10 : null;
}

/** A trip's looks, and the sightings that lie outside all effort. */
export interface DerivedLooks {
  looks: Look[];
  /** Ids of sightings that no look holds: kept and shown, never in a fit or a rate. */
  outside: string[];
}

/**
 * Derives the looks of one trip: for each 25 m cell and visit the area scanned (the union of the swaths, inside the
 * water, crossing passes counted once), the rod-minutes fished and the metres trolled, with the distinct targets seen.
 * @param trip the trip in the water's metric plane, fixes sorted by time
 * @param cells the water's cells
 */
export function deriveLooks(trip: TripInPlane, cells: WaterCells, options: LookOptions = {}): DerivedLooks {
  const byCell = new Map<number, { looks: Look[]; pieces: Piece[][] }>();
  const looks: Look[] = [];
  for (const [key, pieces] of gather(trip, cells, options)) {
    const [column, row] = parseCellKey(key);
    const visits = visitsOf(pieces);
    const here: Look[] = [];
    visits.forEach((visit, number) => {
      for (const kind of ['scan', 'fish', 'troll'] as const) {
        const own = visit.filter((p) => p.kind === kind);
        if (!own.length) continue;
        const area =
          kind === 'scan'
            ? unionArea(
                own.map((p) => p.swath!.patch),
                boxOf(key),
                cells.shoreOf(key),
              )
            : own.reduce((s, p) => s + (p.area ?? 0), 0);
        if (kind === 'scan' && area < 0.01) continue;
        here.push({
          column,
          row,
          visit: number,
          kind,
          from: Math.min(...own.map((p) => p.from)),
          to: Math.max(...own.map((p) => p.to)),
          effort: kind === 'scan' ? area : own.reduce((s, p) => s + (p.amount ?? 0), 0),
          area,
          ...mostly(own),
          targets: [],
        });
      }
    });
    byCell.set(key, { looks: here, pieces: visits });
    looks.push(...here);
  }
  return { looks, outside: placeTargets(trip, byCell) };
}

function placeTargets(trip: TripInPlane, byCell: Map<number, { looks: Look[]; pieces: Piece[][] }>): string[] {
  const outside: string[] = [];
  const targets = joinTargets(trip.sightings);
  const hooked = new Map<string, string>();
  for (const r of trip.responses)
    if (r.row.contact && r.row.species && (r.row.response === 'landed' || r.row.response === 'lost'))
      hooked.set(r.row.contact, r.row.species);
  for (const target of targets) {
    // A fish in the hand names the target it came from.
    const caught = target.sightings.map((s) => hooked.get(s.id)).find((s) => s != null);
    if (caught) Object.assign(target, { species: caught, confirmed: 'catch', confidence: 1 });
    const counted = new Map<Look, true>();
    let lastOf: Partial<Record<EffortKind, number>> = {};
    let placed = false;
    for (const s of target.sightings) {
      for (const kind of ['scan', 'fish', 'troll'] as const) {
        const look = lookOf(s, kind, byCell, trip);
        if (!look) continue;
        placed = true;
        // Once a visit: the same target seen again within the hour is the same sighting, also in the next cell.
        const last = lastOf[kind];
        lastOf = { ...lastOf, [kind]: s.at };
        if (counted.has(look) || (last != null && s.at - last <= VISIT_GAP_MS)) continue;
        counted.set(look, true);
        const pieces = kind === 'scan' ? byCell.get(cellKey(look.column, look.row))!.pieces[look.visit] : [];
        look.targets.push(seen(target, s, offTheLine(s, pieces)));
      }
    }
    if (!placed) outside.push(...target.sightings.map((s) => s.id));
  }
  addUnmarkedCatches(trip, byCell);
  return outside;
}

const seen = (t: Target, s: Sighting, off: number | null): SeenTarget => ({
  target: t.id,
  kind: t.kind,
  species: t.species,
  confidence: t.confidence,
  confirmed: t.confirmed,
  size: t.size,
  count: t.count,
  top: t.top,
  bottom: t.bottom,
  at: s.at,
  view: s.row.view,
  off,
  named: t.named,
  stated: t.stated,
  alsoNamed: t.alsoNamed,
  form: t.form,
  core: t.core,
});

function lookOf(s: Sighting, kind: EffortKind, byCell: Map<number, { looks: Look[]; pieces: Piece[][] }>, trip: TripInPlane): Look | null {
  const [column, row] = cellOf(s.x, s.y);
  const cell = byCell.get(cellKey(column, row));
  if (!cell) return null;
  if (kind === 'scan' && s.row.view === 'line') return null;
  if (kind === 'fish') {
    const stop = trip.stops.find((st) => atStop(s, st));
    if (!stop) return null;
    return cell.looks.find((l) => l.kind === 'fish' && l.from <= stop.to && l.to >= stop.from) ?? null;
  }
  // A mark made while fishing belongs to the fishing, unless the boat was scanning that very cell then.
  const slack = kind === 'troll' ? 60_000 : s.row.stop != null ? 120_000 : VISIT_GAP_MS;
  let best: Look | null = null;
  let nearest = Infinity;
  for (const look of cell.looks) {
    if (look.kind !== kind) continue;
    const gap = s.at < look.from ? look.from - s.at : s.at > look.to ? s.at - look.to : 0;
    if (gap <= slack && gap < nearest) {
      nearest = gap;
      best = look;
    }
  }
  return best;
}

/** Fish that struck at a stop without having been marked are seen targets of that stop, one a species. */
function addUnmarkedCatches(trip: TripInPlane, byCell: Map<number, { looks: Look[] }>): void {
  const done = new Set<string>();
  for (const r of trip.responses) {
    const { species, stop: key, contact } = r.row;
    if (contact != null || species == null || key == null || r.row.response === 'ignored') continue;
    const stop = trip.stops.find((s) => s.row.stop === key);
    if (!stop || done.has(`${key} ${species}`)) continue;
    done.add(`${key} ${species}`);
    const look = byCell
      .get(cellKey(...cellOf(stop.x, stop.y)))
      ?.looks.find((l) => l.kind === 'fish' && l.from <= stop.to && l.to >= stop.from);
    if (!look || look.targets.some((t) => t.species === species)) continue;
    const landed = r.row.response === 'landed';
    look.targets.push({
      target: `${key} ${species}`,
      kind: 'fish',
      species,
      confidence: landed ? 1 : 0.7,
      confirmed: landed ? 'catch' : 'none',
      size: null,
      count: 1,
      top: r.row.depth_m,
      bottom: r.row.depth_m,
      at: r.at,
      view: 'line',
      off: null,
      named: null,
      stated: null,
      alsoNamed: [],
      form: null,
      core: null,
    });
  }
}
