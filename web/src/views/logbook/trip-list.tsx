import { useVirtualizer } from '@tanstack/react-virtual';
import { Search } from 'lucide-react';
import { useDeferredValue, useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useFoundInTrips, type FoundInTrip, type LoggedTrip } from '../../api/queries';
import { grouped } from '../../parts/format';
import { Segments } from '../../parts/segments';
import { Waiting } from '../../parts/waiting';
import { useFreshAfterSending } from '../../offline/use-fresh';
import { capital, locale, logbook as msg, term } from '../../words';
import { Calendar } from './calendar';
import { MEASURES, Seasons } from './seasons';
import { scaleOf } from './small-columns';
import { Gear } from './gear';
import { choicesOf, filtersOf, isFiltered, isListed, sumOf, withFilters, type TripFilters } from './trip-filters';
import { Spots } from './spots';
import { TripRow } from './trip-row';
import { UndoButtons } from './undo-buttons';
import { useTrips } from './use-trips';
import { useWide } from './use-wide';

/** Height of a row, px: two or three lines beside the Columns, four below each other on a phone. */
const ROW = { wide: 84, narrow: 120 };
/** The ways that trips are shown. */
const SHOWN = ['list', 'calendar', 'seasons', 'spots', 'gear'] as const;
const MONTHS = Array.from({ length: 12 }, (_, k) => String(k + 1).padStart(2, '0'));
const monthName = (month: string): string => new Intl.DateTimeFormat(locale(), { month: 'long', timeZone: 'UTC' }).format(Date.UTC(2026, Number(month) - 1, 1)); // prettier-ignore

/** Codes of the log whose words in the reader's language hold what is searched for. */
const codesFor = (words: string, codes: string[]): string[] =>
  words ? codes.filter((code) => term(code) !== code && term(code).toLowerCase().includes(words.toLowerCase())) : [];

/** Whether words stand in what the list itself knows of a trip: all that can be searched without a server. @param words in small letters */
const isIn = ({ trip, notes, crew, boat, fish, landed }: LoggedTrip, words: string): boolean =>
  [trip, notes, crew, boat, ...[...fish, ...landed].map(([species]) => `${species} ${term(species)}`)].some((text) =>
    text?.toLowerCase().includes(words),
  );

