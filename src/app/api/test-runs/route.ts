import { database } from "@/server/database";
import { handler } from "@/server/door";
import { listTestRuns } from "@/server/test-runs";

/** Every test run of the workshop, for what was predicted against what happened. */
export const GET = handler(async () => Response.json({ testRuns: await listTestRuns(database(), null) }));
