import { database } from "@/server/database";
import { handler } from "@/server/handler";
import { testRunsOfWorkshop } from "@/server/test-runs";

/** Every test run of the workshop, for what was predicted against what happened. */
export const GET = handler({ may: "look" }, async (_, __, { workshopId }) =>
  Response.json({ testRuns: await testRunsOfWorkshop(database(), workshopId) }),
);
