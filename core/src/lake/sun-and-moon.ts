import { getMoonIllumination, getMoonTimes, getTimes } from 'suncalc';

/** Sun and moon of a day at a place. Moments are null where there are none that day: far north, or a moon that rises tomorrow. */
export interface SunAndMoon {
  sunrise: Date | null;
  sunset: Date | null;
  /** The sun at its highest. */
  noon: Date;
  moonrise: Date | null;
  moonset: Date | null;
  /** Share of the moon that is lit, 0–1. */
  lit: number;
  /** Through the month: 0 new moon, 0.25 first quarter, 0.5 full moon, 0.75 last quarter. */
  phase: number;
}

/**
 * Sun and moon of a day, by the formulas of J. Meeus' *Astronomical Algorithms* in their short form (the sun to a minute or
 * two in middle latitudes, the moon to some minutes).
 * @param day any moment of it
 */
export function sunAndMoon(day: Date, latitude: number, longitude: number): SunAndMoon {
  const { sunrise, sunset, solarNoon } = getTimes(day, latitude, longitude);
  const moon = getMoonTimes(day, latitude, longitude);
  const { fraction, phase } = getMoonIllumination(day);
  return {
    sunrise,
    sunset,
    noon: solarNoon,
    moonrise: moon.rise ?? null,
    moonset: moon.set ?? null,
    lit: fraction,
    phase,
  };
}
