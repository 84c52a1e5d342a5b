import { oxygenSaturation } from './oxygen';
import { neverMixed, ownCourse, type DatedProfile, type OwnCourse } from './own-profiles';
import { findLayers, findThermocline, tidyProfile, temperatureAt, type ProfileSample, type Thermocline, type WaterColumn } from './profile';
import { seasonDay } from './season-day';
import { courseOfLatitude, type UsualCourse } from './usual-course';
import {
  coolingHalf,
  floats,
  formsLayers,
  layeredDays,
  layersPossible,
  overturnMargin,
  settledThermocline,
  waterYear,
  type WaterYear,
} from './water-year';

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
  /** What the water is, in its owner's words: a river is mixed. */
  kind?: string | null;
  /** The usual course of its surface; the latitude's where it has no readings. */
  course?: UsualCourse;
  /** The latest real profile, if any. */
  profile?: DatedProfile | null;
  /** All profiles of the water, of other years too: they tell how its layer lies at this time of year. */
  profiles?: DatedProfile[];
  /** Practical salinity of the water; 0 if not said: salt water holds less oxygen. */
  salinity?: number;
  /** A thermocline set by hand (what-if), m. */
  thermoclineSet?: { top: number; bottom: number } | null;
}

/** How far the thermocline has come down so many days after layers formed, against where it settles. */
const seasonFactor = (layered: number): number => Math.min(1.7, Math.max(0.6, 0.6 + (0.6 * layered) / 90));

/** Days for which a profile tells of the water after it, and over which it fades to a third. */
const LATELY = 60;
const FADES = 30;

/** Profiles of a time of year that count for so much can say that there is no layer then. */
const SURE_OF_NONE = 0.6;

/** A measured column that ends so much above the bottom, m, goes on as modelled. */
const NEARLY_THE_BOTTOM = 0.5;

/** Half the thickness of a layer that nobody measured, m. */
const USUAL_HALF = 1.2;

/** How fast the upper layer as a whole can warm, °C a day; what the surface has gained beyond that lies on it as a film. */
const WARMS_BY = 0.4;
/** Depth over which such a film falls off, m. */
const FILM = 0.7;

/**
 * The water column for a surface temperature and date, resting on the last profile where it is not too old, else on how the
 * water's own profiles lay at that time of year, else on a model: layers as the year of the water allows them (`waterYear`), the
 * thermocline deepening from their onset, deeper in clear water. A profile of the same day whose surface agrees within
 * 1 °C is the column, and goes on as modelled below its last reading. Marked as modelled otherwise.
 */
export function columnFor(inputs: ColumnInputs): WaterColumn {
  const { at, profile } = inputs;
  const ageDays = profile ? Math.abs(at.getTime() - profile.at.getTime()) / 86400000 : Infinity;
  const recent = profile && ageDays < LATELY ? { at: profile.at, samples: tidyProfile(profile.samples), ageDays } : null;
  const measured = recent && ageDays < 0.75 && !inputs.thermoclineSet && Math.abs(recent.samples[0].temperature - inputs.surface) < 1;
  return measured ? ofTheDay(recent, inputs) : modelledColumn(inputs, recent);
}

interface RecentProfile {
  at: Date;
  samples: ProfileSample[];
  ageDays: number;
}

/** A profile of the day, and where it ends above the bottom the modelled column below it, drawn to it. */
function ofTheDay(recent: RecentProfile, inputs: ColumnInputs): WaterColumn {
  const { at, samples } = recent;
  const { maxDepth } = inputs;
  const last = samples[samples.length - 1];
  const modelled = last.depth < maxDepth - NEARLY_THE_BOTTOM ? modelledColumn(inputs, recent) : null;
  const whole = modelled ? [...samples, ...below(samples, modelled)] : samples;
  const { seasonal, diurnal } = findLayers(whole);
  return {
    samples: whole,
    modelled: false,
    profileAt: at,
    ofSeason: 0,
    thermocline: seasonal,
    diurnal,
    measuredTo: Math.min(maxDepth, last.depth),
    oxygenMeasuredTo: oxygenReaches(samples),
    spread: modelled && seasonal && seasonal.depth > last.depth ? modelled.spread : stepOf(samples) / 2,
  };
}

