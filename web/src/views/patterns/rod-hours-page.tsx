import { FileUp } from 'lucide-react';
import { useState } from 'react';
import type { RateClass, RateKind, RodHours } from '@restless-shoal/core/patterns';
import { numbersIn, unitIn } from '@restless-shoal/core/units';
import { useRodHours } from '../../api/queries';
import { grouped } from '../../parts/format';
import { Waiting } from '../../parts/waiting';
import { useImporting } from '../../state/importing';
import { useUnits } from '../../state/units';
import { useWaterState } from '../../state/water';

const HEADINGS: Record<RateKind, { words: string; unit: string }> = {
  month: { words: 'By month', unit: '' },
  temperature: { words: 'By surface temperature', unit: '°C' },
  clarity: { words: 'By clarity (Secchi)', unit: 'm' },
  wind: { words: 'By wind', unit: 'm/s' },
  light: { words: 'By light', unit: '' },
  depth: { words: 'By depth', unit: 'm' },
  lure: { words: 'By lure', unit: '' },
};

const month = (k: number): string => new Intl.DateTimeFormat('en-GB', { month: 'long', timeZone: 'UTC' }).format(Date.UTC(2024, k - 1, 15));
/** A class that begins at nought, or ends where no water is, has one edge. */
function spanWords({ from, to, name }: RateClass, kind: RateKind, last: boolean): string {
  if (name !== null) return name;
  if (kind === 'month') return month(from!);
  return from === 0 ? `under ${to}` : last ? `over ${from}` : `${from}–${to}`;
}

const rate = (v: number): string => (v < 0.095 ? v.toFixed(2) : v < 9.95 ? v.toFixed(1) : v.toFixed(0));

/** Bites and fish by the hours that were fished. @param alone the water has no chart: this is all that Patterns can say */
export function RodHoursPage({ species, alone = false }: { species: string | null; alone?: boolean }) {
  const { water } = useWaterState();
  const importing = useImporting();
  const [chosen, setChosen] = useState<string | null>(null);
  const asked = alone ? chosen : species;
  const { data, error } = useRodHours(water.id, asked);
  if (!data) return <Waiting what="the log by rod-hours" failed={error} />;
  const { overall, unit, tables, placeless } = data;
  const nothing = overall.trips === 0;
  return (
    <div className="h-full overflow-y-auto" data-testid="rod-hours">
      <div className="mx-auto max-w-5xl p-5">
        <div className="flex flex-wrap items-center justify-between gap-3">
          <h1 className="text-xl font-bold">
            {nothing
              ? 'No fishing logged yet'
              : `${asked ? asked[0].toUpperCase() + asked.slice(1) : 'Fish'}: ${rate(overall.rate)} a ${unit === 'rod-hour' ? 'rod-hour' : 'trip'}`}
          </h1>
          {alone && water.logged.length > 0 && (
            <select
              className="select h-11 w-44"
              aria-label="Species"
              value={chosen ?? ''}
              onChange={(e) => setChosen(e.target.value || null)}
            >
              <option value="">all fish</option>
              {water.logged.map((s) => (
                <option key={s}>{s}</option>
              ))}
            </select>
          )}
        </div>
        {nothing ? (
          <p className="mt-1 text-mute">Log stops on the Deck, or import last year’s spreadsheet.</p>
        ) : (
          <p className="num mt-1 text-mute">
            {unit === 'rod-hour' && <>{grouped(Math.round(overall.hours))} rod-hours, </>}
            {overall.trips} {overall.trips === 1 ? 'trip' : 'trips'}, {grouped(overall.fish)} fish
            {overall.bites > overall.fish && `, ${grouped(overall.bites)} bites`}
            {!Number.isNaN(overall.low) &&
              overall.low !== null &&
              ` · ${rate(overall.low)}–${rate(overall.high)} (80 % interval, by resampling trips)`}
            {placeless > 0 && ` · ${placeless} fish without a place`}
          </p>
        )}
        {unit === 'trip' && !nothing && (
          <p className="mt-1 text-sm text-mute">
            No hours are logged, so fish are counted per trip. With the hours fished, rates by rod-hour appear here.
          </p>
        )}
        <div className="mt-4 grid gap-x-10 gap-y-6 lg:grid-cols-2">
          {tables.map((table) => (
            <Rates key={table.kind} table={table} unit={unit} overall={overall.rate} />
          ))}
        </div>
        {alone && (
          <section className="mt-6 border-t border-line pt-4" aria-label="What this cannot tell">
            <p className="max-w-prose text-mute">
              A log of stops and catches tells how often fish bit when somebody fished, not where they are not: nothing was scanned.
              Soundings give this water a chart, and marks on the Deck say where you looked, so that the other patterns can be worked out.
            </p>
            <button type="button" className="btn touch-target mt-3" onClick={() => importing(water.name)}>
              <FileUp size={18} aria-hidden /> Import files
            </button>
          </section>
        )}
      </div>
    </div>
  );
}

/** One covariate: a row a class, its rate as a bar with its interval, and what it rests on. */
function Rates({ table, unit, overall }: { table: RodHours['tables'][number]; unit: RodHours['unit']; overall: number }) {
  const units = useUnits();
  const { kind, classes, countsOnly } = table;
  const { words, unit: si } = HEADINGS[kind];
  const most = countsOnly
    ? Math.max(...classes.map((c) => c.fish), 1)
    : Math.max(...classes.flatMap((c) => [c.rate, c.high ?? 0]), overall, 1e-9);
  const x = (v: number): number => (100 * v) / most;
  const shown = unitIn(units, si);
  return (
    <section aria-label={words}>
      <h2 className="font-bold">
        {words}
        {shown && <span className="font-normal text-mute">, {shown}</span>}
      </h2>
      <p className="text-sm text-mute">
        {countsOnly
          ? `Fish landed. How long each ${kind === 'lure' ? 'lure' : 'depth'} was fished is not logged, so this is no rate.`
          : `Fish a ${unit}; line: 80 % interval; dotted: all together`}
      </p>
      <table className="num mt-1 w-full text-sm">
        <tbody>
          {classes.map((c, k) => (
            <tr key={k} className="border-t border-line">
              <th scope="row" className="w-28 py-1.5 pr-2 text-left font-semibold">
                {numbersIn(units, si, spanWords(c, kind, k === classes.length - 1 && kind !== 'month' && c.name === null))}
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
                    ? ' fish'
                    : ` · ${c.fish} fish, ${unit === 'rod-hour' ? `${rate(c.hours)} h, ` : ''}${c.trips} ${c.trips === 1 ? 'trip' : 'trips'}`}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
