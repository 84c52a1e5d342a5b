import type { LatLon } from '../geo';
import { emptyRow, type Row } from '../logbook';
import { localToUtc } from '../units';
import { numberIn, toSi } from './columns';
import { readDegrees } from './degrees';
import type { PartMapping, Target } from './mapping';
import { readMoment } from './moments';

/** A place name of the table that stands for a spot on the map. */
export interface KnownPlace extends LatLon {
  name: string;
}

/** What a table of catches becomes. */
export interface CatchRecords {
  trips: { line: number; row: Row }[];
  conditions: { line: number; row: Row }[];
  stops: { line: number; row: Row }[];
  responses: { line: number; row: Row }[];
  bad: { line: number; column: string; reason: string }[];
  /** Rows read. */
  read: number;
  /** Names of places that stand for no spot yet, with how many rows name each. */
  unknownPlaces: { name: string; rows: number }[];
}

interface CatchRow {
  line: number;
  at: number;
  timed: boolean;
  day: string;
  place: string | null;
  position: LatLon | null;
  species: string | null;
  count: number;
  length: number | null;
  mass: number | null;
  depth: number | null;
  temperature: number | null;
  clarity: number | null;
  windSpeed: number | null;
  windFrom: number | null;
  hours: number | null;
  rods: number | null;
  lure: string | null;
  colour: string | null;
  angler: string | null;
  fate: string | null;
  notes: string | null;
}

const HOUR = 3_600_000;
const COMPASS = ['n', 'nne', 'ne', 'ene', 'e', 'ese', 'se', 'sse', 's', 'ssw', 'sw', 'wsw', 'w', 'wnw', 'nw', 'nnw'];
/** A row of more fish than this is a count of something else. */
const MOST_FISH = 500;
/** Where a day's trip is put that says no time of day: its fish are logged at noon, and it has no length. */
const NOON = 12;
const NOTHING = /^(nothing|none|blank|blanked|skunked?|0|-|–|nix|nichts|rien|no fish|null)$/i;

const within = (v: number, min: number, max: number): number | null => (v >= min && v <= max ? Math.round(v * 1e4) / 1e4 : null);

/**
 * Turns a table of catches into trips, stops, responses and readings. A day is a trip; a place on it, where it stands
 * for a spot, a stop; each fish a response. A row without a fish is a blank. What has no place stays in the trip.
 * @param rows fields with their lines, without the header @param names of the columns
 * @param places spots that place names stand for @param source name of the file, for the trips' notes
 */
