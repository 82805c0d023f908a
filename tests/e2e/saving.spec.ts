import { expect, test } from "@playwright/test";
import { inputOf, makeJob, open, saved, storedJob, typeQuantity } from "./support";

test("two windows on one job: the second sees what changed and chooses", async ({ browser, request, baseURL }) => {
  const id = await makeJob(request, "Two windows");
  const [one, two] = await Promise.all(
    [browser.newContext(), browser.newContext()].map(async (context) => (await context).newPage()),
  );
  await open(one!, `${baseURL}/jobs/${id}/bank`);
  await open(two!, `${baseURL}/jobs/${id}/bank`);
  await typeQuantity(one!, "bank.capacityAh", "280");
  await saved(one!);
  // The second window has not noticed: its save is refused and nothing of the first is overwritten.
  // Its save is held back until both edits are typed: the dialog would take the keyboard.
  let release = () => {};
  const both = new Promise<void>((resolve) => (release = resolve));
  await two!.route(`**/api/jobs/${id}`, async (route) => {
    if (route.request().method() === "PUT") await both;
    await route.continue();
  });
  await typeQuantity(two!, "bank.capacityAh", "310");
  await typeQuantity(two!, "bank.reserve", "30 %");
  release();
  const dialog = two!.getByRole("dialog", { name: /changed in another window/ });
  await expect(dialog).toBeVisible();
  await expect(dialog.getByRole("row", { name: /Capacity, each.*changed in both.*280 Ah.*310 Ah/ })).toBeVisible();
  expect((await storedJob(request, id)).job.bank).toMatchObject({ capacityAh: { value: 280 } });
  await dialog
    .getByRole("row", { name: /Capacity, each/ })
    .getByText("280 Ah, plate or stated")
    .click();
  await dialog.getByRole("button", { name: "Save this choice" }).click();
  await saved(two!);
  const { job, revision } = await storedJob(request, id);
  expect(job.bank).toMatchObject({ capacityAh: { value: 280 }, reserve: { value: 0.3 } });
  expect(revision).toBe(3);
});

test("a window without edits of its own takes over what another saved when it is looked at again", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Looked at again");
  await open(page, `/jobs/${id}/bank`);
  const { job, revision } = await storedJob(request, id);
  const put = await request.put(`/api/jobs/${id}`, {
    data: { revision, job: { ...job, bank: { ...job.bank, capacityAh: { value: 333, origin: "plate" } } } },
  });
  expect(put.status()).toBe(200);
  await page.evaluate(() => window.dispatchEvent(new Event("focus")));
  await expect(inputOf(page, "bank.capacityAh")).toHaveValue("333 Ah");
  await expect(page.locator("[data-save]")).toHaveText("Saved, revision 2");
});

test("while the server is away edits stay, the state says so, and they are saved when it is back", async ({
  page,
  request,
  context,
}) => {
  const id = await makeJob(request, "Poor reception");
  await open(page, `/jobs/${id}/bank`);
  await context.setOffline(true);
  await typeQuantity(page, "bank.capacityAh", "222");
  await expect(page.locator("[data-save]")).toHaveAttribute("data-save", "offline");
  await expect(inputOf(page, "bank.capacityAh")).toHaveValue("222 Ah");
  await context.setOffline(false);
  await saved(page);
  expect((await storedJob(request, id)).job.bank.capacityAh?.value).toBe(222);
});

test("edits of a window that died before they were sent come back when the job is opened again", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Died early");
  const { job } = await storedJob(request, id);
  await open(page, "/");
  await page.evaluate(
    ([key, draft]) => localStorage.setItem(key!, draft!),
    [
      `chillbank.draft.${id}`,
      JSON.stringify({
        revision: 1,
        base: job,
        job: { ...job, bank: { ...job.bank, capacityAh: { value: 123, origin: "plate" } } },
        at: Date.now() - 60_000,
      }),
    ],
  );
  await open(page, `/jobs/${id}/bank`);
  await expect(page.getByText("Unsaved edits restored")).toBeVisible();
  await expect(inputOf(page, "bank.capacityAh")).toHaveValue("123 Ah");
  await saved(page);
  expect((await storedJob(request, id)).job.bank.capacityAh?.value).toBe(123);
});

