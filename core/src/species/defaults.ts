import { COASTAL } from './coastal';
import { FORAGE } from './forage';
import { FRESH_WATER } from './fresh-water';
import type { SpeciesProfile } from './profile';
import { readSpeciesTable } from './table';

/**
 * Shipped profiles: fish of several continents and coasts. Values are mid-points of what the fisheries literature
 * gives; `source` names where the temperatures and oxygen limits come from, `uncertain` what to distrust. Every copy
 * on a water can be edited.
 */
export const defaultSpecies: SpeciesProfile[] = [
  ...readSpeciesTable(FRESH_WATER),
  ...readSpeciesTable(FORAGE, true),
  ...readSpeciesTable(COASTAL),
];
