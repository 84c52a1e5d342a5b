import { expect } from 'chai';
import { WaterCells, type Point } from '../../src/geo';
import { deriveLooks, type Contact, type Fix, type Look, type Sighting, type Stop, type TripInPlane, USUAL_RANGE } from '../../src/logbook';

const MINUTE = 60_000;
const T0 = Date.parse('2026-06-14T06:00:00Z');
const lake: Point[][] = [
  [
    [0, 0],
    [500, 0],
    [500, 500],
    [0, 500],
  ],
];
const cells = new WaterCells(lake);

const fix = (minutes: number, x: number, y: number, more: Partial<Fix> = {}): Fix => ({
  at: T0 + minutes * MINUTE,
  x,
  y,
  mode: 'scan',
  view: 'side-scan',
  // As deep as the transducer hangs: slant ranges are then distances over the ground.
  depth: 0.4,
  heading: null,
  port: 10,
  starboard: 10,
  sectorAngle: null,
  sectorRange: null,
  ...more,
});
const contact = (more: Partial<Contact>): Contact =>
  ({ trip: 'T', time: '', latitude: 0, longitude: 0, kind: 'fish', species: 'zander', ...more }) as Contact;
const sighting = (id: string, minutes: number, x: number, y: number, more: Partial<Contact> = {}): Sighting => ({
  id,
  at: T0 + minutes * MINUTE,
  x,
  y,
  row: contact({ contact: id, ...more }),
});
const stop = (key: string, from: number, to: number, x: number, y: number, more: Partial<Stop> = {}) => ({
  x,
  y,
  from: T0 + from * MINUTE,
  to: T0 + to * MINUTE,
  row: { trip: 'T', stop: key, radius_m: 5, rods: 1, outcome: null, ...more } as Stop,
});
const trip = (more: Partial<TripInPlane>): TripInPlane => ({ fixes: [], stops: [], sightings: [], responses: [], ...more });
const line = (minutes: number, from: Point, to: Point, more: Partial<Fix> = {}): Fix[] => {
  const n = Math.ceil(Math.hypot(to[0] - from[0], to[1] - from[1]) / 25);
  return Array.from({ length: n + 1 }, (_, i) =>
    fix(minutes + (i * 10) / 60, from[0] + ((to[0] - from[0]) * i) / n, from[1] + ((to[1] - from[1]) * i) / n, more),
  );
};
const total = (looks: Look[], kind = 'scan'): number => looks.filter((l) => l.kind === kind).reduce((s, l) => s + l.effort, 0);
const at = (looks: Look[], column: number, row: number): Look[] => looks.filter((l) => l.column === column && l.row === row);

