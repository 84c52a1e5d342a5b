import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import type { ForecastWorker } from './forecast.worker';

/** The forecast worker with a chart opened in it; null until it is ready. */
export function useForecastWorker(chartBytes: Uint8Array | null): Remote<ForecastWorker> | null {
  const [ready, setReady] = useState<Remote<ForecastWorker> | null>(null);
  useEffect(() => {
    if (!chartBytes) return;
    const thread = new Worker(new URL('./forecast.worker.ts', import.meta.url), { type: 'module' });
    const remote = wrap<ForecastWorker>(thread);
    let gone = false;
    void remote.openChart(chartBytes).then(() => {
      if (!gone) setReady(() => remote);
    });
    return () => {
      gone = true;
      setReady(null);
      thread.terminate();
    };
  }, [chartBytes]);
  return ready;
}
