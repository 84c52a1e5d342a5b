import { expect } from 'chai';
import fc from 'fast-check';
import {
  csvLine,
  csvRows,
  emptyReport,
  FormatError,
  guarded,
  packParts,
  readCover,
  readOutline,
  readRecord,
  readWaterFile,
  unpackParts,
  type FileReport,
  type PlacedRow,
} from '../../src/formats';
import type { RecordName } from '../../src/logbook';

const bytes = (text: string, size = 7): Uint8Array[] => {
  const all = new TextEncoder().encode(text);
  return Array.from({ length: Math.ceil(all.length / size) }, (_, i) => all.subarray(i * size, (i + 1) * size));
};
async function rowsOf(text: string): Promise<string[][]> {
  const out: string[][] = [];
  for await (const batch of csvRows(bytes(text))) out.push(...batch.map((r) => r.fields));
  return out;
}
async function read(record: RecordName, text: string): Promise<{ rows: PlacedRow[]; report: FileReport }> {
  const report = emptyReport('test.csv', record);
  const rows: PlacedRow[] = [];
  for await (const batch of readRecord(record, bytes(text), report)) rows.push(...batch);
  return { rows, report };
}
async function refusal(text: string): Promise<string> {
  try {
    await read('soundings', text);
    return 'none';
  } catch (error) {
    expect(error).to.be.instanceOf(FormatError);
    return (error as Error).message;
  }
}

describe('CSV', () => {
  it('gives back what was written, whatever the pieces it comes in', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.array(
            fc.string().filter((s) => s.trim() !== ''),
            { minLength: 2, maxLength: 4 },
          ),
          { minLength: 1, maxLength: 5 },
        ),
        async (table) => {
          const header = Array.from({ length: 4 }, (_, i) => `c${i}`);
          const read = await rowsOf([header, ...table].map((r) => csvLine(r)).join(''));
          expect(read.slice(1)).to.deep.equal(table.map((row) => row.map(guarded)));
        },
      ),
    ));
  it('knows a byte-order mark, CRLF, semicolons and quoted line breaks, and keeps the true line', async () => {
    const { rows, report } = await read(
      'trips',
      '\ufeffTrip ;START;end;notes;fuel\r\nA;2026-06-14T05:00:00Z;2026-06-14T11:00:00Z;"wind\r\nand ""rain""";3\r\n\r\nB;2026-06-15T05:00:00Z;x;;\r\n',
    );
    expect(rows[0].row).to.include({ trip: 'A', notes: 'wind\r\nand "rain"', purpose: null });
    expect(report.unknownColumns).to.deep.equal(['fuel']);
    expect(report.bad.first).to.deep.equal([{ line: 5, column: 'end', reason: '"x" is not an ISO 8601 time, as in 2026-06-14T08:47:00Z' }]);
  });
  it('knows lines that end with a bare CR', async () => {
    const { rows, report } = await read('trips', 'trip,start,end\rA,2026-06-14T05:00:00Z,2026-06-14T11:00:00Z\rB,x,y\r');
    expect(rows.map((r) => r.row.trip)).to.deep.equal(['A']);
    expect(report).to.deep.include({ read: 2, used: 1 });
    expect(report.bad.first[0].line).to.equal(3);
  });
  it('reads what is not UTF-8 as Windows-1252 and says from which line on; a letter cut in two is no reason', async () => {
    const latin = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));
    const head = 'trip,start,end,notes\n';
    const row = (trip: string, notes: string): string => `${trip},2026-06-14T05:00:00Z,2026-06-14T11:00:00Z,${notes}\n`;
    for (const size of [1, 2, 5, 1000]) {
      const report = emptyReport('trips.csv', 'trips');
      const all = [...new TextEncoder().encode(head + row('A', 'Grüße 鱸')), ...latin(row('B', 'Grüße'))];
      const pieces = Array.from({ length: Math.ceil(all.length / size) }, (_, k) => Uint8Array.from(all.slice(k * size, (k + 1) * size)));
      const rows: PlacedRow[] = [];
      for await (const batch of readRecord('trips', pieces, report)) rows.push(...batch);
      expect(rows.at(-1)!.row.notes, `pieces of ${size}`).to.equal('Grüße');
      if (size < 1000) expect(rows[0].row.notes).to.equal('Grüße 鱸');
      expect(report.odd.first[0].reason).to.include('read as Windows-1252');
      const whole = emptyReport('trips.csv', 'trips');
      for await (const batch of readRecord('trips', bytes(head + row('A', 'Grüße 鱸'), size), whole))
        expect(batch[0].row.notes).to.equal('Grüße 鱸');
      expect(whole.odd.count).to.equal(0);
    }
  });
  it('keeps a spreadsheet from working out a text, and takes it as it was', async () => {
    const texts = ['=1+1', '+44 rods', '-fast', '@home', "'quoted", '=HYPERLINK("x")'];
    for (const notes of texts) {
      const line = csvLine(['A', '2026-06-14T05:00:00Z', '2026-06-14T11:00:00Z', notes]);
      expect(line).to.contain(`'${notes[0]}`);
      const { rows } = await read('trips', `trip,start,end,notes\n${line}`);
      expect(rows[0].row.notes).to.equal(notes);
    }
    expect(csvLine([-34.5, '-34.5', '+1e3', null])).to.equal('-34.5,-34.5,+1e3,\n');
  });
  it('counts the fixes of a view that must have a range and say none', async () => {
    const { rows, report } = await read(
      'track',
      'trip,time,latitude,longitude,mode,view,port_range_m\n' +
        ['scan,side-scan,', 'scan,side-scan,20', 'transit,side-scan,', 'scan,sounder,', 'sweep,,', 'scan,forward-facing,']
          .map((end, k) => `T,2026-06-14T05:00:0${k}Z,47.3,-33.9,${end}\n`)
          .join(''),
    );
    expect(rows).to.have.length(6);
    expect(report.rangeUnsaid).to.equal(3);
  });
  it('leaves out bad rows, says why, and keeps the rest', async () => {
    const { rows, report } = await read(
      'soundings',
      'time,latitude,longitude,depth_m\n2026-06-14T05:00:00Z,47.3,-33.9,5.2\n2026-06-14T05:00:01Z,95,-33.9,5\n2026-06-14T05:00:02Z,47.3,-33.9,-3\n,47.3,-33.9,4\n',
    );
    expect([rows.length, report.read, report.used, report.bad.count]).to.deep.equal([1, 4, 1, 3]);
    expect(report.bad.first.map((f) => [f.line, f.column])).to.deep.equal([
      [3, 'latitude'],
      [4, 'depth_m'],
      [5, 'time'],
    ]);
  });
  it('keeps an odd row and lists it', async () => {
    const { rows, report } = await read(
      'contacts',
      'trip,time,latitude,longitude,kind,top_m,water_depth_m\nA,2026-06-14T05:00:00Z,47.3,-33.9,fish,9,6\n',
    );
    expect([rows.length, report.odd.first[0].column]).to.deep.equal([1, 'top_m']);
  });
  it('refuses a header that it does not know', async () => {
    expect(await refusal('a,b\n1,2\n')).to.include('no column of soundings.csv is known');
    expect(await refusal('time,latitude,longitude\n')).to.include('needed column depth_m is missing');
    expect(await refusal('')).to.include('is empty');
    expect(await refusal('time,latitude,longitude,depth_m\n"2026,47,-33,5\n')).to.include('never closed');
  });
});

