import { waterDensity } from './density';

/** One depth of a profile: metres below the surface, °C, mg/l where measured. */
export interface ProfileSample {
  depth: number;
  temperature: number;
  oxygen?: number | null;
  /** Practical salinity where measured. */
  salinity?: number | null;
}

/** A water column by depth, sorted, without repeats. `modelled` tells a computed column from a measured one. */
export interface WaterColumn {
  samples: ProfileSample[];
  modelled: boolean;
  /** When the profile that it rests on was made; null when it rests on none. */
  profileAt: Date | null;
  /** How far it rests on the water's profiles of that time of year instead, 0–1. */
  ofSeason: number;
  thermocline: Thermocline | null;
  /** The warm film that a calm day left on top of it; null where there is none. */
  diurnal: Thermocline | null;
  /** Depth down to which temperature, and oxygen, were measured (on the day, or lately and carried to it), m; below, or where null, they are modelled. */
  measuredTo: number | null;
  oxygenMeasuredTo: number | null;
  /** How far the thermocline may lie from where it is put, m: half a step of a profile of the day, more for an older one, most for none. */
  spread: number;
}

/** Depths in metres: of the steepest density gradient, and of the top and bottom of the metalimnion. */
export interface Thermocline {
  depth: number;
  top: number;
  bottom: number;
}

/** A profile that cannot be read as a column. */
export class ProfileError extends Error {}

/**
 * Sorts a profile and merges repeated depths by their mean.
 * @throws ProfileError when it is empty or holds an impossible depth or temperature
 */
export function tidyProfile(samples: ProfileSample[]): ProfileSample[] {
  if (!samples.length) throw new ProfileError('the profile has no reading');
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
      const measured = (of: 'oxygen' | 'salinity'): number | null => {
        const values = group.map((s) => s[of]).filter((v): v is number => v != null);
        return values.length ? mean(values) : null;
      };
      const salinity = measured('salinity');
      return {
        depth,
        temperature: mean(group.map((s) => s.temperature)),
        oxygen: measured('oxygen'),
        ...(salinity === null ? {} : { salinity }),
      };
    });
}

/** Linear interpolation in a sorted column; beyond its ends the nearest reading stands. */
export function temperatureAt(samples: ProfileSample[], depth: number): number {
  return interpolate(samples, depth, (s) => s.temperature);
}

/** Oxygen by depth, mg/l, for many depths of one column; null where the column has none. */
export function oxygenCurve(samples: ProfileSample[]): (depth: number) => number | null {
  const measured = samples.filter((s) => s.oxygen != null);
  return (depth) => (measured.length ? interpolate(measured, depth, (s) => s.oxygen as number) : null);
}

/** Oxygen at a depth, mg/l, or null when the column has none. */
export const oxygenAt = (samples: ProfileSample[], depth: number): number | null => oxygenCurve(samples)(depth);

function interpolate(samples: ProfileSample[], depth: number, value: (s: ProfileSample) => number): number {
  if (depth <= samples[0].depth) return value(samples[0]);
  for (let i = 1; i < samples.length; i++) {
    const [a, b] = [samples[i - 1], samples[i]];
    if (depth <= b.depth) return value(a) + ((value(b) - value(a)) * (depth - a.depth)) / (b.depth - a.depth);
  }
  return value(samples[samples.length - 1]);
}

/** The least fall, °C, for which a thermocline is spoken of. */
const LEAST_FALL = 1.5;
/** Readings nearer to each other than this are averaged first, m: the gradient between them would be noise. */
const FINEST = 0.4;
/** Warm water that a calm day leaves on top ends above this, m; the layer of a season lies deeper or under mixed water. */
const FILM_ENDS = 2;
/** A gradient is significant from this share of the steepest below the film. */
const SIGNIFICANT = 0.15;

/** The layers of a column: that of the season, and the warm film of a calm day above it. */
export interface Layers {
  seasonal: Thermocline | null;
  diurnal: Thermocline | null;
}

/** Readings in steps of at least FINEST. */
function thinned(samples: ProfileSample[]): ProfileSample[] {
  const span = samples[samples.length - 1].depth - samples[0].depth;
  if (span / Math.max(1, samples.length - 1) >= FINEST) return samples;
  const out: ProfileSample[] = [];
  let group: ProfileSample[] = [];
  const close = (): void => {
    const mean = (value: (s: ProfileSample) => number): number => group.reduce((sum, s) => sum + value(s), 0) / group.length;
    if (group.length) out.push({ depth: mean((s) => s.depth), temperature: mean((s) => s.temperature) });
    group = [];
  };
  for (const s of samples) {
    if (group.length && s.depth - group[0].depth >= FINEST) close();
    group.push(s);
  }
  close();
  return out;
}

/**
 * The layers of a sorted column. The seasonal thermocline is the deepest significant peak of the density gradient, its
 * depth refined by weighting the gradients beside it, its metalimnion where the gradient passes a threshold. A peak that
 * begins at the surface and ends above 2 m, with as much water again below it, is the film of a calm day.
 * @param samples sorted, metres and °C
 * @param threshold edge of the metalimnion, kg/m³ per m
 * Source: Read et al. 2011, Environ. Model. Softw. 26, 1325–1336, who tell the seasonal from the diurnal one so.
 */
