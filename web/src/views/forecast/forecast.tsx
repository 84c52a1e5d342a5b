import { RefreshCw, X } from 'lucide-react';
import { useCallback, useEffect, useMemo, useState } from 'react';
import type { Place, Reason } from '@restless-shoal/core/forecast';
import { cellKey, cellOf, metricPlane, type Point } from '@restless-shoal/core/geo';
import { oxygenHoldsTo } from '@restless-shoal/core/lake';
import { Column } from '../../parts/column';
import { clockInZone, dayInZone, grouped, hectares, percent, percentRange } from '../../parts/format';
import { PositionField } from '../../parts/position-field';
import { strength, WaterMap } from '../../parts/water-map';
import { useWaterState } from '../../state/water';
import { useForecastWorker } from '../../workers/use-forecast-worker';
import { NoChart } from '../../parts/no-chart';
import { useContours } from '../../workers/use-contours';
import { useCellIndex, useForecast } from './use-forecast';

/** A round number just above the chances that the best of the water reach: painted fully. */
function fullChance(probability: Float32Array): number {
  const sorted = Float32Array.from(probability).sort();
  const high = sorted[Math.floor(sorted.length * 0.995)] ?? 0.1;
  return [0.01, 0.02, 0.03, 0.05, 0.08, 0.1, 0.15, 0.2, 0.3, 0.4, 0.5, 0.6, 0.8].find((v) => v >= high) ?? 1;
}

function Legend({ full }: { full: number }) {
  return (
    <svg width="286" height="40" role="img" aria-label={`painted from 0 to ${percent(full)}`}>
      <defs>
        <pattern id="legend-unsure" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="1.6" height="8" fill="var(--ink)" />
        </pattern>
      </defs>
      {[0.1, 0.25, 0.5, 0.75, 1].map((t, i) => (
        <g key={t}>
          <rect x={i * 42} width="42" height="15" fill="var(--w1)" />
          <rect x={i * 42} width="42" height="15" fill="var(--fish)" opacity={strength(t * full, full) * 0.9} />
          <text x={i * 42 + 21} y="32" textAnchor="middle" fontSize="12" fill="var(--ink)" className="num">
            {percent(t * full)}
            {t === 1 ? ' +' : ''}
          </text>
        </g>
      ))}
      <rect x="226" width="48" height="15" fill="url(#legend-unsure)" />
      <text x="250" y="32" textAnchor="middle" fontSize="12" fill="var(--ink)">
        unsure
      </text>
    </svg>
  );
}

/** For and against, as a bar: what speaks for to the right in one colour, against in another, each with its words. */
function ReasonBar({ reasons }: { reasons: Reason[] }) {
  const total = reasons.reduce((s, r) => s + Math.abs(r.effect), 0) || 1;
  const label = reasons.map((r) => `${r.effect > 0 ? '+' : '−'}${Math.abs(r.effect).toFixed(1)} ${r.words}`).join('; ');
  return (
    <span role="img" aria-label={label} title={label} className="mt-1.5 flex h-2.5 gap-px">
      {[...reasons]
        .sort((a, b) => b.effect - a.effect)
        .map((r) => (
          <span
            key={r.factor}
            style={{
              width: `${(Math.abs(r.effect) / total) * 100}%`,
              background: r.effect > 0 ? 'var(--act)' : 'repeating-linear-gradient(45deg, var(--warn) 0 3px, transparent 3px 5px)',
              opacity: r.effect > 0 ? 0.45 + Math.min(0.55, r.effect / 2) : 1,
            }}
          />
        ))}
    </span>
  );
}

/** A short sentence: what speaks for a place, and what against. */
function ReasonWords({ reasons, looked, saw }: { reasons: Reason[]; looked: number; saw: number }) {
  const pro = reasons.filter((r) => r.effect > 0).slice(0, 3);
  const con = reasons.filter((r) => r.effect < 0).slice(0, 2);
  return (
    <span className="block text-[13px] leading-snug text-mute">
      {pro.map((r) => r.words).join(', ') || 'nothing speaks for it'}
      {con.length > 0 && (
        <>
          ; <b className="text-ink">against:</b> {con.map((r) => r.words).join(', ')}
        </>
      )}
      . {looked === 0 ? 'Never looked at.' : `${looked} looks, seen in ${saw}.`}
    </span>
  );
}

