import type { Point } from '../geo';
import { statement, type Statement } from '../statements';
import { bestRoute, gainOf, STAYS, timed, type RouteLeg, type RouteProblem } from './orienteering';
import { NavigableWater } from './navigable';
import { homeRoughFrom, roughness, type Sea, type WindBy } from './sea';
import { WaysFrom, WaysKnown, type Way } from './ways';

/** A spot that may be put on a run sheet. */
export interface SheetSpot {
  id: string;
  at: Point;
  /** Chance that the target species is there, by time: one value each `step` minutes from the start. */
  chance: ArrayLike<number>;
  /** What it brings if it is there and one stays long, in bites or contacts. */
  brings: number;
  /** Minutes in which 63 % of that come. */
  pace: number;
  /** ms; null: any time. */
  opens: number | null;
  closes: number | null;
  pinned: boolean;
  /** Minutes to stay; null: as is best. */
  stay: number | null;
}

export interface SheetFuel {
  /** Litres an hour from spot to spot. */
  cruise: number;
  /** What may be burnt, reserve kept, litres. */
  most: number;
}

export interface SheetInputs {
  spots: SheetSpot[];
  /** Ways are looked for on these, the coarser first. */
  waters: NavigableWater[];
  start: Point;
  /** The ramp, or the weigh-in. */
  end: Point;
  /** ms */
  from: number;
  to: number;
  /** Minutes of `chance` a value. */
  step: number;
  stays?: readonly number[];
  fuel: SheetFuel | null;
  /** The skipper's limit, m; null: none is set. */
  waveLimit: number | null;
  sea: Sea | null;
  wind: WindBy;
  /** Ways found for an earlier sheet: those that still hold are not looked for again. */
  known?: WaysKnown;
  /** Spots that come first, by id; with `order` the whole order is given. */
  order?: readonly string[];
  /** Whether the order given is all there is, and only stays are found. */
  orderIsAll?: boolean;
}

export type SheetTrouble =
  | 'sheet.end-before-start'
  | 'sheet.start-on-land'
  | 'sheet.end-on-land'
  | 'sheet.no-way-home'
  | 'sheet.no-spots'
  | 'sheet.none-fits'
  | 'sheet.pinned-out'
  | 'sheet.no-wind'
  | 'sheet.uncharted'
  | 'sheet.home-rough';

export type LeftOutCode = 'left-out.no-way' | 'left-out.too-far' | 'left-out.window' | 'left-out.less' | 'left-out.fuel';

export interface SheetLeg {
  id: string;
  way: Way;
  /** ms */
  depart: number;
  arrive: number;
  leave: number;
  stay: number;
  waits: number;
  /** Expected bites or contacts. */
  expected: number;
  /** Highest waves on the way, m; null where no wind is known. */
  waves: number | null;
  litres: number;
}

export interface RunSheet {
  legs: SheetLeg[];
  home: { way: Way; depart: number; arrive: number; waves: number | null; litres: number } | null;
  expected: number;
  litres: number;
  metres: number;
  leftOut: { id: string; says: Statement<LeftOutCode> }[];
  /** From when on the way home from the last stop has waves above the limit, ms; null: not that day, or unknown. */
  roughFrom: number | null;
  troubles: Statement<SheetTrouble>[];
}

const MINUTE = 60_000;
/** To come in, set up and make ready to go again at each stop, minutes: a judgement. */
export const SET_UP = 5;
const NOTHING: Omit<RunSheet, 'troubles'> = { legs: [], home: null, expected: 0, litres: 0, metres: 0, leftOut: [], roughFrom: null };

/**
 * The run sheet of a day: which spots, in which order, how long at each, with ways by water, times, waves and fuel; what is left out
 * and what that costs. What is missing is said, and what can be planned without it is.
 */
