import { effectiveFetch, type CellTable } from '../chart';
import { CELL, cellKey, type Point } from '../geo';
import { waveHeight } from '../lake';
import { streamOf, windAgainstTide, type TideRecord } from '../tide';
import type { Way } from './ways';

/** The waves on a water for any wind, cell by cell as they are asked for. */
export class Sea {
  private readonly indexOf: Map<number, number>;
  private readonly mean: number;

  constructor(private readonly cells: CellTable) {
    this.indexOf = new Map(Array.from({ length: cells.count }, (_, i) => [cellKey(cells.column[i], cells.row[i]), i]));
    let [sum, area] = [0, 0];
    for (let i = 0; i < cells.count; i++)
      if (cells.depth[i] > 0) {
        sum += cells.depth[i] * cells.area[i];
        area += cells.area[i];
      }
    this.mean = area > 0 ? sum / area : 2;
  }

  /** Height of the waves at a place, m: fetch over 45° to either side, depth the mean of there and of the water. 0 off the water. */
  at([x, y]: Point, windFrom: number, windSpeed: number): number {
    const i = this.indexOf.get(cellKey(Math.floor(x / CELL), Math.floor(y / CELL)));
    if (i === undefined) return 0;
    const depth = this.cells.depth[i] > 0 ? (this.cells.depth[i] + this.mean) / 2 : this.mean;
    return waveHeight(windSpeed, effectiveFetch(this.cells, i, windFrom), Math.max(0.5, depth));
  }

  /** The highest waves along a way, m, looked at every so many metres. */
  along(points: readonly Point[], windFrom: number, windSpeed: number, step = 50): number {
    let most = 0;
    for (let i = 1; i < points.length; i++) {
      const [[xa, ya], [xb, yb]] = [points[i - 1], points[i]];
      const n = Math.max(1, Math.ceil(Math.hypot(xb - xa, yb - ya) / step));
      for (let s = 0; s <= n; s++)
        most = Math.max(most, this.at([xa + ((xb - xa) * s) / n, ya + ((yb - ya) * s) / n], windFrom, windSpeed));
    }
    return points.length === 1 ? this.at(points[0], windFrom, windSpeed) : most;
  }
}

/** Wind of a moment; null where nothing is known of it. */
export type WindBy = (at: number) => { from: number; speed: number; gust: number } | null;

/**
 * The first moment from which the way home has waves above the skipper's limit, ms; null where none has in the time looked at.
 * Gusts count: waves are worked out for the mean of wind and gust.
 */
export function homeRoughFrom(sea: Sea, home: Way, wind: WindBy, from: number, to: number, limit: number, step = 900_000): number | null {
  for (let t = from; t <= to; t += step) {
    const now = wind(t);
    if (now && sea.along(home.points, now.from, (now.speed + now.gust) / 2) > limit) return t;
  }
  return null;
}

/** How much longer a metre counts over each square of a grid by its waves: as it is to half the limit, then steeply more. */
export function roughness(
  sea: Sea,
  centres: (square: number) => Point,
  squares: number,
  open: (square: number) => boolean,
  wind: { from: number; speed: number },
  limit: number,
): Float32Array {
  return Float32Array.from({ length: squares }, (_, k) => {
    if (!open(k)) return 0;
    const over = sea.at(centres(k), wind.from, wind.speed) / limit - 0.5;
    return over <= 0 ? 0 : 6 * over * over + 2 * over;
  });
}

/** From when on in a span the wind blows against the stream hard enough for a short and steep sea, looked at hour by hour, ms; null: at no time, or nothing is known. */
export function windAgainstTideFrom(tide: TideRecord | null, wind: WindBy, from: number, to: number): number | null {
  if (!tide) return null;
  for (let at = from; at <= to; at += 3_600_000) {
    const [stream, blows] = [streamOf(tide, at), wind(at)];
    if (stream && blows && windAgainstTide(stream, blows.from, blows.speed)) return at;
  }
  return null;
}
