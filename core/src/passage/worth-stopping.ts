import { statement, type Statement } from '../statements';

/** What is known of a mark, of the day and of what is wanted. */
export interface Prospect {
  goal: 'action' | 'size' | 'best' | null;
  /** Fish in the mark. */
  count: number;
  size: 'small' | 'medium' | 'large' | null;
  /** How sure it is what it is taken for, 0–1. */
  odds: number;
  /** Minutes that are left of the day. */
  left: number;
  /** Minutes that a stop is given. */
  patience: number;
  /** Today's stops at fish seen, and those of them at which one struck. */
  tried: number;
  paid: number;
}

/** `size` is `any` where size does not matter; `tried` 0: no stop at fish yet today. */
export type AdviceCode = 'advice.dusk' | 'advice.unsure' | 'advice.chance' | 'advice.small';

export interface Advice {
  advice: 'stop' | 'look again' | 'go on';
  /** Chance that one that is wanted strikes in that time, 0–1. */
  chance: number;
  reason: Statement<AdviceCode>;
}

/** Before anything is known of the day: one fish in twelve strikes in the time it is given. A judgement; the day's own stops move it. */
const PRIOR = { paid: 1, tried: 12 };
/** More fish than these hardly raise the chance that one strikes. */
const CROWD = 8;
/** Chance that a fish of a size class is big enough, where size is wanted, by the size that was seen. */
const BIG = { small: 0.02, medium: 0.3, large: 1, unknown: 0.2 };
/** A stop is worth it from this chance on: for action, and for a big one, for which most bites are given up. */
const ENOUGH = { action: 0.15, size: 0.05 };
/** Less sure than this of what it is, it is worth another look first. */
const SURE = 0.5;

/**
 * Whether a mark is worth a stop: the chance that a wanted fish strikes in the time a stop is given, from count, size and
 * odds, the chance per fish learned from today's stops (a beta prior with its mean at one in twelve), against the goal and
 * the time that is left. Advice with its reason, not a rule.
 */
export function worthStopping({ goal, count, size, odds, left, patience, tried, paid }: Prospect): Advice {
  const perFish = (PRIOR.paid + paid) / (PRIOR.tried + Math.max(tried, paid));
  const strikes = 1 - (1 - perFish) ** Math.min(count, CROWD);
  const big = goal === 'size' || goal === 'best';
  const wanted = big ? BIG[size ?? 'unknown'] : 1;
  const chance = strikes * odds * wanted;
  const why = { chance, minutes: patience, count, size: big ? (size ?? 'unknown') : 'any', tried, paid };
  if (left < patience) return { advice: 'stop', chance, reason: statement('advice.dusk', { minutes: Math.max(0, Math.round(left)) }) };
  if (odds < SURE) return { advice: 'look again', chance, reason: statement('advice.unsure', { odds }) };
  const enough = big ? ENOUGH.size : ENOUGH.action;
  return chance >= enough
    ? { advice: 'stop', chance, reason: statement('advice.chance', why) }
    : { advice: 'go on', chance, reason: statement(big && size !== 'large' ? 'advice.small' : 'advice.chance', why) };
}
