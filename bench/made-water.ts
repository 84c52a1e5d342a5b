import { chartFrom, type CellTable, type Chart } from '@restless-shoal/core/chart';
import {
  groupProfiles,
  conditionsFromLog,
  dayFor,
  frameLength,
  levelBaseOf,
  looksForFit,
  surfaceReadings,
  type Day,
  type FitLook,
  type TimedReading,
  type WaterFrame,
} from '@restless-shoal/core/forecast';
import { CELL, cellKey, ringsCentroid, type OutlineGeometry } from '@restless-shoal/core/geo';
import { readCover, readOutline, emptyReport } from '@restless-shoal/core/formats';
import type { Contact, Look, ProfileRow, Reading, Response, Row, Stop, TrackFix } from '@restless-shoal/core/logbook';
import { defaultSpecies, findSpecies, type SpeciesProfile } from '@restless-shoal/core/species';
import { altitudeOf, makeLogbook, type MadeLogbook, type Scenario } from '@restless-shoal/demo';
import { SEA_SALINITY } from '@restless-shoal/core/sonar';
import { highWaterSprings, levelsAbout, tideOf, type Tide } from '@restless-shoal/core/tide';
import { sortOf, sunHeight, usualCourse, type DatedProfile } from '@restless-shoal/core/lake';
import { bottom, cells as workCells, looks as deriveTripLooks } from '../server/src/jobs/worker';
import { Raster } from '@restless-shoal/core/geo';

/** A made-up water as the application would hold it, with what is truly in it. */
export interface MadeWater {
  made: MadeLogbook;
  chart: Chart;
  cells: CellTable;
  frame: WaterFrame;
  trips: Look[][];
  readings: TimedReading[];
  profiles: DatedProfile[];
  /** The ground of the fish under each cell: up to four places with their shares of the cell's area. */
  under: [place: number, share: number][][];
}

const timesOf = (rows: Row[], column: string): Float64Array => Float64Array.from(rows, (r) => Date.parse(String(r[column])));
const numbersOf = (rows: Row[], column: string): Float64Array =>
  Float64Array.from(rows, (r) => (r[column] == null ? NaN : Number(r[column])));

/** Makes a water, lays its chart and derives its looks, all as the application does. */
export function makeWater(seed: number, scenario: Scenario | undefined, trips = 60): MadeWater {
  const made = makeLogbook({ seed, scenario, trips });
  const { rows, folder, world } = made;
  const tide = tideOf(made.fish.tide);
  const altitude = altitudeOf(scenario);
  const epsg = world.plane.epsg;
  const outline = readOutline(folder.get('outline.geojson')!, 'outline.geojson') as OutlineGeometry;
  const cover = readCover(folder.get('cover.geojson')!, 'cover.geojson', emptyReport('cover.geojson', 'cover'));
  const soundings = rows.soundings.concat(rows.track.filter((r) => r.depth_m != null));
  const laid = bottom({
    epsg,
    outline,
    outlineProposed: false,
    soundings: {
      count: soundings.length,
      time: timesOf(soundings, 'time'),
      latitude: numbersOf(soundings, 'latitude'),
      longitude: numbersOf(soundings, 'longitude'),
      depth: Float32Array.from(numbersOf(soundings, 'depth_m')),
      temperature: new Float32Array(soundings.length).fill(NaN),
      hardness: Float32Array.from(soundings, (r) => (r.hardness == null ? NaN : Number(r.hardness))),
      survey: Int32Array.from(soundings, (_, i) => (i < rows.soundings.length ? 0 : -1)),
    },
    marks: [],
    cover,
    settings: {},
    levels: tide
      ? levelsAbout(tide, timesOf(soundings, 'time'))
      : rows.conditions.map((r) => ({ at: Date.parse(String(r.time)), level: Number(r.water_level_m) })),
    altitude,
    sort: sortOf(scenario?.kind ?? null, tide !== null),
    salinity: tide ? SEA_SALINITY : 0,
    shore: tide ? highWaterSprings(tide, timesOf(soundings, 'time').at(-1)!) : 0,
    currents: rows.conditions.flatMap((r) =>
      r.current_to_deg == null ? [] : [{ latitude: Number(r.latitude), longitude: Number(r.longitude), set: Number(r.current_to_deg) }],
    ),
  })!;
  const worked = workCells(laid);
  const raster = ({ x0, y0, size, width, height, data }: Raster): Raster => new Raster(x0, y0, size, width, height, data);
  const chart = chartFrom(
    laid.surface,
    [],
    { ...worked, distance: raster(worked.distance), quality: raster(worked.quality) },
    laid.cleaning,
  );
  const of = <T>(list: Row[], trip: string): T[] => list.filter((r) => r.trip === trip) as unknown as T[];
  const derived = deriveTripLooks({
    epsg,
    outline,
    chart: null,
    beam: 20,
    trips: rows.trips.map(({ trip }) => ({
      id: String(trip),
      level: levelOfTrip(tide, of<TrackFix>(rows.track, String(trip))),
      track: of<TrackFix>(rows.track, String(trip)),
      stops: of<Stop>(rows.stops, String(trip)),
      contacts: of<Contact>(rows.contacts, String(trip)),
      responses: of<Response>(rows.responses, String(trip)),
    })),
  });
  const { cells } = chart;
  const readings = rows.conditions
    .map((row) => ({ at: Date.parse(String(row.time)), row: row as unknown as Reading }))
    .sort((a, b) => a.at - b.at);
  const centre = ringsCentroid(outline);
  const frame: WaterFrame = {
    ...centre,
    altitude,
    kind: scenario?.kind ?? 'reservoir',
    tide: made.fish.tide,
    deepest: chart.deepest,
    lengthKm: frameLength(cells.column, cells.row),
    course: usualCourse(surfaceReadings(readings), centre.latitude, altitude),
    levelBase: levelBaseOf(readings, altitude),
  };
  return {
    made,
    chart,
    cells,
    frame,
    trips: derived.map((t) => t.looks),
    readings,
    profiles: groupProfiles(rows.profiles as unknown as ProfileRow[]),
    under: placesUnder(made, cells),
  };
}

