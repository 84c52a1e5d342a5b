import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, type RequestHandler } from 'express';
import helmet from 'helmet';
import { toString as qrCode } from 'qrcode';
import type { Pool } from '../db/pool';
import { localAccount } from '../db/waters';
import type { Feed } from '../feed';
import { fingerprint } from '../listen';
import type { Jobs } from '../jobs/queue';
import type { Backups } from '../backup';
import { backupRoutes } from './backup';
import { chartRoutes } from './charts';
import { demoRoutes } from './demo';
import { answerErrors, RequestError } from './errors';
import { feedRoutes } from './feed';
import { keepableOnly, sameOriginOnly, type Reach } from './guard';
import { signedInOnly, signInRoutes } from './sign-in';
import { forecastRoutes } from './forecast';
import { planRoutes } from './plan';
import { trashRoutes } from './trash';
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
  app.use(compression());
  const api = express.Router();
  api.use((request, _response, next) => {
    // Files come as bytes, which no form of another page can send either.
    const file = request.method === 'PUT' && request.path.startsWith('/uploads/');
    if (['POST', 'PUT', 'PATCH'].includes(request.method) && !file && !request.is('application/json'))
      throw new RequestError(415, 'the request has to be JSON');
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
  api.get('/health', (_request, response) => {
    response.json({ ok: true, epoch: response.getHeader('X-Epoch') });
  });
  // Only JSON is taken, so that a form of another page can never be read as a request. Of a stranger no more is read
  // than a password is long.
  const jsonUpTo = (limit: string): RequestHandler[] => [express.json({ limit, type: 'application/json' }), keepableOnly];
  if (listening) {
    api.use('/session', ...jsonUpTo('4kb'));
    api.use(signInRoutes(pool), signedInOnly(pool));
  }
  api.use(...jsonUpTo('8mb'));
  // For another device: where it finds this, as words and as a code for its camera.
  api.get('/reach', async (_request, response) => {
    const addresses = listening?.addresses() ?? [];
    const print = listening?.authority ? fingerprint(listening.authority) : null;
    response.json({
      addresses,
      fingerprint: print,
      // The fingerprint travels with the address: it stands in the phone's address bar.
      code: addresses.length
        ? await qrCode(print ? `${addresses[0]}/#authority=${print}` : addresses[0], { type: 'svg', margin: 2 })
        : null,
    });
  });
  api.use(backupRoutes(pool, backups, scratch));
  api.use(waterRoutes(pool));
  api.use(trashRoutes(pool));
  api.use(demoRoutes(jobs));
  api.use(planRoutes(pool));
  api.use(chartRoutes(pool, jobs, scratch));
  api.use(tripRoutes(pool));
  api.use(feedRoutes(pool, feed));
  api.use(forecastRoutes(pool, jobs));
  api.use((request) => {
    throw new RequestError(404, `there is no ${request.method} ${request.path}`);
  });
  app.use('/api', api);
  // What a phone has to trust before it can come in; it opens nothing.
  app.get('/authority.crt', (_request, response) => {
    if (!listening?.authority) throw new RequestError(404, 'there is no certificate of our own making');
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
    if (/\.\w+$/.test(request.path) || !existsSync(file))
      throw new RequestError(404, existsSync(file) ? 'there is no such page' : 'the pages are not built yet: start with ./shoal');
    response.setHeader('Cache-Control', 'no-cache');
    response.sendFile(file);
  });
  app.use(answerErrors);
  return app;
}
