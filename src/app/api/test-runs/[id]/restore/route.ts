import { database } from "@/server/database";
import { deleted, handler, ofTestRun } from "@/server/handler";
import { missingTestRun } from "@/server/test-run-handler";
import { restoreTestRun } from "@/server/test-runs";

/** Brings a deleted test run back. */
export const POST = handler<{ id: string }>(deleted(ofTestRun("measure")), async (_, { id }) =>
  (await restoreTestRun(database(), id)) ? new Response(null, { status: 204 }) : missingTestRun(),
);
