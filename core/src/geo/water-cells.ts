import { insideMask } from './mask';
import { ringsBounds, type Rings } from './outline';
import { CELL, cellKey } from './raster';
import { patch, unionArea } from './union-area';

/** What of one ring crosses a level band, and how far the ring reaches. */
interface Band {
  minX: number;
  maxX: number;
  edges: Rings;
}

/**
 * The 25 m cells of a water: how much of each is water, and for the cells on the shore the rings that cross them.
 */
export class WaterCells {
  /** Area of water by cell key, m²; only cells with some water. */
  readonly area = new Map<number, number>();
  private readonly shore = new Map<number, Rings>();

  private readonly boxes: [number, number, number, number][];

  constructor(readonly rings: Rings) {
    this.boxes = rings.map((ring) => ringsBounds([ring]));
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
    const byRow = new Map<number, Band[]>();
    for (const key of this.shore.keys()) {
      const row = Math.floor(key / 65536);
      let bands = byRow.get(row);
      if (!bands) {
        bands = this.bands(row * CELL, (row + 1) * CELL);
        byRow.set(row, bands);
      }
      const left = (key - row * 65536) * CELL;
      // A ring wholly beside the cell is crossed an even number of times before it: islands by the hundred cost nothing.
      const near = bands.filter((b) => b.maxX >= left && b.minX <= left + CELL);
      this.shore.set(key, near.length === 1 ? near[0].edges : near.flatMap((b) => b.edges));
    }
  }

  /** Parts of each ring that cross a level band, as two-point rings: enough for counting crossings inside it. */
  private bands(y0: number, y1: number): Band[] {
    const bands: Band[] = [];
    this.rings.forEach((ring, k) => {
      const [minX, minY, maxX, maxY] = this.boxes[k];
      if (maxY < y0 || minY > y1) return;
      const edges: Rings = [];
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++)
        if (Math.max(ring[i][1], ring[j][1]) >= y0 && Math.min(ring[i][1], ring[j][1]) <= y1) edges.push([ring[j], ring[i]]);
      if (edges.length) bands.push({ minX, maxX, edges });
    });
    return bands;
  }

  private fill(): void {
    const [minX, minY, maxX, maxY] = ringsBounds(this.rings);
    const [c0, r0] = [Math.floor(minX / CELL), Math.floor(minY / CELL)];
    const [width, height] = [Math.floor(maxX / CELL) - c0 + 1, Math.floor(maxY / CELL) - r0 + 1];
    const inside = insideMask(this.rings, c0 * CELL, r0 * CELL, CELL, width, height);
    for (let row = r0; row < r0 + height; row++)
      for (let column = c0; column < c0 + width; column++) {
        const key = cellKey(column, row);
        const shore = this.shore.get(key);
        if (!shore) {
          if (inside[(row - r0) * width + column - c0]) this.area.set(key, CELL * CELL);
          continue;
        }
        const box: [number, number, number, number] = [column * CELL, row * CELL, (column + 1) * CELL, (row + 1) * CELL];
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
