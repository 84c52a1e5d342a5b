import { useEffect, useMemo, useRef, useState } from 'react';
import { dayFor, groupProfiles, type Day } from '@restless-shoal/core/forecast';
import { metricPlane, type LatLon, type Point } from '@restless-shoal/core/geo';
import { lowLight } from '@restless-shoal/core/lake';
import { USUAL_PACE, weatherAt, type OwnSpot } from '@restless-shoal/core/passage';
import { useFit } from '../../api/queries';
import { toLocalInput, fromLocalInput } from '../../parts/format';
import { useBoatState } from '../../state/boat';
import { useForecastInputs } from '../../state/forecast-inputs';
import { usePlan } from '../../state/use-plan';
import { useWaterState } from '../../state/water';
import { usePlanWorker } from '../../workers/use-plan-worker';
import type { PlanAnswer, PlanRequest } from '../../workers/plan.worker';
import { accessOf, boatOnWater } from './boat-on-water';
import { STAYS_OF, type PlanSettings } from './settings';

const HOUR = 3_600_000;
const STEP = 30;
/** Longer days are looked at in half-hours all the same, but no more of them than this. */
const MOST_STEPS = 48;
/** While a finger drags or types, ms. */
const SETTLES = 120;

/** The day that is planned, in the water's time. */
export interface PlannedSpan {
  /** ms */
  from: number;
  to: number;
  /** As they stand in the fields. */
  fromClock: string;
  toClock: string;
}

/** From dawn to six hours later, unless said otherwise; on the water from now on. */
export function spanOf({ from, to }: PlanSettings, at: Date, zone: string | null, place: LatLon, running: boolean): PlannedSpan {
  const day = toLocalInput(at, zone).slice(0, 10);
  const clock = (ms: number): string => toLocalInput(new Date(ms), zone).slice(11, 16);
  const dawn = lowLight(at, place.latitude, place.longitude).windows.find((w) => w.name === 'dawn');
  const first = running ? at.getTime() : (dawn?.from.getTime() ?? at.getTime());
  const begins = from === null ? Math.round(first / 300_000) * 300_000 : (fromLocalInput(`${day}T${from}`, zone)?.getTime() ?? first);
  const ends = to === null ? begins + 6 * HOUR : (fromLocalInput(`${day}T${to}`, zone)?.getTime() ?? begins);
  return { from: begins, to: ends, fromClock: from ?? clock(begins), toClock: to ?? clock(ends) };
}

/** What plans a day: its inputs from the water, the Strip, the boat and the settings, and the answer of the thread. */
export function usePlanDay(settings: PlanSettings) {
  const { water, ground, chartBytes, conditions, day, frame, log, species, running } = useWaterState();
  const { source } = useBoatState();
  const fit = useFit(water.id, species.name);
  // Without a chart the water is planned by its outline alone; without a fit, or an answer about one, by the strategies.
  const bytes = fit.data === undefined && !fit.isError ? undefined : (fit.data?.bytes ?? null);
  const { worker, failed: notOpened } = usePlanWorker(chartBytes, bytes);
  const { earlier } = useForecastInputs();
  const listed = usePlan(water.id).data;
  const span = useMemo(
    () => spanOf(settings, conditions.at, water.time_zone, frame, running !== null),
    [settings, conditions.at, water.time_zone, frame, running],
  );
  const ramp = settings.ramp ?? accessOf(water.cover);
  // On the water it goes on from where the boat is.
  const here = running && source.boat ? source.boat.position : null;
  const hereKey = here ? `${here.latitude.toFixed(4)} ${here.longitude.toFixed(4)}` : '';
  const profiles = useMemo(() => groupProfiles(log.profiles), [log.profiles]);
  const request = useMemo((): PlanRequest | null => {
    if (!ground || !ramp) return null;
    const boat = boatOnWater(water, ground.epsg, settings);
    if (!boat) return null;
    const plane = metricPlane(ground.epsg);
    const end = plane.toMetric(ramp);
    const start = here ? plane.toMetric(here) : end;
    const steps = Math.min(MOST_STEPS, Math.max(1, Math.ceil((span.to - span.from) / (STEP * 60_000))));
    const days = Array.from({ length: steps }, (_, k): Day => {
      const at = new Date(span.from + (k + 0.5) * STEP * 60_000);
      const hour = weatherAt(settings.weather, at.getTime());
      const windFrom = hour.windFrom ?? conditions.windFrom;
      const windSpeed = hour.windSpeed ?? conditions.windSpeed;
      return dayFor({ ...conditions, at, windFrom, windSpeed }, frame, profiles);
    });
    return {
      water: boat,
      days,
      step: STEP,
      species,
      large: settings.goal === 'size' || (settings.goal === null && (running?.goal === 'size' || running?.goal === 'best')),
      earlier,
      own: (listed ?? []).map((p): OwnSpot => ({ id: p.id, at: plane.toMetric(p) })),
      start,
      end,
      from: span.from,
      to: span.to,
      stays: STAYS_OF[settings.stops],
      fuel: settings.fuel,
      waveLimit: settings.waveLimit,
      weather: settings.weather,
      brings: { bites: 1, pace: USUAL_PACE / Math.max(1, settings.rods) },
      more: settings.more,
      order: settings.order,
      orderIsAll: settings.order.length > 0,
    };
    // The day itself changes with every second on the water: what is planned for follows from the span.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ground, water, settings, hereKey, ramp?.latitude, ramp?.longitude, span.from, span.to, conditions.windFrom, conditions.windSpeed, conditions.surface, conditions.secchi, frame, profiles, species, running?.goal, earlier, listed, day.level]); // prettier-ignore

  const [answer, setAnswer] = useState<PlanAnswer | null>(null);
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
