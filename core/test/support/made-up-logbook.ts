import { buildChart, type Chart } from '../../src/chart';
import { metricPlane, WaterCells, type Point } from '../../src/geo';
import { deriveLooks, tripInPlane, type Contact, type Reading, type TrackFix } from '../../src/logbook';
import { seeded } from '../../src/numbers';
import { WaterPatterns, type LogContact, type Logbook, type LogResponse, type LogStop, type WaterLogbook } from '../../src/patterns';
import { defaultSpecies } from '../../src/species';

const EPSG = 32625;
const [X0, Y0, WIDE, HIGH] = [500000, 6_100_000, 2000, 1200];
const shore: Point[] = [
  [X0, Y0],
  [X0 + WIDE, Y0],
  [X0 + WIDE, Y0 + HIGH],
  [X0, Y0 + HIGH],
];
/** A bowl with ridges: depth changes over some 150 m everywhere. */
const bottom = (x: number, y: number): number =>
  Math.max(
    0.4,
    Math.min(10, Math.min(x - X0, X0 + WIDE - x, y - Y0, Y0 + HIGH - y) / 25) * 0.6 + 3 + 2.6 * Math.sin(x / 70) * Math.cos(y / 90),
  );

/** Timber at forty places of the made-up water, each of 30 m. */
const TIMBER: Point[] = Array.from({ length: 40 }, (_, k): Point[] => {
  const random = seeded(77 + k);
  const [x, y] = [X0 + 60 + random() * (WIDE - 120), Y0 + 60 + random() * (HIGH - 120)];
  return Array.from({ length: 7 }, (_, i): Point => [x + 5 * i, y + 3 * (i % 2)]);
}).flat();

const kept = new Map<boolean, Chart>();
/** The chart of the made-up water: hard in its eastern half, soft in its western; with timber where it is wanted. */
export function madeUpChart(timber = false): Chart {
  const made = kept.get(timber);
  if (made) return made;
  const grid = { x: [] as number[], y: [] as number[], depth: [] as number[], hardness: [] as number[] };
  for (let y = Y0 + 10; y < Y0 + HIGH; y += 20)
    for (let x = X0 + 10; x < X0 + WIDE; x += 20) {
      grid.x.push(x);
      grid.y.push(y);
      grid.depth.push(bottom(x, y));
      grid.hardness.push(x > X0 + WIDE / 2 ? 0.8 : 0.2);
    }
  const chart = buildChart(EPSG, [shore], grid, timber ? { cover: [{ kind: 'wood', points: TIMBER }] } : {});
  kept.set(timber, chart);
  return chart;
}

export interface LogMaking {
  seed: number;
  trips?: number;
  /** Packs a hectare by depth of the bottom and by season (0 spring, 1 summer), and by how near timber is, m. */
  packs: (depth: number, season: number, x: number, timber: number) => number;
  /** Whether the water has timber. */
  timber?: boolean;
  /** How much the boat likes a place: legs start where this is high, 0–1. */
  boat?: (depth: number, season: number, x: number) => number;
  /** Chance of marking a pack by its distance off the line, m. */
  seen?: (off: number) => number;
  /** Each pack marked is marked again by two other views, tied to the first mark. */
  views?: 1 | 3;
}

function poisson(random: () => number, mean: number): number {
  let [n, p] = [0, random()];
  while (p > Math.exp(-mean)) {
    n++;
    p *= random();
  }
  return n;
}

const REACH = 20;
const blank = Object.fromEntries(
  [
    ...['contact', 'same_as', 'stop', 'view', 'rig', 'settings', 'species', 'confidence', 'confirmed', 'count', 'size'],
    ...['water_depth_m', 'top_m', 'bottom_m', 'form', 'density', 'core', 'hardness', 'cover', 'side_of_cover', 'behaviour', 'notes'],
  ].map((k) => [k, null]),
);

