import { oxygenSaturation } from './oxygen';
import { findThermocline, tidyProfile, temperatureAt, type ProfileSample, type Thermocline, type WaterColumn } from './profile';

export interface ColumnInputs {
  /** Surface temperature, °C. */
  surface: number;
  /** The moment asked for. */
  at: Date;
  latitude: number;
  /** Deepest water, m. */
  maxDepth: number;
  /** Secchi depth, m. */
  secchi: number;
  altitude: number;
  /** Longest way the wind has over the water, km. */
  lengthKm: number;
  /** The latest real cast, if any. */
  cast?: { samples: ProfileSample[]; at: Date } | null;
  /** A thermocline set by hand (what-if), m. */
  thermoclineSet?: { top: number; bottom: number } | null;
}

/** Day of the year, moved by half a year on the southern side, so that 172 is always near midsummer. */
export function seasonDay(at: Date, latitude: number): number {
  const start = Date.UTC(at.getUTCFullYear(), 0, 1);
  const day = (at.getTime() - start) / 86400000;
  return latitude >= 0 ? day : (day + 182.6) % 365.25;
}

/**
 * Depth at which the summer thermocline settles, m: 6.95·L^0.185 with L the longest effective length in km.
 * Source: Hanna 1990, Can. J. Fish. Aquat. Sci. 47.
 */
export const settledThermocline = (lengthKm: number): number => 6.95 * Math.max(0.05, lengthKm) ** 0.185;

/** Lower-layer temperature of a water that mixed in spring, °C; it warms slowly through the summer. */
const lowerTemperature = (day: number, maxDepth: number): number =>
  5 + Math.min(3.5, 20 / Math.max(4, maxDepth)) + 1.5 * Math.min(1, Math.max(0, (day - 120) / 150));

/**
 * The water column for a surface temperature and date, resting on the last cast where it is not too old.
 * The thermocline deepens from spring to autumn; clear water carries it deeper. Marked as modelled unless the
 * cast is of the same day and its surface agrees within 1 °C.
 */
