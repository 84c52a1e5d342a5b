import { useMemo } from 'react';
import { rateOf, type Rate } from '@restless-shoal/core/numbers';
import { useOutcomes, type LoggedTrip } from '../../api/queries';
import { Exports } from '../../parts/e-chart';
import { grouped } from '../../parts/format';
import { Segments } from '../../parts/segments';
import { decimal, locale, logbook as msg } from '../../words';
import { bySeason } from './by-season';
import { hoursOf, sumOf } from './trip-filters';
import { SpeciesRecords } from './species-records';

/** What the seasons are compared by. */
export const MEASURES = ['landed', 'seen', 'hours'] as const;
export type Measure = (typeof MEASURES)[number];

/** Looks, and hours, that a rate is told for. */
const PER = { landed: 1, seen: 100 } as const;

/** How many of a species; of all without one. */
const countOf = (list: [string, number][], species: string): number =>
  list.reduce((n, [name, k]) => n + (!species || name === species ? k : 0), 0);

/** The rate of some trips: fish landed an hour, or fish marked on a hundred looks. */
const rateOfTrips = (trips: LoggedTrip[], measure: Exclude<Measure, 'hours'>, species: string): Rate | null =>
  rateOf(
    trips.map((t) =>
      measure === 'landed'
        ? { events: countOf(t.landed, species), effort: (hoursOf(t) ?? 0) / PER.landed }
        : { events: countOf(t.fish, species), effort: (t.looks ?? 0) / PER.seen },
    ),
  );

/** Seasons against each other: hours, looks, fish and rates by month and year, and how forecasts did. */
export function Seasons({
  trips,
  water,
  species,
  measure,
  onMeasure,
}: {
  trips: LoggedTrip[];
  water: string;
  /** Rates are of this species; of all fish where it is ''. */
  species: string;
  measure: Measure;
  onMeasure: (measure: Measure) => void;
}) {
  const { years, months, of } = useMemo(() => bySeason(trips), [trips]);
  const outcomes = useOutcomes(water).data;
  const monthName = (month: string): string => new Intl.DateTimeFormat(locale(), { month: 'long', timeZone: 'UTC' }).format(Date.UTC(2026, Number(month) - 1, 1)); // prettier-ignore
  const most = Math.max(1e-9, ...months.flatMap((m) => years.map((y) => (measure === 'hours' ? sumOf(of(y, m)).hours : (rateOfTrips(of(y, m), measure, species)?.rate ?? 0))))); // prettier-ignore
  const cell = (list: LoggedTrip[]) => {
    if (!list.length) return null;
    const { hours, trips: n } = sumOf(list);
    if (measure === 'hours') return { value: hours, words: grouped(hours), under: msg('seasons.trips', { n }) };
    const rate = rateOfTrips(list, measure, species);
    if (!rate) return { value: 0, words: '–', under: msg('seasons.trips', { n }) };
    const digits = measure === 'landed' ? 2 : 1;
    const interval = rate.low === null ? '' : `${decimal(rate.low, digits)}–${decimal(rate.high!, digits)} · `;
    return { value: rate.rate, words: decimal(rate.rate, digits), under: `${interval}${msg('seasons.trips', { n: rate.n })}` };
  };
  const forecasts = (year: string) => {
    const ids = new Set(of(year, null).map((t) => t.id));
    const own = (outcomes ?? []).filter((o) => ids.has(o.trip));
    return own.length
      ? { n: own.length, expected: own.reduce((s, o) => s + o.expected, 0), saw: own.reduce((s, o) => s + o.saw, 0) }
      : null;
  };
  const td = (key: string, list: LoggedTrip[], total = false) => {
    const found = cell(list);
    return (
      <td
        key={key}
        className={`px-2 py-1.5 text-right align-top ${total ? 'font-semibold' : ''}`}
        style={
          found && !total
            ? { background: `color-mix(in srgb, var(--act) ${Math.round((32 * found.value) / most)}%, transparent)` }
            : undefined
        }
      >
        {found ? (
          <>
            {found.words}
            <span className="block text-xs font-normal">{found.under}</span>
          </>
        ) : (
          <span className="text-mute">–</span>
        )}
      </td>
    );
  };
  const told = (list: LoggedTrip[], measure: Measure): (string | number | null)[] => {
    if (measure === 'hours') return [sumOf(list).hours, null, null, list.length];
    const rate = rateOfTrips(list, measure, species);
    return rate ? [rate.rate, rate.low, rate.high, rate.n] : [null, null, null, 0];
  };
  return (
    <div className="min-h-0 flex-1 overflow-auto p-4" tabIndex={0} role="group" aria-label={msg('seasons.seasons')} data-testid="seasons">
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <div className="w-full max-w-xl">
          <Segments
            label={msg('seasons.whatIsCompared')}
            value={measure}
            options={[
              ['landed', msg('seasons.landedPerHour')],
              ['seen', msg('seasons.seenPer100Looks')],
              ['hours', msg('seasons.hoursOnTheWater')],
            ]}
            onChange={onMeasure}
          />
        </div>
        <Exports
          name={msg('seasons.seasons')}
          rows={() => [
            ['year', 'month', measure, 'low', 'high', 'trips'],
            ...years.flatMap((year) => months.map((month) => [year, month, ...told(of(year, month), measure)])),
          ]}
        />
      </div>
      <p className="mb-3 max-w-3xl text-sm text-mute">{msg(measure === 'hours' ? 'seasons.hoursFromRamp' : 'seasons.intervalOf80')}</p>
      <table className="num border-separate border-spacing-0.5 text-base">
        <thead>
          <tr>
            <th scope="col" className="px-2 text-left">
              {msg('seasons.month')}
            </th>
            {years.map((year) => (
              <th key={year} scope="col" className="min-w-28 px-2 text-right">
                {year}
              </th>
            ))}
            {years.length > 1 && (
              <th scope="col" className="min-w-28 px-2 text-right">
                {msg('seasons.allYears')}
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {months.map((month) => (
            <tr key={month}>
              <th scope="row" className="px-2 py-1.5 text-left align-top font-medium">
                {monthName(month)}
              </th>
              {years.map((year) => td(year, of(year, month)))}
              {years.length > 1 && td('all', of(null, month), true)}
            </tr>
          ))}
          <tr>
            <th scope="row" className="border-t-2 border-line px-2 py-1.5 text-left align-top">
              {msg('seasons.wholeYear')}
            </th>
            {years.map((year) => td(year, of(year, null), true))}
            {years.length > 1 && td('all', trips, true)}
          </tr>
          {years.some((year) => forecasts(year)) && (
            <tr>
              <th scope="row" className="px-2 py-1.5 text-left align-top font-medium">
                {msg('seasons.forecasts')}
              </th>
              {years.map((year) => {
                const found = forecasts(year);
                return (
                  <td key={year} className="px-2 py-1.5 text-right align-top">
                    {found ? (
                      <>
                        {msg('seasons.sawOfExpected', { saw: found.saw, expected: decimal(found.expected, 0) })}
                        <span className="block text-xs text-mute">{msg('seasons.forecastsN', { n: found.n })}</span>
                      </>
                    ) : (
                      <span className="text-mute">–</span>
                    )}
                  </td>
                );
              })}
              {years.length > 1 && <td />}
            </tr>
          )}
        </tbody>
      </table>
      <SpeciesRecords zone={trips[0]?.time_zone ?? null} />
    </div>
  );
}
