import { expect } from 'chai';
import fc from 'fast-check';
import {
  emptyReport,
  FormatError,
  gpxOf,
  nmeaSentence,
  readGpx,
  readNmea,
  type FileReport,
  type PlacedRow,
  type Waypoint,
} from '../../src/formats';

const pieces = (text: string, size = 11): Uint8Array[] => {
  const all = new TextEncoder().encode(text);
  return Array.from({ length: Math.ceil(all.length / size) }, (_, i) => all.subarray(i * size, (i + 1) * size));
};
async function nmea(text: string, size?: number): Promise<{ rows: PlacedRow[]; report: FileReport }> {
  const report = emptyReport('trip.nmea', 'soundings');
  const rows: PlacedRow[] = [];
  for await (const batch of readNmea(pieces(text, size), report)) rows.push(...batch);
  return { rows, report };
}
async function gpx(text: string): Promise<{ rows: PlacedRow[]; report: FileReport; waypoints: Waypoint[] }> {
  const report = emptyReport('track.gpx', 'soundings');
  const [rows, waypoints]: [PlacedRow[], Waypoint[]] = [[], []];
  for await (const batch of readGpx(pieces(text), report, waypoints)) rows.push(...batch);
  return { rows, report, waypoints };
}
const refusal = async (work: Promise<unknown>): Promise<string> => {
  try {
    await work;
    return 'none';
  } catch (error) {
    expect(error).to.be.instanceOf(FormatError);
    return (error as Error).message;
  }
};

/** A second of a log: position and depth. */
const second = (s: number, depth: number): string =>
  [
    nmeaSentence(`GPRMC,0610${String(s).padStart(2, '0')}.00,A,4811.5000,N,03436.${String(1000 + s * 3)},W,4.2,91.0,020526,,,A`),
    nmeaSentence(`SDDPT,${depth.toFixed(2)},0.40,`),
    nmeaSentence('SDMTW,14.6,C'),
  ].join('\r\n');

describe('NMEA 0183', () => {
  it('has the checksum that the standard’s own example has', () => {
    // The example of the GGA sentence that is handed down with the standard.
    expect(nmeaSentence('GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,')).to.equal(
      '$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47',
    );
  });
  it('becomes soundings: place, time of the fix, depth below the surface, temperature', async () => {
    const log = Array.from({ length: 6 }, (_, s) => second(s, 5 + s / 10)).join('\r\n');
    const { rows, report } = await nmea(log);
    expect(report.bad.count).to.equal(0);
    expect(rows.length).to.be.at.least(5);
    const row = rows[2].row as Record<string, unknown>;
    expect(row.latitude).to.be.closeTo(48 + 11.5 / 60, 1e-6);
    expect(row.longitude).to.be.closeTo(-(34 + 36.1 / 60), 1e-3);
    expect(row.time).to.match(/^2026-05-02T06:10:0/);
    // The offset of DPT is from the transducer to the surface when positive.
    expect(row.depth_m).to.be.closeTo(5.6, 1e-6);
    expect((rows[4].row as Record<string, unknown>).temperature_c).to.be.closeTo(14.6, 1e-6);
  });
  it('takes nothing off for an offset to the keel', async () => {
    const { rows } = await nmea(
      Array.from({ length: 3 }, (_, s) => second(s, 6).replace(/\$SDDPT[^\r\n]*/, nmeaSentence('SDDPT,6.00,-0.40,'))).join('\n'),
    );
    expect((rows[1].row as Record<string, unknown>).depth_m).to.be.closeTo(6, 1e-6);
  });
  it('leaves out a sentence whose checksum is wrong, and one cut short, by line', async () => {
    const lines = Array.from({ length: 8 }, (_, s) => second(s, 6))
      .join('\r\n')
      .split('\r\n');
    lines[4] = lines[4].replace(/\d\.\d\d/, '9.99');
    const { rows, report } = await nmea(`${lines.join('\n')}\n${nmeaSentence('SDDPT,6.00,0.4,').slice(0, -3)}`);
    expect(report.bad.count).to.equal(2);
    expect(report.bad.first[0]).to.include({ line: 5 });
    expect(report.bad.first[0].reason).to.include('checksum');
    expect(report.bad.first[1].reason).to.include('cut short');
    expect(rows.length).to.be.at.least(6);
    expect(rows.every((r) => (r.row as { depth_m: number }).depth_m < 7)).to.equal(true);
  });
  it('refuses a file without a sentence', async () => expect(await refusal(nmea('fish\nfish\nfish\n'))).to.include('trip.nmea'));
  it('reads the same whatever pieces it comes in', () =>
    fc.assert(
      fc.asyncProperty(fc.integer({ min: 1, max: 90 }), async (size) => {
        const log = Array.from({ length: 4 }, (_, s) => second(s, 4 + s)).join('\r\n');
        expect((await nmea(log, size)).rows).to.deep.equal((await nmea(log, 10_000)).rows);
      }),
      { numRuns: 20 },
    ));
});

const track = (points: string): string =>
  `<?xml version="1.0"?><gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>${points}</trkseg></trk></gpx>`;
const point = (lat: number, extra: string, time = '2026-05-02T06:10:00Z'): string =>
  `<trkpt lat="${lat}" lon="-34.6"><time>${time}</time><extensions>${extra}</extensions></trkpt>`;

describe('GPX', () => {
  it('knows several spellings of a depth and a temperature', async () => {
    const { rows } = await gpx(
      track(
        point(48.2, '<depth>4.5</depth><temp>12.5</temp>') +
          point(48.2001, '<a:TrackPointExtension xmlns:a="urn:a"><a:depth>5.5</a:depth><a:wtemp>13</a:wtemp></a:TrackPointExtension>') +
          point(48.2002, '<WaterDepth>6.5</WaterDepth>'),
      ),
    );
    expect(rows.map((r) => (r.row as { depth_m: number }).depth_m)).to.deep.equal([4.5, 5.5, 6.5]);
    expect((rows[0].row as { temperature_c: number }).temperature_c).to.equal(12.5);
  });
  it('leaves out a point with an impossible position, and says where', async () => {
    const { rows, report } = await gpx(track(`${point(48.2, '<depth>4.5</depth>')}\n${point(148.2, '<depth>4.5</depth>')}`));
    expect(rows).to.have.length(1);
    expect(report.bad.count).to.equal(1);
    expect(report.bad.first[0].line).to.equal(2);
    expect(report.bad.first[0].reason).to.include('148.2');
  });
  it('that is cut short, or no XML, is refused', async () => {
    expect(await refusal(gpx(track(point(48.2, '<depth>4</depth>')).slice(0, -30)))).to.include('track.gpx');
    expect(await refusal(gpx('<gpx><trk></gpx>'))).to.include('track.gpx');
  });
  it('gives back the marks it wrote, names and all', async () => {
    const places = [
      { latitude: 48.2, longitude: -34.6, name: 'Rock & <tip>', type: 'hazard', depth: 2.5, time: '2026-05-02T06:10:00Z' },
      { latitude: -48.25, longitude: 134.65, name: 'bad \u0007 bell', type: 'fish', depth: null },
    ];
    const { waypoints } = await gpx(gpxOf('Marks', places));
    expect(waypoints.map((w) => [w.latitude, w.longitude, w.name])).to.deep.equal([
      [48.2, -34.6, 'Rock & <tip>'],
      [-48.25, 134.65, 'bad  bell'],
    ]);
    expect(waypoints[0].depth).to.equal(2.5);
  });
});
