import { useState } from 'react';
import type { LatLon } from '@restless-shoal/core/geo';
import type { SpotWish, WeatherHour } from '@restless-shoal/core/passage';

/** What a day's plan is made by, as it is kept on the device for a water. SI. */
export interface PlanSettings {
  /** Hours and minutes of the day, in the water's time; null: dawn, and six hours later. */
  from: string | null;
  to: string | null;
  /** Where one starts and ends; null: the water's access. */
  ramp: LatLon | null;
  /** Where the day ends, a weigh-in or a pier; null: where it began. */
  finish: LatLon | null;
  /** Minutes of the day for search passes, before the first stop. */
  scouting: number;
  /** Any fish, or large ones alone where enough sizes were logged; null: as the trip that runs has it. */
  goal: 'action' | 'size' | null;
  stops: 'any' | 'short' | 'long';
  rods: number;
  waveLimit: number | null;
  cruise: number;
  draught: number;
  /** Litres an hour, and what may be burnt. */
  fuel: { cruise: number; most: number } | null;
  weather: WeatherHour[];
  /** What was set by hand for a spot, by its id. */
  wishes: Record<string, SpotWish>;
  /** The order that was set by hand; empty: as the plan finds best. */
  order: string[];
}

export const USUAL: PlanSettings = {
  from: null,
  to: null,
  ramp: null,
  finish: null,
  scouting: 0,
  goal: null,
  stops: 'any',
  rods: 2,
  waveLimit: 0.4,
  cruise: 9,
  draught: 0.5,
  fuel: null,
  weather: [],
  wishes: {},
  order: [],
};

/** Stays to choose from, minutes. */
export const STAYS_OF = { any: [5, 10, 15, 20, 30, 45, 60], short: [5, 10, 15], long: [30, 45, 60] } as const;

function stored(water: string): PlanSettings {
  try {
    return { ...USUAL, ...(JSON.parse(localStorage.getItem(`plan ${water}`) ?? '{}') as Partial<PlanSettings>) };
  } catch {
    return USUAL;
  }
}

export function usePlanSettings(water: string): [PlanSettings, (change: Partial<PlanSettings>) => void] {
  const [settings, set] = useState(() => stored(water));
  return [
    settings,
    (change) =>
      set((before) => {
        const next = { ...before, ...change };
        localStorage.setItem(`plan ${water}`, JSON.stringify(next));
        return next;
      }),
  ];
}
