import { useQueryClient } from '@tanstack/react-query';
import { Crosshair, PenLine, Send } from 'lucide-react';
import { useMemo, useState } from 'react';
import { gpxOf } from '@restless-shoal/core/formats';
import { CELL, insideRings, metricPlane, type Point } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import {
  DEFAULT_WEIGHTS,
  SIMILARITY_TRAITS,
  type GoodStop,
  type Question,
  type SimilarSpot,
  type SimilarityWeights,
} from '@restless-shoal/core/patterns';
import { keepAndSend } from '../../offline/device';
import type { PlanPlace } from '../../api/queries';
import { usePlan } from '../../state/use-plan';
import { Column } from '../../parts/column';
import { Exports } from '../../parts/e-chart';
import { clockInZone, depthText, grouped, hectares, inZone, METRES_PER } from '../../parts/format';
import { saveFile } from '../../parts/save-file';
import { WaterMap, type WaterMapController } from '../../parts/water-map';
import { useUnits } from '../../state/units';
import { useWaterState } from '../../state/water';
import { useContours } from '../../workers/use-contours';
import { useForecastService } from '../../workers/forecast-service';
import { useAnswer, type OpenLog } from '../../workers/use-patterns-worker';
import type { SimilarTo } from './question-address';
import { traitName, traitWords } from './trait-words';
import { patterns as msg, say, term, capital } from '../../words';

const NO_STOPS: GoodStop[] = [];

const STATE = {
  never: msg('similarPage.notLookedAtYet'),
  empty: msg('similarPage.lookedAtNoFish'),
  held: msg('similarPage.heldFish'),
} as const;

