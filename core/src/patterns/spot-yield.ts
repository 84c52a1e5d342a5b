import { sunHeight } from '../lake';
import { tideOf, tideState, type TideRecord } from '../tide';
import type { LatLon } from '../geo';

/** A stop at a spot, what it yielded, and the readings of its trip nearest in time; null where nobody read. */
export interface SpotStop {
  /** When it began, as ISO time. */
  start: string;
  minutes: number;
  bites: number;
  landed: number;
  surface_temperature_c: number | null;
  secchi_m: number | null;
  wind_speed_ms: number | null;
  wind_from_deg: number | null;
}

/** What stops at a spot are told apart by. */
export const SPOT_CONDITIONS = ['temperature', 'clarity', 'wind', 'wind-from', 'light', 'tide'] as const;
export type SpotCondition = (typeof SPOT_CONDITIONS)[number];

/** Stops of a spot under one condition. Hours count whether or not anything bit. */
export interface YieldBand {
  condition: SpotCondition;
  /** Of a measure, from and to in SI units; `to` is Infinity where it has no end. */
  range: [from: number, to: number] | null;
  /** Of light and tide, which of their states. */
  state: LightState | TideStateName | null;
  /** Of where the wind comes from, the middle of its eighth, degrees. */
  from: number | null;
  stops: number;
  minutes: number;
  bites: number;
  landed: number;
}

export type LightState = 'dawn' | 'day' | 'dusk' | 'night';
export type TideStateName = 'flood' | 'high' | 'ebb' | 'low';
const LIGHTS: LightState[] = ['dawn', 'day', 'dusk', 'night'];
const TIDES: TideStateName[] = ['flood', 'high', 'ebb', 'low'];

/** Bounds of bands: degrees of 4 °C, clarity and wind as they are spoken of. Judgements. */
const TEMPERATURES = Array.from({ length: 10 }, (_, k) => 4 * k);
const CLARITIES = [0, 1, 2, 4];
const WINDS = [0, 2, 5, 8];
/** The sun stands low below so many degrees, and it is night farther below the horizon than that: as low light is told. */
const LOW_SUN = 6;
/** Slack about high and low water, hours. */
const SLACK = 1;
/** Below this no direction is worth a word, m/s. */
const CALM = 2;

const bandOf = (bounds: number[], value: number): [number, number] => {
  const k = bounds.findLastIndex((from) => value >= from);
  return k < 0 ? [-Infinity, bounds[0]] : [bounds[k], bounds[k + 1] ?? Infinity];
};

/** How the sun stands: low before or after noon, high, or down. */
function lightAt(at: Date, { latitude, longitude }: LatLon): LightState {
  const height = sunHeight(at, latitude, longitude);
  if (height > LOW_SUN) return 'day';
  if (height < -LOW_SUN) return 'night';
  return sunHeight(new Date(at.getTime() + 600_000), latitude, longitude) > height ? 'dawn' : 'dusk';
}

function tideAt(tide: TideRecord | null, at: Date): TideStateName | null {
  const known = tideOf(tide);
  const state = known && tideState(known, at.getTime());
  if (!state || state.fromHigh === null) return null;
  if (Math.abs(state.fromHigh) <= SLACK) return 'high';
  const low = [state.last, state.next].find((t) => t && !t.high && Math.abs(t.at - at.getTime()) <= SLACK * 3_600_000);
  return low ? 'low' : state.rising ? 'flood' : 'ebb';
}

/**
 * What a spot yielded by conditions: each condition that tells its stops apart, its bands in order. A stop counts with the middle of
 * its time; one without a reading is in no band of it. A condition with one band alone says nothing and is left out.
 * @param tide of its water, null where there is none
 */
export function spotYield(stops: readonly SpotStop[], place: LatLon, tide: TideRecord | null): YieldBand[] {
  const bands = new Map<string, YieldBand & { order: number }>();
  const add = (
    stop: SpotStop,
    condition: SpotCondition,
    key: Partial<Pick<YieldBand, 'range' | 'state' | 'from'>>,
    order: number,
  ): void => {
    const name = `${condition} ${order}`;
    const band = bands.get(name) ?? {
      condition,
      range: null,
      state: null,
      from: null,
      ...key,
      stops: 0,
      minutes: 0,
      bites: 0,
      landed: 0,
      order,
    };
    bands.set(name, band);
    band.stops++;
    band.minutes += stop.minutes;
    band.bites += stop.bites;
    band.landed += stop.landed;
  };
  for (const stop of stops) {
    const measured = (condition: SpotCondition, bounds: number[], value: number | null): void => {
      if (value === null) return;
      const range = bandOf(bounds, value);
      add(stop, condition, { range }, range[0]);
    };
    const stated = <T extends NonNullable<YieldBand['state']>>(condition: SpotCondition, states: T[], state: T | null): void => {
      if (state !== null) add(stop, condition, { state }, states.indexOf(state));
    };
    const middle = new Date(Date.parse(stop.start) + stop.minutes * 30_000);
    measured('temperature', TEMPERATURES, stop.surface_temperature_c);
    measured('clarity', CLARITIES, stop.secchi_m);
    measured('wind', WINDS, stop.wind_speed_ms);
    if (stop.wind_from_deg !== null && (stop.wind_speed_ms ?? CALM) >= CALM) {
      const from = (45 * Math.round(stop.wind_from_deg / 45)) % 360;
      add(stop, 'wind-from', { from }, from);
    }
    stated('light', LIGHTS, lightAt(middle, place));
    stated('tide', TIDES, tideAt(tide, middle));
  }
  const all = [...bands.values()];
  return SPOT_CONDITIONS.flatMap((condition) => {
    const own = all.filter((b) => b.condition === condition).sort((a, b) => a.order - b.order);
    return own.length > 1 ? own.map(({ order: _, ...band }) => band) : [];
  });
}
