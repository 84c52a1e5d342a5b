import { isTidal } from '../lake';
import type { SpeciesProfile } from './profile';

/** Fish that many waters of a kind hold and many people fish for, the likeliest first. */
const OFTEN = {
  coast: ['sea bass', 'striped bass', 'cod'],
  warm: ['largemouth bass', 'peacock bass', 'nile perch'],
  temperate: ['perch', 'pike', 'zander', 'walleye'],
};

/** Nearer to the equator than this, degrees of latitude, fresh water is warm all year. */
const WARM_LATITUDE = 30;

/**
 * A target to begin with on a water where nobody has named one and nothing is logged: a guess, to be shown as one.
 * @param profiles species of the water, at least one
 */
export function likelyTarget(profiles: SpeciesProfile[], { kind, latitude }: { kind: string | null; latitude: number }): SpeciesProfile {
  const often = isTidal(kind) ? OFTEN.coast : Math.abs(latitude) < WARM_LATITUDE ? OFTEN.warm : OFTEN.temperate;
  for (const name of often) {
    const found = profiles.find((s) => s.name === name);
    if (found) return found;
  }
  return profiles.find((s) => !s.isForage) ?? profiles[0];
}
