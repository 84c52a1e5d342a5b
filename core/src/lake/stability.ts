import { waterDensity } from './density';
import type { ProfileSample, Thermocline } from './profile';
import { temperatureAt } from './profile';

/** Gravity, m/s². */
const G = 9.81;

/** Area of the water at depths below the surface: depth m, area m², from 0 m down; the last area is 0 or nearly so. */
export interface Hypsograph {
  depth: number[];
  area: number[];
}

/**
 * Buoyancy frequency squared between the readings of a sorted column, N² = (g/ρ)·dρ/dz, 1/s².
 * Negative where the column is unstable. Source: any limnology text; Read et al. 2011.
 */
export function buoyancyFrequency(samples: ProfileSample[]): { depth: number; n2: number }[] {
  return samples.slice(1).map((s, i) => {
    const above = samples[i];
    const [r0, r1] = [waterDensity(above.temperature), waterDensity(s.temperature)];
    return { depth: (s.depth + above.depth) / 2, n2: ((G / ((r0 + r1) / 2)) * (r1 - r0)) / (s.depth - above.depth) };
  });
}

/** Steps of the integrals over depth, m. */
const STEP = 0.1;

function areaAt({ depth, area }: Hypsograph, z: number): number {
  if (z <= depth[0]) return area[0];
  for (let i = 1; i < depth.length; i++)
    if (z <= depth[i]) return area[i - 1] + ((area[i] - area[i - 1]) * (z - depth[i - 1])) / (depth[i] - depth[i - 1]);
  return 0;
}

/** Depth of the centre of volume of a water, m. */
export function centreOfVolume(hypsograph: Hypsograph): number {
  let [volume, moment] = [0, 0];
  const bottom = hypsograph.depth[hypsograph.depth.length - 1];
  for (let z = STEP / 2; z < bottom; z += STEP) {
    const a = areaAt(hypsograph, z);
    volume += a;
    moment += a * z;
  }
  return volume > 0 ? moment / volume : 0;
}

/**
 * Schmidt stability, J/m²: the work to mix the column, St = (g/A0)·∫(z − zv)·ρ(z)·A(z) dz.
 * @param samples sorted column Source: Schmidt 1928; Idso 1973, Limnol. Oceanogr. 18
 */
export function schmidtStability(samples: ProfileSample[], hypsograph: Hypsograph): number {
  const zv = centreOfVolume(hypsograph);
  const bottom = hypsograph.depth[hypsograph.depth.length - 1];
  let total = 0;
  for (let z = STEP / 2; z < bottom; z += STEP) total += (z - zv) * waterDensity(temperatureAt(samples, z)) * areaAt(hypsograph, z) * STEP;
  return (G / hypsograph.area[0]) * total;
}

/** Friction velocity of the wind at the water's surface, m/s: √(ρ_air·C_d·U²/ρ_water), C_d = 0.0013. @param wind m/s at 10 m */
export const frictionVelocity = (wind: number, surface: number): number => Math.sqrt((1.2 * 1.3e-3 * wind ** 2) / waterDensity(surface));

/** Mean density between two depths of a column, kg/m³. */
function meanDensity(samples: ProfileSample[], from: number, to: number): number {
  let sum = 0;
  const n = Math.max(1, Math.ceil((to - from) / STEP));
  for (let i = 0; i < n; i++) sum += waterDensity(temperatureAt(samples, from + ((i + 0.5) * (to - from)) / n));
  return sum / n;
}

/** Density of the layers above and below a thermocline, and the reduced gravity between them, m/s². */
function layers(samples: ProfileSample[], line: Thermocline): { upper: number; lower: number; reduced: number } {
  const upper = meanDensity(samples, 0, Math.max(0.1, line.top));
  const lower = meanDensity(samples, line.bottom, Math.max(line.bottom + 0.1, samples[samples.length - 1].depth));
  return { upper, lower, reduced: (G * (lower - upper)) / lower };
}

/**
 * Wedderburn number, W = g'·h²/(u*²·L): how far a wind can tilt the thermocline; below 1 the lower water comes up at
 * the sheltered end. @param length of the water along the wind, m Source: Imberger & Patterson 1990
 */
export function wedderburnNumber(samples: ProfileSample[], line: Thermocline, wind: number, length: number): number {
  const u = frictionVelocity(wind, samples[0].temperature);
  return (layers(samples, line).reduced * line.depth ** 2) / (u ** 2 * length);
}

/**
 * Lake number, LN = St·(zt + zb)/(2·ρh·u*²·√A0·zv): as Wedderburn's, for the whole basin.
 * Source: Imberger & Patterson 1990, as written by Read et al. 2011
 */
export function lakeNumber(samples: ProfileSample[], line: Thermocline, wind: number, hypsograph: Hypsograph): number {
  const u = frictionVelocity(wind, samples[0].temperature);
  const { lower } = layers(samples, line);
  return (
    (schmidtStability(samples, hypsograph) * (line.top + line.bottom)) /
    (2 * lower * u ** 2 * Math.sqrt(hypsograph.area[0]) * centreOfVolume(hypsograph))
  );
}

/**
 * How much deeper the thermocline lies at the wind-blown end (and shallower at the sheltered one) under a steady wind,
 * m: h/(2W), no more than its own depth. Source: Monismith 1986; Imberger & Patterson 1990
 */
export function thermoclineTilt(samples: ProfileSample[], line: Thermocline, wind: number, length: number): number {
  if (wind <= 0) return 0;
  return Math.min(line.depth, line.depth / (2 * wedderburnNumber(samples, line, wind, length)));
}

/** Depth of the mixed layer, m: down to where the water is 0.5 °C colder than at the surface (or, under ice, warmer). */
export function mixedLayerDepth(samples: ProfileSample[]): number {
  const surface = samples[0].temperature;
  for (let i = 1; i < samples.length; i++) {
    const [a, b] = [samples[i - 1], samples[i]];
    if (Math.abs(b.temperature - surface) >= 0.5) {
      const share = (0.5 - Math.abs(a.temperature - surface)) / Math.max(1e-9, Math.abs(b.temperature - a.temperature));
      return a.depth + Math.min(1, Math.max(0, share)) * (b.depth - a.depth);
    }
  }
  return samples[samples.length - 1].depth;
}
