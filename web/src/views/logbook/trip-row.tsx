import { memo } from 'react';
import { Link } from 'react-router';
import type { FoundInTrip, LoggedTrip } from '../../api/queries';
import { clockInZone, compass, dayInZone, grouped } from '../../parts/format';
import { capital, decimal, formatDepth, formatSpeed, formatTemperature, listed, logbook as msg, term } from '../../words';
import { SmallColumns } from './small-columns';
import { hoursOf } from './trip-filters';

/** So many species are named in a row. */
const NAMED = 3;
/** So many small Columns have room on a phone. */
const NARROW = 8;

const countWords = (list: [string, number][]): string => {
  const named = list.filter(([name]) => name).slice(0, NAMED);
  const rest = list.reduce((n, [, k]) => n + k, 0) - named.reduce((n, [, k]) => n + k, 0);
  return listed([...named.map(([name, n]) => `${grouped(n)} ${term(name)}`), ...(rest ? [msg('tripRow.other', { n: rest })] : [])]);
};

/** What was caught on a trip, and how often it was fished. */
export function caughtWords({ landed, stops, blanks }: LoggedTrip): string {
  const caught = landed.reduce((n, [, k]) => n + k, 0);
  return [
    caught ? msg('tripRow.landed', { what: countWords(landed) }) : msg('tripRow.nothingLanded'),
    msg('tripRow.stops', { stops }) + (blanks ? msg('tripRow.blanks', { blanks }) : ''),
  ].join(' · ');
}

/** What was seen on a trip. */
export const seenWords = ({ fish, marks }: LoggedTrip): string =>
  fish.length ? msg('tripRow.fishMarks', { what: countWords(fish) }) : msg('tripRow.marks', { marks });

/** The day's first readings. */
export function conditionWords(t: LoggedTrip): string {
  return [
    t.surface_temperature_c !== null && formatTemperature(t.surface_temperature_c),
    t.secchi_m !== null && msg('tripRow.clarity', { secchi: formatDepth(t.secchi_m) }),
    t.wind_speed_ms !== null && `${t.wind_from_deg === null ? '' : `${compass(t.wind_from_deg)} `}${formatSpeed(t.wind_speed_ms)}`,
  ]
    .filter(Boolean)
    .join(' · ');
}

const fieldWords = ({ record, field }: FoundInTrip['first'][number]): string =>
  record === 'trips' || field === 'species' ? '' : `${msg(`in.${record}`)} `;

interface TripRowProps {
  trip: LoggedTrip;
  /** Whether its water is named. */
  named: boolean;
  max: number;
  found: FoundInTrip | null;
  chosen: boolean;
  /** Whether there is room for columns side by side. */
  wide: boolean;
  /** What goes along in the address. */
  search: string;
}

/** A trip of the list. */
export const TripRow = memo(({ trip, named, max, found, chosen, wide, search }: TripRowProps) => {
  const hours = hoursOf(trip);
  const conditions = conditionWords(trip);
  const [start, end] = [new Date(trip.start), trip.end === null ? null : new Date(trip.end)];
  const first = found?.first.filter((f) => f.field !== 'species').at(0);
  return (
    <Link
      to={{ pathname: `/logbook/${trip.id}`, search }}
      data-trip={trip.id}
      aria-current={chosen ? 'true' : undefined}
      className={`grid h-full grid-cols-[10.5rem_13rem_1fr] items-center gap-x-4 border-b border-line px-4 hover:bg-surface max-lg:grid-cols-[1fr_auto] max-lg:gap-x-2 max-lg:px-3 ${chosen ? 'bg-surface shadow-[inset_4px_0_0_var(--act)]' : ''}`}
    >
      <span className="min-w-0">
        <b className="block truncate">{dayInZone(start, trip.time_zone)}</b>
        <span className="num block truncate text-sm text-mute">
          {clockInZone(start, trip.time_zone)}–{end ? clockInZone(end, trip.time_zone) : msg('tripRow.running')}
          {hours !== null && ` · ${decimal(hours, 1)} h`}
        </span>
        {named && <span className="block truncate text-sm max-lg:hidden">{trip.water}</span>}
      </span>
      <span className="max-lg:order-2 max-lg:self-start max-lg:pt-1.5">
        {trip.column.length > 0 && <SmallColumns marks={wide ? trip.column : trip.column.slice(0, NARROW)} height={44} max={max} />}
      </span>
      <span className="min-w-0 max-lg:order-3 max-lg:col-span-2">
        <span className="block truncate font-semibold">{caughtWords(trip)}</span>
        <span className="block truncate text-sm">{seenWords(trip)}</span>
        {first ? (
          <span className="block truncate text-sm">
            <span className="text-mute">{fieldWords(first)}</span>
            <mark className="bg-[color-mix(in_srgb,var(--act)_18%,transparent)] text-ink">{first.text}</mark>
            {found!.count > 1 && <span className="text-mute"> {msg('tripRow.more', { n: found!.count - 1 })}</span>}
          </span>
        ) : (
          <span className="num block truncate text-sm text-mute">
            {[conditions, trip.purpose && capital(term(trip.purpose)), trip.crew, trip.notes].filter(Boolean).join(' · ')}
          </span>
        )}
      </span>
    </Link>
  );
});
