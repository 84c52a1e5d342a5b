import { expect } from 'chai';
import fc from 'fast-check';
import {
  csvLine,
  emptyReport,
  FormatError,
  gpxOf,
  nmeaSentence,
  readCover,
  readGpx,
  readNmea,
  readOutline,
  readRecord,
  readWaterFile,
  type FileReport,
  type Waypoint,
} from '../../src/formats';
import { OutlineError, outlineToRings } from '../../src/geo';
import { RECORD_ORDER, records, type Fields, type RecordName, type Row } from '../../src/logbook';
import { anyRow, anyRows } from '../support/made-up-rows';

const bytes = (text: string): Uint8Array[] => [new TextEncoder().encode(text)];

async function read(record: RecordName, text: string): Promise<{ rows: Row[]; lines: number[]; report: FileReport }> {
  const report = emptyReport(`${record}.csv`, record);
  const [rows, lines]: [Row[], number[]] = [[], []];
  for await (const batch of readRecord(record, bytes(text), report))
    for (const { row, line } of batch) {
      rows.push(row);
      lines.push(line);
    }
  return { rows, lines, report };
}

const anyRecord = fc.constantFrom(...RECORD_ORDER);

/** How a table may be written: its columns shuffled, in capitals, with a mark, other separators and line ends. */
interface Manner {
  separator: ',' | ';' | '\t';
  crlf: boolean;
  mark: boolean;
  capitals: boolean;
  extra: boolean;
}
const manner: fc.Arbitrary<Manner> = fc.record({
  separator: fc.constantFrom(',' as const, ';' as const, '\t' as const),
  crlf: fc.boolean(),
  mark: fc.boolean(),
  capitals: fc.boolean(),
  extra: fc.boolean(),
});

function written(rows: Row[], columns: string[], { separator, crlf, mark, capitals, extra }: Manner): string {
  const quoted = (v: unknown): string => (v == null ? '' : typeof v === 'string' ? `"${v.replaceAll('"', '""')}"` : String(v));
  const head = columns.map((c) => (capitals ? ` ${c.toUpperCase()} ` : c)).concat(extra ? ['my own column'] : []);
  const lines = [
    head.join(separator),
    ...rows.map((r) =>
      columns
        .map((c) => quoted(r[c]))
        .concat(extra ? ['x'] : [])
        .join(separator),
    ),
  ];
  return (mark ? '\ufeff' : '') + lines.map((l) => l + (crlf ? '\r\n' : '\n')).join('');
}

