import AxeBuilder from "@axe-core/playwright";
import { expect, test, type Page } from "@playwright/test";
import { complaints, makeJob, open, wordOf } from "./support";

// Each view is a test of its own that wants nothing of the others, and most of the time is spent by the browser alone.
test.describe.configure({ mode: "parallel" });

/** A phone's width, px. */
const PHONE = 390;

/** Addresses that a page asks of anybody but its own server. */
function strangersOf(page: Page, baseURL: string): string[] {
  const strangers: string[] = [];
  page.on("request", (one) => {
    if (!one.url().startsWith(baseURL) && !/^(data|blob):/.test(one.url())) strangers.push(one.url());
  });
  return strangers;
}

/** Of what a page passes nothing is told: gathering it takes several times as long as finding what fails. */
const axeOf = (page: Page) => new AxeBuilder({ page }).options({ resultTypes: ["violations"], elementRef: false });

test.describe("axe finds no serious fault in either theme, a phone shows it all, and only its own server is asked", () => {
  for (const view of [
    "/",
    "/quick",
    "brief",
    "unit",
    "start",
    "path",
    "bank",
    "sources",
    "day",
    "test-run",
    "options",
    "faults",
    "prove",
    "pack",
    "/parts",
    "/people",
    "/deleted",
  ]) {
    test(view, async ({ page, request, baseURL }) => {
      const id = await makeJob(
        request,
        "Axe",
        (job) => (job.units[0]!.lockedRotorCurrent = { value: 33, origin: "plate" }),
      );
      const strangers = strangersOf(page, baseURL!);
      // Opened by its address, what the server sent is what the browser makes of it.
      const heard = complaints(page);
      await open(page, view.startsWith("/") ? view : `/jobs/${id}/${view}`);
      if (view === "sources" || view === "day") await expect(wordOf(page, "recovers")).toBeVisible();
      for (const colorScheme of ["light", "dark"] as const) {
        await page.emulateMedia({ colorScheme });
        // Colours that fade from one theme to the other are judged once they stand.
        await page.waitForTimeout(100);
        await page.evaluate(() =>
          Promise.allSettled(
            document
              .getAnimations()
              .filter(({ effect }) => effect?.getComputedTiming().endTime !== Infinity)
              .map(({ finished }) => finished),
          ),
        );
        // Both themes have the same elements: of the dark one only its colours are new.
        const axe = axeOf(page);
        if (colorScheme === "dark") axe.withRules(["color-contrast"]);
        const { violations } = await axe.analyze();
        const serious = violations.filter(({ impact }) => impact === "serious" || impact === "critical");
        expect(
          serious.map(
            ({ id: rule, nodes }) =>
              `${colorScheme}, ${rule}: ${nodes
                .map((node) => node.html)
                .join(" | ")
                .slice(0, 400)}`,
          ),
        ).toEqual([]);
      }
      expect(await page.evaluate(() => document.fonts.check("14px 'Atkinson Hyperlegible Next Variable'"))).toBe(true);
      await page.setViewportSize({ width: PHONE, height: 844 });
      await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(PHONE);
      if (view === "bank") await expect(page.locator("[data-verdict=starts]")).toBeInViewport();
      expect(await page.evaluate(wordsOverTheirVerdict)).toEqual([]);
      expect(strangers).toEqual([]);
      expect(heard).toEqual([]);
    });
  }
  test("the drawer with a sum, and the dialog of a new job", async ({ page, request }) => {
    const id = await makeJob(request, "Axe");
    await open(page, `/jobs/${id}/bank`);
    await page.locator(".figure").first().click();
    await expect(page.getByText("Working", { exact: true })).toBeVisible();
    await page.waitForTimeout(400);
    const check = async () => {
      const { violations } = await axeOf(page).analyze();
      return violations
        .filter(({ impact }) => impact === "serious" || impact === "critical")
        .map(({ id: rule, nodes }) => `${rule}: ${nodes[0]!.html.slice(0, 300)}`);
    };
    expect(await check()).toEqual([]);
    await open(page, "/?new");
    await expect(page.getByLabel("Customer or name of the system")).toBeFocused();
    await page.waitForTimeout(400);
    expect(await check()).toEqual([]);
  });
});

/** Words of the verdicts that stand over what is beside them. */
const wordsOverTheirVerdict = (): (string | null)[] =>
  [...document.querySelectorAll(".verdict")].flatMap((verdict) =>
    [...verdict.querySelectorAll("span, b")]
      .filter((words) => words.getBoundingClientRect().right > verdict.getBoundingClientRect().right + 1)
      .map(({ textContent }) => textContent),
  );
