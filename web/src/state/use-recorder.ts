import { useCallback, useEffect, useRef } from 'react';
import { deckNow } from '../api/clock';
import { outbox } from '../offline/device';
import type { Boat } from './use-boat';
import { effortColumns, type ViewInUse } from './views-in-use';

/** A standing boat looks on: a fix at least this often, so that fixes join (30 s at most). */
const HEARTBEAT_MS = 5000;
/** And at most this often. */
const LEAST_MS = 900;

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
  const recordedAt = useRef(0);
  const latest = useRef({ boat, view, looking });
  useEffect(() => {
    latest.current = { boat, view, looking };
  });

  const record = useCallback(() => {
    const { boat: b, view: v, looking: l } = latest.current;
    if (!b) return;
    recordedAt.current = Date.now();
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
    // A boat's network says where it is several times a second: a fix a second is enough of a track.
    if (trip && boat && Date.now() - recordedAt.current >= LEAST_MS) record();
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
