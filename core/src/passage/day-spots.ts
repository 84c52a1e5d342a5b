import type { CellTable } from '../chart';
import type { Place } from '../forecast';
import { CELL, cellKey, type Point } from '../geo';
import type { SheetSpot } from './run-sheet';
import { UNKNOWN_CHANCE } from './stay-or-leave';

/** A spot of one's own that may be put on a plan. */
export interface OwnSpot {
  id: string;
  at: Point;
}

/** How far round a spot a stop fishes or scans, m. */
const REACH = 60;

/** Squares whose middle lies within reach of a point of a square: columns and rows away. */
function about(): [column: number, row: number][] {
  const reach = Math.ceil(REACH / CELL);
  const out: [number, number][] = [];
  for (let row = -reach; row <= reach; row++) for (let column = -reach; column <= reach; column++) out.push([column, row]);
  return out;
}
const ABOUT = about();

/** The cells within reach of a place, each by its index. */
function cellsAbout([x, y]: Point, indexOf: Map<number, number>): number[] {
  const [column, row] = [Math.floor(x / CELL), Math.floor(y / CELL)];
  const near: number[] = [];
  for (const [dc, dr] of ABOUT) {
    if (Math.hypot((column + dc + 0.5) * CELL - x, (row + dr + 0.5) * CELL - y) > REACH) continue;
    const i = indexOf.get(cellKey(column + dc, row + dr));
    if (i !== undefined) near.push(i);
  }
  return near;
}

/** Log rate of a chance: chances of several cells are joined by its sum. */
const rateOf = (chance: number): number => -Math.log1p(-Math.min(0.98, chance || 0));

/**
 * Chance that a scan of a spot's surroundings shows at least one, by time: the cells within reach, each by itself, and no more of them
 * than a stop looks at.
 * @param hours chance of each cell, one array a time
 */
export function chanceAround(at: Point, indexOf: Map<number, number>, hours: readonly ArrayLike<number>[]): Float64Array {
  const near = cellsAbout(at, indexOf);
  return Float64Array.from(hours, (chances) => -Math.expm1(-near.reduce((sum, i) => sum + rateOf(chances[i]), 0)));
}

/** The same about the middle of every cell: by what is around it, and not by its own chance alone, a place is worth a stop. */
export function chanceAroundEach(cells: CellTable, indexOf: Map<number, number>, chances: ArrayLike<number>): Float32Array {
  const rates = Float32Array.from({ length: cells.count }, (_, i) => rateOf(chances[i]));
  const near = ABOUT.filter(([dc, dr]) => Math.hypot(dc, dr) * CELL <= REACH);
  return Float32Array.from({ length: cells.count }, (_, i) => {
    let sum = 0;
    for (const [dc, dr] of near) {
      const j = indexOf.get(cellKey(cells.column[i] + dc, cells.row[i] + dr));
      if (j !== undefined) sum += rates[j];
    }
    return -Math.expm1(-sum);
  });
}

/** Times of a day that a spot may be kept for. */
export const SPOT_TIMES = ['dawn', 'dusk'] as const;
export type SpotTime = (typeof SPOT_TIMES)[number];

/** What a plan says of a spot by hand. */
export interface SpotWish {
  pinned?: boolean;
  /** Minutes; null: as is best. */
  stay?: number | null;
  /** Null: at any time. */
  when?: SpotTime | null;
}

/** What stops bring, beside the chance that fish are there. */
export interface SpotBrings {
  /** Share of spots with fish at which they bite. */
  willing: number;
  /** Bites of a long stay where they do. */
  bites: number;
  /** Minutes in which 63 % of them come. */
  pace: number;
}

/**
 * Spots of a forecast and of one's own as a run sheet takes them.
 * @param hours chance of each cell by time; null where nothing forecasts them: one spot is then as likely as another
 * @param wishes what the plan says of each, by its id @param times from and to of the times of day, ms; what is not in them is open all day
 * @param rested what is left of a spot's bites after it was fished, 0–1
 */
export function daySpots(
  places: readonly Place[],
  own: readonly OwnSpot[],
  indexOf: Map<number, number>,
  hours: ArrayLike<number>[] | null,
  brings: SpotBrings,
  wishes: Record<string, SpotWish> = {},
  times: Partial<Record<SpotTime, [from: number, to: number]>> = {},
  rested: (at: Point) => number = () => 1,
): SheetSpot[] {
  const spot = (id: string, at: Point): SheetSpot => {
    const { pinned = false, stay = null, when = null } = wishes[id] ?? {};
    const [opens, closes] = (when && times[when]) ?? [null, null];
    return {
      id,
      at,
      chance: hours ? chanceAround(at, indexOf, hours) : [UNKNOWN_CHANCE],
      brings: brings.willing * brings.bites * rested(at),
      pace: brings.pace,
      opens,
      closes,
      pinned,
      stay,
    };
  };
  return [...places.map((p) => spot(placeId(p), [p.x, p.y])), ...own.map(({ id, at }) => spot(id, at))];
}

/** By which a place of the forecast is known from one plan to the next: its best cell. */
export const placeId = ({ cell }: Pick<Place, 'cell'>): string => `cell-${cell}`;
