import { waterDensity } from './density';

/** One depth of a cast: metres below the surface, °C, mg/l where measured. */
export interface ProfileSample {
  depth: number;
  temperature: number;
  oxygen?: number | null;
}

/** A water column by depth, sorted, without repeats. `modelled` tells a computed column from a measured one. */
export interface WaterColumn {
  samples: ProfileSample[];
  modelled: boolean;
  /** When the cast that it rests on was made; null when it rests on none. */
  castAt: Date | null;
  /** How far it rests on the water's casts of that time of year instead, 0–1. */
  ofSeason: number;
  thermocline: Thermocline | null;
  /** How far the thermocline may lie from where it is put, m: half a step of a cast of the day, more for an older one, most for none. */
  spread: number;
}

/** Depths in metres: of the steepest density gradient, and of the top and bottom of the metalimnion. */
export interface Thermocline {
  depth: number;
  top: number;
  bottom: number;
}

/** A cast that cannot be read as a column. */
export class ProfileError extends Error {}

/**
 * Sorts a cast and merges repeated depths by their mean.
 * @throws ProfileError when it is empty or holds an impossible depth or temperature
 */
export function tidyProfile(samples: ProfileSample[]): ProfileSample[] {
  if (!samples.length) throw new ProfileError('the cast has no reading');
  for (const s of samples) {
    if (!(s.depth >= 0)) throw new ProfileError(`depth ${s.depth} m is impossible`);
    if (!(s.temperature >= -2 && s.temperature <= 45)) throw new ProfileError(`temperature ${s.temperature} °C is impossible`);
  }
  const byDepth = new Map<number, ProfileSample[]>();
  for (const s of samples) byDepth.set(s.depth, [...(byDepth.get(s.depth) ?? []), s]);
  const mean = (values: number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
  return [...byDepth.entries()]
    .sort((a, b) => a[0] - b[0])
    .map(([depth, group]) => {
      const oxygen = group.map((s) => s.oxygen).filter((v): v is number => v != null);
      return { depth, temperature: mean(group.map((s) => s.temperature)), oxygen: oxygen.length ? mean(oxygen) : null };
    });
}

/** Linear interpolation in a sorted column; beyond its ends the nearest reading stands. */
export function temperatureAt(samples: ProfileSample[], depth: number): number {
  return interpolate(samples, depth, (s) => s.temperature);
}

/** Oxygen at a depth, mg/l, or null when the column has none. */
export function oxygenAt(samples: ProfileSample[], depth: number): number | null {
  const measured = samples.filter((s) => s.oxygen != null);
  return measured.length ? interpolate(measured, depth, (s) => s.oxygen as number) : null;
}

function interpolate(samples: ProfileSample[], depth: number, value: (s: ProfileSample) => number): number {
  if (depth <= samples[0].depth) return value(samples[0]);
  for (let i = 1; i < samples.length; i++) {
    const [a, b] = [samples[i - 1], samples[i]];
    if (depth <= b.depth) return value(a) + ((value(b) - value(a)) * (depth - a.depth)) / (b.depth - a.depth);
  }
  return value(samples[samples.length - 1]);
}

/** The least total fall, °C, for which a thermocline is spoken of. */
const LEAST_FALL = 1.5;

/**
 * The thermocline of a sorted column: the depth of the steepest density gradient, refined by weighting the
 * gradients beside it, and the metalimnion where the gradient passes a threshold.
 * @param samples sorted, metres and °C
 * @param threshold edge of the metalimnion, kg/m³ per m
 * @returns null when the column is mixed, inversely stratified or has fewer than three readings
 * Source: Read et al. 2011, Environ. Model. Softw. 26, 1325–1336.
 */
export function findThermocline(samples: ProfileSample[], threshold = 0.1): Thermocline | null {
  const n = samples.length;
  if (n < 3 || samples[0].temperature - samples[n - 1].temperature < LEAST_FALL) return null;
  const gradient: number[] = [];
  const middle: number[] = [];
  for (let i = 1; i < n; i++) {
    const dz = samples[i].depth - samples[i - 1].depth;
    gradient.push((waterDensity(samples[i].temperature) - waterDensity(samples[i - 1].temperature)) / dz);
    middle.push((samples[i].depth + samples[i - 1].depth) / 2);
  }
  let k = 0;
  for (let i = 1; i < gradient.length; i++) if (gradient[i] > gradient[k]) k = i;
  if (gradient[k] <= threshold / 2) return null;
  let depth = middle[k];
  if (k > 0 && k < gradient.length - 1) {
    // Read et al. weight the readings above and below by how slowly the gradient falls off on their side.
    const below = (middle[k + 1] - middle[k]) / Math.max(1e-9, gradient[k] - gradient[k + 1]);
    const above = (middle[k] - middle[k - 1]) / Math.max(1e-9, gradient[k] - gradient[k - 1]);
    depth = (samples[k + 1].depth * below + samples[k].depth * above) / (below + above);
    if (!Number.isFinite(depth)) depth = middle[k];
  }
  const crossing = (from: number, step: 1 | -1): number => {
    for (let i = from; i + step >= 0 && i + step < gradient.length; i += step) {
      if (gradient[i + step] < threshold) {
        const share = (gradient[i] - threshold) / Math.max(1e-12, gradient[i] - gradient[i + step]);
        return middle[i] + (middle[i + step] - middle[i]) * Math.min(1, Math.max(0, share));
      }
    }
    return step < 0 ? samples[0].depth : samples[n - 1].depth;
  };
  const top = Math.min(depth, crossing(k, -1));
  const bottom = Math.max(depth, crossing(k, 1));
  return { depth, top, bottom };
}
