import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import type { PlanWorker } from './plan.worker';

/** The thread that plans, with the chart and the fit it has open. */
let kept: { thread: Worker; remote: Remote<PlanWorker>; chart: Uint8Array; fit: Uint8Array | null; opened: Promise<void> } | null = null;

function opened(chart: Uint8Array, fit: Uint8Array | null): NonNullable<typeof kept> {
  if (kept && kept.chart === chart && kept.fit === fit) return kept;
  const thread = kept?.thread ?? new Worker(new URL('./plan.worker.ts', import.meta.url), { type: 'module' });
  const remote = kept?.remote ?? wrap<PlanWorker>(thread);
  kept = { thread, remote, chart, fit, opened: remote.open(chart, fit) };
  return kept;
}

/** The thread once a chart is open in it. @param fit the packed model; null: the strategies alone; undefined: not known yet */
export function usePlanWorker(chart: Uint8Array | null, fit: Uint8Array | null | undefined): Remote<PlanWorker> | null {
  const [ready, setReady] = useState<{ remote: Remote<PlanWorker>; chart: Uint8Array; fit: Uint8Array | null } | null>(null);
  useEffect(() => {
    if (!chart || fit === undefined) return;
    let gone = false;
    const open = opened(chart, fit);
    open.opened.then(
      () => {
        if (!gone) setReady({ remote: open.remote, chart, fit });
      },
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [chart, fit]);
  return ready && ready.chart === chart && ready.fit === fit ? ready.remote : null;
}
