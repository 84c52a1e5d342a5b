import { packParts, unpackParts } from '../formats/binary';
import { metricPlane } from '../geo';

/** Most soundings that are sent to be drawn: more cannot be told apart on a screen. */
const MOST = 400_000;

/** Soundings of a water as they are stored, sorted by survey. */
interface SoundingPlaces {
  count: number;
  latitude: ArrayLike<number>;
  longitude: ArrayLike<number>;
  survey: ArrayLike<number>;
}

/** Soundings for drawing, in the water's plane. */
export interface PlacedSoundings {
  /** Number that is stored; fewer may have been sent. */
  all: number;
  /** Number of the newest survey; tracks of trips are numbered below zero. */
  newest: number;
  /** Metres. */
  x: Float64Array;
  y: Float64Array;
  survey: Int32Array;
}

/** Packs soundings to be drawn: offsets from their corner in decimetres, and the survey of each. */
export function packSoundings({ count, latitude, longitude, survey }: SoundingPlaces, epsg: number): Uint8Array {
  const plane = metricPlane(epsg);
  const every = Math.max(1, Math.ceil(count / MOST));
  const n = Math.ceil(count / every);
  const [x, y] = [new Float64Array(n), new Float64Array(n)];
  let [x0, y0, newest] = [Infinity, Infinity, -Infinity];
  for (let i = 0; i < n; i++) {
    const k = i * every;
    [x[i], y[i]] = plane.toMetric({ latitude: latitude[k], longitude: longitude[k] });
    x0 = Math.min(x0, x[i]);
    y0 = Math.min(y0, y[i]);
    newest = Math.max(newest, survey[k]);
  }
  return packParts(
    { x0: n ? x0 : 0, y0: n ? y0 : 0, all: count, newest: n ? newest : 0 },
    {
      x: Int32Array.from(x, (v) => Math.round((v - x0) * 10)),
      y: Int32Array.from(y, (v) => Math.round((v - y0) * 10)),
      survey: Int32Array.from({ length: n }, (_, i) => survey[i * every]),
    },
  );
}

/** Reads what packSoundings wrote. @throws RangeError when it is something else */
export function unpackSoundings(bytes: Uint8Array): PlacedSoundings {
  const { header, parts } = unpackParts<{ x0: number; y0: number; all: number; newest: number }>(bytes);
  const { x0, y0, all, newest } = header;
  return {
    all,
    newest,
    x: Float64Array.from(parts.x, (v) => x0 + v / 10),
    y: Float64Array.from(parts.y, (v) => y0 + v / 10),
    survey: parts.survey as Int32Array,
  };
}
