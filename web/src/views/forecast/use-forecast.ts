import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { cellKey } from '@restless-shoal/core/geo';
import { sawSpecies } from '@restless-shoal/core/forecast';
import { findSpecies } from '@restless-shoal/core/species';
import { getJson, sendJson } from '../../api/client';
import { useFit, useLooks, type JobState } from '../../api/queries';
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
export function useForecast(worker: ReturnType<typeof useForecastWorker>) {
  const { water, species, conditions, frame, cast, log } = useWaterState();
  const queries = useQueryClient();
  const fit = useFit(water.id, species.name);
  const looks = useLooks(water.id);
  const cellIndex = useCellIndex();
  const [answer, setAnswer] = useState<ForecastAnswer | null>(null);
  const [opened, setOpened] = useState<Uint8Array | null | undefined>(undefined);
  const [progress, setProgress] = useState<FitProgress | null>(null);
  const job = useRef<string | null>(null);

  const tally = useMemo(() => {
    const cells = new Map<number, [number, number, number]>();
    const is = (name: string): boolean => findSpecies(name, water.species)?.name === species.name;
    for (const trip of looks.data ?? [])
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

  const refit = useCallback(async () => {
    setProgress({ share: 0, error: null });
    try {
      job.current = (await sendJson<{ job: string }>('POST', `/waters/${water.id}/models`, { species: species.name })).job;
      for (;;) {
        await new Promise((done) => setTimeout(done, 350));
        if (!job.current) return;
        const state = await getJson<JobState>(`/jobs/${job.current}`);
        setProgress({ share: state.share, error: state.error });
        if (state.state === 'failed') return;
        if (state.state === 'cancelled') return setProgress(null);
        if (state.state === 'done') break;
      }
      await queries.invalidateQueries({ queryKey: ['fit', water.id, species.name] });
      await queries.invalidateQueries({ queryKey: ['looks', water.id] });
      setProgress(null);
    } catch (error) {
      setProgress({ share: 0, error: (error as Error).message });
    }
  }, [queries, water.id, species.name]);

  const cancel = useCallback(async () => {
    const id = job.current;
    job.current = null;
    setProgress(null);
    if (id) await sendJson('DELETE', `/jobs/${id}`).catch(() => undefined);
  }, []);

  // A water with a log and no fit yet is fitted without being asked; later fits are the angler's choice.
  const asked = useRef('');
  useEffect(() => {
    const key = `${water.id} ${species.name}`;
    if (fit.data !== null || asked.current === key || !log.trips.length) return;
    asked.current = key;
    void refit();
  }, [fit.data, water.id, species.name, log.trips.length, refit]);

  const bytes = fit.data === undefined ? undefined : (fit.data?.bytes ?? null);
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
  const busy = useRef(false);
  const next = useRef<(() => Promise<void>) | null>(null);
  useEffect(() => {
    if (!worker || opened === undefined) return;
    next.current = async () => setAnswer(await worker.forecast({ conditions, frame, cast, species, tally }));
    if (busy.current) return;
    busy.current = true;
    void (async () => {
      while (next.current) {
        const run = next.current;
        next.current = null;
        await run().catch(() => undefined);
      }
      busy.current = false;
    })();
  }, [worker, opened, conditions, frame, cast, species, tally]);

  return { answer, fit: fit.data, failed: fit.error ?? looks.error, refit, cancel, progress };
}
