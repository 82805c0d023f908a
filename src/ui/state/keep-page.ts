import { useEffect, useSyncExternalStore } from "react";

/** Where the browser lets pages be kept (a secure address), and whether this one is kept now. */
export type Keeping = "kept" | "not kept";

/** Cache of a page by where it stands: the service worker looks there for it (workers/service-worker.ts). */
const cacheOf = (path: string) => (path.startsWith("/test-runs/") ? "test-run-pages" : "kept-pages");

/**
 * Has this page kept for where there is no reception: registers the service worker and, as it missed what was loaded
 * before it, puts the page and its files where it looks for them. Told as "not kept" where the browser has no such thing.
 */
export async function keepPage(path = location.pathname): Promise<Keeping> {
  if (!("serviceWorker" in navigator) || !("caches" in window)) return "not kept";
  try {
    await navigator.serviceWorker.register("/service-worker.js", { scope: "/" });
    await navigator.serviceWorker.ready;
    const files = performance
      .getEntriesByType("resource")
      .map(({ name }) => new URL(name))
      .filter(({ origin, pathname }) => origin === location.origin && pathname.startsWith("/_next/static/"))
      .map(({ href }) => href);
    const [pages, kept] = await Promise.all([caches.open(cacheOf(path)), caches.open("files")]);
    await pages.add(path);
    await Promise.all(
      [...new Set(files)].map(async (file) => {
        if (!(await kept.match(file))) await kept.add(file);
      }),
    );
    return "kept";
  } catch {
    return "not kept";
  }
}

/** How long a page has to stay open before it is kept, ms: its pictures and workers have come by then. */
const SETTLED_MS = 4000;

/** Keeps the page that is open, once it has settled; again where `again` changes. */
export function useKeptPage(path: string, again: unknown = null): void {
  useEffect(() => {
    const timer = setTimeout(() => void keepPage(path), SETTLED_MS);
    return () => clearTimeout(timer);
  }, [path, again]);
}

const watchLine = (changed: () => void) => {
  for (const event of ["online", "offline"]) window.addEventListener(event, changed);
  return () => {
    for (const event of ["online", "offline"]) window.removeEventListener(event, changed);
  };
};

/** Whether the browser has a connection at all. */
export const useOnline = (): boolean =>
  useSyncExternalStore(
    watchLine,
    () => navigator.onLine,
    () => true,
  );
