import { SaxesParser } from 'saxes';
import { readTime, type CoverFeature, type Row } from '../logbook';
import { FormatError } from './csv';
import { addFinding, type FileReport, type PlacedRow } from './record-reader';

/** Spellings of depth and temperature in the extensions of the field, lower case, without their prefix. */
const DEPTH = ['depth', 'depth_m', 'waterdepth', 'water_depth', 'sonardepth'];
const TEMPERATURE = ['wtemp', 'watertemp', 'water_temp', 'watertemperature', 'temp', 'temperature', 'temperature_c'];

/** A waypoint as the file has it. */
export interface Waypoint {
  line: number;
  latitude: number;
  longitude: number;
  name: string | null;
  words: string;
  depth: number | null;
  time: string | null;
}

/** Tags of a GPX lie in no more others than this, extensions of extensions included. */
const DEEPEST = 60;

interface Open {
  line: number;
  kind: 'trkpt' | 'wpt' | 'rtept';
  latitude: number;
  longitude: number;
  values: Map<string, string>;
}

const number = (text: string | undefined): number | null => {
  if (text === undefined || text.trim() === '') return null;
  const n = Number(text.trim().replace(/\s*m$/i, ''));
  return Number.isFinite(n) ? n : null;
};

const first = (values: Map<string, string>, names: string[]): number | null => {
  for (const name of names) {
    const n = number(values.get(name));
    if (n !== null) return n;
  }
  return null;
};

/** A depth said in words, as some plotters write it: "Depth: 4.2 m". */
function depthInWords(text: string | undefined): number | null {
  const m = /depth\s*[:=]?\s*(\d+(?:[.,]\d+)?)\s*(m|ft)?\b/i.exec(text ?? '');
  return m ? Number(m[1].replace(',', '.')) * (m[2]?.toLowerCase() === 'ft' ? 0.3048 : 1) : null;
}

/**
 * Reads a GPX 1.1 file as the bytes come: track points with a depth as soundings, waypoints as places.
 * @param report is filled as the file is read; points without depth or time are listed
 * @throws FormatError when it is no XML, or no GPX
 */
export async function* readGpx(
  bytes: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
  report: FileReport,
  waypoints: Waypoint[],
): AsyncGenerator<PlacedRow[]> {
  const parser = new SaxesParser({ position: true });
  const decoder = new TextDecoder('utf-8');
  let rows: PlacedRow[] = [];
  let open: Open | null = null;
  let text = '';
  let root = '';
  let failed: string | null = null;
  let withoutDepth = 0;
  let depth = 0;
  parser.on('error', (error) => {
    failed ??= error.message.replace(/^[^:]*:\d+:\d+: /, '');
  });
  parser.on('opentag', ({ name, attributes }) => {
    const local = localName(name);
    if (++depth > DEEPEST) failed ??= 'its tags lie in each other without end';
    root ||= local;
    text = '';
    if (local === 'trkpt' || local === 'wpt' || local === 'rtept') {
      report.read++;
      open = {
        line: parser.line,
        kind: local,
        latitude: Number(attributes.lat ?? NaN),
        longitude: Number(attributes.lon ?? NaN),
        values: new Map(),
      };
    }
  });
  parser.on('text', (t) => {
    if (text.length < 10_000) text += t;
  });
  parser.on('cdata', (t) => {
    if (text.length < 10_000) text += t;
  });
  parser.on('closetag', ({ name }) => {
    depth--;
    const local = localName(name);
    if (!open) return;
    if (local !== open.kind) {
      if (text.trim() !== '' && !open.values.has(local)) open.values.set(local, text.trim());
      text = '';
      return;
    }
    const point = open;
    open = null;
    if (!(Math.abs(point.latitude) <= 90) || !(Math.abs(point.longitude) <= 180)) {
      addFinding(report.bad, {
        line: point.line,
        column: 'lat',
        reason: `has no possible position (latitude ${point.latitude}, longitude ${point.longitude})`,
      });
      return;
    }
    if (point.kind === 'wpt') {
      report.used++;
      waypoints.push(waypointOf(point));
    } else if (point.kind === 'trkpt') {
      const row = soundingOf(point, report);
      if (row === 'no depth') withoutDepth++;
      else if (row) {
        report.used++;
        rows.push({ line: point.line, row });
      }
    } else report.used++;
  });
  let since = 0;
  for await (const chunk of bytes) {
    const piece = decoder.decode(chunk, { stream: true });
    since = /[<>]/.test(piece) ? 0 : since + piece.length;
    if (since > 1_000_000) throw new FormatError(`${report.file}: more than a million characters without a tag: this is no GPX`);
    parser.write(piece);
    if (failed !== null) throw new FormatError(`${report.file}: line ${parser.line}: is not XML that can be read: ${String(failed)}`);
    if (root && root !== 'gpx') throw new FormatError(`${report.file}: is XML, but <${root}> and not <gpx>`);
    if (rows.length) yield rows;
    rows = [];
  }
  parser.write(decoder.decode());
  parser.close();
  if (failed !== null) throw new FormatError(`${report.file}: line ${parser.line}: is not XML that can be read: ${String(failed)}`);
  if (!root) throw new FormatError(`${report.file}: is empty`);
  if (rows.length) yield rows;
  if (withoutDepth) {
    report.bad.count += withoutDepth;
    if (report.bad.first.length < 100)
      report.bad.first.push({ line: 0, column: 'depth', reason: `${withoutDepth} track points have no depth: they are no soundings` });
  }
}

const localName = (name: string): string => name.slice(name.indexOf(':') + 1).toLowerCase();

