import type { TrashItem } from '@restless-shoal/core/contract';
import type { Outcome, ScoreCard } from '@restless-shoal/core/forecast';
import { queryOptions, useQuery, type UseQueryResult } from '@tanstack/react-query';
import { unpackChart, unpackSoundings, type Chart, type CleanSettings, type PlacedSoundings } from '@restless-shoal/core/chart';
import type { OutlineGeometry } from '@restless-shoal/core/geo';
import type { Contact, CoverFeature, Look, ProfileRow, Reading, Response, Stop, TrackFix } from '@restless-shoal/core/logbook';
import type { RodHours } from '@restless-shoal/core/patterns';
import type { SpeciesProfile } from '@restless-shoal/core/species';
import { getAsOf, getBinary, getJson } from './client';

export interface WaterSummary {
  id: string;
  name: string;
  kind: string | null;
  time_zone: string | null;
  altitude_m: number | null;
  /** Where it lies, where no outline says so, and how deep it is at the most, as somebody said. */
  latitude: number | null;
  longitude: number | null;
  deepest_m: number | null;
  archived_at: string | null;
  trips: number;
  contacts: number;
  soundings: number | null;
}

export interface Water extends WaterSummary {
  epsg: number | null;
  outline: OutlineGeometry | null;
  outline_proposed: boolean;
  cover: (CoverFeature & { id: number })[];
  species: SpeciesProfile[];
  /** Names of the species that the log holds, most seen first. */
  logged: string[];
  forage: string[] | null;
  rules: unknown;
  cleaning: CleanSettings | null;
}

export interface TripRow {
  id: string;
  trip: string;
  start: string;
  end: string | null;
  purpose: string | null;
  goal: string | null;
}

export interface WaterLog {
  /** What the server had taken by then, ms, is in it. */
  asOf: number;
  trips: TripRow[];
  readings: Reading[];
  profiles: ProfileRow[];
}

/** A record as the server has it; without a version it is what this device made of it. */
export type StoredContact = Contact & { id: string; trip_id: string; version?: number };
export type StoredStop = Stop & { id: string; version?: number };

export interface TripDetail {
  /** What the server had taken by then, ms, is in it. */
  asOf: number;
  trip: TripRow;
  track: TrackFix[];
  stops: StoredStop[];
  contacts: StoredContact[];
  responses: (Response & { id: string })[];
}

export interface TripLooks {
  trip: string;
  looks: Look[];
  outside: number;
}

export interface FitState {
  bytes: Uint8Array;
  fittedAt: string;
  stale: boolean;
}

export interface JobState {
  id: string;
  kind: 'fit' | 'score' | 'chart' | 'import';
  state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
  share: number;
  /** What it is at. */
  words: string | null;
  error: string | null;
  result: unknown;
}

export interface Survey {
  id: number;
  source: string;
  imported_at: string;
  soundings: number;
}

export const useWaters = (): UseQueryResult<WaterSummary[]> =>
  useQuery({ queryKey: ['waters'], queryFn: () => getJson<WaterSummary[]>('/waters') });

export const waterQuery = (id: string) => queryOptions({ queryKey: ['water', id], queryFn: () => getJson<Water>(`/waters/${id}`) });
export const useWater = (id: string): UseQueryResult<Water> => useQuery(waterQuery(id));

/** The chart with the bytes it came in, for handing it to a worker; null while there is none. */
export const useChart = (id: string): UseQueryResult<{ chart: Chart; bytes: Uint8Array } | null> =>
  useQuery({
    queryKey: ['chart', id],
    staleTime: Infinity,
    queryFn: async () => {
      const found = await getBinary(`/waters/${id}/chart`);
      return found && { chart: unpackChart(found.bytes), bytes: found.bytes };
    },
  });

export const useSurveys = (id: string): UseQueryResult<Survey[]> =>
  useQuery({ queryKey: ['surveys', id], queryFn: () => getJson<Survey[]>(`/waters/${id}/surveys`) });

/** All soundings of a water, for drawing; asked for only when they are to be shown. */
export const useSoundings = (id: string, wanted: boolean): UseQueryResult<PlacedSoundings | null> =>
  useQuery({
    queryKey: ['soundings', id],
    enabled: wanted,
    staleTime: Infinity,
    queryFn: async () => {
      const found = await getBinary(`/waters/${id}/soundings`);
      return found && unpackSoundings(found.bytes);
    },
  });

export const useLog = (id: string): UseQueryResult<WaterLog> =>
  useQuery({ queryKey: ['log', id], queryFn: () => getAsOf<WaterLog>(`/waters/${id}/log`) });

