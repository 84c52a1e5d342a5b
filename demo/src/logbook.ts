import { records, type RecordName, type Row } from '@restless-shoal/core/logbook';
import { csvLine } from '@restless-shoal/core/formats';
import { insideRings, type Point } from '@restless-shoal/core/geo';
import { Outing } from './angler';
import { Climate, RESERVOIR, type WaterKind } from './climate';
import { FishWorld, type Pack } from './fish';
import type { FishRules } from './fish-rules';
import { VALLEY_FISH } from './fish-valley';
import { Random } from './random';
import type { ShapeKind } from './shapes';
import { tideOf, type Tide, type TideRecord } from '@restless-shoal/core/tide';
import { makeWorld, type World } from './world';

/** A folder of the exchange formats: file name → text. */
export type Folder = Map<string, string>;

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** Local time of the demo waters runs two hours behind UTC. */
const ZONE = 'Etc/GMT+2';
const ZONE_HOURS = 2;

export interface DemoOptions {
  seed: number;
  /** Trips over two seasons, 60 by default. */
  trips?: number;
  /** The water's shape, its nature and its fish; the demo's reservoir by default. */
  scenario?: Scenario;
}

/** A kind of made-up water and what lives in it. */
export interface Scenario {
  shape: ShapeKind;
  water: WaterKind;
  fish: FishRules;
  /** What it is, if no reservoir, and the datum of its depths. */
  kind?: 'coast' | 'river';
  datum?: string;
  tide?: TideRecord;
  /** Mean flow of a river, m/s; it varies by the day. */
  flow?: number;
}

const DEMO: Scenario = { shape: 'valley', water: RESERVOIR, fish: VALLEY_FISH };

/** Height of a made-up water over the sea, m. */
export const altitudeOf = ({ kind }: Scenario = DEMO): number => (kind === 'coast' ? 0 : kind === 'river' ? 40 : 310);

/** What was truly there on a trip, and which packs the screen showed. */
export interface TripTruth {
  trip: string;
  packs: Pack[];
  /** The first mark of each pack that was marked, by the pack's number. */
  seen: Map<number, string>;
}

export interface MadeLogbook {
  folder: Folder;
  rows: Record<RecordName, Row[]>;
  world: World;
  fish: FishWorld;
  truth: TripTruth[];
}

/** Start times of the trips: two seasons from mid April, the first to early November, the second to mid September. */
function outings(count: number, random: Random): [start: number, end: number][] {
  const seasons: [number, number, number][] = [
    [Date.UTC(2025, 3, 12), Date.UTC(2025, 10, 8), 0.53],
    [Date.UTC(2026, 3, 10), Date.UTC(2026, 8, 19), 0.47],
  ];
  const days: number[] = [];
  for (const [from, to, share] of seasons) {
    const n = Math.round(count * share);
    for (let k = 0; k < n; k++) days.push(from + Math.floor(((k + random.even(0.1, 0.9)) * (to - from)) / n / DAY) * DAY);
  }
  return [...new Set(days)]
    .sort((a, b) => a - b)
    .map((day) => {
      const start = day + (5 + ZONE_HOURS) * HOUR + random.even(0, 2.5 * HOUR);
      return [start, start + random.even(4.5, 8) * HOUR];
    });
}

/** Depth and hardness along survey lines across the water, as a unit logs them. */
function survey(world: World, random: Random, tide: Tide | null): Row[] {
  const rows: Row[] = [];
  let t = Date.UTC(2025, 3, 5, 9);
  const sound = (x: number, y: number): void => {
    const depth = world.depth(x, y);
    if (depth < 0.4 || !insideRings(world.outline, x, y)) return;
    t += 2500;
    const p = world.toLatLon(x + random.normal(0, 0.8), y + random.normal(0, 0.8));
    rows.push({
      time: new Date(t).toISOString(),
      latitude: Number(p.latitude.toFixed(7)),
      longitude: Number(p.longitude.toFixed(7)),
      depth_m: Number(Math.max(0.2, depth + (tide?.height(t) ?? 0) + random.normal(0, 0.06)).toFixed(2)),
      temperature_c: 6.5,
      hardness: Number(Math.min(1, Math.max(0, world.hardness(x, y) + random.normal(0, 0.05))).toFixed(2)),
      heading_deg: null,
      speed_ms: 2.6,
    });
  };
  let up = true;
  for (let x = 20; x < world.width; x += 38, up = !up)
    for (let k = 0; k <= world.height; k += 7) sound(x + random.normal(0, 1), up ? k : world.height - k);
  for (const hump of world.humps)
    for (let a = 0; a < 40; a++)
      sound(hump.x + hump.radius * 0.05 * a * Math.cos(a * 0.6), hump.y + hump.radius * 0.05 * a * Math.sin(a * 0.6));
  return rows;
}

