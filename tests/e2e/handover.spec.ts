import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { expect } from "@playwright/test";
import { complaints, makeJob, open, saved, storedJob } from "./support";
import { test } from "./window";

test("a handover document is chosen, read as it will print, and made as a PDF; its parts list leaves as CSV", async ({
  page,
  request,
}) => {
  const heard = complaints(page);
  const id = await makeJob(request, "Handover", (job) => {
    job.units[0]!.runningCurrent = { value: 6, origin: "plate" };
    job.units[0]!.name = "=1+1 roof unit";
    job.bank.capacityAh = { value: 300, origin: "plate" };
  });
  await open(page, `/jobs/${id}/brief`);
  await page.locator("h1").click();
  await page.keyboard.press("9");
  await expect(page).toHaveURL(/\/handover$/);
  const sheet = page.getByRole("article", { name: "The document as it will print" });
  await expect(sheet.getByRole("heading", { name: "Customer’s card" })).toBeVisible();
  await expect(sheet.getByRole("row", { name: /^Cooling at the set point/ }).first()).toContainText(/\d (h|days)/);
  await page.getByLabel("Where the switches are").fill("Isolator under the left bench");
  await page.getByLabel("Installer").fill("M. Tavares");
  await page.getByRole("checkbox", { name: "Parts list" }).uncheck();
  await expect(sheet.locator("[data-section=parts]")).toHaveCount(0);
  await expect(sheet).toContainText("Isolator under the left bench");
  // What touches life cannot be left off.
  await expect(page.getByRole("checkbox", { name: /^Cautions/ })).toBeDisabled();
  await expect(page.getByRole("checkbox", { name: /^Stops/ })).toBeDisabled();
  await saved(page);
  expect((await storedJob(request, id)).job.handover.document).toMatchObject({
    leaveOut: ["parts"],
    signedBy: "M. Tavares",
  });

  const opened = page.context().waitForEvent("page");
  await page.getByRole("button", { name: "Make the PDF" }).click();
  const ready = page.getByRole("link", { name: "Open it" });
  await expect(ready).toBeVisible();
  await (await opened).close();
  await expect(page.getByText(/^\d+ pages, \d+ kB, revision \d+\.$/)).toBeVisible();
  const address = await ready.getAttribute("href");
  expect(address).toBe(`/api/jobs/${id}/handover?paper=a4`);
  const pdf = await request.get(address!);
  expect(pdf.headers()["content-type"]).toBe("application/pdf");
  expect((await pdf.body()).subarray(0, 5).toString()).toBe("%PDF-");
  expect(Buffer.compare(await pdf.body(), await (await request.get(address!)).body())).toBe(0);

  const parts = await (await request.get(`/api/jobs/${id}/parts`)).text();
  expect(parts.split("\n")[0]).toBe("part,detail,quantity,unit,where");
  expect(parts).toContain("300 Ah");
  // No cell that a spreadsheet would run.
  expect(parts).not.toMatch(/(^|,)"?[=+@]/m);
  expect(heard).toEqual([]);
});

test("the making of a handover document tells how far it is, and is stopped", async ({ page, request }) => {
  const id = await makeJob(request, "Slow handover document", (job) => {
    job.bank.capacityAh = { value: 900, origin: "plate" };
  });
  await open(page, `/jobs/${id}/handover`);
  const make = page.getByRole("button", { name: "Make the PDF" });
  await expect(make).toBeEnabled();
  // What the server tells, by the same address that the page listens to.
  const told = await (await request.get(`/api/jobs/${id}/handover/progress?paper=letter`)).text();
  const events = told
    .trim()
    .split("\n\n")
    .map((one) => JSON.parse(one.replace(/^data: /, "")) as { share?: number; pages?: number });
  expect(events.length).toBeGreaterThan(8);
  expect(events[events.length - 1]!.pages).toBeGreaterThan(2);
  // One that never ends is stopped.
  await page.route("**/handover/progress?*", () => {});
  await make.click();
  await expect(page.getByRole("progressbar", { name: "Making the PDF" })).toBeVisible();
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(make).toBeEnabled();
  await expect(page.getByRole("progressbar", { name: "Making the PDF" })).toHaveCount(0);
  // One that fails says so, and can be tried again.
  await page.unroute("**/handover/progress?*");
  await page.route("**/handover/progress?*", (route) => route.abort());
  await make.click();
  await expect(page.getByText("The server did not answer. Try again.")).toBeVisible();
  await expect(make).toBeEnabled();
});

test("a test run is in the handover document: what was forecast and what came of it", async ({ page, request }) => {
  const id = await makeJob(request, "With a run");
  const made = await request.post(`/api/jobs/${id}/test-runs`, {
    data: { name: "First night", startedAt: Date.UTC(2026, 6, 5, 20) },
  });
  const { testRun } = (await made.json()) as { testRun: { id: string } };
  const hours = { p10: 3.1, p50: 4.4, p90: 6.2 };
  const put = await request.put(`/api/test-runs/${testRun.id}`, {
    data: {
      finished: true,
      snapshots: [{ minutes: 30, toReserve: hours, toCutoff: hours, hand: { now: 4, average: 5, halfHour: 4 } }],
      outcome: { reserveH: 4.5, cutoffH: null, endSoc: 0.2 },
    },
  });
  expect(put.ok()).toBe(true);
  await open(page, `/jobs/${id}/handover`);
  const measured = page.locator("[data-section=measurements]");
  await expect(measured).toContainText("Run of 2026-07-05: First night");
  await expect(measured.getByRole("row", { name: /^30 min/ })).toContainText("3.1 h to 6.2 h");
  await expect(page.locator("[data-section=followUps]")).toContainText("Annual capacity run");
});

test("parts leave as a workbook, follow-ups as a calendar", async ({ page, request }) => {
  const id = await makeJob(request, "Files");
  await open(page, `/jobs/${id}/handover`);
  const download = async (name: string) => {
    const [file] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name }).click()]);
    return { name: file.suggestedFilename(), bytes: readFileSync(await file.path()) };
  };
  const workbook = await download("Parts, XLSX");
  expect(workbook.name).toBe("files-parts.xlsx");
  expect(workbook.bytes.subarray(0, 2).toString()).toBe("PK");
  const calendar = await download("Follow-ups, ICS");
  expect(calendar.name).toBe("files-follow-up.ics");
  expect(calendar.bytes.toString()).toMatch(/^BEGIN:VCALENDAR\r\n[\s\S]*SUMMARY:Annual capacity run: Files/);
});

