/** Takes the pictures in docs/screenshots from the demo's jobs: `npm run screenshots`, or those named after it alone. */
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { chromium, type Page } from "@playwright/test";

const base = process.env.BASE_URL;
if (!base) throw new Error("run by npm run screenshots");
const named = process.argv.slice(2);
const folder = join(import.meta.dirname, "../docs/screenshots");
mkdirSync(folder, { recursive: true });

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
  args: ["--no-sandbox", "--disable-dev-shm-usage", "--disable-background-networking"],
});

async function shoot(
  name: string,
  size: [number, number],
  job: string | null,
  view: string,
  act: (page: Page) => Promise<void> = async () => {},
) {
  if (named.length > 0 && !named.includes(name)) return;
  const context = await browser.newContext({
    viewport: { width: size[0], height: size[1] },
    locale: "en-GB",
    timezoneId: "Europe/Lisbon",
  });
  await context.request.post(`${base}/api/session/demo`, { data: { role: "owner" } });
  const page = await context.newPage();
  if (job) {
    await page.goto(`${base}/?q=${job}`);
    const href = await page.getByRole("link", { name: new RegExp(job) }).getAttribute("href");
    await page.goto(base + href!.replace(/brief$/, view));
  } else await page.goto(base + view);
  // An instrument's stream never rests: its page is ready when its forecast is.
  if (view !== "test-run") await page.waitForLoadState("networkidle");
  // Sheets show what the worker has run.
  if (job || view === "/quick") await page.locator("[data-verdict=recovers] [data-word]").waitFor();
  await act(page);
  await page.waitForTimeout(600);
  await page.screenshot({ path: join(folder, `${name}.png`) });
  await context.close();
}

const DESK: [number, number] = [1280, 800];
const PHONE: [number, number] = [390, 844];
const type = async (page: Page, path: string, text: string) => {
  const input = page.locator(`[data-path="${path}"] input.quantity`);
  await input.click();
  await input.fill(text);
  await input.press("Enter");
};
const quick = async (page: Page) => {
  await type(page, "weather.highestC", "34");
  await type(page, "units.0.runningCurrent", "5.8");
  await type(page, "units.0.lockedRotorCurrent", "31");
  await type(page, "inverter.rating", "3500");
  await type(page, "bank.capacityAh", "600");
  await page.evaluate(() => (document.activeElement as HTMLElement).blur());
};

await shoot("jobs", DESK, null, "/");
await shoot("brief", DESK, "Shearwater", "brief");
await shoot("unit", DESK, "Lora", "unit");
await shoot("start", DESK, "Marionette", "start");
await shoot("start-cable", DESK, "Folio", "start");
await shoot("start-aids", DESK, "Marionette", "start", async (page) => {
  await page.getByText("Start aids compared").click();
  await page.getByText("Soft starter", { exact: true }).waitFor();
});
await shoot("wiring", DESK, "Skep", "wiring", async (page) => {
  await page.locator(".part-name").first().click();
  await page.locator(".measure-next[aria-busy=false]").waitFor();
});
await shoot("fault-finding", DESK, "Folio", "fault-finding", async (page) => {
  const option = (text: string) =>
    page
      .locator(".ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option")
      .filter({ hasText: text })
      .click();
  await page.getByRole("combobox", { name: "Symptoms" }).click();
  await option("Low-voltage fault");
  await page.keyboard.press("Escape");
  const readings: [string, [string, string][]][] = [
    [
      "Wiring from battery to inverter",
      [
        ["Volts at the battery", "13.1"],
        ["Volts at the inverter", "11.9"],
        ["Amps from the battery", "68"],
      ],
    ],
    [
      "Hottest lug over its cable",
      [
        ["Hottest termination", "81 C"],
        ["Cable beside it", "46 C"],
      ],
    ],
  ];
  for (const [reading, fields] of readings) {
    await page.getByRole("combobox", { name: "Another reading" }).click();
    await option(reading);
    const next = page.getByRole("region", { name: "Next reading" });
    for (const [label, text] of fields) await next.getByLabel(label).fill(text);
    await next.getByRole("button", { name: "Save reading" }).click();
  }
});
await shoot("options", DESK, "Folio", "options", async (page) => {
  await page.getByRole("button", { name: /^Search/ }).click();
  await page.locator("[data-search=done]").waitFor({ timeout: 300_000 });
  await page.locator("table.frontier").getByText("…", { exact: true }).first().waitFor({ state: "detached" });
  await page.evaluate(() => (document.activeElement as HTMLElement).blur());
});
await shoot("test-run", DESK, "Folio", "test-run", async (page) => {
  await page.locator("[data-forecast]").waitFor();
  await page.locator('.what-if dd:has-text(":")').first().waitFor();
});
await shoot("test-run-phone", PHONE, "Folio", "test-run", async (page) => {
  await page.locator("[data-forecast]").waitFor();
  const jobId = /jobs\/([^/]+)/.exec(page.url())![1]!;
  const list = (await (await page.request.get(`${base}/api/jobs/${jobId}/test-runs`)).json()) as {
    testRuns: { id: string }[];
  };
  await page.goto(`${base}/test-runs/${list.testRuns[0]!.id}`);
  await page
    .getByText(/reserve/)
    .first()
    .waitFor();
  await page.getByLabel("Amps out").fill("41.6");
  await page.getByLabel("Volts").fill("13.1");
});
await shoot("shelf", DESK, null, "/parts");
await shoot("bank", DESK, "Skep", "bank");
await shoot("charging", DESK, "Folio", "charging");
await shoot("day", DESK, "Marionette", "day");
await shoot("working", DESK, "Folio", "start", async (page) => {
  await page.locator("[data-verdict=starts]").click();
  await page
    .getByRole("button", { name: /Power that the voltage allows.*show working/ })
    .last()
    .click();
});
await shoot("quick", DESK, null, "/quick", quick);
await shoot("handover", DESK, "Skep", "handover", async (page) => {
  await page.locator("[data-section=card]").waitFor();
});
await shoot("commissioning-phone", PHONE, "Folio", "commissioning", async (page) => {
  const path = page.locator('[data-step="path"]');
  const fields: [string, string][] = [
    ["Volts at the battery", "13.1"],
    ["Volts at the inverter", "10.4"],
    ["Amps from the battery", "68 A"],
  ];
  for (const [label, text] of fields) await path.getByLabel(label).fill(text);
  await path.getByLabel("Amps from the battery").press("Enter");
  await path.getByLabel("Why, and what is done").waitFor();
  await path.evaluate((step) => step.scrollIntoView({ block: "center" }));
});
await browser.close();
