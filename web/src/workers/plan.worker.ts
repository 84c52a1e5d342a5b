import { expose } from 'comlink';
import { unpackChart } from '@restless-shoal/core/chart';
import { unpackModel } from '@restless-shoal/core/forecast';
import {
  DayPlanner,
  type DayPlanAnswer,
  type DayPlanRequest,
  type PassRequest,
  type ResetAnswer,
  type ResetRequest,
  type SearchPasses,
} from '@restless-shoal/core/passage';
import { unpackLogbook } from '@restless-shoal/core/patterns';

let planner: DayPlanner | null = null;

const opened = (): DayPlanner => {
  if (!planner) throw new Error('no chart is open');
  return planner;
};

// A thin shell round core: a day is planned here, from data already in the browser.
const api = {
  /** @param log the answer of /logbook, as it came; null while there is none */
  open(chart: Uint8Array, fit: Uint8Array | null, log: Uint8Array | null): void {
    const read = fit && unpackModel(fit);
    planner = new DayPlanner(unpackChart(chart), read && 'profile' in read ? read : null, log && unpackLogbook(log));
  },
  plan: (request: DayPlanRequest): DayPlanAnswer => opened().plan(request),
  passes: (request: PassRequest): SearchPasses => opened().passes(request),
  reset: (request: ResetRequest): ResetAnswer => opened().reset(request),
};

export type PlanWorker = typeof api;

expose(api);
