import { sameDesign } from "../core/document/same-design";
import { say } from "../core/messages/say";
import { Refusal } from "./refusal";
import { mayNow, needsMay } from "./rights";
import type { Knex } from "knex";
import { v7 as uuid } from "uuid";
import { readJob, type Job } from "../core/document/schema";
import { CORE_VERSION, summarySchema, type Summary } from "../core/assessment/verdicts/summary";
import { beginningOf } from "../core/units/text";
import { parsed } from "./json-column";
import { transaction } from "./database";
import { changedParts, note, type Author, type What } from "./job-history";
import { bytesOfPhotos, copyPhotos } from "./pictures/job-photos";
import { needRoom } from "./quotas";
import { workOut, workOutLater } from "./verdict-queue";

export const PAGE_SIZE = 25;

export interface StoredJob {
  id: string;
  revision: number;
  job: Job;
  updatedAt: Date;
}

export interface ListedJob {
  id: string;
  name: string;
  place: string;
  notation: Job["notation"];
  /** Null while the verdicts of what was saved last are being worked out. */
  summary: Summary | null;
  updatedAt: Date;
}

/** A job whose row this Chillbank cannot read: it is named, and the others are shown. */
export interface UnreadableJob {
  id: string;
  name: string;
}

export type Saved =
  | { outcome: "saved"; revision: number; updatedAt: Date }
  | { outcome: "changed-elsewhere"; current: StoredJob }
  | { outcome: "missing" };

interface Row {
  id: string;
  revision: number;
  document: unknown;
  summary: unknown;
  updated_at: Date;
}

function documentOf(row: Pick<Row, "id" | "document">): Job {
  const read = readJob(parsed(row.document));
  if (!read.ok)
    throw new Error(`stored job ${row.id} is not readable: ${read.faults[0]?.path} ${read.faults[0]?.message}`);
  return read.job;
}

const stored = (row: Row): StoredJob => ({
  id: row.id,
  revision: row.revision,
  job: documentOf(row),
  updatedAt: row.updated_at,
});

/** The columns that a document is found by. */
const foundBy = (job: Job) => ({
  document: JSON.stringify(job),
  name: job.name,
  search_text: beginningOf(`${job.name} ${job.brief.place} ${job.brief.wording}`, 6000),
});

/** The columns of a job that is new here: its document, and verdicts that no core has worked out yet (verdict-queue.ts). */
export const newColumns = (job: Job) => ({ ...foundBy(job), summary: JSON.stringify(null), core_version: 0 });

/** One page of a workshop's jobs whose name, place or wording holds every word of `query`, last changed first. */
export async function listJobs(
  db: Knex,
  workshopId: string,
  { query, page }: { query: string; page: number },
): Promise<{ rows: ListedJob[]; unreadable: UnreadableJob[]; total: number }> {
  const matching = db("jobs").where({ workshop_id: workshopId }).whereNull("deleted_at");
  for (const word of query.trim().split(/\s+/).filter(Boolean).slice(0, 10)) {
    matching.andWhere("search_text", "like", `%${word.replace(/[\\%_]/g, "\\$&")}%`);
  }
  const [{ total }] = (await matching.clone().count({ total: "*" })) as [{ total: number }];
  const rows: (Row & { name: string; core_version: number })[] = await matching
    .select("id", "name", "document", "summary", "core_version", "updated_at", "revision")
    .orderBy([
      { column: "updated_at", order: "desc" },
      { column: "id", order: "desc" },
    ])
    .limit(PAGE_SIZE)
    .offset((page - 1) * PAGE_SIZE);
  const unreadable: UnreadableJob[] = [];
  const list = rows.flatMap((row): ListedJob[] => {
    const document = readJob(unparsed(row.document));
    const summary = summarySchema
      .nullable()
      .safeParse(row.core_version === CORE_VERSION ? unparsed(row.summary) : null);
    if (!document.ok || !summary.success) {
      unreadable.push({ id: row.id, name: row.name });
      return [];
    }
    const { brief, notation } = document.job;
    const { id, name, updated_at: updatedAt } = row;
    return [{ id, name, place: brief.place, notation, summary: summary.data as Summary | null, updatedAt }];
  });
  return { total: Number(total), rows: list, unreadable };
}

/** A JSON column, or undefined where it holds none. */
function unparsed(column: unknown): unknown {
  try {
    return parsed(column);
  } catch {
    return undefined;
  }
}

export async function getJob(db: Knex, id: string): Promise<StoredJob | null> {
  const row = await db<Row>("jobs").where({ id }).whereNull("deleted_at").first();
  return row ? stored(row) : null;
}

