import { seeded } from '../numbers';

/** A place that a route may stop at. Minutes count from the start of the day that is planned. */
export interface RouteStop {
  /** What a stay without end would bring, by time of day: one value each `step` minutes from the start on. */
  worth: ArrayLike<number>;
  /** Minutes in which 63 % of that come: fish that are willing mostly show it early. */
  pace: number;
  /** Earliest and latest arrival. */
  opens: number;
  closes: number;
  /** Has to be on the route. */
  pinned: boolean;
  /** Minutes that the stay is to last; null: as the plan finds best. */
  stay: number | null;
}

/** Team orienteering with one team, time windows, and gains that depend on when and how long. */
export interface RouteProblem {
  stops: RouteStop[];
  /** Minutes of `worth` a value. */
  step: number;
  /** Minutes from each to each: the stops, then the start, then the end; infinite where no way leads. */
  travel: ArrayLike<number>[];
  /** Litres from each to each, and how many there are to burn; null: no matter. */
  fuel: { use: ArrayLike<number>[]; most: number } | null;
  /** Minutes there are. */
  length: number;
  /** Stays to choose from, minutes, ascending. */
  stays: readonly number[];
  /** Stops that come first, in this order. */
  first?: readonly number[];
}

export interface RouteLeg {
  stop: number;
  stay: number;
}

export interface TimedLeg extends RouteLeg {
  arrive: number;
  /** Minutes waited for it to open. */
  waits: number;
  leave: number;
  /** Minutes on the way to it. */
  travel: number;
  gain: number;
}

/** How long one stays unless somebody says otherwise, minutes. */
export const STAYS = [5, 10, 15, 20, 30, 45, 60] as const;

/** What a stay brings that begins at a time. */
export function gainOf({ worth, pace }: RouteStop, step: number, arrive: number, stay: number): number {
  const n = worth.length;
  if (!n) return 0;
  const at = Math.min(n - 1, Math.max(0, Math.floor((arrive + stay / 2) / step)));
  return worth[at] * -Math.expm1(-stay / pace);
}

/** The times of a route; null where it does not fit into the day, a window or the fuel. */
export function timed(problem: RouteProblem, route: readonly RouteLeg[]): { legs: TimedLeg[]; gain: number; ends: number } | null {
  const { stops, travel, fuel, length, step } = problem;
  const n = stops.length;
  let [at, now, gain, litres] = [n, 0, 0, 0];
  const legs: TimedLeg[] = [];
  for (const { stop, stay } of route) {
    const way = travel[at][stop];
    const { opens, closes } = stops[stop];
    const reached = now + way;
    const arrive = Math.max(reached, opens);
    if (!(arrive <= closes)) return null;
    const own = gainOf(stops[stop], step, arrive, stay);
    legs.push({ stop, stay, arrive, waits: arrive - reached, leave: arrive + stay, travel: way, gain: own });
    gain += own;
    now = arrive + stay;
    litres += fuel ? fuel.use[at][stop] : 0;
    at = stop;
  }
  const ends = now + travel[at][n + 1];
  if (!(ends <= length + 1e-9)) return null;
  if (fuel && !(litres + fuel.use[at][n + 1] <= fuel.most + 1e-9)) return null;
  return { legs, gain, ends };
}

/** Stays that a stop may have. */
const staysOf = (problem: RouteProblem, stop: number): readonly number[] => {
  const own = problem.stops[stop].stay;
  return own === null ? problem.stays : [own];
};

/** Moves of one cooling by the number of stops, and coolings: of short days more, which are quick; the best of all is taken. */
const movesFor = (stops: number): number => Math.min(90_000, 15_000 + 1750 * stops);
const coolingsFor = (stops: number): number => (stops <= 20 ? 6 : 3);
/** A minute too many costs so much of a middling stop's gain: routes may be too long for a while, on the way to better ones. */
const FINE = 2;
/** Temperatures of the first and the last move, as shares of a middling stop's gain. */
const [HOT, COLD] = [1.2, 0.005];

