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
  test("keeps a photo that is taken without reception, sends it by itself, and hands it over", async ({
    page,
    request,
    context,
  }) => {
    const id = await makeJob(request, "Photos");
    await open(page, `/jobs/${id}/commissioning`);
    await page.getByText(/^Inspection sheet, 0 of/).click();
    const point = page.locator(step("inspect:fixing"));
    const picture = await page.screenshot({ type: "jpeg" });
    const photo = { name: "joint.jpg", mimeType: "image/jpeg", buffer: picture };
    await context.setOffline(true);
    await point.locator("input[type=file]").setInputFiles(photo);
    await expect(point.getByText("Not sent yet.")).toBeVisible();
    await expect(point.getByRole("img")).toHaveJSProperty("complete", true);
    await context.setOffline(false);
    await expect(point.getByText("Not sent yet.")).toBeHidden({ timeout: 20_000 });
    await saved(page);
    const { steps } = (await storedJob(request, id)).job.handover;
    const [kept] = steps.find((one) => one.step === "inspect:fixing")!.photos!;
    const whole = await request.get(`/api/jobs/${id}/photos/${kept}`);
    expect([whole.status(), whole.headers()["content-type"]]).toEqual([200, "image/jpeg"]);
    await page.goto(`/jobs/${id}/handover`);
    const shown = page.locator("[data-section=inspection] .handed-photos img");
    await expect.poll(() => shown.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeGreaterThan(100);
  });
  test("a photo that is none is refused where it was taken, and goes when it is removed", async ({ page, request }) => {
    const id = await makeJob(request, "No photo");
    await open(page, `/jobs/${id}/commissioning`);
    const isolated = page.locator(step("isolated"));
    const note = { name: "note.jpg", mimeType: "image/jpeg", buffer: Buffer.from("no picture") };
    await isolated.locator("input[type=file]").setInputFiles(note);
    await expect(isolated.getByRole("alert")).toHaveText("A photo as JPEG, PNG or WebP expected.");
    await isolated.getByRole("button", { name: "Remove photo 1" }).click();
    await expect(isolated.getByRole("alert")).toBeHidden();
    await saved(page);
    const { steps } = (await storedJob(request, id)).job.handover;
    expect(steps.find((one) => one.step === "isolated")?.photos).toBeUndefined();
  });
});