export function runSheet(inputs: SheetInputs, seed = 1): RunSheet {
  const { spots, waters, start, end, from, to, sea, wind, waveLimit, fuel } = inputs;
  const troubles: Statement<SheetTrouble>[] = [];
  const failed = (code: SheetTrouble): RunSheet => ({ ...NOTHING, troubles: [...troubles, statement(code)] });
  if (!(to > from)) return failed('sheet.end-before-start');
  if (!spots.length) return failed('sheet.no-spots');
  const finest = waters[waters.length - 1];
  if (!new WaysFrom(finest, start, null, start).afloat) return failed('sheet.start-on-land');
  if (!new WaysFrom(finest, end, null, end).afloat) return failed('sheet.end-on-land');
  if (finest.uncharted > 0.2) troubles.push(statement('sheet.uncharted', { share: finest.uncharted }));
  const middle = wind((from + to) / 2);
  if (!middle) troubles.push(statement('sheet.no-wind'));
  const places = [...spots.map((s) => s.at), start, end];
  const ways = waysOf(inputs, places, middle);
  const n = spots.length;
  if (!ways[n][n + 1]) return failed('sheet.no-way-home');
  const problem = problemOf(inputs, ways);
  const route = inputs.orderIsAll ? inOrder(problem, inputs) : bestRoute(problem, seed);
  const found = timed(problem, route);
  if (!found || !route.length) {
    const leftOut = spots.map((spot, i) => ({ id: spot.id, says: whyLeftOut(problem, ways, [], i) }));
    return { ...NOTHING, leftOut, troubles: [...troubles, statement('sheet.none-fits')] };
  }
  const at = (minutes: number): number => from + minutes * MINUTE;
  const waves = (way: Way, when: number): number | null => {
    const w = wind(when);
    return sea && w ? sea.along(way.points, w.from, (w.speed + w.gust) / 2) : null;
  };
  const litresOf = (way: Way): number => (fuel ? (fuel.cruise * way.seconds) / 3600 : 0);
  let before = n;
  const legs = found.legs.map((leg): SheetLeg => {
    const way = ways[before][leg.stop]!;
    before = leg.stop;
    const depart = at(leg.arrive - leg.waits - leg.travel);
    return {
      id: spots[leg.stop].id,
      way,
      depart,
      arrive: at(leg.arrive),
      leave: at(leg.leave),
      stay: leg.stay,
      waits: leg.waits,
      expected: leg.gain,
      waves: waves(way, depart),
      litres: litresOf(way),
    };
  });
  const back = ways[before][n + 1]!;
  const depart = legs.length ? legs[legs.length - 1].leave : from;
  const home = { way: back, depart, arrive: depart + back.seconds * 1000, waves: waves(back, depart), litres: litresOf(back) };
  const roughFrom = sea && waveLimit !== null ? homeRoughFrom(sea, back, wind, from, to + 3 * 60 * MINUTE, waveLimit) : null;
  if (roughFrom !== null && roughFrom <= home.arrive) troubles.push(statement('sheet.home-rough', { at: roughFrom, limit: waveLimit! }));
  const on = new Set(route.map((l) => l.stop));
  if (spots.some((s, i) => s.pinned && !on.has(i))) troubles.push(statement('sheet.pinned-out'));
  return {
    legs,
    home,
    expected: found.gain,
    litres: legs.reduce((s, l) => s + l.litres, home.litres),
    metres: legs.reduce((s, l) => s + l.way.metres, home.way.metres),
    leftOut: spots.flatMap((spot, i) => (on.has(i) ? [] : [{ id: spot.id, says: whyLeftOut(problem, ways, route, i) }])),
    roughFrom,
    troubles,
  };
}