/**
 * The stops, their order and how long to stay at each, that bring most in the time there is. Simulated annealing over putting in,
 * taking out, exchanging, moving, turning round and re-timing, from nearest-first and from nothing; never worse than nearest-first.
 * Source for the problem: Golden, Levy & Vohra 1987; for the method: Kirkpatrick, Gelatt & Vecchi 1983.
 * @param seed makes it repeatable
 * @returns the route; pinned stops and those that come first are on it wherever they fit
 */
export function bestRoute(problem: RouteProblem, seed = 1, moves = movesFor(problem.stops.length)): RouteLeg[] {
  const n = problem.stops.length;
  if (!n) return [];
  const required = requiredLegs(problem);
  const near = nearestFirst(problem, required);
  const annealing = new Annealing(problem, seeded(seed));
  let best = near;
  let value = timed(problem, near)?.gain ?? -1;
  const coolings = coolingsFor(n);
  for (let c = 0; c < coolings; c++) {
    // From nothing and from nearest-first by turns; the last one goes on from the best.
    const last = c === coolings - 1;
    const found = annealing.cooled(last ? best : c % 2 ? near : required, last ? HOT / 4 : HOT, moves);
    const gain = timed(problem, found)?.gain ?? -1;
    if (gain > value) [best, value] = [found, gain];
  }
  return best;
}

/** Legs that must be on a route, as far as they fit: those that come first, then pinned ones where they cost least. */
function requiredLegs(problem: RouteProblem): RouteLeg[] {
  const shortest = (stop: number): RouteLeg => ({ stop, stay: staysOf(problem, stop)[0] });
  const held = problem.first ?? [];
  let route: RouteLeg[] = [];
  for (const stop of held) if (timed(problem, [...route, shortest(stop)])) route.push(shortest(stop));
  problem.stops.forEach(({ pinned }, stop) => {
    if (!pinned || held.includes(stop)) return;
    let best: { ends: number; route: RouteLeg[] } | null = null;
    for (let at = Math.min(held.length, route.length); at <= route.length; at++) {
      const next = [...route.slice(0, at), shortest(stop), ...route.slice(at)];
      const fits = timed(problem, next);
      if (fits && (!best || fits.ends < best.ends)) best = { ends: fits.ends, route: next };
    }
    route = best?.route ?? route;
  });
  return route;
}

/** Always on to the nearest stop not yet visited, for a middling stay, while there is time: what one does without a plan. */
export function nearestFirst(problem: RouteProblem, first: readonly RouteLeg[] = []): RouteLeg[] {
  const route = [...first];
  const n = problem.stops.length;
  for (;;) {
    const at = route.length ? route[route.length - 1].stop : n;
    const order = problem.stops
      .map((_, i) => i)
      .filter((i) => !route.some((leg) => leg.stop === i) && Number.isFinite(problem.travel[at][i]))
      .sort((a, b) => problem.travel[at][a] - problem.travel[at][b]);
    const next = order
      .map((stop): RouteLeg => {
        const stays = staysOf(problem, stop);
        return { stop, stay: stays[Math.floor(stays.length / 2)] };
      })
      .find((leg) => timed(problem, [...route, leg]));
    if (!next) return route;
    route.push(next);
  }
}

/** One route as numbers, changed in place. */
class Annealing {
  private readonly n: number;
  private readonly steps: number;
  private readonly worth: Float64Array;
  private readonly stays: readonly number[][];
  /** 1 − exp(−stay/pace), by stop and stay. */
  private readonly share: Float64Array[];
  private readonly travel: Float64Array;
  private readonly fuel: Float64Array | null;
  private readonly side: number;
  private readonly firstStops: readonly number[];
  /** What a minute too many costs, and how many there were. */
  private fine = 0;
  private over = 0;
  private stop: Int32Array;
  private stay: Int32Array;
  private length = 0;
  private nextStop: Int32Array;
  private nextStay: Int32Array;
  private nextLength = 0;

