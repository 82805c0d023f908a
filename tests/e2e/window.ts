import { test as base, type BrowserContext, type Page, type ViewportSize } from "@playwright/test";
import { SESSION } from "./session";

/** The window that a worker's tests share, once one of them has opened it. */
interface Kept {
  context?: BrowserContext;
  page?: Page;
}

/** Routes of the application are changed as its links do, by what the framework leaves on the window. */
declare global {
  interface Window {
    next?: { router?: { push(address: string): void } };
  }
}

/** Forgets what a test before left with the browser; its own job, and with it all that it stored, is no other test's. */
async function asNew(context: BrowserContext, page: Page, viewport: ViewportSize | null): Promise<void> {
  page.removeAllListeners();
  await page.unrouteAll();
  await context.unrouteAll();
  await context.setOffline(false);
  await context.setStorageState(SESSION);
  if (viewport) await page.setViewportSize(viewport);
  await page.emulateMedia({ colorScheme: null, media: null, reducedMotion: "reduce" });
}

/**
 * Tests that share a window, as somebody who works through a day has one open: the application is loaded once and then gone
 * through by its links, which takes half of the time that loading it takes for each test. A test that wants another
 * session, a page kept on the device or another screen has a window of its own, and so has the next after one that failed.
 */
export const test = base.extend<object, { kept: Kept }>({
  kept: [
    // oxlint-disable-next-line no-empty-pattern -- the runner reads from here what a fixture wants
    async ({}, use) => {
      const kept: Kept = {};
      await use(kept);
      await kept.context?.close();
    },
    { scope: "worker" },
  ],
  context: async ({ context, kept, browser, serviceWorkers, storageState, viewport }, use, { project }) => {
    const { use: usual } = project;
    const asUsual =
      serviceWorkers === usual.serviceWorkers &&
      storageState === usual.storageState &&
      viewport?.width === usual.viewport?.width;
    if (!asUsual) return use(context);
    kept.context ??= await browser.newContext();
    await use(kept.context);
  },
  page: async ({ context, kept, viewport }, use, info) => {
    if (context !== kept.context) return use(await context.newPage());
    if (kept.page?.isClosed()) kept.page = undefined;
    kept.page ??= await context.newPage();
    await asNew(context, kept.page, viewport);
    await use(kept.page);
    for (const page of context.pages()) if (page !== kept.page) await page.close();
    if (info.status === info.expectedStatus) return;
    await context.close();
    kept.context = kept.page = undefined;
  },
});

/** Loads an address anew, and waits until the page is awake: its scripts have taken over, and a click is heard. */
export async function load(page: Page, address: string): Promise<void> {
  await page.goto(address);
  await page.locator("html[data-awake]").waitFor({ state: "attached" });
}

/** A page that asks for little: by way of it an address is visited again. */
const ELSEWHERE = "/deleted";

async function follow(page: Page, address: string): Promise<void> {
  await page.evaluate((to) => window.next!.router!.push(to), address);
  await page.waitForURL((url) => url.pathname === pathOf(address));
}
const pathOf = (address: string) => new URL(address, "http://nowhere").pathname;

/** Whether a page of the application is open, without a dialog of the test before over it. */
const mayFollow = (): boolean =>
  Boolean(window.next?.router) &&
  ![...document.querySelectorAll(".ant-modal-wrap")].some((dialog) => dialog.getClientRects().length > 0);

/** Goes to an address by the application's own links where another of its pages is open, and loads it otherwise. */
export async function go(page: Page, address: string): Promise<void> {
  if (!(await page.evaluate(mayFollow))) return load(page, address);
  if (new URL(page.url()).pathname === pathOf(address)) await follow(page, ELSEWHERE);
  await follow(page, address);
}
