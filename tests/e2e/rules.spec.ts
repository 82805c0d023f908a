import { expect, type Page } from "@playwright/test";
import { emptyBranch, emptyPart } from "@/core/document/schema";
import { complaints, lineOf, makeJob, open, saved, storedJob, typeQuantity, wordOf } from "./support";
import { test } from "./window";

const q = (value: number) => ({ value, origin: "plate" as const });
const choose = async (page: Page, path: string, option: string | RegExp) => {
  await lineOf(page, path).getByRole("combobox").click();
  await page.locator(".ant-select-dropdown:visible .ant-select-item-option").getByText(option).first().click();
};

test("a job's rule set is proposed, chosen in the brief, and followed by the wiring", async ({ page, request }) => {
  const heard = complaints(page);
  const id = await makeJob(request, "Rules");
  await open(page, `/jobs/${id}/brief`);
  await expect(lineOf(page, "brief.ruleSet")).toContainText("European road vehicle (proposed)");
  await choose(page, "brief.ruleSet", "Australia and New Zealand");
  await saved(page);
  expect((await storedJob(request, id)).job.brief.ruleSet).toBe("au-nz");
  await open(page, `/jobs/${id}/wiring`);
  await expect(page.getByText("AC: AS/NZS 3008.1 at 40 °C.")).toBeVisible();
  await expect(page.locator("#checks")).toContainText("AS/NZS 3000");
  expect(heard).toEqual([]);
});

test("both sides of a converter are drawn and judged, and all wiring is sized at once with its reasons", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Both sides", (job) => {
    job.bank.blockVoltage = q(51.2);
    const engine = emptyBranch("engine", "engine");
    engine.current = q(50);
    const [fuse, cable] = engine.far;
    engine.far = [{ ...fuse!, rating: q(80) } as typeof fuse & object, cable!];
    job.wiring.branches = [engine];
  });
  await open(page, `/jobs/${id}/wiring`);
  const far = page.locator("section.parts", { hasText: "starter battery to converter" });
  await expect(far).toBeVisible();
  await expect(page.locator("svg.plan")).toContainText("Starter battery");
  await expect(page.locator("svg.plan")).toContainText("DC-DC converter");
  // 50 A at 56.8 V is over 230 A at 13 V: 80 A is far too little.
  await expect(wordOf(page, "carries")).toHaveText("Fails");
  await expect(page.locator("svg.plan")).toContainText(/other side 23\d A/);
  await page.getByRole("button", { name: "Size all wiring automatically" }).click();
  const dialog = page.getByRole("dialog", { name: "Sizes of the whole wiring" });
  await expect(dialog).toContainText("Fuse at 125 % of the current");
  await expect(dialog).toContainText("One size smaller breaks");
  await dialog.getByRole("button", { name: "Apply all to the job" }).click();
  await expect(wordOf(page, "carries")).not.toHaveText("Fails");
  await saved(page);
  const { job } = await storedJob(request, id);
  const fuse = job.wiring.branches[0]!.far[0]!;
  expect(fuse.kind === "fuse" && fuse.rating!.value).toBe(300);
  // Undo takes the whole back.
  await page.locator("h1").click();
  await page.keyboard.press("z");
  await expect(wordOf(page, "carries")).toHaveText("Fails");
});

test("a split-phase job: legs in the brief, the unit and the diagram", async ({ page, request }) => {
  const id = await makeJob(request, "Legs", (job) => {
    job.inverter.count = q(2);
    job.inverter.leads = "own";
  });
  await open(page, `/jobs/${id}/brief`);
  await choose(page, "brief.mains", "120/240 V 60 Hz, split phase");
  await saved(page);
  await open(page, `/jobs/${id}/unit`);
  await choose(page, "units.0.leg", "between L1 and L2");
  await saved(page);
  await open(page, `/jobs/${id}/wiring`);
  await expect(page.locator("svg.plan")).toContainText("L1 to L2");
  await expect(page.locator("svg.plan")).toContainText("2 equal circuits");
  await expect(page.locator("svg.plan")).toContainText("GFCI");
});

test("an RCD of 300 mA as the only one fails, said beside its part", async ({ page, request }) => {
  const id = await makeJob(request, "Fire only", (job) => {
    job.wiring.mains = [emptyPart("rcd", "r"), emptyPart("breaker", "b"), emptyPart("cable", "c")];
  });
  await open(page, `/jobs/${id}/wiring`);
  await typeQuantity(page, "wiring.mains.0.residual", "300 mA");
  await expect(wordOf(page, "carries")).toHaveText("Fails");
  const rule = page.locator(".rule").filter({ hasText: "300 mA protects against fire only" });
  await expect(rule).toContainText("IEC 60364-7-721");
});
