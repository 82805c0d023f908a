import { expect, type Page } from "@playwright/test";
import { open } from "./support";
import { go, test } from "./window";

/*
 * Beside the other tests of test runs, as these change little and those hang together; early in the order of names, as the
 * demo's simulator runs its battery down in some twenty minutes to its reserve.
 */

/** A demo's job of a name, on its Test run stage. */
async function testRunOf(page: Page, name: string): Promise<void> {
  // By its name: other tests fill the first page of the list.
  await go(page, `/?q=${name}`);
  const href = await page
    .getByRole("link", { name: new RegExp(name) })
    .first()
    .getAttribute("href");
  await open(page, href!.replace(/\/brief$/, "/test-run"));
}

test("the demo has one test run under way, its readings streaming in and the forecast following", async ({ page }) => {
  await testRunOf(page, "Folio");
  await expect(page.getByText("simulator, 10 ×")).toBeVisible();
  const title = page.locator("[data-forecast]");
  await expect(title).toHaveText(/^Battery reaches its reserve at .+, between .+ and /, { timeout: 90_000 });
  // It learns over about five starts: which of the two it is by now hangs on the moment.
  await expect(page.getByText(/The peaks (fall from start to start|are level from start \d+ on)/)).toBeVisible();
  const last = page.locator(".test-run-plot text", { hasText: "last reading" });
  const before = await last.textContent();
  await expect(last).not.toHaveText(before!, { timeout: 90_000 });
  await expect(page.getByLabel("What if, from now").locator("dd").nth(1)).toHaveText(/\d\d:\d\d|two days/, {
    timeout: 90_000,
  });
  // Whatever the moment: the title and the first of the row say the same hour.
  for (let i = 0; i < 4; i++) {
    const said = await page.evaluate(() => ({
      title: document.querySelector("[data-forecast]")!.textContent,
      asIs: document.querySelector('[aria-label="What if, from now"] dd')!.textContent,
    }));
    expect(said.title).toContain(`Battery reaches its reserve at ${said.asIs}, `);
    await page.waitForTimeout(1_000);
  }
  // A reading by hand is of the run's own evening, and not of today: forecast and stream go on.
  await page.getByLabel("Next reading").fill("41.6 13.1");
  await page.getByRole("button", { name: "Save reading" }).click();
  await expect(page.getByLabel("Next reading")).toHaveValue("");
  const written = await last.textContent();
  await expect(last).not.toHaveText(written!, { timeout: 90_000 });
  await expect(title).toHaveText(/^Battery reaches its reserve at .+/);
  await expect(page.getByText("moments were read twice")).toHaveCount(0);
});

test("a monitor with the wrong setting is told, and told not to be taken", async ({ page }) => {
  await testRunOf(page, "Lora");
  await expect(page.getByRole("alert").filter({ hasText: "The monitor is set to" })).toBeVisible({
    timeout: 90_000,
  });
  const monitor = page.locator(".found li", { hasText: "Capacity the monitor reckons with" });
  await expect(monitor.getByText("wrong")).toBeVisible();
  await expect(monitor.getByRole("button")).toHaveCount(0);
});

test("a finished test run shows what was predicted against what happened, and the truth of its simulator", async ({
  page,
}) => {
  await testRunOf(page, "Levain");
  const record = page.getByRole("region", { name: "Predicted vs actual" });
  await expect(record.getByRole("row")).toHaveCount(5, { timeout: 90_000 });
  await expect(page.getByText("Hidden values of the simulator:")).toBeVisible();
  // Nothing is left of it that could go another way.
  await expect(page.getByLabel("What if, from now")).toHaveCount(0);
  await page.getByText("Accuracy of past forecasts, by kind of system").click();
  await expect(page.getByRole("row", { name: /variable speed, lithium/ })).toBeVisible();
});
