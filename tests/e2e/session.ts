import { readFileSync } from "node:fs";
import { join } from "node:path";

/** File with the cookies of the demo's owner. */
export const SESSION = join(import.meta.dirname, "../../.local/e2e-session.json");

/** The owner's cookies as a header, for requests that no browser makes. */
export function sessionCookie(): string {
  const { cookies } = JSON.parse(readFileSync(SESSION, "utf8")) as { cookies: { name: string; value: string }[] };
  return cookies.map(({ name, value }) => `${name}=${value}`).join("; ");
}
