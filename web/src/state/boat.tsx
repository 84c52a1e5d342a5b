import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import type { Chart } from '@restless-shoal/core/chart';
import { cellCentre, metricPlane } from '@restless-shoal/core/geo';
import { sPass, type SPass } from '@restless-shoal/core/passage';
import { useTakeAlong } from '../offline/take-along';
import { useAwake } from './awake';
import { useTripChartOf, type TripChart, type TripSounding } from './trip-chart';
import { useBoat, type Boat, type BoatSource } from './use-boat';
import { useRecorder } from './use-recorder';
import type { ViewInUse } from './views-in-use';
import { useWaterState } from './water';

interface BoatState {
  source: BoatSource;
  view: ViewInUse;
  setView: (view: ViewInUse) => void;
  looking: boolean;
  setLooking: (looking: boolean) => void;
  /** Puts the fixes recorded so far into the outbox, before what was seen there. */
  flushTrack: () => Promise<void>;
  /** Chart of what the running trip has sounded; null before there is any. */
  tripChart: TripChart | null;
}

const Context = createContext<BoatState | null>(null);

export function useBoatState(): BoatState {
  const state = useContext(Context);
  if (!state) throw new Error('there is no boat here');
  return state;
}

/** An S-pass over the open water of a chart, about where it lies farthest from the shore. */
function practicePass(chart: Chart): SPass | null {
  const { cells } = chart;
  let best = -1;
  for (let i = 0; i < cells.count; i++)
    if (!Number.isNaN(cells.depth[i]) && (best < 0 || cells.shoreDistance[i] > cells.shoreDistance[best])) best = i;
  if (best < 0) return null;
  const [x, y] = cellCentre(cells.column[best], cells.row[best]);
  const reach = Math.max(20, 0.7 * cells.shoreDistance[best]);
  return { start: [x - reach, y + reach], heading: 90, length: 2 * reach, spacing: 12 };
}

/** The boat of the running trip: where it is, where it looks, what it sounds. Goes on whichever view is open. */
export function BoatProvider({ children }: { children: ReactNode }) {
  const { running, chart, water, species } = useWaterState();
  useTakeAlong(water.id, species.name);
  useAwake(running !== null);
  const pass = useMemo(() => chart && practicePass(chart), [chart]);
  const simulated = useCallback(
    (travelled: number): Pick<Boat, 'position' | 'course'> | null => {
      if (!pass || !chart) return null;
      const { at, course } = sPass(pass, travelled);
      return { position: metricPlane(chart.epsg).toLatLon(at), course };
    },
    [pass, chart],
  );
  const source = useBoat(running !== null, simulated);
  const { boat } = source;
  const [view, setView] = useState<ViewInUse>({ view: 'side-scan', range: 25 });
  const [looking, setLooking] = useState(true);
  const practice = source.source === 'simulated';
  const flushTrack = useRecorder({
    trip: running?.id ?? null,
    boat: practice || (source.source === 'network' && source.trouble) ? null : boat,
    view,
    looking,
  });

  // What the sounder says makes the trip's own chart. The simulated boat's reads the chart's bottom, with the scatter of a real one.
  const soundings = useRef<TripSounding[]>([]);
  const [sounded, setSounded] = useState(0);
  useEffect(() => {
    soundings.current = [];
    setSounded(0);
  }, [running?.id, source.source]);
  useEffect(() => {
    if (!boat || !chart) return;
    const [x, y] = metricPlane(chart.epsg).toMetric(boat.position);
    const depth = practice ? chart.depth.at(x, y) + (Math.random() - 0.5) * 0.1 : (boat.depth ?? NaN);
    if (!(depth > 0)) return;
    soundings.current.push({ time: boat.at, x, y, depth });
    setSounded(soundings.current.length);
  }, [practice, boat, chart]);
  const tripChart = useTripChartOf(chart?.epsg ?? null, soundings, sounded);

  const state = useMemo(
    () => ({ source, view, setView, looking, setLooking, flushTrack, tripChart }),
    [source, view, looking, flushTrack, tripChart],
  );
  return <Context.Provider value={state}>{children}</Context.Provider>;
}
