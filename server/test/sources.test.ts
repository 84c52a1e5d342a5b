import { expect } from 'chai';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { FormatError } from '@restless-shoal/core/formats';
import { temporaryFolder } from '../../e2e/harness';
import { findSources, kindOf, type Source } from '../src/import/sources';

const source = (name: string, text = ''): Source => ({ name, bytes: () => [new TextEncoder().encode(text)] });

describe('what a file holds', () => {
  for (const [name, text, kind] of [
    ['soundings.csv', '', 'soundings'],
    ['Contacts.CSV', '', 'contacts'],
    ['water.json', '{}', 'water'],
    ['outline.geojson', '', 'outline'],
    ['cover.geojson', '', 'cover'],
    ['my survey.csv', 'Time;Latitude;Longitude;Depth_m;Hardness\n', 'soundings'],
    ['log.csv', 'trip,time,latitude,longitude,mode\n', 'track'],
    ['fish.txt', 'trip\ttime\tlatitude\tlongitude\tkind\tspecies\n', 'contacts'],
    ['list.csv', 'a,b,c\n', null],
    ['lake.geojson', '{"type":"Polygon","coordinates":[]}', 'outline'],
    [
      'brush.geojson',
      '{"type":"FeatureCollection","features":[{"type":"Feature","properties":{"kind":"cover"},"geometry":{"type":"Point","coordinates":[0,0]}}]}',
      'cover',
    ],
    ['soundings.csv', 'Lat,Lon,Depth\n52.1,13.1,3.2\n', null],
    [
      'isobaths.geojson',
      '{"type":"FeatureCollection","features":[{"type":"Feature","properties":{"DEPTH":3},"geometry":{"type":"LineString","coordinates":[]}}]}',
      null,
    ],
    ['depth.tif', '', null],
    ['marks.gpx', '', 'gpx'],
    ['holiday.jpg', '', 'picture'],
    ['holiday.mov', '', null],
  ] as [string, string, string | null][])
    it(`${name} is ${kind ?? 'none of our own'}`, async () => expect(await kindOf(source(name, text), false)).to.equal(kind));
});

describe('a ZIP', () => {
  const files = temporaryFolder();
  after(() => files.remove());
  let count = 0;
  const asFile = (bytes: Uint8Array): string => {
    const path = join(files.path, `log ${++count}.zip`);
    writeFileSync(path, bytes);
    return path;
  };
  const refused = async (bytes: Uint8Array): Promise<string> => {
    try {
      for (const source of await findSources([asFile(bytes)])) for await (const piece of source.bytes()) void piece;
    } catch (error) {
      expect(error).to.be.instanceOf(FormatError);
      return (error as Error).message;
    }
    return 'it was taken';
  };

  it('gives its files, whatever folder they lie in, without the clutter of other systems', async () => {
    const zip = zipSync({
      'a/trips.csv': new Uint8Array([1, 2]),
      '__MACOSX/a/._trips.csv': new Uint8Array([2]),
      'a/.DS_Store': new Uint8Array([3]),
    });
    const [only, ...others] = await findSources([asFile(zip)]);
    expect(others).to.deep.equal([]);
    expect(only.name).to.equal('trips.csv');
    // More than once.
    for (let k = 0; k < 2; k++) {
      const pieces: number[] = [];
      for await (const piece of only.bytes()) pieces.push(...piece);
      expect(pieces).to.deep.equal([1, 2]);
    }
  });
  it('that is broken or empty is refused by name', async () => {
    expect(await refused(new Uint8Array([1, 2, 3]))).to.match(/^log \d+\.zip: is not a ZIP/);
    expect(await refused(zipSync({}))).to.include('holds no file');
  });
  it('whose content is not what was packed is refused', async () => {
    const zip = zipSync({ 'trips.csv': strToU8('trip,start,end\n') }, { level: 0 });
    zip[zip.indexOf(0x74, 40)] ^= 1;
    expect(await refused(zip)).to.match(/trips\.csv is damaged: its checksum is wrong/);
  });
  it('of zeros, or of more files than anybody keeps, is refused before it is unpacked', async () => {
    const started = process.memoryUsage().rss;
    expect(await refused(zipSync({ 'soundings.csv': new Uint8Array(50_000_000) }))).to.match(
      /soundings\.csv unpacks to 50 MB, \d+ times its size/,
    );
    const many = Object.fromEntries(Array.from({ length: 5001 }, (_, k) => [`${k}.csv`, new Uint8Array(1)]));
    expect(await refused(zipSync(many, { level: 0 }))).to.include('holds more than 5000 files');
    expect(process.memoryUsage().rss - started).to.be.below(400e6);
  });
});
