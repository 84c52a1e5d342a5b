import { lightAtDepth, oxygenCurve, temperatureAt, type ProfileSample, type WaterColumn } from '../lake';
import { spawningDepth, type SpeciesProfile } from './profile';
import { lightLimit, DEFAULT_RULE, type DepthRule } from './depth-rule';

/** What suits a species at a depth: temperature, oxygen, light, and where it spawns; each 0–1, and their product. */
export interface Suitability {
  temperature: number;
  oxygen: number;
  light: number;
  /** 0 below a thermocline under which the oxygen is poor and was not measured. */
  layer: number;
  spawning: number;
  whole: number;
}

export interface WindowInputs {
  column: WaterColumn;
  secchi: number;
  maxDepth: number;
  /** Sun height, degrees; light-shy fish come up when it is low. */
  sunHeight: number;
  /** It spawns now: it is where it spawns. */
  spawning?: boolean;
  /** Share of the sky under cloud, 0–1; null where nobody saw. */
  cloud?: number | null;
  rule?: DepthRule;
}

/** What is worth half: the edge of what suits. */
export const HALF = 0.5;
/** Water colder than preferred suits half so well when it is so much colder, °C, and no less than this: in winter all of it is cold. */
const COLDER = 10;
const COLD_LEAST = 0.25;
/** Share of the light at the surface under a clear, high sun that suits a light-shy fish half, and the least that too much light leaves. */
const SHY_LIGHT = 0.2;
const SHY_LEAST = 0.1;
/** A sun below this, degrees, sends no light that matters. */
const SUN_LOW = 6;
/** Below the light limit what suits a sight-feeder falls to nothing over this share of it. */
const LIGHT_FADES = 0.3;
/** Light reaches so deep, m, that a fish which shuns it finds its prey anywhere. */
const CLEAR_TO = 20;
/** Water this cold at the surface lies under ice, °C. */
const UNDER_ICE = 1;
/** Oxygen measured so far below the thermocline tells of the water below it, m. */
const MEASURED_BELOW = 1.5;
/** Away from where it spawns, this is left. */
const SPAWNING_LEAST = 0.15;

const clamp = (v: number, min: number, max: number): number => Math.min(max, Math.max(min, v));

/** 1 in the preferred range; a half at the upper avoidance temperature and nothing as far above it; colder water suits less, slowly. */
export function temperatureSuits(s: SpeciesProfile, celsius: number): number {
  const [low, high] = s.preferred;
  if (celsius > high) return clamp(1 - (HALF * (celsius - high)) / Math.max(0.5, s.upperAvoidance - high), 0, 1);
  return Math.max(COLD_LEAST, 1 - (HALF * Math.max(0, low - celsius)) / COLDER);
}

/** A half at the least oxygen, all of it at half as much again, nothing at half of it. Unknown oxygen suits. */
export const oxygenSuits = (s: SpeciesProfile, oxygen: number | null): number =>
  oxygen === null || s.leastOxygen <= 0 ? 1 : clamp(oxygen / s.leastOxygen - HALF, 0, 1);

const underIce = (samples: ProfileSample[]): boolean => samples[0].temperature <= UNDER_ICE;

/** The depth at which a sight-feeder's light ends for a species, m; null where no light bounds it below. */
export function lightFloor(s: SpeciesProfile, { column, secchi, sunHeight, rule = DEFAULT_RULE }: WindowInputs): number | null {
  if (s.guild === 'cold' || s.place === 'bottom') return null;
  // Mixed and clear water has no limit.
  if (!column.thermocline && secchi > rule.clearFrom) return null;
  const limit = lightLimit(secchi, rule);
  // Fish that shun the light hunt without it at night and under ice, and where it reaches everywhere.
  if (s.light === 'shy' && (sunHeight < 0 || underIce(column.samples) || limit >= CLEAR_TO)) return null;
  return limit;
}

function lightSuits(s: SpeciesProfile, inputs: WindowInputs, floor: number | null, depth: number): number {
  let suits = 1;
  if (s.light === 'shy' && inputs.sunHeight > SUN_LOW && !underIce(inputs.column.samples)) {
    const light = lightAtDepth(inputs.sunHeight, inputs.cloud ?? 0, inputs.secchi, depth);
    suits = clamp(HALF - ((HALF - SHY_LEAST) * Math.log(light / SHY_LIGHT)) / Math.log(1 / SHY_LIGHT), SHY_LEAST, 1);
  }
  if (floor === null) return suits;
  // All of it well above the limit, a half at it.
  return suits * clamp(HALF - (HALF * (depth - floor)) / (LIGHT_FADES * Math.max(0.5, floor)), 0, 1);
}

function spawningSuits(s: SpeciesProfile, depth: number): number {
  const range = spawningDepth(s);
  if (!range) return 1;
  const [from, to] = range;
  const off = depth < from ? from - depth : depth > to ? depth - to : 0;
  return Math.max(SPAWNING_LEAST, 1 - (HALF * off) / (0.3 + 0.15 * to));
}

/** Steps of a suitability's depths, m: fine in shallow water, no more than some hundreds in deep. */
export const suitabilityStep = (maxDepth: number): number => Math.max(0.05, maxDepth / 600);

/**
 * What suits a species by depth, 0–1, at steps of `suitabilityStep` from the surface to the bottom: temperature × oxygen × light ×
 * spawning. Source: the shape is a judgement (a half at each limit of the species' profile); products of such factors as in
 * habitat suitability indices (US Fish and Wildlife Service 1981, 103 ESM).
 */
export function suitability(s: SpeciesProfile, inputs: WindowInputs): Suitability[] {
  const { column, maxDepth } = inputs;
  const step = suitabilityStep(maxDepth);
  const floor = lightFloor(s, inputs);
  const oxygenOf = oxygenCurve(column.samples);
  const poor = poorBelow(s, column, maxDepth);
  return Array.from({ length: Math.round(maxDepth / step) + 1 }, (_, k) => {
    const depth = Math.min(maxDepth, k * step);
    const temperature = temperatureSuits(s, temperatureAt(column.samples, depth));
    const oxygen = oxygenSuits(s, oxygenOf(depth));
    // A fish that spawns bears the light.
    const light = inputs.spawning ? 1 : lightSuits(s, inputs, floor, depth);
    const layer = poor !== null && depth > poor ? 0 : 1;
    const spawning = inputs.spawning ? spawningSuits(s, depth) : 1;
    return { temperature, oxygen, light, layer, spawning, whole: temperature * oxygen * light * layer * spawning };
  });
}

/**
 * Depth of a thermocline below which the oxygen is poor for a species as far as anyone can tell: it was not measured there. Where it
 * was, the measurement counts. Fish of cold water live below thermoclines: their own limits hold alone.
 */
function poorBelow(s: SpeciesProfile, { thermocline, samples, oxygenMeasuredTo }: WaterColumn, maxDepth: number): number | null {
  if (!thermocline || s.guild === 'cold' || (oxygenMeasuredTo ?? 0) >= Math.min(maxDepth, thermocline.depth + MEASURED_BELOW)) return null;
  return samples.some((r) => r.depth <= maxDepth && r.depth > thermocline.depth && r.oxygen != null && r.oxygen < s.leastOxygen)
    ? thermocline.depth
    : null;
}
