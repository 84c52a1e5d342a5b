import { findSpecies, massFromLength, type SpeciesProfile } from '../species';
import type { Response } from './records';

/** Rules of a tournament. */
export interface BagRules {
  /** So many fish count. */
  fish: number;
  /** Shorter ones do not, m; null where any length counts. */
  leastLength: number | null;
}

/** A fish that was landed, as it stands in the bag. */
export interface BagFish<R> {
  response: R;
  /** kg; null where neither mass nor length say it. */
  mass: number | null;
  /** Whether the mass was worked out from the length. */
  estimated: boolean;
}

export interface Bag<R> {
  /** The best, the heaviest first. */
  counted: BagFish<R>[];
  /** Long enough, and lighter than those that count: what may go back, the heaviest first. */
  culled: BagFish<R>[];
  /** Shorter than what counts. */
  short: BagFish<R>[];
  /** Without a length, so that nobody can say whether they are long enough, or without any size at all. */
  unmeasured: BagFish<R>[];
  /** Of what counts, kg. */
  total: number;
  /** What the next fish has to weigh more than to count, kg; null while there is room. */
  toBeat: number | null;
}

type Landed = Pick<Response, 'response' | 'species' | 'length_m' | 'mass_kg'>;

/**
 * The best fish of a tournament so far: what counts, what may be let go, and what the next one has to weigh. A fish that was
 * not weighed counts with the mass that its length tells (W = a·L^b of its species).
 * @param responses what fish did; only those landed are looked at
 * @param species profiles by which a length becomes a mass
 * @example bagOf(fish, { fish: 5, leastLength: 0.35 }, species).toBeat // 0.82, kg
 */
export function bagOf<R extends Landed>(responses: readonly R[], { fish, leastLength }: BagRules, species: SpeciesProfile[]): Bag<R> {
  const landed = responses
    .filter((r) => r.response === 'landed')
    .map((response): BagFish<R> => {
      if (response.mass_kg !== null) return { response, mass: response.mass_kg, estimated: false };
      const profile = response.species === null ? null : findSpecies(response.species, species);
      return { response, mass: profile && response.length_m !== null ? massFromLength(profile, response.length_m) : null, estimated: true };
    });
  const tooShort = ({ response: r }: BagFish<R>): boolean => leastLength !== null && r.length_m !== null && r.length_m < leastLength;
  const unknown = ({ response: r, mass }: BagFish<R>): boolean => mass === null || (leastLength !== null && r.length_m === null);
  const long = landed.filter((f) => !tooShort(f) && !unknown(f)).sort((a, b) => b.mass! - a.mass!);
  const counted = long.slice(0, fish);
  return {
    counted,
    culled: long.slice(fish),
    short: landed.filter(tooShort),
    unmeasured: landed.filter((f) => !tooShort(f) && unknown(f)),
    total: counted.reduce((sum, f) => sum + f.mass!, 0),
    toBeat: counted.length < fish ? null : counted.at(-1)!.mass,
  };
}
