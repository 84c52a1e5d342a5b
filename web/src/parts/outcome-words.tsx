import type { TripOutcome } from '../api/queries';

/** What an ended trip made of the forecast that was shown on it. */
export function OutcomeWords({ outcome: { placesLooked, places, expected, saw } }: { outcome: TripOutcome }) {
  return (
    <>
      you looked at{' '}
      <b className="num">
        {placesLooked} of the {places} best places
      </b>
      . Expected <b className="num">{expected.toFixed(1)}</b> contacts on the water you scanned, saw <b className="num">{saw}</b>.
    </>
  );
}
