import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { ask } from '../api/client';
import type { JobState } from '../api/queries';

/** What a build or an import changes on the page. */
const CHANGED = ['waters', 'water', 'chart', 'surveys', 'soundings', 'looks', 'logbook', 'log', 'contacts', 'fit', 'rod-hours'];

export interface Builds {
  /** Builds and imports that wait or run. */
  running: JobState[];
  /** One that ended without doing what it was asked for: it failed or was cancelled. */
  undone: JobState | null;
  /** Tells of a job that was just queued. */
  watch: (job: string) => void;
  cancel: (job: string) => Promise<void>;
  /** Builds the chart anew. */
  again: () => Promise<void>;
  dismiss: () => void;
}

/** The builds and imports of a water; when one has ended, the page takes up what it made, or says that it made nothing. */
export function useBuilds(water: string): Builds {
  const queries = useQueryClient();
  const { data, dataUpdatedAt } = useQuery({
    queryKey: ['jobs', water],
    queryFn: async () => (await ask('GET /waters/:water/jobs', { water })).filter((j) => j.kind === 'chart' || j.kind === 'import'),
    refetchInterval: ({ state }) => (state.data?.length ? 700 : 15_000),
  });
  const [undone, setUndone] = useState<JobState | null>(null);
  const watched = useRef(new Set<string>());
  const seen = useRef(new Set<string>());
  // Those that were there when another was asked for: how they end is no news any more.
  const older = useRef(new Set<string>());
  useEffect(() => {
    if (!data) return;
    for (const { id } of data) {
      watched.current.add(id);
      seen.current.add(id);
    }
    for (const id of watched.current) {
      if (data.some((j) => j.id === id)) continue;
      watched.current.delete(id);
      void ask('GET /jobs/:job', { job: id }).then(
        (job) => {
          // An answer that was under way when it was queued does not list it yet.
          if (job.state === 'waiting' || job.state === 'running') watched.current.add(id);
          else {
            if (job.state !== 'done' && !older.current.has(id)) setUndone(job);
            void refresh(queries);
          }
        },
        () => undefined,
      );
    }
  }, [data, dataUpdatedAt, queries]);
  const look = useCallback(() => queries.invalidateQueries({ queryKey: ['jobs', water] }), [queries, water]);
  const watch = useCallback(
    (job: string) => {
      setUndone(null);
      for (const id of [...seen.current, ...watched.current]) if (id !== job) older.current.add(id);
      watched.current.add(job);
      void look();
    },
    [look],
  );
  const cancel = useCallback(
    async (job: string) => {
      await ask('DELETE /jobs/:job', { job });
      await look();
    },
    [look],
  );
  const again = useCallback(async () => watch((await ask('POST /waters/:water/chart', { water })).job), [watch, water]);
  const dismiss = useCallback(() => setUndone(null), []);
  return { running: data ?? NONE, undone, watch, cancel, again, dismiss };
}

const NONE: JobState[] = [];

/** Takes up what a build or an import made. */
export const refresh = (queries: ReturnType<typeof useQueryClient>): Promise<unknown> =>
  Promise.all(CHANGED.map((key) => queries.invalidateQueries({ queryKey: [key] })));
