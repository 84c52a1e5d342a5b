import { randomUUID } from 'node:crypto';
import { setTimeout as sleep } from 'node:timers/promises';
import PgBoss from 'pg-boss';
import { JOB_KINDS, type JobKind, type JobState } from '@restless-shoal/core/contract';
import type { ScoreCard } from '@restless-shoal/core/forecast';
import { isId } from '@restless-shoal/core/logbook';
import type { SpeciesProfile } from '@restless-shoal/core/species';
import type { Pool } from '../db/pool';
import { listWaters, loggedSpecies, speciesOf, waterById, type WaterRow } from '../db/waters';
import type { Uploads } from '../import/uploads';
import type { ImportRequest } from './import-and-ready';
import { runJob } from './pool';
import { keptLooks, staleLooks, type TripWithLooks } from './looks';
import { latestFit, scoresOfFit } from './ready';
import type { JobData } from './work';

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

/** A request waits so long for what is derived from what was just logged. */
const MOMENT_MS = 3000;

/** A running job says that it lives every so often; one that was silent for longer is run by nobody. */
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

/** Long work, queued in the database, done in threads of its own: it survives a restart and can be cancelled. */
export class Jobs {
  private readonly boss: PgBoss;
  private readonly running = new Map<string, AbortController>();
  private beats: NodeJS.Timeout | null = null;
  private readonly pool: Pool;
  private readonly url: string;
  readonly uploads: Uploads;
  private readonly ahead: boolean;
  private readonly log: (line: string) => void;

  constructor({ pool, url, uploads, ahead = true, log = () => undefined }: JobsOptions) {
    this.pool = pool;
    this.url = url;
    this.ahead = ahead;
    this.uploads = uploads;
    this.log = log;
    this.boss = new PgBoss({ connectionString: url, max: 4 });
    this.boss.on('error', (error) => this.log(`jobs: ${error.message}`));
  }

  async start(): Promise<void> {
    await this.boss.start();
    for (const kind of JOB_KINDS) {
      await this.boss.createQueue(kind, { name: kind, retryLimit: 2, expireInSeconds: 3600 });
      await this.boss.work<JobData>(kind, { pollingIntervalSeconds: 0.5 }, async ([job]) => this.run(kind, job));
    }
    await this.takeUpSilent();
    this.beats = setInterval(() => void this.beat().catch((error: Error) => this.log(`jobs: ${error.message}`)), BEAT_MS);
    const { rows } = await this.pool.query<{ upload: string }>(
      `SELECT data->>'upload' AS upload FROM pgboss.job WHERE name = 'import' AND state <= 'active'`,
    );
    await this.uploads.tidy(rows.map((r) => r.upload));
  }

  async stop(): Promise<void> {
    if (this.beats) clearInterval(this.beats);
    for (const stop of this.running.values()) stop.abort();
    await this.boss.stop({ graceful: false, wait: false, close: true });
  }

  private async run(kind: JobKind, { id, data }: PgBoss.Job<JobData>): Promise<void> {
    const stop = new AbortController();
    this.running.set(id, stop);
    await this.pool.query('UPDATE job_progress SET changed_at = now() WHERE job_id = $1', [id]);
    let shown = { share: 0, words: '' };
    const onProgress = (share: number, words = shown.words): void => {
      if (Math.abs(share - shown.share) < 0.02 && words === shown.words) return;
      shown = { share, words };
      this.pool
        .query('UPDATE job_progress SET share = $2, words = $3, changed_at = now() WHERE job_id = $1', [id, share, words || null])
        .catch(() => undefined);
    };
    try {
      const outcome = await runJob({ kind, data, url: this.url, folder: this.uploads.folder }, { signal: stop.signal, onProgress });
      const refused = 'refused' in outcome;
      if (!refused) await this.followUp(kind, data, outcome.result);
      // A file that cannot be read will not be read better the next time: the job ends, and says why. What was refused is
      // sent anew once it is put right.
      await this.pool.query(`UPDATE job_progress SET ${refused ? '' : 'share = 1, '}result = $2, changed_at = now() WHERE job_id = $1`, [
        id,
        storable(refused ? outcome : (outcome.result ?? null)),
      ]);
      if (data.upload !== undefined) await this.uploads.drop(data.upload);
    } catch (error) {
      if (!stop.signal.aborted) this.log(`${kind} job ${id}: ${(error as Error).stack ?? String(error)}`);
      throw error;
    } finally {
      this.running.delete(id);
    }
  }

  /** What a finished job is followed by: how good a forecast is, and the forecasts of what was brought in. */
  private async followUp(kind: JobKind, { account, water, species }: JobData, result: unknown): Promise<void> {
    // How good it is comes of itself.
    if (kind === 'fit') await this.startScore(account, water!, species!);
    if (kind === 'import') await this.fitAhead(account, (result as { water: string }).water);
  }

  private async beat(): Promise<void> {
    const ids = [...this.running.keys()];
    if (ids.length) {
      await this.pool.query('UPDATE job_progress SET changed_at = now() WHERE job_id = ANY($1)', [ids]);
      // Another server may have been asked to stop one of ours.
      const { rows } = await this.pool.query<{ id: string }>(`SELECT id FROM pgboss.job WHERE id = ANY($1) AND state = 'cancelled'`, [ids]);
      for (const { id } of rows) this.running.get(id)?.abort();
    }
    await this.takeUpSilent();
  }

