import { sunHeight } from './light';

/** Low light, when light-shy fish come up: from the sun 6° below the horizon to 6° above it. */
export interface LightWindow {
  name: 'dawn' | 'dusk';
  from: Date;
  to: Date;
}

/**
 * The low light of a day: its windows, and what is odd about it. `low all day`: the sun stays below 6°, dawn goes over into dusk at noon;
 * `white night`: it never sinks 6° below the horizon, dusk goes over into dawn at midnight; `midnight sun` and `polar night` have none.
 */
export interface LowLight {
  windows: LightWindow[];
  day: 'usual' | 'low all day' | 'white night' | 'midnight sun' | 'polar night';
}

const MINUTE = 60_000;
const DAY = 1440;
const LOW = 6;

/** The sun's highest point of the day that a moment is in by its longitude, ms, to the minute. */
function noonOf(at: Date, latitude: number, longitude: number): number {
  const mean = Math.round((at.getTime() + (longitude / 360) * DAY * MINUTE) / (DAY * MINUTE) - 0.5) + 0.5;
  const start = mean * DAY * MINUTE - (longitude / 360) * DAY * MINUTE;
  let best = start;
  // The equation of time moves noon by no more than 17 minutes.
  for (let m = -20; m <= 20; m++)
    if (sunHeight(new Date(start + m * MINUTE), latitude, longitude) > sunHeight(new Date(best), latitude, longitude))
      best = start + m * MINUTE;
  return best;
}

/** Dawn and dusk of the day that a moment is in at its longitude (from midnight to midnight by the sun), to the minute. */
export function lowLight(at: Date, latitude: number, longitude: number): LowLight {
  const noon = noonOf(at, latitude, longitude);
  /** Minutes before (−1) or after noon (1) with low light: none, or from the nearest to noon to the farthest. */
  const half = (side: -1 | 1): [nearest: number, farthest: number] | null => {
    let found: [number, number] | null = null;
    for (let m = 0; m <= DAY / 2; m++) {
      if (Math.abs(sunHeight(new Date(noon + side * m * MINUTE), latitude, longitude)) > LOW) continue;
      found = [found?.[0] ?? m, m];
    }
    return found;
  };
  const [before, after] = [half(-1), half(1)];
  const windows: LightWindow[] = [];
  if (before) windows.push({ name: 'dawn', from: new Date(noon - before[1] * MINUTE), to: new Date(noon - before[0] * MINUTE) });
  if (after) windows.push({ name: 'dusk', from: new Date(noon + after[0] * MINUTE), to: new Date(noon + after[1] * MINUTE) });
  const height = (m: number): number => sunHeight(new Date(noon + m * MINUTE), latitude, longitude);
  if (!windows.length) return { windows, day: height(0) > 0 ? 'midnight sun' : 'polar night' };
  if (height(0) <= LOW) return { windows, day: 'low all day' };
  return { windows, day: height(DAY / 2) >= -LOW ? 'white night' : 'usual' };
}
