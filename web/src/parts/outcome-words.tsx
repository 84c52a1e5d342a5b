import type { TripOutcome } from '../api/queries';
import { parts as msg, decimal } from '../words';

/** What an ended trip made of the forecast that was shown on it. */
export function OutcomeWords({ outcome: { placesLooked, places, expected, saw } }: { outcome: TripOutcome }) {
  return (
    <>
      {msg('outcomeWords.youLookedAt')} <b className="num">{msg('outcomeWords.ofTheBestPlaces', { placesLooked, places })}</b>
      {msg('outcomeWords.expected')} <b className="num">{decimal(expected, 1)}</b> {msg('outcomeWords.contactsOnTheWater')}{' '}
      <b className="num">{saw}</b>.
    </>
  );
}