/** Places like a chosen one, ranked, with what is alike and what is different. */
export function SimilarSpotsPage({
  log,
  question,
  of,
  species,
  onOf,
}: {
  log: OpenLog;
  question: Question;
  of: SimilarTo | null;
  species: string;
  onOf: (of: SimilarTo) => void;
}) {
  const { chart, chartBytes, water, conditions, day } = useWaterState();
  const { depth: unit } = useUnits();
  const queries = useQueryClient();
  const contours = useContours(useForecastService(chartBytes).service, day.level, METRES_PER[unit]);
  const [weights, setWeights] = useState<SimilarityWeights>({});
  const [chosen, setChosen] = useState<number | null>(null);
  const [goTo, setGoTo] = useState<Point | null>(null);
  const [sent, setSent] = useState<string | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [hideLooked, setHideLooked] = useState(false);
  const plan = usePlan(water.id);
  const at = conditions.at.getTime();
  const [map, setMap] = useState<WaterMapController | null>(null);
  const [drawing, setDrawing] = useState(false);
  const stops = useAnswer(log, ['good stops', question], (ask) => ask.goodStops(question)).answer ?? NO_STOPS;
  const metric = useMemo(
    (): [number, number][] => (chart && of ? of.places.map((p) => metricPlane(chart.epsg).toMetric(p)) : []),
    [chart, of],
  );
  const { answer, failed: notFound } = useAnswer(log, ['similar', question, of, weights, Math.floor(at / 3_600_000)], (ask) =>
    of ? ask.similarSpots(question, metric, at, weights) : Promise.resolve(null),
  );
  const spots = useMemo(() => (answer?.spots ?? []).filter((t) => !hideLooked || t.state !== 'empty'), [answer, hideLooked]);
  const places = useMemo(() => spots.map((t, i) => ({ number: i + 1, x: t.x, y: t.y })), [spots]);
  const marks = useMemo(() => metric.map(([x, y], i) => ({ id: `of ${i}`, kind: 'fish', x, y })), [metric]);
  if (!chart) return null;
  const plane = metricPlane(chart.epsg);
  const ofPoints = (points: Point[], words: string): SimilarTo => ({ places: points.map((p) => plane.toLatLon(p)), words });
  const drawPatch = (): void => {
    setDrawing(true);
    map?.drawing.start('Polygon', (ring, done) => {
      if (!done) return;
      setDrawing(false);
      setTimeout(() => map.drawing.stop());
      const { column, row, count, depth } = chart.cells;
      const inside = Array.from({ length: count }, (_, i) => i)
        .filter((i) => !Number.isNaN(depth[i]))
        .map((i): Point => [(column[i] + 0.5) * CELL, (row[i] + 0.5) * CELL])
        .filter((p) => insideRings([ring], ...p));
      // A patch smaller than a cell is its middle.
      const middle: Point = [ring.reduce((s, p) => s + p[0], 0) / ring.length, ring.reduce((s, p) => s + p[1], 0) / ring.length];
      const step = Math.ceil(inside.length / 40);
      onOf(ofPoints(inside.length ? inside.filter((_, i) => i % step === 0) : [middle], msg('similarPage.thePatchDrawn')));
    });
  };
  const dayOf = (at: number): string => inZone(new Date(at), water.time_zone, { day: 'numeric', month: 'short', year: 'numeric' });
  const newest = stops.filter((s) => s.trip === stops[0].trip);
  const asPlaces = (): PlanPlace[] =>
    spots.map((t) => ({
      id: newId(),
      name: capital(say(t.name)),
      words: msg('similarPage.like', {
        words: of!.words,
        alike: t.alike
          .slice(0, 3)
          .map((r) => `${traitName(r.trait)} ${traitWords(r.trait, r.there)}`)
          .join(', '),
        state: STATE[t.state],
      }).slice(0, 500),
      ...plane.toLatLon([t.x, t.y]),
      depth_m: Math.round(10 * t.depth) / 10,
    }));
  const send = (): void => {
    setFailed(null);
    const list = asPlaces();
    keepAndSend('POST /waters/:water/plan', { water: water.id }, { places: list })
      .then(() => {
        setSent(msg('similarPage.spotsAddedToThe', { list: list.length }));
        return queries.invalidateQueries({ queryKey: ['plan', water.id] });
      })
      .catch((error: Error) => setFailed(msg('similarPage.nothingWasPutOn', { message: error.message })));
  };
  const choose = (i: number): void => {
    setChosen(i + 1);
    setGoTo([spots[i].x, spots[i].y]);
  };
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_27rem] max-lg:grid-cols-1 max-lg:grid-rows-[45%_55%]">
      <WaterMap
        label={msg('similarPage.spotsSimilarToThe')}
        contours={contours}
        unit={METRES_PER[unit]}
        places={places}
        marks={marks}
        chosen={chosen}
        goTo={goTo}
        point={metric.length === 1 ? metric[0] : null}
        onReady={setMap}
        onPick={(point, { place }) => {
          if (drawing) return;
          if (place) choose(place - 1);
          else {
            setChosen(null);
            onOf(ofPoints([point], msg('similarPage.theSpotTappedOn')));
          }
        }}
      >
        <div className="absolute left-3 top-3 flex max-w-[calc(100%-1.5rem)] flex-wrap items-center gap-2">
          <p className="rounded-box border border-line bg-surface px-3 py-2 text-sm">
            {drawing ? (
              <b>{msg('similarPage.tapEachCornerTap')}</b>
            ) : of ? (
              <>
                {msg('similarPage.similarTo')} <b>{of.words}</b>
                {of.places.length > 1 && <span className="num">{msg('similarPage.places', { places: of.places.length })}</span>}
                {msg('similarPage.tapTheMapTo')}
              </>
            ) : (
              <b>{msg('similarPage.tapAGoodSpot')}</b>
            )}
          </p>
          <select
            aria-label={msg('similarPage.similarToAStop')}
            className="select touch-target w-52 bg-surface"
            value=""
            onChange={(e) => {
              if (e.target.value === 'newest')
                onOf(
                  ofPoints(
                    newest.map((s): Point => [s.x, s.y]),
                    msg('similarPage.theGoodStopsOf', { at: dayOf(newest[0].at) }),
                  ),
                );
              const stop = stops.find((s) => s.id === e.target.value);
              if (stop)
                onOf(
                  ofPoints(
                    [[stop.x, stop.y]],
                    msg('similarPage.theStopOf', { at: dayOf(stop.at), at2: clockInZone(new Date(stop.at), water.time_zone) }),
                  ),
                );
            }}
          >
            <option value="">{stops.length ? msg('similarPage.orChooseAGood') : msg('similarPage.noStopWithBites')}</option>
            {newest.length > 1 && (
              <option value="newest">{msg('similarPage.allOf', { newest: newest.length, at: dayOf(newest[0].at) })}</option>
            )}
            {stops.map((s) => (
              <option key={s.id} value={s.id}>
                {msg('similarPage.bite', { at: dayOf(s.at), at2: clockInZone(new Date(s.at), water.time_zone), bites: s.bites })}
              </option>
            ))}
          </select>
          <button type="button" className="btn touch-target bg-surface" aria-pressed={drawing} onClick={drawPatch}>
            <PenLine size={18} aria-hidden /> {msg('similarPage.drawAPatch')}
          </button>
        </div>
      </WaterMap>
      <aside
        aria-label={msg('similarPage.similarSpots')}
        className="flex min-h-0 flex-col border-l border-line bg-surface max-lg:border-l-0 max-lg:border-t"
      >
        <div className="border-b border-line px-4 pb-2 pt-3">
          <div className="flex items-center justify-between gap-2">
            <h1 className="text-lg font-bold">
              {of ? msg('similarPage.similarSpot', { spots: spots.length }) : msg('similarPage.findSimilarSpots')}
            </h1>
            {spots.length > 0 && (
              <Exports
                name={msg('similarPage.similarSpots')}
                rows={() => [
                  ['name', 'latitude', 'longitude', 'depth_m', 'likeness', 'state', 'looks', 'seen'],
                  ...spots.map((t) => {
                    const { latitude, longitude } = plane.toLatLon([t.x, t.y]);
                    return [say(t.name), latitude, longitude, t.depth, t.likeness, STATE[t.state], t.looked, t.saw];
                  }),
                ]}
              />
            )}
          </div>
          {notFound && <p role="alert">{notFound.message}</p>}
          {of && answer && answer.chosen === 0 && <p className="text-warn">{msg('similarPage.thereAreNoSoundings')}</p>}
          {spots.length > 0 && (
            <div className="mt-1 flex gap-2">
              <button type="button" className="btn btn-primary touch-target flex-1" onClick={send}>
                <Send size={18} aria-hidden /> {msg('similarPage.addAllToThe')}
              </button>
              <button
                type="button"
                className="btn touch-target"
                onClick={() =>
                  saveFile(
                    'similar-spots.gpx',
                    gpxOf(
                      msg('similarPage.similarTo2', { words: of!.words }),
                      asPlaces().map((p, i) => ({
                        ...p,
                        name: `${i + 1} ${p.name}`,
                        type: 'place',
                        depth: p.depth_m,
                        words: p.words ?? undefined,
                      })),
                    ),
                    'application/gpx+xml',
                  )
                }
              >
                {msg('similarPage.gpx')}
              </button>
            </div>
          )}
          <p aria-live="polite" className="text-sm">
            {failed ? (
              <span className="text-warn">{failed}</span>
            ) : (
              (sent ?? ((plan.data?.length ?? 0) > 0 ? msg('similarPage.onThePlanAlready', { data: plan.data!.length }) : ''))
            )}
          </p>
        </div>
        <ol
          className="min-h-0 flex-1 overflow-y-auto"
          tabIndex={0}
          aria-label={msg('similarPage.mostAlikeFirst')}
          data-testid="similar-spots"
        >
          {spots.map((t, i) => (
            <SimilarSpotRow
              key={t.cell}
              spot={t}
              number={i + 1}
              chosen={chosen === i + 1}
              zone={water.time_zone}
              species={species}
              text={(m) => depthText(m, unit)}
              thermocline={day.column.thermocline}
              hardness={chart.cells.hardness[t.cell]}
              onChoose={() => choose(i)}
            />
          ))}
        </ol>
        <details className="border-t border-line px-4 py-2">
          <summary className="flex min-h-11 cursor-pointer items-center gap-2 font-semibold">
            <Crosshair size={18} aria-hidden /> {msg('similarPage.whatCountsAsSimilar')}
          </summary>
          <label className="flex min-h-9 items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="checkbox checkbox-sm rounded"
              checked={hideLooked}
              onChange={(e) => setHideLooked(e.target.checked)}
            />
            {msg('similarPage.hideSpotsLookedAt')}
          </label>
          <div className="grid max-h-64 grid-cols-2 gap-x-3 overflow-y-auto">
            {SIMILARITY_TRAITS.map((t) => (
              <label key={t} className="text-xs">
                {traitName(t)} <span className="num text-mute">×{weights[t] ?? DEFAULT_WEIGHTS[t]}</span>
                <input
                  type="range"
                  className="range range-xs range-primary"
                  min={0}
                  max={5}
                  step={0.5}
                  value={weights[t] ?? DEFAULT_WEIGHTS[t]}
                  onChange={(e) => setWeights({ ...weights, [t]: Number(e.target.value) })}
                />
              </label>
            ))}
          </div>
        </details>
      </aside>
    </div>
  );
}