/** How a profile goes on: what it ended at fades into the model over five metres; no deeper water is warmer than it. */
function below(samples: ProfileSample[], modelled: WaterColumn): ProfileSample[] {
  const last = samples[samples.length - 1];
  const off = last.temperature - temperatureAt(modelled.samples, last.depth);
  const withOxygen = samples.some((r) => r.oxygen != null);
  return modelled.samples
    .filter((s) => s.depth > last.depth + 0.25)
    .map(({ depth, temperature, oxygen }) => ({
      depth,
      temperature: Math.min(last.temperature, temperature + off * Math.exp(-(depth - last.depth) / 5)),
      oxygen: withOxygen ? oxygen : null,
    }));
}

/** Depth of the deepest oxygen reading, m; null without any. */
const oxygenReaches = (samples: ProfileSample[]): number | null =>
  samples.reduce<number | null>((deepest, s) => (s.oxygen == null ? deepest : s.depth), null);

/** What the layer of a column is worked out from. */
interface Layering {
  year: WaterYear;
  day: number;
  own: OwnCourse;
  /** Half its thickness and the middle of it, m; whether it is there. */
  half: number;
  middle: number;
  layered: boolean;
  /** Temperature of the deepest water, °C. */
  lowest: number;
}

function modelledColumn(inputs: ColumnInputs, recent: RecentProfile | null): WaterColumn {
  const { surface, maxDepth } = inputs;
  const layers = recent ? findLayers(recent.samples) : null;
  const line = layers?.seasonal ?? null;
  const trust = recent ? Math.exp(-recent.ageDays / FADES) : 0;
  const at = layeringOf(inputs, recent, line, trust);
  const { middle, half, layered, lowest, own, year, day } = at;
  const ofModel = (z: number): number => {
    if (surface < 3.9) return surface + (4 - surface) * Math.min(1, z / 6);
    if (year.mixing === 'flowing') return surface;
    if (!layered) return surface - Math.max(0, Math.min(0.8, surface - lowest)) * Math.min(1, z / Math.max(4, maxDepth));
    return lowest + (surface - lowest) / (1 + Math.exp((2.2 * (z - middle)) / half));
  };
  const ofProfile =
    recent && surface >= 3.9 && !inputs.thermoclineSet ? carried(recent, layers!.diurnal, line, at, surface, ofModel) : null;
  const temperature = (z: number): number => (ofProfile ? trust * ofProfile(z) + (1 - trust) * ofModel(z) : ofModel(z));

  // Oxygen that the sealed lower layer loses, mg/l a day: the dirtier the water, the more there is to rot; twice as fast in water
  // 10 °C warmer; slower where the layer below is thick.
  const sealedDays = layered ? layeredDays(year, day) : 0;
  const thick = Math.max(1, maxDepth - middle);
  const loss = Math.min(0.2, Math.max(0.02, 0.25 / inputs.secchi)) * Math.min(3, 2 ** ((lowest - 8) / 10)) * Math.min(1, 15 / thick);
  const depths = Array.from({ length: Math.max(2, Math.ceil(maxDepth / 0.5) + 1) }, (_, i) => Math.min(maxDepth, i * 0.5));
  let above = Infinity;
  const samples = depths.map((depth) => {
    // Warmer water under colder turns over at once; under ice it does not.
    const t = surface < 3.9 ? temperature(depth) : (above = Math.min(above, temperature(depth)));
    const full = oxygenSaturation(t, inputs.altitude, inputs.salinity);
    const sealed = layered ? 1 / (1 + Math.exp(-(depth - (middle + half * 0.6)) / (0.35 * half))) : 0;
    return { depth, temperature: t, oxygen: Math.max(0.2, full * 0.97 - sealed * Math.min(full, loss * sealedDays)) };
  });
  let oxygenMeasuredTo: number | null = null;
  // A profile knows the real oxygen: stretched on to today's thermocline, one of this time of year first, then the last.
  if (layered && own.like)
    stretchOxygen(samples, middle / own.like.line.depth, own.like.samples, own.weight * Math.exp(-own.like.daysOff / 30));
  if (recent && (line ? layered : !layered)) {
    const stretch = line ? middle / line.depth : 1;
    stretchOxygen(samples, stretch, recent.samples, trust);
    const reaches = oxygenReaches(recent.samples);
    if (trust > 0.5 && reaches !== null) oxygenMeasuredTo = Math.min(maxDepth, reaches * stretch);
  }
  // Where the profile and the model differ about there being a layer, the column itself tells.
  const differ = recent !== null && (line !== null) !== layered;
  const thermocline = differ ? findThermocline(samples) : layered ? asLine(middle, half, maxDepth) : null;
  return {
    samples,
    modelled: true,
    profileAt: recent?.at ?? null,
    ofSeason: own.weight * (1 - (line ? trust : 0)),
    thermocline,
    diurnal: null,
    measuredTo: null,
    oxygenMeasuredTo,
    spread: Math.min(UNMEASURED_SPREAD, spreadOf(inputs, recent, line, at)),
  };
}

