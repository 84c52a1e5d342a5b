import { useMemo } from 'react';
import { seenEarlier, tallyOf, type SeenToday } from '@restless-shoal/core/forecast';
import { cellKey } from '@restless-shoal/core/geo';
import { findSpecies } from '@restless-shoal/core/species';
import { useLookedAt } from '../api/queries';
import { useWaterState } from './water';

/** Index of each cell of the chart by its key. */
export function useCellIndex(): Map<number, number> {
  const { chart } = useWaterState();
  return useMemo(() => {
    const index = new Map<number, number>();
    for (let i = 0; chart && i < chart.cells.count; i++) index.set(cellKey(chart.cells.column[i], chart.cells.row[i]), i);
    return index;
  }, [chart]);
}

/** What the log gives a forecast: how often each cell was looked at, and what the trip that runs has seen so far. */
export function useForecastInputs() {
  const { water, species, running } = useWaterState();
  const looks = useLookedAt(water.id);
  const cellIndex = useCellIndex();
  const tally = useMemo(
    () => looks.data && tallyOf(looks.data, (name) => findSpecies(name, water.species)?.name === species.name, cellIndex),
    [looks.data, cellIndex, species.name, water.species],
  );
  const earlier = useMemo((): SeenToday[] => {
    const is = (name: string): boolean => findSpecies(name, water.species)?.name === species.name;
    const own = looks.data?.running.find((t) => t.trip === running?.id)?.looks ?? [];
    return seenEarlier(own, is, cellIndex);
  }, [looks.data, running?.id, cellIndex, species.name, water.species]);
  return { tally, earlier, failed: looks.error };
}
