import { expect, type Page } from "@playwright/test";
import { emptyPanel, emptySpan, type Job } from "../../src/core/document/schema";
import { clickFor, complaints, lineOf, makeJob, open, saved, storedJob, typeQuantity, wordOf } from "./support";
import { test } from "./window";

const q = (value: number) => ({ value, origin: "plate" as const });
/** A night's cooling at Faro with a small battery and no panels. */
function night(job: Job): void {
  job.brief.month = 7;
  job.place.listed = "faro";
  job.units[0]!.runningCurrent = q(4);
  job.bank.capacityAh = q(400);
  job.plan.patterns = [{ id: "d", name: "Night", spans: [emptySpan("unit", "u", 21 * 60, 480)] }];
}
const ran = async (page: Page) => {
  await expect(wordOf(page, "recovers")).toBeVisible();
  await expect(page.locator("[data-verdict=recovers][data-stale]")).toHaveCount(0);
};

test("the four verdicts stand in the head band, with their range, and open their checks and working", async ({
  page,
  request,
}) => {
  const heard = complaints(page);
  const id = await makeJob(request, "Four verdicts", night);
  await open(page, `/jobs/${id}/bank`);
  await ran(page);
  for (const name of ["starts", "carries", "lasts", "recovers"])
    await expect(wordOf(page, name)).toHaveText(/Holds|Tight|Fails|Stop/);
  const recovers = page.locator("[data-verdict=recovers]");
  await expect(recovers).toContainText(/mild .+ hot/);
  await expect(recovers).toContainText(
    /a day missing; battery reaches its reserve on night|more charging alone does not help/,
  );
  await clickFor(recovers, page.getByText("Recovers: every check"));
  await page.getByRole("button", { name: /^Energy needed a day.*show working/ }).click();
  await expect(page.getByText("Energy missing a day")).toBeVisible();
  expect(heard).toEqual([]);
});

test("panels added on Sources turn Recovers, and stand on the roof to scale", async ({ page, request }) => {
  const id = await makeJob(request, "Panels", night);
  await open(page, `/jobs/${id}/charging`);
  await ran(page);
  await expect(wordOf(page, "recovers")).toHaveText("Fails");
  await expect(page.getByText("No panels yet: add them here.")).toBeVisible();
  await page.getByRole("button", { name: "Add panels" }).click();
  await typeQuantity(page, "sources.panels.0.power", "400 W");
  await typeQuantity(page, "sources.panels.0.count", "4");
  await expect(wordOf(page, "recovers")).toHaveText("Holds");
  await expect(page.locator("[data-words=recovers]")).toContainText(
    /The battery is full again by \d\d:\d0 on most days/,
  );
  await expect(page.getByText("1.6 kW in all")).toBeVisible();
  await expect(page.getByText(/asks for .+ there are 1\.6 kW/)).toBeVisible();
  await page.getByRole("button", { name: "Add a controller" }).click();
  await typeQuantity(page, "sources.controllers.0.current", "30 A");
  await expect(page.getByText("it limits the best hours")).toBeVisible();
  await typeQuantity(page, "sources.panels.0.x", "9 m");
  await expect(page.getByText(/hangs over the edge/)).toBeVisible();
  // The page grows while its answer changes, and a click may fall beside what moves.
  await clickFor(page.getByRole("button", { name: "Add panels" }), page.locator("[data-panel]").nth(1));
  await saved(page);
  const { job } = await storedJob(request, id);
  expect(job.sources.panels[0]).toMatchObject({ mount: "flat", power: q(400), count: q(4), x: q(9) });
  expect(job.sources.panels[1]).toMatchObject({ power: q(400), count: q(4) });
  expect(job.sources.panels[1]!.x).toBeUndefined();
});

test("a span is moved by typing its times and by its handles, and undo takes it back", async ({ page, request }) => {
  const id = await makeJob(request, "Plan", night);
  await open(page, `/jobs/${id}/day`);
  await ran(page);
  const begins = page.getByLabel("Cooling: begins at");
  await begins.fill("8 pm");
  await begins.press("Enter");
  await expect(page.getByText("main use 20:00 to 05:00: 9 h")).toBeVisible();
  await expect(page.locator("[data-verdict=lasts] [data-pair]")).toContainText("needs 9 h");
  await begins.fill("half past");
  await begins.press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "a time, such as 22:30" })).toBeVisible();
  await begins.press("Escape");
  await expect(begins).toHaveValue("20:00");
  const handle = page.getByRole("slider", { name: "Cooling: to" });
  await handle.focus();
  await handle.press("ArrowRight");
  await handle.press("ArrowRight");
  await expect(page.getByLabel("Cooling: ends at")).toHaveValue("05:30");
  // The whole span, dragged by its track two hours to the left.
  const track = page.locator(".span-row .ant-slider-track").first();
  const box = (await track.boundingBox())!;
  const axis = (await page.locator(".span-row .ant-slider-rail").first().boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 - axis.width * (120 / 1800), box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect(begins).toHaveValue(/^(17|18):\d\d$/);
  await page.locator("h1").click();
  await page.keyboard.press("z");
  await expect(begins).toHaveValue("20:00");
  await saved(page);
  const { job } = await storedJob(request, id);
  expect(job.plan.patterns[0]!.spans[0]).toMatchObject({ kind: "unit", from: 1200, minutes: 570 });
});

