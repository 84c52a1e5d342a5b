import { randomUUID } from 'node:crypto';
import PgBoss from 'pg-boss';
import { FormatError } from '@restless-shoal/core/formats';
import { isId } from '@restless-shoal/core/logbook';
import type { Pool } from '../db/pool';
import { listWaters, loggedSpecies, speciesOf, waterById } from '../db/waters';
import { NoSuchWaterError } from '../import/import';
import type { Uploads } from '../import/uploads';
import { importAndReady, type ImportRequest } from './import-and-ready';
import type { TaskOptions } from './pool';
import { buildWaterChart, freshFit, freshLooks, latestFit, scoreFit, scoresOfFit } from './ready';

export type JobKind = 'fit' | 'score' | 'chart' | 'import';

export interface JobState {
  id: string;
  kind: JobKind;
  water: string | null;
  state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
  /** 0–1. */
  share: number;
  /** What it is at. */
  words: string | null;
  error: string | null;
  /** What came of it, once done. */
  result: unknown;
}

interface JobData {
  account: string;
  /** Null for an import that makes its water. */
  water: string | null;
  species?: string;
  upload?: string;
  request?: ImportRequest;
}

const STATES: Record<string, JobState['state']> = {
  created: 'waiting',
  retry: 'waiting',
  active: 'running',
  completed: 'done',
  cancelled: 'cancelled',
  failed: 'failed',
};

/** So many species of a water are forecast before anybody asks. */
const AHEAD = 2;

/** A running job says that it lives every so often; one that was silent for longer lost its server. */
const BEAT_MS = 3000;
const SILENT_MS = 12_000;

interface JobsOptions {
  pool: Pool;
  url: string;
  uploads: Uploads;
  /** Whether forecasts are made before anybody asks for them. */
  ahead?: boolean;
  log?: (line: string) => void;
}

/** Long work, queued in the database, run in worker threads: it survives a restart and can be cancelled. */
export class Jobs {
  private readonly boss: PgBoss;
  private readonly running = new Map<string, AbortController>();
  /** Tells this server's jobs from those of another, or of one before it. */
  private readonly server = randomUUID();
  private beats: NodeJS.Timeout | null = null;
  private readonly pool: Pool;
  readonly uploads: Uploads;
  private readonly ahead: boolean;
  private readonly log: (line: string) => void;

  constructor({ pool, url, uploads, ahead = true, log = () => undefined }: JobsOptions) {
    this.pool = pool;
    this.ahead = ahead;
    this.uploads = uploads;
    this.log = log;
    this.boss = new PgBoss({ connectionString: url, max: 4 });
    this.boss.on('error', (error) => this.log(`jobs: ${error.message}`));
  }

  async start(): Promise<void> {
    await this.boss.start();
    const work: Record<JobKind, (data: JobData, options: TaskOptions) => Promise<unknown>> = {
      fit: (data, options) => this.fit(data, options),
      score: (data, options) => this.score(data, options),
      chart: (data, options) => this.chart(data, options),
      import: (data, options) => this.import(data, options),
    };
    for (const kind of Object.keys(work) as JobKind[]) {
      await this.boss.createQueue(kind, { name: kind, retryLimit: 2, expireInSeconds: 3600 });
      await this.boss.work<JobData>(kind, { pollingIntervalSeconds: 0.5 }, async ([job]) => this.run(kind, job, work[kind]));
    }
    await this.takeUpSilent();
    this.beats = setInterval(() => void this.beat().catch((error: Error) => this.log(`jobs: ${error.message}`)), BEAT_MS);
    await this.uploads.tidy();
  }

  async stop(): Promise<void> {
    if (this.beats) clearInterval(this.beats);
    for (const stop of this.running.values()) stop.abort();
    await this.boss.stop({ graceful: false, wait: false, close: true });
  }