function csv(record: RecordName, rows: Row[]): string {
  const columns = Object.keys(records[record]);
  return csvLine(columns) + rows.map((row) => csvLine(columns.map((c) => row[c]))).join('');
}

function geoJson(world: World): { outline: string; cover: string } {
  const position = ([x, y]: Point): number[] => {
    const p = world.toLatLon(x, y);
    return [Number(p.longitude.toFixed(7)), Number(p.latitude.toFixed(7))];
  };
  const ring = (points: Point[]): number[][] => [...points, points[0]].map(position);
  const collection = (features: object[]): string => JSON.stringify({ type: 'FeatureCollection', features }) + '\n';
  return {
    outline: collection([
      { type: 'Feature', properties: { name: world.name }, geometry: { type: 'Polygon', coordinates: world.outline.map(ring) } },
    ]),
    cover: collection(
      world.cover.map((c) => ({
        type: 'Feature',
        properties: { kind: c.kind, cover: c.cover },
        geometry:
          c.points.length === 1
            ? { type: 'Point', coordinates: position(c.points[0]) }
            : { type: 'Polygon', coordinates: [ring(c.points)] },
      })),
    ),
  };
}

/** A made-up water and the log of its guide, from a seed, as the exchange formats. */
export function makeLogbook({ seed, trips = 60, scenario = DEMO }: DemoOptions): MadeLogbook {
  const world = makeWorld(seed, scenario.shape);
  const random = new Random(seed * 104729 + 3);
  const climate = new Climate(seed, Date.UTC(2025, 0, 1), Date.UTC(2027, 11, 31), scenario.water);
  const tide = tideOf(scenario.tide);
  const fish = new FishWorld(world, climate, scenario.fish, scenario.tide ?? null, scenario.flow ?? null);
  const all: Record<RecordName, Row[]> = {
    soundings: survey(world, random.fork(1), tide),
    trips: [],
    conditions: [],
    profiles: [],
    track: [],
    stops: [],
    contacts: [],
    responses: [],
    photos: [],
    spots: [],
    gear: [],
  };
  const memory: Point[] = [];
  const truth: TripTruth[] = [];
  outings(trips, random.fork(2)).forEach(([start, end], k) => {
    const date = new Date(start).toISOString().slice(0, 10);
    const outing = new Outing(date, start, end, fish, random.fork(10 + k), memory);
    const rows = outing.run();
    truth.push({ trip: date, packs: outing.packs, seen: outing.seen });
    for (const [name, list] of Object.entries(rows) as [RecordName, Row[]][]) for (const row of list) all[name].push(row);
  });
  const { outline, cover } = geoJson(world);
  const folder: Folder = new Map([
    [
      'water.json',
      JSON.stringify(
        {
          name: world.name,
          kind: scenario.kind ?? 'reservoir',
          datum: scenario.datum ?? 'full level',
          altitude_m: altitudeOf(scenario),
          time_zone: ZONE,
          forage: scenario.fish.filter((kind) => kind.bait).map((kind) => kind.name),
          ...(scenario.tide ? { tide: scenario.tide } : {}),
          rigs: [{ name: 'bow unit', beam_deg: 20, settings: ['clear water', 'deep'] }],
        },
        null,
        2,
      ) + '\n',
    ],
    ['outline.geojson', outline],
    ['cover.geojson', cover],
  ]);
  for (const name of Object.keys(all) as RecordName[]) if (all[name].length) folder.set(`${name}.csv`, csv(name, all[name]));
  return { folder, rows: all, world, fish, truth };
}
