import { getMoonIllumination, getTimes } from 'suncalc';
import { conditionsFromLog, dayFor, surfaceReadings, waterYearOf, type Day, type TimedReading, type WaterFrame } from '../forecast';
import type { DatedProfile, UsualCourse } from '../lake';
import { hoursFromHigh, tideOf } from '../tide';
import { lightLimit, seasonOf, type SpeciesProfile, type StageName } from '../species';

const HOUR = 3_600_000;
/** A reading of the same outing may have been made after the look. */
const SAME_OUTING = 12 * HOUR;

/** What was true of the whole water in one hour. Numbers are NaN where nothing was read. */
export interface Moment {
  at: number;
  day: Day;
  /** Depth down to which sight-feeding reaches, m. */
  lightLimit: number;
  /** Winds read in the last 6 and 24 hours. */
  wind6: [from: number, speed: number][];
  wind24: [from: number, speed: number][];
  /** Hours from the nearer of sunrise and sunset; negative before it. */
  fromTwilight: number;
  /** Change of air pressure, hPa in 6 hours, and of the level, m a week. */
  pressureTrend: number;
  /** Current read within twelve hours, m/s. */
  current: number;
  levelTrend: number;
  /** Hours from the nearest high water, negative before it. */
  fromHigh: number;
  /** Lit share of the moon, 0–1. */
  moon: number;
  /** Whether surface temperature and clarity were read within 3 days, or only carried over. */
  surfaceRead: boolean;
  clarityRead: boolean;
  /** Hour of the day on the water's clock. */
  hour: number;
}

/** The log of a water as far as whole days go. */
export interface WaterLogbook {
  frame: WaterFrame;
  readings: TimedReading[];
  profiles: DatedProfile[];
  timeZone: string;
}

function readWithin(readings: TimedReading[], from: number, to: number): TimedReading[] {
  return readings.filter((r) => r.at >= from && r.at <= to);
}

/** The current read nearest to a moment, within twelve hours; NaN without one. */
function currentAt(readings: TimedReading[], at: number): number {
  let [nearest, speed] = [12 * HOUR, NaN];
  for (const r of readings)
    if (r.row.current_speed_ms != null && Math.abs(r.at - at) <= nearest) [nearest, speed] = [Math.abs(r.at - at), r.row.current_speed_ms];
  return speed;
}

function pressureTrend(readings: TimedReading[], at: number): number {
  const read = readings.filter((r) => r.row.air_pressure_hpa != null && r.at > at - 24 * HOUR && r.at <= at + 2 * HOUR);
  if (read.length < 2) return NaN;
  const [first, last] = [read[0], read[read.length - 1]];
  const hours = (last.at - first.at) / HOUR;
  return hours < 1 ? NaN : (((last.row.air_pressure_hpa as number) - (first.row.air_pressure_hpa as number)) / hours) * 6;
}

/** Hours from the nearer of sunrise and sunset; NaN where the sun does neither that day. */
function fromTwilight(at: number, { latitude, longitude }: WaterFrame): number {
  let nearest = NaN;
  for (const day of [-24, 0, 24]) {
    const { sunrise, sunset } = getTimes(new Date(at + day * HOUR), latitude, longitude);
    for (const time of [sunrise, sunset]) {
      // In a polar night or day there is none.
      const off = (at - ((time as Date | null)?.getTime() ?? NaN)) / HOUR;
      if (!Number.isNaN(off) && !(Math.abs(off) >= Math.abs(nearest))) nearest = off;
    }
  }
  return nearest;
}

/** The moments of a log, one an hour, made when asked for and kept. */
export class Moments {
  private readonly kept = new Map<number, Moment>();
  private readonly clock: Intl.DateTimeFormat;

  constructor(private readonly log: WaterLogbook) {
    this.clock = new Intl.DateTimeFormat('en-GB', { timeZone: log.timeZone, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
  }

  at(time: number): Moment {
    const key = Math.floor(time / HOUR);
    let moment = this.kept.get(key);
    if (!moment) {
      moment = this.make((key + 0.5) * HOUR);
      this.kept.set(key, moment);
    }
    return moment;
  }

  private make(at: number): Moment {
    const { frame, profiles } = this.log;
    const tide = tideOf(frame.tide);
    // Two months are all that any of it looks back on.
    const readings = readWithin(this.log.readings, at - 60 * 24 * HOUR, at + SAME_OUTING);
    const date = new Date(at);
    const { conditions } = conditionsFromLog(readings, date, frame, SAME_OUTING);
    const winds = (hours: number): [number, number][] =>
      readWithin(readings, at - hours * HOUR, at + HOUR).flatMap((r) =>
        r.row.wind_from_deg != null && r.row.wind_speed_ms != null ? [[r.row.wind_from_deg, r.row.wind_speed_ms]] : [],
      );
    const lately = readWithin(readings, at - 72 * HOUR, at + SAME_OUTING);
    const [hour, minute] = this.clock.format(date).split(':').map(Number);
    return {
      at,
      day: dayFor(conditions, frame, profiles, new Date(at + SAME_OUTING)),
      lightLimit: lightLimit(conditions.secchi, frame.rule),
      wind6: winds(6),
      wind24: winds(24),
      fromTwilight: fromTwilight(at, frame),
      pressureTrend: pressureTrend(readings, at),
      current: currentAt(readings, at),
      levelTrend: conditions.levelTrend ?? NaN,
      fromHigh: tide ? hoursFromHigh(tide, at) : NaN,
      moon: getMoonIllumination(date).fraction,
      surfaceRead: lately.some((r) => r.row.surface_temperature_c != null),
      clarityRead: lately.some((r) => r.row.secchi_m != null),
      hour: hour + minute / 60,
    };
  }
}

/** The stage of a species on each day of a log, kept by day. */
export function stagesOfLog(species: SpeciesProfile, log: WaterLogbook, course: UsualCourse): (at: number, surface: number) => StageName {
  const readings = surfaceReadings(log.readings);
  const kept = new Map<number, StageName>();
  const waterYear = waterYearOf({ ...log.frame, course });
  return (at, surface) => {
    const key = Math.floor(at / (24 * HOUR));
    let stage = kept.get(key);
    if (!stage) {
      const near = readings.filter((r) => Math.abs(r.at - at) < 400 * 24 * HOUR);
      stage = seasonOf(species, { at: new Date(at), surface, readings: near, latitude: log.frame.latitude, course, year: waterYear }).stage;
      kept.set(key, stage);
    }
    return stage;
  };
}
