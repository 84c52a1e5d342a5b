import { depthAtLevel, type Chart } from '../chart';
import { CELL, cellKey } from '../geo';
import { indexCells } from '../forecast';
import { VIEWS, type Contact, type Look, type Response, type SeenTarget, type Stop } from '../logbook';
import { chartPlaces, type ChartPlaces } from './chart-places';
import { baitBefore, lastFished } from './earlier';
import { makeClusters, type Clusters } from '../numbers';
import { Moments, type Moment, type WaterLogbook } from './moments';

/** A trip as patterns need it. */
export interface LogTrip {
  id: string;
  start: number;
  looks: Look[];
  /** Contacts that lie outside all effort. */
  outside: number;
}

/** A contact with its own key and its trip's. */
export type LogContact = Contact & { id: string; trip_id: string };
export type LogStop = Stop & { id: string; trip_id: string };
export type LogResponse = Response & { id: string; trip_id: string };

/** Everything a water's log holds, as records. */
export interface Logbook {
  trips: LogTrip[];
  contacts: LogContact[];
  stops: LogStop[];
  responses: LogResponse[];
}

export const KINDS = ['scan', 'fish', 'troll'] as const;

/** A target as one look saw it, with the words of its first sighting. */
export interface LookTarget extends SeenTarget {
  look: number;
  /** The same for all looks of a trip that saw this target, and for no other target. */
  number: number;
  contact: LogContact | null;
}

/** The looks of a log in columns, one entry a look, in the order of the trips and of time. */
export interface LookTable {
  count: number;
  trips: LogTrip[];
  trip: Int32Array;
  /** Index in KINDS. */
  kind: Uint8Array;
  cell: Int32Array;
  /** 300 m squares that the water is cut into, numbered from 0: looks of one square are alike. */
  place: Int32Array;
  places: number;
  from: Float64Array;
  to: Float64Array;
  /** All looks as clusters of looks that are alike. */
  clusters: Clusters;
  /** Hectares scanned, rod-minutes or metres trolled. */
  effort: Float64Array;
  /** Index in VIEWS, −1 where nobody said, and the reach off the line, m. */
  view: Int8Array;
  reach: Float32Array;
  moment: Moment[];
  /** Metres of the cell's middle. */
  x: Float64Array;
  y: Float64Array;
  /** Bait seen earlier within 50 and 200 m: 0 looked and not seen, 1 seen, −1 nobody had looked. */
  bait50: Int8Array;
  bait200: Int8Array;
  /** Days since the place was last fished; NaN when never. */
  fishedBefore: Float32Array;
  /** Boats near, where a stop says; NaN elsewhere. */
  boats: Float32Array;
  targets: LookTarget[];
  /** How many targets there are, each counted once a trip. */
  distinct: number;
  /** The targets of look i are `targets[first[i]]` to before `targets[first[i + 1]]`. */
  first: Int32Array;
  chart: ChartPlaces;
  /** Looks that lie outside the chart, and contacts outside all effort. */
  offChart: number;
  outside: number;
}

/** Side of the squares within which looks are alike, m. */
export const PLACE = 300;

/** Depth of the bottom under a look at the level of its day, m. */
export const bottomOf = (t: LookTable, i: number): number => depthAtLevel(t.chart.cells, t.cell[i], t.moment[i].day.level);