function PlaceRow({ place, number, chosen, onChoose }: { place: Place; number: number; chosen: boolean; onChoose: () => void }) {
  const { day, species, chart } = useWaterState();
  const max = Math.max(6, Math.min(Math.ceil(chart!.deepest), 14));
  return (
    <li>
      <button
        type="button"
        aria-pressed={chosen}
        onClick={onChoose}
        className={`grid w-full grid-cols-[30px_44px_1fr] items-start gap-2.5 border-b border-line px-3.5 py-2.5 text-left ${chosen ? 'bg-[color-mix(in_srgb,var(--fish)_10%,transparent)]' : 'hover:bg-[color-mix(in_srgb,var(--act)_6%,transparent)]'}`}
      >
        <span className="num grid size-[30px] place-items-center rounded-full border-2 border-ink font-bold">{number}</span>
        <Column
          width={40}
          height={70}
          max={max}
          bottom={place.depth}
          hardness={chart!.cells.hardness[place.cell] || 0}
          thermocline={day.column.thermocline}
          oxygenTo={oxygenHoldsTo(day.column.samples, species.leastOxygen)}
          cover={chart!.cells.woodDistance[place.cell] < 25 ? 1.8 : null}
          band={{ top: place.depthTop, bottom: place.depthBottom }}
          label={`${place.depth.toFixed(1)} m deep, ${species.name} likely at ${place.depthTop.toFixed(1)}–${place.depthBottom.toFixed(1)} m`}
        />
        <span>
          <span className="flex items-baseline justify-between gap-2">
            <b className="leading-tight">
              {place.name}, {place.depth.toFixed(1)} m
            </b>
            <b className="num whitespace-nowrap text-fish">{percent(place.probability)}</b>
          </span>
          <span className="num flex justify-between text-[13px] text-mute">
            <span>
              hold at {place.depthTop.toFixed(1)}–{place.depthBottom.toFixed(1)} m · {hectares(place.area)}
            </span>
            <span title="80 % interval">{percentRange(place.low, place.high)}</span>
          </span>
          <ReasonWords reasons={place.reasons} looked={place.looked} saw={place.saw} />
          <ReasonBar reasons={place.reasons} />
        </span>
      </button>
    </li>
  );
}

interface CellView {
  point: Point;
  cell: number;
}

/** Where the species will hold, how deep, how sure, and why. */
export function ForecastView() {
  const { chart, chartBytes, water, species, conditions } = useWaterState();
  const worker = useForecastWorker(chartBytes);
  const contours = useContours(worker);
  const { answer, fit, failed, refit, cancel, progress } = useForecast(worker);
  const cellIndex = useCellIndex();
  const [chosen, setChosen] = useState<number | null>(null);
  const [picked, setPicked] = useState<CellView | null>(null);
  const [reasons, setReasons] = useState<Reason[]>([]);
  const [goTo, setGoTo] = useState<Point | null>(null);

  const full = useMemo(() => (answer ? fullChance(answer.forecast.probability) : 0.1), [answer]);
  const chance = useMemo(() => answer && { ...answer.forecast, full }, [answer, full]);
  const places = useMemo(() => (answer?.places ?? []).map((p, i) => ({ number: i + 1, x: p.x, y: p.y })), [answer]);

  const pick = useCallback(
    (point: Point) => {
      const cell = cellIndex.get(cellKey(...cellOf(point[0], point[1])));
      setPicked(cell === undefined ? null : { point, cell });
      setChosen(null);
    },
    [cellIndex],
  );
  useEffect(() => {
    let gone = false;
    setReasons([]);
    if (picked && worker && answer)
      void worker.reasons(picked.cell).then((r) => {
        if (!gone) setReasons(r);
      });
    return () => {
      gone = true;
    };
  }, [picked, worker, answer]);

  if (!chart) return <NoChart />;
  const choose = (number: number): void => {
    setChosen(number);
    setPicked(null);
    const place = answer!.places[number - 1];
    setGoTo([place.x, place.y]);
  };
  return (
    <div className="grid h-full grid-cols-[1fr_396px] max-lg:grid-cols-1 max-lg:grid-rows-[55%_45%]">
      <WaterMap
        label={`Forecast for ${species.name} on ${water.name}`}
        contours={contours}
        chance={chance}
        places={places}
        chosen={chosen}
        point={picked?.point ?? null}
        goTo={goTo}
        onPick={(point, { place }) => (place ? choose(place) : pick(point))}
      >
        <div className="absolute left-3 top-3 flex max-w-[calc(100%-1.5rem)] flex-col items-start gap-2">
          <p className="rounded-box border border-line bg-surface px-3 py-2">
            <b>{species.name[0].toUpperCase() + species.name.slice(1)}</b>: chance that one scan of a 25 m cell shows one
            <span className="block text-sm text-mute" data-testid="basis">
              {answer
                ? answer.looks
                  ? `from ${answer.trips} trips, ${grouped(answer.looks)} looks, ${grouped(answer.contacts)} contacts`
                  : 'from the schools alone: no log yet'
                : 'computing …'}
              {' · '}
              {dayInZone(conditions.at, water.time_zone)} {clockInZone(conditions.at, water.time_zone)}
            </span>
          </p>
          <FitButton
            stale={fit?.stale ?? false}
            fitted={fit != null}
            progress={progress}
            onRefit={() => void refit()}
            onCancel={() => void cancel()}
          />
          {failed && (
            <p role="alert" className="rounded-box border border-warn bg-surface px-3 py-2 text-warn">
              {failed.message}
            </p>
          )}
        </div>
        {picked && answer && <CellSheet view={picked} answer={answer} reasons={reasons} onClose={() => setPicked(null)} />}
        <div className={`absolute bottom-3 left-3 rounded-box border border-line bg-surface px-3 pt-2 ${picked ? 'hidden' : ''}`}>
          <Legend full={full} />
        </div>
      </WaterMap>
      <aside aria-label="Best places" className="flex min-h-0 flex-col border-l border-line bg-surface max-lg:border-l-0 max-lg:border-t">
        <div className="flex items-baseline justify-between px-3.5 pb-1.5 pt-2.5 text-sm">
          <h1 className="text-base font-bold">Best places{answer ? `, ${answer.places.length}` : ''}</h1>
          <span className="text-mute">chance of a scan · 80 % interval</span>
        </div>
        <ol
          className="min-h-0 flex-1 overflow-y-auto border-t border-line"
          data-testid="places"
          tabIndex={0}
          aria-label="Best places, best first"
        >
          {answer?.places.map((place, i) => (
            <PlaceRow key={place.cell} place={place} number={i + 1} chosen={chosen === i + 1} onChoose={() => choose(i + 1)} />
          ))}
        </ol>
        <div className="border-t border-line p-3">
          <PositionField
            label="Look at a position in the forecast"
            button="Why here?"
            onPosition={(position) => {
              const p = metricPlane(chart.epsg).toMetric(position);
              pick(p);
              setGoTo(p);
            }}
          />
        </div>
      </aside>
    </div>
  );
}

