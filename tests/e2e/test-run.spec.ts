import { SESSION } from "./session";
import { expect, type Page } from "@playwright/test";
import { makeJob, makeTestRun, open, wordOf } from "./support";
import { load, test } from "./window";

test.describe.configure({ mode: "serial" });

/** A job of these tests' own, so that what is taken into it changes no other's. */
let own = "";
const ownTestRun = (page: Page) => open(page, `/jobs/${own}/test-run`);
const newTestRun = async (page: Page) => {
  await ownTestRun(page);
  const chosen = page.locator(".worksheet .group-title").first();
  const before = await chosen.textContent();
  await page.getByRole("button", { name: "More", exact: true }).click();
  await page.getByText("New test run").click();
  await expect(chosen).not.toHaveText(before!);
  await expect(page.getByText("Waiting for readings")).toBeVisible();
};
test.beforeAll(async ({ request }) => {
  own = await makeJob(request, "Measured van");
});
const log = (minutes: number, sign = -1) => {
  const rows = Array.from({ length: minutes }, (_, i) => {
    const amps = i < 30 || i % 12 < 6 ? 60 : 9;
    const at = new Date(Date.UTC(2026, 7, 14, 13, i)).toISOString();
    return `${at};${String(sign * amps).replace(".", ",")};${(13.2 - amps * 0.004).toFixed(2).replace(".", ",")}`;
  });
  return ["Timestamp;Battery current (A);Battery voltage (V)", ...rows].join("\n");
};

test("a test run is started, read by hand, corrected, deleted and brought back", async ({ page }) => {
  await ownTestRun(page);
  await page.getByRole("button", { name: "Start test run" }).click();
  const entry = page.getByLabel("Next reading");
  await entry.fill("hello");
  await entry.press("Enter");
  await expect(page.locator("p[role=alert]")).toHaveText(/not understood/);
  await entry.fill("41.6 12.4 88 - door open");
  await expect(page.getByText("41.6 A out, 12.40 V, 88 %")).toBeVisible();
  await entry.press("Enter");
  await expect(entry).toHaveValue("");
  await page.getByText("Latest readings, to correct or delete").click();
  const row = page.getByRole("row", { name: /41\.6 A out/ });
  await expect(row).toContainText("door open");
  await row.getByRole("button", { name: "Correct" }).click();
  const line = page.getByRole("textbox", { name: "Reading", exact: true });
  await line.fill("14.6 A 12.4 V");
  await line.press("Enter");
  const right = page.getByRole("row", { name: /14\.6 A out/ });
  await expect(right).toBeVisible();
  await right.getByRole("button", { name: "1 before" }).click();
  await expect(page.getByRole("dialog").getByText("41.6 A out, 12.40 V, 88 %")).toBeVisible();
  await page.keyboard.press("Escape");
  await right.getByRole("button", { name: /Delete the reading/ }).click();
  await page
    .getByRole("row", { name: /14\.6 A out/ })
    .getByRole("button", { name: "Bring back" })
    .click();
  await expect(page.getByRole("row", { name: /14\.6 A out/ }).getByRole("button", { name: "Correct" })).toBeVisible();
});

test("the conditions of a run are asked once, kept, and known to the phone; what is not understood is told", async ({
  page,
}) => {
  await ownTestRun(page);
  const conditions = page.locator(".run-conditions");
  await expect(conditions).toBeVisible();
  await page.getByLabel("People on board").fill("3");
  await page.getByLabel("People on board").press("Enter");
  await expect(page.getByText("3 people", { exact: true })).toBeVisible();
  await page.getByLabel("Skin").selectOption("dark");
  await page.getByLabel("State of charge at the start").fill("full");
  await page.getByLabel("State of charge at the start").press("Tab");
  await expect(page.getByText("3 people, dark, battery full")).toBeVisible();
  await page.getByLabel("Today’s forecast high").fill("warm");
  await page.getByLabel("Today’s forecast high").press("Enter");
  await expect(conditions.getByRole("alert")).toContainText("not a temperature");
  await page.reload();
  await expect(page.getByText("3 people, dark, battery full")).toBeVisible();
  await page.getByRole("button", { name: "More", exact: true }).click();
  await page.getByRole("link", { name: "Readings on a phone" }).click();
  await expect(page.getByText("Conditions: 3 people, dark, battery full")).toBeVisible();
});

