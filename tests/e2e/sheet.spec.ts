import { expect } from "@playwright/test";
import {
  complaints,
  inputOf,
  lineOf,
  makeJob,
  open,
  openQuantity,
  saved,
  storedJob,
  typeQuantity,
  wordOf,
} from "./support";
import { test } from "./window";

test("from an empty list of quantities to the answer: a job is typed in and its verdicts follow", async ({
  page,
  request,
}) => {
  const heard = complaints(page);
  const id = await makeJob(request, "Enquiry by phone");
  await open(page, `/jobs/${id}/unit`);
  await typeQuantity(page, "units.0.runningCurrent", "6 A");
  await typeQuantity(page, "units.0.lockedRotorCurrent", "33");
  await page.locator(".rail a", { hasText: "Battery" }).click();
  await expect(page).toHaveURL(/\/bank$/);
  await typeQuantity(page, "bank.capacityAh", "280 Ah");
  await typeQuantity(page, "bank.parallel", "2");
  await page.locator(".rail a", { hasText: "Start" }).click();
  await typeQuantity(page, "inverter.rating", "3kVA");
  await page.locator(".rail a", { hasText: "Wiring" }).click();
  await typeQuantity(page, "wiring.main.3.areaMm2", "2/0");
  await typeQuantity(page, "wiring.main.3.length", "5 ft");
  await expect(wordOf(page, "starts")).toHaveText("Fails");
  await page.locator(".rail a", { hasText: "Unit" }).click();
  await lineOf(page, "units.0.startAid").getByRole("combobox").click();
  await page.locator(".ant-select-item-option", { hasText: "soft starter" }).click();
  await expect(wordOf(page, "starts")).toHaveText("Holds");
  await saved(page);
  const { job } = await storedJob(request, id);
  expect(job.units[0]).toMatchObject({ startAid: "soft-starter", runningCurrent: { value: 6, origin: "plate" } });
  const cable = job.wiring.main.find((part) => part.kind === "cable")!;
  expect(cable.length!.value).toBeCloseTo(1.524, 6);
  expect(cable.areaMm2!.value).toBeCloseTo(67.43, 2);
  expect(heard).toEqual([]);
});

test("a wrong unit gets a plain message in place and the old value is kept", async ({ page, request }) => {
  const id = await makeJob(request, "Slips", (job) => (job.bank.capacityAh = { value: 200, origin: "plate" }));
  await open(page, `/jobs/${id}/bank`);
  const input = inputOf(page, "bank.capacityAh");
  const line = lineOf(page, "bank.capacityAh");
  for (const [text, message] of [
    ["14 A", "“14 A” is a current; this field takes a charge, such as 280 Ah."],
    ["-5", "Capacity, each takes 0.5 Ah to 5000 Ah."],
    ["NaN", "“NaN” is not a charge"],
    ["9".repeat(10_000), "too long"],
  ] as const) {
    await openQuantity(page, "bank.capacityAh");
    await input.fill(text);
    await input.press("Enter");
    await expect(line.getByRole("alert")).toContainText(message);
    await input.blur();
    await expect(input).toHaveValue("200 Ah");
    await expect(line.getByRole("alert")).toContainText("The old value is kept.");
  }
  expect((await storedJob(request, id)).revision).toBe(1);
});

test("origin marks: typed is plate, m is measured, Delete goes back to the typical value", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Marks");
  await open(page, `/jobs/${id}/unit`);
  const mark = (words: string) =>
    lineOf(page, "units.0.runningCurrent").getByRole("button", { name: new RegExp(`Running current: ${words}`) });
  await expect(mark("assumed")).toBeVisible();
  await typeQuantity(page, "units.0.runningCurrent", "7.1");
  await expect(mark("plate or stated")).toBeVisible();
  await inputOf(page, "units.0.runningCurrent").press("m");
  await expect(mark("measured")).toBeVisible();
  await saved(page);
  expect((await storedJob(request, id)).job.units[0]!.runningCurrent).toEqual({ value: 7.1, origin: "measured" });
  await inputOf(page, "units.0.runningCurrent").press("Delete");
  await expect(mark("assumed")).toBeVisible();
});

