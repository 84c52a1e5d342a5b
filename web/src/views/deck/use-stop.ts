import { useCallback, useEffect, useMemo, useState } from 'react';
import { newId, type Response, type Stop } from '@restless-shoal/core/logbook';
import { deckNow } from '../../api/clock';
import type { StoredStop, TripDetail } from '../../api/queries';
import { asSent } from '../../parts/records/trip-record';
import { type Outcome } from '../../parts/records/outcome';

/** What is fished with; stays chosen from one response to the next. */
export interface Lure {
  lure: string | null;
  lure_mass_g: number | null;
  lure_colour: string | null;
  presentation: string | null;
  /** Not known to what was kept on a device before rods were. */
  rod?: string | null;
}

type Write = (record: 'stops' | 'responses', id: string, row: object) => Promise<void>;
type StoredResponse = TripDetail['responses'][number];

/** A stop that is being fished, its clock and what happened at it. */
export interface OpenStop {
  stop: StoredStop;
  responses: StoredResponse[];
  /** Casts since the last response. */
  casts: number;
  /** Milliseconds since it began. */
  elapsed: number;
}

export interface StopState {
  open: OpenStop | null;
  lure: Lure;
  setLure: (lure: Lure) => void;
  cast: () => void;
  begin: (at: { latitude: number; longitude: number }) => Promise<string>;
  respond: (response: Response['response'], more: Partial<Response>) => Promise<string>;
  change: (response: StoredResponse, more: Partial<Response>) => Promise<void>;
  leave: (outcome: Outcome, notes: string | null) => Promise<void>;
  /** Nothing is left of a stop begun by mistake. */
  forget: () => void;
}

const NO_LURE: Lure = { lure: null, lure_mass_g: null, lure_colour: null, presentation: null, rod: null };
const read = <T>(key: string): T | null => JSON.parse(localStorage.getItem(key) ?? 'null') as T | null;

/**
 * The stop that is open on this device. It stands in the log from its first moment, its end moving on with what
 * happens, so that a dead battery costs the end of a stop and not the stop.
 */
export function useStop(trip: string | null, detail: TripDetail | null, write: Write): StopState {
  const key = `open stop ${trip}`;
  const [id, setId] = useState<string | null>(() => read<string>(key));
  const [casts, setCasts] = useState(0);
  const [lure, chooseLure] = useState<Lure>(() => read<Lure>('lure') ?? NO_LURE);
  const [now, setNow] = useState(() => Date.now());
  const keep = useCallback(
    (open: string | null): void => {
      if (open) localStorage.setItem(key, JSON.stringify(open));
      else localStorage.removeItem(key);
      setId(open);
      setCasts(0);
      setNow(Date.now());
    },
    [key],
  );
  useEffect(() => {
    if (!id) return;
    const beat = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(beat);
  }, [id]);

  const open = useMemo((): OpenStop | null => {
    const stop = detail?.stops.find((s) => s.id === id);
    if (!stop || !detail) return null;
    return {
      stop,
      responses: detail.responses.filter((r) => r.stop === stop.stop).sort((a, b) => Date.parse(a.time) - Date.parse(b.time)),
      casts,
      elapsed: Math.max(0, now - Date.parse(stop.start)),
    };
  }, [detail, id, casts, now]);

  const begin: StopState['begin'] = async (at) => {
    const moment = deckNow();
    const stop = newId(moment);
    const time = new Date(moment).toISOString();
    const row: Partial<Stop> = { stop, start: time, end: time, ...at, radius_m: 25, rods: 1, outcome: null };
    await write('stops', stop, row);
    keep(stop);
    return stop;
  };
  const respond: StopState['respond'] = async (response, more) => {
    const moment = deckNow();
    const key = newId(moment);
    const time = new Date(moment).toISOString();
    await write('responses', key, { time, response, stop: open!.stop.stop, ...lure, casts: casts || null, ...more });
    await write('stops', open!.stop.id, { ...asSent('stops', open!.stop), end: time });
    setCasts(0);
    return key;
  };
  const change: StopState['change'] = (response, more) => write('responses', response.id, { ...asSent('responses', response), ...more });
  const leave: StopState['leave'] = async (outcome, notes) => {
    await write('stops', open!.stop.id, { ...asSent('stops', open!.stop), end: new Date(deckNow()).toISOString(), outcome, notes });
    keep(null);
  };
  const setLure = (next: Lure): void => {
    localStorage.setItem('lure', JSON.stringify(next));
    chooseLure(next);
  };
  return { open, lure, setLure, cast: () => setCasts((n) => n + 1), begin, respond, change, leave, forget: () => keep(null) };
}
