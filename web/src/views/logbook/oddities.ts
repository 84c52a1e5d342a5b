import { likelySame, rowOddity, type Response, type Row } from '@restless-shoal/core/logbook';
import { findSpecies, type SpeciesProfile } from '@restless-shoal/core/species';
import type { StoredContact } from '../../api/queries';

/** Something about a mark that looks wrong, and what would put it right. */
export interface Oddity {
  code: 'deeper' | 'twice';
  mend: Row;
}

/** Marks of the same thing that are no more than so far apart in time were most likely tapped twice, ms. */
const TWICE_MS = 20_000;

/** What a species may exceed the largest known by: records are broken, and lengths rounded. */
const BEYOND = 1.1;

/** The length that the kind of a fish grows to, m, where one was logged that is longer; null where nothing looks wrong. */
export function longerThan({ species, length_m }: Pick<Response, 'species' | 'length_m'>, known: SpeciesProfile[]): number | null {
  const largest = (species !== null && findSpecies(species, known)?.largest) || null;
  return largest !== null && length_m !== null && length_m > BEYOND * largest ? largest : null;
}

/**
 * What looks wrong about a mark, the gravest first; null where nothing does.
 * @param earlier marks of the trip made before it
 */
export function oddityOf(contact: StoredContact, earlier: StoredContact[]): Oddity | null {
  if (rowOddity('contacts', contact as unknown as Row)) {
    const water = contact.water_depth_m!;
    const [top, bottom] = [contact.top_m, contact.bottom_m].map((d) => (d === null ? null : Math.min(d, water)));
    return { code: 'deeper', mend: { top_m: top, bottom_m: bottom } };
  }
  if (contact.same_as === null) {
    const at = Date.parse(contact.time);
    const near = earlier.filter((c) => at - Date.parse(c.time) <= TWICE_MS);
    const same = likelySame(contact, near);
    if (same) return { code: 'twice', mend: { same_as: same.contact.contact ?? same.contact.id } };
  }
  return null;
}