/** Makes a job in the author's workshop, with the photos of the job that it is a copy of. Its verdicts follow (verdict-queue.ts). */
export async function createJob(
  db: Knex,
  author: Author,
  job: Job,
  { now = new Date(), what = "made" as What, photosOf }: { now?: Date; what?: What; photosOf?: string } = {},
): Promise<{ id: string; revision: number }> {
  await needRoom(db, author.workshopId, "jobs");
  if (photosOf) await needRoom(db, author.workshopId, "bytes", await bytesOfPhotos(db, photosOf));
  const id = uuid();
  await transaction(db, async (tx) => {
    await needsMay(tx, author, "design");
    const columns = { ...newColumns(job), created_at: now, updated_at: now };
    await tx("jobs").insert({ id, workshop_id: author.workshopId, revision: 1, ...columns });
    if (photosOf) await copyPhotos(tx, photosOf, id);
    await note(tx, author, { jobId: id, what, revision: 1 });
  });
  workOutLater(db, id);
  return { id, revision: 1 };
}

/**
 * Saves a system over the revision it was read at. Where another window has saved since, nothing is written and what
 * stands there now comes back. Throws a refusal where its author may not change what the system is, and did. Its verdicts
 * follow (verdict-queue.ts).
 */
export async function saveJob(
  db: Knex,
  author: Author,
  { id, revision, job }: { id: string; revision: number; job: Job },
): Promise<Saved> {
  const updatedAt = new Date();
  // Worked out by no core yet.
  const columns = { ...foundBy(job), core_version: 0 };
  const saved = await transaction(db, async (tx) => {
    const standing = () => tx("jobs").where({ id, revision }).whereNull("deleted_at");
    const next = revision + 1;
    // What stands is held, so that what is compared with it is what is written over.
    const before = (await standing().forUpdate().first("document")) as Pick<Row, "document"> | undefined;
    if (!before) return false;
    const document = unparsed(before.document);
    if (!(await mayNow(tx, author, "design"))) await needsSameDesign(tx, author, document, job);
    await standing().update({ ...columns, revision: next, updated_at: updatedAt });
    const parts = changedParts(document, JSON.parse(columns.document));
    await note(tx, author, { jobId: id, what: "changed", parts, revision: next }, updatedAt);
    return true;
  });
  if (saved) workOutLater(db, id);
  if (saved) return { outcome: "saved", revision: revision + 1, updatedAt };
  const current = await getJob(db, id);
  return current ? { outcome: "changed-elsewhere", current } : { outcome: "missing" };
}

/** Throws a refusal where somebody who may measure changes what the system is. */
async function needsSameDesign(tx: Knex, author: Author, standing: unknown, next: Job): Promise<void> {
  await needsMay(tx, author, "measure");
  const read = readJob(standing);
  if (!read.ok || !sameDesign(read.job, next)) throw new Refusal(403, say("server.people.measureOnly"));
}

/**
 * Takes a job off the list; `restoreJob` brings it back. Its links are withdrawn for good: whoever brings the job back has not
 * said that its customer may look at it again. Returns whether there was one.
 */
export async function deleteJob(db: Knex, author: Author, id: string): Promise<boolean> {
  const now = new Date();
  return transaction(db, async (tx) => {
    await needsMay(tx, author, "design");
    const gone = await tx("jobs").where({ id }).whereNull("deleted_at").update({ deleted_at: now });
    if (gone !== 1) return false;
    await tx("customer_links").where({ job_id: id }).whereNull("withdrawn_at").update({ withdrawn_at: now });
    await note(tx, author, { jobId: id, what: "deleted" }, now);
    return true;
  });
}

export async function restoreJob(db: Knex, author: Author, id: string): Promise<boolean> {
  return transaction(db, async (tx) => {
    await needsMay(tx, author, "design");
    const back = await tx("jobs").where({ id }).whereNotNull("deleted_at").update({ deleted_at: null });
    if (back === 1) await note(tx, author, { jobId: id, what: "restored" });
    return back === 1;
  });
}

/** A copy under the name "… copy", or null where there is nothing to copy. */
export async function duplicateJob(
  db: Knex,
  author: Author,
  id: string,
): Promise<{ id: string; revision: number } | null> {
  const source = await getJob(db, id);
  if (!source) return null;
  const copy = { ...source.job, name: `${beginningOf(source.job.name, 114)} copy` };
  return createJob(db, author, copy, { what: "copied", photosOf: id });
}

/** Makes the stored verdicts anew where the core has changed since they were stored. */
export async function refreshSummaries(db: Knex): Promise<number> {
  const stale: Row[] = await db("jobs").whereNot("core_version", CORE_VERSION).select("id", "document");
  for (const row of stale) {
    await workOut(db, row.id);
  }
  return stale.length;
}
