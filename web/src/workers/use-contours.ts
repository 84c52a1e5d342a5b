import { useEffect, useState } from 'react';
import type { ContourLine } from '@restless-shoal/core/chart';
import type { ForecastService } from './forecast-service';

const NO_LINES: ContourLine[] = [];

/** Contour lines of the chart in use at a level of the water (m above datum), drawn in the thread of the forecast. */
export function useContours(service: ForecastService | null, level: number, unit = 1, atMost = 12): ContourLine[] {
  const [lines, setLines] = useState<ContourLine[]>(NO_LINES);
  useEffect(() => {
    let gone = false;
    service?.contours(unit, atMost, level).then(
      (l) => {
        if (!gone) setLines(l);
      },
      // The lines drawn before stay; that the thread broke is said by what it was to answer.
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [service, unit, atMost, level]);
  return lines;
}
