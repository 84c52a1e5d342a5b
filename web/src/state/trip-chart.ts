import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { Raster } from '@restless-shoal/core/geo';
import type { TripChartWorker } from '../workers/trip-chart.worker';

/** One depth of the running trip, in the water's plane. */
export interface TripSounding {
  time: number;
  x: number;
  y: number;
  depth: number;
}

/** The trip's own chart. */
export interface TripChart {
  depth: Raster;
  soundings: number;
}

/** Fewer tell nothing of a bottom. */
const LEAST = 10;

/**
 * Charts the running trip in a worker, anew whenever the one before is done and more was sounded: without a server,
 * without signal. @param count of soundings, so that more of them are noticed
 */
export function useTripChartOf(epsg: number | null, soundings: RefObject<TripSounding[]>, count: number): TripChart | null {
  const [chart, setChart] = useState<TripChart | null>(null);
  const worker = useRef<{ thread: Worker; remote: Remote<TripChartWorker> } | null>(null);
  const busy = useRef(false);
  const [round, setRound] = useState(0);
  useEffect(
    () => () => {
      worker.current?.thread.terminate();
      worker.current = null;
    },
    [],
  );
  useEffect(() => {
    if (epsg === null) return;
    if (count < LEAST) {
      setChart(null);
      return;
    }
    if (busy.current || (chart && count < chart.soundings + 3)) return;
    if (!worker.current) {
      const thread = new Worker(new URL('../workers/trip-chart.worker.ts', import.meta.url), { type: 'module' });
      worker.current = { thread, remote: wrap<TripChartWorker>(thread) };
    }
    busy.current = true;
    const column = (of: (s: TripSounding) => number): Float64Array => Float64Array.from(soundings.current, of);
    void worker.current.remote
      .chart(epsg, { time: column((s) => s.time), x: column((s) => s.x), y: column((s) => s.y), depth: column((s) => s.depth) })
      .then((made) => {
        if (made) setChart({ depth: new Raster(...made.frame, made.depth), soundings: made.soundings });
      })
      .finally(() => {
        busy.current = false;
        setRound((n) => n + 1);
      });
    // `round` is there so that what came in meanwhile is taken up.
  }, [epsg, count, soundings, chart, round]);
  return chart;
}
