import type { RequestHandler } from 'express';
import { flushTiny } from '@restless-shoal/core/logbook';
import { problem } from '@restless-shoal/core/contract';
import { refuse, RequestError } from './errors';

/** How a server is reached: names with ports as a Host header has them, and the scheme. */
export interface Reach {
  hosts: string[];
  scheme: 'http' | 'https';
}

/**
 * Any page open in the same browser can post to a server on loopback, and a rebound name can read from it.
 * So: the Host has to be ours, and so has the Origin wherever the browser sends one; other sites' requests are refused.
 */
export function sameOriginOnly(reach: () => Reach): RequestHandler {
  return (request, response, next) => {
    const { hosts, scheme } = reach();
    const foreign = (what: string): void => refuse(response, problem('foreign-site', { what }));
    const host = request.headers.host ?? '';
    if (!hosts.includes(host.toLowerCase())) return foreign(`host "${host}"`);
    const origin = request.headers.origin;
    if (origin !== undefined && !hosts.some((h) => origin === `${scheme}://${h}`)) return foreign(`origin "${origin}"`);
    const site = request.headers['sec-fetch-site'];
    const navigation = request.method === 'GET' && request.headers['sec-fetch-mode'] === 'navigate';
    if ((site === 'cross-site' || site === 'same-site') && !navigation) return foreign('the page that asks');
    next();
  };
}

/** A zero byte, or half of a character that takes two (what a cut through an emoji leaves): no database keeps either. */
// eslint-disable-next-line no-control-regex
const UNKEEPABLE = /\u0000|\p{Surrogate}/u;

/** Nothing that is asked here lies in so many lists. */
const DEEPEST = 40;
/** Nor holds so many values, a shore of the finest drawing included, nor so many records. */
const MOST_VALUES = 1_000_000;
const MOST_RECORDS = 20_000;

interface Budget {
  values: number;
  records: number;
}

/**
 * Makes a request's body one that can be kept: numbers that are nought but for their last digits become it.
 * @returns where a text stands that cannot be kept, as a path from its end; null where none does
 * @throws RequestError where lists lie too deep in each other, or hold more than anything that is asked here
 */
function makeKeepable(value: object, budget: Budget, depth = 0): string[] | null {
  if (depth > DEEPEST) throw new RequestError('request-too-deep');
  if (!Array.isArray(value) && --budget.records < 0) throw new RequestError('request-too-large');
  const inside = value as Record<string | number, unknown>;
  const keys = Array.isArray(value) ? null : Object.keys(value);
  const count = keys?.length ?? (value as unknown[]).length;
  for (let k = 0; k < count; k++) {
    const key = keys ? keys[k] : k;
    if (--budget.values < 0) throw new RequestError('request-too-large');
    const inner = inside[key];
    if (typeof inner === 'number') inside[key] = flushTiny(inner);
    else if (typeof inner === 'string') {
      if (UNKEEPABLE.test(inner)) return [String(key)];
    } else if (typeof inner === 'object' && inner !== null) {
      const found = makeKeepable(inner, budget, depth + 1);
      if (found !== null) {
        found.push(String(key));
        return found;
      }
    }
    if (typeof key === 'string' && UNKEEPABLE.test(key)) return [];
  }
  return null;
}

/** A path as code has it: contacts[2].notes */
const pathOf = (keys: string[]): string =>
  keys.reduceRight((path, key) => (/^\d+$/.test(key) ? `${path}[${key}]` : path ? `${path}.${key}` : key), '');

/** Lets through what can be kept; a body with a text that cannot be is refused by its name, before anything is made of it. */
export const keepableOnly: RequestHandler = (request, _response, next) => {
  const { body } = request as { body: unknown };
  if (typeof body === 'object' && body !== null) {
    const found = makeKeepable(body, { values: MOST_VALUES, records: MOST_RECORDS });
    const path = found && pathOf(found);
    if (path !== null) throw new RequestError('text-unkeepable', path ? {} : { field: 'the request' }, path || undefined);
  }
  next();
};
