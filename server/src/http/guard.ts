import type { RequestHandler } from 'express';

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
