import AxeBuilder from "@axe-core/playwright";
import { expect, test } from "@playwright/test";
import { inputOf, makeJob, open } from "./support";

test.describe("axe finds no serious fault", () => {
  for (const view of ["/", "/quick", "brief", "unit", "start", "bank"]) {
    test(view, async ({ page, request }) => {
      const id = await makeJob(request, "Axe");
      await open(page, view.startsWith("/") ? view : `/jobs/${id}/${view}`);
      const { violations } = await new AxeBuilder({ page }).analyze();
      const serious = violations.filter(({ impact }) => impact === "serious" || impact === "critical");
      expect(
        serious.map(
          ({ id: rule, nodes }) =>
            `${rule}: ${nodes
              .map((node) => node.html)
              .join(" | ")
              .slice(0, 400)}`,
        ),
      ).toEqual([]);
    });
  }
  test("the drawer with a sum, and the dialog of a new job", async ({ page, request }) => {
    const id = await makeJob(request, "Axe");
    await open(page, `/jobs/${id}/bank`);
    await page.locator(".figure").first().click();
    await expect(page.getByText("The sum", { exact: true })).toBeVisible();
    await page.waitForTimeout(400);
    const check = async () => {
      const { violations } = await new AxeBuilder({ page }).analyze();
      return violations
        .filter(({ impact }) => impact === "serious" || impact === "critical")
        .map(({ id: rule, nodes }) => `${rule}: ${nodes[0]!.html.slice(0, 300)}`);
    };
    expect(await check()).toEqual([]);
    await open(page, "/?new");
    await expect(page.getByLabel("Whose rig, or its name")).toBeFocused();
    await page.waitForTimeout(400);
    expect(await check()).toEqual([]);
  });
});

test("nothing is fetched from anywhere but the server itself", async ({ page, request, baseURL }) => {
  const id = await makeJob(request, "No network");
  const strangers: string[] = [];
  page.on("request", (one) => {
    if (!one.url().startsWith(baseURL!) && !/^(data|blob):/.test(one.url())) strangers.push(one.url());
  });
  for (const view of ["/", "/quick", `/jobs/${id}/start`]) {
    await open(page, view);
  }
  expect(await page.evaluate(() => document.fonts.check("14px 'Atkinson Hyperlegible Next Variable'"))).toBe(true);
  expect(strangers).toEqual([]);
});

test("keystroke to painted verdict, measured and printed", async ({ page, request }) => {
  const id = await makeJob(
    request,
    "Speed",
    (rig) => (rig.units[0]!.lockedRotorCurrent = { value: 33, origin: "plate" }),
  );
  for (const stage of ["bank", "start"]) {
    await open(page, `/jobs/${id}/${stage}`);
    const path = stage === "bank" ? "bank.capacityAh" : "inverter.rating";
    await inputOf(page, path).click();
    await inputOf(page, path).fill("");
    const verdict = stage === "bank" ? "lasts" : "starts";
    await page.evaluate((name) => {
      const times: number[] = [];
      let pressed = 0;
      document.addEventListener("keydown", () => (pressed = performance.now()), true);
      new MutationObserver(() => {
        const at = pressed;
        // Two frames on, what changed has been painted.
        requestAnimationFrame(() => requestAnimationFrame(() => times.push(performance.now() - at)));
      }).observe(document.querySelector(`[data-verdict="${name}"] [data-pair]`)!, {
        childList: true,
        characterData: true,
        subtree: true,
      });
      (window as unknown as { times: number[] }).times = times;
    }, verdict);
    for (let round = 0; round < 12; round++) {
      await page.keyboard.type(String(1 + (round % 9)));
      await page.waitForTimeout(120);
      if (round % 3 === 2) {
        await inputOf(page, path).press("Backspace");
        await page.waitForTimeout(120);
        await inputOf(page, path).press("Backspace");
        await page.waitForTimeout(120);
      }
    }
    const times = (await page.evaluate(() => (window as unknown as { times: number[] }).times)).sort((a, b) => a - b);
    const median = times[Math.floor(times.length / 2)]!;
    console.log(
      `keystroke to painted verdict, ${stage} stage: median ${median.toFixed(1)} ms, worst ${times[times.length - 1]!.toFixed(1)} ms over ${times.length} keystrokes`,
    );
    expect(times.length).toBeGreaterThan(5);
  }
});