test("a log is dropped in, shown as it was understood, imported, and taken into the system", async ({ page }) => {
  await newTestRun(page);
  await page.setInputFiles("input[type=file]", {
    name: "meter.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(log(150, 1)),
  });
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByText("told by the volts that sink under it")).toBeVisible();
  await expect(dialog.getByText("60.0 A out, 12.96 V").first()).toBeVisible();
  await dialog.getByRole("button", { name: "Import" }).click();
  await expect(dialog.getByText(/150 readings came in/)).toBeVisible();
  await dialog.getByRole("button", { name: "Done" }).click();
  await expect(page.locator("[data-forecast]")).toBeVisible({ timeout: 90_000 });
  await expect(page.getByText(/150 readings/)).toBeVisible();
  const ohms = page.locator(".found li", { hasText: "Battery to the monitor" });
  await ohms.getByRole("button").click();
  await expect(dialog.locator(".apply-table")).toBeVisible({ timeout: 30_000 });
  await dialog.getByRole("button", { name: "Apply to the job" }).click();
  await expect(page.getByText(/applied to the job; z undoes it/)).toBeVisible();
  await expect(page.locator('[data-save="saved"]')).toBeVisible();
  // The same kind of file is known the next time.
  await page.setInputFiles("input[type=file]", {
    name: "again.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(log(20, 1)),
  });
  await expect(dialog.getByText("Read as this kind of file was read the last time.")).toBeVisible();
  await dialog.getByRole("button", { name: "Cancel" }).click();
});

test("findings are held against the log, the verdicts and the forecast before they are applied, and all stay out until then", async ({
  page,
}) => {
  await ownTestRun(page);
  await page.getByRole("button", { name: "Apply all to the job" }).click({ timeout: 90_000 });
  const dialog = page.getByRole("dialog");
  const row = (name: string) => dialog.getByRole("row", { name: new RegExp(`^${name}`) });
  await expect(row("Mean draw over the log")).toContainText(/\d W.*\d W.*\d W read/, { timeout: 30_000 });
  await expect(row("Reserve after")).toContainText(/ h to .* forecast/);
  await expect(row("Starts")).toContainText(/Holds|Tight|Fails|Stop/);
  await dialog.getByRole("button", { name: "Cancel" }).click();
  await expect(dialog).toHaveCount(0);
});

test("a set point is changed from now, left out and taken again, and the wished time says what to set", async ({
  page,
}) => {
  await ownTestRun(page);
  await expect(page.locator("[data-forecast]")).toBeVisible({ timeout: 90_000 });
  await page.getByLabel("Set point", { exact: true }).fill("60");
  await page.getByRole("button", { name: "Set from now" }).click();
  await expect(page.getByText("60 is not a set point of an air conditioner.")).toBeVisible();
  await page.getByLabel("Set point", { exact: true }).fill("26.5");
  await page.getByRole("button", { name: "Set from now" }).click();
  const said = page.locator(".settings-said li", { hasText: "26.5 °C" });
  await expect(said).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText("now 26.5 °C, auto")).toBeVisible({ timeout: 60_000 });
  await said.getByRole("button", { name: /Leave out/ }).click();
  await expect(page.getByText("now 24 °C, auto")).toBeVisible({ timeout: 60_000 });
  await page.getByRole("button", { name: "take it again" }).click();
  await expect(page.getByText("now 26.5 °C, auto")).toBeVisible({ timeout: 60_000 });
  const wished = page.getByRole("group", { name: "To last until a time" });
  await wished.getByLabel("Wished time").fill("half past");
  await expect(wished).toContainText("not a time of day");
  await wished.getByLabel("Wished time").fill("03:00");
  await wished.getByLabel("Wished time").press("Enter");
  await expect(wished.locator("[data-reach=reached], [data-reach=not-reached]")).toContainText("03:00", {
    timeout: 60_000,
  });
});

