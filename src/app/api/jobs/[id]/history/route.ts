import { database } from "@/server/database";
import { handler, ofJob } from "@/server/handler";
import { historyOf } from "@/server/job-history";

/** What was done to a job, by whom and when. */
export const GET = handler<{ id: string }>(ofJob("look"), async (_, { id }) =>
  Response.json({ changes: await historyOf(database(), id) }),
);
