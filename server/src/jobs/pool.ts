import { fileURLToPath } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { chartFrom, type Chart, type ChartFeature, type Worked } from '@restless-shoal/core/chart';
import type { DemoName } from '@restless-shoal/core/contract';
import type { ScoreCard } from '@restless-shoal/core/forecast';
import { FormatError } from '@restless-shoal/core/formats';
import { Raster, type Rings } from '@restless-shoal/core/geo';
import type { Features, FeaturesTask } from '../import/parts/read-features';
import type { DemoFile } from '../import/demo';
import type { Sheet, SheetsTask } from '../import/parts/read-sheets';
import type { JobOutcome, JobTask } from './job-thread';
import type { ChartTask, FitTask, LaidBottom, LooksTask, TripLooks } from './worker';

// A test that runs from the sources takes the built ones.
const built = (name: string): string =>
  fileURLToPath(new URL(import.meta.url.endsWith('.ts') ? `../../dist/${name}.mjs` : `./${name}.mjs`, import.meta.url));

let threads: Piscina | null = null;
/** Threads of their own: a file that somebody waits for does not stand behind a chart that takes minutes. */
let readers: Piscina | null = null;
/** Threads that jobs are done in, by lane: an import does not wait behind forecasts, and looks, which take a moment, behind neither. */
type Lane = 'looks' | 'imports' | 'others';
const LANES: Record<Lane, number> = { looks: 1, imports: 1, others: 2 };
const jobs: Record<Lane, Piscina | null> = { looks: null, imports: null, others: null };

/** Threads for what a built file does, made when first needed: a quick command never pays for them. */
function threadsOf(name: 'worker' | 'job-thread', maxThreads: number, idleTimeout: number): Piscina {
  // A library that knows threads of its own only asks what data they were given.
  const made = new Piscina({ filename: built(name), maxThreads, idleTimeout, workerData: {} });
  // The task of a thread that ends by itself fails, with its words; the process goes on.
  made.on('error', () => undefined);
  return made;
}

function workers(): Piscina {
  threads ??= threadsOf('worker', 2, 60_000);
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
    run<ChartFeature[]>(
      'shapes',
      { surface: laid.surface, nature: laid.nature },
      { signal, onProgress: (s, words) => onProgress?.(0.7 + 0.25 * s, words) },
    ),
    run<Worked>('cells', laid, { signal }),
  ]);
  const raster = ({ x0, y0, size, width, height, data }: Raster): Raster => new Raster(x0, y0, size, width, height, data);
  // Between threads go numbers, not methods.
  const surface = { ...laid.surface, depth: raster(laid.surface.depth), hardness: raster(laid.surface.hardness) };
  const whole = { ...worked, distance: raster(worked.distance), quality: raster(worked.quality) };
  return { chart: chartFrom(surface, shapes, whole, laid.cleaning), proposed: laid.proposed ? laid.rings : null };
}
/** No file takes longer to read, ms; some that are damaged never end. */
const PATIENCE = 60_000;

/** Reads a file of another program off the main thread. @throws FormatError when it is broken, or never ends */
async function read<T>(name: string, task: { name: string }): Promise<T> {
  readers ??= threadsOf('worker', 2, 10_000);
  try {
    return (await readers.run(task, { name, signal: AbortSignal.timeout(PATIENCE) })) as T;
  } catch (error) {
    // Between threads an error keeps its words, not its class.
    const { name: kind, message } = error as Error;
    throw new FormatError(kind === 'Error' ? message : `${task.name}: is damaged and cannot be read`);
  }
}

/** Does a job in a thread of its own. Once the signal aborts, it ends at its next step. */
export async function runJob(task: JobTask, { onProgress, signal }: TaskOptions): Promise<JobOutcome> {
  const lane: Lane = task.kind === 'looks' ? 'looks' : task.kind === 'import' ? 'imports' : 'others';
  jobs[lane] ??= threadsOf('job-thread', LANES[lane], 60_000);
  const { port1, port2 } = new MessageChannel();
  port1.on('message', ({ share, words }: { share: number; words?: string }) => onProgress?.(share, words));
  const stop = (): void => port1.postMessage('stop');
  signal?.addEventListener('abort', stop);
  try {
    signal?.throwIfAborted();
    return (await jobs[lane].run({ ...task, port: port2 }, { transferList: [port2] })) as JobOutcome;
  } finally {
    signal?.removeEventListener('abort', stop);
    port1.close();
  }
}

export const runSheets = (task: SheetsTask): Promise<Sheet[]> => read('sheets', task);
export const runFeatures = (task: FeaturesTask): Promise<Features> => read('features', task);
/** Makes a demo water. */
export const runDemo = (which: DemoName): Promise<DemoFile[]> => run('demo', { which }, {});
export const runLooks = (task: LooksTask, options: TaskOptions = {}): Promise<TripLooks[]> => run('looks', task, options);
export const runScore = (task: FitTask, options: TaskOptions = {}): Promise<ScoreCard | null> => run('score', task, options);
export const runFit = (task: FitTask, options: TaskOptions = {}): Promise<Uint8Array> => run('fit', task, options);

export async function closeWorkers(): Promise<void> {
  await Promise.all([...Object.values(jobs), threads, readers].map((pool) => pool?.destroy()));
  threads = readers = jobs.looks = jobs.imports = jobs.others = null;
}
