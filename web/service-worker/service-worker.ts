import { ExpirationPlugin } from 'workbox-expiration';
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { NetworkFirst } from 'workbox-strategies';

declare const self: ServiceWorkerGlobalScope;
/** Files of this build, put in when the pages are built. */
declare const __FILES_OF_BUILD__: { url: string; revision: string | null }[];

/** What was read last of so many programmes stays at hand. */
const KEPT_ANSWERS = 24;
/** Programmes and their curves: what Day, Logs and Verdict show. Everything else needs Gezeit itself. */
const KEPT = /^\/api\/programmes(\/[^/]+(\/curves)?)?$/;

// A day goes on where the server does not: the pages come from here while nothing answers, with the programmes as they were read last.
precacheAndRoute(__FILES_OF_BUILD__);
cleanupOutdatedCaches();
registerRoute(
  new NavigationRoute(
    async ({ request }) => {
      try {
        return await fetch(request);
      } catch {
        return (await matchPrecache('/index.html')) ?? Response.error();
      }
    },
    { denylist: [/^\/api\//] },
  ),
);
registerRoute(
  ({ url, request }) => request.method === 'GET' && KEPT.test(url.pathname),
  new NetworkFirst({
    cacheName: 'answers',
    plugins: [
      new ExpirationPlugin({ maxEntries: KEPT_ANSWERS }),
      {
        // The pages say since when nothing answers.
        cachedResponseWillBeUsed: async ({ cachedResponse }) => {
          if (!cachedResponse) return null;
          const headers = new Headers(cachedResponse.headers);
          headers.set('x-gezeit-kept', headers.get('date') ?? '');
          return new Response(cachedResponse.body, { status: cachedResponse.status, headers });
        },
      },
    ],
  }),
);

self.addEventListener('install', () => void self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