export function findLayers(samples: ProfileSample[], threshold = 0.1): Layers {
  const column = thinned(samples);
  const n = column.length;
  if (n < 3) return { seasonal: null, diurnal: null };
  const gradient: number[] = [];
  const middle: number[] = [];
  for (let i = 1; i < n; i++) {
    const dz = column[i].depth - column[i - 1].depth;
    gradient.push((waterDensity(column[i].temperature) - waterDensity(column[i - 1].temperature)) / dz);
    middle.push((column[i].depth + column[i - 1].depth) / 2);
  }
  const film = filmOf(column, gradient, threshold);
  const first = film ? film.intervals : 0;
  const below = column[first].temperature - column[n - 1].temperature;
  const steepest = Math.max(0, ...gradient.slice(first));
  const seasonal =
    below < LEAST_FALL || steepest <= threshold / 2
      ? null
      : layerAt(
          column,
          gradient,
          middle,
          deepestPeak(column, gradient, first, Math.max(SIGNIFICANT * steepest, threshold / 2)),
          threshold,
          first,
        );
  return { seasonal, diurnal: film && column[0].temperature - column[first].temperature >= LEAST_FALL / 2 ? film.line : null };
}

/** The film on top: how many intervals of the gradient it takes, and its layer; null where there is none. */
function filmOf(column: ProfileSample[], gradient: number[], threshold: number): { intervals: number; line: Thermocline } | null {
  if (gradient[0] < threshold) return null;
  let k = 0;
  while (
    k + 1 < gradient.length &&
    gradient[k + 1] >= threshold &&
    gradient[k + 1] <= gradient[k] * 1.5 &&
    column[k + 2].depth <= FILM_ENDS
  )
    k++;
  // What goes on falling as steeply below is no film but the top of a deeper layer.
  if (k + 1 < gradient.length && gradient[k + 1] >= threshold && gradient[k + 1] >= 0.5 * gradient[k]) return null;
  const [top, bottom] = [column[0].depth, column[k + 1].depth];
  if (bottom > FILM_ENDS || column[column.length - 1].depth < 2 * bottom + 1) return null;
  return { intervals: k + 1, line: { depth: (top + bottom) / 2, top, bottom } };
}

/** The deepest local peak of the gradient that is significant, and over which the water cools by a degree or by most of what it cools. */
function deepestPeak(column: ProfileSample[], gradient: number[], first: number, cut: number): number {
  let steepest = first;
  for (let i = first; i < gradient.length; i++) if (gradient[i] > gradient[steepest]) steepest = i;
  for (let i = gradient.length - 1; i > steepest; i--) {
    if (gradient[i] < cut || gradient[i] < gradient[i - 1] || gradient[i] < (gradient[i + 1] ?? -Infinity)) continue;
    // The valley between it and the steepest one above tells it from that one's own tail.
    let valley = i;
    for (let k = i; k > steepest; k--) if (gradient[k] < gradient[valley]) valley = k;
    let end = i;
    while (end + 1 < gradient.length && gradient[end + 1] >= cut) end++;
    const fall = column[valley + 1].temperature - column[end + 1].temperature;
    const most = column[first].temperature - column[column.length - 1].temperature;
    if (gradient[valley] < 0.5 * gradient[i] && fall >= Math.max(LEAST_FALL, 0.4 * most)) return i;
  }
  return steepest;
}

/** The layer about a peak of the gradient. */
function layerAt(column: ProfileSample[], gradient: number[], middle: number[], k: number, threshold: number, first: number): Thermocline {
  let depth = middle[k];
  if (k > 0 && k < gradient.length - 1) {
    // Read et al. weight the readings above and below by how slowly the gradient falls off on their side.
    const below = (middle[k + 1] - middle[k]) / Math.max(1e-9, gradient[k] - gradient[k + 1]);
    const above = (middle[k] - middle[k - 1]) / Math.max(1e-9, gradient[k] - gradient[k - 1]);
    depth = (column[k + 1].depth * below + column[k].depth * above) / (below + above);
    if (!Number.isFinite(depth)) depth = middle[k];
  }
  const crossing = (from: number, step: 1 | -1): number => {
    for (let i = from; i + step >= first && i + step < gradient.length; i += step) {
      if (gradient[i + step] < threshold) {
        const share = (gradient[i] - threshold) / Math.max(1e-12, gradient[i] - gradient[i + step]);
        return middle[i] + (middle[i + step] - middle[i]) * Math.min(1, Math.max(0, share));
      }
    }
    return step < 0 ? column[first].depth : column[column.length - 1].depth;
  };
  return { depth, top: Math.min(depth, crossing(k, -1)), bottom: Math.max(depth, crossing(k, 1)) };
}

/** The seasonal thermocline of a sorted column; null when it is mixed, inversely stratified or has fewer than three readings. */
export const findThermocline = (samples: ProfileSample[]): Thermocline | null => findLayers(samples).seasonal;