test("undo and redo take a whole typed value at a time, by key and by button", async ({ page, request }) => {
  const id = await makeJob(request, "Undo");
  await open(page, `/jobs/${id}/bank`);
  await expect(inputOf(page, "bank.capacityAh")).toHaveValue("200 Ah");
  await typeQuantity(page, "bank.capacityAh", "3456");
  await typeQuantity(page, "bank.capacityAh", "417");
  await expect(inputOf(page, "bank.capacityAh")).toHaveValue("417 Ah");
  await page.keyboard.press("z");
  await expect(inputOf(page, "bank.capacityAh")).toHaveValue("3456 Ah");
  await page.keyboard.press("z");
  await expect(inputOf(page, "bank.capacityAh")).toHaveValue("200 Ah");
  await page.keyboard.press("Shift+Z");
  await expect(inputOf(page, "bank.capacityAh")).toHaveValue("3456 Ah");
  await page.getByRole("button", { name: "redo" }).click();
  await expect(inputOf(page, "bank.capacityAh")).toHaveValue("417 Ah");
});

test("undone back to what is stored there is nothing left to save", async ({ page, request, context }) => {
  const id = await makeJob(request, "Back again");
  await open(page, `/jobs/${id}/bank`);
  await context.setOffline(true);
  await typeQuantity(page, "bank.capacityAh", "300");
  await page.keyboard.press("z");
  await expect(inputOf(page, "bank.capacityAh")).toHaveValue("200 Ah");
  await context.setOffline(false);
  await saved(page);
  expect((await storedJob(request, id)).revision).toBe(1);
});

test("keyboard alone: stages by digit, a quantity typed, its working opened and closed, units switched", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Keys only");
  await open(page, `/jobs/${id}/brief`);
  await expect(page.locator(".rail a[aria-current]")).toHaveText(/Brief/);
  await page.keyboard.press("5");
  await expect(page).toHaveURL(/\/bank$/);
  const capacity = inputOf(page, "bank.capacityAh");
  await capacity.focus();
  await page.keyboard.type("310 Ah");
  await page.keyboard.press("Enter");
  await expect(capacity).toHaveValue("310 Ah");
  await page.locator(".figure").first().focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText("Working", { exact: true })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByText("Working", { exact: true })).toBeHidden();
  await page.keyboard.press("4");
  await expect(inputOf(page, "wiring.main.3.length")).toHaveValue("1.5 m");
  await page.keyboard.press("u");
  await expect(inputOf(page, "wiring.main.3.length")).toHaveValue(/ ft$/);
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
});

test("every figure of a verdict shows its working, down to what was entered", async ({ page, request }) => {
  const id = await makeJob(request, "Sums", (job) => (job.units[0]!.runningCurrent = { value: 6, origin: "measured" }));
  await open(page, `/jobs/${id}/start`);
  await page.locator("[data-verdict=carries]").click();
  const drawer = page.locator(".ant-drawer-content-wrapper, .ant-drawer-section").last();
  await expect(drawer.getByText("Carries: every check")).toBeVisible();
  await drawer.getByRole("button", { name: /All AC loads at once, apparent: .*show working/ }).click();
  await expect(drawer.getByText("S = S_1 + P_o")).toBeVisible();
  await drawer.getByRole("button", { name: /Running, apparent/ }).click();
  await expect(drawer.getByText("S = V × I × k")).toBeVisible();
  await expect(drawer.getByText("measured", { exact: true })).toBeVisible();
  await drawer.getByRole("button", { name: "Back" }).click();
  await expect(drawer.getByText("S = S_1 + P_o")).toBeVisible();
});

