import { expect } from 'chai';
import fc from 'fast-check';
import {
  insideRings,
  insideTest,
  linesToRings,
  metricPlane,
  OutlineError,
  outlineToRings,
  patch,
  ringsArea,
  unionArea,
  utmEpsg,
  WaterCells,
  type OutlineGeometry,
  type Point,
  type Rings,
} from '../../src/geo';

const square = (x: number, y: number, side: number): Point[] => [
  [x, y],
  [x + side, y],
  [x + side, y + side],
  [x, y + side],
];

describe('the metric plane', () => {
  it('is the UTM zone of the water, north and south', () => {
    expect(utmEpsg({ latitude: 47.3, longitude: -33.9 })).to.equal(32625);
    expect(utmEpsg({ latitude: -47.3, longitude: 171 })).to.equal(32759);
  });
  it('comes back to where it started', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -79, max: 79, noNaN: true }),
        fc.double({ min: -179.9, max: 179.9, noNaN: true }),
        (latitude, longitude) => {
          const plane = metricPlane(utmEpsg({ latitude, longitude }));
          const back = plane.toLatLon(plane.toMetric({ latitude, longitude }));
          expect(back.latitude).to.be.closeTo(latitude, 1e-7);
          expect(back.longitude).to.be.closeTo(longitude, 1e-7);
        },
      ),
    ));
});

describe('outlines', () => {
  it('takes an island out of the area', () => {
    const rings = [square(0, 0, 100), square(40, 40, 10)];
    expect(ringsArea(rings)).to.equal(9900);
    expect([insideRings(rings, 10, 10), insideRings(rings, 45, 45)]).to.deep.equal([true, false]);
  });
  it('joins lines that close, whichever way they run', () => {
    const ring = linesToRings([
      [
        [0, 0],
        [1, 0],
        [1, 1],
      ],
      [
        [0, 0],
        [0, 1],
        [1, 1],
      ],
    ])[0];
    expect(ring).to.have.length(5);
    expect(() =>
      linesToRings([
        [
          [0, 0],
          [1, 0],
          [1, 1],
        ],
      ]),
    ).to.throw('does not close');
  });
  it('takes no water that cannot be charted, and says how large it is; no collections without end', () => {
    const box = (size: number): OutlineGeometry => ({
      type: 'Polygon',
      coordinates: [
        [
          [10, 50],
          [10 + size, 50],
          [10 + size, 50 + size],
          [10, 50 + size],
          [10, 50],
        ],
      ],
    });
    const plane = metricPlane(32632);
    const rings = (outline: OutlineGeometry) => outlineToRings(outline, (longitude, latitude) => plane.toMetric({ latitude, longitude }));
    expect(() => rings(box(2))).to.throw(OutlineError, /spans 14\d by 22\d km/);
    expect(rings(box(0.3))).to.have.length(1);
    let nested: OutlineGeometry = box(0.1);
    for (let k = 0; k < 100_000; k++) nested = { type: 'GeometryCollection', geometries: [nested] };
    expect(() => rings(nested)).to.throw(OutlineError, 'without end');
  });
  it('joins a shore of many loose lines at once', () => {
    const n = 20_000;
    const at = (k: number): [number, number] => [10 + 0.05 * Math.cos((2 * Math.PI * k) / n), 50 + 0.05 * Math.sin((2 * Math.PI * k) / n)];
    const pieces = Array.from({ length: n }, (_, k) => (k % 2 ? [at(k), at((k + 1) % n)] : [at((k + 1) % n), at(k)]));
    // In no order.
    const shuffled = pieces.map((_, k) => pieces[(k * 7919) % n]);
    const joined = linesToRings(shuffled);
    expect(joined).to.have.length(1);
    expect(joined[0]).to.have.length(n + 1);
  });
  it('tells whether a point lies inside as the rings themselves do, asked for by the million', () => {
    // Off the grid of the cells, as any real shore is: what lies on an edge by a hair is nobody's.
    const somewhere = (from: number, to: number) => fc.integer({ min: 10 * from, max: 10 * to }).map((v) => v / 10 + 0.0371);
    const place = (from: number, to: number) => fc.tuple(somewhere(from, to), somewhere(from, to));
    fc.assert(
      fc.property(
        fc.array(place(0, 400), { minLength: 3, maxLength: 12 }),
        fc.array(place(-30, 430), { minLength: 30, maxLength: 30 }),
        (corners, points) => {
          const rings: Rings = [corners, square(100, 100, 50)];
          const inside = insideTest(rings);
          for (const [x, y] of points) expect(inside(x, y)).to.equal(insideRings(rings, x, y));
        },
      ),
    );
  });
  it('names an impossible position', () => {
    expect(() =>
      outlineToRings(
        {
          type: 'Polygon',
          coordinates: [
            [
              [10, 95],
              [11, 95],
              [11, 96],
              [10, 95],
            ],
          ],
        },
        (x, y) => [x, y],
      ),
    ).to.throw('position 95, 10 is impossible');
  });
});

describe('area of a union', () => {
  const box: [number, number, number, number] = [0, 0, 25, 25];
  it('counts an overlap once', () => {
    const a = patch([
      [0, 0],
      [25, 0],
      [25, 10],
      [0, 10],
    ]);
    const b = patch([
      [10, 0],
      [20, 0],
      [20, 25],
      [10, 25],
    ]);
    expect(unionArea([a, b], box)).to.be.closeTo(250 + 150, 1e-6);
  });
  it('is exact for slanted edges', () =>
    expect(
      unionArea(
        [
          patch([
            [0, 0],
            [25, 0],
            [0, 25],
          ]),
        ],
        box,
      ),
    ).to.be.closeTo(312.5, 1e-6));
  it('agrees with counting points, clipped by a shore', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.double({ min: -10, max: 30, noNaN: true }),
            fc.double({ min: -10, max: 30, noNaN: true }),
            fc.double({ min: 0, max: 6.28, noNaN: true }),
            fc.double({ min: 2, max: 15, noNaN: true }),
          ),
          { minLength: 1, maxLength: 6 },
        ),
        (bands) => {
          const patches = bands.map(([x, y, turn, half]) => {
            const [ux, uy] = [Math.cos(turn), Math.sin(turn)];
            return patch(
              [
                [-20, -half],
                [20, -half],
                [20, half],
                [-20, half],
              ].map(([u, v]): Point => [x + u * ux - v * uy, y + u * uy + v * ux]),
            );
          });
          const shore: Point[][] = [
            [
              [3, -5],
              [40, -5],
              [40, 20],
              [3, 14],
            ],
          ];
          let hits = 0;
          const n = 100;
          for (let i = 0; i < n; i++)
            for (let j = 0; j < n; j++) {
              const [x, y] = [((i + 0.5) * 25) / n, ((j + 0.5) * 25) / n];
              if (insideRings(shore, x, y) && patches.some((p) => insideRings([p.points], x, y))) hits++;
            }
          expect(unionArea(patches, box, shore)).to.be.closeTo((hits * 625) / (n * n), 6);
        },
      ),
      { numRuns: 60 },
    ));
});

describe('cells of a water', () => {
  it('hold their water only, islands taken out, and sum to its area', () => {
    const rings = [
      [
        [10, 10],
        [333, 40],
        [290, 310],
        [30, 260],
      ] as Point[],
      square(110, 110, 60),
    ];
    const cells = new WaterCells(rings);
    const total = [...cells.area.values()].reduce((a, b) => a + b, 0);
    expect(total).to.be.closeTo(ringsArea(rings), 1);
    expect(Math.max(...cells.area.values())).to.equal(625);
  });
});
