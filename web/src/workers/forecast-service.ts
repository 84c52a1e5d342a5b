import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import type { ContourLine } from '@restless-shoal/core/chart';
import type { Reason } from '@restless-shoal/core/forecast';
import { app as msg } from '../words';
import type { BriefAnswer, BriefRequest, ForecastAnswer, ForecastRequest, ForecastWorker } from './forecast.worker';

/** A thread was ended because another chart took its place: whoever waited asks the next one. */
export class Replaced extends Error {}

/**
 * The one thread of this page that computes Brief, contour lines and forecast from a chart. Views share it and find the
 * chart open. A call ends with its answer or with an error: a thread that breaks leaves nobody waiting.
 */
class ForecastService {
  private readonly thread = new Worker(new URL('./forecast.worker.ts', import.meta.url), { type: 'module' });
  private readonly remote: Remote<ForecastWorker> = wrap<ForecastWorker>(this.thread);
  /** Fails once no more answers come: the thread broke, or another chart took its place. */
  readonly over: Promise<never>;
  private fail!: (why: Error) => void;
  /** The fit that is open in the thread. */
  private fit: Uint8Array | null = null;
  /** Settles when the chart is open. */
  readonly opened: Promise<void>;

  constructor(readonly chart: Uint8Array) {
    this.over = new Promise((_, reject) => (this.fail = reject));
    // Who waits for an answer hears of it; that nobody does is no fault.
    this.over.catch(() => undefined);
    this.thread.onerror = this.thread.onmessageerror = () => this.end();
    this.opened = this.orOver(this.remote.openChart(chart));
  }

  private orOver<T>(answer: Promise<T>): Promise<T> {
    return Promise.race([answer, this.over]);
  }

  /** @param why what those who wait are told */
  end(why: Error = new Error(msg('forecastService.broken'))): void {
    this.thread.terminate();
    if (kept === this) kept = null;
    this.fail(why);
  }

  contours(unit: number, atMost: number, level: number): Promise<ContourLine[]> {
    return this.orOver(this.remote.contours(unit, atMost, level));
  }

  brief(request: BriefRequest): Promise<BriefAnswer> {
    return this.orOver(this.remote.brief(request));
  }

  /** @param fit the packed model; null: the strategies alone */
  async forecast(request: ForecastRequest, fit: Uint8Array | null): Promise<ForecastAnswer> {
    // The thread takes calls in turn: the model is open before the forecast is made.
    const open = fit === this.fit ? undefined : this.remote.openModel(fit);
    this.fit = fit;
    const [answer] = await this.orOver(Promise.all([this.remote.forecast(request), open]));
    return answer;
  }

  /** Reasons for and against a cell of a forecast that was given. */
  reasons(answer: ForecastAnswer, cell: number): Promise<Reason[]> {
    return this.orOver(this.remote.reasons(answer.id, cell));
  }
}
export type { ForecastService };

let kept: ForecastService | null = null;

/** The service with a chart opened in it. */
function serviceOf(chart: Uint8Array): ForecastService {
  if (kept?.chart !== chart) {
    kept?.end(new Replaced());
    kept = new ForecastService(chart);
  }
  return kept;
}

/** A thread that broke is begun again so many times while a view is open. */
const TRIES = 3;

/** The service once the chart is open in it; `failed` says why there is none. */
export function useForecastService(chart: Uint8Array | null): { service: ForecastService | null; failed: Error | null } {
  const [state, setState] = useState<{ service: ForecastService | null; failed: Error | null }>({ service: null, failed: null });
  const [tries, setTries] = useState(0);
  useEffect(() => {
    if (!chart) return;
    let gone = false;
    const service = serviceOf(chart);
    service.opened.then(
      () => {
        if (!gone) setState({ service, failed: null });
      },
      (failed: Error) => {
        if (!gone) setState({ service: null, failed });
      },
    );
    service.over.catch((why: Error) => {
      if (!gone && tries < TRIES && !(why instanceof Replaced)) setTries(tries + 1);
    });
    return () => {
      gone = true;
    };
  }, [chart, tries]);
  return state.service && state.service.chart !== chart ? { service: null, failed: null } : state;
}
