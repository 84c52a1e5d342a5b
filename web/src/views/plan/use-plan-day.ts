import { useEffect, useMemo, useRef, useState } from 'react';
import { dayFor, groupProfiles, type Day } from '@restless-shoal/core/forecast';
import { metricPlane, type Point } from '@restless-shoal/core/geo';
import { weatherAt, type DayPlanAnswer, type DayPlanRequest, type OwnSpot, type StopBefore } from '@restless-shoal/core/passage';
import { useFit, useLogbook } from '../../api/queries';
import { useBoatState } from '../../state/boat';
import { useForecastInputs } from '../../state/forecast-inputs';
import { usePlan } from '../../state/use-plan';
import { useRunningTrip } from '../../state/running-trip';
import { useWaterState } from '../../state/water';
import { usePlanWorker } from '../../workers/use-plan-worker';
import { accessOf, boatOnWater } from './boat-on-water';
import { needOf } from './need';
import { spanOf, timesOf } from './span';
import { STAYS_OF, type PlanSettings } from './settings';

/** A day is looked at in half-hours, a long one in steps so long that there are no more than this. */
const [STEP, MOST_STEPS] = [30, 10];
/** While a finger drags or types, ms. */
const SETTLES = 120;

const NO_STOPS: StopBefore[] = [];

/** What plans a day: its inputs from the water, the Strip, the boat and the settings, and the answer of the thread. */
export function usePlanDay(settings: PlanSettings) {
  const { water, ground, chartBytes, conditions, day, frame, log, species, running } = useWaterState();
  const { source } = useBoatState();
  const fit = useFit(water.id, species.name);
  // Without a chart the water is planned by its outline alone; without a fit, or an answer about one, by the strategies.
  const bytes = fit.data === undefined && !fit.isError ? undefined : (fit.data?.bytes ?? null);
  const logbook = useLogbook(water.id);
  const { detail } = useRunningTrip();
  // The log as it was when the plan was opened: what this trip adds is handed over beside it.
  const [learnedFrom, setLearnedFrom] = useState<{ water: string; log: Uint8Array | null } | null>(null);
  if (learnedFrom?.water !== water.id && (logbook.data || logbook.isError))
    setLearnedFrom({ water: water.id, log: logbook.data?.value ?? null });
  const { worker, failed: notOpened } = usePlanWorker(chartBytes, bytes, learnedFrom?.water === water.id ? learnedFrom.log : undefined);
  const { earlier } = useForecastInputs();
  const listed = usePlan(water.id).data;
  const span = useMemo(
    () => spanOf(settings, conditions.at, water.time_zone, frame, running && Date.parse(running.start)),
    [settings, conditions.at, water.time_zone, frame, running],
  );
  const ramp = settings.ramp ?? accessOf(water.cover);
  // On the water it goes on from where the boat is.
  const here = running && source.boat ? source.boat.position : null;
  const hereKey = here ? `${here.latitude.toFixed(4)} ${here.longitude.toFixed(4)}` : '';
  const profiles = useMemo(() => groupProfiles(log.profiles), [log.profiles]);
  const need = useMemo(() => needOf(running, detail, water.species), [running, detail, water.species]);
  const goal = settings.goal ?? need.goal;
  const stops = detail?.stops;
  const today = useMemo((): StopBefore[] => {
    if (!ground || !stops?.length) return NO_STOPS;
    const plane = metricPlane(ground.epsg);
    return stops.map((s) => ({ at: plane.toMetric(s), end: Date.parse(s.end), boats: s.boats_near }));
  }, [stops, ground]);
  const request = useMemo((): DayPlanRequest | null => {
    if (!ground || !ramp) return null;
    const boat = boatOnWater(water, ground.epsg, settings);
    if (!boat) return null;
    const plane = metricPlane(ground.epsg);
    const end = plane.toMetric(settings.finish ?? ramp);
    const start = plane.toMetric(here ?? ramp);
    const from = span.stopsFrom;
    const minutes = (span.to - from) / 60_000;
    const step = STEP * Math.max(1, Math.ceil(minutes / STEP / MOST_STEPS));
    const steps = Math.max(1, Math.ceil(minutes / step));
    const days = Array.from({ length: steps }, (_, k): Day => {
      const at = new Date(from + (k + 0.5) * step * 60_000);
      const hour = weatherAt(settings.weather, at.getTime());
      const windFrom = hour.windFrom ?? conditions.windFrom;
      const windSpeed = hour.windSpeed ?? conditions.windSpeed;
      return dayFor({ ...conditions, at, windFrom, windSpeed }, frame, profiles);
    });
    return {
      water: boat,
      days,
      step,
      species,
      large: goal === 'size',
      earlier,
      own: (listed ?? []).map((p): OwnSpot => ({ id: p.id, at: plane.toMetric(p) })),
      start,
      end,
      from,
      to: span.to,
      stays: STAYS_OF[settings.stops],
      fuel: settings.fuel,
      waveLimit: settings.waveLimit,
      weather: settings.weather,
      rods: settings.rods,
      wishes: settings.wishes,
      times: timesOf(from, span.to, frame),
      today,
      known: water.species,
      order: settings.order,
      orderIsAll: settings.order.length > 0,
    };
    // The day itself changes with every second on the water: what is planned for follows from the span.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ground, water, settings, hereKey, ramp?.latitude, ramp?.longitude, span.stopsFrom, span.to, conditions.windFrom, conditions.windSpeed, conditions.surface, conditions.secchi, frame, profiles, species, goal, today, earlier, listed, day.level]); // prettier-ignore

  const [answer, setAnswer] = useState<DayPlanAnswer | null>(null);
  const [failed, setFailed] = useState<Error | null>(null);
  const [busy, setBusy] = useState(false);
  const latest = useRef(0);
  useEffect(() => {
    if (!worker || !request) return;
    const own = ++latest.current;
    setBusy(true);
    const timer = setTimeout(() => {
      worker.plan(request).then(
        (next) => {
          if (own !== latest.current) return;
          setAnswer(next);
          setFailed(null);
          setBusy(false);
        },
        (error: Error) => {
          if (own !== latest.current) return;
          setFailed(error);
          setBusy(false);
        },
      );
    }, SETTLES);
    return () => clearTimeout(timer);
  }, [worker, request]);
  return {
    request,
    answer,
    failed: failed ?? notOpened,
    busy: busy || (request !== null && !answer && !failed && !notOpened),
    worker,
    span,
    ramp,
    here,
    listed,
    goal,
    need,
  };
}

/** Metres of the plane as degrees, for what is kept and exported. */
export const toDegrees = (epsg: number, points: readonly Point[]): [number, number][] => {
  const plane = metricPlane(epsg);
  return points.map((p) => {
    const { longitude, latitude } = plane.toLatLon(p);
    return [Number(longitude.toFixed(6)), Number(latitude.toFixed(6))];
  });
};