test("a reading is typed with its time and corrected in it", async ({ page }) => {
  await newTestRun(page);
  const entry = page.getByLabel("Next reading");
  await entry.fill("yesterday 23:40 38 12.6");
  await expect(page.getByText(/ 23:40:00: 38\.0 A out, 12\.60 V/)).toBeVisible();
  await entry.press("Enter");
  await page.getByText("Latest readings, to correct or delete").click();
  const row = page.getByRole("row", { name: /23:40:00.*38\.0 A out/ });
  await row.getByRole("button", { name: "Correct" }).click();
  const time = page.getByLabel("Time of the reading");
  const before = await time.inputValue();
  await time.fill(before.replace("23:40:00", "23:10:00"));
  await time.press("Enter");
  await expect(page.getByRole("row", { name: /23:10:00.*38\.0 A out/ })).toBeVisible();
});

test("a device whose clock is 37 minutes slow is asked about, and its reading's time put right", async ({
  browser,
  baseURL,
}) => {
  const context = await browser.newContext({ storageState: SESSION, baseURL });
  const page = await context.newPage();
  await page.addInitScript(() => {
    const real = Date.now.bind(Date);
    Date.now = () => real() - 37 * 60_000;
  });
  await page.goto(`/jobs/${own}/test-run`);
  await expect(page.locator("[data-awake]").first()).toBeVisible();
  const entry = page.getByLabel("Next reading");
  await entry.fill("33.3 12.6");
  await entry.press("Enter");
  const asked = page.getByRole("group", { name: "Reading not accepted" });
  await expect(asked).toContainText("The clock of this device is 37 minutes slow");
  await asked.getByRole("button", { name: /^Put its time right/ }).click();
  await expect(asked).toHaveCount(0);
  await page.getByText("Latest readings, to correct or delete").click();
  await expect(page.getByRole("row", { name: /33\.3 A out/ })).toBeVisible();
  await context.close();
});

test("what engine or shore gave while a log ran is told apart", async ({ page }) => {
  await newTestRun(page);
  const rows = Array.from({ length: 150 }, (_, i) => {
    const amps = (i < 30 || i % 12 < 6 ? 60 : 9) - (i >= 80 && i < 116 ? 80 : 0);
    return `${new Date(Date.UTC(2026, 7, 14, 13, i)).toISOString()},${-amps},${(13.2 - amps * 0.004).toFixed(2)}`;
  });
  await page.setInputFiles("input[type=file]", {
    name: "fed.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(["time,battery_current_a,battery_voltage_v", ...rows].join("\n")),
  });
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Import" }).click();
  await dialog.getByRole("button", { name: "Done" }).click();
  await expect(page.getByText("Charging during the run", { exact: true })).toBeVisible({ timeout: 90_000 });
  const said = page.locator("li", { hasText: "from elsewhere" });
  await expect(said).toHaveText(/15:20 to 15:5\d, about (7|8)\d A from elsewhere/);
});

test("a file that is no log is refused in words", async ({ page }) => {
  await ownTestRun(page);
  await page.setInputFiles("input[type=file]", {
    name: "x.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("hello\nworld"),
  });
  await expect(page.getByRole("dialog").getByText(/no table/)).toBeVisible();
});

/** Rows of a long log at five readings a second: of some hours, and of a day under soak. */
const LONG_LOG = process.env.SOAK ? 500_000 : 50_000;

