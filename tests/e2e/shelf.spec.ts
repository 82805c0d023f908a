import { expect } from "@playwright/test";
import { clickFor, complaints, inputOf, makeJob, open, saved, storedJob, wordOf } from "./support";
import { test } from "./window";

test("a part is put on the shelf, picked into a system from its plate, changed, and the system updated only when asked", async ({
  page,
  request,
}, { retry }) => {
  const heard = complaints(page);
  // A second try finds the shelf as the first one left it.
  const name = `Workshop's own roof unit${retry > 0 ? ` ${retry}` : ""}`;
  await open(page, "/parts?kind=unit");
  const dialog = page.getByRole("dialog");
  await clickFor(page.getByRole("button", { name: "New air conditioner" }), dialog);
  await dialog.getByLabel("Name").fill(name);
  const type = async (label: string, text: string) => {
    const input = dialog.getByLabel(label, { exact: true });
    await input.click();
    await input.fill(text);
    await input.press("Enter");
  };
  await type("Running current", "6 A");
  await type("Locked-rotor current", "22 A");
  await dialog.getByRole("button", { name: "Put it on the shelf" }).click();
  await expect(page.getByRole("button", { name, exact: true })).toBeVisible();

  const id = await makeJob(request, "Fitted from the shelf", (job) => {
    job.bank.capacityAh = { value: 600, origin: "plate" };
    job.inverter.rating = { value: 4000, origin: "plate" };
  });
  await open(page, `/jobs/${id}/unit`);
  await clickFor(page.getByRole("button", { name: "From the shelf" }).first(), page.getByLabel("Find on the shelf"));
  await page.getByLabel("Find on the shelf").fill(name);
  // A list that is about to change moves under the pointer.
  await expect(page.locator(".shelf-picks")).toHaveAttribute("aria-busy", "false");
  await page.locator(".shelf-picks button", { hasText: name }).click();
  await expect(inputOf(page, "units.0.lockedRotorCurrent")).toHaveValue("22 A");
  await expect(wordOf(page, "starts")).not.toHaveText("Fails");
  await saved(page);
  expect((await storedJob(request, id)).job.units[0]).toMatchObject({
    lockedRotorCurrent: { value: 22, origin: "plate" },
    shelf: { revision: 1 },
  });

  await open(page, `/parts?kind=unit&q=${encodeURIComponent(name)}`);
  await clickFor(page.getByRole("button", { name, exact: true }), dialog);
  await type("Locked-rotor current", "75 A");
  await page.getByRole("dialog").getByRole("button", { name: "Save" }).click();
  const uses = page.getByRole("dialog", { name: /1 job uses/ });
  await expect(uses).toContainText("Fitted from the shelf");
  await expect(uses).toContainText(/Holds|Tight/);
  await expect(uses).toContainText("→");
  await uses.getByRole("button", { name: "Leave them as they are" }).click();
  expect((await storedJob(request, id)).job.units[0]!.lockedRotorCurrent!.value).toBe(22);

  await open(page, `/jobs/${id}/unit`);
  await expect(page.getByRole("status").filter({ hasText: "has changed on the parts shelf" })).toBeVisible();
  await page.getByRole("button", { name: "Bring it up to date" }).click();
  await expect(inputOf(page, "units.0.lockedRotorCurrent")).toHaveValue("75 A");
  await expect(wordOf(page, "starts")).toHaveText("Fails");
  await expect(page.getByText("has changed on the parts shelf")).toBeHidden();
  expect(heard).toEqual([]);
});

test("copy, take off with undo", async ({ page }) => {
  await open(page, "/parts?kind=panel");
  // An awake page first: a second click on copy would make a second copy.
  await clickFor(page.getByRole("button", { name: "New solar panel" }), page.getByRole("dialog"));
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toBeHidden();
  await page.getByRole("button", { name: "Copy Rigid panel, 200 W" }).click();
  await expect(page.getByRole("button", { name: "Rigid panel, 200 W copy", exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Take Rigid panel, 200 W copy from the shelf" }).click();
  await expect(page.getByRole("button", { name: "Rigid panel, 200 W copy", exact: true })).toBeHidden();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("button", { name: "Rigid panel, 200 W copy", exact: true })).toBeVisible();
});

test("the shelf leaves as CSV and comes back; junk rows are told, a file of junk is refused whole", async ({
  page,
  request,
}) => {
  await open(page, "/parts?kind=fuse");
  const exported = await request.get("/api/parts/file");
  expect(exported.headers()["content-type"]).toContain("text/csv");
  const text = await exported.text();
  expect(text).toMatch(/^kind,name,note,cost,mass_kg,/);
  const file = (content: string) => ({ name: "parts.csv", mimeType: "text/csv", buffer: Buffer.from(content) });
  const input = page.getByLabel("CSV of parts to import");
  await input.setInputFiles(file(text));
  await expect(page.getByRole("dialog")).toContainText(/0 added, 0 changed, \d+ as they were; 0 rows skipped/);
  await page.keyboard.press("Escape");
  await input.setInputFiles(file("kind;name;rating\nfuse;Class T 225 A;225,0\ntoaster;T;1\nfuse;Odd;many"));
  await expect(page.getByRole("dialog")).toContainText("1 added, 0 changed, 0 as they were; 2 rows skipped.");
  await expect(page.getByRole("dialog")).toContainText("rating: “many” is not a number");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Class T 225 A", exact: true })).toBeVisible();
  await input.setInputFiles(file("nothing,of,use\n1,2,3"));
  await expect(page.getByText("The first row must name the columns; “kind” is missing.")).toBeVisible();
});

test("the shelf's handlers refuse what is no part, with path and reason", async ({ request }) => {
  const bad = await request.post("/api/parts", {
    data: { entry: { kind: "fuse", name: "F", note: "", choices: {}, values: { rating: -1 } } },
  });
  expect(bad.status()).toBe(400);
  expect(await bad.json()).toMatchObject({ faults: [{ path: "values.rating" }] });
  expect((await request.put("/api/parts/not-an-id", { data: {} })).status()).toBe(404);
  expect((await request.get("/api/parts?kind=toaster")).status()).toBe(400);
  expect(
    (await request.post("/api/parts/import", { data: "x", headers: { "content-type": "application/json" } })).status(),
  ).toBe(415);
});
