import { packReadings } from "@/core/applications/test-run/log/packed";
import { trialHandler } from "@/server/trial-door";
import { logOfTrial } from "@/server/trials";

/** The whole log as packed bytes, for the page's worker. */
export const GET = trialHandler(
  async (_, trial, db) =>
    new Response(packReadings(await logOfTrial(db, trial.id)), {
      headers: { "content-type": "application/octet-stream", "cache-control": "no-store" },
    }),
);
