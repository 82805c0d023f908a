import { expect, type Locator, type Page } from "@playwright/test";
import { demoJob } from "../jobs";
import {
  clickFor,
  complaints,
  inputOf,
  lineOf,
  makeJob,
  open,
  saved,
  storedJob,
  typeQuantity,
  wordOf,
} from "./support";
import { test } from "./window";

// Each test has a job of its own. The last file but one: of two that run beside each other the longer would end alone.
test.describe.configure({ mode: "parallel" });

const row = (page: Page, path: string): Locator => page.locator(`li[data-row="${path}"]`);
const menu = async (page: Page, name: string, item: RegExp) => {
  const entry = page.getByRole("menuitem", { name: item });
  await clickFor(page.getByRole("button", { name: `${name}: move, duplicate, remove` }), entry);
  await entry.click();
  // A menu that is still fading out must not be taken for the next one.
  await expect(entry).toBeHidden();
};
const kinds = async (request: Parameters<typeof storedJob>[0], id: string) =>
  (await storedJob(request, id)).job.wiring.main.map(({ kind }) => kind);

test("parts are added, moved, copied and removed, and undo takes each back", async ({ page, request }) => {
  const heard = complaints(page);
  const id = await makeJob(request, "Parts");
  await open(page, `/jobs/${id}/wiring`);
  const busbar = page.getByRole("menuitem", { name: "Busbar" });
  // On a machine that stands still a click may go to a menu that is still opening: it is opened again then.
  await expect(async () => {
    await clickFor(page.getByRole("button", { name: "Add a part" }).first(), busbar);
    await busbar.click();
    await expect(row(page, "wiring.main.5")).toContainText("Busbar", { timeout: 5000 });
  }).toPass();
  await menu(page, "Busbar X2", /Move up/);
  await expect(row(page, "wiring.main.4")).toContainText("Busbar");
  await menu(page, "Cable W1", /Duplicate/);
  await expect(row(page, "wiring.main.4")).toContainText("Cable");
  await menu(page, "Isolator Q1", /Remove/);
  await saved(page);
  expect(await kinds(request, id)).toEqual(["fuse", "shunt", "cable", "cable", "busbar", "joints"]);
  await page.locator("h1").click();
  await page.keyboard.press("z");
  await page.keyboard.press("z");
  await saved(page);
  expect(await kinds(request, id)).toEqual(["fuse", "isolator", "shunt", "cable", "busbar", "joints"]);
  await row(page, "wiring.main.3").getByRole("button", { name: /Cable/ }).first().focus();
  await page.keyboard.press("Alt+ArrowDown");
  await expect(row(page, "wiring.main.4")).toContainText("Cable");
  expect(heard).toEqual([]);
});

test("a thin cable is the culprit: named in the head band, marked on the plan, and a click leads to its line", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Thin cable", (job) => {
    job.units[0]!.runningCurrent = { value: 6, origin: "plate" };
    job.bank.capacityAh = { value: 400, origin: "plate" };
  });
  await open(page, `/jobs/${id}/wiring`);
  await typeQuantity(page, "wiring.main.3.areaMm2", "25mm2");
  await typeQuantity(page, "wiring.main.3.length", "12 ft");
  await expect(wordOf(page, "carries")).toHaveText("Fails");
  await expect(page.locator("[data-verdict=carries]")).toContainText(/cable W1/i);
  const part = page.locator('[data-plan-item="wiring.main.3"]');
  await expect(part).toHaveAttribute("data-word", "Fails");
  await expect(part).toContainText("25 mm², 3.7 m");
  await part.click();
  await expect(row(page, "wiring.main.3")).toHaveClass(/opened/);
  await expect(row(page, "wiring.main.3")).toContainText("Voltage drop");
  await page.getByRole("button", { name: "Size automatically", exact: true }).first().click();
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("The smallest standard sizes that satisfy every rule of this circuit.");
  await expect(dialog).toContainText("Voltage drop");
  await dialog.getByRole("button", { name: "Apply", exact: true }).click();
  await expect(wordOf(page, "carries")).not.toHaveText("Fails");
  await expect(inputOf(page, "wiring.main.3.areaMm2")).not.toHaveValue("25 mm²");
  // Two cables side by side, typed as they are bought.
  await typeQuantity(page, "wiring.main.3.areaMm2", "2 x 70 mm²");
  await expect(inputOf(page, "wiring.main.3.areaMm2")).toHaveValue("70 mm²");
  await expect(part).toContainText("2 × 70 mm²");
});