/** A whole log, from tracks and marks to looks, in which fish and boat do as told. */
export function makeUpLogbook(making: LogMaking): { logbook: Logbook; days: WaterLogbook; chart: Chart } {
  const chart = madeUpChart(making.timber);
  const plane = metricPlane(EPSG);
  const cells = new WaterCells([shore]);
  const random = seeded(making.seed);
  const { trips = 24, packs, boat = () => 1, seen = () => 1, views = 1 } = making;
  const logbook: Logbook = { trips: [], contacts: [], stops: [], responses: [] };
  const readings: WaterLogbook['readings'] = [];
  const ll = (x: number, y: number): { latitude: number; longitude: number } => plane.toLatLon([x, y]);
  for (let t = 0; t < trips; t++) {
    const season = t % 2;
    const trip = `trip ${t}`;
    let at = Date.UTC(2024 + Math.floor(t / 12), season ? 6 : 4, 3 + 2 * (t % 12), 7);
    const begun = at;
    readings.push({
      at,
      row: {
        trip,
        time: new Date(at).toISOString(),
        surface_temperature_c: season ? 20 : 11,
        secchi_m: 2,
        wind_from_deg: 250,
        wind_speed_ms: 4,
      } as Reading,
    });
    const there: Point[] = [];
    for (let i = 0; i < chart.cells.count; i++) {
      const [x, y] = [chart.cells.column[i] * 25, chart.cells.row[i] * 25];
      for (let n = poisson(random, packs(chart.cells.depth[i], season, x, chart.cells.woodDistance[i]) * 0.0625); n > 0; n--)
        there.push([x + 25 * random(), y + 25 * random()]);
    }
    const track: TrackFix[] = [];
    const contacts: Contact[] = [];
    const marked = new Set<number>();
    for (let leg = 0; leg < 8; leg++) {
      let [x, y] = [0, 0];
      for (let tries = 0; tries < 80; tries++) {
        [x, y] = [X0 + 30 + random() * (WIDE - 220), Y0 + 30 + random() * (HIGH - 60)];
        if (random() < boat(bottom(x + 80, y), season, x)) break;
      }
      at += 600_000;
      for (let s = 0; s <= 160; s += 16) {
        at += 8000;
        track.push({
          trip,
          time: new Date(at).toISOString(),
          ...ll(x + s, y),
          mode: 'scan',
          depth_m: bottom(x + s, y),
          heading_deg: 90,
          view: 'side-scan',
          port_range_m: REACH,
          starboard_range_m: REACH,
          sector_deg: null,
          sector_range_m: null,
        } as TrackFix);
        there.forEach(([px, py], k) => {
          const reach = Math.sqrt(REACH ** 2 - (bottom(x + s, y) - 0.4) ** 2);
          if (marked.has(k) || s === 0 || px < x + s - 16 || px >= x + s || Math.abs(py - y) > reach || random() > seen(Math.abs(py - y)))
            return;
          marked.add(k);
          for (let v = 0; v < views; v++)
            contacts.push({
              ...blank,
              trip,
              time: new Date(at + v * 40_000).toISOString(),
              ...ll(px, py),
              kind: 'fish',
              contact: `${t}-${k}-${v}`,
              same_as: v ? `${t}-${k}-0` : null,
              view: ['side-scan', 'down-beam', 'forward-facing'][v],
              species: 'zander',
              confidence: 0.8,
              confirmed: 'none',
              count: 2,
              water_depth_m: bottom(px, py),
              top_m: bottom(px, py) * 0.8,
              bottom_m: bottom(px, py) * 0.85,
            } as unknown as Contact);
        });
      }
    }
    const derived = deriveLooks(tripInPlane(plane, { track, stops: [], contacts, responses: [] }), cells, {
      depthAt: (x, y) => chart.depth.at(x, y),
    });
    logbook.trips.push({ id: trip, start: begun, looks: derived.looks, outside: derived.outside.length });
    logbook.contacts.push(...contacts.map((c): LogContact => ({ ...c, id: String(c.contact), trip_id: trip })));
  }
  return {
    logbook,
    chart,
    days: {
      frame: { latitude: 55, longitude: -39, altitude: 100, deepest: chart.deepest, lengthKm: 2 },
      readings,
      profiles: [],
      timeZone: 'Etc/GMT+3',
    },
  };
}

/** The patterns of a made-up log, with stops and responses where given. */
export function patternsOf(making: LogMaking, more: { stops?: LogStop[]; responses?: LogResponse[] } = {}): WaterPatterns {
  const { logbook, chart, days } = makeUpLogbook(making);
  return new WaterPatterns({ ...logbook, stops: more.stops ?? [], responses: more.responses ?? [] }, chart, days, [...defaultSpecies]);
}
