import { ExpirationPlugin } from 'workbox-expiration';
import { createHandlerBoundToURL, precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { CacheFirst, NetworkFirst } from 'workbox-strategies';
import { KEPT_AT } from '../api/kept';

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: { url: string; revision: string | null }[] };

// The application itself: all of it is on the device before the boat leaves the ramp.
precacheAndRoute(self.__WB_MANIFEST);
registerRoute(new NavigationRoute(createHandlerBoundToURL('/index.html'), { denylist: [/^\/api\//] }));

/** What is read on the water: waters, charts, logs, trips, fits. Not files to carry away, jobs or streams. */
const KEPT =
  /^\/api\/(logbook|logbook\/records|gear|waters|waters\/[^/]+(\/(chart|log|spots|photos|logbook|plan|contacts|looked-at|surveys|rod-hours|models\/[^/]+))?|trips\/[^/]+)$/;

registerRoute(
  ({ url }) => url.origin === self.location.origin && KEPT.test(url.pathname),
  new NetworkFirst({
    cacheName: 'restless-shoal-water',
    plugins: [
      {
        // The page says how old an answer is that comes from the device.
        cacheWillUpdate: async ({ response }) => {
          if (!response.ok) return null;
          const headers = new Headers(response.headers);
          headers.set(KEPT_AT, String(Date.now()));
          const empty = response.status === 204;
          return new Response(empty ? null : await response.clone().arrayBuffer(), { status: response.status, headers });
        },
      },
      new ExpirationPlugin({ maxEntries: 300, purgeOnQuotaError: true }),
    ],
  }),
);

// Pictures under an id stay as they are.
registerRoute(
  ({ url }) => url.origin === self.location.origin && /^\/api\/trips\/[^/]+\/photos\/[^/]+\/picture$/.test(url.pathname),
  new CacheFirst({ cacheName: 'restless-shoal-pictures', plugins: [new ExpirationPlugin({ maxEntries: 200, purgeOnQuotaError: true })] }),
);

// A new version takes over when the last page of the old one is closed; what is being logged is never cut off.
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
