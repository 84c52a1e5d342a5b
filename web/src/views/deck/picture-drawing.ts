import type { ForwardEcho } from '@restless-shoal/core/formats';
import type { EchoRecord } from '../../state/echo-record';

/** A picture being drawn: pixels as levels' colours, the size of the canvas. */
interface Paper {
  pixels: Uint32Array;
  width: number;
  height: number;
  colours: Uint32Array;
}

/** What part of the picture is shown. */
export interface Window {
  /** Depths or ranges from the upper edge to the lower, m. */
  from: number;
  to: number;
}

/** Pixels across that a ping of the sounder takes, and down that one of the side-scan takes. */
export const PING_PX = 2;

/** Which sounder ping lies at a pixel across, the newest at the right edge. @param newest number of the ping there */
export const pingOf = (x: number, width: number, newest: number): number => newest - Math.floor((width - 1 - Math.floor(x)) / PING_PX);
export const pixelOf = (ping: number, width: number, newest: number): number => width - 1 - (newest - ping) * PING_PX;

/** The sounder's pings from left to right. @param newest number of the ping at the right edge */
export function drawSounder({ pixels, width, height, colours }: Paper, record: EchoRecord, newest: number, { from, to }: Window): void {
  pixels.fill(colours[0]);
  const first = record.sounder[0]?.ping ?? 0;
  for (let right = width, ping = newest; right > 0 && ping >= first; right -= PING_PX, ping--) {
    const p = record.pingAt(ping);
    if (!p) continue;
    const { levels, range, transducerDepth } = p.echo;
    const perPixel = ((to - from) / height / range) * levels.length;
    const start = ((from - transducerDepth) / range) * levels.length;
    for (let y = 0; y < height; y++) {
      const [a, b] = [Math.floor(start + y * perPixel), Math.floor(start + (y + 1) * perPixel)];
      // The strongest of what falls on a pixel, so that thin echoes stay.
      let level = levels[a] ?? 0;
      for (let i = a + 1; i < b; i++) if (levels[i] > level) level = levels[i];
      const colour = colours[level];
      for (let x = Math.max(0, right - PING_PX); x < right; x++) pixels[y * width + x] = colour;
    }
  }
}

/** The side-scan's pings from above, the newest first: port to the left. @param newest number of the ping at the top */
export function drawSideScan({ pixels, width, height, colours }: Paper, record: EchoRecord, newest: number, reach: number): void {
  pixels.fill(colours[0]);
  const first = record.side[0]?.ping ?? 0;
  const half = width / 2;
  for (let y = 0; y < height; y += PING_PX) {
    const p = record.side[newest - y / PING_PX - first];
    if (!p) break;
    const { port, starboard, range } = p.echo;
    for (let x = 0; x < width; x++) {
      const metres = ((x + 0.5 - half) / half) * reach;
      const levels = metres < 0 ? port : starboard;
      const colour = colours[levels[Math.floor((Math.abs(metres) / range) * levels.length)] ?? 0];
      for (let k = y; k < Math.min(height, y + PING_PX); k++) pixels[k * width + x] = colour;
    }
  }
}

/** The forward-facing picture: ahead to the right, down below. @param ahead metres at the right edge @param to depth at the lower edge, m */
export function drawForward({ pixels, width, height, colours }: Paper, picture: ForwardEcho, ahead: number, { from, to }: Window): void {
  pixels.fill(colours[0]);
  const { levels, rows, range, transducerDepth } = picture;
  const samples = levels.length / rows;
  for (let y = 0; y < height; y++) {
    const below = from + ((y + 0.5) / height) * (to - from) - transducerDepth;
    if (below < 0) continue;
    for (let x = 0; x < width; x++) {
      const flat = ((x + 0.5) / width) * ahead;
      const reach = Math.hypot(flat, below);
      if (reach >= range) continue;
      // Between two rows of the picture, as between two beams.
      const row = (Math.atan2(below, flat) / (Math.PI / 2)) * (rows - 1);
      const upper = Math.min(rows - 2, Math.floor(row));
      const i = upper * samples + Math.floor((reach / range) * samples);
      pixels[y * width + x] = colours[Math.round(levels[i] + (row - upper) * (levels[i + samples] - levels[i]))];
    }
  }
}
