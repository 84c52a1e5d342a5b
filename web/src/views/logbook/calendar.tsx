import { useMemo } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { LoggedTrip } from '../../api/queries';
import { locale, logbook as msg } from '../../words';
import { dayOf, withFilters } from './trip-filters';

const DAY_MS = 86_400_000;

/** The days of a month in weeks that begin on Monday; null before its first and after its last. */
export function weeksOf(year: number, month: number): (number | null)[][] {
  const days = new Date(Date.UTC(year, month + 1, 0)).getUTCDate();
  const before = (new Date(Date.UTC(year, month, 1)).getUTCDay() + 6) % 7;
  const cells = [...Array<null>(before).fill(null), ...Array.from({ length: days }, (_, k) => k + 1)];
  while (cells.length % 7) cells.push(null);
  return Array.from({ length: cells.length / 7 }, (_, k) => cells.slice(7 * k, 7 * k + 7));
}

const two = (n: number): string => String(n).padStart(2, '0');

/** Trips on the days of their years, the last year first; darker where more was marked. A day leads to its trips. */
export function Calendar({ trips, year }: { trips: LoggedTrip[]; year: string | null }) {
  const [address] = useSearchParams();
  const byDay = useMemo(() => {
    const days = new Map<string, LoggedTrip[]>();
    for (const trip of trips) {
      const day = dayOf(trip);
      days.set(day, [...(days.get(day) ?? []), trip]);
    }
    return days;
  }, [trips]);
  const years = year ? [year] : [...new Set([...byDay.keys()].map((d) => d.slice(0, 4)))].sort().reverse();
  const most = Math.max(1, ...[...byDay.values()].map((list) => list.reduce((n, t) => n + t.marks, 0)));
  const month = (of: number): string =>
    new Intl.DateTimeFormat(locale(), { month: 'short', timeZone: 'UTC' }).format(Date.UTC(2026, of, 1));
  // 4 May 2026 was a Monday.
  const weekdays = Array.from({ length: 7 }, (_, k) => new Intl.DateTimeFormat(locale(), { weekday: 'narrow', timeZone: 'UTC' }).format(Date.UTC(2026, 4, 4) + k * DAY_MS)); // prettier-ignore
  return (
    <div
      className="min-h-0 flex-1 overflow-y-auto p-4"
      tabIndex={0}
      role="group"
      aria-label={msg('calendar.tripsByDay')}
      data-testid="calendar"
    >
      <p className="mb-2 text-sm text-mute">{msg('calendar.darker')}</p>
      {years.map((of) => (
        <section key={of} aria-label={of} className="mb-5">
          <h2 className="num mb-2 text-lg font-bold">{of}</h2>
          <div className="grid grid-cols-[repeat(auto-fill,minmax(11.5rem,1fr))] items-start gap-4">
            {Array.from({ length: 12 }, (_, m) => m)
              .filter((m) => [...byDay.keys()].some((d) => d.startsWith(`${of}-${two(m + 1)}`)))
              .map((m) => (
                <table key={m} className="num w-full max-w-64 table-fixed border-separate border-spacing-0.5 text-center text-sm">
                  <caption className="pb-0.5 text-left font-semibold">{month(m)}</caption>
                  <thead>
                    <tr>
                      {weekdays.map((w, k) => (
                        <th key={k} scope="col" className="font-normal text-mute">
                          {w}
                        </th>
                      ))}
                    </tr>
                  </thead>
                  <tbody>
                    {weeksOf(Number(of), m).map((week, k) => (
                      <tr key={k}>
                        {week.map((d, at) => {
                          const day = d === null ? '' : `${of}-${two(m + 1)}-${two(d)}`;
                          const list = byDay.get(day);
                          if (!list) return <td key={at} className="py-1.5 text-mute">{d ?? ''}</td>; // prettier-ignore
                          const marks = list.reduce((n, t) => n + t.marks, 0);
                          const to =
                            list.length === 1
                              ? { pathname: `/logbook/${list[0].id}`, search: address.toString() }
                              : { search: withDay(address, day) };
                          return (
                            <td key={at} className="p-0">
                              <Link
                                to={to}
                                className="block rounded py-1.5 font-bold text-ink outline-1 outline-act"
                                style={{
                                  background: `color-mix(in srgb, var(--act) ${Math.round(12 + 38 * Math.sqrt(marks / most))}%, transparent)`,
                                }}
                              >
                                {d}
                                <span className="sr-only">: {msg('calendar.day', { trips: list.length, marks })}</span>
                                {list.length > 1 && (
                                  <sup className="ml-0.5 font-normal" aria-hidden>
                                    {list.length}
                                  </sup>
                                )}
                              </Link>
                            </td>
                          );
                        })}
                      </tr>
                    ))}
                  </tbody>
                </table>
              ))}
          </div>
        </section>
      ))}
    </div>
  );
}

/** The list of the trips of one day. */
function withDay(address: URLSearchParams, day: string): string {
  const next = withFilters(address, { day });
  next.delete('show');
  return next.toString();
}
