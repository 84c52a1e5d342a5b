import { expect } from 'chai';
import { strToU8, zipSync } from 'fflate';
import { FormatError } from '@restless-shoal/core/formats';
import { partsOf, toDegreesOf, type FilePart, type PartRow } from '../src/import/parts';
import type { Source } from '../src/import/sources';

const source = (name: string, bytes: Uint8Array | string): Source => ({
  name,
  day: '2024-05-31',
  bytes: () => [typeof bytes === 'string' ? strToU8(bytes) : bytes],
});
const parts = (name: string, bytes: Uint8Array | string, beside: Source[] = []): Promise<FilePart[]> =>
  partsOf(source(name, bytes), beside);
async function rowsOf(part: FilePart): Promise<PartRow[]> {
  const out: PartRow[] = [];
  for await (const batch of part.rows()) out.push(...batch);
  return out;
}

describe('a text table of another program', () => {
  it('is read in any encoding, with any separator, and each row keeps its line', async () => {
    const text = 'Länge;Breite;Tiefe\r\n13,1;52,4;3,5\r\n\r\n13,2;52,5;4,5\r\n';
    const utf16 = Buffer.from(`\ufeff${text}`, 'utf16le');
    for (const bytes of [strToU8(text), Buffer.from(text, 'latin1'), utf16, Buffer.from(utf16).swap16()]) {
      const [part] = await parts('depths.csv', bytes);
      expect(part.columns).to.deep.equal(['Länge', 'Breite', 'Tiefe']);
      expect(await rowsOf(part)).to.deep.equal([
        { line: 2, fields: ['13,1', '52,4', '3,5'] },
        { line: 4, fields: ['13,2', '52,5', '4,5'] },
      ]);
    }
  });
  it('without names of columns is one from its first row on; comments and runs of spaces are no rows and no fields', async () => {
    const [part] = await parts('soundings.xyz', '# EPSG:32633\n  376543.1   5806789.2  -3.5\n  376544.1   5806789.2  -3.6\n');
    expect(part.columns).to.equal(null);
    expect(part.crs).to.equal(32633);
    expect((await rowsOf(part)).map((r) => r.fields)).to.deep.equal([
      ['376543.1', '5806789.2', '-3.5'],
      ['376544.1', '5806789.2', '-3.6'],
    ]);
  });
  it('gives columns that stand twice, or nowhere, names of their own', async () => {
    const [part] = await parts('twice.csv', 'lat,lon,depth,depth,\n52,13,1,2,3\n');
    expect(part.columns).to.deep.equal(['lat', 'lon', 'depth', 'depth (4)', 'column 5']);
  });
  it('is none where there are no columns, and pictures and papers are passed over', async () => {
    expect(await parts('notes.txt', 'a sunny day\nno fish at all\n')).to.deep.equal([]);
    for (const name of ['fish.jpg', 'manual.pdf', 'soundings.prj']) expect(await parts(name, 'x'), name).to.deep.equal([]);
  });
});

describe('maps and sheets of other programs', () => {
  it('points, lines and areas of a GeoJSON are parts of their own; lines that say how deep they run are soundings', async () => {
    const feature = (type: string, coordinates: unknown, properties: object): object => ({
      type: 'Feature',
      properties,
      geometry: { type, coordinates },
    });
    const json = JSON.stringify({
      type: 'FeatureCollection',
      features: [
        feature('LineString', [[13, 52], [13.001, 52]], { contour: 2.5 }), // prettier-ignore
        feature('Polygon', [[[13, 52], [13.01, 52], [13, 52.01], [13, 52]]], {}), // prettier-ignore
        feature('Point', [13, 52], { name: 'Stump', depth: 1.5 }),
      ],
    });
    const [points, lines, areas] = await parts('map.geojson', json);
    expect([points.part, lines.part, areas.part]).to.deep.equal(['points', 'lines', 'areas']);
    expect(await rowsOf(points)).to.deep.equal([{ line: 3, fields: ['13', '52', 'Stump', '1.5'] }]);
    expect(points.places![0]).to.include({ kind: 'hazard', name: 'Stump' });
    expect(lines.columns).to.deep.equal(['longitude', 'latitude', 'contour']);
    expect(lines.outline).to.equal(undefined);
    expect(areas.outline).to.have.property('type', 'Polygon');
  });
  it('heights of KML points come as a column, unless they are nought throughout', async () => {
    const kml = (z: string): string =>
      `<kml xmlns="http://www.opengis.net/kml/2.2"><Document><Placemark><name>a</name><Point><coordinates>13.1,52.4,${z}</coordinates></Point></Placemark></Document></kml>`;
    expect((await parts('a.kml', kml('-3.5')))[0].columns).to.include('z');
    expect((await parts('a.kml', kml('0')))[0].columns).to.not.include('z');
  });
  it('an ODS sheet gives its table, with cells that are repeated', async () => {
    const cell = (v: string, repeat = 1): string =>
      `<table:table-cell table:number-columns-repeated="${repeat}" office:value="${v}"><text:p>${v}</text:p></table:table-cell>`;
    const word = (v: string): string => `<table:table-cell><text:p>${v}</text:p></table:table-cell>`;
    const content = `<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x"><table:table table:name="May"><table:table-row>${word('Lat')}${word('Lon')}${word('Depth')}</table:table-row><table:table-row>${cell('52.4')}${cell('13.1')}${cell('3.5')}</table:table-row><table:table-row>${cell('1', 3)}</table:table-row></table:table></office:document-content>`;
    const [part] = await parts('log.ods', zipSync({ 'content.xml': strToU8(content) }));
    expect(part.part).to.equal('sheet May');
    expect((await rowsOf(part)).map((r) => r.fields)).to.deep.equal([
      ['52.4', '13.1', '3.5'],
      ['1', '1', '1'],
    ]);
  });
  it('that are broken are refused by name', async () => {
    for (const [name, bytes] of [
      ['a.xlsx', 'no zip'],
      ['a.ods', 'no zip'],
      ['a.kml', '<kml><Doc'],
      ['a.geojson', '{'],
      ['a.tif', 'II*'],
      ['a.shp', 'x'],
    ] as const)
      // prettier-ignore
      await parts(name, bytes).then(
        () => expect.fail(`${name} was read`),
        (error: Error) => {
          expect(error, name).to.be.instanceOf(FormatError);
          expect(error.message).to.include(name);
        },
      );
  });
});

describe('coordinate systems', () => {
  it('go to degrees by their EPSG code: UTM, a national grid, the web’s', () => {
    // The middle of UTM zone 33 at the equator; 500 km east is where every zone has its middle.
    expect(toDegreesOf(32633)!(500_000, 0)[0]).to.be.closeTo(15, 1e-9);
    // Spherical Mercator: longitude x/R, latitude the Gudermannian of y/R.
    const [longitude, latitude] = toDegreesOf(3857)!(1_459_732, 6_878_510);
    const degrees = 180 / Math.PI;
    expect(longitude).to.be.closeTo((1_459_732 / 6_378_137) * degrees, 1e-7);
    expect(latitude).to.be.closeTo(Math.atan(Math.sinh(6_878_510 / 6_378_137)) * degrees, 1e-7);
    // Gauss–Krüger zone 3 has its middle at 9° E, 3 500 000 m.
    expect(toDegreesOf(31467)!(3_500_000, 5_800_000)[0]).to.be.closeTo(9, 0.002);
    expect(toDegreesOf(4326)).to.equal(null);
    expect(() => toDegreesOf(99_999)).to.throw(RangeError, 'EPSG:99999');
  });
});