function FitButton({
  stale,
  fitted,
  progress,
  onRefit,
  onCancel,
}: {
  stale: boolean;
  fitted: boolean;
  progress: { share: number; error: string | null } | null;
  onRefit: () => void;
  onCancel: () => void;
}) {
  if (progress?.error)
    return (
      <p role="alert" className="rounded-box border border-warn bg-surface px-3 py-2">
        The fit failed: {progress.error} The last one stands.{' '}
        <button type="button" className="btn btn-sm" onClick={onRefit}>
          Try again
        </button>
      </p>
    );
  if (progress)
    return (
      <div role="status" className="flex items-center gap-3 rounded-box border border-line bg-surface px-3 py-2">
        <span>Fitting your log</span>
        <progress className="progress progress-primary w-28" value={progress.share} max={1} />
        <button type="button" className="btn btn-sm" onClick={onCancel}>
          Cancel
        </button>
      </div>
    );
  if (!fitted || !stale) return null;
  return (
    <button type="button" className="btn btn-primary touch-target" onClick={onRefit}>
      <RefreshCw size={18} aria-hidden /> Refit: something new was logged
    </button>
  );
}

function CellSheet({
  view,
  answer,
  reasons,
  onClose,
}: {
  view: CellView;
  answer: NonNullable<ReturnType<typeof useForecast>['answer']>;
  reasons: Reason[];
  onClose: () => void;
}) {
  const { chart, day, species } = useWaterState();
  const { forecast } = answer;
  const { cell } = view;
  const depth = chart!.cells.depth[cell];
  return (
    <section
      aria-label="Why here"
      className="absolute bottom-3 left-3 w-[min(25rem,calc(100%-5rem))] rounded-box border border-line bg-surface p-3"
      data-testid="cell"
    >
      <div className="flex gap-3">
        <Column
          width={46}
          height={100}
          max={Math.max(6, Math.ceil(depth) + 1)}
          bottom={depth}
          hardness={chart!.cells.hardness[cell] || 0}
          thermocline={day.column.thermocline}
          band={{ top: forecast.depthTop[cell], bottom: forecast.depthBottom[cell] }}
        />
        <div className="min-w-0 flex-1">
          <p className="num flex items-baseline justify-between">
            <b className="text-2xl text-fish" data-testid="cell-chance" data-value={forecast.probability[cell]}>
              {percent(forecast.probability[cell])}
            </b>
            <span className="text-mute">
              {percentRange(forecast.low[cell], forecast.high[cell])} <small>80 %</small>
            </span>
            <button type="button" aria-label="Close" className="btn btn-ghost touch-target -mr-2 -mt-2 px-0" onClick={onClose}>
              <X size={18} aria-hidden />
            </button>
          </p>
          <p className="num text-sm">
            bottom {depth.toFixed(1)} m · {species.name} likely at {forecast.depthTop[cell].toFixed(1)}–
            {forecast.depthBottom[cell].toFixed(1)} m
          </p>
          <ul className="mt-1 text-[13px] leading-snug">
            {reasons.slice(0, 5).map((r) => (
              <li key={r.factor}>
                <b style={{ color: r.effect > 0 ? 'var(--act)' : 'var(--warn)' }}>{r.effect > 0 ? 'for' : 'against'}</b> {r.words}
              </li>
            ))}
          </ul>
        </div>
      </div>
    </section>
  );
}
