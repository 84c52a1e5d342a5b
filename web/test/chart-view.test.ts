import { expect } from 'chai';
import { FEATURE_KINDS, type ChartFeature, type FeatureKind } from '@restless-shoal/core/chart';
import { metricPlane } from '@restless-shoal/core/geo';
import type { CoverFeature } from '@restless-shoal/core/logbook';
import { filterShapes, FIRST_KINDS } from '../src/views/chart/filter-shapes';
import { mapCover } from '../src/parts/map-cover';
import { sharpnessWords, shapeWords } from '../src/views/chart/shape-words';

const shape = (kind: FeatureKind, change: Partial<ChartFeature> = {}): ChartFeature => ({
  kind,
  x: 0,
  y: 0,
  depth: 5,
  rise: 1.2,
  size: 60,
  sharpness: 0.1,
  confidence: 0.8,
  edge: { type: 'line', points: [] },
  ...change,
});

describe('shapes on the Chart', () => {
  const shapes = [
    shape('hump', { depth: 3, confidence: 0.7 }),
    shape('hump', { depth: 7, size: 30, confidence: 0.95 }),
    shape('hole', { depth: 9 }),
    shape('flat', { depth: 4, size: 300 }),
  ];
  const filter = { kinds: [] as FeatureKind[], depth: [0, 30] as [number, number], size: 0 };
  it('are all shown without a kind, the surest first', () => {
    const shown = filterShapes(shapes, filter);
    expect(shown).to.have.length(4);
    expect(shown[0].confidence).to.equal(0.95);
    expect(shapes[0].depth, 'the chart’s own list is left as it is').to.equal(3);
  });
  it('are narrowed down by kind, depth and size, edges of the band included', () => {
    expect(filterShapes(shapes, { ...filter, kinds: ['hump'] })).to.have.length(2);
    expect(filterShapes(shapes, { ...filter, depth: [3, 4] }).map((s) => s.kind)).to.have.members(['hump', 'flat']);
    expect(filterShapes(shapes, { ...filter, size: 60 })).to.have.length(3);
  });
  it('of a kind that this water has none of narrow nothing down: it could not be switched off', () => {
    expect(filterShapes(shapes, { ...filter, kinds: ['ledge'] })).to.have.length(4);
    expect(filterShapes(shapes, { ...filter, kinds: ['ledge', 'hole'] })).to.have.length(1);
  });
  it('as sure as each other are sorted by how far they stand out', () => {
    const [first] = filterShapes([shape('hump', { rise: 0.6 }), shape('hump', { rise: 2.1 })], filter);
    expect(first.rise).to.equal(2.1);
  });
  it('are first shown by what one would put a boat on', () => expect(FEATURE_KINDS).to.include.members(FIRST_KINDS));
  it('of every kind have words with a depth and its unit, in metres and in feet', () => {
    for (const kind of FEATURE_KINDS) {
      expect(shapeWords(shape(kind), 'm'), kind).to.match(/\b5\.0 m/);
      expect(shapeWords(shape(kind), 'ft'), kind).to.match(/\b16 ft/);
      expect(shapeWords(shape(kind), 'ft'), kind).not.to.match(/\d m\b/);
    }
  });
  it('say how steep they are as one in so many, and nothing of that for hardness', () => {
    expect(sharpnessWords(shape('ledge', { sharpness: 0.25 }))).to.equal('steepest fall 1 in 4');
    expect(sharpnessWords(shape('flat', { sharpness: 0 }))).to.equal('hardly any fall');
    expect(sharpnessWords(shape('hard spot'))).to.equal('');
  });
});

describe('cover on the Chart', () => {
  const place = [-34.6, 48.2];
  const [x, y] = metricPlane(32625).toMetric({ latitude: 48.2, longitude: -34.6 });
  const cover = (geometry: CoverFeature['geometry'], change: Partial<CoverFeature> = {}): CoverFeature => ({
    kind: 'cover',
    cover: 'timber',
    geometry,
    ...change,
  });
  it('of any geometry becomes spots, lines and areas in the plane of the water', () => {
    const drawn = mapCover(
      [
        cover({ type: 'Point', coordinates: place }),
        cover({ type: 'MultiPoint', coordinates: [place, place] }),
        cover({ type: 'MultiLineString', coordinates: [[place, place]] }),
        cover({ type: 'MultiPolygon', coordinates: [[[place, place, place, place]]] }),
        cover({ type: 'GeometryCollection', geometries: [{ type: 'LineString', coordinates: [place, place] }] }),
      ],
      32625,
    );
    expect(drawn.map((d) => d.geometry.type)).to.deep.equal(['Point', 'Point', 'Point', 'LineString', 'Polygon', 'LineString']);
    for (const { geometry } of drawn) expect(geometry.points[0]).to.deep.equal([x, y]);
  });
  it('carries its name; a hazard without one, what it is', () => {
    const named = (change: Partial<CoverFeature>): string | null =>
      mapCover([cover({ type: 'Point', coordinates: place }, change)], 32625)[0].name;
    expect(named({ name: 'Crib 4' })).to.equal('Crib 4');
    expect(named({ kind: 'hazard' })).to.equal('timber');
    expect(named({})).to.equal(null);
  });
});
