import { isBite } from '@restless-shoal/core/logbook';
import type { StoredContact, StoredReading, StoredResponse, StoredStop, TripDetail } from '../../api/queries';

/** What a day came to, for somebody who was there. */
export interface ReportFacts {
  /** Fish landed, in order of time. */
  landed: StoredResponse[];
  /** Bites: landed, lost and missed ones. */
  bites: number;
  /** Lures that fish bit on, the best first. */
  lures: { lure: string; bites: number; landed: number }[];
  /** Depths that fish were landed from, m; null where none was said. */
  depths: [least: number, most: number] | null;
  /** Fish seen on the screen, by species, the most first; '' where not identified. */
  seen: [species: string, marks: number][];
  /** Stops that were fished, and minutes of them. */
  stops: number;
  minutes: number;
  /** First value that was read of each. */
  surface: number | null;
  clarity: number | null;
  wind: { from: number | null; speed: number } | null;
}

const minutesOf = ({ start, end }: StoredStop): number => (Date.parse(end) - Date.parse(start)) / 60_000;
const seenOf = (contacts: StoredContact[]): [string, number][] => {
  const by = new Map<string, number>();
  for (const c of contacts) if (c.kind === 'fish') by.set(c.species ?? '', (by.get(c.species ?? '') ?? 0) + 1);
  return [...by].sort((a, b) => b[1] - a[1]);
};

export function reportFacts({ contacts, stops, responses }: TripDetail, readings: readonly StoredReading[]): ReportFacts {
  const bit = responses.filter((r) => isBite(r.response));
  const landed = bit.filter((r) => r.response === 'landed').sort((a, b) => a.time.localeCompare(b.time));
  const lures = new Map<string, { lure: string; bites: number; landed: number }>();
  for (const { lure, response } of bit) {
    if (lure === null) continue;
    const of = lures.get(lure) ?? { lure, bites: 0, landed: 0 };
    lures.set(lure, of);
    of.bites++;
    if (response === 'landed') of.landed++;
  }
  const depths = landed.flatMap((r) => r.depth_m ?? []);
  const fished = stops.filter((s) => minutesOf(s) > 0);
  const windy = readings.find((r) => r.wind_speed_ms !== null);
  return {
    landed,
    bites: bit.length,
    lures: [...lures.values()].sort((a, b) => b.landed - a.landed || b.bites - a.bites),
    depths: depths.length ? [Math.min(...depths), Math.max(...depths)] : null,
    seen: seenOf(contacts),
    stops: fished.length,
    minutes: fished.reduce((sum, s) => sum + minutesOf(s), 0),
    surface: readings.find((r) => r.surface_temperature_c !== null)?.surface_temperature_c ?? null,
    clarity: readings.find((r) => r.secchi_m !== null)?.secchi_m ?? null,
    wind: windy ? { from: windy.wind_from_deg, speed: windy.wind_speed_ms! } : null,
  };
}
