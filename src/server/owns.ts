import type { Knex } from "knex";
import { database } from "./database";
import type { Who } from "./who";

/** Tables whose rows belong to a workshop by themselves, by what an address calls them. */
const TABLES = { job: "jobs", part: "parts", person: "people", invitation: "invitations" } as const;
const DELETABLE: readonly Owned[] = ["job", "part"];

/** What the id of an address names: it has to be of the workshop of whoever asks. */
export type Owned = keyof typeof TABLES | "testRun";

/** A test run belongs to the workshop of its job, and is gone with it. */
function testRuns(db: Knex, workshopId: string, deletedToo: boolean) {
  const found = db("test_runs")
    .join("jobs", "jobs.id", "test_runs.job_id")
    .where("jobs.workshop_id", workshopId)
    .whereNull("jobs.deleted_at");
  return deletedToo ? found : found.whereNull("test_runs.deleted_at");
}

/** Whether something is the workshop's own; what was deleted is not there but for who asks for it. */
export async function owns({ workshopId }: Who, of: Owned, id: string, deletedToo = false): Promise<boolean> {
  const db = database();
  if (of === "testRun")
    return (await testRuns(db, workshopId, deletedToo).where("test_runs.id", id).first("test_runs.id")) !== undefined;
  const found = db(TABLES[of]).where({ workshop_id: workshopId, id });
  if (!deletedToo && DELETABLE.includes(of)) found.whereNull("deleted_at");
  return (await found.first("id")) !== undefined;
}
