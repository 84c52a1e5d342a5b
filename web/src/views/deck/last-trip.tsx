import { useMemo } from 'react';
import { useOutcomes, useTrip, type TripDetail } from '../../api/queries';
import { clockInZone, dayInZone } from '../../parts/format';
import { OutcomeWords } from '../../parts/outcome-words';
import { useWaterState } from '../../state/water';
import { hectaresLookedAt } from './looked';
import { some, tally } from './tally';

/** What a trip's log comes to, in a sentence. @param hectares water looked at */
export function TallyWords({ detail, hectares }: { detail: TripDetail | null; hectares: number }) {
  const { targets, sightings, blanks, stops, landed } = tally(detail);
  return (
    <>
      You looked at {hectares.toFixed(1)} ha. {some(targets, 'target', 'targets')}
      {sightings > targets && ` in ${sightings} marks`}, {some(blanks, 'blank', 'blanks')}, {some(stops, 'stop', 'stops')},{' '}
      {some(landed, 'fish', 'fish')} landed.
    </>
  );
}

/** What the last trip came to, and what it made of the forecasts that were shown on it. */
export function LastTrip() {
  const { water, chart, log } = useWaterState();
  const last = useMemo(
    () =>
      log.trips
        .filter((t) => t.end !== null)
        .sort((a, b) => a.start.localeCompare(b.start))
        .at(-1) ?? null,
    [log.trips],
  );
  const detail = useTrip(last?.id ?? null).data ?? null;
  const outcomes = (useOutcomes(water.id).data ?? []).filter((o) => o.trip === last?.id);
  const hectares = useMemo(
    () => hectaresLookedAt(detail?.track ?? [], chart?.epsg ?? null, (x, y) => chart?.depth.at(x, y) ?? NaN),
    [detail, chart],
  );
  if (!last || !detail) return null;
  const [start, end] = [new Date(last.start), new Date(last.end!)];
  return (
    <section aria-label="The last trip" className="border-t border-line pt-4 text-sm" data-testid="last-trip">
      <h2 className="mb-1">
        The last trip: <b>{dayInZone(start, water.time_zone)}</b>{' '}
        <span className="num text-mute">
          {clockInZone(start, water.time_zone)}–{clockInZone(end, water.time_zone)}
        </span>
      </h2>
      <p className="num">
        <TallyWords detail={detail} hectares={hectares} />
      </p>
      {outcomes.map((o) => (
        <p key={o.species} className="mt-1">
          <b>{o.species[0].toUpperCase() + o.species.slice(1)}, as forecast:</b> <OutcomeWords outcome={o} />
        </p>
      ))}
    </section>
  );
}
