import { lazy, Suspense, useEffect } from 'react';
import { Link, useParams } from 'react-router';
import { Waiting } from '../../parts/waiting';
import { useWaterState } from '../../state/water';
import { logbook as msg } from '../../words';
import { TripPage } from './trip-page';
import { UndoButtons } from './undo-buttons';
import { useTrips } from './use-trips';

const ReportPage = lazy(() => import('./report-page').then((m) => ({ default: m.ReportPage })));

/** A trip or its report, on the water that it was on. @param openWater opens another water */
export function Trip({ openWater }: { openWater: (water: string) => void }) {
  const { trip: id = '', page } = useParams();
  const { water } = useWaterState();
  const { trips, failed } = useTrips();
  const trip = trips?.find((t) => t.id === id);
  const elsewhere = trip && trip.water_id !== water.id ? trip.water_id : null;
  useEffect(() => {
    if (elsewhere !== null) openWater(elsewhere);
  }, [elsewhere, openWater]);
  if (trips && !trip) return <NoSuchTrip />;
  if (!trip || elsewhere !== null) return <Waiting what={msg('tripPage.theTrip')} failed={failed} />;
  if (page !== 'report') return <TripPage key={id} id={id} trips={trips!} />;
  return (
    <Suspense fallback={<Waiting what={msg('reportPage.theReport')} failed={null} />}>
      <ReportPage key={id} id={id} />
    </Suspense>
  );
}

/** A trip that is not there, or was deleted a moment ago: it can be brought back. */
function NoSuchTrip() {
  const { search } = window.location;
  return (
    <div className="mx-auto max-w-md p-6">
      <p className="mb-4">{msg('tripPage.thisTripIsNot')}</p>
      <div className="flex gap-2">
        <UndoButtons onFail={() => undefined} />
        <Link className="btn touch-target" to={{ pathname: '/logbook', search }}>
          {msg('tripPage.allTrips')}
        </Link>
      </div>
    </div>
  );
}
