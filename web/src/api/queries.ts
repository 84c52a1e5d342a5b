import { queryOptions, useQuery, type UseQueryResult } from '@tanstack/react-query';
import { unpackChart, unpackSoundings, type Chart, type PlacedSoundings } from '@restless-shoal/core/chart';
import type * as contract from '@restless-shoal/core/contract';
import type { ScoreCard } from '@restless-shoal/core/forecast';
import type { RodHours, SpotStop } from '@restless-shoal/core/patterns';
import { ask, askAsOf, askBytes, askDerived, askListAsOf, isDeriving, type Derived } from './client';

export type {
  JobState,
  PlanPlace,
  Change,
  FoundInTrip,
  LoggedTrip,
  SmallMark,
  SpeciesRecord,
  Spot,
  SpotYield,
  StoredContact,
  StoredGear,
  StoredPhoto,
  StoredReading,
  StoredResponse,
  StoredStop,
  TripOutcome,
  TripRow,
  Water,
  WaterSummary,
} from '@restless-shoal/core/contract';
/** With the time that it speaks of, ms: what the server had taken by then is in it. */
export type AsOf<T> = T & { asOf: number };
export type WaterLog = AsOf<contract.WaterLog>;
export type TripDetail = AsOf<contract.TripDetail>;

export interface FitState {
  bytes: Uint8Array;
  fittedAt: string;
  stale: boolean;
}

export const watersQuery = queryOptions({ queryKey: ['waters'], queryFn: () => ask('GET /waters', {}) });
export const useWaters = (): UseQueryResult<contract.WaterSummary[]> => useQuery(watersQuery);

export const waterQuery = (id: string) =>
  queryOptions({ queryKey: ['water', id], queryFn: () => ask('GET /waters/:water', { water: id }) });
export const useWater = (id: string): UseQueryResult<contract.Water> => useQuery(waterQuery(id));

/** A chart with the bytes it came in, for handing it to a worker. */
interface OpenedChart {
  chart: Chart;
  bytes: Uint8Array;
  /** Which chart it is, as the server says. */
  tag: string | null;
}

/** The chart of a water; null while there is none. */
export const chartQuery = (id: string) =>
  queryOptions({
    queryKey: ['chart', id],
    staleTime: Infinity,
    queryFn: async ({ client, queryKey }): Promise<OpenedChart | null> => {
      const found = await askBytes('GET /waters/:water/chart', { water: id });
      if (!found) return null;
      // The same chart, asked for again, stays the one that maps and threads have opened.
      const tag = found.headers.get('ETag');
      const last = client.getQueryData<OpenedChart | null>(queryKey);
      return tag !== null && last?.tag === tag ? last : { chart: unpackChart(found.bytes), bytes: found.bytes, tag };
    },
  });
export const useChart = (id: string): UseQueryResult<OpenedChart | null> => useQuery(chartQuery(id));

export const useSurveys = (id: string): UseQueryResult<contract.Survey[]> =>
  useQuery({ queryKey: ['surveys', id], queryFn: () => ask('GET /waters/:water/surveys', { water: id }) });

/** All soundings of a water, for drawing; asked for only when they are to be shown. */
export const useSoundings = (id: string, wanted: boolean): UseQueryResult<PlacedSoundings | null> =>
  useQuery({
    queryKey: ['soundings', id],
    enabled: wanted,
    staleTime: Infinity,
    queryFn: async () => {
      const found = await askBytes('GET /waters/:water/soundings', { water: id });
      return found && unpackSoundings(found.bytes);
    },
  });

export const logQuery = (id: string) =>
  queryOptions({ queryKey: ['log', id], queryFn: () => askAsOf('GET /waters/:water/log', { water: id }) });
export const useLog = (id: string): UseQueryResult<WaterLog> => useQuery(logQuery(id));

export const contactsQuery = (id: string) =>
  queryOptions({ queryKey: ['contacts', id], queryFn: () => ask('GET /waters/:water/contacts', { water: id }) });
export const useContacts = (id: string): UseQueryResult<contract.StoredContact[]> => useQuery(contactsQuery(id));

/** What is derived from the log, as far as it is: asked for again while the server is still at it. */
const derivedQuery = <T>(queryKey: string[], queryFn: () => Promise<Derived<T>>) =>
  queryOptions({
    queryKey,
    queryFn,
    refetchInterval: ({ state }) => (state.data?.deriving ? 2000 : false),
    select: ({ value }: Derived<T>) => value,
  });

/** How often each cell was looked at, and what the trip that runs has seen. */
export const useLookedAt = (id: string): UseQueryResult<contract.Answers['GET /waters/:water/looked-at']> =>
  useQuery(derivedQuery(['looks', id], () => askDerived('GET /waters/:water/looked-at', { water: id })));

/** The whole log of a water as bytes, for handing it to a worker. */
export const logbookQuery = (id: string) =>
  queryOptions({
    queryKey: ['logbook', id],
    // Large, and worked through when it is new: what this device logs says so itself.
    staleTime: 5 * 60_000,
    queryFn: async (): Promise<Derived<Uint8Array>> => {
      const { bytes, headers } = (await askBytes('GET /waters/:water/logbook', { water: id }))!;
      return { value: bytes, deriving: isDeriving(headers) };
    },
    refetchInterval: ({ state }) => (state.data?.deriving ? 5000 : false),
  });
export const useLogbook = (id: string): UseQueryResult<Derived<Uint8Array>> => useQuery(logbookQuery(id));