function soundingOf(point: Open, report: FileReport): Row | 'no depth' | null {
  const depth = first(point.values, DEPTH) ?? depthInWords(point.values.get('desc') ?? point.values.get('cmt'));
  if (depth === null) return 'no depth';
  if (!(depth >= 0 && depth <= 12_000)) {
    addFinding(report.bad, { line: point.line, column: 'depth', reason: `${depth} is impossible: it must be from 0 to 12000` });
    return null;
  }
  const time = readTime(point.values.get('time') ?? '');
  if (time.startsWith('!')) {
    addFinding(report.bad, { line: point.line, column: 'time', reason: point.values.has('time') ? time.slice(1) : 'is missing' });
    return null;
  }
  const temperature = first(point.values, TEMPERATURE);
  return {
    time,
    latitude: point.latitude,
    longitude: point.longitude,
    depth_m: depth,
    temperature_c: temperature !== null && temperature >= -2 && temperature <= 45 ? temperature : null,
    hardness: null,
    heading_deg: inRange(number(point.values.get('course')), 0, 360),
    speed_ms: inRange(number(point.values.get('speed')), 0, 100),
  };
}

const inRange = (v: number | null, min: number, max: number): number | null => (v !== null && v >= min && v <= max ? v : null);

function waypointOf({ line, latitude, longitude, values }: Open): Waypoint {
  const time = readTime(values.get('time') ?? '');
  return {
    line,
    latitude,
    longitude,
    name: values.get('name')?.slice(0, 200) ?? null,
    words: ['name', 'sym', 'type', 'desc', 'cmt'].map((k) => values.get(k) ?? '').join(' '),
    depth: first(values, DEPTH) ?? depthInWords(values.get('desc') ?? values.get('cmt')),
    time: time.startsWith('!') ? null : time,
  };
}

/** What a waypoint's words say it is, by the field's own words; the first that fits. */
const WORDS: [RegExp, string, string | null][] = [
  [/\b(hazard|danger|stump|shoal|obstruction)/i, 'hazard', null],
  [/\b(ramp|launch|slip|access|harbou?r|landing)/i, 'access', null],
  [/\bbrush/i, 'cover', 'brush'],
  [/\b(timbers?|trees?|wood|logs?)\b/i, 'cover', 'timber'],
  [/\b(dock|pier|jetty)/i, 'cover', 'dock'],
  [/\bwreck/i, 'cover', 'wreck'],
  [/\breef/i, 'cover', 'reef'],
  [/\b(rock|boulder|stone)/i, 'cover', 'rock'],
  [/\b(weeds?|weed ?(bed|line|edge)s?|grass(es)?|reeds?|pads?)\b/i, 'weed', 'weed'],
  [/\bhard\b/i, 'hard', null],
];

/** A waypoint as cover, hazard or access where its words say so, else as a mark: kept and shown, in no analysis. */
export function coverOfWaypoint({ latitude, longitude, name, words }: Waypoint): CoverFeature {
  const known = WORDS.find(([pattern]) => pattern.test(words));
  return {
    kind: known?.[1] ?? 'mark',
    cover: known?.[2] ?? null,
    name,
    geometry: { type: 'Point', coordinates: [longitude, latitude] },
  };
}

const escaped = (text: string): string =>
  text.replace(/[<>&"]/g, (c) => ({ '<': '&lt;', '>': '&gt;', '&': '&amp;', '"': '&quot;' })[c]!).replace(/[^\P{Cc}\t\n\r]/gu, '');

/** A place to be written as a waypoint. */
export interface GpxPlace {
  latitude: number;
  longitude: number;
  name: string;
  type: string;
  depth: number | null;
  time?: string | null;
  words?: string;
}

/** A route to be written: its points in order. */
export interface GpxRoute {
  name: string;
  words?: string;
  points: { latitude: number; longitude: number; name?: string }[];
}

/** Waypoints and routes as GPX 1.1; the depth stands in the extensions and, for plotters that show nothing else, in the description. */
export function gpxOf(title: string, places: GpxPlace[], routes: GpxRoute[] = []): string {
  const points = places.map(({ latitude, longitude, name, type, depth, time, words }) => {
    const description = [depth === null ? '' : `Depth: ${depth.toFixed(1)} m`, words ?? ''].filter(Boolean).join('. ');
    return (
      `  <wpt lat="${latitude.toFixed(7)}" lon="${longitude.toFixed(7)}">\n` +
      (time ? `    <time>${time}</time>\n` : '') +
      `    <name>${escaped(name)}</name>\n` +
      (description ? `    <desc>${escaped(description)}</desc>\n` : '') +
      `    <type>${escaped(type)}</type>\n` +
      (depth === null ? '' : `    <extensions><depth>${depth.toFixed(2)}</depth></extensions>\n`) +
      '  </wpt>\n'
    );
  });
  const ways = routes.map(
    ({ name, words, points: along }) =>
      `  <rte>\n    <name>${escaped(name)}</name>\n${words ? `    <desc>${escaped(words)}</desc>\n` : ''}` +
      along
        .map(
          (p) =>
            `    <rtept lat="${p.latitude.toFixed(7)}" lon="${p.longitude.toFixed(7)}">${p.name ? `<name>${escaped(p.name)}</name>` : ''}</rtept>\n`,
        )
        .join('') +
      '  </rte>\n',
  );
  return `<?xml version="1.0" encoding="UTF-8"?>\n<gpx version="1.1" creator="Restless Shoal" xmlns="http://www.topografix.com/GPX/1/1">\n  <metadata><name>${escaped(title)}</name><desc>Not for navigation</desc></metadata>\n${points.join('')}${ways.join('')}</gpx>\n`;
}