  private async run(
    kind: JobKind,
    job: PgBoss.Job<JobData>,
    work: (data: JobData, options: TaskOptions) => Promise<unknown>,
  ): Promise<void> {
    const stop = new AbortController();
    this.running.set(job.id, stop);
    await this.pool.query('UPDATE job_progress SET server = $2, changed_at = now() WHERE job_id = $1', [job.id, this.server]);
    let shown = { share: 0, words: '' };
    try {
      const result = await work(job.data, {
        signal: stop.signal,
        onProgress: (share, words = shown.words) => {
          if (Math.abs(share - shown.share) < 0.02 && words === shown.words) return;
          shown = { share, words };
          this.pool
            .query('UPDATE job_progress SET share = $2, words = $3, changed_at = now() WHERE job_id = $1', [job.id, share, words || null])
            .catch(() => undefined);
        },
      });
      await this.pool.query('UPDATE job_progress SET share = 1, result = $2 WHERE job_id = $1', [job.id, JSON.stringify(result ?? null)]);
    } catch (error) {
      // A file that cannot be read will not be read better the next time: the job ends, and says why.
      if (!(error instanceof FormatError || error instanceof NoSuchWaterError)) {
        if (!stop.signal.aborted) this.log(`${kind} job ${job.id}: ${(error as Error).stack ?? String(error)}`);
        throw error;
      }
      await this.pool.query('UPDATE job_progress SET result = $2 WHERE job_id = $1', [job.id, JSON.stringify({ refused: error.message })]);
      // What was refused is sent anew once it is put right.
      if (job.data.upload !== undefined) await this.uploads.drop(job.data.upload);
    } finally {
      this.running.delete(job.id);
    }
  }

  private async beat(): Promise<void> {
    const ids = [...this.running.keys()];
    if (ids.length) await this.pool.query('UPDATE job_progress SET changed_at = now() WHERE job_id = ANY($1)', [ids]);
    await this.takeUpSilent();
  }

  /** Jobs whose server died go back to the queue. */
  private async takeUpSilent(): Promise<void> {
    const { rows } = await this.pool.query<{ id: string; queue: string }>(
      `SELECT p.job_id AS id, p.queue FROM job_progress p JOIN pgboss.job j ON j.id = p.job_id
        WHERE j.state = 'active' AND p.server IS DISTINCT FROM $1 AND p.changed_at < now() - make_interval(secs => $2)`,
      [this.server, SILENT_MS / 1000],
    );
    for (const { id, queue } of rows) {
      this.log(`${queue} job ${id}: its server is gone; it is taken up again`);
      await this.boss.fail(queue, id, { message: 'its server was gone' });
    }
  }

  private async fit({ account, water: waterId, species }: JobData, options: TaskOptions): Promise<void> {
    const water = await waterById(this.pool, account, waterId!);
    if (!water) throw new FormatError('the water is gone');
    await freshFit(this.pool, water, species!, null, options);
    // How good it is comes of itself.
    if (this.ahead) await this.startScore(account, water.id, species!);
  }

  private async score({ account, water: waterId, species }: JobData, options: TaskOptions): Promise<void> {
    const water = await waterById(this.pool, account, waterId!);
    if (!water) throw new FormatError('the water is gone');
    await scoreFit(this.pool, water, species!, options);
  }

  private async chart({ account, water: waterId }: JobData, { signal, onProgress }: TaskOptions): Promise<unknown> {
    const water = await waterById(this.pool, account, waterId!);
    if (!water) throw new FormatError('the water is gone');
    const built = await buildWaterChart(this.pool, water, { signal, onProgress: (s, words) => onProgress?.(0.9 * s, words) });
    onProgress?.(0.9, 'deriving looks');
    await freshLooks(this.pool, water, { signal, onProgress: (s) => onProgress?.(0.9 + 0.1 * s, 'deriving looks') });
    return built && { soundings: built.soundings, cells: built.cells };
  }

  private async import({ account, upload, request }: JobData, options: TaskOptions): Promise<unknown> {
    options.onProgress?.(0.02, 'reading');
    const result = await importAndReady(this.pool, account, await this.uploads.sources(upload!), request!, options);
    await this.uploads.drop(upload!);
    await this.fitAhead(account, result.imported.water.id);
    const { imported, chart, looks } = result;
    const { water, created, files, passedOver, unknownPlaces } = imported;
    return { water: water.id, created, files, passedOver, unknownPlaces, chart, looks };
  }

  /**
   * Makes the forecasts that will be asked for first, so that the first look at them shows a finished answer: of the
   * species that a water's log holds most of, with how good they are on trips held out.
   */
  async fitAhead(account: string, waterId: string): Promise<void> {
    if (!this.ahead) return;
    const water = await waterById(this.pool, account, waterId);
    if (!water) return;
    const known = await speciesOf(this.pool, water.id);
    const logged = await loggedSpecies(this.pool, water.id, known);
    for (const name of logged.filter((n) => !known.find((s) => s.name === n)?.isForage).slice(0, AHEAD)) {
      const species = known.find((s) => s.name === name)!;
      const fit = await latestFit(this.pool, water, species);
      if (!fit || fit.stale) await this.startFit(account, water.id, name);
      else if ((await scoresOfFit(this.pool, water, species)) === null) await this.startScore(account, water.id, name);
    }
  }

