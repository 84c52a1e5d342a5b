import {
  coolingHalf,
  formsLayers,
  overturnMargin,
  seasonDay,
  seasonScale,
  usualAt,
  waterYear,
  winterBelow,
  type SurfaceReading,
  type UsualCourse,
  type WaterYear,
} from '../lake';
import type { SpeciesProfile } from './profile';

const DAY = 86_400_000;

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
  /** When the water forms layers and how warm it is below them: a lake of middling size where it is not said. */
  year?: WaterYear;
  /** Change of the water level, m a week, where it was read. */
  levelTrend?: number | null;
}

export interface Season {
  stage: StageName;
  /** Day of the year of `at`, and days already spent in the stage, of last year too. */
  today: number;
  since: number;
  /** The year as stages, without gaps. */
  year: StageSpan[];
  /** Surface temperature of each day: as it was, is and, if the usual course goes on, will be; and the usual one. */
  surface: Float32Array;
  usual: Float32Array;
  /** The next stage and when it begins if this year goes on as usual: with the water 1.5 °C warmer or colder than expected. */
  next: { stage: StageName; earliest: Date; latest: Date } | null;
  /** Change of the level that may put spawning off, m a week; null where nothing does. */
  putOff: number | null;
}

/** A threshold counts once the smoothed temperature has held it for so many days. */
export const HOLD_DAYS = 4;
const SMOOTH_DAYS = 5;
/** An anomaly of the day fades into the usual course over about so many days. */
const FADE_DAYS = 20;

function yearStart(at: Date): number {
  return Date.UTC(at.getUTCFullYear(), 0, 1);
}

/** Days before the year and after it that are worked out with it: a stage may have begun last year and end in the next. */
const BEFORE = 200;
const AFTER = 330;
const YEAR_DAYS = 365;
const WHOLE = BEFORE + YEAR_DAYS + AFTER;

