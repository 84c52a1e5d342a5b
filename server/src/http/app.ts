import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, type RequestHandler } from 'express';
import helmet from 'helmet';
import { toString as qrCode } from 'qrcode';
import { openApi } from '@restless-shoal/core/contract';
import type { Pool } from '../db/pool';
import { localAccount } from '../db/waters';
import type { Feed } from '../feed';
import { fingerprint } from '../listen';
import type { Jobs } from '../jobs/queue';
import type { Backups } from '../backup';
import { backupRoutes } from './backup';
import { chartRoutes } from './charts';
import { demoRoutes } from './demo';
import { answerErrors, notFound, RequestError } from './errors';
import { feedRoutes } from './feed';
import { on } from './on';
import { keepableOnly, sameOriginOnly, type Reach } from './guard';
import { signedInOnly, signInRoutes } from './sign-in';
import { forecastRoutes } from './forecast';
import { gearRoutes } from './gear';
import { photoRoutes } from './photos';
import { planRoutes } from './plan';
import { trashRoutes } from './trash';
import { logbookRoutes } from './logbook';
import { spotRoutes } from './spots';
import { tripRoutes } from './trips';
import { waterRoutes } from './waters';

export interface AppOptions {
  pool: Pool;
  jobs: Jobs;
  backups: Backups;
  /** A folder for what is made to be handed out. */
  scratch: string;
  feed: Feed;
  /** Built pages. */
  pages: string;
  /** How it is reached. */
  reach: () => Reach;
  /** Served to other devices: where they find it, and the authority of a self-made certificate. Who comes has to sign in. */
  listening?: { addresses: () => string[]; authority: string | null } | null;
  log?: (line: string) => void;
}

/** The application: the HTTP interface under /api, the built pages elsewhere. */
export function makeApp({ pool, jobs, backups, scratch, feed, pages, reach, listening, log }: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.locals.log = log;
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          // Styles set from code (positions in charts) are inline; scripts never are.
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          workerSrc: ["'self'", 'blob:'],
          objectSrc: ["'none'"],
          frameAncestors: ["'none'"],
          baseUri: ["'self'"],
          formAction: ["'self'"],
        },
      },
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: false,
    }),
  );
  app.use(sameOriginOnly(reach));
  // Charts, fits and soundings are bytes that pack well.
  const packs = (type: unknown): boolean => String(type).startsWith('application/octet-stream');
  app.use(
    compression({ filter: (request, response) => packs(response.getHeader('Content-Type')) || compression.filter(request, response) }),
  );
  const api = express.Router();
  api.use((request, _response, next) => {
    // Files come as bytes, which no form of another page can send either.
    const file =
      request.method === 'PUT' && (request.path.startsWith('/uploads/') || /^\/trips\/[^/]+\/photos\/[^/]+\/picture$/.test(request.path));
    if (['POST', 'PUT', 'PATCH'].includes(request.method) && !file && !request.is('application/json'))
      throw new RequestError('request-not-json');
    next();
  });
  // Asked anew each time: a backup that is restored while the server runs brings its own.
  api.use(async (request, response, next) => {
    const [account, { rows }] = await Promise.all([localAccount(pool), pool.query<{ epoch: string }>('SELECT epoch FROM installation')]);
    request.app.locals.account = account;
    // A device that sees another epoch offers again what it holds; one whose clock is wrong logs by ours.
    response.setHeader('X-Epoch', rows[0].epoch);
    response.setHeader('X-Server-Time', Date.now());
    next();
  });
  on(api, 'GET /health', ({ response }) => ({ ok: true as const, epoch: response.getHeader('X-Epoch') }));
  // Only JSON is taken, so that a form of another page can never be read as a request. Of a stranger no more is read
  // than a password is long.
  const jsonUpTo = (limit: string): RequestHandler[] => [express.json({ limit, type: 'application/json' }), keepableOnly];
  if (listening) {
    api.use('/session', ...jsonUpTo('4kb'));
    api.use(signInRoutes(pool), signedInOnly(pool));
  }
  api.use(...jsonUpTo('8mb'));
  // For another device: where it finds this, as words and as a code for its camera.
  on(api, 'GET /reach', async () => {
    const addresses = listening?.addresses() ?? [];
    const print = listening?.authority ? fingerprint(listening.authority) : null;
    return {
      addresses,
      fingerprint: print,
      // The fingerprint travels with the address: it stands in the phone's address bar.
      code: addresses.length
        ? await qrCode(print ? `${addresses[0]}/#authority=${print}` : addresses[0], { type: 'svg', margin: 2 })
        : null,
    };
  });
  const described = JSON.stringify(openApi(), null, 1);
  on(api, 'GET /openapi.json', ({ response }) => void response.type('application/json').send(described));
  api.use(backupRoutes(pool, backups, scratch));
  api.use(waterRoutes(pool, jobs));
  api.use(trashRoutes(pool));
  api.use(demoRoutes(jobs));
  api.use(planRoutes(pool));
  api.use(spotRoutes(pool));
  api.use(chartRoutes(pool, jobs, scratch));
  api.use(logbookRoutes(pool));
  api.use(tripRoutes(pool));
  api.use(photoRoutes(pool));
  api.use(gearRoutes(pool));
  api.use(feedRoutes(pool, feed));
  api.use(forecastRoutes(pool, jobs));
  api.use((request) => {
    throw new RequestError('no-such-route', { route: `${request.method} ${request.path}` });
  });
  app.use('/api', api);
  // What a phone has to trust before it can come in; it opens nothing.
  app.get('/authority.crt', (_request, response) => {
    if (!listening?.authority) throw new RequestError('no-certificate');
    response.type('application/x-x509-ca-cert').send(listening.authority);
  });
  app.use(
    express.static(pages, {
      index: false,
      maxAge: 0,
      setHeaders: (response, path) =>
        path.includes('/assets/') && response.setHeader('Cache-Control', 'public, max-age=31536000, immutable'),
    }),
  );
  app.get('/{*path}', (request, response) => {
    const file = join(pages, 'index.html');
    if (/\.\w+$/.test(request.path) || !existsSync(file)) throw existsSync(file) ? notFound('page') : new RequestError('pages-not-built');
    response.setHeader('Cache-Control', 'no-cache');
    response.sendFile(file);
  });
  app.use(answerErrors);
  return app;
}
