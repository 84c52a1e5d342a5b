import { columnsOf, OUTCOMES, type Response } from '@restless-shoal/core/logbook';

export type Outcome = (typeof OUTCOMES)[number];

export const OUTCOME_WORDS: Record<Outcome, string> = {
  nothing: 'Nothing',
  seen: 'Fish seen, no interest',
  follows: 'Follows',
  bites: 'Bites, none landed',
  fish: 'Fish landed',
  unfishable: 'Could not be fished',
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

/** A record as it is sent, without what the server added. */
export const asSent = (record: 'contacts' | 'stops' | 'responses', row: object): object => {
  const values = row as Record<string, unknown>;
  return Object.fromEntries(columnsOf(record).flatMap((name) => (values[name] === undefined ? [] : [[name, values[name]]])));
};