  /**
   * Jobs that nobody runs go back to the queue: their server died, or the database was away when they ended. Of those that
   * had written what came of them, only the end is missing.
   */
  private async takeUpSilent(): Promise<void> {
    const { rows } = await this.pool.query<{ id: string; queue: string; ended: boolean }>(
      `SELECT p.job_id AS id, p.queue, p.result IS NOT NULL AS ended FROM job_progress p JOIN pgboss.job j ON j.id = p.job_id
        WHERE j.state = 'active' AND p.job_id <> ALL($1)
          -- A clock that was put back leaves signs of life that lie ahead.
          AND abs(extract(epoch FROM now() - p.changed_at)) > $2 AND abs(extract(epoch FROM now() - j.started_on)) > $2`,
      [[...this.running.keys()], SILENT_MS / 1000],
    );
    // No job is meant for later: one that is was queued by a clock that has been put back.
    await this.pool.query(`UPDATE pgboss.job SET start_after = now() WHERE state < 'active' AND start_after > now()`);
    for (const { id, queue, ended } of rows) {
      this.log(`${queue} job ${id}: nobody runs it; ${ended ? 'it had ended' : 'it is taken up again'}`);
      await (ended ? this.boss.complete(queue, id) : this.boss.fail(queue, id, { message: 'its server was gone' }));
    }
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

  /** What a fit is worth, and whether that is still being worked out: it is begun where nobody did. */
  async scoresOf(account: string, water: WaterRow, species: SpeciesProfile): Promise<{ card: ScoreCard | null; pending: boolean }> {
    const found = await scoresOfFit(this.pool, water, species);
    if (found) return { ...found, pending: false };
    const fit = await latestFit(this.pool, water, species);
    if (!fit || fit.stale || (await this.failedLately('score', water.id, species.name))) return { card: null, pending: false };
    await this.startScore(account, water.id, species.name);
    return { card: null, pending: true };
  }

  /** Whether a job that nobody asked for by hand has failed a moment ago: whoever looks again must not begin it over and over. */
  private async failedLately(kind: JobKind, water: string, species?: string): Promise<boolean> {
    const { rowCount } = await this.pool.query(
      `SELECT 1 FROM pgboss.job WHERE name = $1 AND state IN ('failed', 'cancelled') AND data->>'water' = $2
          AND data->>'species' IS NOT DISTINCT FROM $3 AND completed_on > now() - interval '10 minutes' LIMIT 1`,
      [kind, water, species ?? null],
    );
    return Boolean(rowCount);
  }

  /** Queues a job; one that waits already for the same thing is joined. */
  private async queue(kind: JobKind, data: JobData, same: { sql: string; values: unknown[]; running?: boolean } | null): Promise<string> {
    if (same) {
      const waiting = await this.pool.query<{ id: string }>(
        `SELECT id FROM pgboss.job WHERE name = $1 AND state ${same.running ? `<= 'active'` : `= 'created'`} AND ${same.sql} LIMIT 1`,
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
    // A clock that is put far ahead must not make it too old to be done.
    await this.boss.send(kind, data, { id, retentionDays: 20_000 });
    return id;
  }

  startFit(account: string, water: string, species: string): Promise<string> {
    const same = { sql: `data->>'water' = $2 AND data->>'species' = $3`, values: [water, species] };
    return this.queue('fit', { account, water, species }, same);
  }

  startLooks(account: string, water: string): Promise<string> {
    return this.queue('looks', { account, water }, { sql: `data->>'water' = $2`, values: [water] });
  }

  /**
   * Has looks of a water that are stale derived by a job, which is waited for a moment.
   * @returns whether it takes longer than that: what is kept is handed out meanwhile
   */
  async settleLooks(account: string, water: WaterRow): Promise<boolean> {
    if (!(await staleLooks(this.pool, water)).length || (await this.failedLately('looks', water.id))) return false;
    const job = await this.startLooks(account, water.id);
    for (const end = Date.now() + MOMENT_MS; Date.now() < end;) {
      await sleep(100);
      const state = (await this.state(account, job))?.state;
      if (state !== 'waiting' && state !== 'running') break;
    }
    return (await staleLooks(this.pool, water)).length > 0;
  }

  /** The looks of a water, and whether newer ones are on their way. */
  async looksOf(account: string, water: WaterRow): Promise<{ trips: TripWithLooks[]; deriving: boolean }> {
    const deriving = await this.settleLooks(account, water);
    return { trips: await keptLooks(this.pool, water), deriving };
  }

  startScore(account: string, water: string, species: string): Promise<string> {
    // One that runs already scores what is there now.
    const same = { sql: `data->>'water' = $2 AND data->>'species' = $3`, values: [water, species], running: true };
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

/** JSON that a database keeps: names in broken files hold zero bytes and halves of characters. */
const storable = (value: unknown): string =>
  JSON.stringify(value, (_, v: unknown) =>
    typeof v === 'string' ? v.replaceAll('\u0000', '').replaceAll(/\p{Surrogate}/gu, '\ufffd') : v,
  );

interface Progress {
  job_id: string;
  queue: JobKind;
  water_id: string | null;
  share: number;
  words: string | null;
  result: unknown;
}
