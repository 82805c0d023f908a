import { existsSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { SESSION } from "./session";

/** Before all others, while the runner has read their files: every browser of the tests begins with the owner's session. */
test("the application stands, and the demo is signed in to", async ({ request }) => {
  // The demo's jobs take ten seconds alone, and minutes on a machine that stands still.
  await expect.poll(() => existsSync(process.env.STAND_READY!), { timeout: 240_000 }).toBe(true);
  const answer = await request.post("/api/session/demo", { data: { role: "owner" } });
  await expect(answer).toBeOK();
  await request.storageState({ path: SESSION });
});
