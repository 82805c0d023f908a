import { expect } from "@playwright/test";
import { readFileSync } from "node:fs";
import { emptyJob } from "../../src/core/document/schema";
import { complaints, makeJob, open, storedJob, typeQuantity, wordOf } from "./support";
import { test } from "./window";

test("the demo's jobs are listed with their verdicts and found by a word", async ({ page }) => {
  const heard = complaints(page);
  await open(page, "/?q=puppet");
  const row = page.getByRole("row", { name: /Marionette, a puppet theatre's bus/ });
  await expect(row).toContainText("Fails");
  await expect(row).toContainText("Inverter surge");
  await page.getByRole("textbox", { name: "Find a job" }).fill("carob honey");
  await expect(page.getByRole("link", { name: /Skep/ })).toBeVisible();
  await expect(page.getByRole("link", { name: /Marionette/ })).toBeHidden();
  await page.getByRole("textbox", { name: "Find a job" }).fill("no such words");
  await expect(page.getByText("No job matches “no such words”.")).toBeVisible();
  await page.getByRole("button", { name: "Show all" }).click();
  // Which jobs stand on the first page hangs on what was made before.
  await expect(page.getByRole("textbox", { name: "Find a job" })).toHaveValue("");
  await expect(page.getByRole("row").nth(1)).toBeVisible();
  expect(heard).toEqual([]);
});

test("new job by key, on American mains, opens its sheet in its units", async ({ page }) => {
  await open(page, "/");
  await page.getByRole("heading", { name: /Chillbank/ }).click();
  await page.keyboard.press("n");
  await page.getByLabel("Customer or name of the system").fill("Night heron, a survey truck");
  await page.getByLabel("120 V 60 Hz, American").check();
  await page.getByRole("button", { name: "Open job" }).click();
  await expect(page).toHaveURL(/\/jobs\/[0-9a-f-]{36}\/brief$/);
  await expect(page.locator('[data-path="weather.highestC"] input')).toHaveValue("95 °F");
  await expect(page.getByRole("heading", { name: "Night heron, a survey truck" })).toBeVisible();
});

test("the address that asks for a new job opens its dialog, without a complaint", async ({ page }) => {
  const heard = complaints(page);
  await open(page, "/?new");
  await expect(page.getByLabel("Customer or name of the system")).toBeFocused();
  expect(heard).toEqual([]);
});

test("duplicate, then delete with undo", async ({ page, request }) => {
  await makeJob(request, "Zebra finch");
  await open(page, "/?q=zebra");
  await page.getByRole("button", { name: "Duplicate Zebra finch" }).click();
  await expect(page.getByRole("link", { name: "Zebra finch copy" })).toBeVisible();
  await page.getByRole("button", { name: "Delete Zebra finch copy" }).click();
  await expect(page.getByRole("link", { name: "Zebra finch copy" })).toBeHidden();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("link", { name: "Zebra finch copy" })).toBeVisible();
});

test("export gives the document; import makes the same job of it and refuses another file with the reason", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Export me", (job) => (job.bank.capacityAh = { value: 280, origin: "measured" }));
  await open(page, `/jobs/${id}/brief`);
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "Export file" }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe("export-me.job.json");
  const content = readFileSync(await file.path(), "utf8");
  expect(JSON.parse(content)).toEqual((await storedJob(request, id)).job);
  await open(page, "/");
  const chooser = page.locator("input[type=file]");
  await chooser.setInputFiles({
    name: "bad.json",
    mimeType: "application/json",
    buffer: Buffer.from('{"format":"shopping-list"}'),
  });
  await expect(page.getByText(/bad\.json: format: expected "chillbank-document"/)).toBeVisible();
  await chooser.setInputFiles({ name: "export.json", mimeType: "application/json", buffer: Buffer.from(content) });
  await expect(page).toHaveURL(/\/jobs\/[0-9a-f-]{36}\/brief$/);
  await expect(page.getByRole("heading", { name: "Export me" })).toBeVisible();
  const copy = page.url().split("/").at(-2)!;
  expect(copy).not.toBe(id);
  expect((await storedJob(request, copy)).job).toEqual(JSON.parse(content));
});

