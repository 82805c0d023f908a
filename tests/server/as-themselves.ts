import { vi } from "vitest";
import { forgetSessions, whoAsks } from "@/server/who";

/** Has the requests of a file's tests asked by whoever their session belongs to, as in the application. */
export async function asThemselves(): Promise<void> {
  const real = await vi.importActual<typeof import("@/server/who")>("@/server/who");
  vi.mocked(whoAsks).mockImplementation(real.whoAsks);
  vi.mocked(forgetSessions).mockImplementation(real.forgetSessions);
}