export function columnFor(inputs: ColumnInputs): WaterColumn {
  const { surface, at, maxDepth, cast } = inputs;
  const ageDays = cast ? Math.abs(at.getTime() - cast.at.getTime()) / 86400000 : Infinity;
  const tidy = cast ? tidyProfile(cast.samples) : null;
  if (tidy && ageDays < 0.75 && Math.abs(tidy[0].temperature - surface) < 1 && !inputs.thermoclineSet)
    return { samples: tidy, modelled: false, castAt: cast!.at, thermocline: findThermocline(tidy), spread: stepOf(tidy) / 2 };

  const day = seasonDay(at, inputs.latitude);
  const castLine = tidy && ageDays < 60 ? findThermocline(tidy) : null;
  const trust = castLine ? Math.exp(-ageDays / 30) : 0;
  const season = Math.min(1.7, Math.max(0.6, 0.6 + (0.6 * (day - 130)) / 90));
  const clarity = Math.min(1.25, Math.max(0.85, (inputs.secchi / 3) ** 0.15));
  const drift = castLine ? seasonDay(at, inputs.latitude) - seasonDay(cast!.at, inputs.latitude) : 0;
  const modelled = settledThermocline(inputs.lengthKm) * season * clarity;
  // A surface colder than the cast's has sunk and mixed: down to where the cast was as cold as it is now.
  const mixedTo = castLine ? depthOfTemperature(tidy!, surface) : 0;
  const undisturbed = castLine ? trust * Math.max(1, castLine.depth + 0.025 * drift) + (1 - trust) * modelled : modelled;
  const castHalf = castLine ? Math.max(0.4, (castLine.bottom - castLine.top) / 2) : 1.2;
  const half = inputs.thermoclineSet
    ? Math.max(0.2, (inputs.thermoclineSet.bottom - inputs.thermoclineSet.top) / 2)
    : Math.max(0.4, Math.min(castHalf, mixedTo > 0 ? undisturbed + castHalf - mixedTo : castHalf));
  const middle = inputs.thermoclineSet
    ? (inputs.thermoclineSet.top + inputs.thermoclineSet.bottom) / 2
    : Math.max(undisturbed, mixedTo + half);
  const castLower = tidy && ageDays < 60 ? tidy[tidy.length - 1].temperature : null;
  const lowest = Math.min(surface, castLower ?? lowerTemperature(day, maxDepth));
  const stratified = surface - lowest >= 3 && surface > 7 && middle + half < maxDepth;
  const cooling = day > 240 && surface < lowest + 4;
  const depths = Array.from({ length: Math.max(2, Math.ceil(maxDepth / 0.5) + 1) }, (_, i) => Math.min(maxDepth, i * 0.5));
  const temperature = (z: number): number => {
    if (surface < 3.9) return surface + (4 - surface) * Math.min(1, z / 6);
    if (!stratified || cooling) return surface - Math.max(0, Math.min(0.8, surface - lowest)) * Math.min(1, z / Math.max(4, maxDepth));
    return lowest + (surface - lowest) / (1 + Math.exp((2.2 * (z - middle)) / half));
  };
  const isLayered = stratified && !cooling;
  const line: Thermocline | null = isLayered
    ? { depth: middle, top: Math.max(0, middle - half), bottom: Math.min(maxDepth, middle + half) }
    : null;
  // Oxygen that the sealed lower layer loses, mg/l a day: the dirtier the water, the more there is to rot.
  const sealedDays = isLayered ? Math.max(0, day - 135) : 0;
  const loss = Math.min(0.2, Math.max(0.02, 0.25 / inputs.secchi));
  const samples = depths.map((depth) => {
    const t = temperature(depth);
    const full = oxygenSaturation(t, inputs.altitude);
    const sealed = line ? 1 / (1 + Math.exp(-(depth - (line.depth + half * 0.6)) / (0.35 * half))) : 0;
    return { depth, temperature: t, oxygen: Math.max(0.2, full * 0.97 - sealed * Math.min(full, loss * sealedDays)) };
  });
  if (tidy && tidy.some((s) => s.oxygen != null) && ageDays < 60 && isLayered && castLine) {
    // The last cast knows the real oxygen: stretch it on to today's thermocline.
    for (const s of samples) {
      const z = (s.depth * castLine.depth) / line!.depth;
      const known = tidy.filter((c) => c.oxygen != null);
      const value = temperatureAt(
        known.map((c) => ({ depth: c.depth, temperature: c.oxygen as number })),
        z,
      );
      s.oxygen = Math.max(0, trust * value + (1 - trust) * (s.oxygen ?? 0));
    }
  }
  const spread = inputs.thermoclineSet
    ? 0.3
    : castLine
      ? stepOf(tidy!) / 2 + 0.04 * ageDays + 0.15 * Math.max(0, mixedTo - castLine.depth)
      : UNMEASURED_SPREAD;
  return { samples, modelled: true, castAt: cast?.at ?? null, thermocline: line, spread: Math.min(UNMEASURED_SPREAD, spread) };
}

/** How far off the model of a water nobody has measured may be, m: half the spread that lakes of one length show. */
const UNMEASURED_SPREAD = 2;

/** Mean distance between the readings of a cast, m. */
const stepOf = (samples: ProfileSample[]): number =>
  samples.length > 1 ? (samples[samples.length - 1].depth - samples[0].depth) / (samples.length - 1) : 4;

/** Depth at which a cast has cooled to a temperature, m; 0 when its surface was no warmer. */
function depthOfTemperature(samples: ProfileSample[], temperature: number): number {
  if (samples[0].temperature <= temperature + 0.3) return 0;
  for (let i = 1; i < samples.length; i++) {
    const [a, b] = [samples[i - 1], samples[i]];
    if (b.temperature <= temperature)
      return a.depth + ((a.temperature - temperature) / (a.temperature - b.temperature)) * (b.depth - a.depth);
  }
  return samples[samples.length - 1].depth;
}

/** The deepest depth, m, down to which oxygen stays at or above `least` mg/l; null when it holds to the bottom. */
export function oxygenHoldsTo(samples: ProfileSample[], least: number): number | null {
  for (let i = 0; i < samples.length; i++) {
    const here = samples[i].oxygen;
    if (here == null || here >= least) continue;
    if (i === 0) return 0;
    const above = samples[i - 1].oxygen ?? here;
    const share = above === here ? 0 : (above - least) / (above - here);
    return samples[i - 1].depth + share * (samples[i].depth - samples[i - 1].depth);
  }
  return null;
}