test("the pictures are drawn: start under its limits, ladder, column, hours, power over heat", async ({
  page,
  request,
}) => {
  const id = await makeJob(
    request,
    "Pictures",
    (job) => (job.units[0]!.lockedRotorCurrent = { value: 33, origin: "plate" }),
  );
  await open(page, `/jobs/${id}/start`);
  const start = page.getByRole("img", { name: /Demand of the start over time/ });
  await expect.poll(() => start.locator("path").count()).toBeGreaterThan(8);
  await expect(start.getByText("inverter surge")).toBeVisible();
  await expect(
    page.getByRole("img", { name: /Volts at the start peak at the reserve: 12\.9 V open-circuit/ }),
  ).toBeVisible();
  await page.getByText("full", { exact: true }).click();
  await expect(
    page.getByRole("img", { name: /Volts at the start peak as charged: 13\.6 V open-circuit/ }),
  ).toBeVisible();
  await page.keyboard.press("5");
  await expect(page.getByRole("img", { name: /^The battery, 2\.61 kWh: .*Reserve/ })).toBeVisible();
  await expect(
    page.getByRole("img", { name: /^Hours from switching on to the reserve: Mild day .*Design day .*wanted 8 h/ }),
  ).toBeVisible();
  await page.keyboard.press("2");
  await expect
    .poll(() =>
      page
        .getByRole("img", { name: /^Power of Air conditioner/ })
        .locator("path")
        .count(),
    )
    .toBeGreaterThan(5);
});

test("loads, what is on board and a second unit are added and removed, and count", async ({ page, request }) => {
  const id = await makeJob(request, "Lists");
  await open(page, `/jobs/${id}/brief`);
  const need = page.locator("[data-verdict=carries] [data-pair]");
  const before = await need.textContent();
  await page.getByRole("button", { name: "Add a load" }).click();
  await page.getByRole("textbox", { name: "Name of the load" }).fill("Kettle");
  await typeQuantity(page, "brief.loads.0.power", "2.2 kW");
  await expect(need).not.toHaveText(before!);
  await page.getByRole("button", { name: "Remove Kettle" }).click();
  await expect(need).toHaveText(before!);
  await page.getByRole("button", { name: "Add part on board" }).click();
  await page.getByRole("textbox", { name: "What is on board" }).fill("Old inverter");
  await page.keyboard.press("Tab");
  await page.locator(".rail a", { hasText: "Unit" }).click();
  await page.getByRole("button", { name: "Add a second unit" }).click();
  await expect(need).not.toHaveText(before!);
  await saved(page);
  const { job } = await storedJob(request, id);
  expect(job.brief.aboard.map(({ name, fate }) => [name, fate])).toEqual([["Old inverter", "stays"]]);
  expect(job.units).toHaveLength(2);
  expect(job.brief.loads).toHaveLength(0);
});

test("the page comes styled from the server: text and layout are there before any script", async ({
  browser,
  request,
  baseURL,
}) => {
  const id = await makeJob(request, "No script");
  const page = await (
    await browser.newContext({ javaScriptEnabled: false, viewport: { width: 1280, height: 800 } })
  ).newPage();
  await page.goto(`${baseURL}/jobs/${id}/brief`);
  await expect(page.getByRole("heading", { name: "No script" })).toBeVisible();
  await expect(wordOf(page, "starts")).toHaveText(/Holds|Tight|Fails/);
  const rail = (await page.locator(".rail").boundingBox())!;
  const head = (await page.locator(".head").boundingBox())!;
  expect([Math.round(rail.width), rail.y >= head.y + head.height - 1]).toEqual([150, true]);
  expect(await page.evaluate(() => getComputedStyle(document.querySelector(".ant-select")!).borderRadius)).toBe("2px");
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 } });
  test("the verdicts' words stay in sight while the sheet is scrolled", async ({ page, request }) => {
    const id = await makeJob(request, "Scrolled");
    await open(page, `/jobs/${id}/brief`);
    const glance = page.locator(".glance");
    await expect(glance).toHaveCount(0);
    await page.getByText("Other loads at the same time").scrollIntoViewIfNeeded();
    await page.mouse.wheel(0, 600);
    await expect(page.locator("[data-verdict=starts]")).not.toBeInViewport();
    await expect(glance).toBeInViewport();
    await expect(glance).toContainText((await wordOf(page, "starts").textContent())!);
  });
});
