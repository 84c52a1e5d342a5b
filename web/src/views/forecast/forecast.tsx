import { useCallback, useEffect, useMemo, useState } from 'react';
import type { Place, Reason, ScoreCard } from '@restless-shoal/core/forecast';
import { CELL, cellKey, cellOf, metricPlane, type Point } from '@restless-shoal/core/geo';
import { clockInZone, dayInZone, grouped } from '../../parts/format';
import { NoChart } from '../../parts/no-chart';
import { PositionField } from '../../parts/position-field';
import { Segments } from '../../parts/segments';
import { WaterMap } from '../../parts/water-map';
import { useCellIndex } from '../../state/forecast-inputs';
import { useNarrow } from '../../state/narrow';
import { useWaterState } from '../../state/water';
import type { ForecastAnswer } from '../../workers/forecast.worker';
import { useContours } from '../../workers/use-contours';
import { useForecastService } from '../../workers/forecast-service';
import { CellSheet, type CellView } from './cell-sheet';
import { FitButton } from './fit-button';
import { Files, ForecastTools, momentWords, type Kept } from './forecast-tools';
import { ChangeLegend, fullChance, Legend } from './legend';
import { PlaceRow } from './place-row';
import { ScorePanel } from './score-panel';
import { useForecast } from './use-forecast';
import { METRES_PER } from '../../parts/format';
import { useUnits } from '../../state/units';
import { forecast as msg, capital, term } from '../../words';

const NO_PLACES: Place[] = [];

/** Pins on a small map. */
const PINS = 5;
/** The rival that came nearest to the fit, or passed it. */
const nearestWords = ({ nearest }: ScoreCard): string =>
  nearest === 'strategies' ? msg('forecast.theStrategies') : msg('forecast.theSameChanceEverywhere');

/** What the chances rest on. @param logged whether the water has a log, fitted or not */
function basisWords({ looks, trips, contacts, borrowed }: ForecastAnswer, strategiesOnly: boolean, logged: boolean): string {
  const own = looks
    ? msg('forecast.fromTripsLooksContacts', { trips, looks: grouped(looks), contacts: grouped(contacts) })
    : msg('forecast.noLogHereYet');
  if (borrowed)
    return msg('forecast.startedFromTripsContacts', {
      own,
      water: borrowed.water,
      trips: borrowed.trips,
      contacts: grouped(borrowed.contacts),
    });
  if (looks) return own;
  if (strategiesOnly) return msg('forecast.fromTheStrategiesAlone');
  return logged ? msg('forecast.fromTheStrategiesAlone2') : msg('forecast.fromTheStrategiesAlone3');
}

