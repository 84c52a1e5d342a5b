import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { cellKey } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import { sawSpecies, seenEarlier, type SeenToday } from '@restless-shoal/core/forecast';
import { findSpecies } from '@restless-shoal/core/species';
import { getJson, sendJson } from '../../api/client';
import { useFit, useLooks, useScores, useWaters, type JobState } from '../../api/queries';
import { outbox } from '../../offline/device';
import { takeRefitWanted } from '../../state/refit-wanted';
import { useWaterState } from '../../state/water';
import type { ForecastAnswer } from '../../workers/forecast.worker';
import type { useForecastWorker } from '../../workers/use-forecast-worker';

export interface FitProgress {
  share: number;
  error: string | null;
}

/** Index of each cell of the chart by its key. */
export function useCellIndex(): Map<number, number> {
  const { chart } = useWaterState();
  return useMemo(() => {
    const index = new Map<number, number>();
    for (let i = 0; chart && i < chart.cells.count; i++) index.set(cellKey(chart.cells.column[i], chart.cells.row[i]), i);
    return index;
  }, [chart]);
}

/** The forecast of the water for the Strip's conditions, computed in the worker whenever they change. */
/** @param large large fish alone are asked for */
export function useForecast(worker: ReturnType<typeof useForecastWorker>, large: boolean) {
  const { water, species, day, log, chart, running, whatIf } = useWaterState();
  const queries = useQueryClient();
  const fit = useFit(water.id, species.name);
  const looks = useLooks(water.id);
  const scores = useScores(water.id, species.name);
  const [fitAnyway, setFitAnyway] = useState(false);
  const cellIndex = useCellIndex();
  const [computed, setAnswer] = useState<ForecastAnswer | null>(null);
  // An answer to another question is none to this one.
  const answer = computed?.species === species.name && computed.forecast.probability.length === chart?.cells.count ? computed : null;
  const [opened, setOpened] = useState<Uint8Array | null | undefined>(undefined);
  const [progress, setProgress] = useState<FitProgress | null>(null);
  const job = useRef<string | null>(null);

  const tally = useMemo(() => {
    if (!looks.data) return null;
    const cells = new Map<number, [number, number, number]>();
    const is = (name: string): boolean => findSpecies(name, water.species)?.name === species.name;
    for (const trip of looks.data)
      for (const look of trip.looks) {
        const i = cellIndex.get(cellKey(look.column, look.row));
        if (i === undefined) continue;
        const entry = cells.get(i) ?? [i, 0, 0];
        entry[1]++;
        if (sawSpecies(look, is)) entry[2]++;
        cells.set(i, entry);
      }
    return [...cells.values()];
  }, [looks.data, cellIndex, species.name, water.species]);

  // What the trip that runs has seen so far.
  const earlier = useMemo((): SeenToday[] => {
    const is = (name: string): boolean => findSpecies(name, water.species)?.name === species.name;
    const own = (looks.data ?? []).find((t) => t.trip === running?.id)?.looks ?? [];
    return seenEarlier(own, is, cellIndex);
  }, [looks.data, running?.id, cellIndex, species.name, water.species]);
  const today = useMemo(() => new Set(earlier.map((l) => l.cell)), [earlier]);

  const refit = useCallback(async () => {
    setProgress({ share: 0, error: null });
    try {
      // Each fit is followed by its own job: that of another species may have been asked for meanwhile.
      const { job: id } = await sendJson<{ job: string }>('POST', `/waters/${water.id}/models`, { species: species.name });
      job.current = id;
      for (;;) {
        await new Promise((done) => setTimeout(done, 350));
        const state = await getJson<JobState>(`/jobs/${id}`);
        if (state.state === 'cancelled') return;
        if (job.current === id) setProgress({ share: state.share, error: state.error });
        if (state.state === 'failed') return;
        if (state.state === 'done') break;
      }
      if (job.current === id) setProgress(null);
      await queries.invalidateQueries({ queryKey: ['fit', water.id, species.name] });
      await queries.invalidateQueries({ queryKey: ['looks', water.id] });
    } catch (error) {
      setProgress({ share: 0, error: (error as Error).message });
    }
  }, [queries, water.id, species.name]);

  // A fit that nobody has scored yet is scored in the background: only then can the page say what it is worth.
  const scoring = useRef('');
  useEffect(() => {
    const key = `${water.id} ${species.name} ${fit.data?.fittedAt}`;
    if (!fit.data || scores.data !== null || scoring.current === key || progress) return;
    scoring.current = key;
    // Followed to its end also when another species is looked at meanwhile.
    void (async () => {
      const { job: id } = await sendJson<{ job: string }>('POST', `/waters/${water.id}/scores`, { species: species.name });
      for (;;) {
        await new Promise((done) => setTimeout(done, 2000));
        const { state } = await getJson<JobState>(`/jobs/${id}`);
        if (state !== 'waiting' && state !== 'running') break;
      }
      await queries.invalidateQueries({ queryKey: ['scores', water.id, species.name] });
    })().catch(() => undefined);
  }, [fit.data, scores.data, water.id, species.name, progress, queries]);

  const cancel = useCallback(async () => {
    const id = job.current;
    job.current = null;
    setProgress(null);
    if (id) await sendJson('DELETE', `/jobs/${id}`).catch(() => undefined);
  }, []);

  // Fits of other waters are something to start from.
  const others = (useWaters().data ?? []).some((w) => w.id !== water.id && w.trips > 0);
  // A water with a log and no fit yet is fitted without being asked; later fits are the angler's choice.
  const asked = useRef('');
  useEffect(() => {
    const key = `${water.id} ${species.name}`;
    if (fit.data !== null || asked.current === key || (!log.trips.length && !others)) return;
    asked.current = key;
    void refit();
  }, [fit.data, water.id, species.name, log.trips.length, others, refit]);

  // What its species needs, or the schools, were set otherwise by hand: that is asking for it.
  useEffect(() => {
    if (fit.data?.stale && takeRefitWanted(water.id, species.name)) void refit();
  }, [fit.data, water.id, species.name, refit]);

  // Where the log does no better than the strategies, the strategies are shown.
  const schoolsOnly = scores.data?.verdict === 'worse' && !fitAnyway;
  const bytes = fit.data === undefined ? undefined : schoolsOnly ? null : (fit.data?.bytes ?? null);
  useEffect(() => {
    if (!worker || bytes === undefined) return;
    let gone = false;
    void worker.openModel(bytes).then(() => {
      if (!gone) setOpened(bytes);
    });
    return () => {
      gone = true;
    };
  }, [worker, bytes]);

  // While a finger drags, only the newest conditions are computed.
  // A worker that was ended answers no more: whoever waits for it waits in vain, and its successor starts afresh.
  const busy = useRef<typeof worker>(null);
  const next = useRef<(() => Promise<void>) | null>(null);
  useEffect(() => {
    // Not with the model of the question before: its answer would stand under this one's name.
    if (!worker || bytes === undefined || opened !== bytes) return;
    next.current = async () => setAnswer(await worker.forecast({ day, species, tally, earlier, large }));
    if (busy.current === worker) return;
    busy.current = worker;
    void (async () => {
      while (next.current && busy.current === worker) {
        const run = next.current;
        next.current = null;
        await run().catch(() => undefined);
      }
      if (busy.current === worker) busy.current = null;
    })();
  }, [worker, opened, bytes, day, species, tally, earlier, large]);

  // What was shown on a trip is kept before anybody knows, to be held against what the trip sees.
  const shownFor = useRef('');
  useEffect(() => {
    const key = `${running?.id} ${species.name}`;
    if (!running || !answer || answer.large || !chart || Object.keys(whatIf).length || shownFor.current === key) return;
    const timer = setTimeout(() => {
      shownFor.current = key;
      if (localStorage.getItem('outlook') === key) return;
      const { cells } = chart;
      const round = (p: number): number => Number(p.toPrecision(4));
      void outbox
        .put('PUT', `/trips/${running.id}/outlooks/${newId()}`, {
          species: species.name,
          at: Date.now(),
          columns: [...cells.column],
          rows: [...cells.row],
          chances: [...answer.forecast.probability].map(round),
          places: answer.places.map((p) => ({
            name: p.name,
            chance: round(p.probability),
            cells: p.cells.map((c) => [cells.column[c], cells.row[c]]),
          })),
        })
        .then(() => localStorage.setItem('outlook', key));
    }, 1500);
    return () => clearTimeout(timer);
  }, [running, answer, chart, species.name, whatIf]);

  return {
    today,
    scores: scores.data ?? null,
    schoolsOnly,
    setFitAnyway,
    answer,
    fit: fit.data,
    failed: fit.error ?? looks.error,
    refit,
    cancel,
    progress,
  };
}
