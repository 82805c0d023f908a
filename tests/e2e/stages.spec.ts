import { expect, type Page } from "@playwright/test";
import { clickFor, inputOf, lineOf, makeJob, open, saved, storedJob, typeQuantity, wordOf } from "./support";
import { test } from "./window";

async function choose(page: Page, path: string, option: string): Promise<void> {
  await lineOf(page, path).getByRole("combobox").click();
  await page.locator(".ant-select-dropdown:visible .ant-select-item-option").getByText(option, { exact: true }).click();
}

test("brief: words, place, month, mains and units go into the document", async ({ page, request }) => {
  const id = await makeJob(request, "Brief");
  await open(page, `/jobs/${id}/brief`);
  await page.getByLabel("In the customer's words").fill("Dinner to breakfast");
  await page.getByRole("combobox", { name: "Place" }).click();
  await page.keyboard.type("olhao");
  await page.locator(".ant-select-dropdown:visible .ant-select-item-option", { hasText: "Olhão, Portugal" }).click();
  await page.getByRole("combobox", { name: "Month" }).click();
  await page.locator(".ant-select-item-option", { hasText: "August" }).click();
  await choose(page, "brief.mains", "120 V 60 Hz");
  await choose(page, "notation.cable", "AWG");
  await typeQuantity(page, "brief.hoursWanted", "1h20");
  await expect(inputOf(page, "brief.hoursWanted")).toHaveValue("1 h 20");
  await typeQuantity(page, "brief.hoursWanted", "11");
  await expect(inputOf(page, "brief.hoursWanted")).toHaveValue("11 h");
  await typeQuantity(page, "brief.hoursWanted", "20:00-21:20");
  await expect(inputOf(page, "brief.hoursWanted")).toHaveValue("1 h 20");
  await typeQuantity(page, "weather.highestC", "95F");
  await expect(inputOf(page, "weather.highestC")).toHaveValue("35 °C");
  await expect(page.locator("[data-conditions]")).toHaveText(
    /^Olhão, Portugal, August, design day of your own: 35 °C at \d\d:\d\d, \d\d °C at night$/,
  );
  await saved(page);
  const { job } = await storedJob(request, id);
  expect(job.brief).toMatchObject({
    wording: "Dinner to breakfast",
    place: "Olhão, Portugal",
    month: 8,
    mains: "120V60Hz",
  });
  expect(job.brief.hoursWanted).toEqual({ value: 4800, origin: "plate" });
  expect(job.notation.cable).toBe("awg");
  expect(job.weather).toMatchObject({ kind: "own", highestC: { value: 35, origin: "plate" } });
  expect(job.place.latitude!.value).toBeCloseTo(37.03, 1);
  expect(job.plan.patterns[0]!.spans[0]).toMatchObject({ kind: "unit", from: 1200, minutes: 80 });
});

test("brief: a name of blanks is refused in place and the old one kept", async ({ page, request }) => {
  const id = await makeJob(request, "Keeps its name");
  await open(page, `/jobs/${id}/brief`);
  await page.getByLabel("Name of the job").fill("  ");
  await expect(page.getByRole("alert").filter({ hasText: "the old one is kept" })).toBeVisible();
  await page.getByLabel("In the customer's words").focus();
  await expect(page.getByLabel("Name of the job")).toHaveValue("Keeps its name");
});

test("unit: a unit on battery DC needs no inverter, and the Start stage says so", async ({ page, request }) => {
  const id = await makeJob(request, "Straight from the battery");
  await open(page, `/jobs/${id}/unit`);
  await expect(lineOf(page, "units.0.lockedRotorCurrent")).toBeVisible();
  await choose(page, "units.0.kind", "12, 24 or 48 V DC");
  await expect(lineOf(page, "units.0.lockedRotorCurrent")).toBeHidden();
  await page.keyboard.press("Escape");
  await page.locator(".rail a", { hasText: "Start" }).click();
  await expect(page.getByText("Nothing in this system needs AC")).toBeVisible();
  await expect(lineOf(page, "inverter.rating")).toBeHidden();
});

