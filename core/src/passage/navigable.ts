import { insideMask, Raster, ringsBounds, type Point, type Rings } from '../geo';

/** What a boat needs and does. Metres, m/s. */
export interface PassageBoat {
  /** How deep it reaches, and how much water it wants under that. */
  draught: number;
  underKeel: number;
  /** From spot to spot, and while it searches. */
  cruise: number;
  search: number;
}

/** A small console boat: a judgement; the skipper sets his own. */
export const DEFAULT_BOAT: PassageBoat = { draught: 0.5, underKeel: 0.4, cruise: 9, search: 2 };

/** Something a boat stays clear of, or a zone in which it goes no faster than a limit, in metres of the water's plane. */
export interface PassageArea {
  type: 'Point' | 'LineString' | 'Polygon';
  points: Point[];
}

export interface SpeedZone {
  area: PassageArea & { type: 'Polygon' };
  /** m/s */
  limit: number;
}

/** How far a boat stays off a hazard, m: a judgement. */
export const HAZARD_ROOM = 15;
/** The finest and the coarsest squares that ways are looked for on, m, and the most of them. */
const SIZES = [5, 10, 12.5, 25, 50, 100, 200];
const MOST_SQUARES = 150_000;

export interface NavigableInputs {
  /** Shores, m. */
  rings: Rings;
  /** Depth below datum, m; NaN where not known. */
  depth: Raster;
  /** Level of the water over its datum, m. */
  level: number;
  hazards: PassageArea[];
  zones: SpeedZone[];
  boat: PassageBoat;
}

/** Distance from a point to an area, m; 0 inside a polygon. */
function distanceTo(area: PassageArea, x: number, y: number): number {
  let best = Infinity;
  const { points, type } = area;
  const closed = type === 'Polygon';
  if (points.length === 1 || type === 'Point') {
    for (const [px, py] of points) best = Math.min(best, Math.hypot(x - px, y - py));
    return best;
  }
  let odd = false;
  for (let i = closed ? 0 : 1; i < points.length; i++) {
    const [xa, ya] = points[(i + points.length - 1) % points.length];
    const [xb, yb] = points[i];
    const [dx, dy] = [xb - xa, yb - ya];
    const square = dx * dx + dy * dy;
    const t = square > 0 ? Math.min(1, Math.max(0, ((x - xa) * dx + (y - ya) * dy) / square)) : 0;
    best = Math.min(best, Math.hypot(x - xa - t * dx, y - ya - t * dy));
    if (closed && ya > y !== yb > y && x < ((xb - xa) * (y - ya)) / (yb - ya) + xa) odd = !odd;
  }
  return odd ? 0 : best;
}

/**
 * Where a boat may go, as squares: inside the shores, deep enough where the depth is known, clear of hazards; and how fast.
 * A square is open only where all of it is: what lies between open squares that touch is open too.
 */
export class NavigableWater {
  readonly size: number;
  readonly x0: number;
  readonly y0: number;
  readonly width: number;
  readonly height: number;
  /** 1 where the boat may go. */
  readonly open: Uint8Array;
  /** Speed it may go at, m/s: its own, or that of a zone. */
  readonly speed: Float32Array;
  /** Share of the open squares whose depth nobody knows. */
  readonly uncharted: number;

  /** @param most squares, so many at most: fewer are coarser, and quicker to find ways on */
  constructor(
    readonly inputs: NavigableInputs,
    most = MOST_SQUARES,
  ) {
    const { rings, depth, level, hazards, zones, boat } = inputs;
    const [bx, by, ex, ey] = ringsBounds(rings);
    const fits = (s: number): boolean => ((ex - bx) / s + 3) * ((ey - by) / s + 3) <= most;
    this.size = SIZES.find(fits) ?? Math.sqrt(((ex - bx) * (ey - by)) / most) + 200;
    const { size } = this;
    this.x0 = Math.floor(bx / size) * size - size;
    this.y0 = Math.floor(by / size) * size - size;
    this.width = Math.ceil((ex - this.x0) / size) + 1;
    this.height = Math.ceil((ey - this.y0) / size) + 1;
    this.open = insideMask(rings, this.x0, this.y0, size, this.width, this.height);
    this.speed = new Float32Array(this.open.length).fill(boat.cruise);
    this.closeShores(rings);
    this.closeShallows(depth, boat.draught + boat.underKeel - level);
    for (const hazard of hazards)
      this.eachNear(hazard, HAZARD_ROOM, (k) => {
        this.open[k] = 0;
      });
    for (const { area, limit } of zones)
      this.eachNear(area, 0, (k) => {
        this.speed[k] = Math.min(this.speed[k], Math.max(0.3, limit));
      });
    let [open, blank] = [0, 0];
    for (let k = 0; k < this.open.length; k++)
      if (this.open[k]) {
        open++;
        if (Number.isNaN(depth.at(...this.centre(k)))) blank++;
      }
    this.uncharted = open ? blank / open : 0;
  }

  centre(k: number): Point {
    return [this.x0 + ((k % this.width) + 0.5) * this.size, this.y0 + (Math.floor(k / this.width) + 0.5) * this.size];
  }

  /** Square that holds a point; −1 outside the grid. */
  index(x: number, y: number): number {
    const i = Math.floor((x - this.x0) / this.size);
    const j = Math.floor((y - this.y0) / this.size);
    return i >= 0 && j >= 0 && i < this.width && j < this.height ? j * this.width + i : -1;
  }

