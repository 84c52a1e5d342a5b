import { Download, RotateCcw, Shuffle } from 'lucide-react';
import { useCallback, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useQueryClient } from '@tanstack/react-query';
import type { Body } from '@restless-shoal/core/contract';
import { gpxOf } from '@restless-shoal/core/formats';
import { waterAt } from '@restless-shoal/core/chart';
import { metricPlane, type Point } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import { UNKNOWN_CHANCE, type ResetAnswer, type SearchPasses, type SearchView, type SpotWish } from '@restless-shoal/core/passage';
import { keepAndSend } from '../../offline/device';
import { clockInZone, dayInZone, METRES_PER } from '../../parts/format';
import { mapCover } from '../../parts/map-cover';
import { NoChart } from '../../parts/no-chart';
import { saveFile } from '../../parts/save-file';
import { Segments } from '../../parts/segments';
import { WaterMap, type WaterMapController } from '../../parts/water-map';
import { useNarrow } from '../../state/narrow';
import { useUnits } from '../../state/units';
import { useDayPlan } from '../../state/use-plan';
import { useWaterState } from '../../state/water';
import { useContours } from '../../workers/use-contours';
import { useForecastService } from '../../workers/forecast-service';
import { capital, decimal, formatMass, percent, plan as msg, say, term } from '../../words';
import { useContacts } from '../../api/queries';
import { DayCautions } from './day-cautions';
import { DaySettings, type DayPlace } from './day-settings';
import { namesOf } from './names';
import { PassesPanel } from './passes-panel';
import { ResetPanel } from './reset-panel';
import { STAYS_OF, usePlanSettings } from './settings';
import { SpotPanel, type SpotDrawing } from './spot-panel';
import { StopList, wayWords } from './stop-list';
import { toDegrees, usePlanDay } from './use-plan-day';

const TABS = ['stops', 'passes', 'spot', 'reset'] as const;
type Tab = (typeof TABS)[number];
/** Pins on a small map: more would lie on each other. */
const PINS = 8;
const NO_LINES: Point[][] = [];
const NO_POINTS: Point[] = [];

/** The day before it is fished, and while it is: stops in their order, search passes, how to come in, what to try after a blank. */
export function Plan() {
  const { water, ground } = useWaterState();
  if (!ground || !water.outline) return <NoChart needs={msg('plan.needs')} />;
  return <PlannedDay />;
}

