import { seasonDay } from '../lake';
import type { SpeciesProfile } from './profile';

const DAY = 86_400_000;

/** A surface temperature read at a moment (ms), °C. */
export interface SurfaceReading {
  at: number;
  surface: number;
}

/** The usual surface temperature through the year: mean, and the cosine and sine parts of its yearly swing, °C. */
export interface UsualCourse {
  mean: number;
  cosine: number;
  sine: number;
  /** Readings of the water itself that it rests on; 0 when it is the latitude's. */
  readings: number;
}

const YEAR = 365.25;
const angle = (at: number, latitude: number): number => (2 * Math.PI * seasonDay(new Date(at), latitude)) / YEAR;

/** The latitude's course: a sine, warmest at the end of July on the northern side; good to about 4 °C. */
export function courseOfLatitude(latitude: number): UsualCourse {
  const a = Math.abs(latitude);
  const mean = Math.max(4, 28 - 0.37 * a);
  const swing = Math.min(11, 0.24 * a);
  const peak = (2 * Math.PI * 208) / YEAR;
  return { mean, cosine: swing * Math.cos(peak), sine: swing * Math.sin(peak), readings: 0 };
}

export const usualAt = (course: UsualCourse, at: number, latitude: number): number =>
  Math.max(1, course.mean + course.cosine * Math.cos(angle(at, latitude)) + course.sine * Math.sin(angle(at, latitude)));

/**
 * The water's own usual course: least squares of a yearly sine on its readings, drawn toward the latitude's (as if
 * that were eight readings), so that a few readings of one month do not bend the whole year.
 */
export function usualCourse(readings: SurfaceReading[], latitude: number): UsualCourse {
  const prior = courseOfLatitude(latitude);
  if (!readings.length) return prior;
  // Normal equations for the differences from the prior, 3 × 3.
  const a = [
    [8, 0, 0],
    [0, 8, 0],
    [0, 0, 8],
  ];
  const b = [0, 0, 0];
  for (const r of readings) {
    const t = angle(r.at, latitude);
    const x = [1, Math.cos(t), Math.sin(t)];
    const rest = r.surface - (prior.mean + prior.cosine * x[1] + prior.sine * x[2]);
    for (let i = 0; i < 3; i++) {
      b[i] += x[i] * rest;
      for (let j = 0; j < 3; j++) a[i][j] += x[i] * x[j];
    }
  }
  const [mean, cosine, sine] = solve3(a, b);
  return { mean: prior.mean + mean, cosine: prior.cosine + cosine, sine: prior.sine + sine, readings: readings.length };
}

function solve3(a: number[][], b: number[]): number[] {
  const m = a.map((row, i) => [...row, b[i]]);
  for (let i = 0; i < 3; i++)
    for (let k = i + 1; k < 3; k++) {
      const f = m[k][i] / m[i][i];
      for (let j = i; j < 4; j++) m[k][j] -= f * m[i][j];
    }
  const x = [0, 0, 0];
  for (let i = 2; i >= 0; i--) x[i] = (m[i][3] - m[i].slice(i + 1, 3).reduce((s, v, k) => s + v * x[i + 1 + k], 0)) / m[i][i];
  return x;
}

export type StageName =
  'winter' | 'early spring' | 'before spawning' | 'spawning' | 'after spawning' | 'summer' | 'cooling' | 'turnover' | 'late autumn';

export interface StageSpan {
  stage: StageName;
  /** First and last day of the year (0–364), inclusive. */
  from: number;
  to: number;
}

export interface SeasonInputs {
  at: Date;
  /** Surface temperature at `at`, read or asked for. */
  surface: number;
  readings: SurfaceReading[];
  latitude: number;
  course: UsualCourse;
  /** Change of the water level, m a week, where it was read. */
  levelTrend?: number | null;
}

export interface Season {
  stage: StageName;
  /** Words for the Strip. */
  label: string;
  /** Day of the year of `at`, and days already spent in the stage (no more than this year has). */
  today: number;
  since: number;
  /** The year as stages, without gaps. */
  year: StageSpan[];
  /** Surface temperature of each day: as it was, is and, if the usual course goes on, will be; and the usual one. */
  surface: Float32Array;
  usual: Float32Array;
  /** The next stage and when it begins if this year goes on as usual: with the water 1.5 °C warmer or colder than expected. */
  next: { stage: StageName; earliest: Date; latest: Date } | null;
  /** What may put it off, in words; null when nothing does. */
  putOff: string | null;
}

/** A threshold counts once the smoothed temperature has held it for so many days. */
export const HOLD_DAYS = 4;
const SMOOTH_DAYS = 5;
/** An anomaly of the day fades into the usual course over about so many days. */
const FADE_DAYS = 20;

const LABELS: Partial<Record<StageName, string>> = { summer: 'summer, settled', turnover: 'autumn, mixing' };

function yearStart(at: Date): number {
  return Date.UTC(at.getUTCFullYear(), 0, 1);
}

