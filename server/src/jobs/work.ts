import type { JobKind } from '@restless-shoal/core/contract';
import { FormatError } from '@restless-shoal/core/formats';
import type { Pool } from '../db/pool';
import { waterById, type WaterRow } from '../db/waters';
import type { Uploads } from '../import/uploads';
import { importAndReady, type ImportRequest } from './import-and-ready';
import { readyLogbook } from './packed-logbook';
import type { TaskOptions } from './pool';
import { freshLooks } from './looks';
import { buildWaterChart, freshFit, scoreFit } from './ready';

export interface JobData {
  account: string;
  /** Null for an import that makes its water. */
  water: string | null;
  species?: string;
  upload?: string;
  request?: ImportRequest;
}

/** What jobs work with. */
export interface JobTools {
  pool: Pool;
  uploads: Uploads;
}

async function waterOf(pool: Pool, { account, water }: JobData): Promise<WaterRow> {
  const found = await waterById(pool, account, water!);
  if (!found) throw new FormatError('the water is gone');
  return found;
}

/** What each kind of job does. @returns what came of it, as JSON */
export const work: Record<JobKind, (data: JobData, tools: JobTools, options: TaskOptions) => Promise<unknown>> = {
  async looks(data, { pool }, options) {
    const water = await waterOf(pool, data);
    await freshLooks(pool, water, options);
    await readyLogbook(pool, water);
  },
  async fit(data, { pool }, options) {
    await freshFit(pool, await waterOf(pool, data), data.species!, null, options);
  },
  async score(data, { pool }, options) {
    await scoreFit(pool, await waterOf(pool, data), data.species!, options);
  },
  async chart(data, { pool }, { signal, onProgress }) {
    const water = await waterOf(pool, data);
    const built = await buildWaterChart(pool, water, { signal, onProgress: (s, words) => onProgress?.(0.9 * s, words) });
    onProgress?.(0.9, 'deriving looks');
    await freshLooks(pool, water, { signal, onProgress: (s) => onProgress?.(0.9 + 0.1 * s, 'deriving looks') });
    await readyLogbook(pool, water);
    return built && { soundings: built.soundings, cells: built.cells };
  },
  async import({ account, upload, request }, { pool, uploads }, options) {
    options.onProgress?.(0.02, 'reading');
    const { imported, water: ready, chart, looks } = await importAndReady(pool, account, await uploads.sources(upload!), request!, options);
    await readyLogbook(pool, ready);
    const { water, created, files, passedOver, unknownPlaces } = imported;
    return { water: water.id, created, files, passedOver, unknownPlaces, chart, looks };
  },
};