export function catchesOf(
  rows: { line: number; fields: string[] }[],
  names: string[],
  mapping: PartMapping,
  places: KnownPlace[],
  source: string,
): CatchRecords {
  const out: CatchRecords = { trips: [], conditions: [], stops: [], responses: [], bad: [], read: 0, unknownPlaces: [] };
  const at = (to: Target): number => {
    const column = mapping.columns.find((c) => c.to === to);
    return column ? names.indexOf(column.from) : -1;
  };
  const unit = (to: Target): string | undefined => mapping.columns.find((c) => c.to === to)?.unit;
  const [timeAt, dateAt, clockAt] = [at('time'), at('date'), at('clock')];
  const whenAt = timeAt >= 0 ? timeAt : dateAt;
  if (whenAt < 0) throw new RangeError('no column says on which day');
  if (!mapping.order) throw new RangeError(`how dates in "${names[whenAt]}" are written is not known (order)`);
  if (mapping.zone === null && mapping.order !== 'unix') throw new RangeError(`the time zone of "${names[whenAt]}" is not known (zone)`);
  if (at('depth') >= 0 && !unit('depth')) throw new RangeError(`the unit of "${names[at('depth')]}" is not known: m, ft, fathom or cm`);
  if (at('hours') >= 0 && at('place') >= 0 && mapping.hours === null)
    throw new RangeError(`whether "${names[at('hours')]}" is of each place or of the whole day is not known (hours)`);
  const zone = mapping.zone ?? 'UTC';
  const spots = new Map(places.map((p) => [p.name.trim().toLowerCase(), p]));
  const text = (fields: string[], to: Target, longest = 200): string | null => (fields[at(to)] ?? '').trim().slice(0, longest) || null;
  const number = (fields: string[], to: Target, min: number, max: number): number | null => {
    const k = at(to);
    return k < 0 ? null : within(toSi(numberIn(fields[k] ?? '', mapping.decimal), unit(to)), min, max);
  };

  const read: CatchRow[] = [];
  const unknown = new Map<string, { name: string; rows: number }>();
  let lastDate = '';
  for (const { line, fields } of rows) {
    if (fields.every((f) => f.trim() === '')) continue;
    out.read++;
    // A date said once stands for the rows below it.
    const date = (fields[whenAt] ?? '').trim() || lastDate;
    const moment = readMoment(date, clockAt >= 0 ? (fields[clockAt] ?? '') : '', mapping.order, zone);
    if (typeof moment === 'string') {
      out.bad.push({ line, column: names[whenAt], reason: moment });
      continue;
    }
    lastDate = date;
    const place = text(fields, 'place');
    const named = place === null ? null : (spots.get(place.toLowerCase()) ?? null);
    const [latitude, longitude] = (['latitude', 'longitude'] as const).map((axis) =>
      at(axis) < 0 ? NaN : readDegrees((fields[at(axis)] ?? '').trim(), axis),
    );
    const own =
      Number.isNaN(latitude) || Number.isNaN(longitude) || (fields[at('latitude')] ?? '').trim() === '' ? null : { latitude, longitude };
    if (place !== null && !named && !own) {
      const key = place.toLowerCase();
      const before = unknown.get(key) ?? { name: place, rows: 0 };
      unknown.set(key, { ...before, rows: before.rows + 1 });
    }
    const species = text(fields, 'species', 100);
    const counted = numberIn(fields[at('number')] ?? '', mapping.decimal);
    if (counted > MOST_FISH || counted < 0) {
      out.bad.push({ line, column: names[at('number')], reason: `${counted} is no number of fish that one row can hold` });
      continue;
    }
    const blank = species !== null && NOTHING.test(species);
    const count = blank ? 0 : Number.isNaN(counted) ? (species === null ? 0 : 1) : Math.round(counted);
    const wind = text(fields, 'wind_from') ?? '';
    const named16 = COMPASS.indexOf(
      wind
        .toLowerCase()
        .replace(/[^a-z]/g, '')
        .replace('o', 'e'),
    );
    // "SW 4": direction and strength in one column.
    const windText = text(fields, 'wind_speed') ?? '';
    const both = /^([NESWO]{1,3})\s*([\d.,]+)?/i.exec(windText);
    const bothFrom = both ? COMPASS.indexOf(both[1].toLowerCase().replace('o', 'e')) : -1;
    read.push({
      line,
      at: moment.at,
      timed: moment.timed,
      day: new Date(moment.at + (mapping.order === 'unix' ? 0 : localDay(moment.at, zone))).toISOString().slice(0, 10),
      place,
      position: own ?? named,
      species: blank ? null : species,
      count,
      length: number(fields, 'length', 0.01, 12),
      mass: number(fields, 'mass', 0.001, 3000),
      depth: number(fields, 'depth', 0, 500),
      temperature: number(fields, 'temperature', -2, 45),
      clarity: number(fields, 'clarity', 0.01, 80),
      windSpeed:
        bothFrom >= 0
          ? both![2]
            ? within(toSi(numberIn(both![2], mapping.decimal), unit('wind_speed')), 0, 100)
            : null
          : number(fields, 'wind_speed', 0, 100),
      windFrom: bothFrom >= 0 ? bothFrom * 22.5 : named16 >= 0 ? named16 * 22.5 : within(numberIn(wind, mapping.decimal), 0, 360),
      hours: number(fields, 'hours', 0.05, 48),
      rods: within(Math.round(numberIn(fields[at('rods')] ?? '', mapping.decimal)), 1, 100),
      lure: text(fields, 'lure'),
      colour: text(fields, 'colour'),
      angler: text(fields, 'angler'),
      fate: fateOf(text(fields, 'fate')),
      notes: text(fields, 'notes', 4000),
    });
  }
  out.unknownPlaces = [...unknown.values()].sort((a, b) => b.rows - a.rows);
  for (const day of byKey(read, (r) => r.day)) addTrip(out, day, zone, mapping.hours === 'day', source);
  return out;
}

/** How far the clocks of a zone run before UTC, so that a moment's day is the one on the water, ms. */
const localDay = (at: number, zone: string): number => at - localToUtc(at, zone);

function fateOf(text: string | null): string | null {
  if (text === null) return null;
  if (/releas|back|c ?& ?r|zurück|^(y|yes)$/i.test(text)) return 'released';
  return /kept|keep|taken|entnommen|eaten|^(n|no)$/i.test(text) ? 'kept' : null;
}

function byKey<T>(list: T[], keyOf: (item: T) => string): T[][] {
  const groups = new Map<string, T[]>();
  for (const item of list) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return [...groups.values()];
}