test("a whole job leaves as a ZIP and comes back after it was deleted, with test run, reading, photo and revision", async ({
  page,
  request,
}) => {
  const heard = complaints(page);
  const name = `Whole ${Date.now()}`;
  const id = await makeJob(request, name, (job) => {
    job.bank.capacityAh = { value: 345, origin: "measured" };
  });
  const { job } = await storedJob(request, id);
  await request.post(`/api/jobs/${id}/revisions`, {
    data: { id: randomUUID(), name: "As quoted", promise: "Six hours", job },
  });
  const made = await request.post(`/api/jobs/${id}/test-runs`, {
    data: { name: "Night one", startedAt: Date.UTC(2026, 6, 5, 20) },
  });
  const { testRun } = (await made.json()) as { testRun: { id: string } };
  const reading = {
    id: randomUUID(),
    timeMs: Date.UTC(2026, 6, 5, 20, 1),
    values: { battery_current_a: -31.5 },
    note: "fan only",
  };
  expect((await request.post(`/api/test-runs/${testRun.id}/readings`, { data: { readings: [reading] } })).ok()).toBe(
    true,
  );

  await open(page, `/?q=${encodeURIComponent(name)}`);
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: `Export ${name} whole` }).click(),
  ]);
  const zip = readFileSync(await file.path());
  await page.getByRole("button", { name: `Delete ${name}` }).click();
  await expect(page.getByRole("link", { name, exact: true })).toHaveCount(0);

  await page
    .getByLabel("Job file or whole job to import")
    .setInputFiles({ name: "job.zip", mimeType: "application/zip", buffer: zip });
  await expect(page).toHaveURL(/\/jobs\/[^/]+\/brief$/);
  const copy = /jobs\/([^/]+)/.exec(page.url())![1]!;
  expect(copy).not.toBe(id);
  expect((await storedJob(request, copy)).job).toEqual(job);
  const testRuns = (await (await request.get(`/api/jobs/${copy}/test-runs`)).json()) as {
    testRuns: { id: string; name: string; readings: number }[];
  };
  expect(testRuns.testRuns.map((one) => [one.name, one.readings])).toEqual([["Night one", 1]]);
  const revisions = (await (await request.get(`/api/jobs/${copy}/revisions`)).json()) as {
    revisions: { name: string }[];
  };
  expect(revisions.revisions.map((one) => one.name)).toEqual(["As quoted"]);
  expect(heard).toEqual([]);
});

