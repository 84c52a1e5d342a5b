import { csvRows, FormatError } from '../formats';
import { readTime } from '../logbook';
import type { WindBy } from './sea';

/** Weather of an hour as a table has it. SI. */
export interface WeatherHour {
  /** ms */
  at: number;
  windFrom: number | null;
  windSpeed: number | null;
  gust: number | null;
  /** Share of the sky, 0–1. */
  cloud: number | null;
  airTemperature: number | null;
  pressure: number | null;
  /** Chance of thunder, 0–1. */
  thunder: number | null;
}

/** Something a line of the table could not be read for. */
export interface WeatherFault {
  line: number;
  column: string;
  reason: 'missing' | 'time' | 'number' | 'impossible' | 'twice';
  value: string;
}

type Quantity = Exclude<keyof WeatherHour, 'at'>;
/** Columns of weather.csv, with the span of what is possible. */
const COLUMNS: Record<string, { as: Quantity; min: number; max: number }> = {
  wind_from_deg: { as: 'windFrom', min: 0, max: 360 },
  wind_speed_ms: { as: 'windSpeed', min: 0, max: 100 },
  gust_ms: { as: 'gust', min: 0, max: 120 },
  cloud_fraction: { as: 'cloud', min: 0, max: 1 },
  air_temperature_c: { as: 'airTemperature', min: -60, max: 60 },
  air_pressure_hpa: { as: 'pressure', min: 400, max: 1100 },
  thunder_chance: { as: 'thunder', min: 0, max: 1 },
};

const EMPTY: Omit<WeatherHour, 'at'> = {
  windFrom: null,
  windSpeed: null,
  gust: null,
  cloud: null,
  airTemperature: null,
  pressure: null,
  thunder: null,
};

/**
 * Reads weather.csv (docs/formats.md): a `time` and any of its columns, in any order.
 * @returns hours in the order of time, what was left out and why, and columns nobody knows
 * @throws FormatError when it has no time column or no other that is known
 */
export async function readWeather(text: string): Promise<{ hours: WeatherHour[]; faults: WeatherFault[]; unknown: string[] }> {
  const faults: WeatherFault[] = [];
  const hours: WeatherHour[] = [];
  const seen = new Set<number>();
  let names: string[] | null = null;
  const rows = [];
  for await (const some of csvRows([new TextEncoder().encode(text)])) rows.push(...some);
  for (const { line, fields } of rows) {
    const cells: string[] = fields;
    if (!names) {
      names = cells.map((c) => c.trim().toLowerCase());
      if (!names.includes('time')) throw new FormatError('weather.csv needs a column "time"');
      if (!names.some((n) => n in COLUMNS)) throw new FormatError(`weather.csv needs one of ${Object.keys(COLUMNS).join(', ')}`);
      continue;
    }
    const raw = (cells[names.indexOf('time')] ?? '').trim();
    const time = readTime(raw);
    const fault = (column: string, reason: WeatherFault['reason'], value: string): void =>
      void faults.push({ line, column, reason, value });
    if (!raw) {
      fault('time', 'missing', raw);
      continue;
    }
    if (time.startsWith('!')) {
      fault('time', 'time', raw);
      continue;
    }
    const at = Date.parse(time);
    if (seen.has(at)) {
      fault('time', 'twice', raw);
      continue;
    }
    seen.add(at);
    const hour: WeatherHour = { at, ...EMPTY };
    names.forEach((name, i) => {
      const column = COLUMNS[name];
      const cell = (cells[i] ?? '').trim();
      if (!column || !cell) return;
      const v = Number(cell.replace(',', '.'));
      if (!Number.isFinite(v)) fault(name, 'number', cell);
      else if (v < column.min || v > column.max) fault(name, 'impossible', cell);
      else hour[column.as] = v;
    });
    hours.push(hour);
  }
  if (!names) throw new FormatError('weather.csv is empty');
  return {
    hours: hours.sort((a, b) => a.at - b.at),
    faults,
    unknown: names.filter((n) => n !== 'time' && n !== '' && !(n in COLUMNS)),
  };
}

/** Between hours farther apart than this nothing is said, ms. */
const WIDEST = 3.5 * 3_600_000;

const rad = (d: number): number => (d * Math.PI) / 180;

/**
 * Weather at a moment: between the hours before and after it, each quantity by those that have it; wind as a vector. What lies in a
 * gap of more than 3½ hours is null.
 */