  /** The same for every water that is in use. */
  async fitAllAhead(account: string): Promise<void> {
    if (!this.ahead) return;
    for (const water of await listWaters(this.pool, account))
      if (!water.archived_at && water.soundings) await this.fitAhead(account, water.id);
  }

  /** Queues a job; one that waits already for the same thing is joined. */
  private async queue(kind: JobKind, data: JobData, same: { sql: string; values: unknown[] } | null): Promise<string> {
    if (same) {
      const waiting = await this.pool.query<{ id: string }>(
        `SELECT id FROM pgboss.job WHERE name = $1 AND state = 'created' AND ${same.sql} LIMIT 1`,
        [kind, ...same.values],
      );
      if (waiting.rowCount) return waiting.rows[0].id;
    }
    const id = randomUUID();
    await this.pool.query('INSERT INTO job_progress (job_id, account_id, queue, water_id) VALUES ($1, $2, $3, $4)', [
      id,
      data.account,
      kind,
      data.water,
    ]);
    await this.boss.send(kind, data, { id });
    return id;
  }

  startFit(account: string, water: string, species: string): Promise<string> {
    const same = { sql: `data->>'water' = $2 AND data->>'species' = $3`, values: [water, species] };
    return this.queue('fit', { account, water, species }, same);
  }

  startScore(account: string, water: string, species: string): Promise<string> {
    const same = { sql: `data->>'water' = $2 AND data->>'species' = $3`, values: [water, species] };
    return this.queue('score', { account, water, species }, same);
  }

  startChart(account: string, water: string): Promise<string> {
    return this.queue('chart', { account, water }, { sql: `data->>'water' = $2`, values: [water] });
  }

  startImport(account: string, water: string | null, upload: string, request: ImportRequest): Promise<string> {
    return this.queue('import', { account, water, upload, request }, null);
  }

  private async own(account: string, id: string): Promise<Progress | null> {
    if (!isId(id)) return null;
    const { rows } = await this.pool.query<Progress>('SELECT * FROM job_progress WHERE job_id = $1 AND account_id = $2', [id, account]);
    return rows[0] ?? null;
  }

  async state(account: string, id: string): Promise<JobState | null> {
    const progress = await this.own(account, id);
    return progress && this.stateOf(progress);
  }

  private async stateOf(asked: Progress): Promise<JobState | null> {
    const job = await this.boss.getJobById(asked.queue, asked.job_id);
    if (!job) return null;
    // A job writes its result before it ends: read after the end, it is all there.
    const { rows } = await this.pool.query<Progress>('SELECT * FROM job_progress WHERE job_id = $1', [asked.job_id]);
    const progress = rows[0] ?? asked;
    const refused = (progress.result as { refused?: string } | null)?.refused;
    const state = refused ? 'failed' : (STATES[job.state] ?? 'waiting');
    const output = job.output as { message?: string } | null;
    return {
      id: progress.job_id,
      kind: progress.queue,
      water: progress.water_id,
      state,
      share: state === 'done' ? 1 : progress.share,
      words: progress.words,
      error: refused ?? (state === 'failed' ? (output?.message ?? 'it failed') : null),
      result: state === 'done' ? progress.result : null,
    };
  }

  /** The jobs of a water that wait or run. */
  async underWay(account: string, water: string): Promise<JobState[]> {
    const { rows } = await this.pool.query<Progress>(
      `SELECT p.* FROM job_progress p JOIN pgboss.job j ON j.id = p.job_id
        WHERE p.account_id = $1 AND p.water_id = $2 AND j.state IN ('created', 'retry', 'active') ORDER BY j.created_on`,
      [account, water],
    );
    return (await Promise.all(rows.map((row) => this.stateOf(row)))).filter((s): s is JobState => s !== null);
  }

  async cancel(account: string, id: string): Promise<boolean> {
    const progress = await this.own(account, id);
    if (!progress) return false;
    await this.boss.cancel(progress.queue, id);
    this.running.get(id)?.abort();
    return true;
  }
}

interface Progress {
  job_id: string;
  queue: JobKind;
  water_id: string | null;
  share: number;
  words: string | null;
  result: unknown;
}
