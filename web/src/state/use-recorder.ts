import { useCallback, useEffect, useRef } from 'react';
import { distance, type LatLon } from '@restless-shoal/core/geo';
import { deckNow } from '../api/clock';
import { outbox } from '../offline/device';
import type { Boat } from './use-boat';
import { effortColumns, type ViewInUse } from './views-in-use';

/** A standing boat looks on: a fix at least this often, so that fixes join (30 s at most). */
const HEARTBEAT_MS = 5000;
/** And at most this often, unless it has moved this far. */
const LEAST_MS = 900;
const LEAST_M = 8;

interface RecorderOptions {
  trip: string | null;
  boat: Boat | null;
  view: ViewInUse;
  /** Whether the sonar is being watched; if not, the track is transit. */
  looking: boolean;
}

/** Records where the boat looks while a trip runs: this is the effort. Fixes go to the outbox every few seconds. @returns sends them there now */
export function useRecorder({ trip, boat, view, looking }: RecorderOptions): () => Promise<void> {
  const queue = useRef<object[]>([]);
  const recorded = useRef<{ at: number; position: LatLon | null }>({ at: 0, position: null });
  const latest = useRef({ boat, view, looking });
  useEffect(() => {
    latest.current = { boat, view, looking };
  });

  const record = useCallback(() => {
    const { boat: b, view: v, looking: l } = latest.current;
    if (!b) return;
    recorded.current = { at: Date.now(), position: b.position };
    queue.current.push({
      time: new Date(deckNow()).toISOString(),
      latitude: b.position.latitude,
      longitude: b.position.longitude,
      mode: l ? 'scan' : 'transit',
      // Without a sounder there is no reading: what the chart says is none.
      depth_m: b.depth === null ? null : Number(b.depth.toFixed(2)),
      heading_deg: Number(b.course.toFixed(1)),
      ...effortColumns(v),
    });
  }, []);

  const flush = useCallback(async (): Promise<void> => {
    if (!trip || !queue.current.length) return;
    const batch = queue.current.splice(0, 2000);
    try {
      await outbox.put('POST', `/trips/${trip}/track`, batch);
    } catch {
      // Kept, and tried again with the next ones.
      queue.current.unshift(...batch);
    }
  }, [trip]);

  useEffect(() => {
    if (!trip || !boat) return;
    // A boat's network says where it is several times a second: a fix a second, or every few metres, is enough of a track.
    const { at, position } = recorded.current;
    if (!position || Date.now() - at >= LEAST_MS || distance(position, boat.position) >= LEAST_M) record();
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
  return flush;
}