describe('a file of any record', () => {
  it('comes back as it was, however the table is written', () =>
    fc.assert(
      fc.asyncProperty(
        anyRecord.chain((record) =>
          fc.record({
            record: fc.constant(record),
            rows: anyRows(record, 6),
            columns: fc.shuffledSubarray(Object.keys(records[record]), { minLength: Object.keys(records[record]).length }),
            manner,
          }),
        ),
        async ({ record, rows, columns, manner }) => {
          const { rows: back, report } = await read(record, written(rows, columns, manner));
          expect(report.bad.first).to.deep.equal([]);
          expect(back).to.deep.equal(rows);
          expect(report.unknownColumns).to.deep.equal(manner.extra ? ['my own column'] : []);
        },
      ),
      { numRuns: 150 },
    ));
  it('comes back as it was from our own writer', () =>
    fc.assert(
      fc.asyncProperty(
        anyRecord.chain((record) => fc.tuple(fc.constant(record), anyRows(record, 6))),
        async ([record, rows]) => {
          const columns = Object.keys(records[record]);
          const text = csvLine(columns) + rows.map((r) => csvLine(columns.map((c) => r[c]))).join('');
          expect((await read(record, text)).rows).to.deep.equal(rows);
        },
      ),
      { numRuns: 100 },
    ));
  it('loses the row with a bad field and no other, and names the line and the column', () =>
    fc.assert(
      fc.asyncProperty(
        anyRecord.chain((record) =>
          fc.record({
            record: fc.constant(record),
            rows: fc.array(anyRow(record), { minLength: 2, maxLength: 6 }),
            which: fc.nat(5),
            // A text takes nearly anything: it is made bad by a zero byte.
            column: fc.constantFrom(...Object.keys(records[record])),
          }),
        ),
        async ({ record, rows, which, column }) => {
          const at = which % rows.length;
          const field = (records[record] as Fields)[column];
          const wrong = field.type === 'text' ? 'a\u0000b' : field.type === 'number' ? '1e999' : 'neither';
          const broken = rows.map((r, k) => (k === at ? { ...r, [column]: wrong } : r));
          const plain = broken.map((r) =>
            Object.fromEntries(Object.entries(r).map(([c, v]) => [c, typeof v === 'string' ? v.replace(/\n/g, ' ') : v])),
          );
          const columns = Object.keys(records[record]);
          const { lines, report } = await read(record, csvLine(columns) + plain.map((r) => csvLine(columns.map((c) => r[c]))).join(''));
          expect(report.bad.count).to.equal(1);
          expect(report.bad.first[0]).to.include({ line: at + 2, column });
          expect(report).to.include({ read: rows.length, used: rows.length - 1 });
          expect(lines).to.deep.equal(rows.map((_, k) => k + 2).filter((line) => line !== at + 2));
        },
      ),
      { numRuns: 120 },
    ));
  it('refuses a table that lacks a needed column, and names it', async () => {
    for (const record of RECORD_ORDER) {
      const fields = records[record] as Fields;
      const needed = Object.keys(fields).filter((c) => fields[c].needed);
      for (const gone of needed) {
        const columns = Object.keys(fields).filter((c) => c !== gone);
        const refused = await read(record, csvLine(columns)).then(
          () => 'taken',
          (error: Error) => (error instanceof FormatError ? error.message : `not refused but broken: ${error.message}`),
        );
        expect(refused, `${record} without ${gone}`).to.include('missing').and.include(gone).and.include(`${record}.csv`);
      }
    }
  });
});

/** What looks like a file and is none: bits of the real thing in any order, and plain rubbish. */
const rubbish = (bits: string[]): fc.Arbitrary<string> =>
  fc
    .array(fc.oneof(fc.constantFrom(...bits), fc.string({ unit: 'binary', maxLength: 12 })), { maxLength: 30 })
    .map((parts) => parts.join(''));

/** Either it is read, and every row or point is accounted for, or it is refused as a file: it never breaks us. */
async function readOrRefused(work: () => Promise<FileReport> | FileReport): Promise<void> {
  try {
    const report = await work();
    expect(report.used + report.bad.count, 'used and left out').to.equal(report.read);
  } catch (error) {
    if (!(error instanceof FormatError || error instanceof OutlineError)) throw error;
    expect(error.message).to.include('x.');
  }
}

const JSON_VALUE = fc.jsonValue({ maxDepth: 3 });
const POSITION = fc.oneof(
  fc.array(fc.oneof(fc.double(), fc.constant('1'), fc.constant(null)), { maxLength: 3 }),
  fc.constantFrom([8, 47], [8.01, 47], [8.01, 47.01]),
);
const GEOMETRY = fc.oneof(
  fc.record({
    type: fc.constantFrom('Point', 'LineString', 'Polygon', 'MultiPolygon', 'MultiLineString', 'GeometryCollection', 'Curve'),
    coordinates: fc.oneof(
      POSITION,
      fc.array(POSITION, { maxLength: 4 }),
      fc.array(fc.array(POSITION, { maxLength: 5 }), { maxLength: 2 }),
      JSON_VALUE,
    ),
    geometries: fc.oneof(fc.constant([]), fc.constant([null]), JSON_VALUE),
  }),
  JSON_VALUE,
);
const GEOJSON = fc.oneof(
  fc.record({
    type: fc.constant('FeatureCollection'),
    features: fc.array(
      fc.oneof(
        fc.record({
          type: fc.constant('Feature'),
          properties: fc.oneof(
            JSON_VALUE,
            fc.record({ kind: fc.constantFrom('cover', 'weed', 'hazard'), cover: JSON_VALUE, name: JSON_VALUE }),
          ),
          geometry: GEOMETRY,
        }),
        JSON_VALUE,
      ),
      { maxLength: 4 },
    ),
  }),
  GEOMETRY,
  JSON_VALUE,
);

