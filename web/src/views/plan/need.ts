import type { SpeciesProfile } from '@restless-shoal/core/species';
import type { TripDetail, TripRow } from '../../api/queries';
import { bagOfTrip } from '../../parts/records/bag';

/** What the trip that runs is after, and what a tournament's bag still needs. */
export interface Need {
  goal: 'action' | 'size';
  /** Fish that count so far, of how many, and what the next has to weigh, kg; null where no bag is kept. */
  bag: { counted: number; of: number; toBeat: number | null } | null;
}

/** The best few want any fish that counts until the bag is full, and from then on large ones. */
export function needOf(running: TripRow | null, detail: TripDetail | null, species: SpeciesProfile[]): Need {
  if (!running) return { goal: 'action', bag: null };
  const kept = running.purpose === 'tournament' || running.goal === 'best';
  const bag = kept ? bagOfTrip(running, detail?.responses ?? [], species) : null;
  const full = bag !== null && bag.counted.length >= bag.rules.fish;
  return {
    goal: running.goal === 'size' || (bag !== null && full) ? 'size' : 'action',
    bag: bag && { counted: bag.counted.length, of: bag.rules.fish, toBeat: bag.toBeat },
  };
}