test("two voltages and a current give the wiring, its excess and its heat", async ({ page, request }) => {
  const id = await makeJob(request, "Bad lug", (job) => (job.units[0]!.runningCurrent = { value: 6, origin: "plate" }));
  await open(page, `/jobs/${id}/wiring`);
  await typeQuantity(page, "wiring.measured.current", "100 A");
  await typeQuantity(page, "wiring.measured.bankVoltage", "13.1");
  await typeQuantity(page, "wiring.measured.inverterVoltage", "11.9");
  await expect(page.locator(".measured-path")).toContainText("12 mΩ");
  await expect(page.locator(".measured-path")).toContainText("look for a bad joint or part");
  await expect(page.getByText(/more, which makes \d+ W of heat/)).toBeVisible();
  await expect(page.locator("[data-verdict=carries]")).toContainText(/voltage drop/i);
});

test("a charger on its own inverter is a stop with its reason and its remedy, repaired in place", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Loop");
  await open(page, `/jobs/${id}/wiring`);
  const charger = page.getByRole("menuitem", { name: "Shore charger" });
  await clickFor(page.getByRole("button", { name: /Add a circuit/ }), charger);
  await charger.click();
  const choose = async (option: string) => {
    await lineOf(page, "wiring.branches.0.fedFrom").getByRole("combobox").click();
    await page
      .locator(".ant-select-dropdown:visible .ant-select-item-option")
      .getByText(option, { exact: true })
      .click();
  };
  await choose("the inverter's output");
  await expect(wordOf(page, "carries")).toHaveText("Stop");
  await expect(page.locator("[data-verdict=carries]")).toContainText(/charging loop/i);
  await expect(page.locator(".rule")).toContainText("The inverter feeds the charger that feeds the inverter");
  await expect(page.locator(".rule")).toContainText("Feed the charger from the shore side of the transfer switch.");
  await choose("the shore side");
  await expect(wordOf(page, "carries")).not.toHaveText("Stop");
  await expect(page.locator(".rule")).toHaveCount(0);
});

test("batteries chained from one end show who gives most", async ({ page, request }) => {
  const id = await makeJob(request, "Chained", (job) => {
    job.bank.parallel = { value: 3, origin: "plate" };
    job.wiring.links = { layout: "chain-one-end", fuses: "unsaid", paths: [], areaMm2: { value: 35, origin: "plate" } };
  });
  await open(page, `/jobs/${id}/wiring`);
  await typeQuantity(page, "wiring.links.paths.1.length", "1.2 m");
  await expect(
    page.getByRole("table", { name: "Current of each battery, everything on" }).getByRole("row"),
  ).toHaveCount(4);
  await expect(page.getByText(/Battery 1 of 3 gives \d+ % of the current/)).toBeVisible();
  await saved(page);
  expect((await storedJob(request, id)).job.wiring.links.paths[1]).toEqual({ length: { value: 1.2, origin: "plate" } });
});

test("the plan of forty parts: no text over another, twelve pixels at least, saved as SVG and fitting A4", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Forty", (job) => {
    job.wiring.main = Array.from({ length: 40 }, (_, i) => ({
      id: `p${i}`,
      name: i % 4 === 0 ? `Behind the wardrobe ${i}` : "",
      ...(i % 2
        ? {
            kind: "cable" as const,
            insulation: "90" as const,
            route: "free" as const,
            ways: "both" as const,
            method: "B2" as const,
            terminals: "standard" as const,
          }
        : { kind: "fuse" as const, fuseKind: "class-t" as const }),
    }));
  });
  await open(page, `/jobs/${id}/wiring`);
  const found = await page.locator("svg.plan").evaluate((svg) => {
    const texts = [...svg.querySelectorAll<SVGTextElement>("[data-plan-text]")].map((text) => ({
      text: text.textContent,
      size: parseFloat(getComputedStyle(text).fontSize),
      ...text.getBoundingClientRect().toJSON(),
    })) as { text: string; size: number; left: number; right: number; top: number; bottom: number }[];
    const overlaps = texts.flatMap((a, i) =>
      texts
        .slice(i + 1)
        .filter((b) => a.left < b.right - 1 && a.right > b.left + 1 && a.top < b.bottom - 3 && a.bottom > b.top + 3)
        .map((b) => `${a.text} / ${b.text}`),
    );
    return { count: texts.length, overlaps, smallest: Math.min(...texts.map(({ size }) => size)) };
  });
  expect(found.count).toBeGreaterThan(120);
  expect(found.overlaps).toEqual([]);
  expect(found.smallest).toBeGreaterThanOrEqual(12);
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as SVG" }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe("forty-plan.svg");
  const text = (await (await file.createReadStream()).toArray()).map((chunk) => (chunk as Buffer).toString()).join("");
  expect(text).toMatch(/^<\?xml[\s\S]+<svg[\s\S]+W20 cable[\s\S]+<\/svg>/);
  expect(text).not.toContain("var(--");
  await page.emulateMedia({ media: "print" });
  // A4 less its margins at 96 px an inch.
  await page.setViewportSize({ width: 710, height: 1040 });
  const box = (await page.locator("svg.plan").boundingBox())!;
  expect(box.width).toBeLessThanOrEqual(710);
  expect(box.height).toBeLessThanOrEqual(1040);
});