test("unit: amps measured at the battery decide, and the working says where they come from", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Clamped at the battery");
  await open(page, `/jobs/${id}/unit`);
  await page.getByText("More: battery current entered by state").click();
  await typeQuantity(page, "units.0.dcRunningCurrent", "73 A");
  await inputOf(page, "units.0.dcRunningCurrent").press("m");
  await page.getByRole("button", { name: /^Running power on the design day/ }).click();
  await page.getByRole("button", { name: /^Running power as known/ }).click();
  const drawer = page.locator(".inspector");
  await expect(drawer.getByText("Added battery current, compressor on")).toBeVisible();
  await expect(drawer.getByText("measured", { exact: true })).toBeVisible();
});

test("a focused quantity says its usual range, why it is assumed and how to measure it", async ({ page, request }) => {
  const id = await makeJob(request, "Notes");
  await open(page, `/jobs/${id}/unit`);
  await inputOf(page, "units.0.lockedRotorCurrent").focus();
  const line = lineOf(page, "units.0.lockedRotorCurrent");
  await expect(line).toContainText(
    "Assumed: five times the running current usual for the capacity; four to six is usual.",
  );
  await expect(line).toContainText("Usual 5 A to 110 A.");
  await expect(line).toContainText("To measure: Clamp with inrush hold");
  await page.keyboard.press("ArrowDown");
  await expect(inputOf(page, "units.0.fanPower")).toBeFocused();
  await expect(line).not.toContainText("To measure");
});

test("battery: ten cells in series of part-charged lithium-ion make a 36 V battery that begins part full", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Odd battery");
  await open(page, `/jobs/${id}/bank`);
  await choose(page, "bank.chemistry", "NMC lithium-ion");
  await choose(page, "bank.build", "bare cells");
  await typeQuantity(page, "bank.blockVoltage", "3.6 V");
  await typeQuantity(page, "bank.series", "10");
  await typeQuantity(page, "bank.chargeToVoltage", "40");
  await expect(page.getByText("36 V nominal, 10 cells")).toBeVisible();
  await expect(inputOf(page, "bank.startSoc")).toHaveValue("84.2 %");
  await expect(page.getByText("Charged to 40 V, the battery begins at 84 % state of charge.")).toBeVisible();
});

test("path: a stop is a stop: no fuse at the battery is named in the head band on every stage", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "No fuse");
  await open(page, `/jobs/${id}/wiring`);
  const remove = page.getByRole("menuitem", { name: "Remove" });
  await clickFor(page.getByRole("button", { name: "Class T fuse F1: move, duplicate, remove" }), remove);
  await remove.click();
  for (const stage of ["Brief", "Unit", "Start", "Wiring", "Battery"]) {
    await page.locator(".rail a", { hasText: stage }).click();
    await expect(wordOf(page, "carries")).toHaveText("Stop");
    await expect(page.locator("[data-verdict=carries]")).toContainText(/no fuse at the battery/i);
  }
});

test("cautions stand where the work happens, and in print", async ({ page, request }) => {
  const id = await makeJob(request, "Cautions");
  for (const [stage, caution] of [
    ["unit", "Capacitors keep a lethal charge"],
    ["start", "Never bypass protection"],
    ["bank", "thousands of amps into a dropped spanner"],
    ["brief", "Estimates, not approval."],
  ] as const) {
    await page.emulateMedia({ media: "screen" });
    await open(page, `/jobs/${id}/${stage}`);
    await expect(page.getByText(caution).first()).toBeVisible();
    await page.emulateMedia({ media: "print" });
    await expect(page.getByText(caution).first()).toBeVisible();
    await expect(page.locator(".rail")).toBeHidden();
  }
});
