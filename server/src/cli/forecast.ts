import { createReadStream, existsSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { cellsAtLevel, unpackChart } from '@restless-shoal/core/chart';
import {
  groupProfiles,
  conditionsFromLog,
  type LoggedConditions,
  dayFor,
  forecastCsv,
  indexCells,
  withinDayUpdate,
  Predictor,
  seenEarlier,
  type Day,
  type TimedReading,
} from '@restless-shoal/core/forecast';
import { emptyReport, FormatError, readRecord } from '@restless-shoal/core/formats';
import { metricPlane } from '@restless-shoal/core/geo';
import type { DatedProfile } from '@restless-shoal/core/lake';
import { findSpecies } from '@restless-shoal/core/species';
import type { ProfileRow, Reading, RecordName, Row } from '@restless-shoal/core/logbook';
import { latestChart } from '../db/charts';
import { profilesOfWater, readingsOfWater } from '../db/log';
import { waterByName, type WaterRow } from '../db/waters';
import { looksOfDay } from '../jobs/looks';
import { frameOf, freshFit, speciesNamed } from '../jobs/ready';
import type { Context } from './context';

export interface ForecastOptions {
  water: string;
  species: string;
  at: Date;
  conditions?: string;
  profile?: string;
  out: string;
}

/** What had to be carried over or assumed, for the terminal. */
function carriedWords({ code, values }: LoggedConditions['said'][number]): string {
  switch (code) {
    case 'carried.surface.usual':
      return 'surface temperature: none read, the usual one for the date and latitude';
    case 'carried.surface.moved':
      return `surface temperature: read ${values.days} days before, moved with the season`;
    case 'carried.clarity':
      return `clarity: none read, ${values.assumed} m assumed`;
    case 'carried.wind':
      return 'wind: none read lately, calm assumed';
  }
}

/** All good rows of a small file; bad ones are said. @throws FormatError when it cannot be read or holds no row */
async function readRows(record: RecordName, path: string): Promise<Row[]> {
  if (!existsSync(path)) throw new FormatError(`${path}: there is no such file`);
  const report = emptyReport(basename(path), record);
  const rows: Row[] = [];
  for await (const batch of readRecord(record, createReadStream(path), report)) rows.push(...batch.map((r) => r.row));
  for (const f of report.bad.first) console.log(`${report.file}: line ${f.line}, ${f.column}: ${f.reason}; left out`);
  if (!rows.length) throw new FormatError(`${path}: holds no row that can be used`);
  return rows;
}

interface Inputs {
  readings: TimedReading[];
  profiles: DatedProfile[];
  said: string[];
}

/** A reading of a profile from here up is one of the surface, m. */
const SURFACE_DEPTH = 1.5;

/** The log up to the moment, with the given conditions standing for the 24 hours before it. */
async function inputsFor({ pool }: Context, water: WaterRow, options: ForecastOptions): Promise<Inputs> {
  const at = options.at.getTime();
  const said: string[] = [];
  const readings: TimedReading[] = (await readingsOfWater(pool, water.id))
    .map((row) => ({ at: Date.parse(row.time), row }))
    .filter((r) => r.at <= at);
  if (options.conditions) {
    const rows = await readRows('conditions', options.conditions);
    readings.push({ at, row: rows[rows.length - 1] as unknown as Reading });
    said.push(`conditions: the last row of ${basename(options.conditions)}`);
  }
  const profiles = groupProfiles((await profilesOfWater(pool, water.id)).filter((p) => Date.parse(p.time) <= at));
  if (options.profile) {
    const given = groupProfiles((await readRows('profiles', options.profile)) as unknown as ProfileRow[]);
    const profile = { ...given[given.length - 1], at: options.at };
    profiles.push(profile);
    said.push(`profile: ${basename(options.profile)}`);
    // Its top is a reading of the surface, newer than any of the log.
    const top = profile.samples.reduce((a, b) => (b.depth < a.depth ? b : a));
    const read = readings.some((r) => r.at === at && r.row.surface_temperature_c != null);
    if (!read && top.depth <= SURFACE_DEPTH) {
      readings.push({ at, row: { surface_temperature_c: top.temperature } as Reading });
      said.push(`surface temperature: ${top.temperature.toFixed(1)} °C, the top of the profile`);
    }
  }
  return { readings, profiles, said };
}

/** The date of a moment where the water lies. */
/** Where a column comes from: a profile of the hour, one that was carried on since, or none. */
const whence = ({ modelled, profileAt, ofSeason }: Day['column']): string =>
  !modelled
    ? 'from the profile'
    : profileAt
      ? `modelled on from the profile of ${profileAt.toISOString()}`
      : ofSeason > 0.5
        ? 'modelled from the water’s profiles of that time of year'
        : 'modelled';

const localDate = (at: Date, zone: string | null): string => at.toLocaleDateString('en-CA', { timeZone: zone ?? 'UTC' });

/** Writes the forecast of a species as CSV, one row a cell. */
export async function forecastCommand(context: Context, options: ForecastOptions): Promise<void> {
  const { pool, account } = context;
  const water = await waterByName(pool, account, options.water);
  if (!water) throw new FormatError(`there is no water "${options.water}"`);
  const { species, known } = await speciesNamed(pool, water, options.species);
  const row = await latestChart(pool, water.id);
  if (!row) throw new FormatError(`${water.name} has no chart yet: import soundings or an outline first`);
  const chart = unpackChart(row.body);
  const { readings, profiles, said } = await inputsFor(context, water, options);
  const frame = frameOf(water, chart, readings);
  const logged = conditionsFromLog(readings, options.at, frame);
  const day = dayFor(logged.conditions, frame, profiles);
  const fit = await freshFit(pool, water, species.name, options.at);
  const cells = cellsAtLevel(chart.cells, day.level);
  const predictor = new Predictor(fit.model, cells);
  const before = predictor.on(day);
  const looked = await looksOfDay(pool, water, options.at, (t) => localDate(t, water.time_zone));
  const is = (name: string): boolean => findSpecies(name, known)?.name === species.name;
  const earlier = seenEarlier(looked, is, indexCells(cells));
  const moved = withinDayUpdate(fit.model.today, earlier, before.probability, cells, options.at.getTime());
  const forecast = moved ? predictor.on(day, moved) : before;
  const plane = metricPlane(chart.epsg);
  const at = options.at.toISOString();
  writeFileSync(options.out, forecastCsv(forecast, cells, plane, species.name, at));
  for (const line of [...said, ...logged.said.map(carriedWords)]) console.log(line);
  const line = day.column.thermocline;
  console.log(`thermocline: ${line ? `${line.top.toFixed(1)}–${line.bottom.toFixed(1)} m` : 'none'}, ${whence(day.column)}`);
  if (earlier.length)
    console.log(
      `earlier on the day: ${earlier.length} looks${moved ? ', which move the forecast' : '; days like this log’s carry nothing on, they move nothing'}`,
    );
  const { stats } = fit.model;
  console.log(
    stats.looks
      ? `fit: ${fit.reused ? 'used again' : 'made'}, from ${stats.trips} trips, ${stats.looks} looks, ${Math.round(stats.contacts)} contacts of ${species.name}`
      : 'fit: no look had been logged by then; the strategies speak alone',
  );
  if (stats.borrowed)
    console.log(
      `started from the fit of ${stats.borrowed.water}: ${stats.borrowed.trips} trips, ${Math.round(stats.borrowed.contacts)} contacts`,
    );
  console.log(`${options.out}: ${chart.cells.count} cells of ${water.name}, ${species.name} at ${at}`);
}
