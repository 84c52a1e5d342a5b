import { proxy, wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { useLogbook } from '../api/queries';
import { useWaterState } from '../state/water';
import type { PatternsInputs, PatternsWorker } from './patterns.worker';

/** The log of the water in use, laid out in a worker; `ask` is null until it is. */
export interface OpenLog {
  ask: Remote<PatternsWorker> | null;
  /** Changes with each log that was opened: what was asked before is to be asked again. */
  version: number;
  share: number;
  failed: Error | null;
  /** Whether looks of what was just logged are still being derived. */
  deriving: boolean;
  outside: number;
  trips: { id: string; start: number }[];
}

type Opened = Awaited<ReturnType<PatternsWorker['open']>>;

/** The thread, begun before what it is to open has come. */
let thread: Remote<PatternsWorker> | null = null;
const begun = (): Remote<PatternsWorker> =>
  (thread ??= wrap<PatternsWorker>(new Worker(new URL('./patterns.worker.ts', import.meta.url), { type: 'module' })));

/** The log that was opened last, with what it was opened from: kept for coming back to the view. */
let kept: { remote: Remote<PatternsWorker>; from: unknown[]; opened: Promise<Opened>; onProgress: (share: number) => void } | null = null;

function openLog(inputs: PatternsInputs, from: unknown[]): NonNullable<typeof kept> {
  if (kept && kept.from.every((v, k) => v === from[k])) return kept;
  const remote = begun();
  let next: NonNullable<typeof kept> | null = null;
  const opened = remote
    .open(
      inputs,
      proxy((share: number) => next?.onProgress(share)),
    )
    .catch((error: Error) => {
      // Tried anew next time.
      if (kept === next) kept = null;
      throw error;
    });
  kept = next = { remote, from, opened, onProgress: () => undefined };
  return next;
}

export function useOpenLog(): OpenLog {
  const { water, chartBytes, frame, log } = useWaterState();
  const logbook = useLogbook(water.id);
  const [state, setState] = useState<Omit<OpenLog, 'failed' | 'deriving'>>({ ask: null, version: 0, share: 0, outside: 0, trips: [] });
  const [failed, setFailed] = useState<Error | null>(null);
  const bytes = logbook.data?.value;
  useEffect(() => void begun(), []);
  useEffect(() => {
    if (!chartBytes || !bytes) return;
    const open = openLog(
      {
        chart: chartBytes,
        logbook: bytes,
        frame,
        readings: log.readings,
        profiles: log.profiles,
        species: water.species,
        timeZone: water.time_zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone,
      },
      [chartBytes, bytes, log.readings, log.profiles, water.species, water.time_zone],
    );
    let gone = false;
    open.onProgress = (share) => {
      if (!gone) setState((s) => ({ ...s, share }));
    };
    open.opened
      .then(({ outside, trips }) => {
        if (!gone) setState((s) => ({ ask: open.remote, version: s.version + 1, share: 1, outside, trips }));
      })
      .catch((error: Error) => {
        if (!gone) setFailed(error);
      });
    return () => {
      gone = true;
    };
    // The frame follows from the chart and the water.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [chartBytes, bytes, log.readings, log.profiles, water.species, water.time_zone]);
  return { ...state, failed: failed ?? logbook.error, deriving: logbook.data?.deriving ?? false };
}

/** An answer of the open log, asked for anew when the question changes; the last one stands meanwhile. */
export function useAnswer<T>(
  log: OpenLog,
  key: unknown,
  ask: (worker: Remote<PatternsWorker>) => Promise<T>,
): { answer: T | null; failed: Error | null; fresh: boolean } {
  const [state, setState] = useState<{ answer: T | null; failed: Error | null; key: string }>({ answer: null, failed: null, key: '' });
  const name = `${log.version} ${JSON.stringify(key)}`;
  const latest = useRef(ask);
  useEffect(() => {
    latest.current = ask;
  });
  useEffect(() => {
    if (!log.ask) return;
    let gone = false;
    latest.current(log.ask).then(
      (answer) => {
        if (!gone) setState({ answer, failed: null, key: name });
      },
      (failed: Error) => {
        if (!gone) setState((s) => ({ ...s, failed, key: name }));
      },
    );
    return () => {
      gone = true;
    };
  }, [log.ask, name]);
  return { answer: state.answer, failed: state.failed, fresh: state.key === name };
}