/** Ways between all places: on the coarse grid, and on finer ones where that has none. */
function waysOf(
  { waters, sea, waveLimit, known = new WaysKnown() }: SheetInputs,
  places: Point[],
  wind: { from: number; speed: number; gust: number } | null,
): (Way | null)[][] {
  known.holdFor(waters, sea && wind && waveLimit !== null ? [wind.from, wind.speed, wind.gust, waveLimit].join(' ') : '');
  const rough = waters.map((water) => {
    if (!sea || waveLimit === null || !wind) return null;
    const extra = roughness(sea, (k) => water.centre(k), water.open.length, (k) => water.open[k] === 1, { from: wind.from, speed: (wind.speed + wind.gust) / 2 }, waveLimit); // prettier-ignore
    return extra.some((e) => e > 0) ? extra : null;
  });
  const out: (Way | null)[][] = places.map(() => places.map(() => null));
  places.forEach((place, i) => {
    const from = (w: number): WaysFrom => known.from(w, place, () => new WaysFrom(waters[w], place, rough[w]));
    const coarse = from(0);
    out[i][i] = { points: [place], metres: 0, seconds: 0 };
    for (let j = i + 1; j < places.length; j++) {
      let way = coarse.to(places[j]);
      for (let w = 1; !way && w < waters.length; w++) way = from(w).to(places[j]);
      out[i][j] = way;
      out[j][i] = way && { ...way, points: way.points.toReversed() };
    }
  });
  return out;
}

function problemOf({ spots, from, to, step, stays = STAYS, fuel, order }: SheetInputs, ways: (Way | null)[][]): RouteProblem {
  const minutes = (ms: number): number => (ms - from) / MINUTE;
  const seconds = (way: Way | null): number => way?.seconds ?? Infinity;
  return {
    stops: spots.map((s) => ({
      worth: Float64Array.from(s.chance, (c) => c * s.brings),
      pace: s.pace,
      opens: s.opens === null ? 0 : Math.max(0, minutes(s.opens)),
      closes: s.closes === null ? Infinity : minutes(s.closes),
      pinned: s.pinned,
      stay: s.stay,
    })),
    step,
    // Whoever goes to a stop also sets up there; the ramp, the last of the row, is none.
    travel: ways.map((row) => Float64Array.from(row, (way, to) => seconds(way) / 60 + (to < spots.length ? SET_UP : 0))),
    fuel: fuel && { use: ways.map((row) => Float64Array.from(row, (way) => (fuel.cruise * seconds(way)) / 3600)), most: fuel.most },
    length: minutes(to),
    stays,
    first: (order ?? []).map((id) => spots.findIndex((s) => s.id === id)).filter((i) => i >= 0),
  };
}

/** All spots of the order that is given, as far as they fit, with the stays that bring most. */
function inOrder(problem: RouteProblem, { order = [], spots }: SheetInputs): RouteLeg[] {
  const chosen = order.map((id) => spots.findIndex((s) => s.id === id)).filter((i) => i >= 0);
  const staysOf = (i: number): readonly number[] => (problem.stops[i].stay === null ? problem.stays : [problem.stops[i].stay!]);
  let route: RouteLeg[] = [];
  for (const stop of chosen) {
    const next = [...route, { stop, stay: staysOf(stop)[0] }];
    if (timed(problem, next)) route = next;
  }
  // A step longer wherever that brings most for its minutes, while there is time.
  for (;;) {
    const now = timed(problem, route)?.gain ?? 0;
    let best: { rate: number; route: RouteLeg[] } | null = null;
    route.forEach((leg, i) => {
      const stays = staysOf(leg.stop);
      const longer = stays[stays.indexOf(leg.stay) + 1];
      if (longer === undefined) return;
      const next = route.map((l, k) => (k === i ? { ...l, stay: longer } : l));
      const gain = timed(problem, next)?.gain;
      if (gain === undefined || gain <= now) return;
      const rate = (gain - now) / (longer - leg.stay);
      if (!best || rate > best.rate) best = { rate, route: next };
    });
    if (!best) return route;
    route = (best as { route: RouteLeg[] }).route;
  }
}

