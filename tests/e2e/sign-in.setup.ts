import { request, type FullConfig } from "@playwright/test";
import { SESSION } from "./session";

/** Signs in to the demo once: every browser of the tests begins with its owner's session. */
export default async function signIn(config: FullConfig): Promise<void> {
  const { baseURL } = config.projects[0]!.use;
  const context = await request.newContext({ baseURL });
  const answer = await context.post("/api/session/demo", { data: { role: "owner" } });
  if (!answer.ok()) throw new Error(`signing in was answered ${answer.status()}: ${await answer.text()}`);
  await context.storageState({ path: SESSION });
  await context.dispose();
}
