import { deleted, handler, ofTestRun } from "@/server/handler";
import { missingTestRun } from "@/server/test-run-handler";
import { restoreTestRun } from "@/server/test-runs";
import { asAllowed } from "@/server/rights";

/** Brings a deleted test run back. */
export const POST = handler<{ id: string }>(deleted(ofTestRun("measure")), async (_, { id }, who) =>
  (await asAllowed(who, "measure", (tx) => restoreTestRun(tx, id)))
    ? new Response(null, { status: 204 })
    : missingTestRun(),
);