  constructor(
    private readonly problem: RouteProblem,
    private readonly random: () => number,
  ) {
    const { stops, stays, travel, fuel } = problem;
    this.n = stops.length;
    this.side = this.n + 2;
    this.steps = Math.max(1, ...stops.map((s) => s.worth.length));
    this.worth = new Float64Array(this.n * this.steps);
    stops.forEach(({ worth }, i) => {
      for (let k = 0; k < this.steps && worth.length; k++) this.worth[i * this.steps + k] = worth[Math.min(k, worth.length - 1)];
    });
    this.stays = stops.map((s) => (s.stay === null ? [...stays] : [s.stay]));
    this.share = stops.map((s, i) => Float64Array.from(this.stays[i], (m) => -Math.expm1(-m / s.pace)));
    this.travel = Float64Array.from({ length: this.side * this.side }, (_, k) => travel[Math.floor(k / this.side)][k % this.side]);
    this.fuel = fuel && Float64Array.from({ length: this.side * this.side }, (_, k) => fuel.use[Math.floor(k / this.side)][k % this.side]);
    this.firstStops = problem.first ?? [];
    [this.stop, this.stay, this.nextStop, this.nextStay] = Array.from({ length: 4 }, () => new Int32Array(this.n + 1));
  }

  /** The best route met while cooling down from one. */
  cooled(from: readonly RouteLeg[], hot: number, moves: number): RouteLeg[] {
    const { random } = this;
    from.forEach(({ stop, stay }, i) => {
      this.stop[i] = stop;
      this.stay[i] = Math.max(0, this.stays[stop].indexOf(stay));
    });
    this.length = from.length;
    let value = this.value(this.stop, this.stay, this.length);
    let best = this.over > 0 ? -Infinity : value;
    let kept = [...from];
    const usual = this.usualGain();
    this.fine = usual / FINE;
    const factor = (COLD / hot) ** (1 / moves);
    let heat = hot * usual;
    for (let m = 0; m < moves; m++, heat *= factor) {
      if (!this.propose()) continue;
      const next = this.value(this.nextStop, this.nextStay, this.nextLength);
      if (!Number.isFinite(next) || (next < value && random() >= Math.exp((next - value) / heat))) continue;
      [this.stop, this.nextStop] = [this.nextStop, this.stop];
      [this.stay, this.nextStay] = [this.nextStay, this.stay];
      this.length = this.nextLength;
      value = next;
      if (this.over === 0 && value > best + 1e-12) {
        best = value;
        kept = Array.from({ length: this.length }, (_, i) => ({ stop: this.stop[i], stay: this.stays[this.stop[i]][this.stay[i]] }));
      }
    }
    return kept;
  }

  /** What a good stop brings by a middling stay. */
  private usualGain(): number {
    const all = Array.from(
      { length: this.n },
      (_, i) => this.worth[i * this.steps + (this.steps >> 1)] * this.share[i][this.share[i].length >> 1],
    );
    all.sort((a, b) => b - a);
    return Math.max(1e-9, all[Math.min(5, all.length >> 2)]);
  }

  /** What a route brings, less a fine for every minute and litre too many; those are left in `over`. */
  private value(stop: Int32Array, stay: Int32Array, length: number): number {
    const { problem, side, travel, fuel, n, steps, worth } = this;
    const { stops, step, length: day } = problem;
    let [at, now, gain, litres, over] = [n, 0, 0, 0, 0];
    for (let i = 0; i < length; i++) {
      const s = stop[i];
      const place = stops[s];
      let arrive = now + travel[at * side + s];
      if (arrive < place.opens) arrive = place.opens;
      if (arrive > place.closes) over += arrive - place.closes;
      const minutes = this.stays[s][stay[i]];
      const k = Math.min(steps - 1, Math.floor((arrive + minutes / 2) / step));
      gain += worth[s * steps + k] * this.share[s][stay[i]];
      now = arrive + minutes;
      if (fuel) litres += fuel[at * side + s];
      at = s;
    }
    over += Math.max(0, now + travel[at * side + n + 1] - day - 1e-9);
    if (fuel) over += Math.max(0, litres + fuel[at * side + n + 1] - problem.fuel!.most - 1e-9) * 10;
    this.over = over;
    return over > 0 ? gain - this.fine * (over + 1) : gain;
  }