  isOpen(x: number, y: number): boolean {
    const k = this.index(x, y);
    return k >= 0 && this.open[k] === 1;
  }

  /** The open square nearest to a point, and how far its middle is, m; null where there is none within so far. */
  nearestOpen([x, y]: Point, within: number): { square: number; metres: number } | null {
    const reach = Math.ceil(within / this.size) + 1;
    const [ci, cj] = [Math.floor((x - this.x0) / this.size), Math.floor((y - this.y0) / this.size)];
    const own = this.index(x, y);
    if (own >= 0 && this.open[own]) return { square: own, metres: 0 };
    let best: { square: number; metres: number } | null = null;
    for (let j = Math.max(0, cj - reach); j <= Math.min(this.height - 1, cj + reach); j++)
      for (let i = Math.max(0, ci - reach); i <= Math.min(this.width - 1, ci + reach); i++) {
        const k = j * this.width + i;
        if (!this.open[k]) continue;
        const [px, py] = this.centre(k);
        const metres = Math.hypot(px - x, py - y);
        if (metres <= within && (!best || metres < best.metres)) best = { square: k, metres };
      }
    return best;
  }

  /**
   * Seconds that the straight way takes at the speeds allowed; infinite where it leaves open water. Every square that the line
   * touches is looked at (traversal after Amanatides & Woo 1987).
   */
  straight([xa, ya]: Point, [xb, yb]: Point): number {
    const { size } = this;
    let [i, j] = [Math.floor((xa - this.x0) / size), Math.floor((ya - this.y0) / size)];
    const [iEnd, jEnd] = [Math.floor((xb - this.x0) / size), Math.floor((yb - this.y0) / size)];
    const [dx, dy] = [xb - xa, yb - ya];
    const length = Math.hypot(dx, dy);
    const [si, sj] = [Math.sign(dx), Math.sign(dy)];
    const toEdge = (from: number, index: number, origin: number, way: number): number =>
      way === 0 ? Infinity : (origin + (index + (way > 0 ? 1 : 0)) * size - from) / way;
    let [ti, tj] = [toEdge(xa, i, this.x0, dx), toEdge(ya, j, this.y0, dy)];
    const [di, dj] = [si === 0 ? Infinity : size / Math.abs(dx), sj === 0 ? Infinity : size / Math.abs(dy)];
    let [t, seconds] = [0, 0];
    for (let steps = Math.abs(iEnd - i) + Math.abs(jEnd - j) + 1; steps > 0; steps--) {
      if (i < 0 || j < 0 || i >= this.width || j >= this.height) return Infinity;
      const k = j * this.width + i;
      if (!this.open[k]) return Infinity;
      const next = Math.min(1, ti, tj);
      seconds += ((next - t) * length) / this.speed[k];
      t = next;
      if (ti < tj) {
        i += si;
        ti += di;
      } else {
        j += sj;
        tj += dj;
      }
    }
    return seconds;
  }

  private closeShores(rings: Rings): void {
    for (const ring of rings)
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
        const [[xa, ya], [xb, yb]] = [ring[j], ring[i]];
        const steps = Math.max(1, Math.ceil(Math.hypot(xb - xa, yb - ya) / (this.size / 4)));
        for (let s = 0; s <= steps; s++) {
          const [x, y] = [xa + ((xb - xa) * s) / steps, ya + ((yb - ya) * s) / steps];
          // A line sampled every quarter of a square passes no corner of one by more than an eighth.
          for (const [ox, oy] of CORNERS) {
            const k = this.index(x + (ox * this.size) / 8, y + (oy * this.size) / 8);
            if (k >= 0) this.open[k] = 0;
          }
        }
      }
  }

  private closeShallows(depth: Raster, least: number): void {
    const { size } = this;
    for (let n = 0; n < depth.data.length; n++) {
      const d = depth.data[n];
      // Also what is not a number passes.
      if (!(d < least)) continue;
      const [x, y] = depth.centre(n);
      const half = depth.size / 2 - 1e-6;
      const [i0, i1] = [Math.floor((x - half - this.x0) / size), Math.floor((x + half - this.x0) / size)];
      const [j0, j1] = [Math.floor((y - half - this.y0) / size), Math.floor((y + half - this.y0) / size)];
      for (let j = Math.max(0, j0); j <= Math.min(this.height - 1, j1); j++)
        for (let i = Math.max(0, i0); i <= Math.min(this.width - 1, i1); i++) this.open[j * this.width + i] = 0;
    }
  }

  /** Every square any part of which may lie so near to an area. */
  private eachNear(area: PassageArea, room: number, take: (square: number) => void): void {
    const reach = room + this.size * Math.SQRT1_2;
    const [bx, by, ex, ey] = ringsBounds([area.points]);
    const clamp = (v: number, most: number): number => Math.min(most, Math.max(0, v));
    const [i0, i1] = [bx - reach, ex + reach].map((x) => clamp(Math.floor((x - this.x0) / this.size), this.width - 1));
    const [j0, j1] = [by - reach, ey + reach].map((y) => clamp(Math.floor((y - this.y0) / this.size), this.height - 1));
    for (let j = j0; j <= j1; j++)
      for (let i = i0; i <= i1; i++) {
        const k = j * this.width + i;
        if (distanceTo(area, ...this.centre(k)) <= reach) take(k);
      }
  }
}

const CORNERS: [number, number][] = [
  [0, 0],
  [1, 1],
  [1, -1],
  [-1, 1],
  [-1, -1],
];
