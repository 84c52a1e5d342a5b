import { useState } from 'react';
import { useWaterState } from '../../state/water';

const keyOf = (water: string): string => `marks are ${water}`;

/** Remembers what the fish of a water's next marks are taken for; null: nobody is sure. */
export const rememberMarkSpecies = (water: string, name: string | null): void => localStorage.setItem(keyOf(water), name ?? '');

/**
 * What fish are taken for when they are marked, as it was said last on this water; before that the target species, if
 * somebody named one. Null: nobody is sure, and marks name no species.
 */
export function useMarkSpecies(): [string | null, (name: string | null) => void] {
  const { water, species, speciesKnown } = useWaterState();
  const [named, setNamed] = useState(() => localStorage.getItem(keyOf(water.id)));
  const known = water.species.some((s) => s.name === named);
  return [
    named === '' ? null : known ? named : speciesKnown ? species.name : null,
    (name) => {
      rememberMarkSpecies(water.id, name);
      setNamed(name ?? '');
    },
  ];
}