test("a log of many thousand rows comes in while the page stays awake", async ({ page }) => {
  test.setTimeout(500_000);
  await ownTestRun(page);
  await page.getByRole("button", { name: "More", exact: true }).click();
  await page.getByText("New test run").click();
  await expect(page.getByText("Waiting for readings")).toBeVisible();
  await expect(page.getByLabel("Next reading")).toBeVisible();
  const rows = ["time,battery_current_a,battery_voltage_v"];
  for (let i = 0; i < LONG_LOG; i++) {
    const s = i * 0.2;
    const amps = s % 720 < 360 ? 60 : 9;
    rows.push(`${new Date(Date.UTC(2026, 7, 10) + s * 1000).toISOString()},${-amps},${13.2 - amps * 0.004}`);
  }
  await page.setInputFiles("input[type=file]", {
    name: "big.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(rows.join("\n")),
  });
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Import" }).click();
  await expect(dialog.getByRole("progressbar")).toBeVisible();
  // It can be stopped meanwhile, so the page hears.
  await expect(dialog.getByRole("button", { name: "Stop" })).toBeEnabled();
  await expect(dialog.getByText(`${LONG_LOG.toLocaleString("en-GB")} readings came in`)).toBeVisible({
    timeout: 200_000,
  });
  await dialog.getByRole("button", { name: "Done" }).click();
  await expect(page.locator("[data-forecast]")).toBeVisible({ timeout: 200_000 });
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 }, serviceWorkers: "allow" });
  test("a reading is kept without reception and sent once when it comes back, in order", async ({ page, context }) => {
    await ownTestRun(page);
    await page.getByRole("button", { name: "More", exact: true }).click();
    await page.getByRole("link", { name: "Readings on a phone" }).click();
    await expect(page.getByRole("button", { name: "Save reading" })).toBeVisible();
    const id = page.url().split("/").pop()!;
    const held = async () =>
      (
        (await (await page.request.get(`/api/test-runs/${id}/readings?limit=100`)).json()) as {
          readings: { values: { battery_current_a?: number } }[];
        }
      ).readings;
    const before = (await held()).length;
    await context.setOffline(true);
    for (const amps of ["31", "32,5"]) {
      await page.getByLabel("Amps out").fill(amps);
      await page.getByLabel("Volts").fill("12.2");
      await page.getByRole("button", { name: "Save reading" }).click();
      await expect(page.getByLabel("Amps out")).toHaveValue("");
    }
    await expect(page.getByText("2 readings wait in this phone until there is reception")).toBeVisible();
    await context.setOffline(false);
    await expect(page.locator("[data-waiting='0']")).toBeVisible({ timeout: 20_000 });
    const after = await held();
    expect(after).toHaveLength(before + 2);
    expect(after.slice(0, 2).map(({ values }) => values.battery_current_a)).toEqual([-32.5, -31]);
    await page.getByLabel("Amps out").fill("many");
    await page.getByRole("button", { name: "Save reading" }).click();
    await expect(page.locator("p[role=alert]")).toHaveText(/is not a/);
  });
  test("the page opens without reception, and a reading written there is sent when it comes back", async ({
    page,
    context,
  }) => {
    await ownTestRun(page);
    await page.getByRole("button", { name: "More", exact: true }).click();
    const address = await page.getByRole("link", { name: "Readings on a phone" }).getAttribute("href");
    await page.goto(address!);
    await expect(page.locator("[data-keeping=kept]")).toBeVisible();
    await context.setOffline(true);
    await page.reload();
    await page.getByLabel("Amps out").fill("29");
    await page.getByRole("button", { name: "Save reading" }).click();
    await expect(page.locator("[data-waiting='1']")).toBeVisible();
    await page.reload();
    await expect(page.locator("[data-waiting='1']")).toBeVisible();
    await context.setOffline(false);
    await expect(page.locator("[data-waiting='0']")).toBeVisible({ timeout: 30_000 });
    const stored = (await (await page.request.get(`/api${address}/readings?limit=1`)).json()) as {
      readings: { values: { battery_current_a?: number } }[];
    };
    expect(stored.readings[0]!.values.battery_current_a).toBe(-29);
  });
});

test("once a phone's page is kept, a job's days and its test runs still have each their own worker", async ({
  browser,
  request,
}) => {
  const context = await browser.newContext({ serviceWorkers: "allow" });
  const page = await context.newPage();
  const { job, run } = await makeTestRun(request, "Kept beside");
  await page.goto(`/test-runs/${run}`);
  await expect(page.locator("[data-keeping=kept]")).toBeVisible();
  // Twice: once as it comes from the server, once as it was kept.
  for (let n = 0; n < 2; n++) {
    await load(page, `/jobs/${job}/day`);
    await expect(wordOf(page, "lasts")).toBeVisible();
    await page.goto(`/test-runs/${run}`);
    await expect(page.getByText("The forecast needs three readings")).toBeVisible();
  }
  await context.close();
});

