import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { newId } from '@restless-shoal/core/logbook';
import { ask } from '../../api/client';
import { useFit, useScores, useWaters } from '../../api/queries';
import { keepAndSend } from '../../offline/device';
import { useForecastInputs } from '../../state/forecast-inputs';
import { takeRefitWanted } from '../../state/refit-wanted';
import { useWaterState } from '../../state/water';
import type { ForecastAnswer } from '../../workers/forecast.worker';
import { Replaced, type ForecastService } from '../../workers/forecast-service';
import { capital, say } from '../../words';
import { told } from '../../parts/told';

export interface FitProgress {
  share: number;
  error: string | null;
}

/** The forecast of the water for the Strip's conditions, computed anew whenever they change. @param large large fish alone are asked for */
export function useForecast(service: ForecastService | null, large: boolean) {
  const { water, species, day, log, chart, running, whatIf } = useWaterState();
  const queries = useQueryClient();
  const fit = useFit(water.id, species.name);
  const { tally, earlier, failed: notRead } = useForecastInputs();
  const scores = useScores(water.id, species.name);
  const [fitAnyway, setFitAnyway] = useState(false);
  const [computed, setAnswer] = useState<ForecastAnswer | null>(null);
  // An answer to another question is none to this one.
  const answer = computed?.species === species.name && computed.forecast.probability.length === chart?.cells.count ? computed : null;
  const [notAnswered, setNotAnswered] = useState<Error | null>(null);
  const [progress, setProgress] = useState<FitProgress | null>(null);
  const job = useRef<string | null>(null);

  const today = useMemo(() => new Set(earlier.map((l) => l.cell)), [earlier]);

  const refit = useCallback(async () => {
    setProgress({ share: 0, error: null });
    try {
      // Each fit is followed by its own job: that of another species may have been asked for meanwhile.
      const { job: id } = await ask('POST /waters/:water/models', { water: water.id }, { body: { species: species.name } });
      job.current = id;
      for (;;) {
        await new Promise((done) => setTimeout(done, 350));
        const state = await ask('GET /jobs/:job', { job: id });
        if (state.state === 'cancelled') return;
        if (job.current === id) setProgress({ share: state.share, error: state.error });
        if (state.state === 'failed') return;
        if (state.state === 'done') break;
      }
      if (job.current === id) setProgress(null);
      await queries.invalidateQueries({ queryKey: ['fit', water.id, species.name] });
      // How good it is follows by itself.
      for (const key of [
        ['looks', water.id],
        ['scores', water.id, species.name],
      ])
        await queries.invalidateQueries({ queryKey: key });
    } catch (error) {
      setProgress({ share: 0, error: told(error) });
    }
  }, [queries, water.id, species.name]);

  const cancel = useCallback(async () => {
    const id = job.current;
    job.current = null;
    setProgress(null);
    if (id) await ask('DELETE /jobs/:job', { job: id }).catch(() => undefined);
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

  // What its species needs, or the strategies, were set otherwise by hand: that is asking for it.
  useEffect(() => {
    if (fit.data?.stale && takeRefitWanted(water.id, species.name)) void refit();
  }, [fit.data, water.id, species.name, refit]);

  // Where the log does no better than the strategies, the strategies are shown.
  const strategiesOnly = scores.data?.verdict === 'worse' && !fitAnyway;
  const bytes = fit.data === undefined ? undefined : strategiesOnly ? null : (fit.data?.bytes ?? null);

  // While a finger drags, only the newest conditions are computed.
  const busy = useRef<ForecastService | null>(null);
  const next = useRef<(() => Promise<void>) | null>(null);
  useEffect(() => {
    if (!service || bytes === undefined) return;
    next.current = async () => {
      try {
        setAnswer(await service.forecast({ day, species, tally: tally ?? null, earlier, large }, bytes));
        setNotAnswered(null);
      } catch (error) {
        // Of a chart that was followed by another nobody waits for an answer.
        if (busy.current === service && !(error instanceof Replaced)) setNotAnswered(error as Error);
      }
    };
    if (busy.current === service) return;
    busy.current = service;
    void (async () => {
      while (next.current && busy.current === service) {
        const run = next.current;
        next.current = null;
        await run();
      }
      if (busy.current === service) busy.current = null;
    })();
  }, [service, bytes, day, species, tally, earlier, large]);

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
      void keepAndSend(
        'PUT /trips/:trip/outlooks/:id',
        { trip: running.id, id: newId() },
        {
          species: species.name,
          at: Date.now(),
          columns: [...cells.column],
          rows: [...cells.row],
          chances: [...answer.forecast.probability].map(round),
          places: answer.places.map((p) => ({
            name: capital(say(p.name)),
            chance: round(p.probability),
            cells: p.cells.map((c): [number, number] => [cells.column[c], cells.row[c]]),
          })),
        },
      ).then(() => localStorage.setItem('outlook', key));
    }, 1500);
    return () => clearTimeout(timer);
  }, [running, answer, chart, species.name, whatIf]);

  return {
    today,
    scores: scores.data ?? null,
    strategiesOnly,
    setFitAnyway,
    answer,
    fit: fit.data,
    failed: notAnswered ?? fit.error ?? notRead,
    refit,
    cancel,
    progress,
  };
}
