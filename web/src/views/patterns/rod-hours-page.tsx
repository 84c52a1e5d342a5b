import { FileUp } from 'lucide-react';
import { useState } from 'react';
import type { RateClass, RateKind, RodHours } from '@restless-shoal/core/patterns';
import { useRodHours } from '../../api/queries';
import { grouped } from '../../parts/format';
import { Waiting } from '../../parts/waiting';
import { useImporting } from '../../state/importing';
import { useWaterState } from '../../state/water';
import { patterns as msg, decimal, inUnit, locale, readUnit, term, capital } from '../../words';

const HEADINGS: Record<RateKind, { words: string; unit: string }> = {
  month: { words: msg('rodHoursPage.byMonth'), unit: '' },
  temperature: { words: msg('rodHoursPage.bySurfaceTemperature'), unit: '°C' },
  clarity: { words: msg('rodHoursPage.byClaritySecchi'), unit: 'm' },
  wind: { words: msg('rodHoursPage.byWind'), unit: 'm/s' },
  light: { words: msg('rodHoursPage.byLight'), unit: '' },
  depth: { words: msg('rodHoursPage.byDepth'), unit: 'm' },
  lure: { words: msg('rodHoursPage.byLure'), unit: '' },
};

const month = (k: number): string =>
  new Intl.DateTimeFormat(locale(), { month: 'long', timeZone: 'UTC' }).format(Date.UTC(2024, k - 1, 15));
/** A class that begins at nought, or ends where no water is, has one edge. */
function spanWords({ from, to, name }: RateClass, kind: RateKind, last: boolean): string {
  if (name !== null) return term(name);
  if (kind === 'month') return month(from!);
  const number = (v: number | null): string => inUnit(v ?? 0, HEADINGS[kind].unit);
  return from === 0
    ? msg('rodHoursPage.under', { to: number(to) })
    : last
      ? msg('rodHoursPage.over', { from: number(from) })
      : `${number(from)}–${number(to)}`;
}

const rate = (v: number): string => decimal(v, v < 0.095 ? 2 : v < 9.95 ? 1 : 0);

/** Bites and fish by the hours that were fished. @param alone the water has no chart: this is all that Patterns can say */
export function RodHoursPage({ species, alone = false }: { species: string | null; alone?: boolean }) {
  const { water } = useWaterState();
  const importing = useImporting();
  const [chosen, setChosen] = useState<string | null>(null);
  const asked = alone ? chosen : species;
  const { data, error } = useRodHours(water.id, asked);
  if (!data) return <Waiting what={msg('rodHoursPage.theLogByRod')} failed={error} />;
  const { overall, unit, tables, placeless } = data;
  const nothing = overall.trips === 0;
  return (
    <div className="h-full overflow-y-auto" data-testid="rod-hours">
      <div className="mx-auto max-w-5xl p-5">
        <div className="flex flex-wrap items-center justify-between gap-3">
          <h1 className="text-xl font-bold">
            {nothing
              ? msg('rodHoursPage.noFishingLoggedYet')
              : msg(unit === 'rod-hour' ? 'rodHoursPage.perRodHour' : 'rodHoursPage.perTrip', {
                  fish: asked ? capital(term(asked)) : msg('rodHoursPage.fish'),
                  rate: rate(overall.rate),
                })}
          </h1>
          {alone && water.logged.length > 0 && (
            <select
              className="select h-11 w-44"
              aria-label={msg('rodHoursPage.species')}
              value={chosen ?? ''}
              onChange={(e) => setChosen(e.target.value || null)}
            >
              <option value="">{msg('rodHoursPage.allFish')}</option>
              {water.logged.map((s) => (
                <option key={s} value={s}>
                  {term(s)}
                </option>
              ))}
            </select>
          )}
        </div>
        {nothing ? (
          <p className="mt-1 text-mute">{msg('rodHoursPage.logStopsOnThe')}</p>
        ) : (
          <p className="num mt-1 text-mute">
            {unit === 'rod-hour' && <>{msg('rodHoursPage.rodHours', { hours: grouped(Math.round(overall.hours)) })} </>}
            {msg('rodHoursPage.tripFish', {
              trips: overall.trips,
              fish: grouped(overall.fish),
              value: overall.bites > overall.fish ? msg('rodHoursPage.bites', { bites: grouped(overall.bites) }) : '',
              value2:
                !Number.isNaN(overall.low) && overall.low !== null
                  ? msg('rodHoursPage.intervalByResamplingTrips', { low: rate(overall.low), high: rate(overall.high) })
                  : '',
              value3: placeless > 0 ? msg('rodHoursPage.fishWithoutAPosition', { placeless }) : '',
            })}
          </p>
        )}
        {unit === 'trip' && !nothing && <p className="mt-1 text-sm text-mute">{msg('rodHoursPage.noHoursAreLogged')}</p>}
        <div className="mt-4 grid gap-x-10 gap-y-6 lg:grid-cols-2">
          {tables.map((table) => (
            <Rates key={table.kind} table={table} unit={unit} overall={overall.rate} />
          ))}
        </div>
        {alone && (
          <section className="mt-6 border-t border-line pt-4" aria-label={msg('rodHoursPage.whatThisCannotShow')}>
            <p className="max-w-prose text-mute">{msg('rodHoursPage.aLogOfStops')}</p>
            <button type="button" className="btn touch-target mt-3" onClick={() => importing(water.name)}>
              <FileUp size={18} aria-hidden /> {msg('rodHoursPage.importFiles')}
            </button>
          </section>
        )}
      </div>
    </div>
  );
}

