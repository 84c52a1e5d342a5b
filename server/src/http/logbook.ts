import { Router } from 'express';
import { loggedTrips, searchLog, speciesRecords } from '../db/logbook';
import type { Pool } from '../db/pool';
import { accountOf } from './account';
import { on } from './on';

/** Nobody searches for more words, characters. */
const LONGEST = 200;

/** All trips, and what is written in them. */
export function logbookRoutes(pool: Pool): Router {
  const router = Router();
  on(router, 'GET /logbook', ({ request }) => loggedTrips(pool, accountOf(request)));
  on(router, 'GET /logbook/records', ({ request }) => speciesRecords(pool, accountOf(request)));
  on(router, 'GET /logbook/search', async ({ request }) => {
    const asked = (name: string): string => (typeof request.query[name] === 'string' ? request.query[name].trim().slice(0, LONGEST) : '');
    const words = asked('q');
    if (!words) return [];
    return searchLog(pool, accountOf(request), words, asked('or').split(',').filter(Boolean));
  });
  return router;
}