export function weatherAt(hours: readonly WeatherHour[], at: number): Omit<WeatherHour, 'at'> {
  const between = (has: (h: WeatherHour) => boolean): [WeatherHour, WeatherHour, number] | null => {
    const before = hours.findLast((h) => h.at <= at && has(h));
    const after = hours.find((h) => h.at >= at && has(h));
    if (before && after) {
      if (after.at - before.at > WIDEST) return null;
      return [before, after, after.at === before.at ? 0 : (at - before.at) / (after.at - before.at)];
    }
    // At the ends of the table the last hour speaks for half an hour more.
    const only = before ?? after;
    return only && Math.abs(only.at - at) <= 1_800_000 ? [only, only, 0] : null;
  };
  const out: Omit<WeatherHour, 'at'> = { ...EMPTY };
  for (const key of ['windSpeed', 'gust', 'cloud', 'airTemperature', 'pressure', 'thunder'] as const) {
    const found = between((h) => h[key] !== null);
    if (found) out[key] = found[0][key]! + found[2] * (found[1][key]! - found[0][key]!);
  }
  const wind = between((h) => h.windFrom !== null);
  if (wind) {
    const [a, b, t] = wind;
    const [sa, sb] = [a.windSpeed || 1, b.windSpeed || 1];
    const x = (1 - t) * sa * Math.sin(rad(a.windFrom!)) + t * sb * Math.sin(rad(b.windFrom!));
    const y = (1 - t) * sa * Math.cos(rad(a.windFrom!)) + t * sb * Math.cos(rad(b.windFrom!));
    out.windFrom = Math.hypot(x, y) > 1e-9 ? ((Math.atan2(x, y) * 180) / Math.PI + 360) % 360 : a.windFrom;
  }
  return out;
}

/** Spans of a day for which the table says nothing of the wind, ms. @param step how finely it is looked at, ms */
export function weatherGaps(hours: readonly WeatherHour[], from: number, to: number, step = 900_000): [from: number, to: number][] {
  const out: [number, number][] = [];
  for (let t = from; t <= to; t += step) {
    const { windSpeed, windFrom } = weatherAt(hours, t);
    if (windSpeed !== null && windFrom !== null) continue;
    const last = out.at(-1);
    if (last && last[1] >= t - step) last[1] = Math.min(to, t + step);
    else out.push([t, Math.min(to, t + step)]);
  }
  return out;
}

/** The first moment of a day with a chance of thunder to mind, ms; null where the table has none. @param chance judged worth a caution */
export function thunderFrom(hours: readonly WeatherHour[], from: number, to: number, chance = 0.2): number | null {
  for (let t = from; t <= to; t += 900_000) if ((weatherAt(hours, t).thunder ?? 0) >= chance) return t;
  return null;
}

/**
 * A made-up forecast for a day, a stand-in where there is no other: it follows from what was last read, turns a little and freshens
 * in the afternoon as over land on a fair day. It says nothing of the real weather.
 * @param now wind, cloud and air temperature as last read @param offset hours from UTC by the sun
 */
export function simulatedWeather(
  from: number,
  to: number,
  now: { windFrom: number; windSpeed: number; cloud: number; airTemperature: number | null; pressure: number | null },
  offset: number,
): WeatherHour[] {
  const out: WeatherHour[] = [];
  for (let at = Math.floor(from / 3_600_000) * 3_600_000; at <= to + 3_600_000; at += 3_600_000) {
    const hour = (at / 3_600_000 + offset + 24) % 24;
    const sun = Math.exp(-(((hour - 15) / 4) ** 2));
    const drift = Math.sin(at / 3_600_000 / 5);
    const windSpeed = Math.max(0.3, now.windSpeed * (0.7 + 0.75 * sun) + 0.4 * drift);
    out.push({
      at,
      windFrom: (now.windFrom + 12 * sun + 6 * drift + 360) % 360,
      windSpeed,
      gust: windSpeed * 1.4,
      cloud: Math.min(1, Math.max(0, now.cloud + 0.15 * drift)),
      airTemperature: now.airTemperature === null ? null : now.airTemperature - 4 + 8 * sun,
      pressure: now.pressure,
      thunder: 0,
    });
  }
  return out;
}

/**
 * The wind through a planned day: by the table; without one as it was last read. In a gap of the table nothing is said.
 * @param read degrees true from which it blows, m/s
 */
export const windOfDay =
  (weather: WeatherHour[], read: { windFrom: number; windSpeed: number }): WindBy =>
  (at) => {
    if (!weather.length) return { from: read.windFrom, speed: read.windSpeed, gust: read.windSpeed };
    const { windFrom, windSpeed, gust } = weatherAt(weather, at);
    return windFrom === null || windSpeed === null ? null : { from: windFrom, speed: windSpeed, gust: gust ?? windSpeed };
  };
