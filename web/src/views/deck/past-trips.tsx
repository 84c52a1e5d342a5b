import { BookOpen, ChevronLeft, ChevronRight } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useOutcomes, useTrip, type TripDetail } from '../../api/queries';
import { clockInZone, dayInZone } from '../../parts/format';
import { OutcomeWords } from '../../parts/outcome-words';
import { Waiting } from '../../parts/waiting';
import { useWaterState } from '../../state/water';
import { hectaresLookedAt } from './looked';
import { some, tally } from '../../parts/records/tally';
import { deck as msg, formatArea } from '../../words';

/** What a trip's log comes to, in a sentence. @param hectares water looked at */
export function TallyWords({ detail, hectares }: { detail: TripDetail | null; hectares: number }) {
  const { targets, sightings, blanks, stops, landed } = tally(detail);
  return (
    <>
      {msg('pastTrips.youLookedAtHa', {
        hectares: formatArea(10_000 * hectares),
        targets: some(targets, 'target', 'targets'),
        value: sightings > targets ? msg('pastTrips.inMarks', { sightings }) : '',
        blanks: some(blanks, 'blank', 'blanks'),
        stops: some(stops, 'stop', 'stops'),
        landed: some(landed, 'fish', 'fish'),
      })}
    </>
  );
}

/** What each ended trip came to, and what it made of the forecasts that were shown on it: the last one first, a press to those before. */
export function PastTrips() {
  const { water, chart, log } = useWaterState();
  const trips = useMemo(() => log.trips.filter((t) => t.end !== null).sort((a, b) => b.start.localeCompare(a.start)), [log.trips]);
  const [chosen, setChosen] = useState(0);
  const back = Math.min(chosen, trips.length - 1);
  const trip = trips.at(back) ?? null;
  const { data: detail, error } = useTrip(trip?.id ?? null);
  const outcomes = (useOutcomes(water.id).data ?? []).filter((o) => o.trip === trip?.id);
  const hectares = useMemo(
    () => hectaresLookedAt(detail?.track ?? [], chart?.epsg ?? null, (x, y) => chart?.depth.at(x, y) ?? NaN),
    [detail, chart],
  );
  if (!trip) return null;
  const [start, end] = [new Date(trip.start), new Date(trip.end!)];
  return (
    <section aria-label={msg('pastTrips.tripsSoFar')} className="border-t border-line pt-4 text-sm" data-testid="past-trips">
      <div className="mb-1 flex items-center gap-1">
        <h2 className="flex-1">
          {back === 0 ? msg('pastTrips.theLastTrip') : msg('pastTrips.tripOf', { trips: trips.length - back, trips2: trips.length })}:{' '}
          <b>{dayInZone(start, water.time_zone)}</b>{' '}
          <span className="num text-mute">
            {clockInZone(start, water.time_zone)}–{clockInZone(end, water.time_zone)}
          </span>
        </h2>
        {trips.length > 1 && (
          <>
            <Step label={msg('pastTrips.theTripBefore')} disabled={back === trips.length - 1} onPress={() => setChosen(back + 1)}>
              <ChevronLeft aria-hidden />
            </Step>
            <Step label={msg('pastTrips.theTripAfter')} disabled={back === 0} onPress={() => setChosen(back - 1)}>
              <ChevronRight aria-hidden />
            </Step>
          </>
        )}
      </div>
      {detail ? (
        <>
          <p className="num">
            <TallyWords detail={detail} hectares={hectares} />
          </p>
          {outcomes.map((o) => (
            <p key={o.species} className="mt-1">
              <b>{msg('pastTrips.asForecast', { species: o.species[0].toUpperCase() + o.species.slice(1) })}</b>{' '}
              <OutcomeWords outcome={o} />
            </p>
          ))}
        </>
      ) : (
        <Waiting what={msg('pastTrips.itsLog')} failed={error} />
      )}
      <Link className="btn touch-target mt-2" to={`/logbook/${trip.id}`}>
        <BookOpen size={18} aria-hidden /> {msg('pastTrips.openInTheLogbook')}
      </Link>
    </section>
  );
}

function Step({ label, disabled, onPress, children }: { label: string; disabled: boolean; onPress: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      disabled={disabled}
      onClick={onPress}
      className="btn btn-ghost btn-square size-11"
    >
      {children}
    </button>
  );
}
