import { vi } from "vitest";
import { forgetSessions, whoAsks } from "@/server/who";
import { AUTHOR, OWNER_ID, WORKSHOP } from "./own-database";

/*
 * Routes are tried as an owner of the tests' own workshop asks them, so that a test says what it is about; who may ask is
 * tested with real sessions (access.test.ts, sign-in.test.ts, by `asThemselves`). Each file begins with the stand-in.
 */
vi.mock("@/server/who", () => {
  // The same for all files of a process: a route that one of them read asks this one for the next as well.
  const held = globalThis as { standInWho?: object };
  return (held.standInWho ??= { forgetSessions: vi.fn(), whoAsks: vi.fn() });
});

vi.mocked(forgetSessions).mockReset();
vi.mocked(whoAsks).mockReset().mockResolvedValue({
  personId: OWNER_ID,
  name: AUTHOR.name,
  email: "stand-in@tests.invalid",
  workshopId: WORKSHOP,
  role: "owner",
});
