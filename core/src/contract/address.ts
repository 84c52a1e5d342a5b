import type { Params, Route } from './routes';

type MethodOf<R extends string> = R extends `${infer M} ${string}` ? M : never;

/**
 * The method and the address of a route.
 * @example addressOf('GET /trips/:trip', { trip: '0192…' }) // ['GET', '/trips/0192…']
 */
export function addressOf<R extends Route>(route: R, params: Params<R>, query: Record<string, string> = {}): [MethodOf<R>, string] {
  const [method, path] = route.split(' ') as [MethodOf<R>, string];
  const filled = path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent((params as Record<string, string>)[name]));
  const asked = Object.entries(query)
    .map(([name, value]) => `${name}=${encodeURIComponent(value)}`)
    .join('&');
  return [method, asked ? `${filled}?${asked}` : filled];
}
