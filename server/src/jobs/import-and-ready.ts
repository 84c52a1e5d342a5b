import { latestChartId } from '../db/charts';
import type { Pool } from '../db/pool';
import { waterById, type WaterRow } from '../db/waters';
import { importInto } from '../import/import';
import type { ImportOptions, ImportResult } from '../import/import-terms';
import type { Source } from '../import/sources';
import { freshLooks } from './looks';
import { buildWaterChart } from './ready';
import type { TaskOptions } from './pool';

/** What an import did, up to looks that are fresh. */
export interface ReadyImport {
  imported: ImportResult;
  water: WaterRow;
  /** The chart that was built; null when the one there is still right, or there is nothing to build from. */
  chart: { id: number; soundings: number; cells: number } | null;
  hasChart: boolean;
  looks: { looks: number; trips: number; outside: number };
}

export interface ImportRequest {
  water: string;
  create: boolean;
  update: boolean;
  mapping?: ImportOptions['mapping'];
  from?: ImportOptions['from'];
}

/** Imports sources and leaves the water ready: outline, chart, looks. */
export async function importAndReady(
  pool: Pool,
  account: string,
  sources: Source[],
  request: ImportRequest,
  { onProgress, signal }: TaskOptions & { onImported?: (result: ImportResult) => void } = {},
): Promise<ReadyImport> {
  const imported = await importInto(pool, account, sources, { ...request, signal, onProgress: (words) => onProgress?.(0.3, words) });
  const water = (await waterById(pool, account, imported.water.id))!;
  const wanted = imported.chartStale || (await latestChartId(pool, water.id)) == null;
  const chart = wanted
    ? await buildWaterChart(pool, water, { signal, onProgress: (s, words) => onProgress?.(0.4 + 0.4 * s, words) })
    : null;
  onProgress?.(0.8, 'deriving looks');
  const trips = await freshLooks(pool, water, { signal, onProgress: (s) => onProgress?.(0.8 + 0.2 * s, 'deriving looks') });
  return {
    imported,
    water,
    chart: chart && { id: chart.id, soundings: chart.soundings, cells: chart.cells },
    hasChart: chart !== null || (await latestChartId(pool, water.id)) != null,
    looks: {
      looks: trips.reduce((n, t) => n + t.looks.length, 0),
      trips: trips.length,
      outside: trips.reduce((n, t) => n + t.outside.length, 0),
    },
  };
}