/** Lays a log out as a table of looks with all that the patterns ask of them. */
export function lookTable(logbook: Logbook, chart: Chart, days: WaterLogbook, onProgress?: (share: number) => void): LookTable {
  const places = chartPlaces(chart);
  const at = indexCells(chart.cells);
  const moments = new Moments(days);
  const trips = [...logbook.trips].sort((a, b) => a.start - b.start);
  const contactOf = new Map<string, LogContact>();
  for (const c of logbook.contacts) contactOf.set(`${c.trip_id} ${c.contact ?? c.id}`, c);
  const rows: { look: Look; trip: number; cell: number }[] = [];
  let offChart = 0;
  trips.forEach((trip, t) => {
    for (const look of [...trip.looks].sort((a, b) => a.from - b.from)) {
      const cell = at.get(cellKey(look.column, look.row));
      if (cell === undefined || Number.isNaN(chart.cells.depth[cell])) offChart++;
      else rows.push({ look, trip: t, cell });
    }
  });
  const n = rows.length;
  const squares = new Map<number, number>();
  const numbers = new Map<string, number>();
  const table: LookTable = {
    count: n,
    trips,
    trip: new Int32Array(n),
    kind: new Uint8Array(n),
    cell: new Int32Array(n),
    place: new Int32Array(n),
    places: 0,
    clusters: makeClusters(new Int32Array(0), 0, new Int32Array(0), 0),
    from: new Float64Array(n),
    to: new Float64Array(n),
    effort: new Float64Array(n),
    view: new Int8Array(n),
    reach: new Float32Array(n),
    moment: new Array<Moment>(n),
    x: new Float64Array(n),
    y: new Float64Array(n),
    bait50: new Int8Array(n).fill(-1),
    bait200: new Int8Array(n).fill(-1),
    fishedBefore: new Float32Array(n).fill(NaN),
    boats: new Float32Array(n).fill(NaN),
    targets: [],
    distinct: 0,
    first: new Int32Array(n + 1),
    chart: places,
    offChart,
    outside: trips.reduce((s, t) => s + t.outside, 0),
  };
  const stopsOf = new Map<string, LogStop[]>();
  for (const stop of logbook.stops) stopsOf.set(stop.trip_id, [...(stopsOf.get(stop.trip_id) ?? []), stop]);
  rows.forEach(({ look, trip, cell }, i) => {
    table.trip[i] = trip;
    table.kind[i] = KINDS.indexOf(look.kind);
    table.cell[i] = cell;
    [table.x[i], table.y[i]] = [(look.column + 0.5) * CELL, (look.row + 0.5) * CELL];
    const square = Math.floor(table.y[i] / PLACE) * 65536 + Math.floor(table.x[i] / PLACE);
    if (!squares.has(square)) squares.set(square, squares.size);
    table.place[i] = squares.get(square)!;
    [table.from[i], table.to[i]] = [look.from, look.to];
    table.effort[i] = look.kind === 'scan' ? look.effort / 10_000 : look.effort;
    table.view[i] = look.view ? (VIEWS as readonly string[]).indexOf(look.view) : -1;
    table.reach[i] = look.reach ?? NaN;
    table.moment[i] = moments.at(look.from);
    if (look.kind === 'fish')
      for (const stop of stopsOf.get(trips[trip].id) ?? [])
        if (stop.boats_near != null && Date.parse(stop.start) <= look.to && Date.parse(stop.end) >= look.from)
          table.boats[i] = stop.boats_near;
    table.first[i] = table.targets.length;
    for (const t of look.targets) {
      const key = `${trips[trip].id} ${t.target}`;
      if (!numbers.has(key)) numbers.set(key, numbers.size);
      table.targets.push({ ...t, look: i, number: numbers.get(key)!, contact: contactOf.get(key) ?? null });
    }
    if (onProgress && i % 20_000 === 0) onProgress((0.8 * i) / n);
  });
  table.first[n] = table.targets.length;
  table.places = squares.size;
  table.distinct = numbers.size;
  table.clusters = makeClusters(table.trip, trips.length, table.place, table.places);
  baitBefore(table);
  lastFished(table);
  onProgress?.(1);
  return table;
}

/** Trips and places of some looks, as clusters of looks that are alike. */
export function clustersOf({ clusters }: LookTable, rows: ArrayLike<number>): Clusters {
  const [trip, place, pair] = [new Int32Array(rows.length), new Int32Array(rows.length), new Int32Array(rows.length)];
  for (let k = 0; k < rows.length; k++) {
    trip[k] = clusters.trip[rows[k]];
    place[k] = clusters.place[rows[k]];
    pair[k] = clusters.pair[rows[k]];
  }
  return { ...clusters, trip, place, pair };
}
