import { createContext, useContext, useMemo, useState, type ReactNode } from 'react';
import type { Chart } from '@restless-shoal/core/chart';
import { castsOf, conditionsFromLog, dayFor, frameLength, type Conditions, type Day, type WaterFrame } from '@restless-shoal/core/forecast';
import { ringsCentroid } from '@restless-shoal/core/geo';
import {
  likelyTarget,
  readDepthRule,
  seasonOf,
  usualCourse,
  type Season,
  type SpeciesProfile,
  type UsualCourse,
} from '@restless-shoal/core/species';
import { appliedLog, ofLog, since } from '../offline/apply';
import { useOutbox } from '../offline/device';
import { useChart, useLog, useWater, type TripRow, type Water, type WaterLog } from '../api/queries';

/** What somebody set by hand in the Strip; what is left out comes from the log. */
export interface WhatIf {
  at?: Date;
  surface?: number;
  secchi?: number;
  windFrom?: number;
  windSpeed?: number;
  level?: number;
  levelTrend?: number;
  thermoclineSet?: { top: number; bottom: number };
}

/** All views work on this: the water in use, its chart and log, and the conditions of the Strip. */
export interface WaterState {
  water: Water;
  chart: Chart | null;
  chartBytes: Uint8Array | null;
  log: WaterLog;
  frame: WaterFrame;
  /** The target species. */
  species: SpeciesProfile;
  /** Whether somebody chose it, or the log did; else it is a guess that every view says is one. */
  speciesKnown: boolean;
  setSpecies: (name: string) => void;
  conditions: Conditions;
  day: Day;
  /** The season of the species: its stage, the year, what comes next. */
  season: Season;
  /** This water's own usual surface temperatures. */
  course: UsualCourse;
  /** What of the conditions was carried over or modelled, in words; and when the water was last read. */
  said: string[];
  readAt: Date | null;
  whatIf: WhatIf;
  setWhatIf: (change: WhatIf | null) => void;
  /** The trip that runs, if one does. */
  running: TripRow | null;
}

const Context = createContext<WaterState | null>(null);

export function useWaterState(): WaterState {
  const state = useContext(Context);
  if (!state) throw new Error('no water is open');
  return state;
}

const RECENT = 14 * 86_400_000;

/** The moment the Strip speaks of: now while a trip runs or the log is fresh, else the end of what was logged. */
function logMoment(log: WaterLog, running: TripRow | null): Date {
  const last = log.readings[log.readings.length - 1];
  const now = Date.now();
  if (running || !last || now - Date.parse(last.time) < RECENT) return new Date(now);
  return new Date(Date.parse(last.time));
}

function frameOf(water: Water, chart: Chart | null): WaterFrame {
  const centre = water.outline ? ringsCentroid(water.outline) : { latitude: 45, longitude: 0 };
  return {
    ...centre,
    altitude: water.altitude_m ?? 0,
    deepest: Math.max(1, chart?.deepest ?? 10),
    lengthKm: chart ? frameLength(chart.cells.column, chart.cells.row) : 1,
    rule: readDepthRule(water.rules),
  };
}

/** Opens a water for all views below. */
export function WaterProvider({
  id,
  fallback,
  children,
}: {
  id: string;
  fallback: (failed: Error | null) => ReactNode;
  children: ReactNode;
}) {
  const water = useWater(id);
  const chart = useChart(id);
  const served = useLog(id);
  const kept = useOutbox();
  // Marks do not touch the log of the water: what is worked out from it stays as it is when one is made.
  const pending = served.data ? since(kept, served.data.asOf).filter((e) => ofLog(e, id)) : [];
  const pendingKey = pending.map((e) => e.seq).join(' ');
  const log = useMemo(
    () => ({ data: served.data && appliedLog(served.data, id, pending), error: served.error }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key stands for the entries
    [served.data, served.error, id, pendingKey],
  );
  const [speciesName, setSpecies] = useState(() => localStorage.getItem(`species ${id}`) ?? localStorage.getItem('species'));
  const [whatIf, setWhatIf] = useState<WhatIf>({});

  // Grouped once a log: while a finger drags a what-if, a water's casts stay what they are, and their layers are known.
  const profiles = log.data?.profiles;
  const casts = useMemo(() => castsOf(profiles ?? []), [profiles]);

  const state = useMemo((): WaterState | null => {
    if (!water.data || !log.data || chart.data === undefined) return null;
    const running = [...log.data.trips].reverse().find((t) => t.end === null) ?? null;
    // An outline without a sounding is no chart yet.
    const loaded = chart.data && chart.data.chart.soundings > 0 ? chart.data.chart : null;
    const frame = frameOf(water.data, loaded);
    const at = whatIf.at ?? logMoment(log.data, running);
    const readings = log.data.readings.map((row) => ({ at: Date.parse(row.time), row }));
    const logged = conditionsFromLog(readings, at, frame);
    const conditions: Conditions = { ...logged.conditions, ...whatIf, at, thermoclineSet: whatIf.thermoclineSet ?? null };
    const named = (name: string | null | undefined): SpeciesProfile | undefined => water.data!.species.find((s) => s.name === name);
    const known = named(speciesName) ?? named(water.data.logged[0]);
    const species = known ?? likelyTarget(water.data.species, { kind: water.data.kind, latitude: frame.latitude });
    const surfaceReadings = readings.flatMap((r) =>
      r.row.surface_temperature_c === null ? [] : [{ at: r.at, surface: r.row.surface_temperature_c }],
    );
    const course = usualCourse(surfaceReadings, frame.latitude);
    return {
      water: water.data,
      chart: loaded,
      chartBytes: chart.data?.bytes ?? null,
      log: log.data,
      frame,
      species,
      speciesKnown: known !== undefined,
      setSpecies: (name) => {
        // Of this water, and for the next one that has the same fish.
        localStorage.setItem(`species ${id}`, name);
        localStorage.setItem('species', name);
        setSpecies(name);
      },
      conditions,
      day: dayFor(conditions, frame, casts),
      season: seasonOf(species, {
        at,
        surface: conditions.surface,
        readings: surfaceReadings,
        levelTrend: conditions.levelTrend,
        latitude: frame.latitude,
        course,
      }),
      course,
      said: logged.said,
      readAt: logged.readAt,
      whatIf,
      setWhatIf: (change) => setWhatIf((before) => (change === null ? {} : { ...before, ...change })),
      running,
    };
  }, [id, water.data, chart.data, log.data, whatIf, speciesName, casts]);

  const failed = water.error ?? chart.error ?? log.error;
  if (!state) return <>{fallback(failed)}</>;
  return <Context.Provider value={state}>{children}</Context.Provider>;
}