describe('looks: scanned area', () => {
  it('is the length of the pass times its width', () => {
    const { looks } = deriveLooks(trip({ fixes: line(0, [100, 112.5], [300, 112.5]) }), cells);
    expect(total(looks)).to.be.closeTo(200 * 20, 0.01);
    expect(at(looks, 5, 4)[0].effort).to.be.closeTo(25 * 20, 0.01);
  });
  it('takes the ranges of a side-scan for slant ranges, and leaves out what lies under the boat', () => {
    // By how much the range as set overstates what it reaches on the bottom.
    for (const [depth, times] of [
      [12, 1.23],
      [16, 1.6],
      [19, 2.72],
    ]) {
      const fixes = line(0, [100, 112.5], [300, 112.5], { depth, port: 20, starboard: 20 });
      const { looks } = deriveLooks(trip({ fixes }), cells);
      const height = depth - 0.4;
      const ground = Math.sqrt(400 - height ** 2);
      expect(20 / ground).to.be.closeTo(times, 0.005);
      const under = Math.sqrt((height + 0.1) ** 2 - height ** 2);
      expect(total(looks)).to.be.closeTo(200 * 2 * (ground - under), 0.5);
      expect(looks[0].reach).to.be.closeTo(ground, 0.05);
    }
    const of = (more: Partial<Fix>): number => total(deriveLooks(trip({ fixes: line(0, [100, 112.5], [300, 112.5], more) }), cells).looks);
    expect(of({ depth: 25, port: 20, starboard: 20 }), 'of the bottom nothing').to.equal(0);
    expect(of({ depth: null, port: 20, starboard: 20 }), 'nobody knows how deep').to.be.closeTo(200 * 40, 0.01);
    const one = of({ depth: 12, port: 20, starboard: null });
    expect(2 * one).to.be.closeTo(of({ depth: 12, port: 20, starboard: 20 }), 0.01);
  });
  it('counts the common area of crossing passes once', () => {
    const one = line(0, [100, 212.5], [300, 212.5]);
    const two = line(10, [212.5, 100], [212.5, 300]);
    const { looks } = deriveLooks(trip({ fixes: [...one, ...two] }), cells);
    expect(total(looks)).to.be.closeTo(2 * 200 * 20 - 20 * 20, 0.01);
    expect(at(looks, 8, 8)).to.have.length(1);
    expect(at(looks, 8, 8)[0].effort).to.be.closeTo(25 * 20 * 2 - 400, 0.01);
  });
  it('makes two visits of a gap of 61 minutes and one of a gap of 59', () => {
    const visits = (gap: number): number => {
      const first = line(0, [105, 112], [120, 112]);
      const second = line((first[first.length - 1].at - T0) / MINUTE + gap, [105, 112], [120, 112]);
      return at(deriveLooks(trip({ fixes: [...first, ...second] }), cells).looks, 4, 4).length;
    };
    expect([visits(59), visits(61)]).to.deep.equal([1, 2]);
  });
  it('does not bridge gaps over 60 m, over 30 s, or between modes', () => {
    const pair = (distance: number, seconds: number, mode = 'scan'): number =>
      total(deriveLooks(trip({ fixes: [fix(0, 100, 100), fix(seconds / 60, 100 + distance, 100, { mode })] }), cells).looks);
    expect(pair(60, 30)).to.be.closeTo(1200, 0.01);
    expect([pair(61, 30), pair(60, 31), pair(30, 10, 'transit')]).to.deep.equal([0, 0, 0]);
  });
  it('counts the water of a shore cell only', () => {
    const slanted = new WaterCells([
      [
        [0, 0],
        [500, 0],
        [500, 500],
        [130, 500],
        [112.5, 0],
      ],
    ]);
    const straight = new WaterCells([
      [
        [112.5, 0],
        [500, 0],
        [500, 500],
        [112.5, 500],
      ],
    ]);
    const fixes = line(0, [60, 212.5], [200, 212.5], { port: 12.5, starboard: 12.5 });
    expect(at(deriveLooks(trip({ fixes }), straight).looks, 4, 8)[0].effort).to.be.closeTo(12.5 * 25, 0.01);
    expect(at(deriveLooks(trip({ fixes }), straight).looks, 3, 8)).to.have.length(0);
    expect(total(deriveLooks(trip({ fixes }), slanted).looks)).to.be.below(140 * 25);
  });
  it('uses the cone of a sounder, whose width follows the depth', () => {
    const fixes = [
      fix(0, 100, 112, { view: 'sounder', port: null, starboard: null, depth: 10 }),
      fix(0.2, 120, 112, { view: 'sounder', port: null, starboard: null, depth: 10 }),
    ];
    const width = 2 * 10 * Math.tan((10 * Math.PI) / 180);
    const { looks } = deriveLooks(trip({ fixes }), cells);
    // The band between the two fixes and half a circle at either end.
    expect(total(looks)).to.be.closeTo(20 * width + (Math.PI * width ** 2) / 4, 0.4);
  });
  it('counts the sector of a forward-facing sweep', () => {
    const { looks } = deriveLooks(
      trip({
        fixes: [
          fix(0, 250, 250, {
            mode: 'sweep',
            view: 'forward-facing',
            port: null,
            starboard: null,
            heading: 45,
            sectorAngle: 90,
            sectorRange: 20,
          }),
        ],
      }),
      cells,
    );
    expect(total(looks)).to.be.closeTo((Math.PI * 400) / 4, 1);
  });
  it('takes the usual range of a view that must have one and says none, rather than passing its blanks over', () => {
    const silent = { port: null, starboard: null };
    const seen = (fixes: Fix[]): number => total(deriveLooks(trip({ fixes }), cells).looks);
    expect(seen(line(0, [100, 112.5], [300, 112.5], silent))).to.be.closeTo(200 * 2 * USUAL_RANGE, 0.01);
    const sweep = fix(0, 250, 250, { ...silent, mode: 'sweep', view: null, heading: 45 });
    expect(seen([sweep])).to.be.closeTo((Math.PI * USUAL_RANGE ** 2) / 3, 1);
    // One side said is one side looked at, and a sounder needs no range.
    expect(seen(line(0, [100, 112.5], [300, 112.5], { ...silent, port: 12 }))).to.be.closeTo(200 * 12, 0.01);
    expect(seen(line(0, [100, 112.5], [300, 112.5], { ...silent, view: 'sounder', depth: 6 }))).to.be.below(200 * 2.2);
  });
});

