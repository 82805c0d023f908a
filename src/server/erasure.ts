import type { Knex } from "knex";
import { transaction } from "./database";

/** Days that a deleted job can be brought back, before it is erased with all that belongs to it. */
export const KEPT_DAYS = 30;
const DAY_MS = 86_400_000;

export interface DeletedJob {
  id: string;
  name: string;
  deletedAt: Date;
  /** Whoever deleted it; empty where that is not on record. */
  by: string;
}

/** Deleted jobs of a workshop that can be brought back, the last deleted first. */
export async function deletedJobs(db: Knex, workshopId: string): Promise<DeletedJob[]> {
  const rows = (await db("jobs")
    .where({ workshop_id: workshopId })
    .whereNotNull("deleted_at")
    .orderBy("deleted_at", "desc")
    .limit(200)
    .select("id", "name", "deleted_at as deletedAt")) as Omit<DeletedJob, "by">[];
  const changes = (await db("job_changes")
    .whereIn(
      "job_id",
      rows.map(({ id }) => id),
    )
    .andWhere({ what: "deleted" })
    .orderBy("id")
    .select("job_id", "name")) as { job_id: string; name: string }[];
  const by = new Map(changes.map(({ job_id, name }) => [job_id, name]));
  return rows.map((row) => ({ ...row, by: by.get(row.id) ?? "" }));
}

/** Erases jobs with everything that belongs to them: test runs, readings, files, photos, revisions, links and history. */
async function erase(tx: Knex, jobs: string[]): Promise<void> {
  const ids = async (table: string, column: string, of: string[]): Promise<string[]> =>
    ((await tx(table).whereIn(column, of).select("id")) as { id: string }[]).map(({ id }) => id);
  const runs = await ids("test_runs", "job_id", jobs);
  const imports = await ids("test_run_imports", "test_run_id", runs);
  const readings = tx("test_run_readings").whereIn("test_run_id", runs).select("id");
  await tx("test_run_reading_history").whereIn("reading_id", readings).delete();
  await tx("test_run_import_chunks").whereIn("import_id", imports).delete();
  for (const table of ["test_run_readings", "test_run_imports", "test_run_photos"])
    await tx(table).whereIn("test_run_id", runs).delete();
  for (const table of ["test_runs", "job_photos", "job_requirements", "job_revisions", "customer_links", "job_changes"])
    await tx(table).whereIn("job_id", jobs).delete();
  await tx("jobs").whereIn("id", jobs).delete();
}

/** Erases a deleted job at once. Returns whether there was one. */
export async function eraseJob(db: Knex, id: string): Promise<boolean> {
  return transaction(db, async (tx) => {
    const found: unknown = await tx("jobs").where({ id }).whereNotNull("deleted_at").forUpdate().first("id");
    if (found) await erase(tx, [id]);
    return found !== undefined;
  });
}

/** Erases jobs that were deleted before a moment: one after the other, so that no other work waits long. Returns how many. */
export async function purgeJobs(db: Knex, before = new Date(Date.now() - KEPT_DAYS * DAY_MS)): Promise<number> {
  const old = (await db("jobs").where("deleted_at", "<", before).select("id")) as { id: string }[];
  let purged = 0;
  for (const { id } of old) if (await eraseJob(db, id)) purged++;
  return purged;
}

/** Photos that are erased at once, each some 300 kB. */
const PHOTOS_AT_ONCE = 100;

/**
 * Erases photos that were sent before a moment and that no step of their job, nor of one of its named revisions, refers to:
 * until then a step that was taken back can be brought back with them. Returns how many.
 */
export async function purgePhotos(db: Knex, before = new Date(Date.now() - KEPT_DAYS * DAY_MS)): Promise<number> {
  const referring = (table: string, job: string) =>
    db(table)
      .select(db.raw("1"))
      .whereRaw("?? = job_photos.job_id", [job])
      .andWhereRaw("document LIKE CONCAT('%', job_photos.id, '%')");
  let purged = 0;
  for (let round = PHOTOS_AT_ONCE; round === PHOTOS_AT_ONCE; purged += round)
    round = await db("job_photos")
      .where("created_at", "<", before)
      .whereNotExists(referring("jobs", "jobs.id"))
      .whereNotExists(referring("job_revisions", "job_revisions.job_id"))
      .limit(PHOTOS_AT_ONCE)
      .delete();
  return purged;
}

/** Drops what has run out: sessions, tries, codes, and invitations that were used or are out of date. */
export async function sweepPeople(db: Knex, now = new Date()): Promise<void> {
  await db("sessions").where("expires_at", "<", now).delete();
  await db("verifications").where("expires_at", "<", now).delete();
  await db("beginning_codes").where("expires_at", "<", now).delete();
  await db("attempts").where("expire", "<", now.getTime()).delete();
  await db("invitations").where("expires_at", "<", now).orWhereNotNull("used_at").delete();
}