/** Surface temperatures by day, from BEFORE the year to AFTER it: readings joined by straight lines as departures from the usual course. */
function courseOfSurface({ at, surface, readings, latitude, course }: SeasonInputs, shift = 0): Float32Array {
  const start = yearStart(at) - BEFORE * DAY;
  const departure = (r: SurfaceReading): number => r.surface - usualAt(course, r.at, latitude);
  const known: [day: number, departure: number][] = readings
    .filter((r) => r.at >= start - 40 * DAY && r.at < at.getTime() - DAY)
    .sort((p, q) => p.at - q.at)
    .map((r) => [(r.at - start) / DAY, departure(r)]);
  known.push([(at.getTime() - start) / DAY, departure({ at: at.getTime(), surface })]);
  const out = new Float32Array(WHOLE);
  let k = 0;
  for (let day = 0; day < WHOLE; day++) {
    while (k < known.length && known[k][0] <= day + 0.5) k++;
    const [before, after] = [known[k - 1], known[k]];
    let off: number;
    if (before && after) {
      // Between readings far apart the departure of each fades as it does before the first and after the last.
      const [sinceBefore, untilAfter] = [day + 0.5 - before[0], after[0] - day - 0.5];
      const gap = after[0] - before[0];
      const line = before[1] + ((after[1] - before[1]) * sinceBefore) / Math.max(0.5, gap);
      off = gap <= 2 * FADE_DAYS ? line : before[1] * Math.exp(-sinceBefore / FADE_DAYS) + after[1] * Math.exp(-untilAfter / FADE_DAYS);
    } else if (before)
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

/** Limits of the stages of autumn and spring on a water, °C. */
interface Limits {
  winter: number;
  /** Below it late autumn, below the next turnover (none where the water forms no layers), below the last cooling. */
  lateAutumn: number;
  turnover: number | null;
  cooling: number;
  earlySpring: number;
}

function limitsOf(year: WaterYear): Limits {
  const scale = seasonScale(year);
  const winter = winterBelow(year);
  const deep = year.deep + year.deepWarming;
  if (!formsLayers(year)) {
    const from = Number.isFinite(winter) ? winter : year.coldest;
    return { winter, lateAutumn: from + 3 * scale, turnover: null, cooling: from + 12.5 * scale, earlySpring: from + 7 * scale };
  }
  const lateAutumn = Math.max(winter, deep - 0.5);
  return {
    winter,
    lateAutumn,
    turnover: deep + overturnMargin(year),
    cooling: deep + overturnMargin(year) + 5 * scale,
    earlySpring: Math.max(winter, year.coldest) + 7 * scale,
  };
}

function stageOf(s: SpeciesProfile, t: number, warming: boolean, limits: Limits): StageName {
  const spawning = s.spawning;
  if (warming) {
    if (spawning?.direction === 'rising') {
      if (t >= spawning.from && t <= spawning.to) return 'spawning';
      if (t < spawning.from) return t < limits.winter ? 'winter' : t < spawning.from - 4 ? 'early spring' : 'before spawning';
      return t < spawning.to + 3 ? 'after spawning' : 'summer';
    }
    return t < limits.winter ? 'winter' : t < limits.earlySpring ? 'early spring' : 'summer';
  }
  if (spawning?.direction === 'falling') {
    if (t <= spawning.to) return t >= spawning.from ? 'spawning' : 'winter';
    if (t <= spawning.to + 3) return 'before spawning';
  }
  if (t < limits.winter) return 'winter';
  if (t < limits.lateAutumn) return 'late autumn';
  if (limits.turnover !== null && t < limits.turnover) return 'turnover';
  return t < limits.cooling ? 'cooling' : 'summer';
}

/** Shape of a lake that nobody has described: of middling size. */
const MIDDLING = { maxDepth: 20, lengthKm: 1.5, kind: null };

function stages(s: SpeciesProfile, surface: Float32Array, { at, latitude, course, year }: SeasonInputs): StageName[] {
  // Warming until the end of July (of the southern January): the day of the peak, not of one warm spell, divides the year.
  const first = yearStart(at) - BEFORE * DAY;
  const warming = (day: number): boolean => !coolingHalf(seasonDay(new Date(first + (day + 0.5) * DAY), latitude));
  const t = held(surface, warming);
  const limits = limitsOf(year ?? waterYear(course, MIDDLING));
  return Array.from(t, (v, day) => stageOf(s, v, warming(day), limits));
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

function putOffBy(stage: StageName, next: StageName | null, levelTrend: number | null): number | null {
  if (levelTrend === null || Math.abs(levelTrend) < LEVEL_MATTERS || (stage !== 'spawning' && next !== 'spawning')) return null;
  return levelTrend;
}

/**
 * The season of a species on a water: its stage now, the whole year, what comes next and when. The stage shown in
 * the Strip and the ribbon of the year come from this one function and so cannot contradict each other.
 */
export function seasonOf(s: SpeciesProfile, inputs: SeasonInputs): Season {
  const start = yearStart(inputs.at);
  const today = Math.min(YEAR_DAYS - 1, Math.floor((inputs.at.getTime() - start) / DAY));
  const here = BEFORE + today;
  const surface = courseOfSurface(inputs);
  const list = stages(s, surface, inputs);
  const stage = list[here];
  let since = 0;
  while (here - since > 0 && list[here - since - 1] === stage) since++;
  const changes = [-1.5, 0, 1.5].map((shift) => {
    const shifted = shift === 0 ? list : stages(s, courseOfSurface(inputs, shift), inputs);
    for (let d = here + 1; d < WHOLE; d++) if (shifted[d] !== stage) return { day: d - BEFORE, stage: shifted[d] };
    return null;
  });
  const expected = changes[1];
  const days = changes.filter((c) => c !== null && expected !== null && c.stage === expected.stage).map((c) => c!.day);
  return {
    stage,
    today,
    since,
    year: spans(list.slice(BEFORE, BEFORE + YEAR_DAYS)),
    surface: surface.slice(BEFORE, BEFORE + YEAR_DAYS),
    usual: Float32Array.from({ length: YEAR_DAYS }, (_, d) => usualAt(inputs.course, start + (d + 0.5) * DAY, inputs.latitude)),
    putOff: putOffBy(stage, expected?.stage ?? null, inputs.levelTrend ?? null),
    next: expected && {
      stage: expected.stage,
      earliest: new Date(start + Math.min(...days) * DAY),
      latest: new Date(start + (Math.max(...days) + 1) * DAY - 1),
    },
  };
}