describe('looks: fishing', () => {
  it('shares rod-minutes over the water of the stop', () => {
    const { looks } = deriveLooks(trip({ stops: [stop('a', 0, 20, 250, 250, { radius_m: 30, rods: 2 })] }), cells);
    expect(total(looks, 'fish')).to.be.closeTo(40, 1e-6);
    expect(looks.length).to.be.above(3);
  });
  it('keeps minutes and area apart in one cell', () => {
    const { looks } = deriveLooks(trip({ fixes: line(0, [205, 212], [220, 212]), stops: [stop('a', 5, 15, 212, 212)] }), cells);
    const here = at(looks, 8, 8);
    expect(here.map((l) => l.kind).sort()).to.deep.equal(['fish', 'scan']);
    expect(here.find((l) => l.kind === 'fish')!.effort).to.be.closeTo(10, 1e-6);
  });
  it('an unfishable stop is no look; one with nothing is a zero', () => {
    expect(deriveLooks(trip({ stops: [stop('a', 0, 9, 212, 212, { outcome: 'unfishable' })] }), cells).looks).to.have.length(0);
    const blank = deriveLooks(trip({ stops: [stop('a', 0, 9, 212, 212, { outcome: 'nothing' })] }), cells).looks;
    expect(blank).to.have.length(1);
    expect(blank[0].targets).to.have.length(0);
  });
  it('a blank of no minutes is a zero too', () => {
    const [look] = deriveLooks(trip({ stops: [stop('a', 3, 3, 212, 212, { outcome: 'nothing' })] }), cells).looks;
    expect([look.kind, look.effort, look.targets.length]).to.deep.equal(['fish', 0, 0]);
    expect(look.area).to.be.closeTo(Math.PI * 25, 1);
  });
  it('counts trolled lines by their length in each cell', () => {
    const { looks } = deriveLooks(trip({ fixes: line(0, [110, 112], [210, 112], { mode: 'troll' }) }), cells);
    expect(total(looks, 'troll')).to.be.closeTo(100, 1e-6);
    expect(at(looks, 4, 4)[0].effort).to.be.closeTo(15, 1e-6);
  });
});

describe('looks: what was seen', () => {
  const fixes = line(0, [100, 212], [300, 212]);
  it('counts two sightings of one target once, though they lie in two cells', () => {
    const { looks } = deriveLooks(
      trip({
        fixes,
        sightings: [
          sighting('a', 0.5, 210, 212),
          sighting('b', 0.7, 230, 212, { same_as: 'a', view: 'down-beam' }),
          sighting('c', 0.7, 231, 213),
        ],
      }),
      cells,
    );
    expect(looks.flatMap((l) => l.targets.map((t) => t.target))).to.have.members(['a', 'c']);
  });
  it('takes the species from the most certain sighting', () => {
    const { looks } = deriveLooks(
      trip({
        fixes,
        sightings: [
          sighting('a', 0.5, 210, 212, { species: 'perch', confidence: 0.9 }),
          sighting('b', 0.6, 211, 212, { same_as: 'a', species: 'zander', confirmed: 'catch', view: 'line' }),
        ],
      }),
      cells,
    );
    expect(at(looks, 8, 8)[0].targets.map((t) => [t.species, t.confirmed])).to.deep.equal([['zander', 'catch']]);
  });
  it('counts a target found again on another visit in that visit too', () => {
    const again = line(90, [100, 212], [300, 212]);
    const { looks } = deriveLooks(
      trip({ fixes: [...fixes, ...again], sightings: [sighting('a', 0.5, 210, 212), sighting('b', 90.5, 210, 212, { same_as: 'a' })] }),
      cells,
    );
    expect(at(looks, 8, 8).map((l) => l.targets.length)).to.deep.equal([1, 1]);
  });
  it('a contact outside all effort enters no look', () => {
    const { looks, outside } = deriveLooks(trip({ fixes, sightings: [sighting('a', 0.5, 210, 400), sighting('b', 200, 210, 212)] }), cells);
    expect(outside).to.have.members(['a', 'b']);
    expect(looks.flatMap((l) => l.targets)).to.have.length(0);
  });
  it('a fish on the line proves the fishing, not the scanning', () => {
    const { looks } = deriveLooks(
      trip({
        fixes,
        stops: [stop('s', 1, 11, 212, 212, { outcome: 'fish' })],
        sightings: [sighting('a', 5, 212, 212, { view: 'line', stop: 's' })],
      }),
      cells,
    );
    expect(at(looks, 8, 8).map((l) => [l.kind, l.targets.length])).to.deep.equal([
      ['scan', 0],
      ['fish', 1],
    ]);
  });
  it('a fish landed without a mark is a target of its stop', () => {
    const response = {
      at: T0 + 5 * MINUTE,
      row: { trip: 'T', time: '', response: 'landed', stop: 's', species: 'perch', contact: null, depth_m: 4 } as never,
    };
    const { looks } = deriveLooks(
      trip({ stops: [stop('s', 1, 11, 212, 212, { outcome: 'fish' })], responses: [response, response] }),
      cells,
    );
    expect(looks[0].targets.map((t) => [t.species, t.confirmed])).to.deep.equal([['perch', 'catch']]);
  });
});
