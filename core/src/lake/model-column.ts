import { oxygenSaturation } from './oxygen';
import { ownCourse, type DatedCast } from './own-casts';
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
  cast?: DatedCast | null;
  /** All casts of the water, of other years too: they tell how its layer lies at this time of year. */
  casts?: DatedCast[];
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

/** How far the thermocline has come down on a day of the year, against where it settles. */
const seasonFactor = (day: number): number => Math.min(1.7, Math.max(0.6, 0.6 + (0.6 * (day - 130)) / 90));

/** Days for which a cast tells of the water after it. */
const LATELY = 60;

/** Casts of a time of year that count for so much can say that there is no layer then. */
const SURE_OF_NONE = 0.6;

/**
 * The water column for a surface temperature and date, resting on the last cast where it is not too old, else on how the
 * water's own casts lay at that time of year, else on a model.
 * The thermocline deepens from spring to autumn; clear water carries it deeper. Marked as modelled unless the
 * cast is of the same day and its surface agrees within 1 °C.
 */
export function columnFor(inputs: ColumnInputs): WaterColumn {
  const { surface, at, maxDepth, cast } = inputs;
  const ageDays = cast ? Math.abs(at.getTime() - cast.at.getTime()) / 86400000 : Infinity;
  const tidy = cast ? tidyProfile(cast.samples) : null;
  if (tidy && ageDays < 0.75 && Math.abs(tidy[0].temperature - surface) < 1 && !inputs.thermoclineSet)
    return { samples: tidy, modelled: false, castAt: cast!.at, ofSeason: 0, thermocline: findThermocline(tidy), spread: stepOf(tidy) / 2 };

  const day = seasonDay(at, inputs.latitude);
  const castLine = tidy && ageDays < LATELY ? findThermocline(tidy) : null;
  const trust = castLine ? Math.exp(-ageDays / 30) : 0;
  const settled = settledThermocline(inputs.lengthKm);
  const own = ownCourse(
    inputs.casts ?? [],
    day,
    (then) => seasonDay(then, inputs.latitude),
    (then) => ({ depth: settled * seasonFactor(then), lower: lowerTemperature(then, maxDepth) }),
    maxDepth,
  );
  const clarity = Math.min(1.25, Math.max(0.85, (inputs.secchi / 3) ** 0.15));
  const drift = castLine ? seasonDay(at, inputs.latitude) - seasonDay(cast!.at, inputs.latitude) : 0;
  // What the water's own casts show has its clarity in it.
  const modelled = settled * seasonFactor(day) * clarity ** (1 - own.worth) * Math.exp(own.worth * own.logRatio);
  // A surface colder than the cast's has sunk and mixed: down to where the cast was as cold as it is now.
  const mixedTo = castLine ? depthOfTemperature(tidy!, surface) : 0;
  const undisturbed = castLine ? trust * Math.max(1, castLine.depth + 0.025 * drift) + (1 - trust) * modelled : modelled;
  const usualHalf = own.half === null ? 1.2 : own.worth * own.half + (1 - own.worth) * 1.2;
  const castHalf = castLine ? Math.max(0.4, (castLine.bottom - castLine.top) / 2) : Math.max(0.4, usualHalf);
  const half = inputs.thermoclineSet
    ? Math.max(0.2, (inputs.thermoclineSet.bottom - inputs.thermoclineSet.top) / 2)
    : Math.max(0.4, Math.min(castHalf, mixedTo > 0 ? undisturbed + castHalf - mixedTo : castHalf));
  const middle = inputs.thermoclineSet
    ? (inputs.thermoclineSet.top + inputs.thermoclineSet.bottom) / 2
    : Math.max(undisturbed, mixedTo + half);
  const castLower = tidy && ageDays < LATELY ? tidy[tidy.length - 1].temperature : null;
  const lowest = Math.min(surface, castLower ?? lowerTemperature(day, maxDepth) + own.worth * own.lower);
  const neverThen = !castLine && !inputs.thermoclineSet && own.worth > SURE_OF_NONE && own.layered < 0.5;
  const stratified = surface - lowest >= 3 && surface > 7 && middle + half < maxDepth && !neverThen;
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
  if (isLayered) {
    // A cast knows the real oxygen: stretched on to today's thermocline, one of this time of year first, then the last.
    if (own.like) stretchOxygen(samples, line!.depth, own.like.samples, own.like.line.depth, own.worth * Math.exp(-own.like.daysOff / 30));
    if (castLine) stretchOxygen(samples, line!.depth, tidy!, castLine.depth, trust);
  }
  const spread = inputs.thermoclineSet
    ? 0.3
    : castLine
      ? stepOf(tidy!) / 2 + 0.04 * ageDays + 0.15 * Math.max(0, mixedTo - castLine.depth)
      : UNMEASURED_SPREAD * (1 - own.worth * own.layered) + own.worth * own.layered * own.scatter * middle;
  const castAt = tidy && ageDays < LATELY ? cast!.at : null;
  return {
    samples,
    modelled: true,
    castAt,
    ofSeason: own.worth * (1 - trust),
    thermocline: line,
    spread: Math.min(UNMEASURED_SPREAD, spread),
  };
}

/** Draws a modelled column's oxygen to what a cast measured, depths against its thermocline. @param trust 0–1 */
function stretchOxygen(samples: ProfileSample[], lineDepth: number, cast: ProfileSample[], castDepth: number, trust: number): void {
  const known = cast.flatMap((c) => (c.oxygen == null ? [] : [{ depth: c.depth, temperature: c.oxygen }]));
  if (!known.length) return;
  for (const s of samples) {
    const value = temperatureAt(known, (s.depth * castDepth) / lineDepth);
    s.oxygen = Math.max(0, trust * value + (1 - trust) * (s.oxygen ?? 0));
  }
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
