import { parse } from 'cookie';
import { Router, type Request, type RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { object, string } from 'yup';
import { isSignedIn, signIn, signOut } from '../db/sign-in';
import type { Pool } from '../db/pool';
import { accountOf } from './account';
import { RequestError } from './errors';

const COOKIE = 'shoal_session';
const DAYS = 90;
/** Wrong passwords from one address in a quarter of an hour, before it has to wait. */
const TRIES = 10;

const request = object({ password: string().strict().typeError('must be text').required('is missing').max(1000, 'is too long') })
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

const tokenOf = ({ headers }: Request): string | null => parse(headers.cookie ?? '')[COOKIE] ?? null;

/** Signing in and out. Comes before what only the signed in may do. */
export function signInRoutes(pool: Pool): Router {
  const router = Router();
  const slow = rateLimit({
    windowMs: 15 * 60_000,
    limit: TRIES,
    skipSuccessfulRequests: true,
    legacyHeaders: false,
    handler: (_request, response) => void response.status(429).json({ error: 'too many wrong passwords: wait a quarter of an hour' }),
  });
  router.post('/session', slow, async (asked, response) => {
    const { password } = await request.validate(asked.body);
    const token = await signIn(pool, accountOf(asked), password);
    if (!token) throw new RequestError(401, 'is wrong', 'password');
    response.cookie(COOKIE, token, { httpOnly: true, secure: true, sameSite: 'strict', path: '/api', maxAge: DAYS * 86_400_000 });
    response.status(201).json({ signedIn: true });
  });
  router.delete('/session', async (asked, response) => {
    const token = tokenOf(asked);
    if (token) await signOut(pool, token);
    response.clearCookie(COOKIE, { path: '/api' }).json({ signedIn: false });
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
    if (!token || !(await isSignedIn(pool, accountOf(asked), token))) throw new RequestError(401, 'sign in first');
    const look = setInterval(() => {
      void isSignedIn(pool, accountOf(asked), token).then(
        (still) => still || response.destroy(),
        () => undefined,
      );
    }, LOOK);
    response.on('close', () => clearInterval(look));
    next();
  };