test("import on the sheet takes the place of what is there, and undo brings it back", async ({ page, request }) => {
  const id = await makeJob(request, "Replace me");
  await open(page, `/jobs/${id}/bank`);
  const other = { ...(await storedJob(request, id)).job, name: "From a file" };
  const chooser = page.getByLabel("Job file to put in place of this one");
  await chooser.setInputFiles({ name: "broken.json", mimeType: "application/json", buffer: Buffer.from("{") });
  await expect(page.getByText(/broken\.json: not JSON/)).toBeVisible();
  await chooser.setInputFiles({
    name: "job.json",
    mimeType: "application/json",
    buffer: Buffer.from(JSON.stringify(other)),
  });
  await expect(page.getByRole("heading", { name: "From a file" })).toBeVisible();
  await page.keyboard.press("z");
  await expect(page.getByRole("heading", { name: "Replace me" })).toBeVisible();
});

test("an address that leads nowhere says so", async ({ page }) => {
  for (const address of ["/jobs/01900000-0000-7000-8000-000000000000/brief", "/jobs/nonsense/brief", "/nowhere"]) {
    const response = await page.goto(address);
    expect(response!.status()).toBe(404);
    await expect(page.getByRole("heading", { name: "There is no such page or job" })).toBeVisible();
  }
});

test("an address that somebody kept from before the stages had their names leads to the stage", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Kept address");
  await page.goto(`/jobs/${id}/path`);
  await expect(page).toHaveURL(`/jobs/${id}/wiring`);
});

test("two-minute answer on a phone: six numbers, an answer, a job", async ({ browser, baseURL }) => {
  const page = await (
    await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })
  ).newPage();
  await open(page, `${baseURL}/quick`);
  await expect(page.locator("input.quantity")).toHaveCount(10);
  for (const [path, text] of [
    ["units.0.runningCurrent", "5.8"],
    ["units.0.lockedRotorCurrent", "31"],
    ["inverter.rating", "2000"],
    ["bank.capacityAh", "600 Ah"],
    ["wiring.main.3.areaMm2", "95"],
    ["wiring.main.3.length", "1.2"],
  ] as const) {
    await typeQuantity(page, path, text);
  }
  await expect(wordOf(page, "starts")).toHaveText(/Fails|Tight/);
  await expect(wordOf(page, "lasts")).toHaveText("Choose a place");
  await typeQuantity(page, "weather.highestC", "34 C");
  await expect(wordOf(page, "lasts")).toHaveText(/Holds|Tight|Fails/);
  await page.getByRole("combobox", { name: "Soft starter" }).click();
  await page.locator(".ant-select-item-option", { hasText: "fitted, learned" }).click();
  await expect(wordOf(page, "starts")).toHaveText("Holds");
  await expect(page.getByText("It starts, and everything carries its current.")).toBeVisible();
  await expect(page.locator("[data-verdict=starts]")).toBeInViewport();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.reload();
  await expect(page.locator('[data-path="bank.capacityAh"] input')).toHaveValue("600 Ah");
  // The job that is made of it says the same to the digit.
  const pairs = page.locator("[data-pair]");
  await expect(pairs).toHaveCount(3);
  await expect(wordOf(page, "recovers")).toHaveText("Choose a place");
  const answer = await pairs.allTextContents();
  const lasts = await page.locator("[data-words=lasts]").textContent();
  await page.getByRole("button", { name: "Make a job of it" }).click();
  await expect(page).toHaveURL(/\/jobs\/[0-9a-f-]{36}\/brief$/);
  await expect(wordOf(page, "starts")).toHaveText("Holds");
  await expect(pairs).toHaveCount(3);
  expect(await pairs.allTextContents()).toEqual(answer);
  await expect(page.locator("[data-words=lasts]")).toHaveText(lasts!);
});

test("a job without a place shows neither bar nor reason of a verdict that needs one", async ({ page, request }) => {
  const name = `Placeless ${Date.now()}`;
  const { place, weather } = emptyJob(name);
  await makeJob(request, name, (job) => Object.assign(job, { place, weather }));
  await open(page, `/?q=${encodeURIComponent(name)}`);
  const row = page.getByRole("row", { name });
  await expect(row.getByText("Choose a place")).toHaveCount(2);
  await expect(row.locator(".margin-bar")).toHaveCount(2);
  await expect(row).not.toContainText("Battery reserve");
});
