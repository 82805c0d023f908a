import { expect } from "@playwright/test";
import { clickFor, complaints, makeJob, open, saved, storedJob } from "./support";
import { test } from "./window";

const step = (key: string) => `[data-step="${key}"]`;

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 } });
  test("the run sheet is gone through, left and taken up again; a failing step opens the fault finding with its reading", async ({
    page,
    request,
  }) => {
    const heard = complaints(page);
    const id = await makeJob(request, "Commissioning", (job) => {
      job.units[0]!.runningCurrent = { value: 6, origin: "plate" };
      job.bank.capacityAh = { value: 200, origin: "plate" };
    });
    await open(page, `/jobs/${id}/commissioning`);
    await page.getByLabel("Initials, recorded with each step").fill("IS");
    await page.locator(step("isolated")).getByRole("button", { name: "Pass" }).click();
    await page.locator(step("dead")).getByLabel("Volts there").fill("0.4");
    await page.locator(step("dead")).getByLabel("Volts there").press("Enter");
    await expect(page.locator(step("dead"))).toHaveAttribute("data-passed", "yes");

    const path = page.locator(step("path"));
    await path.getByLabel("Volts at the battery").fill("13.2");
    await path.getByLabel("Volts at the inverter").fill("a lot");
    await path.getByLabel("Volts at the inverter").press("Enter");
    await expect(path.getByRole("alert")).toBeVisible();
    await path.getByLabel("Volts at the inverter").fill("11.7");
    await path.getByLabel("Amps from the battery").fill("100 A");
    await path.getByLabel("Amps from the battery").press("Enter");
    // 1.5 V at 100 A.
    await expect(path).toContainText("Measured: 15 mΩ.");
    await expect(path).toHaveAttribute("data-passed", "no");
    await path.getByLabel("Why, and what is done").fill("lug at the isolator");
    await saved(page);

    await page.reload();
    await expect(page.locator("[data-steps]")).toHaveAttribute("data-steps", /^2 1 /);
    await expect(path).toContainText("IS, ");
    const { steps } = (await storedJob(request, id)).job.handover;
    expect(steps.find((one) => one.step === "path")).toMatchObject({
      fields: [13.2, 11.7, 100],
      passed: false,
      reason: "lug at the isolator",
      by: "IS",
    });
    await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);

    await clickFor(path.getByRole("button", { name: "Open in fault finding" }), page.locator("[data-taken=path]"));
    await expect(page).toHaveURL(/\/fault-finding$/);
    await expect(page.locator("[data-taken=path]")).toContainText("15 mΩ");
    await expect(page.getByRole("region", { name: "Causes" })).toContainText("for: Wiring from battery to inverter");
    expect(heard).toEqual([]);
  });
});

test("the judgement is the installer's: a step passes or not against its number, and undo takes it back", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Judged");
  await open(page, `/jobs/${id}/brief`);
  await page.locator("h1").click();
  await page.keyboard.press("p");
  await expect(page).toHaveURL(/\/commissioning$/);
  const dead = page.locator(step("dead"));
  await dead.getByLabel("Volts there").fill("9");
  await dead.getByLabel("Volts there").press("Enter");
  await expect(dead).toHaveAttribute("data-passed", "no");
  await dead.getByRole("button", { name: "Pass" }).click();
  await expect(dead).toHaveAttribute("data-passed", "yes");
  await page.locator("h1").click();
  await page.keyboard.press("z");
  await expect(dead).toHaveAttribute("data-passed", "no");
});

test.describe("the inspection sheet on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 } });
  test("is answered by a look, a value against its limit, or a reason why it does not apply, and is handed over", async ({
    page,
    request,
  }) => {
    const id = await makeJob(request, "Inspection");
    await open(page, `/jobs/${id}/commissioning`);
    await page.getByLabel("Initials, recorded with each step").fill("IS");
    await page.getByText(/^Inspection sheet, 0 of/).click();
    await page.locator(step("inspect:fixing")).getByRole("button", { name: "Seen" }).click();
    const insulation = page.locator(step("inspect:insulation:mains"));
    await insulation.getByLabel("Instrument").fill("Tester 4");
    await insulation.getByLabel("Resistance").fill("0.4");
    await insulation.getByLabel("Resistance").press("Enter");
    await expect(insulation).toHaveAttribute("data-passed", "no");
    await insulation.getByLabel("Resistance").fill("200 MΩ");
    await insulation.getByLabel("Resistance").press("Enter");
    await expect(insulation).toHaveAttribute("data-passed", "yes");
    const gas = page.locator(step("inspect:gas"));
    await gas.getByRole("button", { name: "Not here" }).click();
    await expect(page.locator("[data-points]")).toHaveAttribute("data-points", /^2 0 /);
    await gas.getByLabel(/Why it does not apply/).fill("No gas on board");
    await expect(page.locator("[data-points]")).toHaveAttribute("data-points", /^3 0 /);
    await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await saved(page);
    const { steps } = (await storedJob(request, id)).job.handover;
    expect(steps.find((one) => one.step === "inspect:insulation:mains")).toMatchObject({
      fields: [200],
      passed: true,
      instrument: "Tester 4",
      by: "IS",
    });
    await page.goto(`/jobs/${id}/handover`);
    const handed = page.locator("[data-section=inspection]");
    await expect(handed).toContainText("Points answered: 3 of");
    await expect(handed).toContainText("200 MΩ");
    await expect(handed).toContainText("No gas on board");
  });
});
