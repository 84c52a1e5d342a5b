import { fileURLToPath } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import type { ChartTask, FitTask, LooksTask, TripLooks } from './worker';

let threads: Piscina | null = null;

/** Worker threads, made when first needed: a quick command never pays for them. */
function workers(): Piscina {
  threads ??= new Piscina({ filename: fileURLToPath(new URL('./worker.mjs', import.meta.url)), maxThreads: 2, idleTimeout: 60_000 });
  return threads;
}

export interface TaskOptions {
  onProgress?: (share: number) => void;
  signal?: AbortSignal;
}

async function run<T>(name: string, task: object, { onProgress, signal }: TaskOptions): Promise<T> {
  const { port1, port2 } = new MessageChannel();
  port1.on('message', (share: number) => onProgress?.(share));
  try {
    return (await workers().run({ ...task, port: port2 }, { name, signal, transferList: [port2] })) as T;
  } finally {
    port1.close();
  }
}

export const runChart = (task: ChartTask, options: TaskOptions = {}): Promise<Uint8Array> => run('chart', task, options);
export const runLooks = (task: LooksTask, options: TaskOptions = {}): Promise<TripLooks[]> => run('looks', task, options);
export const runFit = (task: FitTask, options: TaskOptions = {}): Promise<Uint8Array> => run('fit', task, options);

export async function closeWorkers(): Promise<void> {
  await threads?.destroy();
  threads = null;
}
