import { packReadings } from "@/core/applications/test-run/log/packed";
import { testRunHandler } from "@/server/test-run-handler";
import { logOfTestRun } from "@/server/test-runs";

/** The whole log as packed bytes, for the page's worker. */
export const GET = testRunHandler(
  "look",
  async (_, testRun, db) =>
    new Response(packReadings(await logOfTestRun(db, testRun.id)), {
      headers: { "content-type": "application/octet-stream", "cache-control": "no-store" },
    }),
);
