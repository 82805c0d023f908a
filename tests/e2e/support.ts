import { expect, type APIRequestContext, type Locator, type Page } from "@playwright/test";
import { emptyJob, type Job } from "../../src/core/document/schema";
import { go } from "./window";

/** Makes a job by the server's own handler and returns its id. */
export async function makeJob(
  request: APIRequestContext,
  name: string,
  change: (job: Job) => void = () => {},
): Promise<string> {
  const job = emptyJob(name);
  job.place.listed = "faro";
  job.weather.kind = "usual";
  job.inverter.neutralBond = "relay";
  change(job);
  const response = await request.post("/api/jobs", { data: { job } });
  expect(response.status()).toBe(201);
  return ((await response.json()) as { id: string }).id;
}

/** A job of its own with a test run that has just begun. Returns the ids of both. */
export async function makeTestRun(request: APIRequestContext, name: string): Promise<{ job: string; run: string }> {
  const job = await makeJob(request, name);
  const made = await request.post(`/api/jobs/${job}/test-runs`, { data: { name: "One", startedAt: Date.now() } });
  const { testRun } = (await made.json()) as { testRun: { id: string } };
  return { job, run: testRun.id };
}

export async function storedJob(request: APIRequestContext, id: string): Promise<{ revision: number; job: Job }> {
  const response = await request.get(`/api/jobs/${id}`);
  expect(response.status()).toBe(200);
  return (await response.json()) as { revision: number; job: Job };
}

/** Opens a page and waits until it is awake: before that a click has nobody to hear it. */
export async function open(page: Page, address: string): Promise<void> {
  await go(page, address);
  // Sheets show what their worker has run only once they are awake.
  if (/\/jobs\/[\w-]{8}/.test(address) || /\/quick$/.test(address))
    await expect(page.locator("[data-verdict=recovers] [data-word]").first()).toBeVisible();
}

/** The line of a quantity by its document path, and the input in it. */
export const lineOf = (page: Page, path: string): Locator => page.locator(`[data-path="${path}"]`);
export const inputOf = (page: Page, path: string): Locator => lineOf(page, path).locator("input.quantity");

/** Opens a quantity for typing; again where the page was not awake at the first click. */
export async function openQuantity(page: Page, path: string): Promise<Locator> {
  const input = inputOf(page, path);
  await expect(async () => {
    await input.click();
    await expect(input).not.toHaveAttribute("readonly", /.*/, { timeout: 1000 });
  }).toPass();
  return input;
}

/** Types a quantity as a person does: click, type over, Enter. */
export async function typeQuantity(page: Page, path: string, text: string): Promise<void> {
  const input = await openQuantity(page, path);
  await input.fill(text);
  await input.press("Enter");
}

/** Clicks until what the click brings is there: before the page is awake a click has nobody to hear it. */
export async function clickFor(button: Locator, seen: Locator): Promise<void> {
  await expect(async () => {
    if (!(await seen.isVisible())) await button.click({ timeout: 5000 });
    await expect(seen).toBeVisible({ timeout: 5000 });
  }).toPass();
}

export const wordOf = (page: Page, verdict: string): Locator => page.locator(`[data-verdict="${verdict}"] [data-word]`);
export const saved = (page: Page) => expect(page.locator("[data-save]")).toHaveAttribute("data-save", "saved");

/** What the driver says in place of the service worker that it keeps out. */
const NO_SERVICE_WORKER = "Service Worker registration blocked";

/** Collects what the page complains of; a test ends by asking that it be nothing. */
export function complaints(page: Page): string[] {
  const heard: string[] = [];
  page.on("console", (message) => {
    if (message.type() !== "error" && message.type() !== "warning") return;
    if (!message.text().includes(NO_SERVICE_WORKER)) heard.push(message.text());
  });
  page.on("pageerror", (error) => heard.push(error.message));
  return heard;
}