function PlannedDay() {
  const { chart, ground, chartBytes, water, species, day, conditions, running } = useWaterState();
  const epsg = ground!.epsg;
  const [params, setParams] = useSearchParams();
  const tab: Tab = TABS.find((t) => t === params.get('tab')) ?? 'stops';
  const setTab = (next: Tab): void => setParams((p) => (p.set('tab', next), p), { replace: true });
  const [settings, change] = usePlanSettings(water.id);
  const { request, answer, failed, busy, worker, span, ramp, here, listed, goal, need } = usePlanDay(settings);
  const bites = answer?.learned != null;
  const { service } = useForecastService(chartBytes);
  const { depth: unit } = useUnits();
  const contours = useContours(service, day.level, METRES_PER[unit]);
  const queries = useQueryClient();
  const kept = useDayPlan(water.id);
  const [map, setMap] = useState<WaterMapController | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [tapped, setTapped] = useState<Point | null>(null);
  const [placing, setPlacing] = useState<DayPlace | null>(null);
  const [passes, setPasses] = useState<SearchPasses | null>(null);
  const [drawing, setDrawing] = useState<SpotDrawing | null>(null);
  const [goTo, setGoTo] = useState<Point | null>(null);
  const [done, setDone] = useState<string | null>(null);
  const narrow = useNarrow();
  const spotOf = useMemo(() => namesOf(answer, listed ?? []), [answer, listed]);
  const sheet = answer?.sheet ?? null;
  const zone = water.time_zone;
  const logged = useContacts(water.id).data;
  const contacts = useMemo((): Point[] => {
    const plane = metricPlane(epsg);
    const own = (logged ?? []).filter((c) => c.kind === 'fish' && c.trip === running?.trip);
    return own.length ? own.map((c) => plane.toMetric(c)) : NO_POINTS;
  }, [logged, running?.trip, epsg]);

  const cover = useMemo(
    () => mapCover(water.cover, epsg).filter((c) => c.kind === 'hazard' || c.kind === 'access' || c.kind === 'zone'),
    [water.cover, epsg],
  );
  const places = useMemo(
    () =>
      tab === 'passes'
        ? []
        : (sheet?.legs ?? [])
            .map((leg, i) => ({ id: leg.id, number: i + 1, x: leg.way.points.at(-1)![0], y: leg.way.points.at(-1)![1] }))
            .filter(({ id, number }) => !narrow || number <= PINS || id === chosen),
    [sheet, tab, narrow, chosen],
  );
  const ways = useMemo(
    (): Point[][] => (sheet ? [...sheet.legs.map((l) => l.way.points), ...(sheet.home ? [sheet.home.way.points] : [])] : NO_LINES),
    [sheet],
  );
  const runs = tab === 'passes' ? (passes?.passes ?? NO_LINES) : tab === 'spot' ? (drawing?.runs ?? NO_LINES) : NO_LINES;
  const tracks = useMemo(
    (): Point[][] =>
      tab === 'passes'
        ? (passes?.between.map((w) => w.points).filter((p) => p.length > 1) ?? NO_LINES)
        : tab === 'spot'
          ? (drawing?.tracks ?? NO_LINES)
          : ways,
    [tab, passes, drawing, ways],
  );
  const spotPoint = useMemo((): Point | null => {
    if (tapped) return tapped;
    const found = answer?.spots.find((s) => s.id === (chosen ?? sheet?.legs[0]?.id));
    return found?.at ?? null;
  }, [tapped, answer, chosen, sheet]);

  const choose = (id: string): void => {
    setChosen(id);
    setTapped(null);
    const at = answer?.spots.find((s) => s.id === id)?.at;
    if (at) setGoTo(at);
  };
  const pick = (point: Point, place: number | null): void => {
    if (placing) {
      change({ [placing]: metricPlane(epsg).toLatLon(point) });
      setPlacing(null);
      return;
    }
    if (place !== null && sheet) choose(sheet.legs[place - 1].id);
    else if (tab === 'spot') setTapped(point);
  };
  const wish = (id: string, next: SpotWish): void => change({ wishes: { ...settings.wishes, [id]: { ...settings.wishes[id], ...next } } });
  const dropped = useCallback(
    (id: string) => change({ order: (sheet?.legs ?? []).map((l) => l.id).filter((i) => i !== id) }),
    [change, sheet],
  );

  /** The plan as it is kept for the Deck and for other devices. */
  const planOf = (run: SearchPasses | null, view: SearchView | null): Body<'PUT /waters/:water/day-plan'> => {
    const plane = metricPlane(epsg);
    return {
      made: Date.now(),
      species: species.name,
      from: span.from,
      to: span.to,
      ramp: ramp!,
      stops: (sheet?.legs ?? []).map((leg) => {
        const spot = spotOf(leg.id);
        const at = answer!.spots.find((s) => s.id === leg.id)!.at;
        return {
          id: leg.id,
          name: spot.name.slice(0, 120) || '?',
          ...plane.toLatLon(at),
          depth_m: spot.depth,
          arrive: Math.round(leg.arrive),
          leave: Math.round(leg.leave),
          // Of fish that are there and bite: by blank minutes one learns of these alone.
          chance: (spot.chance ?? UNKNOWN_CHANCE) * answer!.brings.willing,
          brings: answer!.brings.bites,
          pace: answer!.brings.pace,
          expected: leg.expected,
          way: toDegrees(epsg, leg.way.points),
        };
      }),
      home: sheet?.home ? { arrive: Math.round(sheet.home.arrive), way: toDegrees(epsg, sheet.home.way.points) } : null,
      passes: run && {
        lines: run.passes.map((line) => toDegrees(epsg, line)),
        view: view!.view,
        range_m: view!.view === 'sounder' ? null : view!.range,
      },
    };
  };
  const use = (run: SearchPasses | null, view: SearchView | null): void => {
    setDone(null);
    keepAndSend('PUT /waters/:water/day-plan', { water: water.id }, planOf(run, view))
      .then(() => queries.invalidateQueries({ queryKey: ['day-plan', water.id] }))
      .then(() => setDone(msg(run ? 'plan.passesOnDeck' : 'plan.onDeck')))
      .catch((error: Error) => setDone(error.message));
  };
  const gpx = (): void => {
    if (!sheet) return;
    const points = ways.flatMap((way) => toDegrees(epsg, way)).map(([longitude, latitude]) => ({ latitude, longitude }));
    const plane = metricPlane(epsg);
    const stops = sheet.legs.map((leg, i) => ({
      ...plane.toLatLon(answer!.spots.find((s) => s.id === leg.id)!.at),
      name: `${i + 1} ${spotOf(leg.id).name}`,
      type: 'stop',
      depth: spotOf(leg.id).depth,
      time: new Date(leg.arrive).toISOString(),
      words: msg('stopList.minutes', { minutes: leg.stay }),
    }));
    saveFile('run-sheet.gpx', gpxOf(msg('plan.gpxTitle', { water: water.name }), stops, [{ name: msg('plan.gpxTitle', { water: water.name }), points }]), 'application/gpx+xml'); // prettier-ignore
  };
  const useThree = (stops: ResetAnswer['next']): void => {
    const plane = metricPlane(epsg);
    const added = stops.map((s) => ({
      id: newId(),
      name: msg('reset.spotName', { what: msg(`hypothesis.${s.hypothesis}`) }),
      words: null,
      ...plane.toLatLon(s.at),
      depth_m: chart ? (chart.cells.depth[s.cell] ?? null) : null,
    }));
    keepAndSend('POST /waters/:water/plan', { water: water.id }, { places: added })
      .then(() => queries.invalidateQueries({ queryKey: ['plan', water.id] }))
      .then(() => {
        change({ order: added.map((a) => a.id) });
        setTab('stops');
      })
      .catch((error: Error) => setDone(error.message));
  };
  const clock = (ms: number): string => clockInZone(new Date(ms), zone);
  return (
    <div className="grid h-full grid-cols-[1fr_420px] max-lg:grid-cols-1 max-lg:grid-rows-[42%_58%] short:!grid-cols-[1fr_400px] short:!grid-rows-1">
      <WaterMap
        label={msg('plan.map', { name: water.name })}
        contours={contours}
        unit={METRES_PER[unit]}
        cover={cover}
        places={places}
        chosen={sheet ? sheet.legs.findIndex((l) => l.id === chosen) + 1 || null : null}
        tracks={tracks}
        runs={runs}
        point={tab === 'spot' ? spotPoint : ramp ? metricPlane(epsg).toMetric(ramp) : null}
        goTo={tab === 'spot' ? spotPoint : goTo}
        goToReach={tab === 'spot' ? 55 : undefined}
        topRoom={50}
        onReady={setMap}
        onPick={(point, { place }) => pick(point, place)}
      >
        <p className="absolute left-3 top-3 max-w-[calc(100%-1.5rem)] rounded-box border border-line bg-surface px-3 py-2 max-md:left-2 max-md:top-2 max-md:py-1 max-md:text-sm">
          <b>{capital(term(species.name))}</b>, {dayInZone(conditions.at, zone)}
          <span className="block text-[13px] text-mute">
            {placing ? msg(`tapPlace.${placing}`) : tab === 'spot' ? msg('plan.tapSpot') : msg('plan.basis')}
          </span>
        </p>
      </WaterMap>
      <aside
        aria-label={msg('plan.plan')}
        className="flex min-h-0 flex-col border-l border-line bg-surface max-lg:border-l-0 max-lg:border-t short:!border-l short:!border-t-0"
      >
        <h1 className="sr-only">{msg('plan.plan')}</h1>
        <div className="px-3 pb-1.5 pt-2">
          <Segments<Tab>
            label={msg('plan.whatIsShown')}
            value={tab}
            options={[
              ['stops', msg('plan.runSheet')],
              ['passes', msg('plan.passes')],
              ['spot', msg('plan.comeIn')],
              ['reset', msg('plan.reset')],
            ]}
            onChange={setTab}
          />
          {done && (
            <p role="status" className="mt-1 text-sm">
              {done}
            </p>
          )}
        </div>
        <div className="min-h-0 flex-1 overflow-y-auto">
          {tab === 'stops' && (
            <>
              <DaySettings settings={settings} span={span} goal={goal} placing={placing} onChange={change} onPlace={setPlacing} />
              {need.bag && (
                <p className="num px-3 pt-2 text-sm" data-testid="bag-need">
                  {msg(need.bag.counted < need.bag.of ? 'plan.bagNeeds' : 'plan.bagFull', {
                    counted: need.bag.counted,
                    of: need.bag.of,
                    mass: need.bag.toBeat === null ? '' : formatMass(need.bag.toBeat),
                  })}
                </p>
              )}
              {!ramp && <p className="p-3 text-warn">{msg('plan.noRamp')}</p>}
              {failed && (
                <p role="alert" className="p-3 text-warn">
                  {failed.message}
                </p>
              )}
              {busy && !answer && <p className="p-3 text-mute">{msg('plan.planning')}</p>}
              <DayCautions settings={settings} span={span} />
              {sheet && (
                <>
                  {sheet.troubles.map((t) => (
                    <p key={t.code} className="px-3 pt-2 text-warn" data-testid="trouble">
                      {say({ ...t, values: typeof t.values.at === 'number' ? { ...t.values, at: clock(t.values.at) } : t.values })}
                    </p>
                  ))}
                  {span.stopsFrom > span.from && (
                    <p className="num flex items-center gap-2 px-3 pt-2">
                      <span className="min-w-0 flex-1">
                        <b>
                          {clock(span.from)}–{clock(span.stopsFrom)}
                        </b>{' '}
                        {msg('plan.scouting')}
                      </span>
                      <button type="button" className="btn btn-sm touch-target" onClick={() => setTab('passes')}>
                        {msg('plan.planPasses')}
                      </button>
                    </p>
                  )}
                  {sheet.legs.length > 0 && (
                    <>
                      <div className="flex flex-wrap items-center gap-2 px-3 py-2">
                        <p className="min-w-0 flex-1 text-lg font-bold leading-tight" data-testid="expected" aria-busy={busy}>
                          {answer?.spots.every((s) => s.chance === null)
                            ? msg('plan.noChance', { stops: sheet.legs.length })
                            : msg(bites ? 'plan.expectedBites' : 'plan.expected', {
                                expected: decimal(sheet.expected, 1),
                                stops: sheet.legs.length,
                              })}
                          <span className="num block text-[13px] font-normal text-mute">
                            {wayWords(
                              sheet.metres,
                              ways.length ? sheet.legs.reduce((s, l) => s + l.way.seconds, sheet.home?.way.seconds ?? 0) : 0,
                            )}
                            {settings.fuel && `, ${msg('plan.litres', { litres: decimal(sheet.litres, 1) })}`}
                          </span>
                        </p>
                        <button type="button" className="btn btn-primary touch-target" onClick={() => use(null, null)}>
                          {kept ? msg('plan.useAgain') : msg('plan.use')}
                        </button>
                        <button type="button" className="btn touch-target" onClick={gpx}>
                          <Download size={18} aria-hidden /> GPX
                        </button>
                      </div>
                      {settings.order.length > 0 && (
                        <p className="flex items-center gap-2 px-3 pb-1 text-sm">
                          {msg('plan.ownOrder')}
                          <button type="button" className="btn btn-sm touch-target ml-auto" onClick={() => change({ order: [] })}>
                            <Shuffle size={16} aria-hidden /> {msg('plan.bestOrder')}
                          </button>
                        </p>
                      )}
                      <StopList
                        legs={sheet.legs}
                        spotOf={spotOf}
                        zone={zone}
                        wishes={settings.wishes}
                        bites={bites}
                        stays={STAYS_OF[settings.stops]}
                        chosen={chosen}
                        onChoose={choose}
                        onOrder={(order) => change({ order })}
                        onWish={wish}
                        onDrop={dropped}
                      />
                      {sheet.home && (
                        <p className="num px-3 py-2 text-sm">
                          {msg('plan.home', {
                            arrive: clock(sheet.home.arrive),
                            way: wayWords(sheet.home.way.metres, sheet.home.way.seconds),
                          })}
                          {sheet.roughFrom !== null && (
                            <span className="text-warn"> {msg('plan.roughFrom', { at: clock(sheet.roughFrom) })}</span>
                          )}
                        </p>
                      )}
                      <details className="border-t border-line px-3 py-2">
                        <summary className="min-h-9 cursor-pointer py-1.5 font-semibold">
                          {msg('plan.leftOut', { n: sheet.leftOut.length })}
                        </summary>
                        <ul className="divide-y divide-line text-sm" data-testid="left-out">
                          {sheet.leftOut.map(({ id, says }) => (
                            <li key={id} className="flex items-center gap-2 py-1">
                              <span className="min-w-0 flex-1">
                                <b>{spotOf(id).name}</b> <span className="text-mute">{say(says)}</span>
                              </span>
                              <button
                                type="button"
                                className="btn btn-sm touch-target"
                                onClick={() =>
                                  change({ order: [], wishes: { ...settings.wishes, [id]: { ...settings.wishes[id], pinned: true } } })
                                }
                              >
                                {msg('plan.putIn')}
                              </button>
                            </li>
                          ))}
                        </ul>
                      </details>
                    </>
                  )}
                  {answer && (
                    <p className="num px-3 pt-1 text-[13px] text-mute" data-testid="learned">
                      {answer.learned
                        ? msg(answer.learned.willing === null ? 'plan.learnedPace' : 'plan.learned', {
                            stops: answer.learned.stops,
                            bites: answer.learned.bitten,
                            pace: Math.round(answer.learned.pace),
                            willing: percent(answer.learned.willing ?? 1),
                          })
                        : msg('plan.notLearned')}
                    </p>
                  )}
                  <p className="flex items-start gap-2 px-3 pb-4 pt-1 text-[13px] text-mute">
                    {here && <RotateCcw size={16} aria-hidden className="mt-0.5 shrink-0" />}
                    {msg(here ? 'plan.fromHere' : 'plan.defers')}
                  </p>
                </>
              )}
            </>
          )}
          {tab === 'passes' && (
            <PassesPanel
              worker={worker}
              water={request?.water ?? null}
              map={map}
              start={request?.start ?? null}
              contacts={contacts}
              scouting={settings.scouting}
              onPasses={setPasses}
              onUse={use}
            />
          )}
          {tab === 'spot' &&
            (spotPoint ? (
              <SpotPanel
                key={`${spotPoint[0]} ${spotPoint[1]}`}
                spot={
                  tapped
                    ? { id: '', name: '', depth: chart && waterAt(chart, tapped), chance: null, fishedDaysAgo: null }
                    : spotOf(chosen ?? sheet?.legs[0]?.id ?? '')
                }
                at={spotPoint}
                onDraw={setDrawing}
              />
            ) : (
              <p className="p-3 text-mute">{msg('plan.tapSpot')}</p>
            ))}
          {tab === 'reset' && <ResetPanel worker={worker} request={request} onUse={useThree} />}
        </div>
      </aside>
    </div>
  );
}
