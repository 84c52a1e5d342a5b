import type { Raster } from '../geo';
import type { SoundingColumns } from './build';
import { distanceToSoundings } from './quality';
import { fitSurface, mergeBins, type Bins } from './surface';

/** Hardness is told no farther than this from where it was heard, m. */
const REACH = 100;

/**
 * Brings the hardness of several surveys on to one scale: hardness is relative to unit and setting. Where a survey
 * overlaps the largest one (in squares of 15 m), its mean and spread are set to those of the largest there; one that
 * overlaps too little stays as it was.
 * @returns how many surveys were changed; `hardness` is changed in place
 */
export function calibrateHardness(x: ArrayLike<number>, y: ArrayLike<number>, survey: ArrayLike<number>, hardness: Float32Array): number {
  const sizes = new Map<number, number>();
  for (let i = 0; i < hardness.length; i++) if (!Number.isNaN(hardness[i])) sizes.set(survey[i], (sizes.get(survey[i]) ?? 0) + 1);
  if (sizes.size < 2) return 0;
  const order = [...sizes.keys()].sort((a, b) => sizes.get(b)! - sizes.get(a)!);
  const squareOf = (i: number): number => Math.floor(y[i] / 15) * 16777216 + Math.floor(x[i] / 15);
  const bySurvey = new Map<number, number[]>(order.map((s) => [s, []]));
  for (let i = 0; i < hardness.length; i++) if (!Number.isNaN(hardness[i])) bySurvey.get(survey[i])!.push(i);
  const known = new Map<number, [sum: number, n: number]>();
  let changed = 0;
  order.forEach((s, rank) => {
    const own = new Map<number, [sum: number, n: number]>();
    for (const i of bySurvey.get(s)!) add(own, squareOf(i), hardness[i]);
    if (rank > 0) {
      const pairs = [...own].flatMap(([k, [sum, n]]): [number, number][] => {
        const other = known.get(k);
        return other ? [[sum / n, other[0] / other[1]]] : [];
      });
      if (pairs.length >= 10) {
        const [mean, spread] = momentsOf(pairs.map((p) => p[0]));
        const [wanted, wantedSpread] = momentsOf(pairs.map((p) => p[1]));
        // A gain is only told by many squares that differ; else the shift alone.
        const gain = pairs.length >= 40 && spread > 0.03 ? Math.max(0.4, Math.min(2.5, wantedSpread / spread)) : 1;
        if (Math.abs(wanted - mean) > 0.02 || Math.abs(gain - 1) > 0.1) {
          for (const i of bySurvey.get(s)!) hardness[i] = Math.min(1, Math.max(0, wanted + gain * (hardness[i] - mean)));
          changed++;
        }
      }
    }
    for (const i of bySurvey.get(s)!) add(known, squareOf(i), hardness[i]);
  });
  return changed;
}

function add(squares: Map<number, [number, number]>, key: number, value: number): void {
  const square = squares.get(key);
  if (square) {
    square[0] += value;
    square[1]++;
  } else squares.set(key, [value, 1]);
}

function momentsOf(values: number[]): [mean: number, spread: number] {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return [mean, Math.sqrt(values.reduce((s, v) => s + (v - mean) ** 2, 0) / values.length)];
}

/** Hardness over the water, 0–1, from scattered values; NaN farther than 100 m from any. */
export function fitHardness(bins: Bins, into: Raster, mask: Uint8Array): void {
  if (!bins.count) return;
  fitSurface(bins, into, mask, { bending: 60, tension: 0.02, rounds: 15, tolerance: 0.004 });
  const distance = distanceToSoundings(into, bins);
  for (let k = 0; k < into.data.length; k++)
    into.data[k] = !mask[k] || distance.data[k] > REACH ? NaN : Math.min(1, Math.max(0, into.data[k]));
}

/** A place whose hardness is known otherwise than from soundings: a drawn patch, a mark. */
export interface HardPlace {
  x: number;
  y: number;
  hardness: number;
}

/** Bins of hardness from soundings, those that have it, and from other places. */
export function hardnessBins({ x, y, hardness }: Omit<SoundingColumns, 'depth'>, places: HardPlace[], size: number): Bins {
  let n = places.length;
  for (let i = 0; i < hardness.length; i++) if (!Number.isNaN(hardness[i])) n++;
  const bins: Bins = {
    x: new Float64Array(n),
    y: new Float64Array(n),
    value: new Float64Array(n),
    weight: new Float64Array(n).fill(1),
    count: 0,
  };
  const put = (px: number, py: number, value: number): void => {
    bins.x[bins.count] = px;
    bins.y[bins.count] = py;
    bins.value[bins.count++] = value;
  };
  for (let i = 0; i < hardness.length; i++) if (!Number.isNaN(hardness[i])) put(x[i], y[i], hardness[i]);
  for (const place of places) put(place.x, place.y, place.hardness);
  return n ? mergeBins(bins, size) : bins;
}