describe('a file that is none', () => {
  it('of rows is read with all accounted for, or refused as a file', () =>
    fc.assert(
      fc.asyncProperty(
        anyRecord,
        rubbish(['trip,time,latitude', 'start', ',', ';', '\n', '"', '\r\n', '2026-06-14T08:00:00Z', '48.1', 'scan', '\ufeff']),
        (record, text) =>
          readOrRefused(async () => {
            const report = emptyReport('x.csv', record);
            for await (const _ of readRecord(record, bytes(text), report));
            return report;
          }),
      ),
      { numRuns: 400 },
    ));
  it('of bytes in no known code is read with all accounted for, or refused as a file', () =>
    fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 400 }), (some) =>
        readOrRefused(async () => {
          const report = emptyReport('x.csv', 'soundings');
          for await (const _ of readRecord('soundings', [new TextEncoder().encode('time,latitude,longitude,depth_m\n'), some], report));
          return report;
        }),
      ),
      { numRuns: 200 },
    ));
  it('of sentences is read with all accounted for, or refused as a file', () =>
    fc.assert(
      fc.asyncProperty(
        rubbish([
          nmeaSentence('GPRMC,061001.00,A,4811.5000,N,03436.1000,W,4.2,91.0,020526,,,A'),
          nmeaSentence('SDDPT,4.2,0.4,'),
          '\r\n',
          '\n',
          '$',
          '*00',
          '!',
          'GPGGA,,,,,',
        ]),
        (text) =>
          readOrRefused(async () => {
            const report = emptyReport('x.nmea', 'soundings');
            for await (const _ of readNmea(bytes(text), report));
            return report;
          }),
      ),
      { numRuns: 300 },
    ));
  it('of tracks is read with all accounted for, or refused as a file', () => {
    const whole = gpxOf('x', [{ latitude: 48, longitude: -34, name: 'Brush 1', type: 'cover', depth: 4 }]);
    return fc.assert(
      fc.asyncProperty(
        fc.oneof(
          rubbish([
            '<gpx>',
            '</gpx>',
            '<trk><trkseg>',
            '<trkpt lat="48" lon="-34">',
            '</trkpt>',
            '<wpt lat="x">',
            '</wpt>',
            '<desc>Depth: 4 m</desc>',
            '&amp;',
            '<!--',
            '-->',
          ]),
          fc.nat(whole.length).map((n) => whole.slice(0, n)),
        ),
        (text) =>
          readOrRefused(async () => {
            const report = emptyReport('x.gpx', 'soundings');
            const waypoints: Waypoint[] = [];
            for await (const _ of readGpx(bytes(text), report, waypoints));
            return report;
          }),
      ),
      { numRuns: 300 },
    );
  });
  it('of shapes is read with all accounted for, or refused as a file', () =>
    fc.assert(
      fc.asyncProperty(GEOJSON, async (json) => {
        const text = JSON.stringify(json);
        await readOrRefused(() => {
          const report = emptyReport('x.geojson', 'cover');
          readCover(text, 'x.geojson', report);
          return report;
        });
        // What an outline is taken from must be one, or be refused by name.
        try {
          const rings = outlineToRings(readOutline(text, 'x.geojson'), (x, y) => [x, y]);
          expect(rings.length).to.be.at.least(1);
        } catch (error) {
          if (!(error instanceof FormatError || error instanceof OutlineError)) throw error;
        }
      }),
      { numRuns: 2000 },
    ));
  it('of what a water is, is read or refused by field', () =>
    fc.assert(
      fc.asyncProperty(
        fc.oneof(
          JSON_VALUE,
          fc.record(
            Object.fromEntries(
              ['name', 'kind', 'altitude_m', 'time_zone', 'rules', 'forage', 'rigs', 'cleaning'].map((k) => [k, JSON_VALUE]),
            ),
            {
              requiredKeys: [],
            },
          ),
        ),
        (json) =>
          readOrRefused(() => {
            readWaterFile(JSON.stringify(json), 'x.json');
            return emptyReport('x.json', 'water');
          }),
      ),
      { numRuns: 500 },
    ));
});
