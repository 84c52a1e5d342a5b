import { useCallback, useEffect, useRef, useState } from 'react';
import { sendJson } from '../../api/client';
import type { Boat } from './use-boat';
import { effortColumns, type ViewInUse } from './views-in-use';

/** A standing boat looks on: a fix at least this often, so that fixes join (30 s at most). */
const HEARTBEAT_MS = 5000;

interface RecorderOptions {
  trip: string | null;
  boat: Boat | null;
  view: ViewInUse;
  /** Whether the sonar is being watched; if not, the track is transit. */
  looking: boolean;
  depth: number | null;
}

/** Records where the boat looks while a trip runs: this is the effort. Fixes that could not be sent wait and are sent again. */
export function useRecorder({ trip, boat, view, looking, depth }: RecorderOptions): { waiting: number; flush: () => Promise<void> } {
  const queue = useRef<object[]>([]);
  const sending = useRef<Promise<void>>(Promise.resolve());
  const [waiting, setWaiting] = useState(0);
  const latest = useRef({ boat, view, looking, depth });
  useEffect(() => {
    latest.current = { boat, view, looking, depth };
  });

  const record = useCallback(() => {
    const { boat: b, view: v, looking: l, depth: d } = latest.current;
    if (!b) return;
    queue.current.push({
      time: new Date().toISOString(),
      latitude: b.position.latitude,
      longitude: b.position.longitude,
      mode: l ? 'scan' : 'transit',
      depth_m: d === null ? null : Number(d.toFixed(2)),
      heading_deg: Number(b.course.toFixed(1)),
      ...effortColumns(v),
    });
    setWaiting(queue.current.length);
  }, []);

  const flush = useCallback((): Promise<void> => {
    sending.current = sending.current.then(async () => {
      const batch = queue.current.slice(0, 2000);
      if (!trip || !batch.length) return;
      try {
        await sendJson('POST', `/trips/${trip}/track`, batch);
        queue.current.splice(0, batch.length);
      } catch {
        // Kept, and sent with the next ones.
      }
      setWaiting(queue.current.length);
    });
    return sending.current;
  }, [trip]);

  useEffect(() => {
    if (trip && boat) record();
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
  return { waiting, flush };
}
