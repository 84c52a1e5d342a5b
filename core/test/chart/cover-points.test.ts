import { expect } from 'chai';
import fc from 'fast-check';
import type { Geometry, Position } from 'geojson';
import { coverPoints, hardPoints, mainBody } from '../../src/chart';
import { insideRings, type Point } from '../../src/geo';
import type { CoverFeature } from '../../src/logbook';

// Positions as metres: what is tested is how shapes are strewn with points, not the projection.
const metric = ([x, y]: Position): Point => [x, y];
const of = (geometry: Geometry, more: Partial<CoverFeature> = {}): CoverFeature => ({ kind: 'cover', cover: 'timber', geometry, ...more });
const place = fc.tuple(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 0, max: 400 }));
const nearest = (points: Point[], [x, y]: Point): number => Math.min(...points.map((p) => Math.hypot(p[0] - x, p[1] - y)));

describe('drawn cover as points', () => {
  it('leaves no gap along a line, and strays from it nowhere', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 2, maxLength: 6 }), (line) => {
        const [{ points }] = coverPoints([of({ type: 'LineString', coordinates: line })], metric);
        for (let i = 1; i < line.length; i++)
          for (const share of [0, 0.21, 0.5, 0.83, 1]) {
            const on: Point = [
              line[i - 1][0] + share * (line[i][0] - line[i - 1][0]),
              line[i - 1][1] + share * (line[i][1] - line[i - 1][1]),
            ];
            expect(nearest(points, on)).to.be.at.most(5.001);
          }
        const length = line.reduce((s, p, i) => s + (i ? Math.hypot(p[0] - line[i - 1][0], p[1] - line[i - 1][1]) : 0), 0);
        expect(points.length).to.be.at.most(length / 10 + 2 * line.length);
      }),
    );
  });
  it('fills an area with points that lie in it, none farther than a step from any place inside, and leaves its hole out', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 30, max: 300 }),
        fc.integer({ min: 30, max: 300 }),
        fc.array(place, { minLength: 20, maxLength: 20 }),
        (width, height, asked) => {
          const ring = (x0: number, y0: number, x1: number, y1: number): Position[] => [
            [x0, y0],
            [x1, y0],
            [x1, y1],
            [x0, y1],
            [x0, y0],
          ];
          const rings = [ring(0, 0, width, height), ring(width * 0.4, height * 0.4, width * 0.6, height * 0.6)];
          const metres = rings.map((r) => r.slice(0, -1).map(metric));
          const [{ points }] = coverPoints([of({ type: 'Polygon', coordinates: rings })], metric);
          const corners = new Set(rings.flat().map(String));
          for (const p of points) if (!corners.has(String(p))) expect(insideRings(metres, ...p), String(p)).to.equal(true);
          for (const p of asked) if (insideRings(metres, ...p)) expect(nearest(points, p), String(p)).to.be.at.most(15);
        },
      ),
    );
  });
  it('takes geometries of any kind apart, tells wood from weed, and leaves out what holds no fish', () => {
    const spot: Geometry = { type: 'Point', coordinates: [5, 5] };
    const many: Geometry = {
      type: 'GeometryCollection',
      geometries: [
        spot,
        {
          type: 'MultiPoint',
          coordinates: [
            [1, 1],
            [2, 2],
          ],
        },
        {
          type: 'MultiLineString',
          coordinates: [
            [
              [0, 0],
              [4, 0],
            ],
          ],
        },
      ],
    };
    expect(coverPoints([of(many)], metric)[0].points).to.have.length(5);
    const kinds = coverPoints(
      [of(spot), of(spot, { kind: 'weed', cover: null }), of(spot, { cover: 'weed' }), of(spot, { cover: 'rock' })],
      metric,
    ).map((c) => c.kind);
    expect(kinds).to.deep.equal(['wood', 'weed', 'weed', 'wood']);
    for (const kind of ['hazard', 'access', 'hard', 'mark'] as const)
      expect(coverPoints([of(spot, { kind })], metric), kind).to.deep.equal([]);
    expect(coverPoints([of(spot, { cover: 'none' })], metric)).to.deep.equal([]);
    expect(hardPoints([of(spot, { kind: 'hard', cover: null }), of(spot)], metric)).to.deep.equal([[5, 5]]);
  });
});

describe('the soundings of one water', () => {
  /** Soundings strewn over so many kilometres about a place. */
  const about = (latitude: number, longitude: number, count: number, degrees: number): [number, number][] =>
    Array.from({ length: count }, (_, k) => [
      latitude + degrees * Math.sin(k * 2.399) * Math.sqrt(k / count),
      longitude + degrees * Math.cos(k * 2.399) * Math.sqrt(k / count),
    ]);
  const belongs = (all: [number, number][], within: Parameters<typeof mainBody>[2] = null): number[] => [
    ...mainBody(
      all.map((p) => p[0]),
      all.map((p) => p[1]),
      within,
    ),
  ];
  it('are those of the largest body, wherever on earth, in whatever order; what strayed in is none of it', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -75, max: 75, noNaN: true }),
        fc.double({ min: -170, max: 170, noNaN: true }),
        fc.integer({ min: 0, max: 199 }),
        (latitude, longitude, turn) => {
          const water = about(latitude, longitude, 200, 0.08);
          const elsewhere = [
            ...about(latitude + 3, longitude - 2, 40, 0.05),
            ...(Math.hypot(latitude, longitude) > 2 ? ([[0, 0]] as [number, number][]) : []),
          ];
          const all = [...water.slice(turn), ...elsewhere, ...water.slice(0, turn)];
          const found = belongs(all);
          all.forEach((p, k) => expect(found[k], String(p)).to.equal(elsewhere.includes(p) ? 0 : 1));
        },
      ),
    );
  });
  it('are those near its outline where that is known, though more lie elsewhere', () => {
    const all = [...about(48, -34, 10, 0.02), ...about(-20, 60, 300, 0.02)];
    expect(belongs(all, [-34.05, 47.95, -33.95, 48.05])).to.deep.equal(all.map((_, k) => (k < 10 ? 1 : 0)));
    expect(belongs([])).to.deep.equal([]);
  });
});