export const contactsQuery = (id: string) =>
  queryOptions({ queryKey: ['contacts', id], queryFn: () => getJson<StoredContact[]>(`/waters/${id}/contacts`) });
export const useContacts = (id: string): UseQueryResult<StoredContact[]> => useQuery(contactsQuery(id));

export const useLooks = (id: string): UseQueryResult<TripLooks[]> =>
  useQuery({ queryKey: ['looks', id], queryFn: () => getJson<TripLooks[]>(`/waters/${id}/looks`) });

/** The whole log of a water as bytes, for handing it to a worker. */
export const useLogbook = (id: string): UseQueryResult<Uint8Array> =>
  useQuery({
    queryKey: ['logbook', id],
    // Large, and worked through when it is new: what this device logs says so itself.
    staleTime: 5 * 60_000,
    queryFn: async () => (await getBinary(`/waters/${id}/logbook`))!.bytes,
  });

export const tripQuery = (id: string | null) =>
  queryOptions({ queryKey: ['trip', id], enabled: id !== null, queryFn: () => getAsOf<TripDetail>(`/trips/${id}`) });
export const useTrip = (id: string | null): UseQueryResult<TripDetail> => useQuery(tripQuery(id));

/** A place to go to. */
export interface PlanPlace {
  id: string;
  name: string;
  words: string | null;
  latitude: number;
  longitude: number;
  depth_m: number | null;
}

export const usePlan = (id: string): UseQueryResult<PlanPlace[]> =>
  useQuery({ queryKey: ['plan', id], queryFn: () => getJson<PlanPlace[]>(`/waters/${id}/plan`) });

/** The newest fit of a species; null while there is none and only the strategies count. */
export const fitQuery = (id: string, species: string) =>
  queryOptions({
    queryKey: ['fit', id, species],
    queryFn: async (): Promise<FitState | null> => {
      const found = await getBinary(`/waters/${id}/models/${encodeURIComponent(species)}`);
      return (
        found && { bytes: found.bytes, fittedAt: found.headers.get('X-Fitted-At') ?? '', stale: found.headers.get('X-Stale') === 'true' }
      );
    },
  });
export const useFit = (id: string, species: string): UseQueryResult<FitState | null> => useQuery(fitQuery(id, species));

/** How fits of a species did on trips held out; null while nobody scored them. */
export const useScores = (id: string, species: string): UseQueryResult<ScoreCard | null> =>
  useQuery({
    queryKey: ['scores', id, species],
    queryFn: () => getJson<ScoreCard | null>(`/waters/${id}/models/${encodeURIComponent(species)}/scores`),
  });

/** What an ended trip saw of a forecast that was shown on it. */
export type TripOutcome = Outcome & { trip: string; at: string };

export const useOutcomes = (id: string): UseQueryResult<TripOutcome[]> =>
  useQuery({ queryKey: ['outcomes', id], queryFn: () => getJson<TripOutcome[]>(`/waters/${id}/outcomes`) });

/** What of a water has changed last. */
export interface Pulse {
  log: string;
  running: { id: string; changed_at: string }[];
  chart: number | null;
  water: number;
}

/** How often it is asked what other devices have changed, ms: within five seconds they are seen. */
const PULSE_MS = 3000;

export const usePulse = (id: string): UseQueryResult<Pulse> =>
  useQuery({
    queryKey: ['pulse', id],
    queryFn: () => getJson<Pulse>(`/waters/${id}/pulse`),
    refetchInterval: PULSE_MS,
    refetchOnMount: 'always',
    staleTime: 0,
    retry: false,
  });

export const useTrash = (): UseQueryResult<{ days: number; items: TrashItem[] }> =>
  useQuery({ queryKey: ['trash'], staleTime: 0, queryFn: () => getJson<{ days: number; items: TrashItem[] }>('/trash') });

/** A trip that runs, with the water it is on. */
export interface RunningTrip {
  id: string;
  trip: string;
  water_id: string;
  water: string;
}

export const useRunningTrips = (): UseQueryResult<RunningTrip[]> =>
  useQuery({ queryKey: ['running'], queryFn: () => getJson<RunningTrip[]>('/trips/running'), refetchInterval: 15_000, retry: false });

/** Rates by rod-hour of a species, or of all fish. */
export const useRodHours = (id: string, species: string | null): UseQueryResult<RodHours> =>
  useQuery({
    queryKey: ['rod-hours', id, species],
    queryFn: () => getJson<RodHours>(`/waters/${id}/rod-hours${species === null ? '' : `?species=${encodeURIComponent(species)}`}`),
  });
