import { waterDensity } from './density';
import { FLOWS, isTidal } from './tidal';
import { extremes, PEAK_DAY, usualOnDay, type UsualCourse } from './usual-course';

/** How often in a year a water mixes to the bottom. */
export type Mixing = 'flowing' | 'polymictic' | 'dimictic' | 'warm monomictic' | 'cold monomictic' | 'meromictic';

/** What a water is, as far as its layers go. */
export interface WaterShape {
  /** Deepest water, m. */
  maxDepth: number;
  /** Longest way the wind has over the water, km. */
  lengthKm: number;
  /** What it is, in its owner's words; null where nobody said. */
  kind: string | null;
}

/** The year of a water: when it forms layers, and what lies below them. Days are days of the season (`seasonDay`). */
export interface WaterYear {
  mixing: Mixing;
  /** The coldest and the warmest that the surface usually gets, and half its yearly swing, °C. */
  coldest: number;
  warmest: number;
  swing: number;
  /** Temperature of the deepest water when layers form, and how much it warms until they end, °C. */
  deep: number;
  deepWarming: number;
  /** Day on which layers usually have formed, and on which the surface is usually as cold again as it was then. */
  onset: number;
  end: number;
}

/** Water is densest at 4 °C: a lake that was as cold as that or colder begins its summer there. */
const DENSEST = 4;
/** A surface that swings less than this through the year has no winter to speak of, °C. */
const TROPICAL_SWING = 3;
/** A tropical lake deeper than this is not mixed to the bottom by any wind of the year, m. */
const NEVER_MIXED = 150;
/** A deep lake holds so much warmth that its surface does not fall below 4 °C in most winters, m. */
const SLOW_TO_COOL = 80;
const YEAR = 365.25;
/** The swing of the temperate lakes whose course the numbers below are of, °C. */
const TEMPERATE_SWING = 11;

/**
 * Depth at which the summer thermocline settles, m: 6.95·L^0.185 with L the longest effective length in km.
 * Source: Hanna 1990, Can. J. Fish. Aquat. Sci. 47.
 */
export const settledThermocline = (lengthKm: number): number => 6.95 * Math.max(0.05, lengthKm) ** 0.185;

/**
 * How much warmer than at its coldest the deep water is when layers form, °C: wind stirs the sun's warmth down in spring, the
 * further the longer and the shallower the lake. 144·(√L/D)^1.5, no more than 7: judged from six lakes of 15 to 140 m.
 */
const stirredIn = (lengthKm: number, maxDepth: number): number => Math.min(7, 144 * (Math.sqrt(lengthKm) / Math.max(4, maxDepth)) ** 1.5);

/** Day of the season on which the usual surface rises (or falls) through a temperature; the nearest day where it never does. */
function crossing(course: UsualCourse, celsius: number, rising: boolean): number {
  const swing = Math.hypot(course.cosine, course.sine);
  const peak = Math.atan2(course.sine, course.cosine);
  const off = Math.acos(Math.min(1, Math.max(-1, (celsius - course.mean) / Math.max(1e-6, swing))));
  const day = ((peak + (rising ? -off : off)) / (2 * Math.PI)) * YEAR;
  return ((day % YEAR) + YEAR) % YEAR;
}

/**
 * The year of a water from the usual course of its surface and its shape. The deep water keeps the temperature of the coldest
 * season: 4 °C where the lake freezes, the winter's minimum where it does not.
 * @param sealed its own profiles found no oxygen at the bottom while it was of one temperature: it never mixes
 * Source: the kinds of mixing are those of Hutchinson & Löffler 1956 and Lewis 1983
 */
export function waterYear(course: UsualCourse, { maxDepth, lengthKm, kind }: WaterShape, sealed = false): WaterYear {
  const { swing, warmest, ...usual } = extremes(course);
  const coldest = maxDepth > SLOW_TO_COOL ? Math.max(DENSEST, usual.coldest) : usual.coldest;
  const scale = seasonScale({ swing });
  const base = Math.max(DENSEST, coldest - 0.5);
  const deep = Math.min(warmest, base + scale * stirredIn(lengthKm, maxDepth));
  const half = (base + warmest) / 2;
  const year = {
    coldest,
    warmest,
    swing,
    deep,
    deepWarming: 1.5 * scale * Math.min(1, 25 / maxDepth),
    onset: crossing(course, half, true),
    end: crossing(course, half, false),
  };
  return { mixing: mixingOf(), ...year };

  function mixingOf(): Mixing {
    // The tide stirs as a river does.
    if (FLOWS.test(kind ?? '') || isTidal(kind)) return 'flowing';
    // Too shallow for the layer that such a length of water gets even early in the summer.
    if (maxDepth < 0.6 * settledThermocline(lengthKm) + 1) return 'polymictic';
    if (sealed || (swing < TROPICAL_SWING && maxDepth > NEVER_MIXED)) return 'meromictic';
    if (warmest < DENSEST + 2) return 'cold monomictic';
    return coldest < DENSEST ? 'dimictic' : 'warm monomictic';
  }
}

/** Whether a water of this kind forms layers that last for a season. */
export const formsLayers = ({ mixing }: WaterYear): boolean =>
  mixing !== 'flowing' && mixing !== 'polymictic' && mixing !== 'cold monomictic';

/** Days since layers formed, 0 out of their season. @param day of the season */
export function layeredDays(year: WaterYear, day: number): number {
  if (year.mixing === 'meromictic') return YEAR;
  return (day - year.onset + YEAR) % YEAR;
}

/** The season's part of the year in which layers can lie: the usual surface is a quarter of the way from the deep water to its warmest. */
export function layersPossible(year: WaterYear, course: UsualCourse, day: number): boolean {
  if (year.mixing === 'meromictic' || year.swing < TROPICAL_SWING) return true;
  return usualOnDay(course, day) > Math.max(DENSEST, year.coldest) + 0.25 * (year.warmest - Math.max(DENSEST, year.coldest));
}

/** Whether the surface is falling through its usual year (from its warmest to its coldest day). @param day of the season */
export const coolingHalf = (day: number): boolean => day >= PEAK_DAY || day < 20;

/** Whether water so much warmer stays on top of colder: its density differs enough for a day's wind, 0.2 kg/m³, and it is 1.5 °C warmer. */
export const floats = (upper: number, lower: number): boolean => upper - lower >= 1.5 && waterDensity(lower) - waterDensity(upper) >= 0.2;

/**
 * The margin, °C, by which a cooling surface may still be warmer than the deep water when the layer breaks up: wind does the rest.
 */
export const overturnMargin = (year: WaterYear): number => 4 * seasonScale(year);

/** The coldest stretch of the year, below which it is winter, °C: 4 where the lake freezes; −∞ in the tropics, where none is. */
export const winterBelow = ({ coldest, swing }: WaterYear): number =>
  coldest < DENSEST ? DENSEST : swing < TROPICAL_SWING ? -Infinity : coldest + 0.16 * swing;

/** What the numbers of a season are scaled by, 1 in temperate lakes, less where the year swings less. */
export const seasonScale = ({ swing }: Pick<WaterYear, 'swing'>): number => Math.min(1, swing / TEMPERATE_SWING);
