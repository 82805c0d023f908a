import AxeBuilder from "@axe-core/playwright";
import { expect, type Page } from "@playwright/test";
import { demoJob } from "../jobs";
import { clickFor, complaints, makeJob, wordOf } from "./support";
import { load, test } from "./window";

// Each view is a test of its own that wants nothing of the others, and most of the time is spent by the browser alone.
test.describe.configure({ mode: "parallel" });

/** Each view, on a job of the demo that has much to show there. */
const VIEWS: [view: string, demo?: string][] = [
  ["/"],
  ["/quick"],
  ["brief", "6-levain"],
  ["unit", "2-marionette"],
  ["start", "4-skep"],
  ["wiring", "6-levain"],
  ["bank", "6-levain"],
  ["charging", "3-shearwater"],
  ["day", "2-marionette"],
  ["test-run", "1-folio"],
  ["options", "5-lora"],
  ["fault-finding", "4-skep"],
  ["commissioning", "3-shearwater"],
  ["handover", "5-lora"],
  ["/parts"],
  ["/people"],
  ["/deleted"],
];

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

/**
 * Of what a page passes nothing is told, and it is looked at in one piece, since it has no frames: gathering what each frame
 * passes takes several times as long as finding what fails.
 */
const axeOf = (page: Page) =>
  new AxeBuilder({ page }).options({ resultTypes: ["violations"], elementRef: false }).setLegacyMode();

test.describe("axe finds no serious fault in either theme, a phone shows it all, and only its own server is asked", () => {
  for (const [view, demo] of VIEWS) {
    test(view, async ({ page, request, baseURL }) => {
      const id = demo ? await makeJob(request, "Axe", (job) => Object.assign(job, demoJob(demo), { name: "Axe" })) : "";
      const strangers = strangersOf(page, baseURL!);
      // Opened by its address, what the server sent is what the browser makes of it.
      const heard = complaints(page);
      await load(page, view.startsWith("/") ? view : `/jobs/${id}/${view}`);
      if (demo) await expect(wordOf(page, "recovers")).toBeVisible();
      else await page.waitForLoadState("networkidle");
      for (const colorScheme of ["light", "dark"] as const) {
        await page.emulateMedia({ colorScheme, reducedMotion: "no-preference" });
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
        // Both themes have the same elements: of the dark one only its colours are new. Asked again where one still fades.
        const axe = axeOf(page);
        if (colorScheme === "dark") axe.withRules(["color-contrast"]);
        await expect.poll(async () => seriousOf((await axe.analyze()).violations), { timeout: 30_000 }).toEqual([]);
      }
      expect(await page.evaluate(wordsCut)).toEqual([]);
      expect(await page.evaluate(() => document.fonts.check("14px 'Atkinson Hyperlegible Next Variable'"))).toBe(true);
      await page.setViewportSize({ width: PHONE, height: 844 });
      await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(PHONE);
      if (view === "bank") await expect(page.locator("[data-verdict=starts]")).toBeInViewport();
      expect(await page.evaluate(wordsOverTheirVerdict)).toEqual([]);
      expect(await page.evaluate(wordsCut)).toEqual([]);
      expect(strangers).toEqual([]);
      expect(heard).toEqual([]);
    });
  }
  test("the drawer with a working, and the dialog of a new job", async ({ page, request }) => {
    const id = await makeJob(request, "Axe");
    await load(page, `/jobs/${id}/bank`);
    await clickFor(page.locator(".figure").first(), page.getByText("Working", { exact: true }));
    await page.waitForTimeout(400);
    const check = async () => {
      const { violations } = await axeOf(page).analyze();
      return seriousOf(violations);
    };
    expect(await check()).toEqual([]);
    await load(page, "/?new");
    await expect(page.getByLabel("Customer or name of the system")).toBeFocused();
    await page.waitForTimeout(400);
    expect(await check()).toEqual([]);
  });
});

/** What a person would meet as a fault: the rule, and where it is broken. */
const seriousOf = (violations: Awaited<ReturnType<AxeBuilder["analyze"]>>["violations"]): string[] =>
  violations
    .filter(({ impact }) => impact === "serious" || impact === "critical")
    .map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .map(({ html }) => html)
          .join(" | ")
          .slice(0, 400)}`,
    );

/** Labels that reach out of their picture, and choices whose words are cut. */
const wordsCut = (): (string | null)[] => {
  const labels = [...document.querySelectorAll("svg")].flatMap((picture) => {
    const { left, right } = picture.getBoundingClientRect();
    return [...picture.querySelectorAll("text")].filter((label) => {
      const box = label.getBoundingClientRect();
      return box.width > 0 && (box.right > right + 1 || box.left < left - 1);
    });
  });
  const choices = [...document.querySelectorAll(".ant-select-content-has-value")].filter(
    (choice) => choice.clientWidth > 0 && choice.scrollWidth > choice.clientWidth + 1,
  );
  return [...labels, ...choices].map(({ textContent }) => textContent);
};

/** Words of the verdicts that stand over what is beside them. */
const wordsOverTheirVerdict = (): (string | null)[] =>
  [...document.querySelectorAll(".verdict")].flatMap((verdict) =>
    [...verdict.querySelectorAll("span, b")]
      .filter((words) => words.getBoundingClientRect().right > verdict.getBoundingClientRect().right + 1)
      .map(({ textContent }) => textContent),
  );
