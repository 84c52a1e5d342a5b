import type { Request, Response, Router } from 'express';
import { ROUTES, type Answers, type Body, type JsonRoute, type Route, type RouteSpec } from '@restless-shoal/core/contract';

/** A request that was checked against its route. */
export interface Asked<R extends Route> {
  request: Request;
  response: Response;
  body: Body<R>;
}
/** What a route answers; routes that give something else than JSON send it themselves. */
type Given<R extends Route> = R extends JsonRoute ? Answers[R] : void;

/** Mounts a route of the contract: its body is checked by its schema, its answer is of its shape. */
export function on<R extends Route>(router: Router, route: R, work: (asked: Asked<R>) => Given<R> | Promise<Given<R>>): void {
  const { takes, gives, status }: RouteSpec = ROUTES[route];
  const [method, path] = route.split(' ');
  router[method.toLowerCase() as 'get' | 'put' | 'post' | 'delete'](path, async (request, response) => {
    const body = (takes ? await takes.validate(request.body) : undefined) as Body<R>;
    const answer = await work({ request, response, body });
    if (gives) return;
    if (status && response.statusCode === 200) response.status(status);
    response.json(answer);
  });
}
