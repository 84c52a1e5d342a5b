import { expect } from 'chai';
import { rodHours, type RodHoursInput } from '../../src/patterns';
import { seeded } from '../../src/numbers';

const day = (k: number, hour: number): string => new Date(Date.UTC(2025, 5, 1 + k, hour)).toISOString();
const stop = (trip: string, k: number, hours: number, rods: number | null = null): RodHoursInput['stops'][number] => ({
  trip_id: trip,
  trip,
  stop: `${trip} ${k}`,
  start: day(k, 6),
  end: new Date(Date.parse(day(k, 6)) + hours * 3_600_000).toISOString(),
  latitude: 52,
  longitude: 13,
  radius_m: 25,
  rods,
  outcome: 'fish',
  boats_near: null,
  notes: null,
});
const fish = (trip: string, of: string | null, more: object = {}): RodHoursInput['responses'][number] =>
  ({ trip_id: trip, trip, time: day(0, 7), response: 'landed', stop: of, species: 'perch', lure: 'jig', depth_m: 4, ...more }) as never;
const input = (more: Partial<RodHoursInput>): RodHoursInput => ({
  trips: [],
  stops: [],
  responses: [],
  readings: [],
  depthAt: () => NaN,
  is: (s) => s === 'perch',
  latitude: 52,
  longitude: 13,
  localOf: (at) => ({ month: new Date(at).getUTCMonth() + 1, clock: new Date(at).toISOString().slice(11, 23) }),
  ...more,
});

describe('rates by rod-hour', () => {
  it('are fish over hours times rods; what no stop says counts on trips without a track alone', () => {
    const trips = [
      { id: 'a', start: day(0, 6), end: day(0, 10), tracked: true },
      { id: 'b', start: day(1, 6), end: day(1, 10), tracked: false },
    ];
    const stops = [stop('a', 0, 2, 2), stop('b', 1, 1)];
    const responses = [fish('a', 'a 0'), fish('a', 'a 0', { response: 'lost' }), fish('b', null), fish('b', 'b 1', { species: 'pike' })];
    const { overall, unit, placeless } = rodHours(input({ trips, stops, responses }));
    // 2 h with two rods; 1 h at the stop of the other trip and 3 h of which no place is said.
    expect(overall).to.include({ trips: 2, hours: 8, fish: 2, bites: 3, rate: 0.25 });
    expect({ unit, placeless }).to.deep.equal({ unit: 'rod-hour', placeless: 1 });
  });
  it('are per trip where no hours are logged', () => {
    const trips = [0, 1, 2, 3].map((k) => ({ id: `${k}`, start: day(k, 12), end: day(k, 12), tracked: false }));
    const responses = [fish('0', null), fish('0', null), fish('2', null)];
    const { overall, unit } = rodHours(input({ trips, responses }));
    expect(unit).to.equal('trip');
    // Trips without a fish, hour or stop say nothing of having been fished.
    expect(overall).to.include({ trips: 2, fish: 3, rate: 1.5 });
  });
  it('by temperature go by the trip’s own reading; depths and lures of fish without an effort are counts', () => {
    const trips = [0, 1].map((k) => ({ id: `${k}`, start: day(k, 6), end: day(k, 8), tracked: false }));
    const readings = trips.map((t, k) => ({ trip_id: t.id, time: t.start, surface_temperature_c: k ? 18 : 10, secchi_m: null, wind_speed_ms: null }) as never); // prettier-ignore
    const { tables } = rodHours(input({ trips, readings, responses: [fish('1', null), fish('1', null, { lure: 'spoon', depth_m: 7 })] }));
    const of = (kind: string) => tables.find((t) => t.kind === kind)!;
    expect(of('temperature').classes.map((c) => [c.from, c.hours, c.fish, c.rate])).to.deep.equal([
      [8, 2, 0, 0],
      [16, 2, 2, 1],
    ]);
    expect(of('depth').countsOnly).to.equal(true);
    expect(of('lure').classes.map((c) => [c.name, c.fish])).to.deep.equal([
      ['jig', 1],
      ['spoon', 1],
    ]);
  });
  it('hold the true rate in about eight of ten intervals, though fish come by trips', () => {
    const random = seeded(5);
    const poisson = (mean: number): number => {
      let [k, p] = [0, random()];
      for (const least = Math.exp(-mean); p > least; k++) p *= random();
      return k;
    };
    let held = 0;
    const logs = 150;
    for (let log = 0; log < logs; log++) {
      const trips = Array.from({ length: 30 }, (_, k) => ({ id: `${k}`, start: day(k, 6), end: day(k, 10), tracked: false }));
      // Good days and bad ones: gamma-like, with a mean of one.
      const responses = trips.flatMap((t) =>
        Array.from({ length: poisson(4 * 0.5 * (random() < 0.5 ? 0.4 : 1.6)) }, () => fish(t.id, null)),
      );
      const { overall } = rodHours(input({ trips, responses }));
      if (overall.low <= 0.5 && overall.high >= 0.5) held++;
    }
    expect(held / logs).to.be.within(0.68, 0.9);
  });
});
