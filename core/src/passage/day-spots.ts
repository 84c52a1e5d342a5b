import type { Place } from '../forecast';
import { CELL, cellKey, type Point } from '../geo';
import type { SheetSpot } from './run-sheet';

/** A spot of one's own that may be put on a plan. */
export interface OwnSpot {
  id: string;
  at: Point;
}

/** How far round a spot a stop fishes or scans, m. */
const REACH = 60;

/**
 * Chance that a scan of a spot's surroundings shows at least one, by time: the cells within reach, each by itself, and no more of them
 * than a stop looks at.
 * @param hours chance of each cell, one array a time
 */
export function chanceAround([x, y]: Point, indexOf: Map<number, number>, hours: readonly ArrayLike<number>[]): Float64Array {
  const reach = Math.ceil(REACH / CELL);
  const [column, row] = [Math.floor(x / CELL), Math.floor(y / CELL)];
  const near: number[] = [];
  for (let dr = -reach; dr <= reach; dr++)
    for (let dc = -reach; dc <= reach; dc++) {
      const i = indexOf.get(cellKey(column + dc, row + dr));
      const away = Math.hypot((column + dc + 0.5) * CELL - x, (row + dr + 0.5) * CELL - y);
      if (i !== undefined && away <= REACH) near.push(i);
    }
  return Float64Array.from(hours, (chances) => {
    let rate = 0;
    for (const i of near) rate -= Math.log1p(-Math.min(0.98, chances[i] || 0));
    return -Math.expm1(-rate);
  });
}

/** Spots of a forecast and of one's own as a run sheet takes them. @param more what the plan says of each, by its id */
export function daySpots(
  places: readonly Place[],
  own: readonly OwnSpot[],
  indexOf: Map<number, number>,
  hours: ArrayLike<number>[],
  brings: { bites: number; pace: number },
  more: Record<string, { pinned?: boolean; stay?: number | null }> = {},
): SheetSpot[] {
  const spot = (id: string, at: Point): SheetSpot => ({
    id,
    at,
    chance: chanceAround(at, indexOf, hours),
    brings: brings.bites,
    pace: brings.pace,
    opens: null,
    closes: null,
    pinned: more[id]?.pinned ?? false,
    stay: more[id]?.stay ?? null,
  });
  return [...places.map((p) => spot(placeId(p), [p.x, p.y])), ...own.map(({ id, at }) => spot(id, at))];
}

/** By which a place of the forecast is known from one plan to the next: its best cell. */
export const placeId = ({ cell }: Pick<Place, 'cell'>): string => `cell-${cell}`;
