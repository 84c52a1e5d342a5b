import PgBoss from 'pg-boss';
import type { Pool } from '../db/pool';
import { waterById } from '../db/waters';
import { freshFit } from './ready';

const FIT = 'fit';

export interface JobState {
  id: string;
  /** waiting, running, done, failed, cancelled */
  state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
  share: number;
  error: string | null;
}

interface FitData {
  account: string;
  water: string;
  species: string;
}

const STATES: Record<string, JobState['state']> = {
  created: 'waiting',
  retry: 'waiting',
  active: 'running',
  completed: 'done',
  cancelled: 'cancelled',
  failed: 'failed',
};

/** Long work, queued in the database, run in worker threads: it survives a restart and can be cancelled. */
export class Jobs {
  private readonly boss: PgBoss;
  private readonly running = new Map<string, AbortController>();

  constructor(
    private readonly pool: Pool,
    url: string,
    private readonly log: (line: string) => void = () => undefined,
  ) {
    this.boss = new PgBoss({ connectionString: url, max: 4 });
    this.boss.on('error', (error) => this.log(`jobs: ${error.message}`));
  }

  async start(): Promise<void> {
    await this.boss.start();
    await this.boss.createQueue(FIT, { name: FIT, retryLimit: 2, expireInSeconds: 900 });
    await this.boss.work<FitData>(FIT, { pollingIntervalSeconds: 0.5 }, async ([job]) => {
      const stop = new AbortController();
      this.running.set(job.id, stop);
      try {
        await this.fit(job.id, job.data, stop.signal);
      } finally {
        this.running.delete(job.id);
      }
    });
  }

  async stop(): Promise<void> {
    for (const stop of this.running.values()) stop.abort();
    await this.boss.stop({ graceful: false, wait: false, close: true });
  }

  private async fit(id: string, { account, water: waterId, species }: FitData, signal: AbortSignal): Promise<void> {
    const water = await waterById(this.pool, account, waterId);
    if (!water) throw new Error('the water is gone');
    let shown = 0;
    await freshFit(this.pool, water, species, null, {
      signal,
      onProgress: (share) => {
        if (share - shown < 0.03) return;
        shown = share;
        this.pool.query('UPDATE job_progress SET share = $2, changed_at = now() WHERE job_id = $1', [id, share]).catch(() => undefined);
      },
    });
  }

  /** Queues a fit; one that waits already for the same water and species is joined. */
  async startFit(account: string, water: string, species: string): Promise<string> {
    const waiting = await this.pool.query<{ id: string }>(
      `SELECT id FROM pgboss.job WHERE name = $1 AND state = 'created' AND data->>'water' = $2 AND data->>'species' = $3 LIMIT 1`,
      [FIT, water, species],
    );
    if (waiting.rowCount) return waiting.rows[0].id;
    const id = await this.boss.send(FIT, { account, water, species } satisfies FitData);
    if (!id) throw new Error('the fit could not be queued');
    await this.pool.query('INSERT INTO job_progress (job_id, account_id, queue) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING', [
      id,
      account,
      FIT,
    ]);
    return id;
  }

  private async own(account: string, id: string): Promise<{ queue: string; share: number } | null> {
    if (!/^[0-9a-f-]{36}$/i.test(id)) return null;
    const { rows } = await this.pool.query<{ queue: string; share: number }>(
      'SELECT queue, share FROM job_progress WHERE job_id = $1 AND account_id = $2',
      [id, account],
    );
    return rows[0] ?? null;
  }

  async state(account: string, id: string): Promise<JobState | null> {
    const progress = await this.own(account, id);
    const job = progress && (await this.boss.getJobById(progress.queue, id));
    if (!progress || !job) return null;
    const state = STATES[job.state] ?? 'waiting';
    const output = job.output as { message?: string } | null;
    return { id, state, share: state === 'done' ? 1 : progress.share, error: state === 'failed' ? (output?.message ?? 'it failed') : null };
  }

  async cancel(account: string, id: string): Promise<boolean> {
    const progress = await this.own(account, id);
    if (!progress) return false;
    await this.boss.cancel(progress.queue, id);
    this.running.get(id)?.abort();
    return true;
  }
}
