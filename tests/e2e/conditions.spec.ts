import { expect } from "@playwright/test";
import { clickFor, inputOf, lineOf, makeJob, open, saved, storedJob, typeQuantity, wordOf } from "./support";
import { load, test } from "./window";

test("a place is searched, not guessed: an unknown name picks nothing, coordinates do", async ({ page, request }) => {
  const id = await makeJob(request, "Somewhere", (job) => (job.place.listed = null));
  await open(page, `/jobs/${id}/brief`);
  await expect(wordOf(page, "lasts")).toHaveText("Choose a place");
  await expect(page.locator("[data-conditions]")).toContainText("No place chosen");
  const place = lineOf(page, "place").getByRole("combobox");
  await place.click();
  await page.keyboard.type("Atlantis-on-Sea");
  await expect(page.getByText("No such place in the gazetteer")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(wordOf(page, "recovers")).toHaveText("Choose a place");
  await place.click();
  await page.keyboard.type("37.02, -7.93");
  await page
    .locator(".ant-select-dropdown:visible .ant-select-item-option", { hasText: "Use these coordinates" })
    .click();
  await expect(wordOf(page, "lasts")).toHaveText(/Holds|Tight|Fails/);
  await expect(page.locator("[data-conditions]")).toHaveText(/^37\.02° N 7\.93° W, July, typical day: 29 °C at 16:00/);
  await saved(page);
  expect((await storedJob(request, id)).job.place).toMatchObject({ listed: null, latitude: { value: 37.02 } });
});

test("the design day changes every verdict's conditions, and typing a temperature makes it your own", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Design day");
  await open(page, `/jobs/${id}/brief`);
  const line = page.locator("[data-conditions]");
  await page.getByText("Hot", { exact: true }).click();
  await expect(line).toContainText("hot day: 33 °C");
  await typeQuantity(page, "weather.highestC", "38");
  await expect(line).toContainText("design day of your own: 38 °C");
  await expect(page.getByText(/^Design day$/).last()).toBeVisible();
  await page.locator("h1").click();
  await page.keyboard.press("z");
  await expect(line).toContainText("hot day: 33 °C");
});

test("a verdict explains itself, the glossary and the first steps are there", async ({ page, request }) => {
  await open(page, "/");
  const steps = page.getByRole("region", { name: "First steps" });
  await expect(steps).toBeVisible();
  await steps.getByRole("button", { name: "Hide these steps" }).click();
  await expect(steps).toBeHidden();
  await page.reload();
  await expect(page.getByRole("heading", { name: /Chillbank/ })).toBeVisible();
  await expect(steps).toBeHidden();
  const id = await makeJob(request, "Help");
  await open(page, `/jobs/${id}/brief`);
  const help = page.getByText("Does the battery come back every day");
  await clickFor(page.getByRole("button", { name: "What Recovers means" }), help);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "glossary" }).click();
  await expect(page.getByRole("dialog").getByText("Sensible heat ratio")).toBeVisible();
});

test("readings of the draw are taken as people have them, and the surest is used", async ({ page, request }) => {
  const id = await makeJob(request, "Measured draw");
  await open(page, `/jobs/${id}/unit`);
  const form = page.getByRole("form", { name: "New reading of the draw" });
  await clickFor(page.getByRole("button", { name: "Add a reading" }), form);
  await form.getByRole("button", { name: "Save reading" }).click();
  await expect(form.getByRole("alert")).toContainText("Battery current is required.");
  await form.getByLabel("Battery current").fill("79 A");
  await form.getByLabel(/^Other loads/).fill("6");
  await form.getByRole("button", { name: "Save reading" }).click();
  await expect(page.getByText("the air conditioner alone adds 73 A at the battery, 930 W; used")).toBeVisible();
  await page.getByRole("button", { name: "Add a reading" }).click();
  await form.getByRole("combobox", { name: "What was read" }).click();
  await page.locator(".ant-select-dropdown:visible .ant-select-item-option", { hasText: "AC power" }).click();
  await form.getByLabel("AC power").fill("1.6 kW");
  await form.getByRole("button", { name: "Save reading" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "Disagrees with the reading that is used" })).toBeVisible();
  await saved(page);
  expect((await storedJob(request, id)).job.units[0]!.readings).toHaveLength(2);
});

test("two batteries at once, and an assumed value is not made a measured one by a click", async ({ page, request }) => {
  const id = await makeJob(request, "As people type");
  await open(page, `/jobs/${id}/bank`);
  const mark = lineOf(page, "bank.capacityAh").getByRole("button", { name: /type the value/ });
  await mark.click();
  await page.keyboard.press("Escape");
  await page.keyboard.press("m");
  await typeQuantity(page, "bank.capacityAh", "2 x 100 Ah");
  await expect(inputOf(page, "bank.capacityAh")).toHaveValue("100 Ah");
  await expect(inputOf(page, "bank.parallel")).toHaveValue("2");
  await saved(page);
  const { bank } = (await storedJob(request, id)).job;
  expect(bank.capacityAh).toEqual({ value: 100, origin: "plate" });
  expect(bank.parallel).toEqual({ value: 2, origin: "plate" });
});

test("what is typed in the two-minute answer is shown as it was meant: several pieces, and the plate's BTU/h", async ({
  page,
}) => {
  await open(page, "/quick");
  await typeQuantity(page, "bank.capacityAh", "2 x 280 Ah");
  await expect(inputOf(page, "bank.capacityAh")).toHaveValue("280 Ah");
  await expect(lineOf(page, "bank.capacityAh").locator("label")).toHaveText("Battery capacity, each");
  await expect(inputOf(page, "bank.parallel")).toHaveValue("2");
  await page.getByRole("combobox", { name: "Neutral to earth" }).click();
  await page.getByText("by the inverter’s relay").click();
  await expect(page.locator("[data-answer]")).toContainText(/Tight: fuses of the batteries in parallel not stated/i);
  await typeQuantity(page, "inverter.rating", "2 x 3 kVA");
  await expect(inputOf(page, "inverter.count")).toHaveValue("2");
  await typeQuantity(page, "units.0.coolingPower", "9000 btu/h");
  await expect(inputOf(page, "units.0.coolingPower")).toHaveValue("9000 BTU/h");
});

for (const reducedMotion of ["no-preference", "reduce"] as const)
  test(`with motion ${reducedMotion} a dialog takes the typing and closes, and a list opens and is chosen from`, async ({
    page,
  }) => {
    await page.emulateMedia({ reducedMotion });
    await load(page, "/?new");
    await expect(page.getByLabel("Customer or name of the system")).toBeFocused();
    await page.keyboard.press("Escape");
    await expect(page.locator(".ant-modal:visible")).toHaveCount(0);
    await load(page, "/quick");
    const choice = page.getByRole("combobox", { name: "Soft starter" });
    await choice.click();
    await page.locator(".ant-select-dropdown:visible").getByText("fitted, learned", { exact: true }).click();
    await expect(page.locator(".ant-select-dropdown:visible")).toHaveCount(0);
    await expect(page.locator(".ant-select", { has: choice })).toContainText("fitted, learned");
  });

test("the dark theme is by choice and stays", async ({ page }) => {
  await open(page, "/");
  const choice = page.locator("[data-theme-choice]");
  await choice.click();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
  await expect(choice).toHaveCount(1);
  await expect(choice).toHaveText("theme: dark");
  await choice.click();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "light");
});
