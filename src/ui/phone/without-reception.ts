/** Where the browser lets pages be kept (a secure address), and whether this one is kept now. */
export type Keeping = "kept" | "not kept";

/**
 * Has this page kept for where there is no reception: registers the service worker and, as it missed what was loaded
 * before it, puts the page and its files where it looks for them. Told as "not kept" where the browser has no such thing.
 */
export async function keepPage(): Promise<Keeping> {
  if (!("serviceWorker" in navigator) || !("caches" in window)) return "not kept";
  try {
    await navigator.serviceWorker.register("/service-worker.js", { scope: "/" });
    await navigator.serviceWorker.ready;
    const files = performance
      .getEntriesByType("resource")
      .map(({ name }) => new URL(name))
      .filter(({ origin, pathname }) => origin === location.origin && pathname.startsWith("/_next/static/"))
      .map(({ href }) => href);
    const [pages, kept] = await Promise.all([caches.open("test-run-pages"), caches.open("files")]);
    await pages.add(location.pathname);
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
