import { fileURLToPath } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { chartFrom, type Chart, type ChartFeature, type Worked } from '@restless-shoal/core/chart';
import type { ScoreCard } from '@restless-shoal/core/forecast';
import { Raster, type Rings } from '@restless-shoal/core/geo';
import type { ChartTask, FitTask, LaidBottom, LooksTask, TripLooks } from './worker';

let threads: Piscina | null = null;

/** Worker threads, made when first needed: a quick command never pays for them. */
function workers(): Piscina {
  threads ??= new Piscina({ filename: fileURLToPath(new URL('./worker.mjs', import.meta.url)), maxThreads: 2, idleTimeout: 60_000 });
  return threads;
}

export interface TaskOptions {
  onProgress?: (share: number, words?: string) => void;
  signal?: AbortSignal;
}

async function run<T>(name: string, task: object, { onProgress, signal }: TaskOptions, moved: ArrayBuffer[] = []): Promise<T> {
  const { port1, port2 } = new MessageChannel();
  port1.on('message', ({ share, words }: { share: number; words?: string }) => onProgress?.(share, words));
  try {
    return (await workers().run({ ...task, port: port2 }, { name, signal, transferList: [port2, ...moved] })) as T;
  } finally {
    port1.close();
  }
}

/** A chart, and the outline it was built in where that was proposed from the soundings. */
export interface ChartBuild {
  chart: Chart;
  proposed: Rings | null;
}

/**
 * Builds a chart: the bottom in one thread, then its shapes and its cells in two. The columns of the soundings are
 * moved to the worker, not copied.
 */
export async function runChart(task: ChartTask, { onProgress, signal }: TaskOptions = {}): Promise<ChartBuild | null> {
  const { time, latitude, longitude, depth, temperature, hardness, survey } = task.soundings;
  const moved = [time, latitude, longitude, depth, temperature, hardness, survey].map((column) => column.buffer as ArrayBuffer);
  const laid = await run<LaidBottom | null>('bottom', task, { signal, onProgress: (s, words) => onProgress?.(0.7 * s, words) }, moved);
  if (!laid) return null;
  const [shapes, worked] = await Promise.all([
    run<ChartFeature[]>('shapes', { surface: laid.surface }, { signal, onProgress: (s, words) => onProgress?.(0.7 + 0.25 * s, words) }),
    run<Worked>('cells', laid, { signal }),
  ]);
  const raster = ({ x0, y0, size, width, height, data }: Raster): Raster => new Raster(x0, y0, size, width, height, data);
  // Between threads go numbers, not methods.
  const surface = { ...laid.surface, depth: raster(laid.surface.depth), hardness: raster(laid.surface.hardness) };
  const whole = { cells: worked.cells, distance: raster(worked.distance), quality: raster(worked.quality) };
  return { chart: chartFrom(surface, shapes, whole, laid.cleaning), proposed: laid.proposed ? laid.rings : null };
}
export const runLooks = (task: LooksTask, options: TaskOptions = {}): Promise<TripLooks[]> => run('looks', task, options);
export const runScore = (task: FitTask, options: TaskOptions = {}): Promise<ScoreCard | null> => run('score', task, options);
export const runFit = (task: FitTask, options: TaskOptions = {}): Promise<Uint8Array> => run('fit', task, options);

export async function closeWorkers(): Promise<void> {
  await threads?.destroy();
  threads = null;
}
