import { findThermocline, type ProfileSample, type Thermocline } from './profile';

/** A temperature profile with its time; its samples tidy, from the surface down. */
export interface DatedProfile {
  samples: ProfileSample[];
  at: Date;
}

/** What a water's own profiles say of a time of year, each counting by how near it lies to it. */
export interface OwnCourse {
  /** How far they are to be believed against a model, 0–1. */
  weight: number;
  /** Mean logarithm of their thermoclines' depth over the model's. */
  logRatio: number;
  /** Standard deviation of it, 0.15 at least: years differ. */
  scatter: number;
  /** Half the thickness of the layer, m. */
  half: number | null;
  /** How much warmer than the model the bottom was, °C. */
  lower: number;
  /** Share of them that found a layer. */
  layered: number;
  /** The nearest of them to that time of year, with its layer. */
  like: { samples: ProfileSample[]; line: Thermocline; daysOff: number } | null;
}

/** Days of the year after which a profile counts for 0.6. */
const WIDTH = 16;
/** So many profiles of that time of year count for as much as the model. */
const HALF_WEIGHT = 0.5;
const LEAST_SCATTER = 0.15;

const lines = new WeakMap<ProfileSample[], Thermocline | null>();
function lineOf(samples: ProfileSample[]): Thermocline | null {
  let line = lines.get(samples);
  if (line === undefined) lines.set(samples, (line = findThermocline(samples)));
  return line;
}

/** Days between two days of the year, the short way round. */
const apart = (a: number, b: number): number => Math.min(Math.abs(a - b), 365.25 - Math.abs(a - b));

/**
 * What the water's own profiles say of a day of the year: how its thermocline lay against a model's in this and other
 * years, a kernel average over the time of year. A profile that does not reach below where a layer would lie says nothing of it.
 * @param day of the year asked for @param dayOf day of the year of a moment
 * @param model depth of the thermocline and temperature of the bottom that the model has on a day of the year
 * @param maxDepth deepest water, m
 */
export function ownCourse(
  profiles: DatedProfile[],
  day: number,
  dayOf: (at: Date) => number,
  model: (day: number) => { depth: number; lower: number },
  maxDepth: number,
): OwnCourse {
  let [weight, layered, logs, squares, halves, reached, warmer] = [0, 0, 0, 0, 0, 0, 0];
  let like: OwnCourse['like'] = null;
  for (const { samples, at } of profiles) {
    const own = dayOf(at);
    const off = apart(own, day);
    const w = Math.exp(-((off / WIDTH) ** 2) / 2);
    if (w < 0.02 || samples.length < 3) continue;
    const line = lineOf(samples);
    const there = model(own);
    const deepest = samples[samples.length - 1];
    if (!line && deepest.depth < Math.min(0.8 * maxDepth, 1.5 * there.depth)) continue;
    weight += w;
    if (deepest.depth >= 0.7 * maxDepth) {
      reached += w;
      warmer += w * (deepest.temperature - there.lower);
    }
    if (!line) continue;
    const log = Math.log(Math.max(0.5, line.depth) / there.depth);
    layered += w;
    logs += w * log;
    squares += w * log * log;
    halves += (w * (line.bottom - line.top)) / 2;
    if (!like || off < like.daysOff) like = { samples, line, daysOff: off };
  }
  const mean = layered > 0 ? logs / layered : 0;
  return {
    weight: weight / (weight + HALF_WEIGHT),
    logRatio: mean,
    scatter: Math.max(LEAST_SCATTER, Math.sqrt(layered > 0 ? Math.max(0, squares / layered - mean * mean) : 0)),
    half: layered > 0 ? halves / layered : null,
    lower: reached > 0 ? warmer / reached : 0,
    layered: weight > 0 ? layered / weight : 1,
    like,
  };
}

/** Colder by no more than this from top to bottom, a column is of one temperature, °C; a bottom with less oxygen than this has none, mg/l. */
const ONE_TEMPERATURE = 1;
const NO_OXYGEN = 1;

/** Whether profiles found water without oxygen at the bottom while the column was of one temperature: it does not mix then either. */
export const neverMixed = (profiles: DatedProfile[]): boolean =>
  profiles.some(({ samples }) => {
    const [top, bottom] = [samples[0], samples[samples.length - 1]];
    if (bottom.depth < 8 || Math.abs(top.temperature - bottom.temperature) > ONE_TEMPERATURE) return false;
    return (top.oxygen ?? 0) > 5 && (bottom.oxygen ?? Infinity) < NO_OXYGEN;
  });
