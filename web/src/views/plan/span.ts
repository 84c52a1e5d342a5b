import type { LatLon } from '@restless-shoal/core/geo';
import { lowLight } from '@restless-shoal/core/lake';
import type { SpotTime } from '@restless-shoal/core/passage';
import { fromLocalInput, toLocalInput } from '../../parts/format';
import type { PlanSettings } from './settings';

const HOUR = 3_600_000;
/** To the nearest five minutes: a plan is not made anew with every second. */
const inFives = (ms: number): number => Math.round(ms / 300_000) * 300_000;

/** The day that is planned, in the water's time. */
export interface PlannedSpan {
  /** ms */
  from: number;
  to: number;
  /** When the first stop may begin: after what is left of the time for search passes, ms. */
  stopsFrom: number;
  /** As they stand in the fields. */
  fromClock: string;
  toClock: string;
}

/** From dawn to six hours later, unless said otherwise; on the water from now on. @param underway since when a trip runs, ms; null: none does */
export function spanOf(
  { from, to, scouting }: PlanSettings,
  at: Date,
  zone: string | null,
  place: LatLon,
  underway: number | null,
): PlannedSpan {
  const day = toLocalInput(at, zone).slice(0, 10);
  const clock = (ms: number): string => toLocalInput(new Date(ms), zone).slice(11, 16);
  const dawn = lowLight(at, place.latitude, place.longitude).windows.find((w) => w.name === 'dawn');
  const first = underway !== null ? at.getTime() : (dawn?.from.getTime() ?? at.getTime());
  const set = from === null ? inFives(first) : (fromLocalInput(`${day}T${from}`, zone)?.getTime() ?? first);
  const begins = underway === null ? set : Math.max(set, inFives(at.getTime()));
  const ends = to === null ? begins + 6 * HOUR : (fromLocalInput(`${day}T${to}`, zone)?.getTime() ?? begins);
  // On the water the time since the start has gone into it.
  const scouted = underway === null ? 0 : Math.max(0, begins - underway);
  const stopsFrom = begins + Math.max(0, scouting * 60_000 - scouted);
  return { from: begins, to: ends, stopsFrom, fromClock: from ?? clock(begins), toClock: to ?? clock(ends) };
}

/** Dawn and dusk of a day that is planned, ms. */
export function timesOf(from: number, to: number, { latitude, longitude }: LatLon): Partial<Record<SpotTime, [number, number]>> {
  const out: Partial<Record<SpotTime, [number, number]>> = {};
  for (const { name, from: begins, to: ends } of lowLight(new Date((from + to) / 2), latitude, longitude).windows)
    if (name === 'dawn' || name === 'dusk') out[name] = [begins.getTime(), ends.getTime()];
  return out;
}
