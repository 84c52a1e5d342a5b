import { Navigation, Route, X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { DayPlan } from '@restless-shoal/core/contract';
import { Link } from 'react-router';
import { isBite } from '@restless-shoal/core/logbook';
import { bearing, distance, metricPlane, type LatLon, type Point } from '@restless-shoal/core/geo';
import {
  chanceAtSimilar,
  Follower,
  SET_UP,
  stayOrLeave,
  UNKNOWN_CHANCE,
  type Following,
  type SpotOdds,
} from '@restless-shoal/core/passage';
import type { PlanPlace, StoredStop } from '../../api/queries';
import { clockInZone, compass } from '../../parts/format';
import type { Boat } from '../../state/use-boat';
import { deck as msg, formatDepth, formatLength, percent, say } from '../../words';
import type { OpenStop } from './use-stop';

/** A stop of the plan counts as fished when one was logged so near, m. */
const SAME_SPOT = 80;
/** Plans are of a day: older ones are not followed, ms. */
const FOLLOWED = 18 * 3_600_000;
/** From spot to spot, m/s: a judgement. */
const CRUISE = 9;
/** A spot nobody planned. */
const UNPLANNED: SpotOdds = { chance: UNKNOWN_CHANCE, bites: 1, pace: 8 };

type PlannedStop = DayPlan['stops'][number];

/** The plan that is followed now; none of another day. */
export const isToday = (plan: DayPlan | null | undefined, now: number): plan is DayPlan =>
  plan != null && plan.from - FOLLOWED / 3 < now && now < plan.to + FOLLOWED;

/** Stops of the plan that were not fished yet, in their order. */
export function openStops(plan: DayPlan, logged: readonly StoredStop[], left: readonly string[]): PlannedStop[] {
  const since = plan.made;
  return plan.stops.filter(
    (s) => !left.includes(s.id) && !logged.some((l) => Date.parse(l.end) >= Math.min(since, plan.from) && distance(l, s) <= SAME_SPOT),
  );
}

/** Chance at a stop of the plan after today's stops at others of its kind: a blank speaks against them, a bite for them. */
function chanceNow(stop: PlannedStop, plan: DayPlan, logged: readonly StoredStop[]): number {
  const tried = logged.flatMap((l) => {
    const at = plan.stops.find((s) => s.name === stop.name && s.id !== stop.id && distance(l, s) <= SAME_SPOT);
    if (!at || Date.parse(l.end) < Math.min(plan.made, plan.from) || l.outcome === null || l.outcome === 'unfishable') return [];
    const minutes = (Date.parse(l.end) - Date.parse(l.start)) / 60_000;
    return [{ sure: -Math.expm1(-Math.max(minutes, 1) / at.pace), held: l.outcome !== 'nothing' }];
  });
  return chanceAtSimilar(stop.chance, tried);
}

/** A stop of the plan as a place that the boat can go to. */
export const asPlace = ({ id, name, latitude, longitude, depth_m }: PlannedStop): PlanPlace => ({ id, name, latitude, longitude, depth_m, words: null }); // prettier-ignore

/** So many blanks in a row say that it is time to think anew. */
const BLANKS = 2;

/** Stops since the last one that gave something. */
export function blanksInARow(logged: readonly StoredStop[]): number {
  const ended = logged
    .filter((s) => s.outcome !== null && s.outcome !== 'unfishable')
    .sort((a, b) => Date.parse(b.end) - Date.parse(a.end));
  const first = ended.findIndex((s) => s.outcome !== 'nothing');
  return first < 0 ? ended.length : first;
}

/** After the last stop of a plan: the way to another. */
export function PlanOver() {
  return (
    <p className="flex w-full items-center gap-2 rounded-box border border-line bg-surface px-2 py-1 text-sm" data-testid="plan-over">
      <span className="min-w-0 flex-1">{msg('planLine.over')}</span>
      <Link to="/plan" className="btn btn-sm touch-target">
        {msg('planLine.replan')}
      </Link>
      <Link to="/plan?tab=reset" className="btn btn-sm touch-target">
        {msg('planLine.reset')}
      </Link>
    </p>
  );
}

/** The running plan on the Deck: the next stop and one button. */
export function PlanLine({
  next,
  number,
  from,
  zone,
  blanks,
  onGo,
  onSkip,
}: {
  next: PlannedStop;
  number: number;
  from: LatLon | null;
  zone: string | null;
  /** Blanks in a row: after some of them the line leads to what else could be tried. */
  blanks: number;
  onGo: () => void;
  onSkip: () => void;
}) {
  return (
    <section
      aria-label={msg('planLine.plan')}
      className="flex w-full items-center gap-2 rounded-box border border-line bg-surface px-2 py-1"
    >
      <span className="num grid size-7 shrink-0 place-items-center rounded-full border-2 border-ink text-sm font-bold">{number}</span>
      <Link
        to={blanks >= BLANKS ? '/plan?tab=reset' : '/plan'}
        className="min-w-0 flex-1 leading-tight"
        aria-label={msg('planLine.open', { name: next.name })}
      >
        <span className="block truncate font-semibold" data-testid="plan-line">
          {next.name}
          {next.depth_m !== null && <span className="num font-normal">, {formatDepth(next.depth_m)}</span>}
        </span>
        <span className="num block truncate text-xs text-mute">
          {from && `${formatLength(Math.round(distance(from, next)))} ${compass(bearing(from, next))} · `}
          {blanks >= BLANKS ? (
            <b className="text-warn">{msg('planLine.blanks', { blanks })}</b>
          ) : (
            `${clockInZone(new Date(next.arrive), zone)}–${clockInZone(new Date(next.leave), zone)}`
          )}
        </span>
      </Link>
      <button type="button" className="btn touch-target px-3" onClick={onGo}>
        <Navigation size={18} aria-hidden /> {msg('planSheet.go')}
      </button>
      <button
        type="button"
        className="btn btn-ghost touch-target px-2"
        aria-label={msg('planLine.skip', { name: next.name })}
        onClick={onSkip}
      >
        <X size={20} aria-hidden />
      </button>
    </section>
  );
}

/** Where the boat is on the passes of the plan, from fix to fix, also without a signal. */
export function useFollowing(plan: DayPlan | null, boat: Boat | null): Following | null {
  const key = plan?.passes ? plan.made : null;
  const run = useMemo(() => {
    const first = plan?.passes?.lines[0]?.[0];
    if (!first) return null;
    const [longitude, latitude] = first;
    const plane = metricPlane(32600 + (latitude < 0 ? 100 : 0) + Math.min(60, Math.floor((longitude + 180) / 6) + 1));
    const lines = plan.passes!.lines.map((line) => line.map(([x, y]): Point => plane.toMetric({ longitude: x, latitude: y })));
    // Where it was on them is remembered: the page may have been closed between.
    return { plane, follower: new Follower(lines, Number(localStorage.getItem(`pass ${plan.made}`) ?? 0)) };
    // The plan is the same as long as it was made at the same moment.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  const [now, setNow] = useState<Following | null>(null);
  const last = useRef(-1);
  useEffect(() => {
    if (!run || !boat) {
      setNow(null);
      return;
    }
    const found = run.follower.at(run.plane.toMetric(boat.position));
    if (found && found.line !== last.current) {
      last.current = found.line;
      localStorage.setItem(`pass ${key}`, String(found.line));
    }
    setNow(found);
  }, [run, boat, key]);
  return now;
}

/** Following search passes: how far off the line, what comes next, how much is done. */
export function FollowLine({ following, passes, onStop }: { following: Following; passes: number; onStop: () => void }) {
  const { line, off, toEnd, turn, done, finished } = following;
  const side =
    Math.abs(off) < 1
      ? msg('planLine.onLine')
      : msg(off > 0 ? 'planLine.toStarboard' : 'planLine.toPort', { distance: Math.abs(Math.round(off)) });
  return (
    <section
      aria-label={msg('planLine.passes')}
      className="flex w-full items-center gap-2 rounded-box border-2 border-act bg-surface px-2 py-1"
    >
      <Route size={28} className="shrink-0 text-act" aria-hidden />
      <div className="min-w-0 flex-1 leading-tight">
        <p className="num font-semibold" data-testid="follow">
          {finished ? msg('planLine.finished') : side}
        </p>
        <p className="num truncate text-xs text-mute">
          {msg('planLine.pass', { pass: line + 1, passes, done: percent(done) })}
          {!finished &&
            turn !== null &&
            ` · ${msg(turn >= 0 ? 'planLine.turnStarboard' : 'planLine.turnPort', { distance: Math.round(toEnd), angle: Math.abs(Math.round(turn)) })}`}
        </p>
      </div>
      <button type="button" className="btn btn-ghost touch-target px-2" aria-label={msg('planLine.stopFollowing')} onClick={onStop}>
        <X size={20} aria-hidden />
      </button>
    </section>
  );
}

/** Whether to stay at the stop that is fished, with the reason. */
export function StayLine({
  open,
  plan,
  rest,
  logged,
  now,
}: {
  open: OpenStop;
  plan: DayPlan | null;
  rest: PlannedStop[];
  logged: readonly StoredStop[];
  now: number;
}) {
  if (!plan) return null;
  const here = plan.stops.find((s) => distance(s, open.stop) <= SAME_SPOT);
  const odds: SpotOdds = here ? { chance: chanceNow(here, plan, logged), bites: here.brings, pace: here.pace } : UNPLANNED;
  const others = rest
    .filter((s) => s !== here)
    .map((s) => ({
      chance: chanceNow(s, plan, logged),
      bites: s.brings,
      pace: s.pace,
      travel: distance(open.stop, s) / CRUISE / 60 + SET_UP,
    }));
  if (!others.length) return null;
  const bites = open.responses.filter((r) => isBite(r.response)).length;
  // The pace of the plan counts all rods already.
  const answer = stayOrLeave(
    odds,
    { minutes: open.elapsed / 60_000, rods: 1, scans: 0, detection: 0, bites },
    others,
    Math.max(0, (plan.to - now) / 60_000),
  );
  return (
    <p className={`text-sm leading-snug ${answer.advice === 'leave' ? 'font-semibold' : ''}`} data-testid="stay">
      {bites === 0 && <span className="num text-mute">{msg('planLine.thereStill', { chance: percent(answer.chance) })} </span>}
      {say(answer.reason)}
    </p>
  );
}