const asLine = (middle: number, half: number, maxDepth: number): Thermocline => ({
  depth: middle,
  top: Math.max(0, middle - half),
  bottom: Math.min(maxDepth, middle + half),
});

/** Where the layer of a day lies, and whether there is one. */
function layeringOf(inputs: ColumnInputs, recent: RecentProfile | null, line: Thermocline | null, trust: number): Layering {
  const { surface, at, maxDepth, latitude } = inputs;
  const course = inputs.course ?? courseOfLatitude(latitude, inputs.altitude);
  const profiles = inputs.profiles ?? [];
  const year = waterYear(course, { maxDepth, lengthKm: inputs.lengthKm, kind: inputs.kind ?? null }, neverMixed(profiles));
  const day = seasonDay(at, latitude);
  const settled = settledThermocline(inputs.lengthKm);
  const lowerOn = (then: number): number => year.deep + year.deepWarming * Math.min(1, sinceOnset(year, then) / 150);
  const own = ownCourse(
    profiles,
    day,
    (then) => seasonDay(then, latitude),
    (then) => ({ depth: settled * seasonFactor(sinceOnset(year, then)), lower: lowerOn(then) }),
    maxDepth,
  );
  const clarity = Math.min(1.25, Math.max(0.85, (inputs.secchi / 3) ** 0.15));
  const drift = line ? seasonDay(at, latitude) - seasonDay(recent!.at, latitude) : 0;
  // What the water's own profiles show has its clarity in it.
  const usual = settled * seasonFactor(sinceOnset(year, day)) * clarity ** (1 - own.weight) * Math.exp(own.weight * own.logRatio);
  // A surface colder than the profile's has sunk and mixed: down to where the profile was as cold as it is now.
  const mixedTo = line ? depthOfTemperature(recent!.samples, surface) : 0;
  const undisturbed = line ? trust * Math.max(1, line.depth + 0.025 * drift) + (1 - trust) * usual : usual;
  const usualHalf = own.half === null ? USUAL_HALF : own.weight * own.half + (1 - own.weight) * USUAL_HALF;
  const profileHalf = line ? Math.max(0.4, (line.bottom - line.top) / 2) : Math.max(0.4, usualHalf);
  const set = inputs.thermoclineSet;
  const half = set
    ? Math.max(0.2, (set.bottom - set.top) / 2)
    : Math.max(0.4, Math.min(profileHalf, mixedTo > 0 ? undisturbed + profileHalf - mixedTo : profileHalf));
  const middle = set ? (set.top + set.bottom) / 2 : Math.max(undisturbed, mixedTo + half);
  const last = recent?.samples[recent.samples.length - 1];
  // A profile that ended in or above the layer has not seen the deep water.
  const sawDeep = last && (last.depth >= 0.7 * maxDepth || (line !== null && last.depth >= line.bottom + 0.5));
  const lowest = Math.min(surface, sawDeep ? last.temperature : lowerOn(day) + own.weight * own.lower);
  const neverThen = !line && !set && own.weight > SURE_OF_NONE && own.layered < 0.5;
  const inSeason = line !== null || set != null || own.weight > SURE_OF_NONE || layersPossible(year, course, day);
  const breaksUp = coolingHalf(day) && surface < lowest + overturnMargin(year);
  const layered =
    (formsLayers(year) || line !== null || set != null) &&
    inSeason &&
    floats(surface, lowest) &&
    middle + half < maxDepth &&
    !neverThen &&
    !breaksUp;
  return { year, day, own, half, middle, layered, lowest };
}