test("start: start aids are compared on one picture and in one table, and put in with undo", async ({
  page,
  request,
}) => {
  const heard = complaints(page);
  const id = await makeJob(request, "StartAids", (job) => {
    job.units[0]!.runningCurrent = { value: 6.2, origin: "plate" };
    job.units[0]!.lockedRotorCurrent = { value: 33, origin: "plate" };
    job.bank.capacityAh = { value: 600, origin: "plate" };
  });
  await open(page, `/jobs/${id}/start`);
  await expect(wordOf(page, "starts")).toHaveText("Fails");
  const table = page.getByRole("table", { name: "Each start aid by itself, on the whole system" });
  await clickFor(page.getByText("Start aids compared"), table);
  const startAid = (name: string) => table.getByRole("row", { name: new RegExp(`^${name}`) });
  await expect(startAid("Soft starter")).toContainText("turns Starts");
  for (const name of [
    "Start capacitor",
    "Bigger inverter",
    "Transformer-type",
    "One battery more",
    "Variable-speed",
    "Generator",
  ])
    await expect(startAid(name)).toBeVisible();
  await typeQuantity(page, "startAids.soft-starter.cost", "$245");
  await expect(page.getByRole("alert").filter({ hasText: "This job’s prices are in €" })).toBeVisible();
  await typeQuantity(page, "startAids.soft-starter.cost", "245");
  await expect(inputOf(page, "startAids.soft-starter.cost")).toHaveValue("€245");
  await page.getByRole("button", { name: "Apply: Soft starter" }).click();
  await expect(wordOf(page, "starts")).not.toHaveText("Fails");
  await page.locator("h1").click();
  await page.keyboard.press("z");
  await expect(wordOf(page, "starts")).toHaveText("Fails");
  expect(heard).toEqual([]);
});

test("start: a unit on a branch of its own is held against the battery, with no curve of the inverter", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Direct", (job) => Object.assign(job, demoJob("6-levain"), { name: "Direct" }));
  await open(page, `/jobs/${id}/start`);
  await expect(page.locator("[data-verdict=starts]")).toContainText("Voltage at Cooler");
  await expect(page.getByText("fed by the battery and not by the inverter")).toBeVisible();
  await expect(page.getByText("The picture as a table")).toBeHidden();
  const limits = page.getByRole("table", { name: "Limits at the start" });
  await expect(limits.getByRole("row", { name: /^battery protection .*: 14\.1 A.*: 120 A/ })).toBeVisible();
  await clickFor(page.getByText("Start aids compared"), page.getByText("Each start aid by itself"));
  await expect(page.getByText("fed by the battery and not by the inverter")).toBeVisible();
  await expect(page.getByRole("button", { name: /^Apply: .*inverter/i })).toHaveCount(0);
});

test("start: the same start on every source, and the ways it may go", async ({ page, request }) => {
  const id = await makeJob(request, "Sources", (job) => {
    job.units[0]!.runningCurrent = { value: 6.2, origin: "plate" };
    job.units[0]!.startAid = "soft-starter";
    job.units.push({ ...job.units[0]!, id: "two", name: "Second" });
  });
  await open(page, `/jobs/${id}/start`);
  const inlet = page.locator('[data-source="shore-10"]');
  await clickFor(page.getByText("By supply"), inlet);
  await expect(inlet).toContainText("Holds");
  await expect(inlet).toContainText("Fails");
  await expect(
    page.getByText(/The smallest generator that starts one unit with a tenth to spare: [\d.]+ kVA/),
  ).toBeVisible();
  await page.getByText("Conditions").click();
  await expect(page.locator('[data-way="unlearned"]')).toContainText("the first five starts or so");
  await expect(page.locator('[data-way="stalled"]')).toContainText("until its overload opens");
  await expect(page.locator('[data-way="together"]')).toBeVisible();
});

test("measure next names an assumed value, how far it moves the margin, and leads to its line", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Unknowns", (job) => (job.bank.capacityAh = { value: 400, origin: "plate" }));
  await open(page, `/jobs/${id}/start`);
  const list = page.locator(".measure-next");
  await expect(list.locator("li").first()).toBeVisible();
  await expect(list.locator("li").first()).toContainText(/\d\.\d\d … /);
  await list
    .getByRole("button", { name: /Air conditioner: / })
    .first()
    .click();
  await expect(page).toHaveURL(/\/unit$/);
});

