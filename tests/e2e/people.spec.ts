import { expect, test, type Page } from "@playwright/test";
import { digitsAt, keyOf } from "../totp";
import { makeJob, open } from "./support";

const NOBODY = { cookies: [], origins: [] };
const PASSWORD = "a long enough password";

async function signOut(page: Page): Promise<void> {
  await page.locator("button.account").click();
  await page.getByRole("menuitem", { name: "Sign out", exact: true }).click();
  await page.waitForURL(/sign-in/);
}

test.describe("who is not signed in", () => {
  test.use({ storageState: NOBODY });
  test("is asked to, comes back to where they went, and looks around the demo without an account", async ({ page }) => {
    await page.goto("/parts?kind=fuse");
    await expect(page).toHaveURL(/sign-in\?to=%2Fparts/);
    await page.getByRole("button", { name: "Look around the demo" }).click();
    await expect(page.getByText("parts shelf", { exact: true })).toBeVisible();
    await signOut(page);
    await page.goto("/");
    await expect(page).toHaveURL(/sign-in/);
  });
  test("is told in words that the password was wrong", async ({ page }) => {
    await page.goto("/sign-in");
    await page.getByLabel("E-mail address").fill("nobody@demo.invalid");
    await page.getByLabel("Password").fill("something long and wrong");
    await page.getByRole("button", { name: "Sign in", exact: true }).click();
    await expect(page.locator(".sign-in [role=alert]")).toHaveText("The e-mail address or the password is wrong.");
  });
});

test("an invited apprentice joins, ticks off and measures, and cannot change the design", async ({
  page,
  browser,
  request,
}) => {
  const job = await makeJob(request, "Invited van");
  await page.goto("/people");
  await expect(page.getByRole("region", { name: "Room on this server" })).toContainText(/People\d+ of 200/);
  await page.getByRole("button", { name: "Invite an apprentice" }).click();
  const address = (await page.getByLabel("Address of the invitation").getAttribute("href"))!;
  // Nobody set an address that a phone could reach, so no code for its camera is offered.
  await expect(page.getByText("This link opens on this computer only")).toBeVisible();

  const theirs = await (await browser.newContext({ storageState: NOBODY })).newPage();
  await theirs.goto(address);
  await theirs.getByLabel("Your name").fill("Ada Fenn");
  await theirs.getByLabel("E-mail address").fill(`ada-${Date.now()}@demo.invalid`);
  await theirs.getByLabel(/^Password/).fill(PASSWORD);
  await theirs.getByRole("button", { name: "Join" }).click();
  await expect(theirs.locator("button.account")).toHaveText("Ada Fenn");

  await theirs.goto(`/jobs/${job}/unit`);
  await expect(theirs.getByText("An installer or the owner can change it.")).toBeVisible();
  await expect(theirs.getByLabel("Name", { exact: true })).toBeDisabled();
  await theirs.keyboard.press("u");
  await expect(theirs.getByText("not its design")).toBeVisible();
  await expect(theirs.locator("[data-save=saved]")).toBeVisible();
  expect((await theirs.request.delete(`/api/jobs/${job}`)).status()).toBe(403);

  await page.reload();
  await expect(page.getByRole("cell", { name: "Ada Fenn" })).toBeVisible();
  await theirs.context().close();
});

test("somebody has one-time codes asked for at their sign-in, and comes in by one", async ({ page, browser }) => {
  await page.goto("/people");
  await page.getByRole("button", { name: "Invite an apprentice" }).click();
  const address = (await page.getByLabel("Address of the invitation").getAttribute("href"))!;
  const theirs = await (await browser.newContext({ storageState: NOBODY })).newPage();
  const email = `finn-${Date.now()}@demo.invalid`;
  await theirs.goto(address);
  await theirs.getByLabel("Your name").fill("Finn Oake");
  await theirs.getByLabel("E-mail address").fill(email);
  await theirs.getByLabel(/^Password/).fill(PASSWORD);
  await theirs.getByRole("button", { name: "Join" }).click();
  await expect(theirs.locator("button.account")).toHaveText("Finn Oake");

  await theirs.goto("/people");
  const codes = theirs.getByRole("region", { name: "One-time codes" });
  await codes.getByLabel("Current password").fill(PASSWORD);
  await codes.getByRole("button", { name: "Set up one-time codes" }).click();
  await expect(codes.getByRole("list", { name: "Recovery codes" }).getByRole("listitem")).toHaveCount(10);
  const secret = (await codes.getByLabel("Key").textContent())!.replace(/\s/g, "");
  const key = keyOf(`otpauth://totp/x?secret=${secret}`);
  await codes.getByLabel("Six digits").fill(digitsAt(key, Date.now()));
  await codes.getByRole("button", { name: "Ask for codes from now on" }).click();
  await expect(codes.getByText("Signing in asks for a one-time code.")).toBeVisible();

  await signOut(theirs);
  await theirs.getByLabel("E-mail address").fill(email);
  await theirs.getByLabel("Password").fill(PASSWORD);
  await theirs.getByRole("button", { name: "Sign in", exact: true }).click();
  await theirs.getByLabel("Code").fill(digitsAt(key, Date.now()));
  await theirs.getByRole("button", { name: "Sign in", exact: true }).click();
  await expect(theirs.locator("button.account")).toHaveText("Finn Oake");
  await theirs.context().close();
});

