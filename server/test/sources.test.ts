import { expect } from 'chai';
import { zipSync } from 'fflate';
import { FormatError } from '@restless-shoal/core/formats';
import { kindOf, zipSources, type Source } from '../src/import/sources';

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
    ['holiday.jpg', '', null],
  ] as [string, string, string | null][])
    it(`${name} is ${kind ?? 'none of our own'}`, async () => expect(await kindOf(source(name, text), false)).to.equal(kind));
});

describe('a ZIP', () => {
  it('gives its files, whatever folder they lie in, without the clutter of other systems', () => {
    const zip = zipSync({
      'a/trips.csv': new Uint8Array([1]),
      '__MACOSX/a/._trips.csv': new Uint8Array([2]),
      'a/.DS_Store': new Uint8Array([3]),
    });
    expect(zipSources(zip, 'log.zip').map((s) => s.name)).to.deep.equal(['trips.csv']);
  });
  it('that is broken or empty is refused by name', () => {
    expect(() => zipSources(new Uint8Array([1, 2, 3]), 'log.zip')).to.throw(FormatError, 'log.zip: is not a ZIP');
    expect(() => zipSources(zipSync({}), 'log.zip')).to.throw(FormatError, 'holds no file');
  });
});
