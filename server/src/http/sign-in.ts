import { parse } from 'cookie';
import { Router, type Request, type RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { problem } from '@restless-shoal/core/contract';
import { isSignedIn, signIn, signOut } from '../db/sign-in';
import type { Pool } from '../db/pool';
import { accountOf } from './account';
import { refuse, RequestError } from './errors';
import { on } from './on';

const COOKIE = 'shoal_session';
const DAYS = 90;
/** Wrong passwords from one address in a quarter of an hour, before it has to wait. */
const TRIES = 10;

const tokenOf = ({ headers }: Request): string | null => parse(headers.cookie ?? '')[COOKIE] ?? null;

/** Signing in and out. Comes before what only the signed in may do. */
export function signInRoutes(pool: Pool): Router {
  const router = Router();
  const slow = rateLimit({
    windowMs: 15 * 60_000,
    limit: TRIES,
    skipSuccessfulRequests: true,
    legacyHeaders: false,
    handler: (_request, response) => refuse(response, problem('too-many-passwords')),
  });
  router.post('/session', slow);
  on(router, 'POST /session', async ({ request, response, body }) => {
    const token = await signIn(pool, accountOf(request), body.password);
    if (!token) throw new RequestError('password-wrong', {}, 'password');
    response.cookie(COOKIE, token, { httpOnly: true, secure: true, sameSite: 'strict', path: '/api', maxAge: DAYS * 86_400_000 });
    return { signedIn: true };
  });
  on(router, 'DELETE /session', async ({ request, response }) => {
    const token = tokenOf(request);
    if (token) await signOut(pool, token);
    response.clearCookie(COOKIE, { path: '/api' });
    return { signedIn: false };
  });
  return router;
}

/** How often is looked whether who listens is still signed in, ms: a new password signs all out. */
const LOOK = 5000;

/** Refuses whoever is not signed in, and ends a stream whose listener no longer is. */
export const signedInOnly =
  (pool: Pool): RequestHandler =>
  async (asked, response, next) => {
    const token = tokenOf(asked);
    if (!token || !(await isSignedIn(pool, accountOf(asked), token))) throw new RequestError('not-signed-in');
    const look = setInterval(() => {
      void isSignedIn(pool, accountOf(asked), token).then(
        (still) => still || response.destroy(),
        () => undefined,
      );
    }, LOOK);
    response.on('close', () => clearInterval(look));
    next();
  };