/** The year's surface temperatures by day: readings joined by straight lines as departures from the usual course. */
function yearOfSurface({ at, surface, readings, latitude, course }: SeasonInputs, shift = 0): Float32Array {
  const start = yearStart(at);
  const departure = (r: SurfaceReading): number => r.surface - usualAt(course, r.at, latitude);
  const known: [day: number, departure: number][] = readings
    .filter((r) => r.at >= start - 40 * DAY && r.at < at.getTime() - DAY)
    .sort((p, q) => p.at - q.at)
    .map((r) => [(r.at - start) / DAY, departure(r)]);
  known.push([(at.getTime() - start) / DAY, departure({ at: at.getTime(), surface })]);
  const out = new Float32Array(365);
  let k = 0;
  for (let day = 0; day < 365; day++) {
    while (k < known.length && known[k][0] <= day + 0.5) k++;
    const [before, after] = [known[k - 1], known[k]];
    let off: number;
    if (before && after) off = before[1] + ((after[1] - before[1]) * (day + 0.5 - before[0])) / Math.max(0.5, after[0] - before[0]);
    else if (before)
      off = before[1] * Math.exp(-(day + 0.5 - before[0]) / FADE_DAYS) + shift * (1 - Math.exp(-(day + 0.5 - before[0]) / FADE_DAYS));
    else off = after[1] * Math.exp(-(after[0] - day - 0.5) / FADE_DAYS);
    out[day] = Math.max(0, usualAt(course, start + (day + 0.5) * DAY, latitude) + off);
  }
  return out;
}

/** Trailing mean, then held: while warming the lowest, while cooling the highest of the last HOLD_DAYS days. */
function held(surface: Float32Array, warming: (day: number) => boolean): Float32Array {
  const smooth = surface.map((_, d) => {
    let sum = 0;
    for (let k = 0; k < SMOOTH_DAYS; k++) sum += surface[Math.max(0, d - k)];
    return sum / SMOOTH_DAYS;
  });
  return smooth.map((_, d) => {
    let v = smooth[d];
    for (let k = 1; k < HOLD_DAYS; k++) v = warming(d) ? Math.min(v, smooth[Math.max(0, d - k)]) : Math.max(v, smooth[Math.max(0, d - k)]);
    return v;
  });
}

function stageOf(s: SpeciesProfile, t: number, warming: boolean): StageName {
  const spawning = s.spawning;
  if (warming) {
    if (spawning?.direction === 'rising') {
      if (t >= spawning.from && t <= spawning.to) return 'spawning';
      if (t < spawning.from) return t < 4 ? 'winter' : t < spawning.from - 4 ? 'early spring' : 'before spawning';
      return t < spawning.to + 3 ? 'after spawning' : 'summer';
    }
    return t < 4 ? 'winter' : t < 11 ? 'early spring' : 'summer';
  }
  if (spawning?.direction === 'falling') {
    if (t <= spawning.to) return t >= spawning.from ? 'spawning' : 'winter';
    if (t <= spawning.to + 3) return 'before spawning';
  }
  if (t < 4) return 'winter';
  if (t < 7) return 'late autumn';
  if (t < 11.5) return 'turnover';
  return t < 16.5 ? 'cooling' : 'summer';
}

function stages(s: SpeciesProfile, surface: Float32Array, latitude: number): StageName[] {
  // Warming until the end of July (of the southern January): the day of the peak, not of one warm spell, divides the year.
  const warming = (day: number): boolean => {
    const d = latitude >= 0 ? day : (day + 182.6) % YEAR;
    return d >= 20 && d < 208;
  };
  const t = held(surface, warming);
  return Array.from(t, (v, day) => stageOf(s, v, warming(day)));
}

function spans(list: StageName[]): StageSpan[] {
  const out: StageSpan[] = [];
  list.forEach((stage, day) => {
    const last = out[out.length - 1];
    if (last?.stage === stage) last.to = day;
    else out.push({ stage, from: day, to: day });
  });
  return out;
}

/** A level that moves this fast about spawning time may put it off, m a week. */
const LEVEL_MATTERS = 0.3;

function putOffBy(stage: StageName, next: StageName | null, levelTrend: number | null): string | null {
  if (levelTrend === null || Math.abs(levelTrend) < LEVEL_MATTERS || (stage !== 'spawning' && next !== 'spawning')) return null;
  return `the level ${levelTrend > 0 ? 'rises' : 'falls'} ${Math.abs(levelTrend).toFixed(1)} m a week: spawning may be put off`;
}

/**
 * The season of a species on a water: its stage now, the whole year, what comes next and when. The stage shown in
 * the Strip and the ribbon of the year come from this one function and so cannot contradict each other.
 */
export function seasonOf(s: SpeciesProfile, inputs: SeasonInputs): Season {
  const start = yearStart(inputs.at);
  const today = Math.min(364, Math.floor((inputs.at.getTime() - start) / DAY));
  const surface = yearOfSurface(inputs);
  const list = stages(s, surface, inputs.latitude);
  const stage = list[today];
  let since = 0;
  while (today - since > 0 && list[today - since - 1] === stage) since++;
  const changes = [-1.5, 0, 1.5].map((shift) => {
    const shifted = stages(s, yearOfSurface(inputs, shift), inputs.latitude);
    for (let d = today + 1; d < 365; d++) if (shifted[d] !== stage) return { day: d, stage: shifted[d] };
    return null;
  });
  const expected = changes[1];
  const days = changes.filter((c) => c !== null && expected !== null && c.stage === expected.stage).map((c) => c!.day);
  return {
    stage,
    label: LABELS[stage] ?? stage,
    today,
    since,
    year: spans(list),
    surface,
    usual: Float32Array.from({ length: 365 }, (_, d) => usualAt(inputs.course, start + (d + 0.5) * DAY, inputs.latitude)),
    putOff: putOffBy(stage, expected?.stage ?? null, inputs.levelTrend ?? null),
    next: expected && {
      stage: expected.stage,
      earliest: new Date(start + Math.min(...days) * DAY),
      latest: new Date(start + (Math.max(...days) + 1) * DAY - 1),
    },
  };
}