test("a file that is no whole job is refused with why, on the list and in the sheet", async ({ page, request }) => {
  await page.goto("/");
  const list = page.getByLabel("Job file or whole job to import");
  await list.setInputFiles({ name: "holiday.zip", mimeType: "application/zip", buffer: Buffer.from("PK nothing") });
  await expect(page.getByText("holiday.zip: This is not a ZIP file, or it is cut off.")).toBeVisible();
  await expect(page).toHaveURL(/\/$/);
  await open(page, `/jobs/${await makeJob(request, "Stays")}/brief`);
  const sheet = page.getByLabel("Job file to put in place of this one");
  await sheet.setInputFiles({ name: "job.zip", mimeType: "application/zip", buffer: Buffer.from("PK") });
  await expect(page.getByText("job.zip is a whole job: import it from the list of jobs")).toBeVisible();
  await expect(page.locator("h1")).toContainText("Stays");
});

test("a system that stops says so before all else on its handover document", async ({ page, request }) => {
  const id = await makeJob(request, "Stopped", (job) => {
    job.wiring.main = job.wiring.main.filter(({ kind }) => kind !== "fuse");
  });
  await open(page, `/jobs/${id}/handover`);
  const first = page.getByRole("article", { name: "The document as it will print" }).locator("[data-section]").first();
  await expect(first).toHaveAttribute("data-section", "stops");
  await expect(first).toContainText("Do not use the system before these are put right.");
});

test("a customer's page opens by its link alone, is light on a phone, and is withdrawn", async ({
  page,
  request,
  browser,
}) => {
  const id = await makeJob(request, "Customer", (job) => {
    job.brief.wording = "what was said in confidence";
    job.bank.capacityAh = { value: 300, origin: "plate" };
  });
  await open(page, `/jobs/${id}/handover`);
  await page.getByRole("button", { name: "Make a link" }).click();
  const link = page.getByRole("status").getByRole("link");
  const address = (await link.getAttribute("href"))!;
  expect(address).toMatch(/\/c\/[A-Za-z0-9_-]{32}$/);

  const phone = await (
    await browser.newContext({ viewport: { width: 390, height: 844 }, storageState: { cookies: [], origins: [] } })
  ).newPage();
  const asked: string[] = [];
  phone.on("request", (one) => asked.push(one.url()));
  await phone.goto(address);
  await expect(phone.getByRole("heading", { name: "Customer’s card" })).toBeVisible();
  await expect(phone.getByRole("heading", { name: "How long, by heat and set point" })).toBeVisible();
  await expect(phone.getByText("what was said in confidence")).toHaveCount(0);
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  // One page, nothing behind it.
  expect(asked.filter((url) => !url.endsWith("favicon.ico"))).toEqual([address]);

  await page.getByRole("list", { name: "Links in use" }).getByRole("button", { name: "Withdraw" }).click();
  await expect(page.getByRole("list", { name: "Links in use" }).getByRole("listitem")).toHaveCount(0);
  expect((await phone.goto(address))!.status()).toBe(404);
  await expect(phone.getByText("Ask your installer for a new one.")).toBeVisible();
  await phone.close();
});

test("strangers and rubbish are refused by the document's handlers", async ({ request }) => {
  const id = await makeJob(request, "Door");
  const status = async (address: string) => (await request.get(address)).status();
  expect(await status(`/api/jobs/${id}/handover?paper=a5`)).toBe(400);
  expect(await status(`/api/jobs/00000000-0000-4000-8000-000000000000/handover`)).toBe(404);
  expect(await status(`/api/jobs/none/parts`)).toBe(404);
  expect(await status(`/api/jobs/${id}/handover/progress?paper=a5`)).toBe(400);
  expect(await status(`/api/jobs/${id}/parts?as=pdf`)).toBe(400);
  expect(await status(`/api/jobs/00000000-0000-4000-8000-000000000000/whole`)).toBe(404);
  expect(await status(`/api/jobs/00000000-0000-4000-8000-000000000000/calendar`)).toBe(404);
  const text = await request.post("/api/jobs/whole", { headers: { "content-type": "text/plain" }, data: "x" });
  expect(text.status()).toBe(415);
  expect(await status(`/c/${"A".repeat(32)}`)).toBe(404);
  const days = await request.post(`/api/jobs/${id}/links`, { data: { days: 9999 } });
  expect([days.status(), ((await days.json()) as { faults: { path: string }[] }).faults[0]!.path]).toEqual([
    400,
    "days",
  ]);
  const gone = await request.delete(`/api/jobs/${id}/links/00000000-0000-4000-8000-000000000000`);
  expect(gone.status()).toBe(404);
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 } });
  test("the handover document can be read without scrolling sideways", async ({ page, request }) => {
    await open(page, `/jobs/${await makeJob(request, "Phone")}/handover`);
    await expect(page.locator("[data-section=card]")).toBeVisible();
    await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  });
});