function SimilarSpotRow({
  spot: t,
  number,
  chosen,
  zone,
  species,
  text,
  thermocline,
  hardness,
  onChoose,
}: {
  spot: SimilarSpot;
  number: number;
  chosen: boolean;
  zone: string | null;
  species: string;
  text: (metres: number) => string;
  thermocline: { top: number; bottom: number } | null;
  hardness: number;
  onChoose: () => void;
}) {
  return (
    <li className={`border-b border-line ${chosen ? 'bg-[color-mix(in_srgb,var(--act)_10%,transparent)]' : ''}`}>
      <button type="button" className="flex w-full cursor-pointer gap-3 px-4 py-2 text-left" aria-pressed={chosen} onClick={onChoose}>
        <span className="num mt-0.5 grid size-6 shrink-0 place-items-center rounded-full bg-act text-sm font-bold text-act-ink">
          {number}
        </span>
        <Column
          width={30}
          height={62}
          max={Math.max(6, t.depth + 1)}
          bottom={t.depth}
          hardness={Number.isNaN(hardness) ? null : hardness}
          thermocline={thermocline}
        />
        <span className="min-w-0 flex-1 text-sm leading-snug">
          <span className="flex items-baseline justify-between gap-2">
            <b className="text-base leading-tight">
              {capital(say(t.name))}, <span className="num">{text(t.depth)}</span>
            </b>
            <b className="num whitespace-nowrap text-act">{msg('similarPage.alike', { likeness: Math.round(100 * t.likeness) })}</b>
          </span>
          <span className="num block text-mute">
            {hectares(t.area)} ·{' '}
            <span className={t.state === 'never' ? 'font-semibold text-therm' : t.state === 'held' ? 'font-semibold text-fish' : ''}>
              {t.state === 'never'
                ? STATE.never
                : t.state === 'empty'
                  ? msg('similarPage.looksNo', { looked: grouped(t.looked), species: term(species) })
                  : msg('similarPage.inLooks', { saw: t.saw, species: term(species), looked: grouped(t.looked) })}
            </span>
            {t.lastLook !== null &&
              msg('similarPage.last', {
                lastLook: inZone(new Date(t.lastLook), zone, { day: 'numeric', month: 'short', year: 'numeric' }),
              })}
          </span>
          <span className="block text-mute">
            {msg('similarPage.same')}{' '}
            {t.alike
              .slice(0, 4)
              .map((r) => `${traitName(r.trait)} ${traitWords(r.trait, r.there)}`)
              .join(', ') || msg('similarPage.nothingThatCounts')}
          </span>
          {t.different.length > 0 && (
            <span className="block">
              {msg('similarPage.different')}{' '}
              {t.different
                .slice(0, 2)
                .map((r) =>
                  msg('similarPage.not', {
                    name: traitName(r.trait),
                    there: traitWords(r.trait, r.there),
                    here: traitWords(r.trait, r.here),
                  }),
                )
                .join('; ')}
            </span>
          )}
        </span>
      </button>
    </li>
  );
}