  /** Writes a neighbour of the route into the next one. @returns whether there is one */
  private propose(): boolean {
    const { random, length, stop, stay, nextStop, nextStay } = this;
    const held = this.firstStops.length;
    const free = length - Math.min(held, length);
    const whole = (most: number): number => Math.floor(random() * most);
    nextStop.set(stop);
    nextStay.set(stay);
    this.nextLength = length;
    const roll = random();
    if (roll < 0.3 && length > 0) {
      // Another stay; half of the time another stop gives the minutes or takes them.
      this.restay(whole(length), random() < 0.5 ? 1 : -1);
      if (random() < 0.5) this.restay(whole(length), random() < 0.5 ? 1 : -1);
      return true;
    }
    if (roll < 0.55) {
      const s = whole(this.n);
      for (let i = 0; i < length; i++) if (stop[i] === s) return false;
      this.insert(s, random() < 0.7 ? this.cheapest(s) : Math.min(held, length) + whole(free + 1), whole(this.stays[s].length));
      if (random() < 0.4 && length > 0) this.restay(whole(this.nextLength), -1);
      return true;
    }
    if (free < 1) return false;
    const i = held + whole(free);
    if (roll < 0.72) {
      // One for another, at its place or where it costs least.
      const s = whole(this.n);
      for (let k = 0; k < length; k++) if (stop[k] === s) return false;
      if (this.problem.stops[stop[i]].pinned) return false;
      this.remove(i);
      this.insert(s, random() < 0.5 ? i : this.cheapest(s), whole(this.stays[s].length));
      return true;
    }
    if (roll < 0.78) {
      if (this.problem.stops[stop[i]].pinned) return false;
      this.remove(i);
      return true;
    }
    if (free < 2) return false;
    const j = held + whole(free);
    if (i === j) return false;
    if (roll < 0.9) {
      const [s, m] = [stop[i], stay[i]];
      this.remove(i);
      this.insert(s, j, m);
      return true;
    }
    for (let [a, b] = [Math.min(i, j), Math.max(i, j)]; a < b; a++, b--) {
      [nextStop[a], nextStop[b]] = [nextStop[b], nextStop[a]];
      [nextStay[a], nextStay[b]] = [nextStay[b], nextStay[a]];
    }
    return true;
  }

  private restay(i: number, by: number): void {
    const most = this.stays[this.nextStop[i]].length - 1;
    this.nextStay[i] = Math.min(most, Math.max(0, this.nextStay[i] + by));
  }

  private insert(s: number, at: number, stay: number): void {
    this.nextStop.copyWithin(at + 1, at, this.nextLength);
    this.nextStay.copyWithin(at + 1, at, this.nextLength);
    this.nextStop[at] = s;
    this.nextStay[at] = stay;
    this.nextLength++;
  }

  private remove(at: number): void {
    this.nextStop.copyWithin(at, at + 1, this.nextLength);
    this.nextStay.copyWithin(at, at + 1, this.nextLength);
    this.nextLength--;
  }

  /** Where in the next route a stop costs the least detour. */
  private cheapest(s: number): number {
    const { side, travel, n, nextStop, nextLength } = this;
    let [best, at] = [Infinity, nextLength];
    for (let i = Math.min(this.firstStops.length, nextLength); i <= nextLength; i++) {
      const before = i ? nextStop[i - 1] : n;
      const after = i < nextLength ? nextStop[i] : n + 1;
      const detour = travel[before * side + s] + travel[s * side + after] - travel[before * side + after];
      if (detour < best) [best, at] = [detour, i];
    }
    return at;
  }
}
