import { unsent } from "./outbox";
import { PHOTO_BOX, unsentPhotos } from "./photo-box";

/*
 * What this browser keeps of a workshop: pages and logs for where there is no reception, readings and photos that wait, edits that were
 * not saved. Whoever signs out leaves none of it behind.
 */

const PAGES = /^(test-run|kept)-/;
const DRAFTS = /^chillbank\.(draft|enquiry)/;

/** How many readings and photos on this device were not sent yet. */
export const unsentHere = async (): Promise<number> => {
  const counts = await Promise.all([unsent(), unsentPhotos()].map((one) => one.catch(() => 0)));
  return counts.reduce((sum, one) => sum + one, 0);
};

/** Drops all that is kept of a workshop; the choice of the theme stays. */
export async function forget(): Promise<void> {
  for (const key of Object.keys(localStorage)) if (DRAFTS.test(key)) localStorage.removeItem(key);
  sessionStorage.clear();
  // Where pages are not kept (plain http beyond this machine) there is no cache to ask.
  if ("caches" in window) for (const name of await caches.keys()) if (PAGES.test(name)) await caches.delete(name);
  for (const box of ["chillbank-outbox", PHOTO_BOX])
    await new Promise<void>((resolve) => {
      const gone = indexedDB.deleteDatabase(box);
      gone.onsuccess = gone.onerror = gone.onblocked = () => resolve();
    });
}
