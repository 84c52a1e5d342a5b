import { useMemo } from 'react';
import { useLooks } from '../../api/queries';
import { dayInZone, grouped } from '../../parts/format';
import { Waiting } from '../../parts/waiting';
import { useWaterState } from '../../state/water';
import { NoChart } from '../../parts/no-chart';
import { useCellIndex } from '../forecast/use-forecast';
import { chosenRun, depthSelection, LEAST_TARGETS, LEAST_TRIPS, mostlyLooked, type DepthSelection } from './depth-selection';
import { SelectionChart } from './selection-chart';

const span = ({ from, to }: { from: number; to: number }): string => `${from} to ${to} m`;

function Headline({ data, species }: { data: DepthSelection; species: string }) {
  const chosen = chosenRun(data.classes);
  const looked = mostlyLooked(data.classes);
  return (
    <h1 className="text-[22px] font-bold leading-tight">
      {chosen
        ? `${species} choose ${span(chosen)} of water.`
        : `No depth stands out for ${species}: what was seen follows where the boat looked.`}
      {looked && <span className="block text-base font-normal text-mute">Half of what was scanned lies in {span(looked)}.</span>}
    </h1>
  );
}

function Table({ data }: { data: DepthSelection }) {
  const cell = 'num whitespace-nowrap border-t border-line py-[5px] pr-2 text-right';
  return (
    <table className="w-full text-sm">
      <caption className="pb-2 text-left font-bold">By depth of the bottom</caption>
      <thead className="text-mute">
        <tr>
          {['m', 'seen', 'expected', 'times', '90 %', 'a ha', 'looks', 'trips'].map((h) => (
            <th key={h} scope="col" className="whitespace-nowrap pr-2 text-right font-medium">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {data.classes.map((c) => (
          <tr key={c.class} className={c.low > 1 ? 'font-bold' : ''}>
            <th scope="row" className={cell}>
              {c.from >= 16 ? '16+' : `${c.from}–${c.to}`}
            </th>
            <td className={cell}>{c.used}</td>
            <td className={cell}>{c.expected.toFixed(1)}</td>
            <td className={`${cell} text-fish`}>{Number.isNaN(c.ratio) ? '–' : `${c.ratio.toFixed(2)}×`}</td>
            <td className={cell}>{Number.isNaN(c.low) ? '–' : `${c.low.toFixed(1)}–${c.high.toFixed(1)}`}</td>
            <td className={cell}>{c.rate.toFixed(2)}</td>
            <td className={cell}>{grouped(c.looks)}</td>
            <td className={cell}>{c.trips}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What the fish had in common, against where the boat looked. */
export function Patterns() {
  const { chart, water, species, log } = useWaterState();
  const looks = useLooks(water.id);
  const cellIndex = useCellIndex();
  const data = useMemo(
    () => (chart && looks.data ? depthSelection(looks.data, chart, cellIndex, species, water.species) : null),
    [chart, looks.data, cellIndex, species, water.species],
  );
  if (!chart) return <NoChart />;
  if (!data) return <Waiting what="the looks of this water" failed={looks.error} />;
  const enough = data.targets >= LEAST_TARGETS && data.trips >= LEAST_TRIPS;
  const [first, last] = [log.trips[0], log.trips[log.trips.length - 1]];
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_480px] max-lg:grid-cols-1 max-lg:overflow-y-auto">
      <section className="flex min-h-0 min-w-0 flex-col p-5 pb-2">
        {enough ? (
          <>
            <Headline data={data} species={species.name[0].toUpperCase() + species.name.slice(1)} />
            <p className="mb-2 mt-1 text-sm text-mute">
              Times as many {species.name} contacts as chance would give, where the boat scanned on the same trip. Band: 90 %, from
              resampling whole trips.
            </p>
            <div className="min-h-0 flex-1 max-lg:min-h-96">
              <SelectionChart data={data} />
            </div>
          </>
        ) : (
          <div className="m-auto max-w-md">
            <h1 className="text-xl font-bold">Too little to speak of a pattern</h1>
            <p className="mt-2 text-mute">
              {data.targets} {species.name} contact{data.targets === 1 ? '' : 's'} on {data.trips} trip{data.trips === 1 ? '' : 's'} with
              scanned water. It takes {LEAST_TARGETS} contacts on {LEAST_TRIPS} trips. Mark what you see on the Deck, the blanks as well.
            </p>
          </div>
        )}
      </section>
      <aside className="min-h-0 overflow-auto border-l border-line bg-surface p-5 max-lg:border-l-0 max-lg:border-t">
        <p className="num mb-3 border-b border-line pb-3 text-sm text-mute" data-testid="basis">
          <b className="text-ink">{grouped(data.targets)}</b> contacts · <b className="text-ink">{grouped(data.looks)}</b> looks ·{' '}
          <b className="text-ink">{data.trips}</b> trips · <b className="text-ink">{data.hectares.toFixed(0)} ha</b>
          {first && last && (
            <span className="block">
              {dayInZone(new Date(first.start), water.time_zone)} to {dayInZone(new Date(last.start), water.time_zone)}
            </span>
          )}
          {data.outside > 0 && <span className="block">{grouped(data.outside)} contacts lie outside all effort and are left out.</span>}
        </p>
        <Table data={data} />
      </aside>
    </div>
  );
}
