import type { ErrorRequestHandler } from 'express';
import { ValidationError } from 'yup';
import { FormatError } from '@restless-shoal/core/formats';
import { databaseTrouble } from '../db/pool';
import { UnknownSpeciesError } from '../jobs/ready';

/** A request that cannot be done; `field` names what is wrong with it. */
export class RequestError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly field?: string,
  ) {
    super(message);
  }
}

export const notFound = (what: string): RequestError => new RequestError(404, `there is no such ${what}`);

/** Turns what was thrown into an answer: 400 with the field for bad input, 503 and 507 where it may be sent again, 500 without details for our own faults. */
export const answerErrors: ErrorRequestHandler = (error, request, response, _next) => {
  if (response.headersSent) {
    response.end();
    return;
  }
  if (error instanceof ValidationError) {
    const path = (error.path || /does not know the field (\S+)/.exec(error.message)?.[1]) ?? '';
    response.status(400).json({ error: path ? `${path} ${error.message}` : error.message, field: path });
  } else if (error instanceof RequestError) response.status(error.status).json({ error: error.message, field: error.field });
  else if (error instanceof FormatError || error instanceof UnknownSpeciesError) response.status(400).json({ error: error.message });
  else if (typeof error?.status === 'number' && error.status < 500)
    response.status(error.status).json({ error: error.type === 'entity.parse.failed' ? 'the request is not JSON' : String(error.message) });
  else if (databaseTrouble(error) === 'full')
    response.status(507).json({ error: 'disk full: nothing new is saved; what you mark stays on the device until there is room' });
  else if (databaseTrouble(error) === 'away')
    response.status(503).setHeader('Retry-After', '1').json({ error: 'the database is starting again: nothing was stored, try again' });
  else {
    request.app.locals.log?.(`${request.method} ${request.path}: ${error?.stack ?? error}`);
    response.status(500).json({ error: 'something failed in the server; nothing was stored' });
  }
};
