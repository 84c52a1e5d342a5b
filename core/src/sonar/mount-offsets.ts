import { choleskyInPlace, choleskySolve, studentQuantile } from '../numbers';

/** One pass by an object that does not move: where it was marked as if antenna and transducer were one and the picture were of now. */
export interface OffsetPass {
  /** East and north of any fixed point, m. */
  x: number;
  y: number;
  /** Course made good, degrees; speed, m/s. */
  course: number;
  speed: number;
}

/** A value with its 80 % interval. */
export interface Estimated {
  value: number;
  low: number;
  high: number;
}

/** What the passes tell of a rig. */
export interface MountOffsets {
  /** Transducer forward (+) and to starboard (+) of the antenna, m. */
  forward: Estimated;
  starboard: Estimated;
  /** How old the picture is, s. */
  delay: Estimated;
  /** Where the object truly lies, m. */
  object: { x: number; y: number };
  /** How well the passes agree: standard error of a marked position in each direction, m. */
  noise: number;
}

/** Why passes cannot tell. */
export type OffsetTrouble = 'too-few' | 'one-direction' | 'one-speed';

/** Least passes; how far speeds have to differ, as a share of the fastest; how much courses may agree (length of their mean). */
const FEWEST = 3;
const SPEEDS_APART = 0.25;
const ONE_WAY = 0.9;

const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/**
 * Offset of the transducer and delay of the picture from passes by one object, by least squares. With u the way of a pass, n to its
 * starboard and v its speed, the object P is marked at P − a·u − b·n + v·t·u. One speed alone cannot tell the offset from the delay, nor
 * one direction the offset from the object's place.
 * @param passes at least three, in opposite directions and at two speeds
 * @returns the offsets with 80 % intervals (Student's t), or why the passes cannot tell
 */
export function mountOffsets(passes: readonly OffsetPass[]): MountOffsets | OffsetTrouble {
  if (passes.length < FEWEST) return 'too-few';
  const ways = passes.map((p) => [Math.sin(radians(p.course)), Math.cos(radians(p.course))]);
  const together = Math.hypot(...[0, 1].map((k) => ways.reduce((sum, w) => sum + w[k], 0))) / passes.length;
  if (together > ONE_WAY) return 'one-direction';
  const speeds = passes.map((p) => p.speed);
  if (Math.max(...speeds) - Math.min(...speeds) < SPEEDS_APART * Math.max(...speeds)) return 'one-speed';
  // Rows: east and north of each pass; columns: P east, P north, forward, starboard, delay.
  const rows = passes.flatMap(({ x, y, speed }, k) => {
    const [east, north] = ways[k];
    return [
      { row: [1, 0, -east, -north, speed * east], y: x },
      { row: [0, 1, -north, east, speed * north], y },
    ];
  });
  const n = 5;
  const normal = new Float64Array(n * n);
  const right = new Float64Array(n);
  for (const { row, y } of rows)
    for (let j = 0; j < n; j++) {
      right[j] += row[j] * y;
      for (let k = 0; k < n; k++) normal[j * n + k] += row[j] * row[k];
    }
  try {
    choleskyInPlace(normal, n);
  } catch {
    return 'one-speed';
  }
  const solved = choleskySolve(normal, n, right);
  const freedom = rows.length - n;
  const squares = rows.reduce((sum, { row, y }) => sum + (y - row.reduce((s, v, k) => s + v * solved[k], 0)) ** 2, 0);
  const noise = Math.sqrt(squares / freedom);
  const estimated = (k: number): Estimated => {
    const unit = Float64Array.from({ length: n }, (_, j) => (j === k ? 1 : 0));
    const half = studentQuantile(0.9, freedom) * noise * Math.sqrt(choleskySolve(normal, n, unit)[k]);
    return { value: solved[k], low: solved[k] - half, high: solved[k] + half };
  };
  return { forward: estimated(2), starboard: estimated(3), delay: estimated(4), object: { x: solved[0], y: solved[1] }, noise };
}