test("a start caught by a clamp is dropped in, found, drawn and taken as measured", async ({ page, request }) => {
  const id = await makeJob(request, "Caught");
  await open(page, `/jobs/${id}/start`);
  const rows = Array.from({ length: 500 }, (_, i) => {
    const t = i * 0.002;
    const amps = t < 0.04 ? 0 : t < 0.3 ? 31.5 : t < 0.36 ? 31.5 - ((t - 0.3) / 0.06) * 25.6 : 5.9;
    return `${t.toFixed(3).replace(".", ",")};${amps.toFixed(2).replace(".", ",")}`;
  });
  const file = (name: string, text: string) => ({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
  const input = page.locator('.drop input[type="file"]');
  await input.setInputFiles(file("bad.csv", "time,amps\n1,2\n"));
  await expect(page.getByRole("alert").filter({ hasText: "at least 20 are needed" })).toBeVisible();
  await input.setInputFiles(file("start.csv", `\ufeffTime (s);Current (A)\n${rows.join("\n")}\nend of record`));
  await expect(page.locator(".found-start")).toContainText("31.5 A");
  await expect(page.locator(".found-start")).toContainText("5.9 A");
  await expect(
    page.getByText("500 samples from Time (s) and Current (A); 1 rows skipped (line 502: no time)"),
  ).toBeVisible();
  await page.getByRole("button", { name: "Use as measured" }).click();
  await saved(page);
  const { job } = await storedJob(request, id);
  expect(job.units[0]).toMatchObject({
    lockedRotorCurrent: { value: 31.5, origin: "measured" },
    runningCurrent: { value: 5.9, origin: "measured" },
    startTime: { origin: "measured" },
  });
  await expect(page.locator(".chart svg text", { hasText: "as caught" })).toHaveCount(1);
});

test("by keyboard alone: the plan's parts take focus, Enter opens the line, and the choice stays in view", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Keyboard");
  await open(page, `/jobs/${id}/wiring`);
  await page.locator('[data-plan-item="wiring.main.0"]').focus();
  await page.keyboard.press("Enter");
  await expect(row(page, "wiring.main.0")).toHaveClass(/opened/);
  await expect(row(page, "wiring.main.0")).toBeInViewport();
  await page.locator('[data-plan-item="bank"]').focus();
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/bank$/);
});

test("vents that are too small heat the inverter; the sheet says what would do", async ({ page, request }) => {
  const id = await makeJob(request, "Locker", (job) => (job.units[0]!.runningCurrent = { value: 7, origin: "plate" }));
  await open(page, `/jobs/${id}/start`);
  await expect(page.locator(".vent-note")).toContainText(/Heat in the compartment with everything on: \d+ W/);
  const before = await inputOf(page, "inverter.compartmentC").inputValue();
  await typeQuantity(page, "inverter.ventArea", "20 cm2");
  await expect(inputOf(page, "inverter.compartmentC")).not.toHaveValue(before);
  await expect(
    page.getByText(/The inverter’s compartment reaches \d+(\.\d)? °C. Vents of \d+ cm² each, one low and one high/),
  ).toBeVisible();
});

test("a lug far hotter than its cable fails, and one too hot to touch is a stop", async ({ page, request }) => {
  const id = await makeJob(request, "Hot lug", (job) => (job.units[0]!.runningCurrent = { value: 6, origin: "plate" }));
  await open(page, `/jobs/${id}/wiring`);
  await clickFor(
    page.getByText("Temperatures after 40 minutes at a steady current"),
    inputOf(page, "wiring.measured.cableC"),
  );
  await typeQuantity(page, "wiring.measured.cableC", "38 C");
  await typeQuantity(page, "wiring.measured.lugC", "140 F");
  await expect(page.locator("[data-verdict=carries]")).toContainText(/lug above its cable/i);
  await typeQuantity(page, "wiring.measured.airC", "30");
  await typeQuantity(page, "wiring.measured.hotCurrent", "60 A");
  await expect(wordOf(page, "carries")).toHaveText("Stop");
  await expect(page.locator("[data-verdict=carries]")).toContainText(/lug temperature/i);
});

test("in print the Wiring stage keeps its plan and its parts, and drops what is only for the screen", async ({
  page,
  request,
}) => {
  const id = await makeJob(request, "Paper");
  await open(page, `/jobs/${id}/wiring`);
  await page.emulateMedia({ media: "print" });
  await expect(page.locator("svg.plan")).toBeVisible();
  await expect(page.getByRole("heading", { name: "Battery to inverter", exact: true })).toBeVisible();
  for (const gone of [".rail", ".foot", ".plan-tools", ".group-tools"])
    await expect(page.locator(gone).first()).toBeHidden();
});