test("ready plans, a copied day and weekdays", async ({ page, request }) => {
  const id = await makeJob(request, "Week");
  await open(page, `/jobs/${id}/day`);
  await ran(page);
  await expect(page.getByText("assumed until you change something")).toBeVisible();
  const ready = page.getByRole("menuitem", { name: /Dog or medicine on board/ });
  await clickFor(page.getByRole("button", { name: "Start from a ready plan" }), ready);
  await ready.click();
  await expect(page.getByText("main use 12:00 to 16:00: 4 h")).toBeVisible();
  await page.getByRole("button", { name: "Copy this day" }).click();
  await expect(page.getByLabel("Name of this day's plan")).toHaveValue("Dog or medicine on board copy");
  await page.getByLabel("Name of this day's plan").fill("Sunday");
  await page.getByRole("combobox", { name: "Plan of Sun" }).click();
  await page.locator(".ant-select-dropdown:visible .ant-select-item-option", { hasText: /^Sunday$/ }).click();
  await saved(page);
  const { plan } = (await storedJob(request, id)).job;
  expect(plan.patterns.map(({ name }) => name)).toEqual(["Dog or medicine on board", "Sunday"]);
  expect(plan.week[6]).toBe(plan.patterns[1]!.id);
  expect(plan.week[0]).toBe(plan.patterns[0]!.id);
});

test("spans of every kind are added, set and removed", async ({ page, request }) => {
  const id = await makeJob(request, "Spans", night);
  await open(page, `/jobs/${id}/day`);
  await ran(page);
  for (const name of ["People", "Doors open", "Shade", "Driving", "Shore power", "Generator", "Other load"]) {
    const entry = page.getByRole("menuitem", { name, exact: true });
    await clickFor(page.getByRole("button", { name: /^plus Add a span/ }), entry);
    await entry.click();
    await expect(entry).toBeHidden();
  }
  await expect(page.locator(".span-row")).toHaveCount(8);
  await typeQuantity(page, "plan.patterns.0.spans.7.power", "1.2 kW");
  await page.getByRole("button", { name: "Remove: Generator" }).click();
  await expect(page.locator(".span-row")).toHaveCount(7);
  await ran(page);
  await saved(page);
  const { spans } = (await storedJob(request, id)).job.plan.patterns[0]!;
  expect(spans.map(({ kind }) => kind)).toEqual(["unit", "people", "open", "shade", "driving", "shore", "load"]);
  expect(spans[6]).toMatchObject({ power: { value: 1200, origin: "plate" } });
});

test("the run is read at a moment, and the strip opens it there", async ({ page, request }) => {
  const id = await makeJob(request, "Read", night);
  await open(page, `/jobs/${id}/bank`);
  await ran(page);
  const strip = page.getByRole("button", { name: /Day strip/ });
  const box = (await strip.boundingBox())!;
  await strip.hover({ position: { x: box.width * 0.4, y: 20 } });
  await expect(page.locator(".strip-reading")).toContainText(/21:\d\d .+ cabin .+ outside/);
  await strip.click({ position: { x: box.width * 0.4, y: 20 } });
  await expect(page).toHaveURL(/\/day$/);
  const reading = page.locator("[data-reading]");
  await expect(reading).toContainText(/\w{3} 21:\d\d/);
  await expect(reading).toContainText("Air conditioner");
  await expect(reading).toContainText("Out of the battery");
  await reading.getByRole("slider").press("Home");
  await expect(reading).toContainText(/\w{3} 12:00/);
  await page.getByRole("checkbox", { name: "humidity" }).check();
  await expect(page.getByText("humidity dotted")).toBeVisible();
  await page.getByRole("slider", { name: "days shown" }).press("End");
  await expect(page.getByText("14 days from noon")).toBeVisible();
});

