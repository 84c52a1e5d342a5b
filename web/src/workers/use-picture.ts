import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import type { PictureWorker } from './picture.worker';

/** The thread that reads pictures: one for as long as a view is shown, with what it holds. */
export function usePictureWorker(): Remote<PictureWorker> | null {
  const [worker, setWorker] = useState<Remote<PictureWorker> | null>(null);
  useEffect(() => {
    const thread = new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' });
    // A remote is callable: React would call it.
    const remote = wrap<PictureWorker>(thread);
    setWorker(() => remote);
    return () => thread.terminate();
  }, []);
  return worker;
}
