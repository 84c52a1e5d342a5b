import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import type { PlanWorker } from './plan.worker';

/** The thread that plans, with the chart and the fit it has open. */
let kept: {
  thread: Worker;
  remote: Remote<PlanWorker>;
  chart: Uint8Array;
  fit: Uint8Array | null;
  log: Uint8Array | null;
  opened: Promise<void>;
} | null = null;

function opened(chart: Uint8Array, fit: Uint8Array | null, log: Uint8Array | null): NonNullable<typeof kept> {
  if (kept && kept.chart === chart && kept.fit === fit && kept.log === log) return kept;
  const thread = kept?.thread ?? new Worker(new URL('./plan.worker.ts', import.meta.url), { type: 'module' });
  const remote = kept?.remote ?? wrap<PlanWorker>(thread);
  kept = { thread, remote, chart, fit, log, opened: remote.open(chart, fit, log) };
  return kept;
}

/** The thread once a chart is open in it, or why it is not. @param fit the packed model; null: the strategies alone @param log of the water; null: none; of both undefined: not known yet */
export function usePlanWorker(
  chart: Uint8Array | null,
  fit: Uint8Array | null | undefined,
  log: Uint8Array | null | undefined,
): { worker: Remote<PlanWorker> | null; failed: Error | null } {
  const [state, setState] = useState<{ of: unknown[]; worker: Remote<PlanWorker> | null; failed: Error | null } | null>(null);
  useEffect(() => {
    if (!chart || fit === undefined || log === undefined) return;
    let gone = false;
    const of = [chart, fit, log];
    const open = opened(chart, fit, log);
    open.opened.then(
      () => {
        if (!gone) setState({ of, worker: open.remote, failed: null });
      },
      (failed: Error) => {
        // Tried anew next time.
        if (kept === open) kept = null;
        if (!gone) setState({ of, worker: null, failed });
      },
    );
    return () => {
      gone = true;
    };
  }, [chart, fit, log]);
  return state && state.of[0] === chart && state.of[1] === fit && state.of[2] === log ? state : { worker: null, failed: null };
}
