import { insideMask } from './mask';
import { ringsBounds, type Rings } from './outline';
import { CELL, cellKey } from './raster';
import { patch, unionArea } from './union-area';

/**
 * The 25 m cells of a water: how much of each is water, and for the cells on the shore the rings that cross them.
 */
export class WaterCells {
  /** Area of water by cell key, m²; only cells with some water. */
  readonly area = new Map<number, number>();
  private readonly shore = new Map<number, Rings>();

  constructor(readonly rings: Rings) {
    this.markShore();
    this.fill();
  }

  /** Rings to clip a cell by; null when all of it is water. */
  shoreOf(key: number): Rings | null {
    return this.shore.get(key) ?? null;
  }

  private markShore(): void {
    this.rings.forEach((ring) => {
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
        const [xa, ya] = ring[j];
        const [xb, yb] = ring[i];
        const steps = Math.max(1, Math.ceil(Math.hypot(xb - xa, yb - ya) / (CELL / 4)));
        for (let s = 0; s <= steps; s++) {
          const column = Math.floor((xa + ((xb - xa) * s) / steps) / CELL);
          const row = Math.floor((ya + ((yb - ya) * s) / steps) / CELL);
          // Neighbours as well: a cell wrongly taken for shore is only slower, never wrong.
          for (let dr = -1; dr <= 1; dr++) for (let dc = -1; dc <= 1; dc++) this.shore.set(cellKey(column + dc, row + dr), []);
        }
      }
    });
    const byRow = new Map<number, Rings>();
    for (const key of this.shore.keys()) {
      const row = Math.floor(key / 65536);
      let band = byRow.get(row);
      if (!band) {
        band = this.band(row * CELL, (row + 1) * CELL);
        byRow.set(row, band);
      }
      this.shore.set(key, band);
    }
  }

  /** Parts of the shore that cross a level band, as two-point rings: enough for counting crossings inside it. */
  private band(y0: number, y1: number): Rings {
    const edges: Rings = [];
    for (const ring of this.rings)
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++)
        if (Math.max(ring[i][1], ring[j][1]) >= y0 && Math.min(ring[i][1], ring[j][1]) <= y1) edges.push([ring[j], ring[i]]);
    return edges;
  }

  private fill(): void {
    const [minX, minY, maxX, maxY] = ringsBounds(this.rings);
    const [c0, r0] = [Math.floor(minX / CELL), Math.floor(minY / CELL)];
    const [width, height] = [Math.floor(maxX / CELL) - c0 + 1, Math.floor(maxY / CELL) - r0 + 1];
    const inside = insideMask(this.rings, c0 * CELL, r0 * CELL, CELL, width, height);
    for (let row = r0; row < r0 + height; row++)
      for (let column = c0; column < c0 + width; column++) {
        const key = cellKey(column, row);
        const box: [number, number, number, number] = [column * CELL, row * CELL, (column + 1) * CELL, (row + 1) * CELL];
        const shore = this.shore.get(key);
        if (!shore) {
          if (inside[(row - r0) * width + column - c0]) this.area.set(key, CELL * CELL);
          continue;
        }
        const whole = patch([
          [box[0], box[1]],
          [box[2], box[1]],
          [box[2], box[3]],
          [box[0], box[3]],
        ]);
        const area = unionArea([whole], box, shore);
        if (area > 0.01) this.area.set(key, area);
      }
  }
}
