import {
  coverOfWaypoint,
  emptyReport,
  FormatError,
  readGpx,
  readRecord,
  type FileReport,
  type PlacedRow,
  type Waypoint,
} from '@restless-shoal/core/formats';
import type { CoverFeature } from '@restless-shoal/core/logbook';
import type { Source } from './sources';

// Marks that others sent are kept as marks with who they are from and how far off they may lie: shown on the Chart, and never
// taken for looks of one's own.

/** Says in a folder for others that it is one. */
export const OTHERS_FILE = 'others.json';
export const OTHERS_FORMAT = 'restless-shoal for others 1';

/** Whose marks are brought in, and how far off they may lie, m; null where nobody says. */
export interface Sender {
  name: string;
  within_m: number | null;
}

/** How far off a mark may lie, m, where a file says a number that can be meant. */
export const withinOf = (value: unknown): number | null => (typeof value === 'number' && value >= 0 && value <= 100_000 ? value : null);

/** What others are called who did not say who they are. */
const NAMELESS = 'others';

/** What is no mark is left with whoever sent it. */
export const NOT_TAKEN = "of somebody else's log: only marks and areas are taken from it";

/** Who sent a folder that says it is for others. @throws FormatError when it says it wrongly */
export function senderOf(text: string, file: string): Sender {
  let value: { format?: unknown; within_m?: unknown } | null;
  try {
    value = JSON.parse(text) as typeof value;
  } catch (error) {
    throw new FormatError(`${file}: is not JSON: ${(error as Error).message}`);
  }
  if (value?.format !== OTHERS_FORMAT) throw new FormatError(`${file}: format must be "${OTHERS_FORMAT}"`);
  return { name: NAMELESS, within_m: withinOf(value.within_m) };
}

/** Cover as somebody else's: areas keep what they are, all else is a mark. One that says itself whose it is, or how far off, is believed. */
export const sentCover = (features: CoverFeature[], from: Sender): CoverFeature[] =>
  features.map((f) => ({
    ...f,
    kind: f.kind === 'area' ? 'area' : 'mark',
    cover: null,
    name: f.name ?? f.cover ?? f.kind,
    source: f.source ?? from.name,
    within_m: f.within_m ?? from.within_m,
  }));

/** Places of a map file: those that say how far off they may lie are somebody else's. */
export const sentPlaces = (places: CoverFeature[], from: Sender | undefined): CoverFeature[] =>
  places.map((p) => (from || p.within_m != null ? sentCover([p], from ?? { name: NAMELESS, within_m: null })[0] : p));

/** Marks of a log for others, one a place: many marks are blurred to the same one. */
function marksSent(rows: PlacedRow[], from: Sender): CoverFeature[] {
  const places = new Map<string, PlacedRow[]>();
  for (const placed of rows) {
    const key = `${placed.row.longitude} ${placed.row.latitude}`;
    const there = places.get(key);
    if (there) there.push(placed);
    else places.set(key, [placed]);
  }
  return [...places.values()].map((there) => {
    const counts = new Map<string, number>();
    const depths: number[] = [];
    let last = '';
    for (const { row } of there) {
      const what = String(row.species ?? row.kind);
      counts.set(what, (counts.get(what) ?? 0) + 1);
      for (const d of [row.top_m, row.bottom_m]) if (d != null) depths.push(Number(d));
      if (String(row.time) > last) last = String(row.time);
    }
    const words = [...counts].sort((a, b) => b[1] - a[1]).map(([what, n]) => (n === 1 ? what : `${what} × ${n}`));
    if (depths.length) {
      const [top, bottom] = [Math.min(...depths), Math.max(...depths)].map((d) => d.toFixed(1));
      words.push(top === bottom ? `${top} m` : `${top}–${bottom} m`);
    }
    const { longitude, latitude } = there[0].row;
    return {
      kind: 'mark',
      cover: null,
      name: words.join(', ').slice(0, 200),
      placed_on: /^\d{4}-\d\d-\d\d/.exec(last)?.[0] ?? null,
      source: from.name,
      within_m: from.within_m,
      geometry: { type: 'Point', coordinates: [Number(longitude), Number(latitude)] },
    };
  });
}

/** What was sent, and what was read of it. */
interface Sent {
  marks: CoverFeature[];
  report: FileReport;
}

/** Contacts of somebody else's log as marks. */
export async function contactsSent(source: Source, from: Sender): Promise<Sent> {
  const report = emptyReport(source.name, 'cover');
  const rows: PlacedRow[] = [];
  for await (const batch of readRecord('contacts', source.bytes(), report)) rows.push(...batch);
  return { marks: marksSent(rows, from), report };
}

/** Waypoints of somebody else's plotter as marks; his tracks stay his. */
export async function waypointsSent(source: Source, from: Sender): Promise<Sent> {
  const waypoints: Waypoint[] = [];
  for await (const _track of readGpx(source.bytes(), emptyReport(source.name, 'soundings'), waypoints));
  const report = { ...emptyReport(source.name, 'cover'), read: waypoints.length, used: waypoints.length };
  return { marks: sentCover(waypoints.map(coverOfWaypoint), from), report };
}
