import { useEffect, useState } from 'react';
import type { ContourLine } from '@restless-shoal/core/chart';
import type { useForecastWorker } from './use-forecast-worker';

const NO_LINES: ContourLine[] = [];

/** Contour lines of the chart in use, drawn in the worker. */
export function useContours(worker: ReturnType<typeof useForecastWorker>, unit = 1, atMost = 12): ContourLine[] {
  const [lines, setLines] = useState<ContourLine[]>(NO_LINES);
  useEffect(() => {
    let gone = false;
    void worker?.contours(unit, atMost).then((l) => {
      if (!gone) setLines(l);
    });
    return () => {
      gone = true;
    };
  }, [worker, unit, atMost]);
  return lines;
}
