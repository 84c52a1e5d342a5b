import { useCallback, useEffect, useRef } from 'react';
import type { LatLon } from '@restless-shoal/core/geo';
import type { TrackFix } from '@restless-shoal/core/logbook';
import { deckNow } from '../api/clock';
import { keepAndSend } from '../offline/device';
import { HEARTBEAT_MS, isRecorded } from './recorded';
import type { Boat } from './use-boat';
import { effortColumns, type ViewInUse } from './views-in-use';

interface RecorderOptions {
  trip: string | null;
  boat: Boat | null;
  view: ViewInUse;
  /** What the boat is at. */
  mode: TrackMode;
}

export type TrackMode = 'transit' | 'scan' | 'fish' | 'troll' | 'sweep';

/** A fix as it goes into the track. */
export type RecordedFix = Omit<TrackFix, 'trip'>;

/** Fixes of this page that are remembered, so that the Deck shows what was looked at without asking for it. */
const REMEMBERED = 20_000;

/**
 * Records where the boat looks while a trip runs: this is the effort. Fixes go to the outbox every few seconds.
 * @returns what sends them there now, and what this page has recorded of the trip, growing in place
 */
export function useRecorder({ trip, boat, view, mode }: RecorderOptions): { flush: () => Promise<void>; recorded: RecordedFix[] } {
  const queue = useRef<RecordedFix[]>([]);
  const all = useRef<RecordedFix[]>([]);
  useEffect(() => {
    all.current.length = 0;
  }, [trip]);
  const recorded = useRef<{ at: number; position: LatLon | null }>({ at: 0, position: null });
  const latest = useRef({ boat, view, mode });
  useEffect(() => {
    latest.current = { boat, view, mode };
  });

  const record = useCallback(() => {
    const { boat: b, view: v, mode: doing } = latest.current;
    if (!b) return;
    recorded.current = { at: Date.now(), position: b.position };
    const fix: RecordedFix = {
      time: new Date(deckNow()).toISOString(),
      latitude: b.position.latitude,
      longitude: b.position.longitude,
      mode: doing,
      // Without a sounder there is no reading: what the chart says is none.
      depth_m: b.depth === null ? null : Number(b.depth.toFixed(2)),
      heading_deg: Number(b.course.toFixed(1)),
      ...effortColumns(v),
    };
    queue.current.push(fix);
    all.current.push(fix);
    if (all.current.length > REMEMBERED) all.current.splice(0, REMEMBERED / 10);
  }, []);

  const flush = useCallback(async (): Promise<void> => {
    if (!trip || !queue.current.length) return;
    const batch = queue.current.splice(0, 2000);
    try {
      await keepAndSend('POST /trips/:trip/track', { trip }, batch);
    } catch {
      // Kept, and tried again with the next ones.
      queue.current.unshift(...batch);
    }
  }, [trip]);

  useEffect(() => {
    if (!trip || !boat) return;
    if (isRecorded(recorded.current, Date.now(), boat.position)) record();
  }, [trip, boat, record]);
  useEffect(() => {
    if (!trip) return;
    const beat = setInterval(() => {
      record();
      void flush();
    }, HEARTBEAT_MS);
    return () => {
      clearInterval(beat);
      void flush();
    };
  }, [trip, record, flush]);
  return { flush, recorded: all.current };
}