test("nothing can be typed or sent before the page's scripts have taken over: the browser would send it by itself and lose it", async ({
  browser,
  request,
  baseURL,
}) => {
  const { run } = await makeTestRun(request, "Before it wakes");
  const asleep = await browser.newContext({ baseURL: baseURL!, storageState: SESSION, javaScriptEnabled: false });
  const page = await asleep.newPage();
  await page.goto(`/test-runs/${run}`);
  await expect(page.getByLabel("Amps out")).toBeDisabled();
  await expect(page.getByRole("button", { name: "Save reading" })).toBeDisabled();
  await page.goto("/people");
  await expect(page.getByRole("button", { name: "Change it" })).toBeDisabled();
  await asleep.clearCookies();
  await page.goto("/sign-in");
  await expect(page.getByRole("button", { name: "Sign in", exact: true })).toBeDisabled();
  await asleep.close();
});

test("a button that is clicked before the page's scripts have come does what it says once they have", async ({
  browser,
  baseURL,
}) => {
  const context = await browser.newContext({ baseURL: baseURL!, storageState: SESSION });
  const page = await context.newPage();
  let come: () => void = () => {};
  const scripts = new Promise<void>((resolve) => (come = resolve));
  await page.route("**/_next/static/chunks/*.js", async (route) => {
    await scripts;
    await route.continue();
  });
  await page.goto("/", { waitUntil: "commit" });
  await page.getByRole("button", { name: "New job" }).first().click();
  await expect(page.getByRole("dialog")).toBeHidden();
  come();
  await expect(page.getByRole("dialog")).toBeVisible();
  await context.close();
});

test.describe("on a phone, its page not kept", () => {
  test.use({ viewport: { width: 390, height: 844 } });
  test("a reading that the server refuses is kept aside with its reason, sent again or dropped", async ({ page }) => {
    await ownTestRun(page);
    await page.getByRole("button", { name: "More", exact: true }).click();
    await page.getByRole("link", { name: "Readings on a phone" }).click();
    await expect(page.getByRole("button", { name: "Save reading" })).toBeVisible();
    let refusing = true;
    await page.route("**/readings", (route) =>
      refusing && route.request().method() === "POST"
        ? route.fulfill({ status: 409, json: { error: "This test run is finished." } })
        : route.continue(),
    );
    await page.getByLabel("Amps out").fill("27");
    await page.getByRole("button", { name: "Save reading" }).click();
    const refused = page.getByRole("group", { name: "Reading not accepted" });
    await expect(refused).toContainText("27.0 A out was not accepted: This test run is finished.");
    refusing = false;
    await refused.getByRole("button", { name: "Send again" }).click();
    await expect(refused).toHaveCount(0);
    const { pathname } = new URL(page.url());
    const stored = (await (await page.request.get(`/api${pathname}/readings?limit=1`)).json()) as {
      readings: { values: { battery_current_a?: number } }[];
    };
    expect(stored.readings[0]!.values.battery_current_a).toBe(-27);
  });
});

test("strangers and rubbish are refused by the test run's handlers", async ({ request }) => {
  const base = `/api/test-runs/${(await makeTestRun(request, "Refused")).run}`;
  const status = async (path: string, method: string, data?: unknown) =>
    (await request.fetch(`${base}${path}`, { method, ...(data === undefined ? {} : { data }) })).status();
  expect(await status("/readings", "POST", { readings: [] })).toBe(400);
  expect(await status("/readings", "POST", { readings: [{ id: "x" }] })).toBe(400);
  expect(await status("/source", "POST", { kind: "file", path: "../../etc/passwd" })).toBe(400);
  expect(await status("/source", "POST", { kind: "signal-k", url: "http://elsewhere/" })).toBe(400);
  expect(await status("/imports/not-an-id", "DELETE")).toBe(404);
  expect(await status("/photos/0190aaaa-0000-7000-8000-000000000000", "GET")).toBe(404);
  const file = await request.get(`${base}/file`);
  expect(file.headers()["content-type"]).toMatch(/text\/csv/);
  expect((await file.text()).split("\n")[0]).toMatch(/^time,battery_current_a/);
});
