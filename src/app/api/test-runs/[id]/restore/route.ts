import { database } from "@/server/database";
import { handler } from "@/server/door";
import { missingTestRun } from "@/server/test-run-door";
import { restoreTestRun } from "@/server/test-runs";

/** Brings a deleted test run back. */
export const POST = handler<{ id: string }>({ may: "measure" }, async (_, { id }) =>
  (await restoreTestRun(database(), id)) ? new Response(null, { status: 204 }) : missingTestRun(),
);
