import { expect, type Page } from "@playwright/test";
import { complaints, makeJob, open, saved, storedJob } from "./support";
import { emptyPanel } from "../../src/core/document/schema";
import { test } from "./window";

const job = (request: Parameters<typeof makeJob>[0]) =>
  makeJob(request, "Fault desk", (job) => {
    job.units[0]!.runningCurrent = { value: 6, origin: "plate" };
    job.bank.capacityAh = { value: 200, origin: "plate" };
    job.sources.panels = [emptyPanel("p1", "Roof")];
  });
const option = (page: Page, text: string) =>
  page
    .locator(".ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option")
    .filter({ hasText: text });
async function say(page: Page, symptom: string) {
  const chosen = option(page, symptom);
  await page.getByRole("combobox", { name: "Symptoms" }).click();
  // While the list opens a click may find no row: again where it did not choose. One that chose would be taken back.
  await expect(async () => {
    if (!/option-selected/.test((await chosen.getAttribute("class")) ?? "")) await chosen.click();
    await expect(chosen).toHaveClass(/option-selected/, { timeout: 2000 });
  }).toPass();
  await page.keyboard.press("Escape");
}
async function ask(page: Page, reading: string) {
  await page.getByRole("combobox", { name: "Another reading" }).click();
  await page.getByRole("combobox", { name: "Another reading" }).fill(reading.slice(0, 18));
  await option(page, reading).click();
}
const next = (page: Page) => page.getByRole("region", { name: "Next reading" });

test("from a symptom through readings to a finding, kept with the system, before and after", async ({
  page,
  request,
}) => {
  const heard = complaints(page);
  const id = await job(request);
  await open(page, `/jobs/${id}/brief`);
  await page.locator("h1").click();
  await page.keyboard.press("f");
  await expect(page).toHaveURL(/\/fault-finding$/);
  await say(page, "Low-voltage fault with a full battery");
  await expect(next(page)).toContainText("On a sound system");
  await ask(page, "Wiring from battery to inverter");
  const how = next(page);
  await how.getByLabel("Volts at the battery").fill("13.1");
  await how.getByLabel("Volts at the inverter").fill("eleven");
  await how.getByLabel("Amps from the battery").fill("120 A");
  await how.getByRole("button", { name: "Save reading" }).click();
  await expect(how.getByRole("alert")).toContainText("Volts at the inverter");
  await how.getByLabel("Volts at the inverter").fill("11.6 V");
  await how.getByRole("button", { name: "Save reading" }).click();
  // 1.5 V at 120 A.
  await expect(page.locator("[data-taken=path]")).toContainText("12.5 mΩ");
  await ask(page, "Cable rise above ambient");
  await next(page).getByLabel("Cable", { exact: true }).fill("78 C");
  await next(page).getByLabel("Air").fill("30 C");
  await next(page).getByRole("button", { name: "Save reading" }).click();
  const first = page.getByRole("region", { name: "Causes" }).getByRole("row").first();
  await expect(first).toContainText("Cable from battery to inverter too thin or too long");
  await expect(first).toContainText("for: Cable rise above ambient");

  // Not lost where the page goes.
  await page.reload();
  await expect(page.locator("[data-taken]")).toHaveCount(2);
  await first.getByRole("button", { name: "Confirm cause" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Repair done or planned").fill("Two 70 mm² in place of 16 mm²");
  await dialog.getByLabel("Initials").fill("MT");
  await dialog.getByRole("button", { name: "Save finding" }).click();
  const finding = page.locator("[data-finding=thin-cable]");
  await expect(finding).toContainText("Two 70 mm² in place of 16 mm²");
  await finding.getByRole("button", { name: "Take again: Wiring from battery to inverter" }).click();
  const again = page.getByRole("dialog", { name: "Wiring from battery to inverter" });
  await again.getByLabel("Volts at the battery").fill("13.1");
  await again.getByLabel("Volts at the inverter").fill("12.86");
  await again.getByLabel("Amps from the battery").fill("120");
  await again.getByRole("button", { name: "Save reading" }).click();
  await expect(finding).toContainText("2 mΩ");
  await saved(page);
  const { findings } = (await storedJob(request, id)).job.handover;
  expect(findings).toHaveLength(1);
  expect(findings[0]).toMatchObject({ cause: "thin-cable", by: "MT", symptoms: ["low-voltage-full-bank"] });
  expect(findings[0]!.before).toHaveLength(2);
  expect(findings[0]!.after).toEqual([{ reading: "path", fields: [13.1, 12.86, 120] }]);
  expect(heard).toEqual([]);
});

test("questions are answered with a key, and a reading taken back changes the ranking back", async ({
  page,
  request,
}) => {
  await open(page, `/jobs/${await job(request)}/fault-finding`);
  await say(page, "Trips as the compressor starts");
  const causes = page.getByRole("region", { name: "Causes" });
  const before = await causes.getByRole("row").first().innerText();
  await ask(page, "Is an economy or search mode on?");
  await next(page).getByRole("button", { name: "Yes" }).focus();
  await page.keyboard.press("Enter");
  await expect(causes.getByRole("row").first()).toContainText("Inverter in an economy or search mode");
  await page.getByRole("button", { name: "Undo: Is an economy or search mode on?" }).click();
  await expect.poll(() => causes.getByRole("row").first().innerText()).toBe(before);
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 } });
  test("an apprentice practises: readings come off the practice case, and the truth is told", async ({
    page,
    request,
  }) => {
    await open(page, `/jobs/${await job(request)}/fault-finding`);
    await page.getByRole("button", { name: "Open a practice case" }).click();
    // Four readings, or as many as tell anything: of some cases there are fewer.
    const read = page.getByRole("button", { name: "Read it on the practice case" });
    const nothing = page.getByRole("heading", { name: "Nothing left to read" });
    for (let i = 0; i < 4; i++) {
      await expect(read.or(nothing)).toBeVisible();
      if (i > 0 && (await nothing.isVisible())) break;
      await read.click();
      await expect(page.locator("[data-taken]")).toHaveCount(i + 1);
    }
    await page.getByRole("button", { name: "What was it?" }).click();
    await expect(page.getByText(/^It was: .+ Ranked at place \d+/)).toBeVisible();
    // Nothing of a practice case goes into the job.
    await expect(page.getByRole("button", { name: "Confirm cause" })).toHaveCount(0);
    await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await page.getByRole("button", { name: "Leave practice case" }).click();
    await expect(page.getByRole("heading", { name: "What is wrong?" })).toBeVisible();
  });
});
