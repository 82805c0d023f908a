import { vi } from "vitest";
import { AUTHOR, WORKSHOP } from "./own-database";

/*
 * Routes are tried as an owner of the tests' own workshop asks them, so that a test says what it is about; who may ask is
 * tested with real sessions (access.test.ts, sign-in.test.ts).
 */
vi.mock("@/server/who", () => ({
  forgetSessions: () => undefined,
  whoAsks: vi.fn(() =>
    Promise.resolve({
      personId: "0190aaaa-0000-7000-8000-000000000002",
      name: AUTHOR.name,
      email: "owner@tests.invalid",
      workshopId: WORKSHOP,
      role: "owner",
    }),
  ),
}));
