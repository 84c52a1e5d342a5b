import { choleskyInPlace, choleskySolve } from '../numbers';
import { seasonDay } from './season-day';

/** A surface temperature read at a moment (ms), °C. */
export interface SurfaceReading {
  at: number;
  surface: number;
}

/** The usual surface temperature through the year: mean, and the cosine and sine parts of its yearly swing, °C. */
export interface UsualCourse {
  mean: number;
  cosine: number;
  sine: number;
  /** Readings of the water itself that it rests on; 0 when it is the latitude's. */
  readings: number;
}

const YEAR = 365.25;
/** Day of the year on which water is warmest, near the end of July on the northern side. */
export const PEAK_DAY = 208;
/** What the surface of a lake holds even under ice, °C: a usual course falls no lower. */
const UNDER_ICE = 1;
const angle = (at: number, latitude: number): number => (2 * Math.PI * seasonDay(new Date(at), latitude)) / YEAR;

/**
 * Surface temperature of lakes near sea level by latitude: degrees from the equator, yearly mean and half the yearly swing, °C. Where
 * the mean less the swing is below freezing the lake freezes. Judged from what is published of lakes' surfaces (the warmest and
 * the coldest month); single lakes lie some 3 °C about it, so a water's own readings soon count for more.
 */
const BY_LATITUDE: readonly [degrees: number, mean: number, swing: number][] = [
  [0, 28.5, 1],
  [10, 28, 1.5],
  [20, 26, 4.5],
  [28, 23.5, 6.8],
  [32, 21, 9],
  [36, 18, 9.8],
  [40, 15, 11],
  [45, 12, 11.5],
  [50, 10, 10.5],
  [55, 8.5, 10.5],
  [60, 7, 11],
  [65, 4.5, 10.5],
  [70, 2.5, 9],
  [75, -1, 5],
  [90, -8, 4],
];
/** The south is more sea than land: its seasons differ less. */
const SOUTHERN_SWING = 0.75;
/** Fall of the surface temperature with altitude, °C a metre: less than the air's, since mountain lakes get more sun. */
const LAPSE = 0.0038;

/** The usual course of a latitude and altitude (m): a sine, warmest at the end of July on the northern side; good to about 4 °C. */
export function courseOfLatitude(latitude: number, altitude = 0): UsualCourse {
  const a = Math.min(90, Math.abs(latitude));
  const k = Math.max(
    1,
    BY_LATITUDE.findIndex(([degrees]) => degrees >= a),
  );
  const [below, above] = [BY_LATITUDE[k - 1], BY_LATITUDE[k]];
  const share = (a - below[0]) / (above[0] - below[0]);
  const between = (column: 1 | 2): number => below[column] + share * (above[column] - below[column]);
  const mean = between(1) - LAPSE * Math.max(0, altitude);
  const swing = between(2) * (latitude < 0 ? SOUTHERN_SWING : 1);
  const peak = (2 * Math.PI * PEAK_DAY) / YEAR;
  return { mean, cosine: swing * Math.cos(peak), sine: swing * Math.sin(peak), readings: 0 };
}

/** Without the floor that ice sets. */
const freeOfIce = (course: UsualCourse, t: number): number => course.mean + course.cosine * Math.cos(t) + course.sine * Math.sin(t);

/** The usual surface temperature at a moment (ms), °C. */
export const usualAt = (course: UsualCourse, at: number, latitude: number): number =>
  Math.max(UNDER_ICE, freeOfIce(course, angle(at, latitude)));

/** The same by the day of the season (`seasonDay`). */
export const usualOnDay = (course: UsualCourse, day: number): number => Math.max(UNDER_ICE, freeOfIce(course, (2 * Math.PI * day) / YEAR));

/** Half the yearly swing, °C, and the coldest and the warmest that the surface usually gets. */
export function extremes(course: UsualCourse): { swing: number; coldest: number; warmest: number } {
  const swing = Math.hypot(course.cosine, course.sine);
  return { swing, coldest: Math.max(UNDER_ICE, course.mean - swing), warmest: Math.max(UNDER_ICE, course.mean + swing) };
}

/** The latitude's course counts for so many readings. */
const PRIOR_READINGS = 8;

/**
 * The water's own usual course: least squares of a yearly sine on its readings, drawn toward the latitude's (as if
 * that were eight readings), so that a few readings of one month do not bend the whole year.
 */
export function usualCourse(readings: SurfaceReading[], latitude: number, altitude = 0): UsualCourse {
  const prior = courseOfLatitude(latitude, altitude);
  if (!readings.length) return prior;
  const normal = Float64Array.of(PRIOR_READINGS, 0, 0, 0, PRIOR_READINGS, 0, 0, 0, PRIOR_READINGS);
  const right = new Float64Array(3);
  for (const r of readings) {
    const t = angle(r.at, latitude);
    const x = [1, Math.cos(t), Math.sin(t)];
    const expected = freeOfIce(prior, t);
    // Water under ice says no more than that there is ice.
    const rest = r.surface <= UNDER_ICE && expected < r.surface ? 0 : r.surface - expected;
    for (let i = 0; i < 3; i++) {
      right[i] += x[i] * rest;
      for (let j = 0; j < 3; j++) normal[i * 3 + j] += x[i] * x[j];
    }
  }
  choleskyInPlace(normal, 3);
  const [mean, cosine, sine] = choleskySolve(normal, 3, right);
  return { mean: prior.mean + mean, cosine: prior.cosine + cosine, sine: prior.sine + sine, readings: readings.length };
}
