import type { ErrorRequestHandler, Response } from 'express';
import { ValidationError } from 'yup';
import { problem, problemOfField, type Problem, type ProblemCode, type ProblemValues } from '@restless-shoal/core/contract';
import { FormatError } from '@restless-shoal/core/formats';
import { databaseTrouble } from '../db/pool';
import { UnknownSpeciesError } from '../jobs/ready';

/** A request that cannot be done, and why; `field` names what is wrong with it. */
export class RequestError extends Error {
  readonly problem: Problem;
  constructor(code: ProblemCode, values: ProblemValues = {}, field?: string) {
    const told = problem(code, values, field);
    super(told.detail);
    this.problem = told;
  }
}

export const notFound = (what: string): RequestError => new RequestError('no-such-thing', { what });

/** Answers with a problem instead of what was asked for. */
export function refuse(response: Response, told: Problem): void {
  response.status(told.status).type('application/problem+json').send(JSON.stringify(told));
}

/** What was thrown, as a problem; null for a fault of our own. */
function problemOf(error: unknown): Problem | null {
  if (error instanceof ValidationError) return problemOfField(error);
  if (error instanceof RequestError) return error.problem;
  if (error instanceof UnknownSpeciesError) return problem('species-unknown', { species: error.species, known: error.known.join(', ') });
  if (error instanceof FormatError) return problem('file-unreadable', { reason: error.message });
  const { status, type } = (error ?? {}) as { status?: unknown; type?: string };
  if (type === 'entity.parse.failed') return problem('request-unreadable');
  if (status === 413) return problem('request-too-large');
  if (typeof status === 'number' && status < 500) return problem('request-wrong', { reason: (error as Error).message });
  const trouble = databaseTrouble(error);
  return trouble === 'full' ? problem('disk-full') : trouble === 'away' ? problem('database-away') : null;
}

/** Turns what was thrown into an answer: the field for bad input, 503 and 507 where it may be sent again, no details of our own faults. */
export const answerErrors: ErrorRequestHandler = (error, request, response, _next) => {
  if (response.headersSent) {
    response.end();
    return;
  }
  const told = problemOf(error);
  if (!told) request.app.locals.log?.(`${request.method} ${request.path}: ${error?.stack ?? error}`);
  if (told?.code === 'database-away') response.setHeader('Retry-After', '1');
  refuse(response, told ?? problem('server-failed'));
};