/** All trips: found by what is written in them, by water, season, year, species. */
export function TripList({ water }: { water: string }) {
  const [address, setAddress] = useSearchParams();
  const filters = filtersOf(address);
  const show = SHOWN.find((way) => way === address.get('show')) ?? 'list';
  const measure = MEASURES.find((m) => m === address.get('by')) ?? 'landed';
  const set = (name: string, value: string | null): void => {
    const next = new URLSearchParams(address);
    if (value === null) next.delete(name);
    else next.set(name, value);
    setAddress(next, { replace: true });
  };
  useFreshAfterSending(water, null);
  const { trips, failed: notOpened } = useTrips();
  const [words, setWords] = useState(filters.words);
  const [failed, setFailed] = useState<string | null>(null);
  const change = (next: Partial<TripFilters>): void => setAddress(withFilters(address, next), { replace: true });
  // The address follows the typing after a moment; the list at once.
  useEffect(() => {
    const timer = setTimeout(() => words !== filters.words && change({ words: words.trim() }), 300);
    return () => clearTimeout(timer);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only what is typed begins it
  }, [words]);
  const choices = useMemo(() => choicesOf(trips ?? []), [trips]);
  const asked = useDeferredValue(words.trim());
  const codes = useMemo(() => codesFor(asked, choices.species), [asked, choices.species]);
  const found = useFoundInTrips(asked, codes);
  const listedTrips = useMemo(() => {
    const by = asked && found.data && !found.isError ? new Map(found.data.map((f) => [f.trip, f])) : null;
    const holds = (t: LoggedTrip): boolean => !asked || !found.isError || isIn(t, asked.toLowerCase());
    return (trips ?? []).filter((t) => isListed(t, filtersOf(address)) && (!by || by.has(t.id)) && holds(t)).map((trip) => ({ trip, found: by?.get(trip.id) ?? null })); // prettier-ignore
  }, [trips, found.data, found.isError, asked, address]);
  if (!trips) return <Waiting what={msg('tripList.theLogbook')} failed={notOpened} />;
  const sum = sumOf(listedTrips.map((l) => l.trip));
  const waters = new Map(trips.map((t) => [t.water_id, t.water]));
  const select = (label: string, value: string, options: [string, string][], set: (value: string) => void) => (
    <select
      aria-label={label}
      className={`select h-11 w-auto min-w-32 ${value ? 'border-act' : ''}`}
      value={value}
      onChange={(e) => set(e.target.value)}
    >
      <option value="">{label}</option>
      {options.map(([option, words]) => (
        <option key={option} value={option}>
          {words}
        </option>
      ))}
    </select>
  );
  return (
    <div className="flex h-full flex-col">
      <header className="border-b border-line px-4 pb-2 pt-3 max-lg:px-3">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <h1 className="text-2xl font-bold">{msg('tripList.logbook')}</h1>
          <label className="input h-11 min-w-56 flex-1">
            <Search size={18} aria-hidden />
            <input
              type="search"
              aria-label={msg('tripList.search')}
              placeholder={msg('tripList.notesLureSpecies')}
              value={words}
              onChange={(e) => setWords(e.target.value)}
            />
          </label>
          <UndoButtons always={false} onFail={setFailed} />
          <div className="w-96 max-w-full">
            <Segments
              label={msg('tripList.howItIsShown')}
              value={show}
              options={[
                ['list', msg('tripList.list')],
                ['calendar', msg('tripList.calendar')],
                ['seasons', msg('tripList.seasons')],
                ['spots', msg('tripList.spots')],
                ['gear', msg('tripList.gear')],
              ]}
              onChange={(way) => set('show', way === 'list' ? null : way)}
            />
          </div>
        </div>
        {show !== 'spots' && show !== 'gear' && (
          <>
            <div className="mt-2 flex gap-2 overflow-x-auto">
              {waters.size > 1 && select(msg('tripList.allWaters'), filters.water, [...waters], (of) => change({ water: of }))}
              {select(
                msg('tripList.allYears'),
                filters.year,
                choices.years.map((y) => [y, y]),
                (year) => change({ year, day: '' }),
              )}
              {select(
                msg('tripList.allMonths'),
                filters.month,
                MONTHS.map((m) => [m, monthName(m)]),
                (month) => change({ month, day: '' }),
              )}
              {select(
                msg('tripList.allSpecies'),
                filters.species,
                choices.species.map((s) => [s, capital(term(s))]),
                (species) => change({ species }),
              )}
              {choices.purposes.length > 1 &&
                select(
                  msg('tripList.allPurposes'),
                  filters.purpose,
                  choices.purposes.map((p) => [p, capital(term(p))]),
                  (purpose) => change({ purpose }),
                )}
              {(isFiltered(filters) || words) && (
                <button
                  type="button"
                  className="btn h-11"
                  onClick={() => {
                    setWords('');
                    setAddress(show === 'list' ? {} : { show }, { replace: true });
                  }}
                >
                  {msg('tripList.showAll')}
                </button>
              )}
            </div>
            <p className="num mt-1.5 text-sm text-mute" role="status" data-answers={found.isPlaceholderData ? undefined : asked}>
              {msg('tripList.sum', {
                trips: sum.trips,
                hours: grouped(sum.hours),
                looks: grouped(sum.looks),
                marks: grouped(sum.marks),
                landed: sum.landed,
              })}
              {filters.day && ` · ${filters.day}`}
            </p>
            {asked && found.isError && <p className="text-sm text-warn">{msg('tripList.searchedOffline')}</p>}
          </>
        )}
        {failed && (
          <p role="alert" className="text-warn">
            {failed}
          </p>
        )}
      </header>
      {show === 'gear' ? (
        <Gear words={words} />
      ) : show === 'spots' ? (
        <Spots water={water} zone={trips.find((t) => t.water_id === water)?.time_zone ?? null} words={words} />
      ) : !listedTrips.length ? (
        <p className="m-auto max-w-md p-6 text-center text-mute">
          {trips.length ? msg('tripList.noTripIsLike') : msg('tripList.noTripYet')}
        </p>
      ) : show === 'seasons' ? (
        <Seasons
          trips={listedTrips.map((l) => l.trip)}
          water={water}
          species={filters.species}
          measure={measure}
          onMeasure={(next) => set('by', next)}
        />
      ) : show === 'calendar' ? (
        <Calendar trips={listedTrips.map((l) => l.trip)} year={filters.year || null} />
      ) : (
        <Rows key={address.toString()} rows={listedTrips} named={waters.size > 1} search={address.toString()} />
      )}
    </div>
  );
}

interface Listed {
  trip: LoggedTrip;
  found: FoundInTrip | null;
}

/** The rows of the list, as many as are seen. Arrow keys go through them, Enter opens one. */
function Rows({ rows, named, search }: { rows: Listed[]; named: boolean; search: string }) {
  const scroller = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  const [chosen, setChosen] = useState(0);
  const wide = useWide();
  const height = wide ? ROW.wide : ROW.narrow;
  const max = useMemo(() => scaleOf(rows.map((r) => r.trip.column)), [rows]);
  const list = useVirtualizer({ count: rows.length, getScrollElement: () => scroller.current, estimateSize: () => height, overscan: 6 });
  useEffect(() => list.measure(), [list, height]);
  const press = (event: KeyboardEvent): void => {
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 400) / height) - 1);
    const steps: Record<string, number> = {
      ArrowDown: 1,
      ArrowUp: -1,
      PageDown: page,
      PageUp: -page,
      Home: -rows.length,
      End: rows.length,
    };
    if (event.key === 'Enter' && event.target === scroller.current) void navigate({ pathname: `/logbook/${rows[chosen].trip.id}`, search });
    else if (event.key in steps) {
      const next = Math.min(rows.length - 1, Math.max(0, chosen + steps[event.key]));
      setChosen(next);
      list.scrollToIndex(next);
    } else return;
    event.preventDefault();
  };
  return (
    <div
      ref={scroller}
      role="group"
      aria-label={msg('tripList.trips')}
      tabIndex={0}
      onKeyDown={press}
      data-testid="trips"
      className="min-h-0 flex-1 overflow-y-auto"
    >
      <div style={{ height: list.getTotalSize(), position: 'relative' }}>
        {list.getVirtualItems().map(({ index, start }) => (
          <div
            key={rows[index].trip.id}
            style={{ position: 'absolute', top: 0, left: 0, right: 0, height, transform: `translateY(${start}px)` }}
          >
            <TripRow {...rows[index]} named={named} max={max} chosen={index === chosen} wide={wide} search={search} />
          </div>
        ))}
      </div>
    </div>
  );
}
