/// <reference lib="webworker" />
import {
  CacheableResponsePlugin,
  CacheFirst,
  ExpirationPlugin,
  NetworkFirst,
  Serwist,
  type SerwistPlugin,
} from "serwist";

/*
 * Test runs on a phone, the stages of a job and the two-minute answer open where there is no reception: the pages that were
 * opened, the log and the files that they are made of are kept as they were last seen. Nothing else is: every other page and
 * call goes to the server. Readings wait in the outbox, edits of a job in its draft; signing out drops all of it.
 */

const good = new CacheableResponsePlugin({ statuses: [200] });
const DAY_S = 86_400;
/**
 * A kept response carries the address that it was fetched by, fragment and all, and a worker takes that for its own: the
 * bundler starts every worker by one file and tells it by the fragment what to be, so each would become the one that was
 * kept. A response made anew has no address and takes the one that is asked for.
 */
const asAsked: SerwistPlugin = {
  cachedResponseWillBeUsed: ({ cachedResponse }) =>
    Promise.resolve(cachedResponse && new Response(cachedResponse.body, cachedResponse)),
};

/** A server whose database is away answers 503: what was seen last is shown then, as where there is no reception. */
const unlessAway: SerwistPlugin = {
  fetchDidSucceed: ({ response }) =>
    response.status === 503 ? Promise.reject(new Error("away")) : Promise.resolve(response),
  // Nothing was kept: the server's own words.
  handlerDidError: ({ request }) => fetch(request).catch(() => undefined),
};

const serwist = new Serwist({
  skipWaiting: true,
  clientsClaim: true,
  runtimeCaching: [
    {
      matcher: ({ request, url }) => request.mode === "navigate" && /^\/test-runs\/[^/]+$/.test(url.pathname),
      handler: new NetworkFirst({
        cacheName: "test-run-pages",
        networkTimeoutSeconds: 5,
        plugins: [unlessAway, good, new ExpirationPlugin({ maxEntries: 30, maxAgeSeconds: 60 * DAY_S })],
      }),
    },
    {
      matcher: ({ request, url }) => request.mode === "navigate" && /^\/(quick|jobs\/[^/]+\/[^/]+)$/.test(url.pathname),
      handler: new NetworkFirst({
        cacheName: "kept-pages",
        networkTimeoutSeconds: 5,
        plugins: [unlessAway, good, new ExpirationPlugin({ maxEntries: 60, maxAgeSeconds: 60 * DAY_S })],
      }),
    },
    {
      matcher: ({ url }) => /^\/api\/test-runs\/[^/]+\/log$/.test(url.pathname),
      handler: new NetworkFirst({
        cacheName: "test-run-logs",
        networkTimeoutSeconds: 20,
        plugins: [unlessAway, good, new ExpirationPlugin({ maxEntries: 5, maxAgeSeconds: 14 * DAY_S })],
      }),
    },
    {
      // Their names change with their contents.
      matcher: ({ url }) => url.pathname.startsWith("/_next/static/"),
      handler: new CacheFirst({
        cacheName: "files",
        plugins: [good, asAsked, new ExpirationPlugin({ maxEntries: 300, maxAgeSeconds: 60 * DAY_S })],
      }),
    },
  ],
});
serwist.addEventListeners();
