import { statement, type Statement } from '../statements';

/** How fast fishing tells, rod-minutes: in this time 63 % of the fish that are there and willing have bitten. A judgement until the log knows. */
export const USUAL_PACE = 20;

/** Chance that a spot of which nothing is known holds fish: one in four, a judgement. */
export const UNKNOWN_CHANCE = 0.25;

/** What is known of a spot before and during a stop. */
export interface SpotOdds {
  /** Chance that the target species is there, before anything was tried, 0–1. */
  chance: number;
  /** Bites that a long stay would bring if it is there. */
  bites: number;
  /** Minutes in which 63 % of them come. */
  pace: number;
}

/** What was tried at a stop. */
export interface Tried {
  minutes: number;
  rods: number;
  /** Scans of the whole spot that showed none, and the chance that one shows a pod that is there. */
  scans: number;
  detection: number;
  /** Bites so far. */
  bites: number;
}

/** Chance that a spot that holds fish gives nothing in the time and scans spent: of misses that do not depend on each other. */
export const missChance = ({ pace }: Pick<SpotOdds, 'pace'>, { minutes, rods, scans, detection }: Omit<Tried, 'bites'>): number =>
  Math.exp((-minutes * Math.max(1, rods)) / pace) * (1 - Math.min(0.999, detection)) ** scans;

/**
 * Chance that fish are there after nothing was seen or caught: p·q/(1 − p + p·q), q the chance of a miss. One bite and they are there.
 * Source: Bayes; Koopman 1956, The theory of search.
 */
export function chanceAfter(odds: SpotOdds, tried: Tried): number {
  if (tried.bites > 0) return 1;
  const q = missChance(odds, tried);
  return (odds.chance * q) / (1 - odds.chance + odds.chance * q);
}

/**
 * Chance at similar spots after some of the kind were tried: all of a kind share one rate, beta-distributed about what the forecast
 * says and worth so many spots. A blank counts by how sure it is.
 * @param tried of each spot of the kind: 1 − the chance of a miss if fish are there, and whether they were
 * @param weight how many spots the forecast is worth: a judgement
 */
export function chanceAtSimilar(chance: number, tried: { sure: number; held: boolean }[], weight = SIMILAR_WEIGHT): number {
  let [held, empty] = [chance * weight, (1 - chance) * weight];
  for (const t of tried) {
    if (t.held) held += 1;
    else empty += t.sure;
  }
  return held / (held + empty);
}
const SIMILAR_WEIGHT = 4;

/** Bites a minute that staying on brings now. */
export function rateHere(odds: SpotOdds, tried: Tried): number {
  const rods = Math.max(1, tried.rods);
  if (tried.bites === 0) {
    // Fish not yet shown are no fewer than at first, if they are there.
    return (chanceAfter(odds, tried) * odds.bites * rods) / odds.pace;
  }
  // Those that bit are fewer by that; what is left bites at the same pace, learned from how it went so far.
  const willing = odds.bites * Math.exp((-tried.minutes * rods) / odds.pace);
  const expected = odds.bites - willing;
  const learned = (tried.bites + 1) / (expected + 1);
  return (willing * learned * rods) / odds.pace;
}

/** Bites a minute, travel included, of going to a spot and staying as long as is best there. @param travel minutes */
export function rateElsewhere(
  { chance, bites, pace }: SpotOdds,
  travel: number,
  rods: number,
  left = Infinity,
): { rate: number; stay: number } {
  let best = { rate: 0, stay: 0 };
  const own = pace / Math.max(1, rods);
  for (let stay = 2; stay <= 90 && travel + stay <= left; stay++) {
    const rate = (chance * bites * -Math.expm1(-stay / own)) / (travel + stay);
    if (rate > best.rate) best = { rate, stay };
  }
  return best;
}

export type StayCode = 'stay.better' | 'stay.bites' | 'leave.soon' | 'leave.now' | 'leave.nowhere' | 'leave.day-over';

export interface StayAdvice {
  advice: 'stay' | 'leave';
  /** Chance that they are here now. */
  chance: number;
  /** Minutes until leaving is better; 0: now; null: not in the time that is left. */
  minutes: number | null;
  /** Bites an hour here now, and on going elsewhere, travel included. */
  here: number;
  elsewhere: number;
  /** Index of the spot to go to; null where there is none. */
  next: number | null;
  reason: Statement<StayCode>;
}

/** Nobody is sent away sooner than this, minutes: the first casts tell most. */
const FIRST_CASTS = 3;
/** Farther ahead nothing is said, minutes. */
const HORIZON = 90;

/**
 * Stay or leave: leave once staying brings less a minute than the best of the other spots does, travel and its own best stay
 * included. Source: Charnov 1976, Optimal foraging, the marginal value theorem.
 * @param others with minutes of travel to each @param left minutes of the day
 */
export function stayOrLeave(odds: SpotOdds, tried: Tried, others: (SpotOdds & { travel: number })[], left: number): StayAdvice {
  let [rate, next, travel] = [0, null as number | null, 0];
  others.forEach((spot, i) => {
    const found = rateElsewhere(spot, spot.travel, tried.rods, left);
    if (found.rate > rate) [rate, next, travel] = [found.rate, i, spot.travel];
  });
  const chance = chanceAfter(odds, tried);
  const here = rateHere(odds, tried);
  const answer = (advice: StayAdvice['advice'], minutes: number | null, code: StayCode): StayAdvice => ({
    advice,
    chance,
    minutes,
    here: here * 60,
    elsewhere: rate * 60,
    next,
    reason: statement(code, { minutes: minutes ?? 0, chance, here: here * 60, elsewhere: rate * 60, travel, bites: tried.bites }),
  });
  if (left <= 0) return answer('leave', 0, 'leave.day-over');
  if (next === null) return answer('stay', null, 'leave.nowhere');
  for (let m = 0; m <= Math.min(HORIZON, left); m++) {
    if (tried.minutes + m < FIRST_CASTS) continue;
    // Blank minutes from now on; after bites they thin out all the same.
    if (rateHere(odds, { ...tried, minutes: tried.minutes + m }) >= rate) continue;
    return answer(m === 0 ? 'leave' : 'stay', m, m === 0 ? 'leave.now' : tried.bites > 0 ? 'stay.bites' : 'leave.soon');
  }
  return answer('stay', null, 'stay.better');
}
