import { expect } from 'chai';
import fc from 'fast-check';
import { CELL, cellKey, WaterCells, type Point } from '../../src/geo';
import {
  deriveLooks,
  joinTargets,
  tripInPlane,
  type Contact,
  type Fix,
  type Look,
  type Sighting,
  type TripInPlane,
} from '../../src/logbook';

const T0 = Date.parse('2026-06-14T06:00:00Z');
const shore: Point[][] = [
  [
    [20, 10],
    [700, 0],
    [690, 640],
    [300, 690],
    [0, 500],
  ],
];
const cells = new WaterCells(shore);

const fix = (at: number, x: number, y: number): Fix => ({
  at: T0 + at,
  x,
  y,
  mode: 'scan',
  view: 'side-scan',
  depth: 5,
  heading: null,
  port: 18,
  starboard: 12,
  sectorAngle: null,
  sectorRange: null,
});
const trip = (fixes: Fix[], more: Partial<TripInPlane> = {}): TripInPlane => ({ fixes, stops: [], sightings: [], responses: [], ...more });
const sum = (looks: Look[]): number => looks.reduce((s, l) => s + l.effort, 0);

/** A wandering track of up to thirty fixes, 10 s apart. */
const track = fc
  .tuple(
    fc.double({ min: 50, max: 600, noNaN: true }),
    fc.double({ min: 50, max: 600, noNaN: true }),
    fc.array(fc.double({ min: 0, max: 6.28, noNaN: true }), { minLength: 2, maxLength: 30 }),
  )
  .map(([x, y, turns]) => {
    const fixes = [fix(0, x, y)];
    let [px, py] = [x, y];
    turns.forEach((t, k) => {
      px += 22 * Math.cos(t);
      py += 22 * Math.sin(t);
      fixes.push(fix((k + 1) * 10_000, px, py));
    });
    return fixes;
  });

describe('looks, whatever the track', () => {
  it('never see more than the water of a cell, and nothing on land', () =>
    fc.assert(
      fc.property(track, (fixes) => {
        for (const look of deriveLooks(trip(fixes), cells).looks) {
          const water = cells.area.get(cellKey(look.column, look.row)) ?? 0;
          expect(look.effort).to.be.above(0);
          expect(look.effort).to.be.at.most(water + 0.5);
        }
      }),
      { numRuns: 60 },
    ));
  it('see no more when the same way is gone again at once', () =>
    fc.assert(
      fc.property(track, (fixes) => {
        const last = fixes[fixes.length - 1].at - T0;
        const again = fixes.map((f) => ({ ...f, at: f.at + last + 60_000 }));
        expect(sum(deriveLooks(trip([...fixes, ...again]), cells).looks)).to.be.closeTo(sum(deriveLooks(trip(fixes), cells).looks), 1);
      }),
      { numRuns: 40 },
    ));
  it('see twice as much, in two visits, when it is gone again in the afternoon', () =>
    fc.assert(
      fc.property(track, (fixes) => {
        const later = fixes.map((f) => ({ ...f, at: f.at + 6 * 3_600_000 }));
        const once = deriveLooks(trip(fixes), cells).looks;
        const both = deriveLooks(trip([...fixes, ...later]), cells).looks;
        expect(both.length).to.equal(2 * once.length);
        expect(sum(both)).to.be.closeTo(2 * sum(once), 1);
        expect(new Set(both.map((l) => l.visit)).size).to.be.at.most(2);
      }),
      { numRuns: 40 },
    ));
  it('count each target once a visit, and lose none: it is in a look or outside', () =>
    fc.assert(
      fc.property(
        track,
        fc.array(fc.tuple(fc.double({ min: 0, max: 700, noNaN: true }), fc.double({ min: 0, max: 700, noNaN: true })), { maxLength: 12 }),
        (fixes, marks) => {
          const sightings: Sighting[] = marks.map(([x, y], k) => ({
            id: `m${k}`,
            at: T0 + k * 1000,
            x,
            y,
            row: { kind: 'fish', species: 'perch', view: 'side-scan' } as Contact,
          }));
          const { looks, outside } = deriveLooks(trip(fixes, { sightings }), cells);
          const counted = looks.flatMap((l) => l.targets.map((t) => t.target));
          expect(new Set(counted).size).to.equal(counted.length);
          expect([...counted, ...outside].sort()).to.deep.equal(sightings.map((s) => s.id).sort());
          for (const s of sightings.filter((m) => counted.includes(m.id))) {
            const look = looks.find((l) => l.targets.some((t) => t.target === s.id))!;
            expect([look.column, look.row]).to.deep.equal([Math.floor(s.x / CELL), Math.floor(s.y / CELL)]);
          }
        },
      ),
      { numRuns: 60 },
    ));
});

describe('joining sightings', () => {
  const sighting = (id: string, same: string | null, more: Partial<Contact> = {}): Sighting => ({
    id,
    at: T0,
    x: 0,
    y: 0,
    row: { kind: 'fish', same_as: same, ...more } as Contact,
  });
  it('follows chains, bears circles and strangers', () => {
    expect(
      joinTargets([sighting('a', null), sighting('b', 'a'), sighting('c', 'b'), sighting('d', null)]).map((t) => t.sightings.length),
    ).to.have.members([3, 1]);
    expect(joinTargets([sighting('a', 'b'), sighting('b', 'a')])).to.have.length(1);
    expect(joinTargets([sighting('a', 'nobody'), sighting('b', 'b')])).to.have.length(2);
  });
  it('takes the largest count and the surest name', () => {
    const [target] = joinTargets([
      sighting('a', null, { count: 3, species: 'perch', confidence: 0.9 }),
      sighting('b', 'a', { count: 7, species: 'zander', confidence: 0.4, confirmed: 'camera' }),
    ]);
    expect([target.count, target.species, target.confirmed, target.confidence]).to.deep.equal([7, 'zander', 'camera', 1]);
  });
  it('keeps what the screen was taken for: the surest name, and the others', () => {
    const [target] = joinTargets([
      sighting('a', null, { species: 'perch', confidence: 0.6 }),
      sighting('b', 'a', { species: 'bream', confidence: 0.8 }),
      sighting('c', 'a', { confidence: 0.9 }),
      sighting('d', 'a', { species: 'perch', confirmed: 'catch', view: 'line' }),
    ]);
    expect([target.species, target.named, target.alsoNamed]).to.deep.equal(['perch', 'bream', ['perch']]);
  });
});

describe('a trip in the plane', () => {
  it('sorts its fixes and gives contacts without a key one of their own', () => {
    const plane = {
      epsg: 32625,
      toMetric: (p: { latitude: number; longitude: number }): Point => [p.longitude, p.latitude],
      toLatLon: () => ({ latitude: 0, longitude: 0 }),
    };
    const rows = {
      track: ['2026-06-14T06:00:10Z', '2026-06-14T06:00:00Z'].map(
        (time) => ({ trip: 'A', time, latitude: 1, longitude: 2, mode: 'scan' }) as never,
      ),
      stops: [],
      contacts: [
        { trip: 'A', time: '2026-06-14T06:00:05Z', latitude: 1, longitude: 2, kind: 'fish', contact: null } as never,
        { trip: 'A', time: '2026-06-14T06:00:01Z', latitude: 1, longitude: 2, kind: 'fish', contact: 'x' } as never,
      ],
      responses: [],
    };
    const { fixes, sightings } = tripInPlane(plane, rows);
    expect(fixes[0].at).to.be.below(fixes[1].at);
    expect(sightings.map((s) => s.id)).to.deep.equal(['x', '#0']);
  });
});