/** One covariate: a row a class, its rate as a bar with its interval, and what it rests on. */
function Rates({ table, unit, overall }: { table: RodHours['tables'][number]; unit: RodHours['unit']; overall: number }) {
  const { kind, classes, countsOnly } = table;
  const { words, unit: si } = HEADINGS[kind];
  const most = countsOnly
    ? Math.max(...classes.map((c) => c.fish), 1)
    : Math.max(...classes.flatMap((c) => [c.rate, c.high ?? 0]), overall, 1e-9);
  const x = (v: number): number => (100 * v) / most;
  const shown = readUnit(si);
  return (
    <section aria-label={words}>
      <h2 className="font-bold">
        {words}
        {shown && <span className="font-normal text-mute">, {shown}</span>}
      </h2>
      <p className="text-sm text-mute">
        {countsOnly
          ? msg('rodHoursPage.fishLandedHowLong', { kind: kind === 'lure' ? 'yes' : 'no' })
          : msg(unit === 'rod-hour' ? 'rodHoursPage.lineRodHour' : 'rodHoursPage.lineTrip')}
      </p>
      <table className="num mt-1 w-full text-sm">
        <tbody>
          {classes.map((c, k) => (
            <tr key={k} className="border-t border-line">
              <th scope="row" className="w-28 py-1.5 pr-2 text-left font-semibold">
                {spanWords(c, kind, k === classes.length - 1 && kind !== 'month' && c.name === null)}
              </th>
              <td className="w-full py-1.5">
                <svg viewBox="0 0 100 14" preserveAspectRatio="none" className="block h-4 w-full" aria-hidden>
                  <rect x="0" y="3" width={Math.max(0.4, x(countsOnly ? c.fish : c.rate))} height="8" fill="var(--fish)" opacity=".75" />
                  {!countsOnly && c.low !== null && !Number.isNaN(c.low) && (
                    <line
                      x1={x(c.low)}
                      x2={x(c.high)}
                      y1="7"
                      y2="7"
                      stroke="var(--ink)"
                      strokeWidth="2"
                      vectorEffect="non-scaling-stroke"
                    />
                  )}
                  {!countsOnly && (
                    <line
                      x1={x(overall)}
                      x2={x(overall)}
                      y1="0"
                      y2="14"
                      stroke="var(--ink)"
                      strokeDasharray="2 2"
                      vectorEffect="non-scaling-stroke"
                    />
                  )}
                </svg>
              </td>
              <td className="whitespace-nowrap py-1.5 pl-3 text-right">
                <b>{countsOnly ? c.fish : rate(c.rate)}</b>
                <span className="text-mute">
                  {countsOnly
                    ? msg('rodHoursPage.fishOnly')
                    : msg('rodHoursPage.fishTrip', {
                        fish: c.fish,
                        hours: unit === 'rod-hour' ? `${rate(c.hours)} h, ` : '',
                        trips: c.trips,
                      })}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
