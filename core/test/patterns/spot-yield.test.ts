import { expect } from 'chai';
import { spotYield, type SpotStop } from '../../src/patterns';
import { NO_TIDE } from '../../src/tide';

const PLACE = { latitude: 48.2, longitude: 0 };
const stop = (more: Partial<SpotStop>): SpotStop => ({
  start: '2026-06-21T12:00:00.000Z',
  minutes: 30,
  bites: 1,
  landed: 0,
  surface_temperature_c: null,
  secchi_m: null,
  wind_speed_ms: null,
  wind_from_deg: null,
  ...more,
});

describe('what a spot yielded by conditions', () => {
  it('adds stops, hours, bites and fish up by band, each stop once, blanks too', () => {
    const stops = [
      stop({ surface_temperature_c: 7.9, bites: 0 }),
      stop({ surface_temperature_c: 8, bites: 3, landed: 2 }),
      stop({ surface_temperature_c: 11.9, minutes: 60, bites: 1, landed: 1 }),
      // Nobody read the water then: in no band.
      stop({ bites: 9 }),
    ];
    const bands = spotYield(stops, PLACE, null).filter((b) => b.condition === 'temperature');
    expect(bands.map(({ range, stops: n, minutes, bites, landed }) => [range, n, minutes, bites, landed])).to.deep.equal([
      [[4, 8], 1, 30, 0, 0],
      [[8, 12], 2, 90, 4, 3],
    ]);
  });

  it('says nothing by what was the same each time', () => {
    const twice = [stop({ wind_speed_ms: 3, wind_from_deg: 190 }), stop({ wind_speed_ms: 4, wind_from_deg: 170 })];
    expect(spotYield(twice, PLACE, null)).to.deep.equal([]);
    expect(spotYield([], PLACE, null)).to.deep.equal([]);
  });

  it('tells a low sun before noon from one after it, and night from day', () => {
    // At the solstice at 48° north on the Greenwich meridian the sun rises about 04:00 and sets about 20:05 UTC.
    const at = (clock: string): SpotStop => stop({ start: `2026-06-21T${clock}:00.000Z`, minutes: 10 });
    const states = (clocks: string[]): (string | null)[] => spotYield(clocks.map(at), PLACE, null).map((b) => b.state);
    expect(states(['04:10', '12:00'])).to.deep.equal(['dawn', 'day']);
    expect(states(['00:30', '19:55'])).to.deep.equal(['dusk', 'night']);
  });

  it('takes a wind from 350 degrees for one from the north, and a calm for none', () => {
    const winds = [[350, 4], [10, 4], [92, 4], [180, 1]].map(([from, speed]) => stop({ wind_from_deg: from, wind_speed_ms: speed })); // prettier-ignore
    const bands = spotYield(winds, PLACE, null).filter((b) => b.condition === 'wind-from');
    expect(bands.map((b) => [b.from, b.stops])).to.deep.equal([
      [0, 2],
      [90, 1],
    ]);
  });

  it('knows flood from ebb and both from slack where the water has a tide', () => {
    const hour = (h: number): string => new Date(Date.UTC(2026, 5, 21, h)).toISOString();
    const turns = Array.from({ length: 21 }, (_, k) => ({ time: hour(6 * (k - 8)), height_m: k % 2 ? 0.5 : 3.5 }));
    const tide = { ...NO_TIDE, turns };
    const bands = spotYield([1, 3, 6, 9, 12].map((h) => stop({ start: hour(h), minutes: 10 })), PLACE, tide); // prettier-ignore
    expect(bands.filter((b) => b.condition === 'tide').map((b) => [b.state, b.stops])).to.deep.equal([
      ['flood', 1],
      ['high', 1],
      ['ebb', 2],
      ['low', 1],
    ]);
  });
});