/** How high the tide stood on a trip, m: the mean over its track. */
function levelOfTrip(tide: Tide | null, track: TrackFix[]): number {
  const heights = tide ? track.map((f) => tide.height(Date.parse(f.time))) : [];
  return heights.length ? heights.reduce((s, h) => s + h, 0) / heights.length : 0;
}

/** Fish are spread evenly over the squares of their ground, which do not lie on the grid of the chart. */
function placesUnder({ fish, world }: MadeLogbook, cells: CellTable): MadeWater['under'] {
  const at = new Map(fish.ground.map((g, i) => [cellKey(Math.floor(g.x / CELL), Math.floor(g.y / CELL)), i]));
  return Array.from({ length: cells.count }, (_, i) => {
    const [x, y] = [cells.column[i] * CELL - world.origin[0], cells.row[i] * CELL - world.origin[1]];
    const [c, r] = [Math.floor(x / CELL), Math.floor(y / CELL)];
    const [fx, fy] = [x / CELL - c, y / CELL - r];
    const out: [number, number][] = [];
    for (const [dc, wx] of [
      [0, 1 - fx],
      [1, fx],
    ])
      for (const [dr, wy] of [
        [0, 1 - fy],
        [1, fy],
      ]) {
        const place = at.get(cellKey(c + dc, r + dr));
        if (place !== undefined && wx * wy > 0) out.push([place, wx * wy]);
      }
    return out;
  });
}

/** Looks of the first so many trips, ready for a fit, all trips where none is said. */
export const fitLooksOf = (water: MadeWater, trips = water.trips.length): FitLook[] => {
  const { cells, frame, readings, profiles } = water;
  return looksForFit(water.trips.slice(0, trips), cells, frame, readings, profiles);
};

/** Share of each cell that a trip scanned, by its key: at most all of it. */
function scannedOf(looks: Look[]): Map<number, number> {
  const scanned = new Map<number, number>();
  for (const { kind, column, row, effort } of looks)
    if (kind === 'scan') {
      const key = cellKey(column, row);
      scanned.set(key, Math.min(1, (scanned.get(key) ?? 0) + effort / (CELL * CELL)));
    }
  return scanned;
}

/** Depths between which the chance to see a pack is told apart, m. */
const BANDS = [0, 3, 5, 7, 9, 12, 16, 60];

/**
 * How likely a scan of a whole cell, done as this log usually scans, shows a pack that is in it, by depth of the
 * water: packs seen against packs in the water scanned, pooled over the log.
 */
export function usualDetection(water: MadeWater, species: string): (depth: number) => number {
  const { made, trips } = water;
  const [seen, there] = [BANDS.map(() => 0), BANDS.map(() => 0)];
  made.truth.forEach((truth, t) => {
    const spans = new Map<number, Map<number, number>>();
    for (const pack of truth.packs) {
      if (pack.species !== species) continue;
      const [from, to] = pack.span;
      let scanned = spans.get(to);
      if (!scanned) spans.set(to, (scanned = scannedOf(trips[t].filter((l) => l.from >= from && l.from < to))));
      const share = scanned.get(
        cellKey(Math.floor((pack.x + made.world.origin[0]) / CELL), Math.floor((pack.y + made.world.origin[1]) / CELL)),
      );
      const band = BANDS.findIndex((low) => low > pack.water) - 1;
      if (share) there[band] += share;
      if (truth.seen.has(pack.id)) seen[band]++;
    }
  });
  const all =
    seen.reduce((s, n) => s + n) /
    Math.max(
      1,
      there.reduce((s, n) => s + n),
    );
  // A band with little in it borrows from the whole.
  const rate = BANDS.map((_, b) => Math.min(1, (seen[b] + 20 * all) / (there[b] + 20)));
  return (depth) => rate[Math.max(0, BANDS.findIndex((low) => low > depth) - 1)];
}