const iso = (at: number): string => new Date(at).toISOString();

/** A day's rows as a trip with what belongs to it. */
function addTrip(out: CatchRecords, rows: CatchRow[], zone: string, ofDay: boolean, source: string): void {
  const { line, day } = rows[0];
  const noon = localToUtc(Date.parse(`${day}T00:00:00Z`) + NOON * HOUR, zone);
  const momentOf = (r: CatchRow): number => (r.timed ? r.at : noon);
  const moments = rows.map(momentOf);
  // Hours of places add up; those of the day stand on each of its rows.
  const perPlace = byKey(rows, (r) => (r.place ?? '').toLowerCase()).map((group) => Math.max(0, ...group.map((r) => r.hours ?? 0)));
  const same = ofDay && perPlace.length > 0;
  const hours = same ? Math.max(...perPlace) : perPlace.reduce((sum, h) => sum + h, 0);
  const start = Math.min(...moments);
  const end = Math.max(Math.max(...moments), start + hours * HOUR);
  const anglers = [...new Set(rows.flatMap((r) => (r.angler ? [r.angler] : [])))];
  const key = `${day} ${source}`.slice(0, 200);
  out.trips.push({
    line,
    row: {
      ...emptyRow('trips'),
      trip: key,
      start: iso(start),
      end: iso(end),
      crew: anglers.join(', ').slice(0, 200) || null,
      notes: `from ${source}`,
    },
  });
  const readings = new Map<string, Row>();
  for (const r of rows) {
    if (r.temperature === null && r.clarity === null && r.windSpeed === null && r.windFrom === null) continue;
    const time = iso(momentOf(r));
    const row: Row = {
      ...emptyRow('conditions'),
      trip: key,
      time,
      surface_temperature_c: r.temperature,
      secchi_m: r.clarity,
      wind_from_deg: r.windFrom,
      wind_speed_ms: r.windSpeed,
    };
    const said = JSON.stringify([time, r.temperature, r.clarity, r.windSpeed, r.windFrom]);
    if (readings.has(said)) continue;
    readings.set(said, row);
    out.conditions.push({ line: r.line, row });
  }
  let from = start;
  for (const group of byKey(
    rows.filter((r) => r.position !== null),
    (r) => (r.place ?? `${r.position!.latitude.toFixed(4)} ${r.position!.longitude.toFixed(4)}`).toLowerCase(),
  )) {
    const here = group.map(momentOf);
    const spent = (same ? hours / perPlace.length : Math.max(0, ...group.map((r) => r.hours ?? 0))) * HOUR;
    const began = group.some((r) => r.timed) ? Math.min(...here) : from;
    const ended = Math.max(began + spent, ...(group.some((r) => r.timed) ? here : [began]));
    from = Math.max(from, ended);
    const fish = group.reduce((sum, r) => sum + r.count, 0);
    const { place, position } = group[0];
    const stop = `${key} ${place ?? `${position!.latitude.toFixed(4)}, ${position!.longitude.toFixed(4)}`}`.slice(0, 200);
    out.stops.push({
      line: group[0].line,
      row: {
        ...emptyRow('stops'),
        trip: key,
        stop,
        start: iso(began),
        end: iso(ended),
        latitude: position!.latitude,
        longitude: position!.longitude,
        radius_m: 50,
        rods: Math.max(...group.map((r) => r.rods ?? 0)) || null,
        outcome: fish ? 'fish' : 'nothing',
        notes: place,
      },
    });
    for (const r of group) addFish(out, r, key, stop, momentOf(r));
  }
  for (const r of rows.filter((r) => r.position === null)) addFish(out, r, key, null, momentOf(r));
}

/** The fish of a row, each a response of its own. */
function addFish(out: CatchRecords, r: CatchRow, trip: string, stop: string | null, at: number): void {
  for (let k = 0; k < r.count; k++)
    out.responses.push({
      line: r.line,
      row: {
        ...emptyRow('responses'),
        trip,
        time: iso(at),
        response: 'landed',
        stop,
        species: r.species,
        // Of several fish in one row the length is the first one's, or the best one's: it is said of one.
        length_m: k === 0 ? r.length : null,
        mass_kg: k === 0 && r.count === 1 ? r.mass : null,
        fate: r.fate,
        depth_m: r.depth,
        lure: r.lure,
        lure_colour: r.colour,
        notes: k === 0 ? [stop === null && r.place ? `at ${r.place}` : null, r.notes].filter(Boolean).join('; ') || null : null,
      },
    });
}
