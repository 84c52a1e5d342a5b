import { useQueryClient } from '@tanstack/react-query';
import { createContext, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { chartAtLevel, emptyChart, packChart, type Chart } from '@restless-shoal/core/chart';
import type { Statement } from '@restless-shoal/core/statements';
import {
  type CarriedCode,
  groupProfiles,
  conditionsFromLog,
  dayFor,
  frameLength,
  levelBaseOf,
  surfaceReadings,
  waterYearOf,
  type Conditions,
  type Day,
  type WaterFrame,
} from '@restless-shoal/core/forecast';
import { usualCourse, type UsualCourse, type WaterSort } from '@restless-shoal/core/lake';
import { metricPlane, ringsCentroid, utmEpsg } from '@restless-shoal/core/geo';
import { likelyTarget, readDepthRule, seasonOf, type Season, type SpeciesProfile } from '@restless-shoal/core/species';
import { appliedLog, ofLog, since } from '../offline/apply';
import { useOutbox } from '../offline/device';
import type { Pulse } from '@restless-shoal/core/contract';
import { useChart, useLog, usePulse, useWater, type TripRow, type Water, type WaterLog } from '../api/queries';
import { useWhatIf, type WhatIf } from './what-if';
import { app as msg } from '../words';

/** All views work on this: the water in use, its chart and log, and the conditions of the Strip. */
export interface WaterState {
  water: Water;
  /** Its chart at the level of the day; null while no depth is known. */
  chart: Chart | null;
  /** What it can be drawn on: its chart, one of its outline alone, or an empty one where it lies; null where nobody said where. */
  ground: Chart | null;
  /** The ground as bytes, for handing it to a worker. */
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
  /** What the water is: what is of a lake alone is said of no other. */
  sort: WaterSort;
  /** The season of the species: its stage, the year, what comes next. */
  season: Season;
  /** This water's own usual surface temperatures. */
  course: UsualCourse;
  /** What of the conditions was carried over or modelled, in words; and when the water was last read. */
  said: Statement<CarriedCode>[];
  readAt: Date | null;
  whatIf: WhatIf;
  setWhatIf: (change: WhatIf | null) => void;
  /** The trip that runs, if one does. */
  running: TripRow | null;
}

/** The water that is open, or why it is not yet. */
const Context = createContext<{ state: WaterState | null; failed: Error | null }>({ state: null, failed: null });

export function useWaterState(): WaterState {
  const { state } = useContext(Context);
  if (!state) throw new Error(msg('water.noWaterIsOpen'));
  return state;
}

/** What needs the open water, once it is there. */
export function WaterReady({ fallback, children }: { fallback: (failed: Error | null) => ReactNode; children: ReactNode }) {
  const { state, failed } = useContext(Context);
  return state ? children : fallback(failed);
}

const RECENT = 14 * 86_400_000;

/** The moment the Strip speaks of: now while a trip runs or the log is fresh, else the end of what was logged. */
function logMoment(log: WaterLog, running: TripRow | null): Date {
  const last = log.readings[log.readings.length - 1];
  const now = Date.now();
  if (running || !last || now - Date.parse(last.time) < RECENT) return new Date(now);
  return new Date(Date.parse(last.time));
}

/** Deepest water where nobody said how deep it is, m. */
const USUAL_DEEPEST = 10;

function frameOf(water: Water, chart: Chart | null, ground: Chart | null): WaterFrame {
  const at = water.latitude !== null && water.longitude !== null ? { latitude: water.latitude, longitude: water.longitude } : null;
  const centre = water.outline ? ringsCentroid(water.outline) : (at ?? { latitude: 45, longitude: 0 });
  return {
    ...centre,
    altitude: water.altitude_m ?? 0,
    deepest: Math.max(1, chart?.deepest ?? water.deepest_m ?? USUAL_DEEPEST),
    lengthKm: ground?.cells.count ? frameLength(ground.cells.column, ground.cells.row) : 1,
    kind: water.kind,
    tide: water.tide,
    rule: readDepthRule(water.rules, water.kind),
  };
}

/** An empty chart where a water lies; where nobody said where, anywhere. */
function emptyGround({ latitude, longitude }: Water): { chart: Chart; bytes: Uint8Array } {
  const at = { latitude: latitude ?? 45, longitude: longitude ?? 0 };
  const epsg = utmEpsg(at);
  const chart = emptyChart(epsg, metricPlane(epsg).toMetric(at));
  return { chart, bytes: packChart(chart) };
}

/** Takes up what other devices have changed, within a few seconds. */
function useOthersChanges(id: string): void {
  const queries = useQueryClient();
  const { data: pulse } = usePulse(id);
  const before = useRef<Pulse | null>(null);
  useEffect(() => {
    const last = before.current;
    before.current = pulse ?? null;
    if (!pulse || !last) return;
    const again = (...keys: string[]): void => keys.forEach((key) => void queries.invalidateQueries({ queryKey: [key, id] }));
    if (pulse.chart !== last.chart) again('chart', 'water', 'looks', 'logbook', 'soundings', 'surveys');
    else if (pulse.water !== last.water) again('water');
    if (pulse.log !== last.log) {
      for (const trip of [...pulse.running, ...last.running])
        if (pulse.running.find((t) => t.id === trip.id)?.changed_at !== last.running.find((t) => t.id === trip.id)?.changed_at)
          void queries.invalidateQueries({ queryKey: ['trip', trip.id] });
      // Trips that began, ended or were changed, and readings of the water.
      for (const key of [['log', id], ['trips']]) void queries.invalidateQueries({ queryKey: key });
    }
  }, [pulse, queries, id]);
}

/** Opens a water for all views below. */
export function WaterProvider({ id, children }: { id: string; children: ReactNode }) {
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
  const [whatIf, setWhatIf] = useWhatIf();
  useOthersChanges(id);

  // Grouped once a log: while a finger drags a what-if, a water's profiles stay what they are, and their layers are known.
  const profiles = log.data?.profiles;
  const datedProfiles = useMemo(() => groupProfiles(profiles ?? []), [profiles]);

  const base = useMemo(() => chart.data ?? (water.data && chart.data === null ? emptyGround(water.data) : null), [chart.data, water.data]);
  const state = useMemo((): WaterState | null => {
    if (!water.data || !log.data || chart.data === undefined) return null;
    const running = [...log.data.trips].reverse().find((t) => t.end === null) ?? null;
    // An outline without a sounding is no chart yet.
    const loaded = chart.data && chart.data.chart.soundings > 0 ? chart.data.chart : null;
    const place = frameOf(water.data, loaded, base?.chart ?? null);
    const at = whatIf.at ?? logMoment(log.data, running);
    const readings = log.data.readings.map((row) => ({ at: Date.parse(row.time), row }));
    const surfaces = surfaceReadings(readings);
    const course = usualCourse(surfaces, place.latitude, place.altitude);
    const frame = { ...place, course, levelBase: levelBaseOf(readings, place.altitude) };
    const logged = conditionsFromLog(readings, at, frame);
    const { currentSpeed, currentTo, ...set } = whatIf;
    const read = logged.conditions.current;
    const current =
      currentSpeed === undefined && currentTo === undefined
        ? read
        : { rate: currentSpeed ?? read?.rate ?? 0, set: currentTo ?? read?.set ?? 0 };
    const conditions: Conditions = { ...logged.conditions, ...set, current, at, thermoclineSet: whatIf.thermoclineSet ?? null };
    const named = (name: string | null | undefined): SpeciesProfile | undefined => water.data!.species.find((s) => s.name === name);
    const known = named(speciesName) ?? named(water.data.logged[0]);
    const species = known ?? likelyTarget(water.data.species, { kind: water.data.kind, latitude: frame.latitude });
    const day = dayFor(conditions, frame, datedProfiles);
    return {
      water: water.data,
      chart: loaded && chartAtLevel(loaded, day.level),
      // Of a water that lies nobody knows where there is nothing to draw.
      ground: base && (chart.data || water.data.latitude !== null) ? chartAtLevel(base.chart, day.level) : null,
      chartBytes: base?.bytes ?? null,
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
      day,
      sort: day.sort,
      season: seasonOf(species, {
        at,
        surface: conditions.surface,
        readings: surfaces,
        levelTrend: conditions.levelTrend,
        latitude: frame.latitude,
        course,
        year: waterYearOf(frame),
      }),
      course,
      said: logged.said,
      readAt: logged.readAt,
      whatIf,
      setWhatIf,
      running,
    };
  }, [id, water.data, chart.data, base, log.data, whatIf, setWhatIf, speciesName, datedProfiles]);

  const failed = water.error ?? chart.error ?? log.error;
  const open = useMemo(() => ({ state, failed }), [state, failed]);
  return <Context.Provider value={open}>{children}</Context.Provider>;
}
