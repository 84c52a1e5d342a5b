import type { Row } from '../logbook';
import { numberIn, toSi } from './columns';
import { readDegrees } from './degrees';
import type { PartMapping, Target } from './mapping';
import { readMoment } from './moments';

/** What reading needs beside the mapping. */
export interface ReadInputs {
  /** Names of the file's columns, in order. */
  names: string[];
  /** From the file's own system to [longitude, latitude]; null for degrees. */
  toDegrees: ((x: number, y: number) => [number, number]) | null;
}

/** Why a row is no sounding. */
export interface BadRow {
  column: string;
  reason: string;
}

const MOST_DEPTH = 12_000;

/**
 * Reads rows of a table as soundings.
 * @returns for each row's fields the sounding, or what is wrong with it
 * @throws RangeError when the mapping leaves open where a sounding lies, how deep it is or when it was made
 */
export function soundingReader(mapping: PartMapping, { names, toDegrees }: ReadInputs): (fields: string[]) => Row | BadRow {
  const at = (to: Target): number => {
    const column = mapping.columns.find((c) => c.to === to);
    return column ? names.indexOf(column.from) : -1;
  };
  const unitOf = (to: Target): string | undefined => mapping.columns.find((c) => c.to === to)?.unit;
  const [lat, lon, x, y] = [at('latitude'), at('longitude'), at('x'), at('y')];
  const geographic = lat >= 0 && lon >= 0;
  if (!geographic && (x < 0 || y < 0)) throw new RangeError('no columns say where: latitude and longitude, or x and y');
  if (!geographic && !toDegrees) throw new RangeError('the coordinate system of x and y is not known: give its EPSG code (crs)');
  const elevation = at('elevation') >= 0 && at('depth') < 0;
  const depthTarget: Target = elevation ? 'elevation' : 'depth';
  const depth = at(depthTarget);
  if (depth < 0) throw new RangeError('no column says how deep');
  const unit = unitOf(depthTarget);
  if (!unit) throw new RangeError(`the unit of "${names[depth]}" is not known: m, ft, fathom or cm`);
  if (!mapping.sign) throw new RangeError(`whether depths in "${names[depth]}" grow downwards or are negative is not known (sign)`);
  if (elevation && mapping.level === null) throw new RangeError('the height of the water’s surface is not known (level)');
  const [time, date, clock] = [at('time'), at('date'), at('clock')];
  const dateAt = time >= 0 ? time : date;
  if (dateAt >= 0 && !mapping.order) throw new RangeError(`how dates in "${names[dateAt]}" are written is not known (order)`);
  if (dateAt < 0 && !mapping.day) throw new RangeError('no column says when, and no day is given (day)');
  const zone = mapping.zone ?? 'UTC';
  if (dateAt >= 0 && mapping.order !== 'unix' && mapping.zone === null)
    throw new RangeError(`the time zone of "${names[dateAt]}" is not known (zone)`);
  const wholeDay = dateAt < 0 ? `${mapping.day}T12:00:00.000Z` : null;
  const { decimal, sign } = mapping;
  const level = elevation ? toSi(mapping.level!, 'm') : 0;
  const extra = (
    [
      ['temperature', 'temperature_c', -2, 45],
      ['hardness', 'hardness', 0, 1],
      ['heading', 'heading_deg', 0, 360],
      ['speed', 'speed_ms', 0, 100],
    ] as const
  ).map(([to, column, min, max]) => ({ at: at(to), unit: unitOf(to), column, min, max }));
  const number =
    decimal === '.'
      ? (text: string): number => (text.trim() === '' ? NaN : orInWords(text))
      : (text: string): number => numberIn(text, ',');
  return (fields) => {
    let latitude: number;
    let longitude: number;
    if (geographic) {
      latitude = degreesOf(fields[lat] ?? '', 'latitude', decimal);
      longitude = degreesOf(fields[lon] ?? '', 'longitude', decimal);
      if (Number.isNaN(latitude)) return { column: names[lat], reason: `"${fields[lat] ?? ''}" is no latitude` };
      if (Number.isNaN(longitude)) return { column: names[lon], reason: `"${fields[lon] ?? ''}" is no longitude` };
    } else {
      const [px, py] = [number(fields[x] ?? ''), number(fields[y] ?? '')];
      if (Number.isNaN(px)) return { column: names[x], reason: `"${fields[x] ?? ''}" is not a number` };
      if (Number.isNaN(py)) return { column: names[y], reason: `"${fields[y] ?? ''}" is not a number` };
      [longitude, latitude] = toDegrees!(px, py);
      if (!(Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180))
        return { column: names[x], reason: `${px}, ${py} lies outside the coordinate system` };
    }
    const raw = number(fields[depth] ?? '');
    if (Number.isNaN(raw))
      return { column: names[depth], reason: (fields[depth] ?? '').trim() === '' ? 'is missing' : `"${fields[depth]}" is not a number` };
    const metres = toSi(raw, unit);
    const deep = elevation ? level - metres : sign === 'up' ? -metres : metres;
    if (!(deep >= 0 && deep <= MOST_DEPTH))
      return {
        column: names[depth],
        reason: deep < 0 ? `lies ${(-deep).toFixed(1)} m above the surface` : `${deep.toFixed(1)} m is impossible`,
      };
    let when = wholeDay;
    if (when === null) {
      const moment = readMoment(fields[dateAt] ?? '', clock >= 0 ? (fields[clock] ?? '') : '', mapping.order!, zone);
      if (typeof moment === 'string') return { column: names[dateAt], reason: moment };
      when = new Date(moment.at).toISOString();
    }
    const row: Row = {
      time: when,
      latitude,
      longitude,
      depth_m: Math.round(deep * 10_000) / 10_000,
      temperature_c: null,
      hardness: null,
      heading_deg: null,
      speed_ms: null,
    };
    for (const e of extra) {
      if (e.at < 0) continue;
      const value = toSi(number(fields[e.at] ?? ''), e.unit);
      // What is no value of its kind costs the row nothing: where and how deep it is stands.
      if (value >= e.min && value <= e.max) row[e.column] = Math.round(value * 1e4) / 1e4;
    }
    return row;
  };
}

function orInWords(text: string): number {
  const n = Number(text);
  return Number.isNaN(n) ? numberIn(text, '.') : n;
}

function degreesOf(text: string, axis: 'latitude' | 'longitude', decimal: '.' | ','): number {
  return readDegrees(decimal === ',' ? text.replace(',', '.') : text, axis);
}