export const tripQuery = (id: string | null) =>
  queryOptions({ queryKey: ['trip', id], enabled: id !== null, queryFn: () => askAsOf('GET /trips/:trip', { trip: id! }) });
export const useTrip = (id: string | null): UseQueryResult<TripDetail> => useQuery(tripQuery(id));

/** Trips of all waters, the last first. */
export const tripsQuery = queryOptions({ queryKey: ['trips'], queryFn: () => askListAsOf('GET /logbook', {}) });
export const useLoggedTrips = () => useQuery(tripsQuery);

/** Trips in which something is written. @param names codes of the log that the words stand for in the reader's language */
export const useFoundInTrips = (words: string, names: string[]): UseQueryResult<contract.FoundInTrip[]> =>
  useQuery({
    queryKey: ['trips', 'search', words, names.join()],
    enabled: words !== '',
    placeholderData: (before) => before,
    queryFn: ({ signal }) => ask('GET /logbook/search', {}, { query: { q: words, or: names.join() }, signal }),
  });

/** What was changed in a trip, last first. */
export const useChanges = (trip: string, wanted: boolean): UseQueryResult<contract.Change[]> =>
  useQuery({ queryKey: ['changes', trip], enabled: wanted, staleTime: 0, queryFn: () => ask('GET /trips/:trip/changes', { trip }) });

/** Named places of a water, with what each yielded. */
export const useSpots = (id: string) =>
  useQuery({ queryKey: ['spots', id], queryFn: () => askListAsOf('GET /waters/:water/spots', { water: id }) });

/** Stops at a spot, with what was read about then. */
export const useSpotStops = (water: string, spot: string | null): UseQueryResult<SpotStop[]> =>
  useQuery({
    queryKey: ['spots', water, spot],
    enabled: spot !== null,
    queryFn: () => ask('GET /waters/:water/spots/:spot/stops', { water, spot: spot! }),
  });

/** What somebody fishes with. */
export const useServedGear = () => useQuery({ queryKey: ['gear'], queryFn: () => askListAsOf('GET /gear', {}) });

export const useSpeciesRecords = (): UseQueryResult<contract.SpeciesRecord[]> =>
  useQuery({ queryKey: ['trips', 'records'], queryFn: () => ask('GET /logbook/records', {}) });

/** Photos of all trips of a water. */
export const useWaterPhotos = (id: string): UseQueryResult<contract.StoredPhoto[]> =>
  useQuery({ queryKey: ['photos', id], queryFn: () => ask('GET /waters/:water/photos', { water: id }) });

export const planQuery = (id: string) =>
  queryOptions({ queryKey: ['plan', id], queryFn: () => askListAsOf('GET /waters/:water/plan', { water: id }) });

export const dayPlanQuery = (id: string) =>
  queryOptions({ queryKey: ['day-plan', id], queryFn: () => askListAsOf('GET /waters/:water/day-plan', { water: id }) });

/** The newest fit of a species; null while there is none and only the strategies count. */
export const fitQuery = (id: string, species: string) =>
  queryOptions({
    queryKey: ['fit', id, species],
    queryFn: async (): Promise<FitState | null> => {
      const found = await askBytes('GET /waters/:water/models/:species', { water: id, species });
      return (
        found && { bytes: found.bytes, fittedAt: found.headers.get('X-Fitted-At') ?? '', stale: found.headers.get('X-Stale') === 'true' }
      );
    },
  });
export const useFit = (id: string, species: string): UseQueryResult<FitState | null> => useQuery(fitQuery(id, species));

/** How fits of a species did on trips held out; null while the server works that out, and where too little is logged. */
export const useScores = (id: string, species: string): UseQueryResult<ScoreCard | null> =>
  useQuery({
    queryKey: ['scores', id, species],
    queryFn: () => ask('GET /waters/:water/models/:species/scores', { water: id, species }),
    refetchInterval: ({ state }) => (state.data?.pending ? 2000 : false),
    select: ({ card }) => card,
  });

export const useOutcomes = (id: string): UseQueryResult<contract.TripOutcome[]> =>
  useQuery(derivedQuery(['outcomes', id], () => askDerived('GET /waters/:water/outcomes', { water: id })));

/** How often it is asked what other devices have changed, ms: within five seconds they are seen. */
const PULSE_MS = 3000;

export const usePulse = (id: string): UseQueryResult<contract.Pulse> =>
  useQuery({
    queryKey: ['pulse', id],
    queryFn: () => ask('GET /waters/:water/pulse', { water: id }),
    refetchInterval: PULSE_MS,
    refetchOnMount: 'always',
    staleTime: 0,
    retry: false,
  });

export const useTrash = (): UseQueryResult<contract.Answers['GET /trash']> =>
  useQuery({ queryKey: ['trash'], staleTime: 0, queryFn: () => ask('GET /trash', {}) });

export const useRunningTrips = (): UseQueryResult<contract.RunningTrip[]> =>
  useQuery({ queryKey: ['running'], queryFn: () => ask('GET /trips/running', {}), refetchInterval: 15_000, retry: false });

/** Rates by rod-hour of a species, or of all fish. */
export const useRodHours = (id: string, species: string | null): UseQueryResult<RodHours> =>
  useQuery({
    queryKey: ['rod-hours', id, species],
    queryFn: () => ask('GET /waters/:water/rod-hours', { water: id }, { query: species === null ? {} : { species } }),
  });