test("leaving by a link within the save delay still saves", async ({ page, request }) => {
  const id = await makeJob(request, "Left at once");
  await open(page, `/jobs/${id}/bank`);
  await typeQuantity(page, "bank.capacityAh", "145");
  await page.getByRole("link", { name: "Jobs" }).click();
  await expect(page).toHaveURL(/\/$/);
  await expect.poll(async () => (await storedJob(request, id)).job.bank.capacityAh?.value).toBe(145);
});

test("a job deleted elsewhere is not lost: the window offers to bring it back", async ({ page, request }) => {
  const id = await makeJob(request, "Deleted elsewhere");
  await open(page, `/jobs/${id}/bank`);
  await request.delete(`/api/jobs/${id}`);
  await typeQuantity(page, "bank.capacityAh", "150");
  await page.getByRole("button", { name: "Bring it back and save" }).click();
  await saved(page);
  expect((await storedJob(request, id)).job.bank.capacityAh?.value).toBe(150);
});

test("bad input to the server is a 4xx with path and reason, and nothing is stored", async ({ request }) => {
  const id = await makeJob(request, "Doors");
  const { job } = await storedJob(request, id);
  const put = (data: unknown) => request.put(`/api/jobs/${id}`, { data: data as object });
  const bad = await put({
    revision: 1,
    job: { ...job, bank: { ...job.bank, capacityAh: { value: -3, origin: "plate" } } },
  });
  expect(bad.status()).toBe(400);
  expect(await bad.json()).toMatchObject({
    error: expect.stringContaining("bank.capacityAh.value"),
    faults: [{ path: "bank.capacityAh.value" }],
  });
  expect((await put({ revision: "one", job })).status()).toBe(400);
  expect((await put({ revision: 7, job })).status()).toBe(409);
  expect((await request.put("/api/jobs/nonsense", { data: { revision: 1, job } })).status()).toBe(404);
  expect((await request.get("/api/jobs/01900000-0000-7000-8000-000000000000")).status()).toBe(404);
  expect(
    (
      await request.post("/api/jobs", { data: "x".repeat(600_000), headers: { "content-type": "application/json" } })
    ).status(),
  ).toBe(413);
  expect((await storedJob(request, id)).revision).toBe(1);
});

test("commissioning opens without reception, and what is ticked off there is saved when it comes back", async ({
  browser,
  request,
}) => {
  const job = await makeJob(request, "Kept for the field");
  // A context of its own: what it keeps is not there for other tests.
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, serviceWorkers: "allow" });
  const page = await context.newPage();
  await open(page, `/jobs/${job}/commissioning`);
  const kept = () => page.evaluate(async (path) => Boolean(await caches.match(path)), `/jobs/${job}/commissioning`);
  await expect.poll(kept, { timeout: 60_000 }).toBe(true);
  await context.setOffline(true);
  await page.reload();
  await expect(page.getByText("No connection: revision 1, as last seen")).toBeVisible();
  await page.getByRole("button", { name: "Pass", exact: true }).first().click();
  await expect(page.locator("[data-save=offline]")).toContainText("no connection");
  await context.setOffline(false);
  await expect(page.locator("[data-save=saved]")).toBeVisible({ timeout: 30_000 });
  expect((await storedJob(request, job)).job.handover.steps.filter(({ passed }) => passed)).toHaveLength(1);
  await context.close();
});

test("the two-minute answer opens without reception once it was opened", async ({ browser }) => {
  const context = await browser.newContext({ serviceWorkers: "allow" });
  const page = await context.newPage();
  await open(page, "/quick");
  await expect
    .poll(() => page.evaluate(async () => Boolean(await caches.match("/quick"))), { timeout: 60_000 })
    .toBe(true);
  await context.setOffline(true);
  await page.reload();
  await expect(page.locator("[data-verdict=recovers] [data-word]")).toBeVisible();
  await context.close();
});
