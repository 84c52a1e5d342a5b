import type { LoggedTrip } from '../../api/queries';
import { dayKey } from '../../parts/format';

/** Which trips are listed; all of it stands in the address. Empty: all. */
export interface TripFilters {
  /** Written somewhere in the trip. */
  words: string;
  /** Id of a water. */
  water: string;
  /** "2025" */
  year: string;
  /** "01" to "12": the same time of every year. */
  month: string;
  /** "2026-05-02" */
  day: string;
  species: string;
  purpose: string;
}

const NAMES: Record<keyof TripFilters, string> = {
  words: 'q',
  water: 'of',
  year: 'year',
  month: 'month',
  day: 'day',
  species: 'fish',
  purpose: 'for',
};
const KEYS = Object.keys(NAMES) as (keyof TripFilters)[];

export const filtersOf = (address: URLSearchParams): TripFilters =>
  Object.fromEntries(KEYS.map((key) => [key, address.get(NAMES[key]) ?? ''])) as unknown as TripFilters;

/** The address with some filters changed; what is empty does not stand in it. */
export function withFilters(address: URLSearchParams, change: Partial<TripFilters>): URLSearchParams {
  const next = new URLSearchParams(address);
  for (const key of Object.keys(change) as (keyof TripFilters)[])
    if (change[key]) next.set(NAMES[key], change[key]);
    else next.delete(NAMES[key]);
  return next;
}

/** Whether anything is left out. */
export const isFiltered = (filters: TripFilters): boolean => KEYS.some((key) => filters[key] !== '');

/** The day that a trip began, on its water. */
export const dayOf = ({ start, time_zone }: Pick<LoggedTrip, 'start' | 'time_zone'>): string => dayKey(new Date(start), time_zone);

/** Whether a trip is listed, apart from what is written in it. */
export function isListed(trip: LoggedTrip, { water, year, month, day, species, purpose }: TripFilters): boolean {
  if (water && trip.water_id !== water) return false;
  if (purpose && trip.purpose !== purpose) return false;
  if (species && ![...trip.fish, ...trip.landed].some(([name]) => name === species)) return false;
  if (!year && !month && !day) return true;
  const on = dayOf(trip);
  return on.startsWith(year) && (!month || on.slice(5, 7) === month) && (!day || on === day);
}

/** What can be chosen: years, the last first, and species, those seen on most trips first. */
export function choicesOf(trips: LoggedTrip[]): { years: string[]; species: string[]; purposes: string[] } {
  const species = new Map<string, number>();
  for (const { fish, landed } of trips)
    for (const name of new Set([...fish, ...landed].map(([name]) => name))) if (name) species.set(name, (species.get(name) ?? 0) + 1);
  return {
    years: [...new Set(trips.map((t) => dayOf(t).slice(0, 4)))].sort().reverse(),
    species: [...species].sort((a, b) => b[1] - a[1]).map(([name]) => name),
    purposes: [...new Set(trips.flatMap((t) => t.purpose ?? []))].sort(),
  };
}

/** Hours between the ramp and the ramp; null for a trip that runs. */
export const hoursOf = ({ start, end }: Pick<LoggedTrip, 'start' | 'end'>): number | null =>
  end === null ? null : (Date.parse(end) - Date.parse(start)) / 3_600_000;

/** What all of some trips come to. */
export function sumOf(trips: LoggedTrip[]): { trips: number; hours: number; looks: number; marks: number; landed: number } {
  const sum = { trips: trips.length, hours: 0, looks: 0, marks: 0, landed: 0 };
  for (const t of trips) {
    sum.hours += hoursOf(t) ?? 0;
    sum.looks += t.looks ?? 0;
    sum.marks += t.marks;
    sum.landed += t.landed.reduce((n, [, fish]) => n + fish, 0);
  }
  return sum;
}
