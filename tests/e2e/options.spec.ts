import { expect, type APIRequestContext, type Page } from "@playwright/test";
import { usualRequirement } from "../../src/core/applications/options/target";
import { emptyPanel } from "../../src/core/document/schema";
import { demoJob } from "../jobs";
import { makeJob, storedJob } from "./support";
import { go, test } from "./window";

test.describe.configure({ mode: "serial" });

let job = "";
/** Gives a job a target that is searched in seconds. */
async function putTarget(request: APIRequestContext, id: string): Promise<void> {
  const address = `/api/jobs/${id}/requirement`;
  expect(await (await request.get(address)).json()).toEqual({ requirement: null });
  const usual = usualRequirement((await storedJob(request, id)).job);
  const inverters = usual.vary.inverters.filter(({ rating }) => rating === 2000 || rating === 3000);
  const vary = { ...usual.vary, parallel: [1, 2], panels: [0, 2], inverters };
  const kept = await request.put(address, { data: { ...usual, weeks: 1, confirmWeeks: 2, vary } });
  expect(kept.status()).toBe(204);
}
test.beforeAll(async ({ request }) => {
  job = await makeJob(request, "Target van", (job) => {
    job.units[0]!.runningCurrent = { value: 3.5, origin: "plate" };
    job.units[0]!.lockedRotorCurrent = { value: 9, origin: "plate" };
    job.bank.capacityAh = { value: 100, origin: "plate" };
    job.sources.panels = [emptyPanel("p1")];
  });
  await putTarget(request, job);
});

async function openOptions(page: Page): Promise<void> {
  await go(page, `/jobs/${job}/options`);
  await expect(page.getByRole("button", { name: /^Search/ })).toBeVisible();
}
/** Leaves one of the choices of a line. */
async function leaveOut(page: Page, label: string, choice: string): Promise<void> {
  await page.getByRole("combobox", { name: label }).click();
  await page
    .locator(".ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option", { hasText: choice })
    .first()
    .click();
  await page.keyboard.press("Escape");
  await expect(page.locator(".ant-select-dropdown:not(.ant-select-dropdown-hidden)")).toHaveCount(0);
}

test("a target is kept, counted and searched, and the frontier names what each step buys", async ({ page }) => {
  await openOptions(page);
  await leaveOut(page, "Start", "variable speed");
  await leaveOut(page, "Start", "soft starter");
  await leaveOut(page, "Cabin", "blinds outside");
  for (const part of ["100 Ah AGM, 12 V", "2 kVA"])
    await page.getByRole("button", { name: `Leave out ${part}` }).click();
  await expect(page.getByRole("button", { name: /^Search \d+ designs/ })).toBeEnabled();
  // Left before it would have been sent.
  await page.reload();
  await expect(page.getByText("100 Ah AGM, 12 V")).toHaveCount(0);
  await page.getByRole("button", { name: /^Search/ }).click();
  // Its workers have hardly started: it is stopped and gone on with.
  await page.getByRole("button", { name: "Stop" }).click();
  await page
    .getByRole("button", { name: /^(Go on|Search)/ })
    .last()
    .click();
  await expect(page.locator("table.frontier tbody tr").first()).toBeVisible({ timeout: 60_000 });
  await expect(page.locator("[data-search=done]")).toBeVisible({ timeout: 240_000 });
  await expect(page.getByText(/days of 100 for \+/).first()).toBeVisible();
  await expect(page.locator("[data-rule-of-thumb]")).toHaveCount(3);
  await page.getByText("mass", { exact: true }).click();
  await expect(page.getByRole("img", { name: /designs on the frontier of mass/ })).toBeVisible();
  await page.getByText("money", { exact: true }).click();

  const boxes = page.locator("table.frontier").getByRole("checkbox");
  await boxes.first().check();
  await boxes.last().check();
  const side = page.getByRole("region", { name: "Designs side by side" });
  const strips = side.getByRole("img", { name: /One trip of each design/ });
  await expect(strips.locator("svg > path").first()).toBeVisible();
  await expect(strips.locator("svg")).toHaveCount(2);
  await strips.hover();
  // Both are read at one moment.
  await expect(strips.getByText(/ · cabin .* · outside /)).toHaveCount(2);
  await expect(side.getByRole("row", { name: /^Main cable/ }).first()).toBeVisible();
  const all = await side.getByRole("row").count();
  // The table may be drawn anew between the click and its answer.
  await expect(() => side.getByRole("checkbox", { name: "differences only" }).check({ timeout: 2000 })).toPass();
  expect(await side.getByRole("row").count()).toBeLessThan(all);

  await page.getByRole("button", { name: "Which assumption would change the choice?" }).click();
  await expect(page.locator("[data-turns] caption")).toHaveText(/change the choice/, { timeout: 120_000 });

  const before = await storedJob(page.request, job);
  await side.getByRole("button", { name: "Apply to the job" }).last().click();
  await expect(page.getByText(/Applied to the job as a new revision/)).toBeVisible();
  await expect
    .poll(async () => (await storedJob(page.request, job)).job.bank.parallel?.value)
    .not.toBe(before.job.bank.parallel?.value);
  await expect(page.getByRole("list", { name: "Revisions" }).getByRole("listitem")).toHaveCount(2);
});

