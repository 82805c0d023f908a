import type { Knex } from "knex";
import type { ListedRevision, NewRevision } from "@/contract/revisions";
import { readJob, type Job } from "../core/document/schema";
import { requirementSchema, type Requirement } from "../core/applications/options/target";
import { summarySchema, type Summary } from "../core/assessment/verdicts/summary";
import { say } from "../core/messages/say";
import { parsed } from "./json-column";
import { Refusal } from "./refusal";
import { summaryInThread } from "@/server/summaries";

/** The target of a job as it was last kept, or null; one that this Chillbank cannot read counts as none. */
export async function getRequirement(db: Knex, jobId: string): Promise<Requirement | null> {
  const row = await db<{ job_id: string; requirement: unknown }>("job_requirements")
    .where({ job_id: jobId })
    .first("requirement");
  const read = requirementSchema.safeParse(row ? parsed(row.requirement) : null);
  return read.success ? read.data : null;
}

export async function keepRequirement(db: Knex, jobId: string, requirement: Requirement): Promise<void> {
  await db("job_requirements")
    .insert({ job_id: jobId, requirement: JSON.stringify(requirement), updated_at: new Date() })
    .onConflict("job_id")
    .merge(["requirement", "updated_at"]);
}

interface Row {
  id: string;
  job_id: string;
  name: string;
  promise: string;
  document: unknown;
  summary: unknown;
  created_at: Date;
}

const living = (db: Knex, jobId: string) => db<Row>("job_revisions").where("job_id", jobId).whereNull("deleted_at");

/** Revisions of a job, the newest first. */
export async function listRevisions(db: Knex, jobId: string): Promise<ListedRevision[]> {
  const rows = await living(db, jobId)
    .select("id", "name", "promise", "summary", "created_at")
    .orderBy([
      { column: "created_at", order: "desc" },
      { column: "id", order: "desc" },
    ]);
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    promise: row.promise,
    summary: summarySchema.parse(parsed(row.summary)) as Summary,
    createdMs: row.created_at.getTime(),
  }));
}

/** Names a state of a job. Sent twice with one id it is kept once; an id of another job's revision is refused. */
export async function keepRevision(
  db: Knex,
  jobId: string,
  { id, name, promise }: NewRevision,
  job: Job,
): Promise<void> {
  await db("job_revisions")
    .insert({
      id,
      job_id: jobId,
      name,
      promise,
      document: JSON.stringify(job),
      summary: JSON.stringify(await summaryInThread(job)),
      created_at: new Date(),
    })
    .onConflict("id")
    .merge(["id"]);
  const { job_id } = (await db("job_revisions").where({ id }).first("job_id")) as { job_id: string };
  if (job_id !== jobId) throw new Refusal(409, say("server.id.taken"));
}

/** The document of a revision, or null. */
export async function revisionJob(db: Knex, jobId: string, id: string): Promise<Job | null> {
  const row = await living(db, jobId).andWhere({ id }).first("document");
  if (!row) return null;
  const read = readJob(parsed(row.document));
  return read.ok ? read.job : null;
}

export async function changeRevision(db: Knex, jobId: string, id: string, deleted: boolean): Promise<boolean> {
  const found = db("job_revisions").where({ job_id: jobId, id });
  return (await found.update({ deleted_at: deleted ? new Date() : null })) === 1;
}
