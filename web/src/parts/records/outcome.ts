import { OUTCOMES, type Response } from '@restless-shoal/core/logbook';
import { deck as msg } from '../../words';

export type Outcome = (typeof OUTCOMES)[number];

export const OUTCOME_WORDS: Record<Outcome, string> = {
  nothing: msg('outcome.nothing'),
  seen: msg('outcome.fishSeenNoInterest'),
  follows: msg('outcome.follows'),
  bites: msg('outcome.bitesNoneLanded'),
  fish: msg('outcome.fishLanded'),
  unfishable: msg('outcome.couldNotBeFished'),
};

/** The outcome that a stop's responses add up to. @param seen whether fish were marked at it */
export function outcomeOf(responses: Pick<Response, 'response'>[], seen: boolean): Outcome {
  const some = (...kinds: Response['response'][]): boolean => responses.some((r) => kinds.includes(r.response));
  if (some('landed')) return 'fish';
  if (some('struck', 'lost')) return 'bites';
  if (some('turned', 'followed')) return 'follows';
  return seen || some('ignored') ? 'seen' : 'nothing';
}

/** m:ss of a clock that runs, with hours from the first one on. */
export function clockWords(ms: number): string {
  const s = Math.floor(ms / 1000);
  const [hours, minutes, seconds] = [Math.floor(s / 3600), Math.floor(s / 60) % 60, s % 60];
  const two = (n: number): string => String(n).padStart(2, '0');
  return hours ? `${hours}:${two(minutes)}:${two(seconds)}` : `${minutes}:${two(seconds)}`;
}