test("a revision is named with its promise, compared, restored, taken off and put back", async ({ page }) => {
  await openOptions(page);
  const list = page.getByRole("list", { name: "Revisions" });
  await page.getByLabel("Name of this revision").fill("As quoted");
  await page.getByLabel("What was promised with it").fill("two nights at 26 °C");
  await page.getByRole("button", { name: "Save revision", exact: true }).click();
  await expect(list.getByText("promised: two nights at 26 °C")).toBeVisible();
  await list.getByRole("button", { name: /^Before / }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.locator("[data-changes]")).toBeVisible();
  await expect(dialog.getByRole("row", { name: /^Starts/ })).toBeVisible();
  await dialog.getByRole("button", { name: "Restore it" }).click();
  await expect(page.getByText("Restored. Undo brings back the state before.")).toBeVisible();
  await expect.poll(async () => (await storedJob(page.request, job)).job.sources.panels.length).toBe(1);
  await list.getByRole("button", { name: "As quoted", exact: true }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Close" }).last().click();
  await list.getByRole("button", { name: "Remove As quoted from the list" }).click();
  await expect(list.getByText("promised: two nights")).toHaveCount(0);
  await page.getByRole("button", { name: "Restore" }).click();
  await expect(list.getByText("promised: two nights")).toBeVisible();
});

test("a target beyond its limits says so, with the nearest design and the limit to lift", async ({ page }) => {
  await openOptions(page);
  await page.getByRole("spinbutton", { name: "Money" }).fill("900");
  await page.getByRole("spinbutton", { name: "Money" }).blur();
  await page.getByRole("button", { name: /^Search/ }).click();
  await expect(page.locator("[data-search=done]")).toBeVisible({ timeout: 240_000 });
  await expect(page.getByRole("heading", { name: /^No design/ })).toBeVisible();
  await expect(page.locator("[data-lift=cost]")).toHaveText(/With more money/);
  await page.getByRole("spinbutton", { name: "Money" }).fill("");
  await page.getByRole("spinbutton", { name: "Space inside" }).fill("15");
  await page.getByRole("spinbutton", { name: "Space inside" }).blur();
  await page.getByRole("button", { name: /^Search/ }).click();
  await expect(page.locator("[data-lift=space]")).toHaveText(/more space inside: \d+ litres/, { timeout: 240_000 });
  await expect(page.getByText(/do not fit inside/)).toBeVisible();
});

test("a target that is changed just before its stage is left is kept", async ({ page, request }) => {
  await openOptions(page);
  const money = page.getByRole("spinbutton", { name: "Money" });
  await money.fill("4321");
  await page.locator("a[href$='/wiring']").first().click();
  await expect(page).toHaveURL(/\/wiring$/);
  await page.locator("a[href$='/options']").first().click();
  await expect(money).toHaveValue("4321");
  const kept = async () => {
    const { requirement } = await (await request.get(`/api/jobs/${job}/requirement`)).json();
    return requirement.limits.cost as number | null;
  };
  await expect.poll(kept).toBe(4321);
});

test("a second target stands beside the target, and the hardest of them is named", async ({ page }) => {
  await openOptions(page);
  await page.getByRole("spinbutton", { name: "Money" }).fill("");
  await page.getByRole("spinbutton", { name: "Space inside" }).fill("");
  await page.getByRole("button", { name: /^And also/ }).click();
  const other = page.locator("section.group", { has: page.getByRole("heading", { name: "And also" }) });
  await other.getByLabel("On from, local").fill("13:30");
  await other.getByRole("spinbutton", { name: "Set point" }).fill("24");
  await page.getByRole("button", { name: /^Search/ }).click();
  await expect(page.locator("[data-search=done]")).toBeVisible({ timeout: 240_000 });
  await expect(
    page
      .locator("table.frontier")
      .getByText(/Dog on board|the target/)
      .first(),
  ).toBeVisible();
  await other.getByRole("button", { name: "Remove this target" }).click();
  await expect(page.getByText("The job or the target has changed since: search again.")).toBeVisible();
});

test("what fails whatever is chosen is said above the frontier", async ({ page, request }) => {
  const id = await makeJob(request, "On ignition", (job) => Object.assign(job, demoJob("4-skep"), { name: job.name }));
  await putTarget(request, id);
  await go(page, `/jobs/${id}/options`);
  await page.getByRole("button", { name: /^Search/ }).click();
  await expect(page.locator("[data-given]")).toContainText("engine charging on ignition", { timeout: 60_000 });
});

test("strangers and rubbish are refused by the handlers of requirement and revisions", async ({ request }) => {
  const status = async (path: string, method: string, data?: unknown) =>
    (await request.fetch(`/api/jobs/${job}${path}`, { method, ...(data === undefined ? {} : { data }) })).status();
  expect(await status("/requirement", "PUT", { share: 2 })).toBe(400);
  expect(await status("/revisions", "POST", { id: "1", name: "x", promise: "" })).toBe(400);
  expect(await status("/revisions/not-an-id", "GET")).toBe(404);
  const { job: document } = await storedJob(request, job);
  expect(await status("/revisions", "POST", { id: "1", name: "x", promise: "", job: document })).toBe(400);
});
