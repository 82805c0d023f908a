/// <reference lib="webworker" />
import { CacheableResponsePlugin, CacheFirst, ExpirationPlugin, NetworkFirst, Serwist } from "serwist";

/*
 * The phone page opens where there is no reception: its page, its log and the files it is made of are kept as they were
 * last seen. Nothing else is: every other page and call goes to the server, and writing is the outbox's work.
 */

const good = new CacheableResponsePlugin({ statuses: [200] });
const DAY_S = 86_400;

const serwist = new Serwist({
  skipWaiting: true,
  clientsClaim: true,
  runtimeCaching: [
    {
      matcher: ({ request, url }) => request.mode === "navigate" && /^\/trials\/[^/]+$/.test(url.pathname),
      handler: new NetworkFirst({
        cacheName: "trial-pages",
        networkTimeoutSeconds: 5,
        plugins: [good, new ExpirationPlugin({ maxEntries: 30, maxAgeSeconds: 60 * DAY_S })],
      }),
    },
    {
      matcher: ({ url }) => /^\/api\/trials\/[^/]+\/log$/.test(url.pathname),
      handler: new NetworkFirst({
        cacheName: "trial-logs",
        networkTimeoutSeconds: 20,
        plugins: [good, new ExpirationPlugin({ maxEntries: 5, maxAgeSeconds: 14 * DAY_S })],
      }),
    },
    {
      // Their names change with their contents.
      matcher: ({ url }) => url.pathname.startsWith("/_next/static/"),
      handler: new CacheFirst({
        cacheName: "files",
        plugins: [good, new ExpirationPlugin({ maxEntries: 300, maxAgeSeconds: 60 * DAY_S })],
      }),
    },
  ],
});
serwist.addEventListeners();
