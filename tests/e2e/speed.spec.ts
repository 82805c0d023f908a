import { expect, test } from "@playwright/test";
import { inputOf, makeJob, open } from "./support";

test("keystroke to painted verdict, measured and printed", async ({ page, request }) => {
  const id = await makeJob(
    request,
    "Speed",
    (job) => (job.units[0]!.lockedRotorCurrent = { value: 33, origin: "plate" }),
  );
  for (const stage of ["bank", "start"]) {
    await open(page, `/jobs/${id}/${stage}`);
    const path = stage === "bank" ? "bank.continuousCurrent" : "inverter.rating";
    await inputOf(page, path).click();
    await inputOf(page, path).fill("");
    const verdict = stage === "bank" ? "carries" : "starts";
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
