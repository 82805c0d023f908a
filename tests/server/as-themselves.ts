import { vi } from "vitest";
import type { Role } from "@/contract/people";
import { database } from "@/server/database";
import { createPerson } from "@/server/people";
import { signInWith } from "@/server/session";
import { forgetSessions, whoAsks } from "@/server/who";

/** Has the requests of a file's tests asked by whoever their session belongs to, as in the application. */
export async function asThemselves(): Promise<void> {
  const real = await vi.importActual<typeof import("@/server/who")>("@/server/who");
  vi.mocked(whoAsks).mockImplementation(real.whoAsks);
  vi.mocked(forgetSessions).mockImplementation(real.forgetSessions);
}

/** A new person of a workshop, signed in: the cookie of their session. */
export async function cookieOf(role: Role, workshopId: string, name: string): Promise<string> {
  const person = { name, email: `${name}@tests.invalid`, password: "long enough to be taken" };
  await createPerson(database(), workshopId, { ...person, role });
  const answer = await signInWith(
    new Request("http://127.0.0.1/api/session", { headers: { host: "127.0.0.1" } }),
    person,
  );
  const set = answer.headers.getSetCookie().map((one) => one.split(";")[0]);
  return set.join("; ");
}