/** Why a spot is not on a route, and what it would cost to have it on it. */
function whyLeftOut(problem: RouteProblem, ways: (Way | null)[][], route: readonly RouteLeg[], stop: number): Statement<LeftOutCode> {
  const n = problem.stops.length;
  const there = ways[n][stop];
  const back = ways[stop][n + 1];
  if (!there || !back) return statement('left-out.no-way');
  const least = problem.stops[stop].stay ?? problem.stays[0];
  const alone = (there.seconds + back.seconds) / 60 + least;
  if (alone > problem.length) return statement('left-out.too-far', { minutes: alone });
  if (there.seconds / 60 > problem.stops[stop].closes || problem.stops[stop].opens + least + back.seconds / 60 > problem.length)
    return statement('left-out.window');
  if (problem.fuel && problem.fuel.use[n][stop] + problem.fuel.use[stop][n + 1] > problem.fuel.most) return statement('left-out.fuel');
  const now = timed(problem, route)?.gain ?? 0;
  return statement('left-out.less', { cost: Math.max(0, now - withStop(problem, route, stop)), own: bestAlone(problem, stop) });
}

const bestAlone = (problem: RouteProblem, stop: number): number =>
  gainOf(problem.stops[stop], problem.step, problem.travel[problem.stops.length][stop], problem.stays[problem.stays.length - 1]);

/** A stop more is tried at so many places of a row: those of the least detour. */
const INSERTED = 5;

/** The most that a route brings with one more stop on it, others shortened or left out where that loses least a minute, until it fits. */
function withStop(problem: RouteProblem, route: readonly RouteLeg[], stop: number): number {
  let best = 0;
  const { travel } = problem;
  const n = problem.stops.length;
  const detour = (at: number): number => {
    const [before, after] = [at ? route[at - 1].stop : n, at < route.length ? route[at].stop : n + 1];
    return travel[before][stop] + travel[stop][after] - travel[before][after];
  };
  const first = problem.first?.length ?? 0;
  const places = Array.from({ length: Math.max(0, route.length + 1 - first) }, (_, k) => first + k)
    .sort((a, b) => detour(a) - detour(b))
    .slice(0, INSERTED);
  const stays = problem.stops[stop].stay === null ? problem.stays : [problem.stops[stop].stay];
  for (const at of places)
    for (const stay of stays) best = Math.max(best, madeToFit(problem, [...route.slice(0, at), { stop, stay }, ...route.slice(at)], stop));
  return best;
}

/** What a route brings once it fits into the day. @param keep the stop that stays on it */
function madeToFit(problem: RouteProblem, route: RouteLeg[], keep: number): number {
  const { stops, travel, step, stays } = problem;
  const n = stops.length;
  for (let legs = route; ;) {
    const found = timed(problem, legs);
    if (found) return found.gain;
    let best: { rate: number; legs: RouteLeg[] } | null = null;
    let [at, now] = [n, 0];
    for (let i = 0; i < legs.length; i++) {
      const { stop, stay } = legs[i];
      const before = at;
      now = Math.max(now + travel[at][stop], stops[stop].opens);
      at = stop;
      const own = gainOf(stops[stop], step, now, stay);
      now += stay;
      if (stop === keep || stops[stop].pinned) continue;
      const after = i + 1 < legs.length ? legs[i + 1].stop : n + 1;
      const offer = (lost: number, saved: number, next: RouteLeg[]): void => {
        if (saved > 0 && (!best || lost / saved < best.rate)) best = { rate: lost / saved, legs: next };
      };
      offer(own, stay + travel[before][stop] + travel[stop][after] - travel[before][after], legs.filter((_, k) => k !== i)); // prettier-ignore
      const shorter = stays[stays.indexOf(stay) - 1];
      if (stops[stop].stay === null && shorter !== undefined)
        offer(own - gainOf(stops[stop], step, now - stay, shorter), stay - shorter, legs.map((l, k) => (k === i ? { ...l, stay: shorter } : l))); // prettier-ignore
    }
    if (!best) return 0;
    legs = (best as { legs: RouteLeg[] }).legs;
  }
}
