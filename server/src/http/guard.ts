import type { RequestHandler } from 'express';
import { orNought } from '@restless-shoal/core/logbook';
import { RequestError } from './errors';

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
    const refuse = (what: string): void => {
      response.status(403).json({ error: `${what} is not this application` });
    };
    const host = request.headers.host ?? '';
    if (!hosts.includes(host.toLowerCase())) return refuse(`host "${host}"`);
    const origin = request.headers.origin;
    if (origin !== undefined && !hosts.some((h) => origin === `${scheme}://${h}`)) return refuse(`origin "${origin}"`);
    const site = request.headers['sec-fetch-site'];
    const navigation = request.method === 'GET' && request.headers['sec-fetch-mode'] === 'navigate';
    if ((site === 'cross-site' || site === 'same-site') && !navigation) return refuse('the page that asks');
    next();
  };
}

/** A zero byte, or half of a character that takes two (what a cut through an emoji leaves): no database keeps either. */
// eslint-disable-next-line no-control-regex
const UNKEEPABLE = /\u0000|\p{Surrogate}/u;

/** Nothing that is asked here lies in so many lists. */
const DEEPEST = 40;

/**
 * Makes a request's body one that can be kept: numbers that are nought but for their last digits become it.
 * @returns where a text stands that cannot be kept, as a path; null where none does
 * @throws RequestError where lists lie too deep in each other
 */
function makeKeepable(value: unknown, path: string, depth = 0): string | null {
  if (typeof value === 'string') return UNKEEPABLE.test(value) ? path : null;
  if (typeof value !== 'object' || value === null) return null;
  if (depth > DEEPEST) throw new RequestError(400, 'the request has lists in lists without end');
  for (const [key, inner] of Object.entries(value)) {
    if (typeof inner === 'number') {
      (value as Record<string, unknown>)[key] = orNought(inner);
      continue;
    }
    if (UNKEEPABLE.test(key)) return path;
    const own = Array.isArray(value) ? `${path}[${key}]` : path ? `${path}.${key}` : key;
    const found = makeKeepable(inner, own, depth + 1);
    if (found !== null) return found;
  }
  return null;
}

/** Lets through what can be kept; a body with a text that cannot be is refused by its name, before anything is made of it. */
export const keepableOnly: RequestHandler = (request, _response, next) => {
  const found = makeKeepable(request.body, '');
  if (found !== null) throw new RequestError(400, `${found || 'the request'} holds a zero byte or half a character`, found || undefined);
  next();
};
