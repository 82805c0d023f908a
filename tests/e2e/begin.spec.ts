import { expect, test } from "@playwright/test";
import { mkdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import { connect } from "../../src/server/database";
import { beginningCode } from "../../src/server/people";
import { ended, freePort, startMariaDb } from "../../tools/mariadb";
import { migrate } from "../../tools/schema";
import { serve } from "../../tools/serve";

/* A workshop's own installation, which nobody has an account in yet: a server and a database of this test's own. */
test.use({ storageState: { cookies: [], origins: [] } });

test("a real installation begins with the console's code, and its owner invites an installer", async ({ browser }) => {
  const folder = join(import.meta.dirname, "../../.local/begin");
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const database = await startMariaDb(folder);
  await migrate(database.url);
  const db = connect(database.url);
  const code = await beginningCode(db);
  await db.destroy();
  const port = await freePort();
  const application = await serve(port, database.url, { CHILLBANK_SECRET: process.env.CHILLBANK_SECRET! });
  try {
    const own = await browser.newContext({ baseURL: `http://127.0.0.1:${port}` });
    const page = await own.newPage();
    await page.goto("/");
    await expect(page).toHaveURL(/\/begin$/);
    const make = page.getByRole("button", { name: "Make the workshop" });
    await page.getByLabel("Code from the console").fill("0123456789abcdef0123");
    await page.getByLabel("Name of the workshop").fill("Tern Lane Fitting");
    await page.getByLabel("Your name").fill("Mara Quill");
    await page.getByLabel("E-mail address").fill("mara@tern.invalid");
    await page.getByLabel(/^Password/).fill("Password2026!");
    await make.click();
    await expect(page.getByRole("alert").filter({ hasText: "not a code that the console printed" })).toBeVisible();
    await page.getByLabel("Code from the console").fill(code);
    await make.click();
    await expect(page.getByRole("alert").filter({ hasText: "guessed among the first" })).toBeVisible();
    await page.getByLabel(/^Password/).fill("four ducks on the slipway");
    await make.click();
    await expect(page.getByRole("heading", { name: /^Chillbank/ })).toBeVisible();
    await page.goto("/parts");
    // The generic parts of a new workshop.
    await expect(page.getByRole("row").nth(3)).toBeVisible();
    await page.goto("/people");
    await page
      .getByRole("button", { name: /Invite/ })
      .first()
      .click();
    const address = /\/join\/[\w-]+/;
    await expect(page.getByText(address).first()).toBeVisible();
    const [path] = address.exec((await page.getByText(address).first().textContent())!)!;
    const phone = await browser.newContext({
      baseURL: `http://127.0.0.1:${port}`,
      viewport: { width: 390, height: 844 },
    });
    const invited = await phone.newPage();
    await invited.goto(path);
    await expect(invited.getByRole("heading", { name: "Join Tern Lane Fitting" })).toBeVisible();
    await own.close();
    await phone.close();
  } finally {
    await ended(application, "SIGTERM", 5000);
    await database.stop();
  }
});