describe('GeoJSON and water.json', () => {
  it('reads an outline from lines that close and from a collection', () => {
    const text = JSON.stringify({
      type: 'FeatureCollection',
      features: [
        [
          [0, 0],
          [1, 0],
        ],
        [
          [1, 0],
          [0, 0],
        ],
      ].map((coordinates) => ({ type: 'Feature', properties: {}, geometry: { type: 'LineString', coordinates } })),
    });
    expect(readOutline(text, 'o').type).to.equal('MultiLineString');
    // What holds no position is passed over, as some programs write it for a feature that was emptied.
    const empty = { type: 'Feature', properties: {}, geometry: { type: 'Polygon', coordinates: [] } };
    const withEmpty = JSON.parse(text) as { features: unknown[] };
    withEmpty.features.push(empty);
    expect(readOutline(JSON.stringify(withEmpty), 'o').type).to.equal('MultiLineString');
    expect(() => readOutline(JSON.stringify({ type: 'FeatureCollection', features: [empty] }), 'o')).to.throw(
      FormatError,
      'holds no Polygon',
    );
    expect(() => readOutline('{"type":"Point","coordinates":[0,0]}', 'o.geojson')).to.throw(FormatError, 'holds no Polygon');
    expect(() => readOutline('{', 'o.geojson')).to.throw('o.geojson: is not JSON');
  });
  it('lists cover of an unknown kind', () => {
    const report = emptyReport('cover.geojson', 'cover');
    const features = [
      ['cover', [1, 2]],
      ['castle', [1, 2]],
      ['weed', [1, 200]],
    ].map(([kind, coordinates]) => ({ type: 'Feature', properties: { kind }, geometry: { type: 'Point', coordinates } }));
    expect(readCover(JSON.stringify({ type: 'FeatureCollection', features }), 'cover.geojson', report)).to.have.length(1);
    expect(report.bad.first.map((f) => f.column)).to.deep.equal(['kind', 'geometry']);
  });
  it('names the field of water.json that is wrong', () => {
    expect(readWaterFile('{"name":"A","altitude_m":300,"shoe":1}', 'water.json')).to.deep.equal({
      water: { name: 'A', altitude_m: 300 },
      unknown: ['shoe'],
    });
    expect(() => readWaterFile('{"altitude_m":"high"}', 'water.json')).to.throw('altitude_m must be a number');
    expect(() => readWaterFile('{"time_zone":"Nowhere/Land"}', 'water.json')).to.throw('time_zone');
  });
});

describe('binary parts', () => {
  it('come back as they were, and a cut file is refused', () => {
    const packed = packParts({ a: 1 }, { x: Int16Array.of(1, 2, 3), y: Float64Array.of(0.5) });
    const { header, parts } = unpackParts<{ a: number }>(packed);
    expect([header.a, [...parts.x], [...parts.y]]).to.deep.equal([1, [1, 2, 3], [0.5]]);
    expect(() => unpackParts(packed.subarray(0, 20))).to.throw(RangeError);
  });
});
