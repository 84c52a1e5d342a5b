import type { RequestHandler } from 'express';

/**
 * Any page open in the same browser can post to a server on loopback, and a rebound name can read from it.
 * So: the Host has to be ours, and so has the Origin wherever the browser sends one; other sites' requests are refused.
 * @param ports the ports the server may be reached at
 */
export function sameOriginOnly(port: () => number): RequestHandler {
  return (request, response, next) => {
    const ours = ['127.0.0.1', 'localhost', '[::1]'].map((name) => `${name}:${port()}`);
    const refuse = (what: string): void => {
      response.status(403).json({ error: `${what} is not this application` });
    };
    const host = request.headers.host ?? '';
    if (!ours.includes(host.toLowerCase())) return refuse(`host "${host}"`);
    const origin = request.headers.origin;
    if (origin !== undefined && !ours.some((o) => origin === `http://${o}`)) return refuse(`origin "${origin}"`);
    const site = request.headers['sec-fetch-site'];
    const navigation = request.method === 'GET' && request.headers['sec-fetch-mode'] === 'navigate';
    if ((site === 'cross-site' || site === 'same-site') && !navigation) return refuse('the page that asks');
    next();
  };
}