test("a device that is signed out keeps nothing of the workshop", async ({ browser }) => {
  const context = await browser.newContext({ storageState: NOBODY, serviceWorkers: "allow" });
  const page = await context.newPage();
  await page.goto("/sign-in");
  await page.getByRole("button", { name: "Look around the demo" }).click();
  await page.waitForURL((url) => url.pathname === "/");
  const { testRuns } = (await (await context.request.get("/api/test-runs")).json()) as { testRuns: { id: string }[] };
  const kept = () =>
    page.evaluate(async () => [
      ...(await caches.keys()).filter((name) => name.startsWith("test-run-")),
      ...Object.keys(localStorage).filter((key) => key.startsWith("chillbank.draft")),
    ]);
  await page.goto(`/test-runs/${testRuns[0]!.id}`);
  await expect(page.getByText("This page also opens without reception.")).toBeVisible();
  await page.reload();
  await expect.poll(kept).toContain("test-run-pages");
  await page.evaluate(() => localStorage.setItem("chillbank.draft.x", "{}"));
  await page.goto("/");
  await signOut(page);
  expect(await kept()).toEqual([]);
  await context.close();
});

test("a job shows who changed what, and comes back after it was deleted", async ({ page, request }) => {
  const name = `Recorded van ${Date.now()}`;
  const job = await makeJob(request, name);
  await open(page, `/jobs/${job}/unit`);
  await page.getByLabel("Name", { exact: true }).fill("Another unit");
  await expect(page.getByRole("status").filter({ hasText: "Saved, revision 2" })).toBeVisible();
  await page.getByRole("button", { name: "history" }).click();
  const history = page.getByRole("dialog", { name: "History of this job" });
  await expect(history).toContainText("Mara Quill changed the air conditioners, revision 2");
  await expect(history).toContainText("Mara Quill made it, revision 1");
  expect((await request.delete(`/api/jobs/${job}`)).ok()).toBe(true);
  await page.goto("/deleted");
  const row = page.getByRole("row").filter({ hasText: name });
  await expect(row).toContainText("Mara Quill");
  await row.getByRole("button", { name: "Bring back" }).click();
  await expect(row).toHaveCount(0);
  await page.goto(`/?q=${encodeURIComponent(name)}`);
  await expect(page.getByRole("link", { name })).toBeVisible();
});

test("what was typed is kept where the session ends, and saved once signed in again", async ({ browser }) => {
  const context = await browser.newContext({ storageState: NOBODY });
  const page = await context.newPage();
  await page.goto("/sign-in");
  await page.getByRole("button", { name: "Look around the demo" }).click();
  await page.waitForURL((url) => url.pathname === "/");
  const made = await context.request.post("/api/jobs/whole", { data: "" });
  expect(made.status()).toBe(415);
  const job = await makeJob(context.request, "Kept van");
  await open(page, `/jobs/${job}/unit`);
  await context.request.delete("/api/session");
  await page.getByLabel("Name", { exact: true }).fill("Changed after the session");
  await expect(page.getByRole("dialog", { name: "You are signed out" })).toBeVisible();
  await expect(page.locator("[data-save=offline]")).toContainText("you are signed out");
  await context.request.post("/api/session/demo", { data: { role: "owner" } });
  await expect(page.locator("[data-save=saved]")).toBeVisible();
  const stored = (await (await context.request.get(`/api/jobs/${job}`)).json()) as {
    job: { units: { name: string }[] };
  };
  expect(stored.job.units[0]!.name).toBe("Changed after the session");
  await context.close();
});
