import { database } from "./database";
import type { Who } from "./who";

/** What the id of an address names: it has to be of the workshop of whoever asks. */
export type Owned = "job" | "part" | "testRun";

/** Whether something is the workshop's own, deleted or not. */
export async function owns({ workshopId }: Who, of: Owned, id: string): Promise<boolean> {
  const db = database();
  const own = { workshop_id: workshopId };
  const found: unknown =
    of === "testRun"
      ? await db("test_runs")
          .join("jobs", "jobs.id", "test_runs.job_id")
          .where({ ...own, "test_runs.id": id })
          .first("test_runs.id")
      : await db(of === "job" ? "jobs" : "parts")
          .where({ ...own, id })
          .first("id");
  return found !== undefined;
}
