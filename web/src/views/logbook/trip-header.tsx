import { ArrowLeft, ChevronLeft, ChevronRight, FileText, History, Pencil } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { LoggedTrip, TripRow } from '../../api/queries';
import type { Entry } from '../../offline/outbox';
import { clockInZone, dayInZone } from '../../parts/format';
import { RefusedWrite } from '../../parts/records/refused-write';
import { useWaterState } from '../../state/water';
import { capital, decimal, logbook as msg, term } from '../../words';
import { filtersOf, hoursOf, isListed } from './trip-filters';
import type { OpenInTrip } from './trip-sheets';
import { UndoButtons } from './undo-buttons';

/** Which trip it is, the ones before and after it in the list it was opened from, and what can be done with it. */
export function TripHeader({
  row,
  trips,
  refused,
  failed,
  attempt,
  onFail,
  onOpen,
}: {
  row: TripRow;
  trips: LoggedTrip[];
  /** A write that the server did not take. */
  refused: Entry | null;
  failed: string | null;
  attempt: (work: Promise<void>) => Promise<void>;
  onFail: (words: string) => void;
  onOpen: (open: OpenInTrip) => void;
}) {
  const zone = useWaterState().water.time_zone;
  const [address] = useSearchParams();
  const search = address.toString();
  const filters = filtersOf(address);
  const around = trips.filter((t) => isListed(t, filters));
  const at = around.findIndex((t) => t.id === row.id);
  const [later, earlier] = [at > 0 ? around[at - 1] : null, at >= 0 ? (around[at + 1] ?? null) : null];
  const [start, end] = [new Date(row.start), row.end === null ? null : new Date(row.end)];
  const hours = hoursOf(row);
  const step = (to: LoggedTrip | null, label: string, icon: ReactNode) =>
    to ? (
      <Link className="btn btn-ghost btn-square size-11" aria-label={label} title={label} to={{ pathname: `/logbook/${to.id}`, search }}>
        {icon}
      </Link>
    ) : (
      <span className="size-11" />
    );
  return (
    <header className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-4 py-2 max-lg:px-3 lg:col-span-full">
      <Link className="btn btn-ghost touch-target px-2" to={{ pathname: '/logbook', search }} aria-label={msg('tripPage.allTrips')}>
        <ArrowLeft aria-hidden />
      </Link>
      <h1 className="min-w-0 flex-1 text-xl font-bold leading-tight max-md:basis-[calc(100%-4rem)]">
        {dayInZone(start, zone)}{' '}
        <span className="num block text-base font-normal text-mute sm:inline">
          {clockInZone(start, zone)}–{end ? clockInZone(end, zone) : msg('tripRow.running')}
          {hours !== null && ` · ${decimal(hours, 1)} h`}
          {row.purpose && ` · ${capital(term(row.purpose))}`}
          {row.crew && ` · ${row.crew}`}
        </span>
      </h1>
      {step(later, msg('tripPage.theTripAfter'), <ChevronLeft aria-hidden />)}
      {step(earlier, msg('tripPage.theTripBefore'), <ChevronRight aria-hidden />)}
      <UndoButtons onFail={onFail} />
      <button
        type="button"
        className="btn touch-target px-3"
        onClick={() => onOpen({ what: 'changes' })}
        aria-label={msg('tripPage.history')}
      >
        <History size={18} aria-hidden />
      </button>
      <Link className="btn touch-target px-3" to={`/logbook/${row.id}/report`}>
        <FileText size={18} aria-hidden /> {msg('tripPage.report')}
      </Link>
      <button type="button" className="btn touch-target" onClick={() => onOpen({ what: 'trip' })}>
        <Pencil size={18} aria-hidden /> {msg('tripPage.editTrip')}
      </button>
      <div className="w-full empty:hidden">
        {refused && <RefusedWrite entry={refused} attempt={(work) => void attempt(work())} />}
        {failed && (
          <p role="alert" className="text-warn">
            {failed}
          </p>
        )}
      </div>
    </header>
  );
}