test("place, weather and cabin change the answer", async ({ page, request }) => {
  const id = await makeJob(request, "Place", night);
  await open(page, `/jobs/${id}/day`);
  await ran(page);
  const pair = page.locator("[data-verdict=lasts] [data-pair]");
  const before = await pair.textContent();
  await lineOf(page, "place").getByRole("combobox").click();
  await page.keyboard.type("quartzsite");
  await page.locator(".ant-select-dropdown:visible .ant-select-item-option", { hasText: "Quartzsite, AZ" }).click();
  await expect(page.getByText(/Climate of Quartzsite, Arizona \(\d+ km\)/)).toBeVisible();
  await expect(pair).not.toHaveText(before!);
  await lineOf(page, "weather.kind").getByRole("combobox").click();
  await page
    .locator(".ant-select-dropdown:visible .ant-select-item-option", { hasText: "simulated fortnight" })
    .click();
  await page.getByLabel("Random seed").fill("7");
  await page.getByLabel("Random seed").press("Enter");
  await ran(page);
  await saved(page);
  const { job } = await storedJob(request, id);
  expect(job.place.latitude!.value).toBeCloseTo(33.66, 1);
  expect(job.brief.place).toBe("Quartzsite, AZ, United States");
  expect(job.weather).toMatchObject({ kind: "generated", seed: 7 });
});

test("hourly weather is imported, and a file that is none is refused with its reason", async ({ page, request }) => {
  const id = await makeJob(request, "Weather", night);
  await open(page, `/jobs/${id}/day`);
  await ran(page);
  const rows = Array.from({ length: 5 * 24 }, (_, h) => {
    const day = `2025-07-${String(15 + Math.floor(h / 24)).padStart(2, "0")}`;
    const hour = h % 24;
    return `${day} ${String(hour).padStart(2, "0")}:00,${25 + (hour > 8 && hour < 20 ? 8 : 0)},45,${hour > 7 && hour < 19 ? 600 : 0}`;
  });
  const file = (name: string, text: string) => ({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
  const input = page.getByLabel("Hourly weather file");
  await input.setInputFiles(file("odd.csv", "a,b,c\n1,2,3\n"));
  await expect(page.getByText(/odd\.csv: .*columns/)).toBeVisible();
  await input.setInputFiles(file("station.csv", ["time,temperature,humidity,global", ...rows].join("\n")));
  await expect(page.getByText("5 days of station.csv")).toBeVisible();
  await ran(page);
  await saved(page);
  const { weather } = (await storedJob(request, id)).job;
  expect(weather.kind).toBe("file");
  expect(weather.file!.hours).toHaveLength(120);
});

test("two ways are compared in the same cabin, and the run-time map is worked out with its progress", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Compare", (job) => {
    night(job);
    job.sources.panels = [{ ...emptyPanel("p"), power: q(400) }];
  });
  await open(page, `/jobs/${id}/day`);
  await ran(page);
  await page.getByRole("combobox", { name: "Which two" }).click();
  await page.locator(".ant-select-dropdown:visible .ant-select-item-option", { hasText: "22 °C or 26 °C" }).click();
  await expect(page.locator("[data-side]")).toHaveCount(2);
  await page.getByRole("button", { name: "Compute map" }).click();
  await expect(page.locator(".run-map tbody tr")).toHaveCount(9);
  await page.getByRole("button", { name: "Compute again" }).click();
  await page.getByRole("button", { name: "Stop", exact: true }).click();
  await expect(page.getByRole("button", { name: "Compute again" })).toBeVisible();
});

test("days of storage as the stance ask for three days without sun", async ({ page, request }) => {
  const id = await makeJob(request, "Storage", night);
  await open(page, `/jobs/${id}/day`);
  await ran(page);
  await lineOf(page, "brief.stance").getByRole("combobox").click();
  await page.locator(".ant-select-dropdown:visible .ant-select-item-option", { hasText: "days of storage" }).click();
  await expect(page.locator("[data-verdict=lasts] [data-pair]")).toContainText("needs 3 days");
  await typeQuantity(page, "plan.storageDays", "2");
  await expect(page.locator("[data-verdict=lasts] [data-pair]")).toContainText(/needs (2 days|48 h)/);
});

test("on a phone the day can be planned and read", async ({ page, request }) => {
  const id = await makeJob(request, "Phone", night);
  await page.setViewportSize({ width: 390, height: 844 });
  await open(page, `/jobs/${id}/day`);
  await ran(page);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  const ends = page.getByLabel("Cooling: ends at");
  await ends.fill("7");
  await ends.press("Enter");
  await expect(ends).toHaveValue("07:00");
});