/** Days since layers formed; before they have, as on their first day. */
function sinceOnset(year: WaterYear, day: number): number {
  const days = layeredDays(year, day);
  // Winter and spring belong to the layers to come; without a winter those of last season last.
  return days > 250 && year.mixing !== 'meromictic' && year.swing >= 3 ? 0 : days;
}

/**
 * A profile of some days ago as it would be today: its layer where it lies by now; a colder surface has sunk down to where the water was
 * as cold; a warmer one has warmed the layer above, no faster than that can, the rest lies on it as a film. Below its last
 * reading as modelled, no warmer.
 */
function carried(
  { samples, ageDays }: RecentProfile,
  film: Thermocline | null,
  line: Thermocline | null,
  { middle, half }: Layering,
  surface: number,
  ofModel: (z: number) => number,
): (z: number) => number {
  const stretch = line ? line.depth / middle : 1;
  const last = samples[samples.length - 1];
  const start = film ? temperatureAt(samples, film.bottom) : samples[0].temperature;
  const warmed = Math.max(0, Math.min(surface - start, WARMS_BY * (ageDays + 1)));
  const onTop = Math.max(0, surface - start - warmed);
  const [upper, fade] = line ? [middle - half, 2 * half] : [0.6 * middle, 0.4 * middle];
  return (z) => {
    const then = z * stretch;
    const was = film && then < film.bottom ? start : temperatureAt(samples, then);
    const share = Math.min(1, Math.max(0, 1 - (z - upper) / fade));
    const now = Math.min(surface, was + warmed * share + onTop * Math.exp(-z / FILM));
    return then > last.depth + NEARLY_THE_BOTTOM ? Math.min(now, ofModel(z)) : now;
  };
}

/** How far the thermocline may lie from where it is put, m. */
function spreadOf(inputs: ColumnInputs, recent: RecentProfile | null, line: Thermocline | null, { own, middle }: Layering): number {
  if (inputs.thermoclineSet) return 0.3;
  if (!line) return UNMEASURED_SPREAD * (1 - own.weight * own.layered) + own.weight * own.layered * own.scatter * middle;
  const mixedTo = depthOfTemperature(recent!.samples, inputs.surface);
  return stepOf(recent!.samples) / 2 + 0.04 * recent!.ageDays + 0.15 * Math.max(0, mixedTo - line.depth);
}

/**
 * Draws a modelled column's oxygen to what a profile measured, as far down as it measured.
 * @param stretch depth today of what lay a metre down then @param trust 0–1
 */
function stretchOxygen(samples: ProfileSample[], stretch: number, profile: ProfileSample[], trust: number): void {
  const known = profile.flatMap((c) => (c.oxygen == null ? [] : [{ depth: c.depth, temperature: c.oxygen }]));
  if (!known.length) return;
  const deepest = known[known.length - 1].depth;
  for (const s of samples) {
    const then = s.depth / stretch;
    // Below the last reading there is no more than it read.
    const modelled = then > deepest + NEARLY_THE_BOTTOM ? Math.min(s.oxygen ?? 0, known[known.length - 1].temperature) : null;
    const value = modelled ?? temperatureAt(known, then);
    s.oxygen = Math.max(0, trust * value + (1 - trust) * (s.oxygen ?? 0));
  }
}

/** How far off the model of a water nobody has measured may be, m: half the spread that lakes of one length show. */
const UNMEASURED_SPREAD = 2;

/** Mean distance between the readings of a profile, m. */
const stepOf = (samples: ProfileSample[]): number =>
  samples.length > 1 ? (samples[samples.length - 1].depth - samples[0].depth) / (samples.length - 1) : 4;

/** Depth at which a profile has cooled to a temperature, m; 0 when its surface was no warmer. */
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
export function oxygenHoldsTo(samples: ProfileSample[], min: number): number | null {
  for (let i = 0; i < samples.length; i++) {
    const here = samples[i].oxygen;
    if (here == null || here >= min) continue;
    if (i === 0) return 0;
    const above = samples[i - 1].oxygen ?? here;
    const share = above === here ? 0 : (above - min) / (above - here);
    return samples[i - 1].depth + share * (samples[i].depth - samples[i - 1].depth);
  }
  return null;
}
