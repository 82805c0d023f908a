import { expect, test } from "@playwright/test";
import { complaints, makeJob, open, saved, storedRig } from "./support";

test("a pack is chosen, read as it will print, and made as a PDF; its parts list leaves as CSV", async ({
  page,
  request,
}) => {
  const heard = complaints(page);
  const id = await makeJob(request, "Handover", (rig) => {
    rig.units[0]!.runningCurrent = { value: 6, origin: "plate" };
    rig.units[0]!.name = "=1+1 roof unit";
    rig.bank.capacityAh = { value: 300, origin: "plate" };
  });
  await open(page, `/jobs/${id}/brief`);
  await page.locator("h1").click();
  await page.keyboard.press("9");
  await expect(page).toHaveURL(/\/pack$/);
  const sheet = page.getByRole("article", { name: "The pack as it will print" });
  await expect(sheet.getByRole("heading", { name: "Customer’s card" })).toBeVisible();
  await expect(sheet.getByRole("row", { name: /^Cooling at the set point/ }).first()).toContainText(/\d (h|days)/);
  await page.getByLabel("Where the switches are").fill("Isolator under the left bench");
  await page.getByLabel("Installer").fill("M. Tavares");
  await page.getByRole("checkbox", { name: "Parts list" }).uncheck();
  await expect(sheet.locator("[data-section=parts]")).toHaveCount(0);
  await expect(sheet).toContainText("Isolator under the left bench");
  // What touches life cannot be left off.
  await expect(page.getByRole("checkbox", { name: /^Cautions/ })).toBeDisabled();
  await expect(page.getByRole("checkbox", { name: /^Stops/ })).toBeDisabled();
  await saved(page);
  expect((await storedRig(request, id)).rig.handover.pack).toMatchObject({
    leaveOut: ["parts"],
    signedBy: "M. Tavares",
  });

  const address = await page.getByRole("link", { name: "Make the PDF" }).getAttribute("href");
  expect(address).toBe(`/api/rigs/${id}/pack?paper=a4`);
  const pdf = await request.get(address!);
  expect(pdf.headers()["content-type"]).toBe("application/pdf");
  expect((await pdf.body()).subarray(0, 5).toString()).toBe("%PDF-");
  expect(Buffer.compare(await pdf.body(), await (await request.get(address!)).body())).toBe(0);

  const parts = await (await request.get(`/api/rigs/${id}/parts`)).text();
  expect(parts.split("\n")[0]).toBe("part,detail,quantity,unit,where");
  expect(parts).toContain("300 Ah");
  // No cell that a spreadsheet would run.
  expect(parts).not.toMatch(/(^|,)"?[=+@]/m);
  expect(heard).toEqual([]);
});

test("a rig that stops says so before all else on its pack", async ({ page, request }) => {
  const id = await makeJob(request, "Stopped", (rig) => {
    rig.path.main = rig.path.main.filter(({ kind }) => kind !== "fuse");
  });
  await open(page, `/jobs/${id}/pack`);
  const first = page.getByRole("article", { name: "The pack as it will print" }).locator("[data-section]").first();
  await expect(first).toHaveAttribute("data-section", "stops");
  await expect(first).toContainText("Not to be used before these are mended.");
});

test("a customer's page opens by its link alone, is light on a phone, and is withdrawn", async ({
  page,
  request,
  browser,
}) => {
  const id = await makeJob(request, "Customer", (rig) => {
    rig.brief.wording = "what was said in confidence";
    rig.bank.capacityAh = { value: 300, origin: "plate" };
  });
  await open(page, `/jobs/${id}/pack`);
  await page.getByRole("button", { name: "Make a link" }).click();
  const link = page.getByRole("status").getByRole("link");
  const address = (await link.getAttribute("href"))!;
  expect(address).toMatch(/\/c\/[A-Za-z0-9_-]{32}$/);

  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  const asked: string[] = [];
  phone.on("request", (one) => asked.push(one.url()));
  await phone.goto(address);
  await expect(phone.getByRole("heading", { name: "Customer’s card" })).toBeVisible();
  await expect(phone.getByRole("heading", { name: "How long, by heat and set point" })).toBeVisible();
  await expect(phone.getByText("what was said in confidence")).toHaveCount(0);
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  // One page, nothing behind it.
  expect(asked.filter((url) => !url.endsWith("favicon.ico"))).toEqual([address]);

  await page.getByRole("list", { name: "Links in use" }).getByRole("button", { name: "Withdraw" }).click();
  await expect(page.getByRole("list", { name: "Links in use" }).getByRole("listitem")).toHaveCount(0);
  expect((await phone.goto(address))!.status()).toBe(404);
  await expect(phone.getByText("Ask your installer for a new one.")).toBeVisible();
  await phone.close();
});

test("strangers and rubbish are refused at the pack's door", async ({ request }) => {
  const id = await makeJob(request, "Door");
  const status = async (address: string) => (await request.get(address)).status();
  expect(await status(`/api/rigs/${id}/pack?paper=a5`)).toBe(400);
  expect(await status(`/api/rigs/00000000-0000-4000-8000-000000000000/pack`)).toBe(404);
  expect(await status(`/api/rigs/none/parts`)).toBe(404);
  expect(await status(`/c/${"A".repeat(32)}`)).toBe(404);
  const days = await request.post(`/api/rigs/${id}/links`, { data: { days: 9999 } });
  expect([days.status(), ((await days.json()) as { faults: { path: string }[] }).faults[0]!.path]).toEqual([
    400,
    "days",
  ]);
  const gone = await request.delete(`/api/rigs/${id}/links/00000000-0000-4000-8000-000000000000`);
  expect(gone.status()).toBe(404);
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 } });
  test("the pack can be read without scrolling sideways", async ({ page, request }) => {
    await open(page, `/jobs/${await makeJob(request, "Phone")}/pack`);
    await expect(page.locator("[data-section=card]")).toBeVisible();
    await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  });
});