/**
 * How much luck a log had with a species: packs truly marked over those that one who knows the rules expects of the
 * same scans. No forecaster that has the log alone can tell it from there being more fish.
 */
export function luckOfLog(water: MadeWater, species: string, draws: number): number {
  const { made, frame, cells, trips } = water;
  const detect = usualDetection(water, species);
  const at = new Map(Array.from({ length: cells.count }, (_, i) => [cellKey(cells.column[i], cells.row[i]), i]));
  let [expected, marked] = [0, 0];
  trips.forEach((looks, t) => {
    // With a tide the fish move on: each span of a trip has chances of its own.
    const spans = new Map(made.truth[t].packs.map(({ span }) => [span[1], span]));
    for (const [from, to] of spans.size ? spans.values() : [[-Infinity, Infinity]]) {
      const within = looks.filter((l) => l.from >= from && l.from < to);
      const scanned = scannedOf(within);
      if (!scanned.size) continue;
      const middle = (Math.min(...within.map((l) => l.from)) + Math.max(...within.map((l) => l.to))) / 2;
      const sun = sunHeight(new Date(middle), frame.latitude, frame.longitude);
      const chance = made.fish.knownChance(species, middle, sun, (g) => detect(g.depth), draws, made.fish.drawsOf(t));
      for (const [key, share] of scanned)
        for (const [place, part] of water.under[at.get(key) ?? -1] ?? []) expected -= Math.log1p(-chance[place]) * part * share;
    }
    const { packs, seen } = made.truth[t];
    for (const pack of packs) if (pack.species === species && seen.has(pack.id)) marked++;
  });
  return marked / expected;
}

/** A day of a following season: what the forecast is told, and the chance in each cell to one who knows the rules. */
export interface TestDay {
  day: Day;
  known: Float64Array;
}

const profileOf = ({ made, frame }: MadeWater, t: number): DatedProfile => ({
  at: new Date(t - 3_600_000),
  samples: Array.from({ length: Math.max(2, Math.floor(frame.deepest)) }, (_, z) => {
    const { temperature, oxygen } = made.fish.profile(t, z);
    return { depth: z, temperature, oxygen };
  }),
});

/** What is read of the water on a day. */
export const readingOn = ({ made }: MadeWater, t: number): Reading => {
  const { surface, secchi, windFrom, windSpeed, level } = made.fish.climate.on(t);
  const { stream } = made.fish.running(t);
  return {
    surface_temperature_c: surface,
    secchi_m: secchi,
    wind_from_deg: windFrom,
    wind_speed_ms: windSpeed,
    water_level_m: made.fish.tide ? null : level,
    current_speed_ms: made.fish.flow === null ? null : stream!.rate,
    current_to_deg: made.fish.flow === null ? null : stream!.set,
  } as Reading;
};

/** Days through the season after the log's last, every other with a profile of the probe. */
export function testDays(water: MadeWater, species: string, count: number, draws: number): TestDay[] {
  const { frame } = water;
  const detect = usualDetection(water, species);
  return Array.from({ length: count }, (_, k) => {
    const t = Date.UTC(2027, 3, 20) + ((k + 0.5) / count) * 185 * 86_400_000;
    const noon = Math.floor(t / 86_400_000) * 86_400_000 + (8 + 2 + (k % 3) * 2) * 3_600_000;
    const at = new Date(noon);
    const { conditions } = conditionsFromLog([...water.readings, { at: noon, row: readingOn(water, noon) }], at, frame);
    const day = dayFor(conditions, frame, k % 2 ? [...water.profiles, profileOf(water, noon)] : water.profiles);
    const sun = sunHeight(at, frame.latitude, frame.longitude);
    return { day, known: knownOn(water, species, noon, sun, detect, draws, k) };
  });
}

/** The chance in each cell at a moment to one who knows the rules. @param nth of the test days: which draws are taken */
export function knownOn(
  { made, cells, under }: MadeWater,
  species: string,
  at: number,
  sun: number,
  detect: (depth: number) => number,
  draws: number,
  nth: number,
): Float64Array {
  const chance = made.fish.knownChance(species, at, sun, (g) => detect(g.depth), draws, made.fish.drawsOf(nth));
  const rate = chance.map((p) => -Math.log1p(-p));
  return Float64Array.from({ length: cells.count }, (_, i) => {
    let mean = 0;
    for (const [place, share] of under[i]) mean += rate[place] * share;
    return -Math.expm1(-mean);
  });
}

export const profileNamed = (name: string): SpeciesProfile => findSpecies(name, defaultSpecies)!;
