import { coastalSpecies } from './coastal';
import { forageSpecies } from './forage';
import { freshWaterSpecies } from './fresh-water';
import type { SpeciesProfile } from './profile';

/**
 * Shipped profiles: fish of several continents and coasts. Values are mid-points of what the fisheries literature
 * gives; `source` names where the temperatures and oxygen limits come from, `uncertain` what to distrust. Every copy
 * on a water can be edited.
 */
export const defaultSpecies: SpeciesProfile[] = [...freshWaterSpecies, ...forageSpecies, ...coastalSpecies];
