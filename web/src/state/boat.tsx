import { createContext, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { metricPlane } from '@restless-shoal/core/geo';
import { LookingGuess } from '@restless-shoal/core/logbook';
import { useTakeAlong } from '../offline/take-along';
import { useAwake } from './awake';
import { useTripChartOf, type TripChart, type TripSounding } from './trip-chart';
import type { EchoRecord } from './echo-record';
import { useBoat, type Boat, type BoatSource } from './use-boat';
import { useEchoes } from './use-echoes';
import { useRecorder, type RecordedFix, type TrackMode } from './use-recorder';
import type { ViewInUse } from './views-in-use';
import { useWaterState } from './water';
import { app as msg } from '../words';

interface BoatState {
  source: BoatSource;
  view: ViewInUse;
  setView: (view: ViewInUse) => void;
  looking: boolean;
  setLooking: (looking: boolean) => void;
  /** What the track is recorded as: guessed from speed, view and stop, until somebody says otherwise. */
  mode: TrackMode;
  /** The Deck says that a stop is being fished, or lines are trolled. */
  setDoing: (doing: 'fish' | 'troll' | null) => void;
  /** What this page has recorded of the trip; grows in place. */
  recorded: RecordedFix[];
  /** Puts the fixes recorded so far into the outbox, before what was seen there. */
  flushTrack: () => Promise<void>;
  /** Chart of what the running trip has sounded; null before there is any. */
  tripChart: TripChart | null;
  /** What the sonar shows; null where no echoes come. */
  echoes: EchoRecord | null;
}

const Context = createContext<BoatState | null>(null);

export function useBoatState(): BoatState {
  const state = useContext(Context);
  if (!state) throw new Error(msg('boat.thereIsNoBoat'));
  return state;
}

/** Slower than this a boat stands, m/s. */
const STANDING = 0.4;

/** Sets from the speed whether the sonar is watched, until somebody says so. */
function useGuess(boat: Boat | null, looking: boolean, setLooking: (looking: boolean) => void): void {
  const guess = useRef<LookingGuess | null>(null);
  guess.current ??= new LookingGuess();
  useEffect(() => {
    const now = boat && guess.current!.take(boat.speed, boat.at, looking);
    if (now !== null) setLooking(now);
  }, [boat, looking, setLooking]);
}

/** The boat of the running trip: where it is, where it looks, what it sounds. Goes on whichever view is open. */
export function BoatProvider({ children }: { children: ReactNode }) {
  const { running, chart, water, species, log } = useWaterState();
  const latest = useMemo(() => log.trips.reduce<{ id: string; start: string } | null>((a, b) => (a && a.start > b.start ? a : b), null), [log.trips]); // prettier-ignore
  useTakeAlong(water.id, species.name, latest?.id ?? null);
  useAwake(running !== null);
  const { record: echoes, heard, take } = useEchoes();
  const source = useBoat(running !== null, take);
  const { boat } = source;
  const [view, setView] = useState<ViewInUse>({ view: 'side-scan', range: 25 });
  const [looking, setLooking] = useState(true);
  const [doing, setDoing] = useState<'fish' | 'troll' | null>(null);
  useGuess(boat, looking, setLooking);
  const mode: TrackMode =
    doing ?? (!looking ? 'transit' : view.view === 'forward-facing' && (boat?.speed ?? 0) < STANDING ? 'sweep' : 'scan');
  const { flush: flushTrack, recorded } = useRecorder({
    trip: running?.id ?? null,
    boat: source.source === 'network' && source.trouble ? null : boat,
    view,
    mode,
  });

  // What the sounder says makes the trip's own chart.
  const soundings = useRef<TripSounding[]>([]);
  const [sounded, setSounded] = useState(0);
  useEffect(() => {
    soundings.current = [];
    setSounded(0);
  }, [running?.id, source.source]);
  useEffect(() => {
    if (!chart || !boat?.depth) return;
    const [x, y] = metricPlane(chart.epsg).toMetric(boat.position);
    soundings.current.push({ time: boat.at, x, y, depth: boat.depth });
    setSounded(soundings.current.length);
  }, [boat, chart]);
  const tripChart = useTripChartOf(chart?.epsg ?? null, soundings, sounded);

  const state = useMemo(
    () => ({
      source,
      view,
      setView,
      looking,
      setLooking,
      mode,
      setDoing,
      recorded,
      flushTrack,
      tripChart,
      echoes: heard ? echoes : null,
    }),
    [source, view, looking, mode, recorded, flushTrack, tripChart, echoes, heard],
  );
  return <Context.Provider value={state}>{children}</Context.Provider>;
}
