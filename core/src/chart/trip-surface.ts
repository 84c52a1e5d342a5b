import { Raster, ringsBounds } from '../geo';
import { cleanSoundings } from './clean';
import { laySurface } from './build';
import { proposeOutline } from './propose-outline';

/** Soundings of the trip that runs, in the water's plane, in the order of time. */
export interface TripSoundings {
  /** Milliseconds since 1970. */
  time: ArrayLike<number>;
  x: ArrayLike<number>;
  y: ArrayLike<number>;
  /** Metres below the surface. */
  depth: ArrayLike<number>;
}

/** The trip's own chart: the water near its track. */
export interface TripSurface {
  depth: Raster;
  soundings: number;
}

/** How far from the track it reaches, m: about the depth of what a pass tells of its sides. */
const REACH = 30;
const MOST_CELLS = 250_000;

/**
 * Charts what the running trip has sounded, by the same cleaning and the same surface as the water's own chart; small
 * enough to be done again every few seconds on the device. @returns null before there are ten soundings that are right
 */
export function tripSurface(epsg: number, { time, x, y, depth }: TripSoundings): TripSurface | null {
  const n = x.length;
  const unknown = new Float32Array(n).fill(NaN);
  const cleaned = cleanSoundings(
    {
      time: Float64Array.from(time),
      x: Float64Array.from(x),
      y: Float64Array.from(y),
      depth: Float32Array.from(depth),
      hardness: unknown,
      temperature: unknown,
      survey: new Int32Array(n),
    },
    // The lag takes opposite passes of a whole survey to tell, and the level is the server's to know.
    { lag: false, level: false },
  );
  const good = [...cleaned.left.keys()].filter((i) => !cleaned.left[i]);
  if (good.length < 10) return null;
  const pick = (values: ArrayLike<number>): Float64Array => Float64Array.from(good, (i) => values[i]);
  const kept = { x: pick(cleaned.x), y: pick(cleaned.y), depth: pick(cleaned.depth), hardness: new Float32Array(good.length).fill(NaN) };
  const rings = proposeOutline(kept.x, kept.y, REACH);
  const [x0, y0, x1, y1] = ringsBounds(rings);
  const size = [2.5, 5, 10, 25].find((s) => ((x1 - x0) / s) * ((y1 - y0) / s) <= MOST_CELLS) ?? 50;
  const surface = laySurface(epsg, rings, kept, { size, shore: null });
  return { depth: surface.depth, soundings: good.length };
}