/** Where the species will hold, how deep, how sure, and why. */
export function ForecastView() {
  const { chart, chartBytes, water, species, conditions, day, log, running, setWhatIf } = useWaterState();
  const { service, failed: broken } = useForecastService(chartBytes);
  const { depth: unit } = useUnits();
  const contours = useContours(service, day.level, METRES_PER[unit]);
  // A trip after fish of a size asks for those until told otherwise.
  const [askedLarge, setAskedLarge] = useState<boolean | null>(null);
  const wantsLarge = askedLarge ?? (running?.goal === 'size' || running?.goal === 'best');
  const {
    answer,
    fit,
    failed: notAnswered,
    refit,
    cancel,
    progress,
    scores,
    strategiesOnly,
    setFitAnyway,
    today,
  } = useForecast(service, wantsLarge);
  const failed = broken ?? notAnswered;
  const cellIndex = useCellIndex();
  const [chosen, setChosen] = useState<number | null>(null);
  const [picked, setPicked] = useState<CellView | null>(null);
  const [reasons, setReasons] = useState<Reason[]>([]);
  const [goTo, setGoTo] = useState<Point | null>(null);
  const [kept, setKept] = useState<Kept | null>(null);
  const [list, setList] = useState<'best' | 'teach'>('best');

  const full = useMemo(() => (answer ? fullChance(answer.forecast.probability) : 0.1), [answer]);
  const change = useMemo(
    () =>
      answer && kept?.probability.length === answer.forecast.probability.length
        ? answer.forecast.probability.map((p, i) => p - kept.probability[i])
        : null,
    [answer, kept],
  );
  const fullChange = useMemo(() => (change ? fullChance(change.map(Math.abs)) : 0.1), [change]);
  const chance = useMemo(
    () => answer && (change ? { ...answer.forecast, full: fullChange, change } : { ...answer.forecast, full }),
    [answer, full, change, fullChange],
  );
  // What is best to scout is known only with the log.
  const listed = !answer ? NO_PLACES : list === 'best' ? answer.places : answer.logKnown ? answer.teach : NO_PLACES;
  // On a small map twenty pins would lie on each other: the list leads, and the one chosen in it is shown.
  const narrow = useNarrow();
  const places = useMemo(
    () => listed.map((p, i) => ({ number: i + 1, x: p.x, y: p.y })).filter(({ number }) => !narrow || number <= PINS || number === chosen),
    [listed, narrow, chosen],
  );
  // Another species or water is no change of this one.
  useEffect(() => setKept(null), [species.name, water.id, wantsLarge]);

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
    if (picked && service && answer)
      service.reasons(answer, picked.cell).then(
        (r) => {
          if (!gone) setReasons(r);
        },
        // That the thread broke is said by the forecast itself.
        () => undefined,
      );
    return () => {
      gone = true;
    };
  }, [picked, service, answer]);

  if (!chart) return <NoChart needs={msg('forecast.theForecastNeedsDepths')} />;
  const choose = (number: number): void => {
    setChosen(number);
    setPicked(null);
    const place = listed[number - 1];
    setGoTo([place.x, place.y]);
  };
  return (
    <div className="grid h-full grid-cols-[1fr_396px] grid-rows-[minmax(0,1fr)_auto] max-lg:grid-cols-1 max-lg:grid-rows-[55%_45%_auto] max-lg:overflow-y-auto">
      <WaterMap
        label={msg('forecast.forecastForOn', { name: term(species.name), name2: water.name })}
        contours={contours}
        unit={METRES_PER[unit]}
        topRoom={80}
        bottomRoom={25}
        chance={chance}
        places={places}
        chosen={chosen}
        point={picked?.point ?? null}
        goTo={goTo}
        onPick={(point, { place }) => (place ? choose(place) : pick(point))}
      >
        <div className="absolute left-3 top-3 flex max-w-[calc(100%-1.5rem)] flex-col items-start gap-2 max-md:left-2 max-md:top-2 max-md:max-w-[calc(100%-1rem)] max-md:gap-1">
          <div className="flex flex-wrap items-center gap-2">
            <p className="rounded-box border border-line bg-surface px-3 py-2 max-md:px-2 max-md:py-1 max-md:text-sm">
              <b>{capital(term(species.name))}</b>: {msg('forecast.chanceThatOneScan', { cell: CELL })}{' '}
              {answer?.large ? msg('forecast.aLargeOne') : msg('forecast.one')}
              <span className="block text-sm text-mute max-md:text-xs" data-testid="basis">
                {answer ? basisWords(answer, strategiesOnly, log.trips.length > 0) : msg('forecast.computing')}
                {' · '}
                {dayInZone(conditions.at, water.time_zone)} {clockInZone(conditions.at, water.time_zone)}
              </span>
            </p>
            {answer?.sizes && (
              <div className="w-64 rounded-box bg-surface">
                <Segments
                  label={msg('forecast.sizeOfFish')}
                  value={wantsLarge}
                  options={[
                    [false, msg('forecast.anySize')],
                    [true, msg('forecast.largeOf', { large: Math.round(answer.sizes.large), sized: Math.round(answer.sizes.sized) })],
                  ]}
                  onChange={setAskedLarge}
                />
              </div>
            )}
          </div>
          <div className="flex flex-wrap items-center gap-2 max-md:gap-1">
            <ForecastTools
              answer={answer}
              kept={kept}
              onKeep={(tomorrow) => {
                setKept({ probability: answer!.forecast.probability, words: momentWords(conditions, water.time_zone) });
                if (tomorrow) setWhatIf({ at: new Date(conditions.at.getTime() + 86_400_000) });
              }}
              onDrop={() => setKept(null)}
            />
            <FitButton
              stale={fit?.stale ?? false}
              fitted={fit != null}
              progress={progress}
              onRefit={() => void refit()}
              onCancel={() => void cancel()}
            />
          </div>
          {scores?.verdict === 'worse' && (
            <p role="alert" className="max-w-[34rem] rounded-box border-2 border-warn bg-surface px-3 py-2" data-testid="worse">
              <b>{msg('forecast.testedOnUnseenTrips', { scores: nearestWords(scores) })}</b>{' '}
              {strategiesOnly ? msg('forecast.showingTheStrategies') : msg('forecast.showingWhatTheLog')}{' '}
              <button type="button" className="btn btn-sm ml-1" onClick={() => setFitAnyway(strategiesOnly)}>
                {strategiesOnly ? msg('forecast.showTheLogAnyway') : msg('forecast.showTheStrategies')}
              </button>
            </p>
          )}
          {scores?.verdict === 'not told apart' && (
            <p className="rounded-box border border-line bg-surface px-3 py-1.5 text-sm" data-testid="untold">
              {msg('forecast.testedOnUnseenTrips2', { scores: nearestWords(scores) })}
            </p>
          )}
          {failed && (
            <p role="alert" className="rounded-box border border-warn bg-surface px-3 py-2 text-warn">
              {failed.message}
            </p>
          )}
        </div>
        {picked && answer && <CellSheet view={picked} answer={answer} reasons={reasons} onClose={() => setPicked(null)} />}
        <div className={`absolute bottom-3 left-3 rounded-box border border-line bg-surface px-3 pt-2 ${picked ? 'hidden' : ''}`}>
          {change ? <ChangeLegend full={fullChange} /> : <Legend full={full} />}
        </div>
      </WaterMap>
      <aside
        aria-label={msg('forecast.bestPlaces')}
        className="flex min-h-0 flex-col border-l border-line bg-surface max-lg:border-l-0 max-lg:border-t"
      >
        <div className="px-3.5 pb-1.5 pt-2">
          <h1 className="sr-only">{msg('forecast.places')}</h1>
          <Segments<'best' | 'teach'>
            label={msg('forecast.whichPlaces')}
            value={list}
            options={[
              ['best', msg('forecast.bestPlaces2', { answer: answer ? `, ${answer.places.length}` : '' })],
              ['teach', msg('forecast.bestToScout')],
            ]}
            onChange={(l) => {
              setList(l);
              setChosen(null);
            }}
          />
          <div className="flex items-center justify-between gap-2 text-sm">
            <Files answer={answer} />
            <p className="whitespace-nowrap text-right text-[13px] text-mute">
              {list === 'best' ? msg('forecast.chancePerScanInterval') : msg('forecast.neverLookedAtFor')}
            </p>
          </div>
          {list === 'best' && listed[0]?.fishing === null && (
            <p className="text-[13px] text-mute">{msg('forecast.notEnoughFishingLogged')}</p>
          )}
        </div>
        <ol
          className="min-h-0 flex-1 overflow-y-auto border-t border-line"
          data-testid="places"
          tabIndex={0}
          aria-label={list === 'best' ? msg('forecast.bestPlacesBestFirst') : msg('forecast.placesBestToScout')}
        >
          {listed.map((place, i) => (
            <PlaceRow
              key={place.cell}
              place={place}
              number={i + 1}
              chosen={chosen === i + 1}
              today={place.cells.some((c) => today.has(c))}
              logKnown={answer?.logKnown ?? false}
              onChoose={() => choose(i + 1)}
            />
          ))}
        </ol>
        <div className="border-t border-line p-3">
          <PositionField
            label={msg('forecast.lookAtAPosition')}
            button={msg('forecast.whyHere')}
            onPosition={(position) => {
              const p = metricPlane(chart.epsg).toMetric(position);
              pick(p);
              setGoTo(p);
            }}
          />
        </div>
      </aside>
      <ScorePanel scores={scores} />
    </div>
  );
}
